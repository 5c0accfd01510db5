"""The worksheet: the trial balance as received, the entries, the adjusted balance (section 9)."""

from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.budgets import budget_of
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountType, EntryKind, TransactionKind
from corkpost.core.money import Minor, rounded
from corkpost.core.periods import FinancialYear, month_end
from corkpost.core.refusals import BadEntry
from corkpost.core.running_sums import Sort, entry_counts, months_within, sort_of
from corkpost.core.trial_balance import (
    BROUGHT_FORWARD,
    BROUGHT_FORWARD_NAME,
    Balances,
    Closing,
    balances_at,
    stands_on,
)


class EntryColumn(StrEnum):
    """Which column of the worksheet a transaction adds to."""

    AS_RECEIVED = "as_received"
    CORRECTIONS = "corrections"
    ADJUSTING = "adjusting"
    RECLASSIFICATIONS = "reclassifications"
    CLOSING = "closing"


_COLUMN_OF_KIND: Mapping[EntryKind, EntryColumn] = {
    EntryKind.CORRECTING: EntryColumn.CORRECTIONS,
    EntryKind.ADJUSTING: EntryColumn.ADJUSTING,
    EntryKind.REVERSING: EntryColumn.ADJUSTING,
    EntryKind.RECLASSIFYING: EntryColumn.RECLASSIFICATIONS,
    EntryKind.CLOSING: EntryColumn.CORRECTIONS,
}


class Compared(StrEnum):
    """Where last year's figures come from."""

    SIGNED = "as signed"
    BOOKS = "from the books"
    NONE = "not in the books"


class Figures(NamedTuple):
    """One account's (or section's) figures, debit positive. *closing*: nil where closing entries are left
    out. *budget*: what income and costs were meant to come to."""

    last_year: Minor = 0
    as_received: Minor = 0
    corrections: Minor = 0
    adjusting: Minor = 0
    reclassifications: Minor = 0
    closing: Minor = 0
    budget: Minor = 0

    @property
    def adjusted(self) -> Minor:
        return sum(self[1:6])

    @property
    def change_percent(self) -> int | None:
        """What adjusted is above last year, in whole percent of last year; None without one.

        Read by size: a credit that grows is a rise.
        """
        if not self.last_year:
            return None
        by = (
            self.adjusted - self.last_year if self.last_year > 0 else self.last_year - self.adjusted
        )
        return rounded(Fraction(100 * by, abs(self.last_year)))

    def plus(self, other: "Figures") -> "Figures":
        return Figures(*(mine + yours for mine, yours in zip(self, other, strict=True)))


class WorksheetRow(NamedTuple):
    account: str
    name: str
    type: AccountType
    figures: Figures


@dataclass(frozen=True)
class Worksheet:
    """Rows by account within section; every column of `total` but the budget's is nil when the books
    balance. *first*: the day that income and costs are counted from."""

    year: FinancialYear
    first: date
    as_at: date
    compared: Compared
    compared_from: date
    compared_at: date
    rows: tuple[WorksheetRow, ...]
    entries: Mapping[EntryColumn, int]
    is_narrowed: bool = False

    def section(self, *types: AccountType) -> Figures:
        """The sum of the rows of these types."""
        total = Figures()
        for row in self.rows:
            if row.type in types:
                total = total.plus(row.figures)
        return total

    @property
    def total(self) -> Figures:
        return self.section(*AccountType)


def column_of(posted: Transaction) -> EntryColumn:
    """The column that a transaction adds to: as received unless a change brought it. The closing entries of
    the days that a worksheet is of stand in the column CLOSING, or nowhere."""
    return _column_of(sort_of(posted))


def _column_of(sort: Sort) -> EntryColumn:
    if sort.received or sort.entry_kind is None:
        return EntryColumn.AS_RECEIVED
    return _COLUMN_OF_KIND[sort.entry_kind]


class SheetOf(NamedTuple):
    """Which days and lines a worksheet is of, and what stands beside it. *against*: an earlier year, the
    last one unless said. *first*: the day that income and costs are counted from, the year's first unless
    said. *closing*: whether the closing entries of these days stand in a column of their own. *dimension*:
    only what stands on it, as `site=QUAY`."""

    against: FinancialYear | None = None
    first: date | None = None
    closing: Closing = Closing.OUT
    dimension: str | None = None


def worksheet(
    books: Books,
    year: FinancialYear,
    as_at: date,
    of: SheetOf = SheetOf(),  # noqa: B008 - a value
) -> Worksheet:
    """The worksheet of *year* at the end of *as_at*. Raises BadEntry for an earlier year that is none, or
    days that are out of order."""
    earlier = of.against or books.calendar.previous_year(year)
    if earlier.last_day >= year.first_day:
        raise BadEntry([f"{earlier.label} is no year before {year.label}."])
    first = of.first or year.first_day
    if first > as_at:
        raise BadEntry(["The first day comes after the last."])
    columns = {
        column: balances_at(
            books,
            as_at,
            closing=Closing.OUT,
            only=_of_column(column),
            first=first,
            dimension=of.dimension,
        )
        for column in EntryColumn
    }
    closings: list[Transaction] = []
    if of.closing is Closing.IN:
        closings = [
            posted
            for posted in books.of_kinds(TransactionKind.CLOSING)
            if first <= posted.posting_date <= as_at
        ]
        columns[EntryColumn.CLOSING] = _sums_of(closings, of.dimension)
    back = year.last_day.year - earlier.last_day.year
    compared, compared_from, compared_at, last_year = _earlier_year(books, of, year, as_at, back)
    budget = budget_of(books, first, as_at) if of.dimension is None else {}
    rows = _rows(books, last_year, columns, budget, first)
    entries = dict.fromkeys(EntryColumn, 0)
    for sort, many in entry_counts(books, as_at).items():
        entries[_column_of(sort)] += many
    entries[EntryColumn.CLOSING] = len(closings)
    narrowed = of.dimension is not None
    beside = (compared, compared_from, compared_at)
    return Worksheet(year, first, as_at, *beside, rows, entries, narrowed)


def _sums_of(transactions: Iterable[Transaction], dimension: str | None) -> Balances:
    sums: Balances = defaultdict(int)
    for posted in transactions:
        for line in posted.lines:
            if dimension is None or stands_on(line, dimension):
                sums[line.account] += line.amount
    return sums


def _of_column(column: EntryColumn) -> Callable[[Sort], bool]:
    return lambda sort: _column_of(sort) is column


def _rows(
    books: Books,
    last_year: Balances,
    columns: Mapping[EntryColumn, Balances],
    budget: Mapping[str, Minor],
    first: date,
) -> tuple[WorksheetRow, ...]:
    codes = {*last_year, *budget}.union(*columns.values())
    rows = []
    for code in sorted(codes):
        own = (columns[column].get(code, 0) for column in EntryColumn)
        figures = Figures(last_year.get(code, 0), *own)._replace(budget=budget.get(code, 0))
        if any(figures):
            rows.append(WorksheetRow(code, *_named(books, code, first), figures))
    order = (
        AccountType.INCOME,
        AccountType.EXPENSE,
        AccountType.ASSET,
        AccountType.LIABILITY,
        AccountType.EQUITY,
    )
    rows.sort(key=lambda row: (order.index(row.type), row.account == BROUGHT_FORWARD, row.account))
    return tuple(rows)


def _named(books: Books, code: str, first: date) -> tuple[str, AccountType]:
    if code == BROUGHT_FORWARD:
        begins = first == books.calendar.year_of(first).first_day
        name = BROUGHT_FORWARD_NAME if begins else f"Result before {format_date(first)}"
        return name, AccountType.EQUITY
    return books.accounts[code].name, books.accounts[code].type


def _earlier_year(
    books: Books, of: SheetOf, year: FinancialYear, as_at: date, back: int
) -> tuple[Compared, date, date, Balances]:
    """The same days *back* years earlier: as signed for a whole year, else from the books."""
    whole = as_at >= year.last_day
    previous = books.calendar.year_of(_years_back(year.last_day, back))
    compared_at = previous.last_day if whole else min(_years_back(as_at, back), previous.last_day)
    spans = of.first is not None and of.first != year.first_day
    compared_from = _years_back(of.first, back) if spans and of.first else previous.first_day
    signed = [row for row in books.tables.prior_year if row.year_end == previous.last_day]
    if whole and signed and not spans and of.dimension is None:
        sums: Balances = defaultdict(int)
        for row in signed:
            sums[row.account] += row.amount
        return Compared.SIGNED, compared_from, compared_at, dict(sums)
    months, rest = months_within(books, compared_from, compared_at)
    if not months and not rest:
        return Compared.NONE, compared_from, compared_at, {}
    found = balances_at(
        books, compared_at, closing=Closing.OUT, first=compared_from, dimension=of.dimension
    )
    return Compared.BOOKS, compared_from, compared_at, found


def _years_back(day: date, years: int) -> date:
    """The same day so many years earlier; the last of a month stays the last."""
    last = day == month_end(day.year, day.month, 31)
    return month_end(day.year - years, day.month, 31 if last else day.day)
