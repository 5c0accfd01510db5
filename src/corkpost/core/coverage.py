"""What the books hold by table and month, so that a gap is seen before it is missed."""

from collections import Counter
from collections.abc import Iterator, Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.periods import Period

GROUPS: tuple[tuple[str, frozenset[Kind]], ...] = (
    ("Invoices and credits", frozenset({Kind.SALES_INVOICE, Kind.SALES_CREDIT})),
    ("Bills and credits", frozenset({Kind.PURCHASE_BILL, Kind.PURCHASE_CREDIT})),
    (
        "Receipts and payments of open items",
        frozenset(
            {
                Kind.CUSTOMER_RECEIPT,
                Kind.CUSTOMER_REFUND,
                Kind.SUPPLIER_PAYMENT,
                Kind.SUPPLIER_REFUND,
            }
        ),
    ),
    (
        "Money coded straight, moved, banked",
        frozenset({Kind.DIRECT_RECEIPT, Kind.DIRECT_PAYMENT, Kind.TRANSFER, Kind.BANKING}),
    ),
    ("Takings", frozenset({Kind.TAKINGS})),
    ("Payroll", frozenset({Kind.PAYROLL})),
    (
        "Journals, opening and closing",
        frozenset({Kind.JOURNAL, Kind.OPENING, Kind.CLOSING, Kind.REVALUATION}),
    ),
)


class Coverage(NamedTuple):
    """One row: how many rows of a table each month has, in the order of the periods.

    *missing*: the months, over by the day that is asked for, that this table should reach and
    does not: a bank statement, or a payroll summary between two others.
    """

    name: str
    account: str | None
    counts: tuple[int, ...]
    missing: tuple[bool, ...]


def coverage(books: Books, periods: tuple[Period, ...], today: date) -> tuple[Coverage, ...]:
    """What is there month by month, for every table that has anything in these periods."""
    return tuple(row for row in _rows(books, periods, today) if any(row.counts) or any(row.missing))


def _rows(books: Books, periods: tuple[Period, ...], today: date) -> Iterator[Coverage]:
    group_of = {kind: name for name, kinds in GROUPS for kind in kinds}
    counted: Counter[tuple[str, date]] = Counter()
    for posted in books.tables.transactions:
        if posted.change is None:
            first_day = books.calendar.period_of(posted.posting_date).first_day
            counted[group_of[posted.kind], first_day] += 1
    for name, _ in GROUPS:
        yield _plain(
            name, {day: n for (group, day), n in counted.items() if group == name}, periods
        )
    yield _plain(
        "Allocations",
        Counter(
            books.calendar.period_of(row.date).first_day
            for row in books.tables.allocations
            if row.change is None
        ),
        periods,
    )
    for account in sorted({statement.account for statement in books.statements}):
        yield _statements(books, account, periods, today)
    yield _payroll(books, periods)
    stock = Counter(books.calendar.period_of(item.date).first_day for item in books.tables.stock)
    yield _plain("Stock counted, items", stock, periods)


def _plain(name: str, counts: Mapping[date, int], periods: tuple[Period, ...]) -> Coverage:
    found = tuple(counts.get(period.first_day, 0) for period in periods)
    return Coverage(name, None, found, (False,) * len(periods))


def _statements(books: Books, account: str, periods: tuple[Period, ...], today: date) -> Coverage:
    mine = [statement for statement in books.statements if statement.account == account]
    begins = min(statement.first_day for statement in mine)
    counts = tuple(
        sum(p.first_day <= line.day <= p.last_day for brought in mine for line in brought.lines)
        for p in periods
    )
    missing = tuple(
        begins <= p.last_day <= today
        and not any(
            brought.first_day <= p.last_day and p.first_day <= brought.last_day for brought in mine
        )
        for p in periods
    )
    return Coverage(f"Statement lines, {books.account(account).name}", account, counts, missing)


def _payroll(books: Books, periods: tuple[Period, ...]) -> Coverage:
    months = {row.month for row in books.tables.payroll}
    named = [f"{period.last_day:%Y-%m}" for period in periods]
    counts = tuple(sum(row.month == month for row in books.tables.payroll) for month in named)
    missing = tuple(
        month not in months and bool(months) and min(months) < month < max(months)
        for month in named
    )
    return Coverage("Payroll summary", None, counts, missing)
