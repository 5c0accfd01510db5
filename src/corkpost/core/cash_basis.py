"""A second trial balance by settlement: a bill that is not paid is no cost yet (needs of a client on a cash
basis).

It is the trial balance less what of each document is open: control accounts then have money on account
alone. What an earlier year's document was paid in this year counts in this year.
"""

from collections import defaultdict
from collections.abc import Iterator
from datetime import date
from fractions import Fraction

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import TransactionKind
from corkpost.core.money import Minor, rounded
from corkpost.core.open_items import OpenItem, open_items
from corkpost.core.periods import ONE_DAY
from corkpost.core.trial_balance import BROUGHT_FORWARD, Balances, Closing, balances_at


def cash_balances_at(books: Books, as_at: date, *, closing: Closing = Closing.IN) -> Balances:
    """By account code, debit positive, at the end of *as_at*; brought forward as in `balances_at`."""
    sums: Balances = defaultdict(int, balances_at(books, as_at, closing=closing))
    begins = books.calendar.year_of(as_at).first_day
    for item, left in documents(books, as_at):
        for line, amount in unsettled_part(item, left):
            earlier = item.transaction.posting_date < begins
            profit = books.accounts[line.account].is_profit_and_loss
            sums[BROUGHT_FORWARD if earlier and profit else line.account] -= amount
    for line, amount in _paid_since(books, begins, as_at):
        sums[line.account] += amount
        sums[BROUGHT_FORWARD] -= amount
    return {code: amount for code, amount in sums.items() if amount}


def documents(books: Books, as_at: date) -> Iterator[tuple[OpenItem, Minor]]:
    """What is open of documents with income or costs in them at the end of the day."""
    for item, left in open_items(books).open_at(as_at):
        if left and _is_document(books, item.transaction):
            yield item, left


def _is_document(books: Books, posted: Transaction) -> bool:
    return posted.kind is not TransactionKind.OPENING and any(
        books.accounts[line.account].is_profit_and_loss for line in posted.lines
    )


def _paid_since(books: Books, begins: date, as_at: date) -> Iterator[tuple[Line, Minor]]:
    """The income and costs of earlier years' documents that were paid from *begins* to *as_at*."""
    now = {item.key: left for item, left in documents(books, as_at)}
    for item, left in documents(books, begins - ONE_DAY):
        before = dict(_by_line(item, left))
        after = dict(_by_line(item, now.get(item.key, 0)))
        for line in item.transaction.lines:
            paid = before.get(line.number, 0) - after.get(line.number, 0)
            if paid and books.accounts[line.account].is_profit_and_loss:
                yield line, paid


def _by_line(item: OpenItem, left: Minor) -> Iterator[tuple[int, Minor]]:
    for line, amount in unsettled_part(item, left):
        yield line.number, amount


def unsettled_part(item: OpenItem, left: Minor) -> Iterator[tuple[Line, Minor]]:
    """The lines of a document in the share in which *left* of its item is open; they balance."""
    if not left:
        return
    own = [
        line
        for line in item.transaction.lines
        if line.account == item.account and line.party == item.party
    ]
    others = [line for line in item.transaction.lines if line not in own]
    share = Fraction(left, item.amount)
    # Shares are taken off a running total, so that the document's part balances to the cent.
    total = done = 0
    for line in others:
        total += line.amount
        part = rounded(total * share) - done
        done += part
        yield line, part
    if own:
        yield own[0], -done
