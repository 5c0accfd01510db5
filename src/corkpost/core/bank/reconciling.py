"""The sum of a reconciliation: what the books, what is outstanding and the statement come to.

Difference = statement closing balance - (ledger balance + payments not presented - receipts not
credited); it must be nil to finish (handbook, section 5).
"""

from collections.abc import Iterable
from datetime import date, timedelta
from typing import NamedTuple

from corkpost.core.bank.sides import (
    BankSides,
    Entry,
    EntryKey,
    Group,
    bank_sides,
    own_accounts,
)
from corkpost.core.books import Books
from corkpost.core.evidence.sums import MOST_CANDIDATES, exact_sets
from corkpost.core.money import Minor
from corkpost.core.statements import Statement, StatementLine

OLDEST_OUTSTANDING = timedelta(days=185)


class Start(NamedTuple):
    """How the books stand to the first statement's opening balance. *outstanding*: entries before it
    that the bank did not have yet. *off_by*: what the opening balance exceeds the rest by."""

    first_day: date
    outstanding: frozenset[EntryKey]
    off_by: Minor


class Reconciliation(NamedTuple):
    """The state of one statement's reconciliation.

    *not_presented* and *not_credited* are positive sums of the entries listed. *booked_later*: entries
    dated after the statement that it has already, in or (negative) out. *carried_in*: lines of earlier
    statements that are still not agreed. *closing* None where the statement gives none.
    """

    statement: Statement
    ledger: Minor
    outstanding: tuple[Entry, ...]
    not_presented: Minor
    not_credited: Minor
    booked_later: Minor
    should_be: Minor
    closing: Minor | None
    groups: tuple[Group, ...]
    unmatched: tuple[StatementLine, ...]
    carried_in: tuple[StatementLine, ...]
    start: Start

    @property
    def difference(self) -> Minor | None:
        """Nil when all is explained; None where the statement gives no closing balance."""
        return None if self.closing is None else self.closing - self.should_be

    @property
    def hindrances(self) -> tuple[str, ...]:
        """Why it can't be finished, in words without sums; none when it can."""
        found = []
        if self.closing is None:
            found.append("The statement gives no closing balance to compare with.")
        elif self.difference:
            found.append("The difference is not nil.")
        if self.unmatched or self.carried_in:
            found.append("There are statement lines that are not agreed.")
        if self.statement.off_by:
            found.append("The statement's own lines do not come to its closing balance.")
        return tuple(found)


def start_of(sides: BankSides) -> Start:
    """What of the entries before the first statement was still on its way to the bank.

    Those that a later statement line is agreed with; and, where the opening balance says that there
    were more, the one set of the latest others that makes up for it exactly.
    """
    first = sides.statements[0]
    before = [entry for entry in sides.entries.values() if entry.day < first.first_day]
    late = {entry.key for entry in before if entry.key in sides.group_of_entry}
    late = {key for key in late if sides.group_of_entry[key].lines}
    settled = sum(entry.amount for entry in before if entry.key not in late)
    if first.opening is None:
        return Start(first.first_day, frozenset(late), 0)
    too_much = settled - first.opening
    extra = _set_of(before, late, too_much, first.first_day) if too_much else frozenset()
    found = sum(sides.entries[key].amount for key in extra)
    return Start(first.first_day, frozenset(late) | extra, found - too_much)


def _set_of(
    before: Iterable[Entry], late: set[EntryKey], total: Minor, first_day: date
) -> frozenset[EntryKey]:
    """The entries of one direction that add to *total*, the latest first; none where no set does."""
    sign = 1 if total > 0 else -1
    field = [
        entry
        for entry in before
        if entry.key not in late
        and entry.amount * sign > 0
        and first_day - entry.day <= OLDEST_OUTSTANDING
    ]
    field = sorted(field, key=lambda entry: (entry.day, entry.key), reverse=True)[:MOST_CANDIDATES]
    for entry in field:
        if entry.amount == total:
            return frozenset({entry.key})
    sets = exact_sets([entry.amount * sign for entry in field], total * sign, most=1).sets
    return frozenset(field[place].key for place in sets[0]) if sets else frozenset()


def reconciliation(sides: BankSides, statement: Statement) -> Reconciliation:
    """The state of the statement's reconciliation, with all statements up to it."""
    kept: dict[int, Reconciliation] = sides.worked_out.setdefault("reconciliations", {})
    if statement.number not in kept:
        kept[statement.number] = _reconciliation(sides, statement)
    return kept[statement.number]


def _reconciliation(sides: BankSides, statement: Statement) -> Reconciliation:
    start = start_of(sides)
    upto = {brought.number for brought in sides.statements if brought.order <= statement.order}
    counted = [group for group in sides.groups.values() if _counts(group, upto, statement.last_day)]
    agreed = {entry.key for group in counted for entry in group.entries}
    lines_agreed = {line.id for group in counted for line in group.lines}
    last = statement.last_day
    ledger = sum(entry.amount for entry in sides.entries.values() if entry.day <= last)
    outstanding = tuple(
        entry
        for key, entry in sides.entries.items()
        if entry.day <= last
        and key not in agreed
        and (entry.day >= start.first_day or key in start.outstanding)
    )
    later = sum(entry.amount for group in counted for entry in group.entries if entry.day > last)
    out = sum(-entry.amount for entry in outstanding if entry.amount < 0)
    in_ = sum(entry.amount for entry in outstanding if entry.amount > 0)
    waiting = [
        line
        for brought in sides.statements
        if brought.number in upto
        for line in brought.lines
        if line.id not in lines_agreed
    ]
    return Reconciliation(
        statement=statement,
        ledger=ledger,
        outstanding=tuple(sorted(outstanding, key=lambda entry: (entry.day, entry.key))),
        not_presented=out,
        not_credited=in_,
        booked_later=later,
        should_be=ledger + out - in_ + later,
        closing=statement.closing,
        groups=tuple(
            group
            for group in counted
            if any(line.statement == statement.number for line in group.lines)
            or (not group.lines and statement.first_day <= group.day <= last)
        ),
        unmatched=tuple(line for line in waiting if line.statement == statement.number),
        carried_in=tuple(line for line in waiting if line.statement != statement.number),
        start=start,
    )


def bank_difference(books: Books, as_at: date) -> Minor | None:
    """The differences of each account's latest statement by *as_at*, together; None where there is no
    statement with a closing balance."""
    found: list[Minor] = []
    for account in own_accounts(books):
        sides = bank_sides(books, account)
        until = [
            statement
            for statement in sides.statements
            if statement.last_day <= as_at and statement.closing is not None
        ]
        if until:
            found.append(reconciliation(sides, until[-1]).difference or 0)
    return sum(found) if found else None


def _counts(group: Group, upto: set[int], last_day: date) -> bool:
    """Whether the agreement counts in a statement: all its lines have come by then."""
    if not group.lines:
        return group.day <= last_day
    return all(line.statement in upto for line in group.lines)
