"""Journals that hold cost or income over a period's end, and what takes them back."""

from collections.abc import Iterator
from datetime import date, timedelta
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.money import Minor

HOLDING = frozenset({AccountRole.ACCRUAL, AccountRole.PREPAYMENT, AccountRole.DEFERRED_INCOME})
RAISES = {AccountRole.ACCRUAL: -1, AccountRole.PREPAYMENT: 1, AccountRole.DEFERRED_INCOME: -1}
"""The sign with which each such account is raised."""
NEXT_PERIOD = timedelta(days=62)


class Held(NamedTuple):
    """A journal that raises *holding* against *result*, an income or cost account, by *amount*."""

    posted: Transaction
    holding: str
    result: str
    amount: Minor

    @property
    def day(self) -> date:
        return self.posted.posting_date


def journals_between(books: Books) -> tuple[list[Held], list[Held]]:
    """Those that raise an accrual, prepayment or deferral, and those that release one."""
    raising: list[Held] = []
    releasing: list[Held] = []
    for posted in books.tables.transactions:
        answered = posted.id in books.corrected or posted.corrects is not None
        if posted.kind is not TransactionKind.JOURNAL or answered:
            continue
        # What was taken back, and what took it back, never were.
        if books.is_taken_back(posted.id) or (
            posted.reverses and books.is_taken_back(posted.reverses)
        ):
            continue
        for one in _held(books, posted):
            role = books.accounts[one.holding].role
            (raising if one.amount * RAISES[role] > 0 else releasing).append(one)
    for rows in (raising, releasing):
        rows.sort(key=lambda one: (one.day, one.posted.id))
    return raising, releasing


def _held(books: Books, posted: Transaction) -> Iterator[Held]:
    """Only plain ones: one such account against one of income or cost."""
    holding = [x for x in posted.lines if books.accounts[x.account].role in HOLDING]
    result = [x for x in posted.lines if books.accounts[x.account].is_profit_and_loss]
    if len(holding) == 1 and len(result) == 1 and len(posted.lines) == 2:
        yield Held(posted, holding[0].account, result[0].account, holding[0].amount)


def reversals_of(one: Held, releasing: list[Held]) -> list[Held]:
    """What may take it back: on the same holding account, in the next period."""
    return [
        other
        for other in releasing
        if other.holding == one.holding
        and other.amount * one.amount < 0
        and (
            other.posted.reverses == one.posted.id
            or timedelta(0) < other.day - one.day <= NEXT_PERIOD
        )
    ]
