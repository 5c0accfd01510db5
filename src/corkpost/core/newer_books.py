"""What newer books of a client would move, before they are taken in: by month and state, row by row
where something was changed, in finished months, and in profit.
"""

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import replace
from datetime import date
from typing import NamedTuple, TypeVar

from corkpost.core.books import (
    Account,
    Books,
    ClientFacts,
    Party,
    PostedChange,
    Tables,
    Transaction,
)
from corkpost.core.checks import found_by
from corkpost.core.effect import BalanceChange
from corkpost.core.kinds import PeriodState, Role, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.periods import Period
from corkpost.core.points import CheckRun, Point
from corkpost.core.refreshing import Refresh
from corkpost.core.trial_balance import balances_at, profit_of

ENTERED_TOO = "entered-too"
Coded = TypeVar("Coded", Account, Party)


class MonthBrought(NamedTuple):
    """Transactions that newer books bring into a month. *finished*: why it is barred, or that it is held;
    None where it is open."""

    period: Period
    state: PeriodState
    finished: str | None
    new: int
    changed: int
    removed: int


class RowBrought(NamedTuple):
    """A transaction that is not as it was. *before* None: it is new; *now* None: it is gone."""

    before: Transaction | None
    now: Transaction | None

    @property
    def day(self) -> date:
        """The day in the books; the earlier one where it has two."""
        return min(row.posting_date for row in self if row is not None)


class YearBrought(NamedTuple):
    """A year's profit, a profit positive, before and after."""

    year: str
    before: Minor
    after: Minor


class Brought(NamedTuple):
    """*rows*: what changed, is gone, or is new in a finished month, the earliest first. *finished*: the
    balances at the end of *finished_on*, the last barred day, that would not be what they are. *ours*:
    corrections of ours that the newer books have too."""

    months: tuple[MonthBrought, ...]
    rows: tuple[RowBrought, ...]
    years: tuple[YearBrought, ...]
    finished_on: date | None
    finished: tuple[BalanceChange, ...]
    ours: tuple[Point, ...]


def role_needed(books: Books, rows: Iterable[RowBrought]) -> Role | None:
    """Who takes in books that bring these rows: anybody where they touch open months alone, a reviewer
    where one is held, a partner where one is barred. Closing entries lie outside every bar."""
    states = {
        books.calendar.state_on(version.posting_date)
        for row in rows
        for version in row
        if version is not None and version.kind is not TransactionKind.CLOSING
    }
    if PeriodState.BARRED in states:
        return Role.PARTNER
    return Role.REVIEWER if PeriodState.HELD in states else None


def brought(books: Books, after: Books, refresh: Refresh, today: date) -> Brought:
    """What the newer books would move. *after*: the books as they would stand."""
    rows = rows_brought(books, refresh)
    touched = {row.posting_date for pair in rows for row in pair if row is not None}
    years = sorted({books.calendar.year_of(day) for day in touched})
    barred = books.calendar.barred_through
    return Brought(
        months=tuple(_months(books, rows)),
        rows=tuple(row for row in rows if row.before or _finished(books, row.day)),
        years=tuple(
            YearBrought(
                year.label,
                profit_of(balances_at(books, year.last_day), books),
                profit_of(balances_at(after, year.last_day), after),
            )
            for year in years
        ),
        finished_on=barred,
        finished=tuple(_moved(books, after, barred)) if barred else (),
        ours=_entered_too(books, after, today),
    )


def rows_brought(books: Books, refresh: Refresh) -> list[RowBrought]:
    """What is new, changed or gone, the earliest first."""
    gone = {name for table, name in refresh.superseded if table == "transactions"}
    now = {posted.id: posted for posted in refresh.transactions}
    rows = [
        RowBrought(books.transactions.get(name), now.get(name))
        for name in sorted(gone | now.keys())
    ]
    return sorted(rows, key=lambda row: row.day)


def with_newer(books: Books, refresh: Refresh, standing: Tables, client: ClientFacts) -> Books:
    """The books as they would stand, as far as figures, seals and what the client entered go.
    *standing*: the other rows that are new or not as they were."""
    gone = {name for table, name in refresh.superseded if table == "transactions"}
    freed = {name for table, name in refresh.superseded if table == "allocations"}
    tables = books.tables
    number = max((change.number for change in books.changes), default=0) + 1
    return replace(
        books,
        client=client,
        tables=replace(
            tables,
            accounts=_by_code(tables.accounts, standing.accounts),
            parties=_by_code(tables.parties, standing.parties),
            transactions=(
                *(posted for posted in tables.transactions if posted.id not in gone),
                *refresh.transactions,
            ),
            allocations=(
                *(row for row in tables.allocations if row.id not in freed),
                *refresh.allocations,
            ),
        ),
        changes=(*books.changes, PostedChange(number, "import", "", "")),
        arrived={**books.arrived, **{posted.id: number for posted in refresh.transactions}},
        kept=books.kept.handed_on(),
    )


def _by_code(old: tuple[Coded, ...], new: tuple[Coded, ...]) -> tuple[Coded, ...]:
    rows: dict[str, Coded] = {row.code: row for row in old}
    rows.update((row.code, row) for row in new)
    return tuple(rows.values())


def _months(books: Books, rows: Iterable[RowBrought]) -> Iterator[MonthBrought]:
    counts: dict[Period, Counter[str]] = {}
    for row in rows:
        kind = "changed" if row.before and row.now else "new" if row.now else "removed"
        counts.setdefault(books.calendar.period_of(row.day), Counter())[kind] += 1
    for period, found in sorted(counts.items()):
        yield MonthBrought(
            period,
            books.calendar.state_on(period.last_day),
            _finished(books, period.last_day),
            found["new"],
            found["changed"],
            found["removed"],
        )


def _finished(books: Books, day: date) -> str | None:
    match books.calendar.state_on(day):
        case PeriodState.BARRED:
            return books.calendar.why_barred(day)
        case PeriodState.HELD:
            return "the period is held"
    return None


def _moved(books: Books, after: Books, on: date) -> Iterator[BalanceChange]:
    was, now = balances_at(books, on), balances_at(after, on)
    for code in sorted(was.keys() | now.keys()):
        if was.get(code, 0) != now.get(code, 0):
            yield BalanceChange(code, was.get(code, 0), now.get(code, 0))


def _entered_too(books: Books, after: Books, today: date) -> tuple[Point, ...]:
    known = {point.id for point in found_by(CheckRun(books, today), ENTERED_TOO)}
    found = found_by(CheckRun(after, today), ENTERED_TOO)
    return tuple(point for point in found if point.id not in known)
