"""The worksheet: the trial balance as received, the entries, the adjusted balance (section 9)."""

from collections import defaultdict
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import AccountType, EntryKind
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
)


class EntryColumn(StrEnum):
    """Which column of the worksheet a transaction adds to."""

    AS_RECEIVED = "as_received"
    CORRECTIONS = "corrections"
    ADJUSTING = "adjusting"
    RECLASSIFICATIONS = "reclassifications"


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
    """One account's (or section's) figures, debit positive."""

    last_year: Minor = 0
    as_received: Minor = 0
    corrections: Minor = 0
    adjusting: Minor = 0
    reclassifications: Minor = 0

    @property
    def adjusted(self) -> Minor:
        return self.as_received + self.corrections + self.adjusting + self.reclassifications

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
    """Rows by account within section; every column of `total` is nil when the books balance."""

    year: FinancialYear
    as_at: date
    compared: Compared
    compared_from: date
    compared_at: date
    rows: tuple[WorksheetRow, ...]
    entries: Mapping[EntryColumn, int]

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
    """The column that a transaction adds to: as received unless a change brought it."""
    return _column_of(sort_of(posted))


def _column_of(sort: Sort) -> EntryColumn:
    if sort.received or sort.entry_kind is None:
        return EntryColumn.AS_RECEIVED
    return _COLUMN_OF_KIND[sort.entry_kind]


def worksheet(
    books: Books, year: FinancialYear, as_at: date, against: FinancialYear | None = None
) -> Worksheet:
    """The worksheet of *year* at the end of *as_at*, before the year's closing entries. *against*: the
    earlier year that it is set beside, the last one unless said. Raises BadEntry for one that is none."""
    earlier = against or books.calendar.previous_year(year)
    if earlier.last_day >= year.first_day:
        raise BadEntry([f"{earlier.label} is no year before {year.label}."])
    columns = {
        column: balances_at(books, as_at, closing=Closing.OUT, only=_of_column(column))
        for column in EntryColumn
    }
    compared, compared_at, last_year = _earlier_year(books, year, earlier, as_at)
    compared_from = earlier.first_day
    rows = _rows(books, last_year, columns)
    entries = dict.fromkeys(EntryColumn, 0)
    for sort, many in entry_counts(books, as_at).items():
        entries[_column_of(sort)] += many
    return Worksheet(year, as_at, compared, compared_from, compared_at, rows, entries)


def _of_column(column: EntryColumn) -> Callable[[Sort], bool]:
    return lambda sort: _column_of(sort) is column


def _rows(
    books: Books, last_year: Balances, columns: Mapping[EntryColumn, Balances]
) -> tuple[WorksheetRow, ...]:
    codes = set(last_year).union(*columns.values())
    rows = []
    for code in sorted(codes):
        figures = Figures(
            last_year.get(code, 0), *(columns[column].get(code, 0) for column in EntryColumn)
        )
        if any(figures):
            rows.append(WorksheetRow(code, *_named(books, code), figures))
    order = (
        AccountType.INCOME,
        AccountType.EXPENSE,
        AccountType.ASSET,
        AccountType.LIABILITY,
        AccountType.EQUITY,
    )
    rows.sort(key=lambda row: (order.index(row.type), row.account == BROUGHT_FORWARD, row.account))
    return tuple(rows)


def _named(books: Books, code: str) -> tuple[str, AccountType]:
    if code == BROUGHT_FORWARD:
        return BROUGHT_FORWARD_NAME, AccountType.EQUITY
    return books.accounts[code].name, books.accounts[code].type


def _earlier_year(
    books: Books, year: FinancialYear, previous: FinancialYear, as_at: date
) -> tuple[Compared, date, Balances]:
    """An earlier year's figures at the same point: as signed for a whole year, else from the books."""
    back = year.last_day.year - previous.last_day.year
    whole = as_at >= year.last_day
    compared_at = (
        previous.last_day
        if whole
        else min(month_end(as_at.year - back, as_at.month, _day(as_at)), previous.last_day)
    )
    signed = [row for row in books.tables.prior_year if row.year_end == previous.last_day]
    if whole and signed:
        sums: Balances = defaultdict(int)
        for row in signed:
            sums[row.account] += row.amount
        return Compared.SIGNED, compared_at, dict(sums)
    months, rest = months_within(books, previous.first_day, compared_at)
    if not months and not rest:
        return Compared.NONE, compared_at, {}
    found = balances_at(books, compared_at, closing=Closing.OUT)
    return Compared.BOOKS, compared_at, found


def _day(as_at: date) -> int:
    """The day to look for a year earlier: the last of a month stays the last."""
    return 31 if as_at == month_end(as_at.year, as_at.month, 31) else as_at.day
