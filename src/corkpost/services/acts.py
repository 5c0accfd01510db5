"""Acts that can be handed in for approval: previewed, and posted, from what was asked for."""

from datetime import date

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
from corkpost.services.posting import Deed
from corkpost.services.rights import Person
from corkpost.services.takings import Sold
from corkpost.services.transactions import Picked
from corkpost.services.workplace import Posted, Workplace


def preview(
    place: Workplace, person: Person, client: str, act: AnyAct, as_at: date | None = None
) -> Preview:
    """What the act would post and move on the books as they stand. Raises what it is refused for."""
    if isinstance(act, PointAct):
        one = review.preview(place, person, client, act.point, act.route, act.settings, as_at)
        if one.plan is None or one.effect is None:
            raise review.NothingPosted(act.route)
        return Preview(one.plan, one.effect, one.t_accounts, one.held, one.opens)
    if isinstance(act, ByHandAct):
        return transactions.preview_by_hand(place, person, client, _picked(act), as_at)
    if isinstance(act, UndoAct):
        return entries.preview_undo(place, person, client, act.number, as_at)
    books = place.ledger(person, client).books
    if isinstance(act, EntryAct):
        request = entries.request_in(act.entry, books, act.near)
        return entries.preview_entry(place, person, client, request, as_at)
    currency = books.client.currency
    if isinstance(act, OwnPocketAct):
        return owners.preview_own_pocket(place, person, client, act.paid(currency), as_at)
    if isinstance(act, SharingAct):
        return owners.preview_sharing(place, person, client, act.terms(currency), as_at)
    sold = Sold(act.sold(currency), act.sales, act.tax_code or None)
    return takings.preview(place, person, client, sold, as_at)


def perform(place: Workplace, person: Person, client: str, act: AnyAct, deed: Deed) -> Posted:
    """Post the act."""
    if isinstance(act, PointAct):
        return review.correct(place, person, client, act.point, act.route, act.settings, deed)
    if isinstance(act, ByHandAct):
        return transactions.correct_by_hand(place, person, client, _picked(act), deed)
    if isinstance(act, UndoAct):
        return entries.undo(place, person, client, act.number, deed)
    books = place.ledger(person, client).books
    if isinstance(act, EntryAct):
        request = entries.request_in(act.entry, books, act.near)
        return entries.post_entry(place, person, client, request, deed)
    currency = books.client.currency
    if isinstance(act, OwnPocketAct):
        return owners.post_own_pocket(place, person, client, act.paid(currency), deed)
    if isinstance(act, SharingAct):
        return owners.post_sharing(place, person, client, act.terms(currency), deed)
    sold = Sold(act.sold(currency), act.sales, act.tax_code or None)
    return takings.post_days(place, person, client, sold, deed)


def _picked(act: ByHandAct) -> Picked:
    return Picked(act.route, act.transaction, tuple(act.items), dict(act.settings))
