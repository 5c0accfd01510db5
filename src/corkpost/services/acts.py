"""Acts that can be handed in for approval: previewed, and posted, from what was asked for."""

from collections.abc import Callable
from datetime import date
from typing import NamedTuple

from corkpost.formats.acts import (
    AnyAct,
    ByHandAct,
    EntryAct,
    OwnPocketAct,
    PointAct,
    SharingAct,
    UndoAct,
)
from corkpost.services import entries, owners, review, takings, transactions
from corkpost.services.entries import Preview
from corkpost.services.posting import PostRequest
from corkpost.services.rights import Person
from corkpost.services.takings import Sold
from corkpost.services.transactions import Picked
from corkpost.services.workplace import Posted, Workplace


class Way(NamedTuple):
    """An act on the books as they stand: what it would post at a day, and posting it."""

    preview: Callable[[date | None], Preview]
    post: Callable[[PostRequest], Posted]


def way_of(place: Workplace, person: Person, client: str, act: AnyAct) -> Way:
    """The act ready to be previewed or posted. Raises BadEntry for what can't be read in it."""
    at = (place, person, client)
    if isinstance(act, PointAct):
        how = (act.point, act.route, act.settings)
        return Way(
            lambda day: _of_point(review.preview(*at, *how, day)),
            lambda post_request: review.correct(*at, *how, post_request),
        )
    if isinstance(act, ByHandAct):
        picked = Picked(act.route, act.transaction, tuple(act.items), dict(act.settings))
        return Way(
            lambda day: transactions.preview_by_hand(*at, picked, day),
            lambda post_request: transactions.correct_by_hand(*at, picked, post_request),
        )
    if isinstance(act, UndoAct):
        return Way(
            lambda day: entries.preview_undo(*at, act.number, day),
            lambda post_request: entries.undo(*at, act.number, post_request),
        )
    books = place.ledger(person, client).books
    if isinstance(act, EntryAct):
        request = entries.request_in(act.entry, books, act.near)
        return Way(
            lambda day: entries.preview_entry(*at, request, day),
            lambda post_request: entries.post_entry(*at, request, post_request),
        )
    currency = books.client.currency
    if isinstance(act, OwnPocketAct):
        paid = act.paid(currency)
        return Way(
            lambda day: owners.preview_own_pocket(*at, paid, day),
            lambda post_request: owners.post_own_pocket(*at, paid, post_request),
        )
    if isinstance(act, SharingAct):
        terms = act.terms(currency)
        return Way(
            lambda day: owners.preview_sharing(*at, terms, day),
            lambda post_request: owners.post_sharing(*at, terms, post_request),
        )
    sold = Sold(act.sold(currency), act.sales, act.tax_code or None)
    return Way(
        lambda day: takings.preview(*at, sold, day),
        lambda post_request: takings.post_days(*at, sold, post_request),
    )


def _of_point(one: review.Prepared) -> Preview:
    if one.plan is None or one.effect is None:
        raise review.NothingPosted(one.option.route)
    return Preview(one.plan, one.effect, one.t_accounts, one.held, one.opens)


def preview(
    place: Workplace, person: Person, client: str, act: AnyAct, as_at: date | None = None
) -> Preview:
    """What the act would post and move on the books as they stand. Raises what it is refused for."""
    return way_of(place, person, client, act).preview(as_at)


def perform(
    place: Workplace, person: Person, client: str, act: AnyAct, post_request: PostRequest
) -> Posted:
    """Post the act."""
    return way_of(place, person, client, act).post(post_request)
