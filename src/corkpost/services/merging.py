"""Making two parties one, picked by hand."""

from datetime import date

from corkpost.core.merging import plan_merge
from corkpost.services.entries import Preview, preview_plan
from corkpost.services.posting import PostRequest, post
from corkpost.services.rights import Person
from corkpost.services.workplace import Posted, Workplace


def preview_merge(
    place: Workplace,
    person: Person,
    client_code: str,
    keep: str,
    gone: str,
    as_at: date | None = None,
) -> Preview:
    """What reading *gone* as *keep* would move."""
    ledger = place.ledger(person, client_code)
    return preview_plan(ledger, person, lambda ledger: plan_merge(ledger.books, keep, gone), as_at)


def merge(
    place: Workplace,
    person: Person,
    client_code: str,
    keep: str,
    gone: str,
    post_request: PostRequest,
) -> Posted:
    """Read *gone* as *keep* from now on."""
    return post(
        place,
        person,
        client_code,
        lambda ledger: plan_merge(ledger.books, keep, gone),
        post_request,
    )
