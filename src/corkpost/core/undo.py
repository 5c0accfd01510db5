"""Taking a change back by its inverse (handbook, section 7)."""

from collections.abc import Iterator, Sequence
from typing import Any, NamedTuple

from corkpost.core import row_kinds
from corkpost.core.bank.sides import bank_sides
from corkpost.core.books import (
    Allocation,
    Books,
    PartyAmendment,
    PostedChange,
    PriorPart,
    Transaction,
    opposite,
)
from corkpost.core.change import (
    AllocationWriter,
    ChangeKind,
    Plan,
    entry_of,
    new_entry,
)
from corkpost.core.dating import Dated, dated
from corkpost.core.kinds import PASSED_THROUGH_ROLES, EntryKind, TransactionKind
from corkpost.core.refusals import AlreadyTakenBack, DependedOn, UnknownName
from corkpost.core.tax import with_tax_dates


def plan_undo(books: Books, number: int) -> Plan:
    """The inverse of change *number*.

    Each entry's mirror is dated by the rule for corrections: on its entry's own day, or the first open
    one where that is barred. A year that is sealed to its end takes no inverse: that is for `checked`
    to say. Raises UnknownName, AlreadyTakenBack or DependedOn.
    """
    change = _standing(books, number)
    refuse_depended_on(books, number)
    entries = books.of_change(number)
    back = mirrored(books, entries)
    pairs = list(zip(entries, back.mirrors, strict=True))
    return Plan(
        kind=ChangeKind.UNDO,
        entries=back.mirrors,
        allocations=_inverse_allocations(books, number, pairs),
        **inverse_rows(books, number),
        proposed_reason=f"Takes back change {number}: {change.reason}",
        notes=back.notes,
        prior_parts=back.prior_parts,
        undoes=number,
        about=tuple(entry.id for entry in entries),
    )


def refuse_depended_on(books: Books, number: int) -> None:
    """Raises DependedOn where later changes rest on what the change did."""
    later = list(_resting_on(books, number))
    if later:
        raise DependedOn(number, later)


class Mirrored(NamedTuple):
    """Entries' mirrors, in their order. *notes*: where one is not on its entry's own day."""

    mirrors: tuple[Transaction, ...]
    notes: tuple[str, ...]
    prior_parts: tuple[PriorPart, ...]


def mirrored(books: Books, entries: Sequence[Transaction]) -> Mirrored:
    """The mirror of each entry, dated by the rule for corrections."""
    dates = [_dated(books, entry) for entry in entries]
    moved = any(e.posting_date != d.posting_date for e, d in zip(entries, dates, strict=True))
    notes = dict.fromkeys(note for dated in dates for note in dated.notes) if moved else ()
    return Mirrored(
        tuple(_mirror(e, d, i) for i, (e, d) in enumerate(zip(entries, dates, strict=True), 1)),
        tuple(notes),
        tuple(part for dated in dates for part in dated.prior_parts),
    )


def inverse_rows(books: Books, number: int) -> dict[str, Any]:
    """What takes back the rows of every kind that the change brought, by the fields of a plan."""
    found = {kind: kind.inverse(books, number) for kind in row_kinds.registry().values()}
    fields: dict[str, Any] = {kind.planned: rows for kind, rows in found.items() if kind.planned}
    more = {kind.name: rows for kind, rows in found.items() if rows and not kind.planned}
    return {**fields, "more": more}


def _merges_of(books: Books, number: int) -> list[PartyAmendment]:
    return list(_rows(books, "party_amendments", number))


def _rows(books: Books, kind: str, number: int) -> tuple[Any, ...]:
    return row_kinds.registry()[kind].of_change(books, number)


def _joins_merged(books: Books, number: int, later: int) -> bool:
    """Whether *later* settles what one of the parties that *number* made one owes with what the
    other does: taken apart they could not be settled with each other."""
    gone = {row.party for row in _merges_of(books, number)}
    if not gone:
        return False
    written = books.tables.written.lines
    control = books.control_accounts

    def sides(name: str) -> set[bool]:
        return {
            written.get((name, place), line.party or "") in gone
            for place, line in enumerate(books.transaction(name).lines)
            if line.account in control
        }

    return any(
        len(sides(row.debit_transaction) | sides(row.credit_transaction)) > 1
        for row in books.tables.allocations
        if row.change == later
    )


def _standing(books: Books, number: int) -> PostedChange:
    change = next((change for change in books.changes if change.number == number), None)
    if change is None:
        raise UnknownName("change", str(number))
    if number in books.undone:
        raise AlreadyTakenBack(f"Change {number} was taken back already; nothing of it stands.")
    if change.undoes is not None:
        raise AlreadyTakenBack(
            f"Change {number} takes back change {change.undoes}. To have that one again, "
            "choose its route again."
        )
    return change


def _dated(books: Books, entry: Transaction) -> Dated:
    if entry.kind is TransactionKind.CLOSING:
        return Dated(entry.posting_date, opposite(entry.lines), ())
    sealed = books.calendar.sealed_through
    if sealed and books.calendar.year_of(entry.posting_date).last_day <= sealed:
        lines = with_tax_dates(books, opposite(entry.lines), entry.posting_date)
        return Dated(entry.posting_date, lines, ())
    return dated(books, entry, opposite(entry.lines), day_is="the day of what it takes back")


def _mirror(entry: Transaction, correction: Dated, number: int) -> Transaction:
    kind = entry.entry_kind or EntryKind.CORRECTING
    mirror = entry_of(new_entry(number), correction.posting_date, kind, entry)
    if entry.kind is TransactionKind.CLOSING:
        mirror = mirror._replace(kind=entry.kind)
    return mirror._replace(lines=correction.lines, memo=f"Takes back {entry.id}", reverses=entry.id)


def _inverse_allocations(
    books: Books, number: int, pairs: list[tuple[Transaction, Transaction]]
) -> tuple[Allocation, ...]:
    writer = AllocationWriter(books)
    rows = [row for row in books.tables.allocations if row.change == number]
    for row in rows:
        if row.undoes is None:
            writer.free(row)
    for row in rows:
        if row.undoes is not None:
            freed = books.allocations[row.undoes]
            sides = [books.transaction(freed.debit_transaction)]
            sides.append(books.transaction(freed.credit_transaction))
            writer.allocate(freed.party, sides[0], sides[1], freed.amount)
    for entry, mirror in pairs:
        writer.settle_each_other(entry, mirror)
    return tuple(writer.rows)


def _resting_on(books: Books, number: int) -> Iterator[str]:
    """The later standing changes that could not be as they are without this one, in words."""
    own = {posted.id for posted in books.of_change(number)}
    rows = {row.id for row in books.tables.allocations if row.change == number}
    freed = _sides_freed(books, number)
    words = {(row.transaction, row.field) for row in _rows(books, "amendments", number)}
    words |= {(row.account, row.field) for row in _rows(books, "account_amendments", number)}
    words |= {(row.after or "", "read as") for row in _merges_of(books, number)}
    for later in books.changes:
        if later.number <= number or later.number in books.undone or later.undoes is not None:
            continue
        amends = {(r.transaction, r.field) for r in _rows(books, "amendments", later.number)}
        amends |= {(r.account, r.field) for r in _rows(books, "account_amendments", later.number)}
        amends |= {(r.party, "read as") for r in _merges_of(books, later.number)}
        agrees = any(
            row.transaction in own and row.group in bank_sides(books, row.account).groups
            for row in books.tables.agreements
            if row.change == later.number
        )
        joins = _joins_merged(books, number, later.number)
        rests = _rests_on_rows(books, number, later.number)
        if (
            agrees
            or joins
            or rests
            or amends & words
            or _needs(books, later.number, own, rows, freed)
        ):
            yield f"change {later.number} ({later.reason})"


def _rests_on_rows(books: Books, number: int, later: int) -> bool:
    """Whether a register's rows of *later* can't be without those of *number*, or take their place."""
    brought: set[str] = set()
    keys: set[str] = set()
    for kind, row in _register_rows(books, number):
        brought |= set(kind.brings(row))
        keys.add(f"{kind.name} {kind.key(row)}")
    return bool(keys) and any(
        brought & set(kind.rests_on(row)) or f"{kind.name} {kind.key(row)}" in keys
        for kind, row in _register_rows(books, later)
    )


def _register_rows(books: Books, number: int) -> Iterator[tuple[row_kinds.RowKind, Any]]:
    for kind in row_kinds.registry().values():
        if kind.keeps_all:
            for row in kind.of_change(books, number):
                yield kind, row


def _sides_freed(books: Books, number: int) -> set[str]:
    return {
        side
        for row in books.tables.allocations
        if row.change == number and row.undoes is not None
        for side in (row.debit_transaction, row.credit_transaction)
    }


def _needs(books: Books, later: int, own: set[str], rows: set[str], freed: set[str]) -> bool:
    answers = any(
        posted.corrects in own or posted.reverses in own or _passes_on(books, posted, own)
        for posted in books.of_change(later)
    )
    return answers or any(
        row.undoes in rows or {row.debit_transaction, row.credit_transaction} & (own | freed)
        for row in books.tables.allocations
        if row.change == later
    )


def _passes_on(books: Books, posted: Transaction, own: set[str]) -> bool:
    """Whether it takes on from a clearing account, or from hand, what one of *own* put there: its line
    names that entry."""
    return any(
        books.accounts[line.account].role in PASSED_THROUGH_ROLES
        and (line.description or "").partition(":")[0] in own
        for line in posted.lines
    )
