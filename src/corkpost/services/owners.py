"""The Owners page: each owner's account as a statement, what they paid from their own pocket, and a
partnership's profit shared."""

from datetime import date

from corkpost.core.books import Books
from corkpost.core.own_pocket import OwnPocket, plan_own_pocket
from corkpost.core.owner_accounts import OwnerAccount, owner_statements
from corkpost.core.sharing import Sharing, Terms, plan_sharing, sharing
from corkpost.services.entries import Preview, preview_plan
from corkpost.services.posting import PostRequest, post
from corkpost.services.rights import Person
from corkpost.services.workplace import Posted, Workplace


def statements(
    place: Workplace, person: Person, client_code: str, first: date, last: date
) -> tuple[Books, tuple[OwnerAccount, ...]]:
    """The owners' accounts between two days, both included."""
    books = place.ledger(person, client_code).books
    return books, owner_statements(books, first, last)


def shared(place: Workplace, person: Person, client_code: str, terms: Terms) -> Sharing:
    """The year's profit up to a day, shared among the partners."""
    return sharing(place.ledger(person, client_code).books, terms)


def preview_sharing(
    place: Workplace, person: Person, client_code: str, terms: Terms, as_at: date | None = None
) -> Preview:
    """What entering the shares would post and move."""
    ledger = place.ledger(person, client_code)
    return preview_plan(ledger, person, lambda ledger: plan_sharing(ledger.books, terms), as_at)


def post_sharing(
    place: Workplace, person: Person, client_code: str, terms: Terms, post_request: PostRequest
) -> Posted:
    """Enter the shares of the profit on the partners' accounts."""
    return post(
        place, person, client_code, lambda ledger: plan_sharing(ledger.books, terms), post_request
    )


def preview_own_pocket(
    place: Workplace,
    person: Person,
    client_code: str,
    paid: OwnPocket,
    as_at: date | None = None,
) -> Preview:
    """What recording it would post and move."""
    ledger = place.ledger(person, client_code)
    return preview_plan(ledger, person, lambda ledger: plan_own_pocket(ledger.books, paid), as_at)


def post_own_pocket(
    place: Workplace, person: Person, client_code: str, paid: OwnPocket, post_request: PostRequest
) -> Posted:
    """Record what an owner paid from their own pocket."""
    return post(
        place, person, client_code, lambda ledger: plan_own_pocket(ledger.books, paid), post_request
    )
