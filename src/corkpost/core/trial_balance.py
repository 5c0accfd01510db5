"""The trial balance as at a date (handbook, sections 2 and 9)."""

import hashlib
import json
from collections.abc import Callable, Iterable, Mapping
from datetime import date
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import AccountType, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.periods import ONE_DAY
from corkpost.core.running_sums import Sort, account_sums, sort_of

BROUGHT_FORWARD = "brought-forward"
BROUGHT_FORWARD_NAME = "Result brought forward, not closed"

Balances = dict[str, Minor]
"""By account code, debit positive; BROUGHT_FORWARD is earlier years' result not yet closed."""


class Column(StrEnum):
    """Whose figures: the client's alone, or with every change since."""

    AS_RECEIVED = "as-received"
    ADJUSTED = "adjusted"


class Closing(StrEnum):
    """Whether the closing entries of the year looked at are taken in. Earlier years' always are."""

    IN = "in"
    OUT = "out"


class Basis(StrEnum):
    """By the document's date, or by when it was settled."""

    ACCRUALS = "accruals"
    CASH = "cash"


class TrialBalanceRow(NamedTuple):
    account: str
    name: str
    type: AccountType
    balance: Minor


class TrialBalance(NamedTuple):
    """Rows with a balance, by account code. *credits* is negative."""

    as_at: date
    rows: tuple[TrialBalanceRow, ...]
    debits: Minor
    credits: Minor


def balances(
    transactions: Iterable[Transaction], books: Books, as_at: date, *, closing: Closing = Closing.IN
) -> Balances:
    """What these transactions add to each account at the end of *as_at*.

    Income and expense accounts get only what is dated in the year of *as_at*; what earlier years
    added to them, and no closing entry took away, goes to BROUGHT_FORWARD.
    """
    year = books.calendar.year_of(as_at)
    profit_and_loss = {a.code for a in books.tables.accounts if a.is_profit_and_loss}
    sums: Balances = {}
    for posted in transactions:
        if posted.posting_date > as_at:
            continue
        earlier = posted.posting_date < year.first_day
        if closing is Closing.OUT and not earlier and posted.kind is TransactionKind.CLOSING:
            continue
        for line in posted.lines:
            code = line.account
            if earlier and code in profit_and_loss:
                code = BROUGHT_FORWARD
            sums[code] = sums.get(code, 0) + line.amount
    return sums


def balances_at(
    books: Books,
    as_at: date,
    *,
    closing: Closing = Closing.IN,
    only: Callable[[Sort], bool] = lambda _: True,
    first: date | None = None,
    dimension: str | None = None,
) -> Balances:
    """`balances` of all transactions of the books, or of the sorts that *only* takes. *first*: the day that
    income and costs are counted from, the year's first unless given; what they came to before goes to
    BROUGHT_FORWARD. *dimension*: of the lines that stand on it alone, as `site=QUAY`."""
    begins = first or books.calendar.year_of(as_at).first_day
    profit_and_loss = {a.code for a in books.tables.accounts if a.is_profit_and_loss}
    sums: Balances = {}
    for sort, account, amount in _sums(books, None, begins - ONE_DAY, dimension):
        if only(sort):
            code = BROUGHT_FORWARD if account in profit_and_loss else account
            sums[code] = sums.get(code, 0) + amount
    for sort, account, amount in _sums(books, begins, as_at, dimension):
        if only(sort) and not (closing is Closing.OUT and sort.closing):
            sums[account] = sums.get(account, 0) + amount
    return sums


def _sums(
    books: Books, first: date | None, last: date, dimension: str | None
) -> Iterable[tuple[Sort, str, Minor]]:
    if dimension is None:
        return account_sums(books, first, last)
    return (
        (sort_of(posted), line.account, line.amount)
        for posted in books.tables.transactions
        if posted.posting_date <= last and (first is None or posted.posting_date >= first)
        for line in posted.lines
        if stands_on(line, dimension)
    )


def stands_on(line: Line, dimension: str) -> bool:
    """Whether the line stands on it, as `site=QUAY`."""
    return dimension in (line.dimensions or "").split(";")


def digest_of(balance: TrialBalance) -> str:
    """Equal for trial balances with the same balances: a signer names the one that they saw."""
    rows = [[row.account, row.balance] for row in balance.rows]
    return hashlib.sha256(json.dumps([balance.as_at.isoformat(), rows]).encode()).hexdigest()[:16]


def trial_balance(
    books: Books,
    as_at: date,
    *,
    column: Column = Column.ADJUSTED,
    closing: Closing = Closing.IN,
) -> TrialBalance:
    """The trial balance at the end of *as_at*; accounts with no balance are left out."""
    as_received = column is Column.AS_RECEIVED
    sums = balances_at(
        books, as_at, closing=closing, only=lambda sort: sort.received or not as_received
    )
    return trial_balance_of(books, as_at, sums)


def trial_balance_of(books: Books, as_at: date, sums: Balances) -> TrialBalance:
    """The trial balance that has these balances."""
    rows = tuple(_row(books, code, sums[code]) for code in sorted(sums) if sums[code])
    debits = sum(row.balance for row in rows if row.balance > 0)
    return TrialBalance(as_at, rows, debits, sum(row.balance for row in rows) - debits)


def _row(books: Books, code: str, balance: Minor) -> TrialBalanceRow:
    if code == BROUGHT_FORWARD:
        return TrialBalanceRow(code, BROUGHT_FORWARD_NAME, AccountType.EQUITY, balance)
    account = books.accounts[code]
    return TrialBalanceRow(code, account.name, account.type, balance)


def profit_of(sums: Mapping[str, Minor], books: Books) -> Minor:
    """The year's profit in these balances: a profit positive, a loss negative."""
    return -sum(
        amount
        for code, amount in sums.items()
        if code != BROUGHT_FORWARD and books.accounts[code].is_profit_and_loss
    )
