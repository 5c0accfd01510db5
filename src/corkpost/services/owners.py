"""The Owners page: each owner's account as a statement, and a partnership's profit shared."""

from datetime import date

from corkpost.core.books import Books
from corkpost.core.owner_accounts import OwnerAccount, owner_statements
from corkpost.core.sharing import Sharing, Terms, sharing
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace


def statements(
    workplace: Workplace, person: Person, client_code: str, first: date, last: date
) -> tuple[Books, tuple[OwnerAccount, ...]]:
    """The owners' accounts between two days, both included."""
    books = workplace.ledger(person, client_code).books
    return books, owner_statements(books, first, last)


def shared(workplace: Workplace, person: Person, client_code: str, terms: Terms) -> Sharing:
    """The year's profit up to a day, shared among the partners."""
    return sharing(workplace.ledger(person, client_code).books, terms)
