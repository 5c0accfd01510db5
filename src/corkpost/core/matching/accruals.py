"""Journals that hold cost or income over a period's end, and what takes them back."""

from collections import Counter
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
SOON = timedelta(days=15)
"""Within so many days an entry that is nearly the mirror is meant as one."""
NEARLY = 0.25


class Accrued(NamedTuple):
    """A journal that raises *holding* against *result*, an income or cost account, by *amount*."""

    posted: Transaction
    holding: str
    result: str
    amount: Minor

    @property
    def day(self) -> date:
        return self.posted.posting_date


def journals_between(books: Books) -> tuple[list[Accrued], list[Accrued]]:
    """Those that raise an accrual, prepayment or deferral, and those that release one."""
    raising: list[Accrued] = []
    releasing: list[Accrued] = []
    for posted in books.of_kinds(TransactionKind.JOURNAL):
        if posted.id in books.never_was:
            continue
        if posted.corrects in books.transactions:
            continue
        for accrued in _held(books, posted):
            role = books.accounts[accrued.holding].role
            (raising if accrued.amount * RAISES[role] > 0 else releasing).append(accrued)
    for rows in (raising, releasing):
        rows.sort(key=lambda accrued: (accrued.day, accrued.posted.id))
    return raising, releasing


def _held(books: Books, posted: Transaction) -> Iterator[Accrued]:
    """Only plain ones, as they stand with what puts them right: one such account against one of income
    or cost."""
    sums: Counter[str] = Counter()
    for transaction in (posted, *books.corrections.get(posted.id, ())):
        for line in transaction.lines:
            sums[line.account] += line.amount
    left = [code for code, amount in sums.items() if amount]
    holding = [code for code in left if books.accounts[code].role in HOLDING]
    result = [code for code in left if books.accounts[code].is_profit_and_loss]
    if len(holding) == 1 and len(result) == 1 and len(left) == 2:
        yield Accrued(posted, holding[0], result[0], sums[holding[0]])


class Paired(NamedTuple):
    """A raising entry with what takes it back. *parts*: it is released in parts."""

    raised: Accrued
    released: Accrued
    parts: bool = False

    @property
    def is_mirror(self) -> bool:
        same = self.raised.result == self.released.result
        return same and self.released.amount == -self.raised.amount


class Pairs(NamedTuple):
    """What takes back what; *standing*: raised and not taken back; *second*: released once more."""

    pairs: tuple[Paired, ...]
    standing: tuple[Accrued, ...]
    second: tuple[Paired, ...]


def pairs_of(books: Books) -> Pairs:
    """Each raising entry with its reversal: linked ones first, then mirrors, then what is nearly one.

    All mirrors are found before anything that is merely near, so that a reversal with a slip is not
    taken from the entry that it belongs to.
    """
    kept: Pairs | None = books.derived.get("accrual pairs")
    if kept is None:
        kept = books.derived["accrual pairs"] = _pairs(books)
    return kept


def _pairs(books: Books) -> Pairs:
    raising, releasing = journals_between(books)
    pairs: list[Paired] = []
    free = list(releasing)
    for fits in (_linked, _mirror, _other_account, _other_amount):
        for accrued in raising:
            if any(pair.raised is accrued for pair in pairs):
                continue
            found = [other for other in free if fits(accrued, other)]
            if found:
                other = min(found, key=lambda o: abs((o.day - accrued.day).days))
                free.remove(other)
                pairs.append(Paired(accrued, other))
    taken = {pair.raised.posted.id for pair in pairs}
    for accrued in raising:
        part = next((other for other in free if _part(accrued, other)), None)
        if accrued.posted.id not in taken and part:
            pairs.append(Paired(accrued, part, parts=True))
    taken = {pair.raised.posted.id for pair in pairs}
    second = [
        Paired(pair.raised, other)
        for pair in pairs
        for other in free
        if pair.is_mirror and _mirror(pair.raised, other)
    ]
    once = {pair.released.posted.id: pair for pair in reversed(second)}
    return Pairs(
        tuple(pairs),
        tuple(accrued for accrued in raising if accrued.posted.id not in taken),
        tuple(once.values()),
    )


def _follows(one: Accrued, other: Accrued, within: timedelta) -> bool:
    opposite = other.holding == one.holding and other.amount * one.amount < 0
    return opposite and timedelta(0) < other.day - one.day <= within


def _linked(one: Accrued, other: Accrued) -> bool:
    return other.posted.reverses == one.posted.id


def _mirror(one: Accrued, other: Accrued) -> bool:
    same = other.result == one.result and other.amount == -one.amount
    return same and _follows(one, other, NEXT_PERIOD)


def _other_account(one: Accrued, other: Accrued) -> bool:
    return other.amount == -one.amount and _follows(one, other, SOON)


def _other_amount(one: Accrued, other: Accrued) -> bool:
    near = abs(one.amount + other.amount) <= NEARLY * abs(one.amount)
    return other.result == one.result and near and _follows(one, other, SOON)


def _part(one: Accrued, other: Accrued) -> bool:
    less = abs(other.amount) < abs(one.amount)
    return other.result == one.result and less and _follows(one, other, NEXT_PERIOD)
