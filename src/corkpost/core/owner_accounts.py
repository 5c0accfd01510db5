"""Each owner's account as a statement: what came in and went out by its nature, and how it ran."""

from collections.abc import Iterator
from datetime import date
from enum import StrEnum
from itertools import groupby
from typing import NamedTuple

from corkpost.core.books import Account, Books, Line, Transaction
from corkpost.core.kinds import MONEY_ROLES, OWNER_ROLES, AccountRole, AccountType, TransactionKind
from corkpost.core.money import Minor


class Nature(StrEnum):
    """What a movement on an owner's account was."""

    PAID_IN = "paid in"
    BUSINESS_COSTS = "business costs paid privately"
    PROFIT = "share of profit"
    TAKEN = "taken out"
    PRIVATE_COSTS = "private costs taken out of the books"
    OTHER = "other entries"


class NatureSum(NamedTuple):
    """The movements of one nature. *amount*: for the owner positive, that is credits."""

    nature: Nature
    amount: Minor
    entries: int


class OwnerAccount(NamedTuple):
    """An owner's account over some days. Balances: what the business owes the owner positive.

    *line*: the balance at the end of each day that moved it, the opening first. *overdrawn*: where
    the account is one on which the owner may owe: since when it does at the end, if it does; *lowest*
    is the lowest balance within the days, with its day.
    """

    account: Account
    opening: Minor
    moved: tuple[NatureSum, ...]
    closing: Minor
    line: tuple[tuple[date, Minor], ...]
    can_owe: bool
    overdrawn_since: date | None
    lowest: tuple[date, Minor]


CAN_OWE = frozenset(
    {AccountRole.OWNER_LOAN, AccountRole.PARTNER_CURRENT, AccountRole.MEMBER_PAYABLE}
)


def owner_statements(books: Books, first: date, last: date) -> tuple[OwnerAccount, ...]:
    """The owners' accounts with anything on them, by owner and code."""
    accounts = [account for account in books.tables.accounts if account.role in OWNER_ROLES]
    accounts.sort(key=lambda account: (account.owner or "", account.code))
    found = (_statement(books, account, first, last) for account in accounts)
    return tuple(own for own in found if own.opening or own.closing or own.moved)


def _statement(books: Books, account: Account, first: date, last: date) -> OwnerAccount:
    rows = sorted(
        (
            (posted.posting_date, posted, line)
            for posted, line in books.lines_on(account.code)
            if posted.posting_date <= last
        ),
        key=lambda row: (row[0], row[1].id),
    )
    opening = -sum(line.amount for day, _, line in rows if day < first)
    sums: dict[Nature, list[Minor]] = {}
    for day, posted, line in rows:
        if day >= first:
            sums.setdefault(nature_of(books, posted, line), []).append(-line.amount)
    line_ = tuple(_running(rows, first, opening))
    lowest = min(line_, key=lambda point: (point[1], point[0]))
    return OwnerAccount(
        account,
        opening,
        tuple(NatureSum(n, sum(sums[n]), len(sums[n])) for n in Nature if n in sums),
        line_[-1][1],
        line_,
        account.role in CAN_OWE,
        _overdrawn_since(rows) if account.role in CAN_OWE else None,
        lowest,
    )


def nature_of(books: Books, posted: Transaction, own: Line) -> Nature:
    """What a line on an owner's account was, by what stands against it."""
    if posted.kind is TransactionKind.CLOSING:
        return Nature.PROFIT
    taken_back = books.transactions.get(posted.reverses or "")
    if taken_back is not None:
        # What takes an entry back takes it out of what it was.
        return nature_of(books, taken_back, own._replace(amount=-own.amount))
    others = [line for line in posted.lines if line.account != own.account]
    if any(books.accounts[line.account].role is AccountRole.APPROPRIATION for line in others):
        return Nature.PROFIT
    if any(books.accounts[line.account].role in MONEY_ROLES for line in others):
        return Nature.PAID_IN if own.amount < 0 else Nature.TAKEN
    if own.amount < 0 and _came_in(books, posted, others):
        return Nature.PAID_IN
    if any(books.accounts[line.account].is_profit_and_loss for line in others):
        return Nature.BUSINESS_COSTS if own.amount < 0 else Nature.PRIVATE_COSTS
    return Nature.OTHER


def _came_in(books: Books, posted: Transaction, others: list[Line]) -> bool:
    """Whether the owner's money came into the bank and had been booked as income, or a customer's."""
    if any(books.accounts[line.account].type is AccountType.INCOME for line in others):
        return True
    corrected = books.transactions.get(posted.corrects or "")
    return corrected is not None and any(
        line.amount > 0 and books.accounts[line.account].role in MONEY_ROLES
        for line in corrected.lines
    )


def _running(
    rows: list[tuple[date, Transaction, Line]], first: date, opening: Minor
) -> Iterator[tuple[date, Minor]]:
    balance = opening
    yield first, balance
    within = (row for row in rows if row[0] >= first)
    for day, of_day in groupby(within, key=lambda row: row[0]):
        balance -= sum(line.amount for _, _, line in of_day)
        yield day, balance


def _overdrawn_since(rows: list[tuple[date, Transaction, Line]]) -> date | None:
    """The day since which the owner owes without a break; None where they do not."""
    balance = 0
    since = None
    for day, of_day in groupby(rows, key=lambda row: row[0]):
        balance -= sum(line.amount for _, _, line in of_day)
        if balance >= 0:
            since = None
        elif since is None:
            since = day
    return since
