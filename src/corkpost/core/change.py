"""A change: entries, allocations, amendments and agreements, posted together or not at all (section 7).

A `Plan` is a change that is not posted yet. Its new rows carry ids of the form `new-1` until posting
gives them their numbers, so that the same books and the same request always make the same plan.
"""

import hashlib
import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from enum import StrEnum
from typing import Any, NamedTuple

from corkpost.core.amendments import Amending, ChartAmending
from corkpost.core.books import (
    Account,
    AgreementRow,
    Allocation,
    Books,
    Party,
    PriorPart,
    Transaction,
)
from corkpost.core.kept import Kept
from corkpost.core.kinds import EntryKind, PeriodState, TransactionKind
from corkpost.core.open_items import OpenItems, items_of, open_items
from corkpost.core.periods import Calendar, Period
from corkpost.core.refusals import BadEntry, BarredDate, NothingToDo, NoYear, OutOfBalance
from corkpost.core.row_kinds.schedules import Step


class ChangeKind(StrEnum):
    CORRECTION = "correction"
    ENTRY = "entry"
    UNDO = "undo"
    AGREEMENT = "agreement"


class PartyAmending(NamedTuple):
    """A party that is to be read as another, not posted yet."""

    party: str
    before: str | None
    after: str | None


@dataclass(frozen=True)
class Plan:
    """What would be posted. *notes* say in words why it is dated and booked as it is."""

    kind: ChangeKind
    entries: tuple[Transaction, ...]
    allocations: tuple[Allocation, ...]
    proposed_reason: str
    amendments: tuple[Amending, ...] = ()
    agreements: tuple[AgreementRow, ...] = ()
    route: str | None = None
    notes: tuple[str, ...] = ()
    warnings: tuple[str, ...] = ()
    prior_parts: tuple[PriorPart, ...] = ()
    undoes: int | None = None
    chart: tuple[ChartAmending, ...] = ()
    accounts: tuple[Account, ...] = ()
    parties: tuple[Party, ...] = ()
    parties_amended: tuple[PartyAmending, ...] = ()
    counts_stock: bool = False
    """Whether it brings stock to what was counted: no other journal moves stock."""
    more: Mapping[str, tuple[Any, ...]] = field(default_factory=dict)
    """Rows of kinds that have no field here, by the name of their kind."""
    schedule: tuple[Step, ...] = ()
    """What follows from it by days: shown, and posted when it is due."""
    about: tuple[str, ...] = ()
    """The transactions that it puts right, for showing them beside it."""
    by_hand: bool = False
    """Whether a person picked what it is about, and no check did."""

    def of(self, planned: str, kind: str) -> tuple[Any, ...]:
        """Its rows of a kind: from the field *planned*, or from what it brings under the kind's name."""
        rows: tuple[Any, ...] = getattr(self, planned) if planned else self.more.get(kind, ())
        return rows

    @property
    def digest(self) -> str:
        """Equal for plans that would post the same rows; a post names the one that was shown."""
        rows = [
            self.kind,
            self.entries,
            self.allocations,
            self.amendments,
            self.agreements,
            self.prior_parts,
            self.undoes,
            self.chart,
            self.accounts,
            self.parties,
            *([self.parties_amended] if self.parties_amended else []),
            *sorted(self.more.items()),
        ]
        return hashlib.sha256(json.dumps(rows, default=str).encode()).hexdigest()[:16]


def new_entry(number: int) -> str:
    """The id of the plan's *number*th entry until it is posted, from 1."""
    return f"new-{number}"


def entry_of(
    plan_id: str, posting_date: date, kind: EntryKind, about: Transaction | None = None
) -> Transaction:
    """An entry without lines yet; what it says of its paper is taken from *about*."""
    return Transaction(
        id=plan_id,
        kind=TransactionKind.JOURNAL,
        posting_date=posting_date,
        lines=(),
        reference=about.reference if about else None,
        party=about.party if about else None,
        source="journal",
        entry_kind=kind,
    )


def dates_of(plan: Plan) -> Iterator[date]:
    """Every date that the plan writes figures on; amendments write on none."""
    yield from (entry.posting_date for entry in plan.entries)
    yield from (allocation.date for allocation in plan.allocations)


def checked(plan: Plan, books: Books) -> Plan:
    """The plan, if it may be posted on these books by somebody.

    Raises NothingToDo, OutOfBalance, BarredDate, or BadEntry where it would allocate more than is
    open. What waits for another's approval is told by `core/approval.py`.
    """
    standing = (plan.chart, plan.accounts, plan.parties, plan.parties_amended, *plan.more.values())
    if not any((plan.entries, plan.allocations, plan.amendments, plan.agreements, *standing)):
        raise NothingToDo("There is nothing left to post here: the books are already so.")
    for entry in plan.entries:
        _refuse_unbalanced(entry, books)
    closings = {e.posting_date for e in plan.entries if e.kind is TransactionKind.CLOSING}
    for day in dates_of(plan):
        refuse_out_of_reach(books, day)
        # Closing entries stand in a slot of their own: a barred year is closed all the same (section 2).
        if day not in closings and books.calendar.state_on(day) is PeriodState.BARRED:
            why = books.calendar.why_barred(day)
            raise BarredDate(day, why, books.calendar.first_open_day(day))
    over = _over_allocated_by(plan, books)
    if over:
        raise BadEntry([f"{', '.join(over)}: more would be allocated than is open."])
    return plan


def refuse_out_of_reach(books: Books, day: date) -> None:
    """Raise NoYear for a day that the books have no financial year for."""
    reach = books.reach
    if not reach.holds(day):
        raise NoYear(day, *reach, books.next_year.label if day > reach.last_day else None)


def _refuse_unbalanced(entry: Transaction, books: Books) -> None:
    difference = sum(line.amount for line in entry.lines)
    if difference or not entry.lines:
        side = "credit" if difference > 0 else "debit"
        raise OutOfBalance(
            f"The entry lacks {books.client.currency.format_amount(difference)} to {side}: "
            "debits and credits must be equal."
        )


def _over_allocated_by(plan: Plan, books: Books) -> list[str]:
    """The transactions of which the plan would allocate more than is open, by id.

    Only what it touches is looked at: books may come with allocations that no longer fit.
    """
    names = {
        side for row in plan.allocations for side in (row.debit_transaction, row.credit_transaction)
    }
    touched = {
        *(row.id for row in plan.allocations),
        *(row.undoes for row in plan.allocations if row.undoes),
    }
    items = open_items(books)
    touched |= {row.id for name in names for row in items.standing_on(name)}
    own = [books.transactions[name] for name in names if name in books.transactions]
    around = {
        side
        for row in books.tables.allocations
        if row.id in touched
        for side in (row.debit_transaction, row.credit_transaction)
    }
    own += [books.transactions[name] for name in around - names if name in books.transactions]
    rows = [row for row in books.tables.allocations if row.id in touched]
    tables = replace(books.tables, transactions=tuple(own), allocations=tuple(rows))
    small = replace(books, tables=tables, kept=Kept())
    over = over_allocated(small.with_posted(plan.entries, plan.allocations))
    return [name for name in over if name in names]


def opened_for(plan: Plan, calendar: Calendar) -> tuple[Period, ...]:
    """The periods that somebody barred and that the plan writes in: they would have to be opened for
    it. What is filed or sealed is not among them."""
    periods = {
        calendar.period_of(day)
        for day in dates_of(plan)
        if calendar.state_on(day) is PeriodState.BARRED
    }
    return tuple(sorted(periods))


def over_allocated(books: Books) -> list[str]:
    """The transactions of which more is allocated than they put on that side, by id."""
    items = open_items(books)
    return sorted(
        {
            key[0]
            for key, left in items.open_now.items()
            if left and (left > 0) is not (items.items[key].amount > 0)
        }
    )


class AllocationWriter:
    """Collects the allocations of a plan, dated by the rule, each under its own new id."""

    def __init__(self, books: Books) -> None:
        self._books = books
        self.rows: list[Allocation] = []

    def _next_id(self) -> str:
        return f"new-a{len(self.rows) + 1}"

    def _dated(self, *days: date) -> date:
        return allocation_date(self._books, *days)

    def allocate(self, party: str, debit: Transaction, credit: Transaction, amount: int) -> None:
        """*amount* (positive) of *debit* settles as much of *credit*."""
        day = self._dated(debit.posting_date, credit.posting_date)
        self.rows.append(Allocation(self._next_id(), day, party, debit.id, credit.id, amount))

    def between(self, party: str, one: Transaction, other: Transaction, signed: int) -> None:
        """Settle *one*, which has *signed* on its side of the control account, with *other*."""
        debit, credit = (one, other) if signed > 0 else (other, one)
        self.allocate(party, debit, credit, abs(signed))

    def free(self, row: Allocation, on: date | None = None) -> None:
        """Undo an allocation that stands, *on* that day or later."""
        sides = (row.debit_transaction, row.credit_transaction)
        days = [self._books.transactions[side].posting_date for side in sides]
        undoing = row._replace(
            id=self._next_id(),
            date=self._dated(row.date, *days, *([on] if on else [])),
            undoes=row.id,
            change=None,
        )
        self.rows.append(undoing)

    def free_all(
        self, items: OpenItems, transaction_id: str, on: date | None = None
    ) -> tuple[Allocation, ...]:
        """Undo every allocation that stands on the transaction; what was freed, in order."""
        freed = items.standing_on(transaction_id)
        for row in freed:
            self.free(row, on)
        return freed

    def settle_each_other(self, one: Transaction, mirror: Transaction) -> None:
        """Allocate an entry's control lines and its mirror's to each other (section 4)."""
        for item in items_of(one, self._books.control_accounts):
            if item.party is not None:
                self.between(item.party, one, mirror, item.amount)


def allocation_date(books: Books, *days: date) -> date:
    """The later of two items' posting dates; where that is barred, the first open day."""
    return books.calendar.first_open_day(max(days))
