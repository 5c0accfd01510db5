"""theirs-stands: our correction is taken back, and what the client entered stands in its place: it puts
right what ours did, and settles what ours settled (handbook, worked example 20)."""

from collections.abc import Mapping

from corkpost.core.amendments import Amending
from corkpost.core.books import AgreementRow, Allocation, Books, Transaction
from corkpost.core.change import AllocationWriter, ChangeKind, Plan
from corkpost.core.open_items import open_items
from corkpost.core.points import Point
from corkpost.core.refusals import NothingToDo
from corkpost.core.routes import Option, Route, Settings
from corkpost.core.undo import inverse_rows, mirrored, refuse_depended_on

ROUTE = Route(
    "theirs-stands",
    did="Our entry is taken back: it is in your books by an entry of yours.",
    means="Yours stands. Nothing to enter.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    names = " and ".join(point.named("theirs"))
    ours = " and ".join(point.named("ours"))
    title = f"Take {ours} of ours back; {names} stands in its place"
    return (Option(ROUTE.id, {}, title, f"The client entered it too, as {names}."),)


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """The mirror of each entry of ours, and theirs in its place. Raises NothingToDo, DependedOn."""
    own = [books.transaction(name) for name in point.named("ours")]
    theirs = [books.transaction(name) for name in point.named("theirs")]
    number = own[0].change
    if number is None or any(entry.id in books.never_was for entry in own):
        raise NothingToDo("Ours is taken back already.")
    refuse_depended_on(books, number)
    place_of = {o.id: t for o, t in zip(own, theirs, strict=True)}
    back = mirrored(books, own)
    agreements: tuple[AgreementRow, ...] = inverse_rows(books, number)["agreements"]
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=back.mirrors,
        allocations=_settled(books, number, place_of, back.mirrors),
        agreements=(*agreements, *_agreed(books, number, place_of)),
        amendments=tuple(
            Amending(place_of[entry.id].id, "corrects", None, entry.corrects)
            for entry in own
            if entry.corrects and place_of[entry.id].corrects is None
        ),
        proposed_reason=options(books, point)[0].proposed_reason,
        notes=back.notes,
        prior_parts=back.prior_parts,
        about=(*point.named("ours"), *point.named("theirs")),
    )


def _settled(
    books: Books,
    number: int,
    place_of: Mapping[str, Transaction],
    mirrors: tuple[Transaction, ...],
) -> tuple[Allocation, ...]:
    """What ours settles is freed and settled by theirs, as far as theirs is open."""
    writer = AllocationWriter(books)
    items = open_items(books)
    left = {
        posted.id: sum(abs(items.open_now[i.key]) for i in items.by_transaction.get(posted.id, ()))
        for posted in place_of.values()
    }
    for name, theirs in place_of.items():
        for row in items.standing_on(name):
            writer.free(row)
            sides = [
                theirs if side == name else books.transaction(side)
                for side in (row.debit_transaction, row.credit_transaction)
            ]
            other = next(side for side in sides if side is not theirs)
            amount = min(row.amount, left[theirs.id])
            if amount and other.id not in place_of:
                left[theirs.id] -= amount
                writer.allocate(row.party, sides[0], sides[1], amount)
    for name, mirror in zip(place_of, mirrors, strict=True):
        writer.settle_each_other(books.transaction(name), mirror)
    return tuple(writer.rows)


def _agreed(
    books: Books, number: int, place_of: Mapping[str, Transaction]
) -> tuple[AgreementRow, ...]:
    """What our change agreed with the bank's lines, with the client's lines in place of ours."""
    groups: dict[str, list[AgreementRow]] = {}
    for row in books.tables.agreements:
        if row.change == number and not row.takes_apart:
            groups.setdefault(row.group, []).append(row)
    rows: list[AgreementRow] = []
    for name, members in groups.items():
        again = [_in_place(books, row, place_of) for row in members]
        if any(row.transaction in place_of for row in members) and None not in again:
            rows += [row._replace(group=f"new-{name}", change=None) for row in again if row]
    return tuple(rows)


def _in_place(
    books: Books, row: AgreementRow, place_of: Mapping[str, Transaction]
) -> AgreementRow | None:
    """The member with the client's line in place of ours; None where theirs has no such line."""
    theirs = place_of.get(row.transaction or "")
    if theirs is None:
        return row
    own = books.transaction(row.transaction or "")
    amount = next(line.amount for line in own.lines if line.number == row.line)
    for line in theirs.lines:
        if (line.account, line.amount) == (row.account, amount):
            return row._replace(transaction=theirs.id, line=line.number)
    return None
