"""Receipts in hand: what lies on an `unbanked` account and has not been taken to the bank.

What was banked is set against what it consists of: the same sum first, then exact sets of what was
there by then, then the oldest.
"""

from collections.abc import Iterable
from datetime import date, timedelta
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.evidence.sums import MOST_CANDIDATES, exact_sets
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor
from corkpost.core.periods import LAST_DAY
from corkpost.core.statements import StatementLine

BANKED_WITHIN = timedelta(days=45)


class ReceiptInHand(NamedTuple):
    """A receipt that is in hand, with what of it is left there, positive."""

    posted: Transaction
    account: str
    left: Minor

    @property
    def day(self) -> date:
        return self.posted.posting_date


def in_hand(books: Books) -> tuple[ReceiptInHand, ...]:
    """Every receipt in hand, the oldest first."""
    kept: tuple[ReceiptInHand, ...] | None = books.derived.get("receipts in hand")
    if kept is None:
        kept = tuple(
            sorted(
                (
                    receipt
                    for account in books.with_role(AccountRole.UNBANKED)
                    for receipt in left_on(books, account.code)
                ),
                key=lambda receipt: (receipt.day, receipt.posted.id),
            )
        )
        books.derived["receipts in hand"] = kept
    return kept


def left_on(books: Books, account: str) -> list[ReceiptInHand]:
    """What is left of the debits on the account once its credits are set against them."""
    return passed_through(books, account)[0]


def passed_through(
    books: Books, account: str, as_at: date = LAST_DAY
) -> tuple[list[ReceiptInHand], list[ReceiptInHand]]:
    """What is left of the account's debits at the end of *as_at*, and what its credits took out beyond
    what was there."""
    kept: dict[tuple[str, date], tuple[list[ReceiptInHand], list[ReceiptInHand]]]
    kept = books.derived.setdefault("passed through", {})
    if (account, as_at) not in kept:
        held: list[ReceiptInHand] = []
        over: list[ReceiptInHand] = []
        for posted, amount in _in_order(books, account):
            if posted.posting_date > as_at:
                break
            if amount > 0:
                held.append(ReceiptInHand(posted, account, amount))
            else:
                held, beyond = _without(held, -amount, posted.posting_date)
                over += [ReceiptInHand(posted, account, beyond)] if beyond else []
        kept[account, as_at] = held, over
    held, over = kept[account, as_at]
    return list(held), list(over)


def _in_order(books: Books, account: str) -> list[tuple[Transaction, Minor]]:
    sums: dict[str, Minor] = {}
    by_id: dict[str, Transaction] = {}
    for posted, line in books.lines_on(account):
        by_id[posted.id] = posted
        sums[posted.id] = sums.get(posted.id, 0) + line.amount
    rows = [(by_id[name], amount) for name, amount in sums.items() if amount]
    return sorted(rows, key=lambda row: (row[0].posting_date, row[1] < 0, row[0].id))


def _without(
    held: list[ReceiptInHand], amount: Minor, day: date
) -> tuple[list[ReceiptInHand], Minor]:
    """What is left, and what of the amount nothing was there for."""
    same = next((receipt for receipt in held if receipt.left == amount), None)
    if same:
        return [receipt for receipt in held if receipt is not same], 0
    near = [receipt for receipt in held if day - receipt.day <= BANKED_WITHIN][-MOST_CANDIDATES:]
    sets = exact_sets([receipt.left for receipt in near], amount, most=1).sets
    if sets:
        gone = {near[place].posted.id for place in sets[0]}
        return [receipt for receipt in held if receipt.posted.id not in gone], 0
    left = []
    for receipt in held:
        part = min(receipt.left, amount)
        amount -= part
        if receipt.left > part:
            left.append(receipt._replace(left=receipt.left - part))
    return left, amount


def set_of(held: Iterable[ReceiptInHand], amount: Minor, day: date) -> tuple[ReceiptInHand, ...]:
    """The receipts of one account that a banking of *amount* on *day* consists of; none where no set
    of what was in hand by then comes to exactly that."""
    by_account: dict[str, list[ReceiptInHand]] = {}
    for receipt in held:
        if timedelta() <= day - receipt.day <= BANKED_WITHIN:
            by_account.setdefault(receipt.account, []).append(receipt)
    for rows in by_account.values():
        for receipt in rows:
            if receipt.left == amount:
                return (receipt,)
        field = rows[-MOST_CANDIDATES:]
        sets = exact_sets([receipt.left for receipt in field], amount, most=1).sets
        if sets:
            return tuple(field[place] for place in sets[0])
    return ()


PAID_OUT_WITHIN = timedelta(days=10)
MOST_FEE = Fraction(4, 100)
"""Of the sum: what a card processor keeps at most."""


def paid_out(books: Books, line: StatementLine) -> tuple[ReceiptInHand, ...]:
    """The card takings that a processor's payment is for: of one day, or of days in a row, with what
    it is short of them within a fee. The fewest days, the latest first."""
    if line.amount <= 0:
        return ()
    for account in books.with_role(AccountRole.CARD_CLEARING):
        near = [
            receipt
            for receipt in left_on(books, account.code)
            if timedelta() <= line.day - receipt.day <= PAID_OUT_WITHIN
        ]
        for size in range(1, min(len(near), 7) + 1):
            for start in range(len(near) - size, -1, -1):
                parts = near[start : start + size]
                gross = sum(receipt.left for receipt in parts)
                if 0 <= gross - line.amount <= gross * MOST_FEE:
                    return tuple(parts)
    return ()
