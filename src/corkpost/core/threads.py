"""A party's items and what settles what: debits, credits, and the threads between them (section 4)."""

from datetime import date
from typing import NamedTuple

from corkpost.core.books import Allocation, Books
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItem, OpenItems, open_items


class End(NamedTuple):
    """An item as one end of threads. *left*: what is open of it, debit positive."""

    item: OpenItem
    left: Minor


class Threads(NamedTuple):
    """Debits and credits of one party, the oldest first, and the allocations that stand between."""

    debits: tuple[End, ...]
    credits: tuple[End, ...]
    allocations: tuple[Allocation, ...]
    settled: int
    """How many items that are settled in full are left out."""


def threads_of(
    books: Books, role: AccountRole, party: str | None, as_at: date, *, everything: bool = False
) -> Threads:
    """The party's items as at the end of a day: what is open with all that hangs on it, or *everything*.

    Only items posted and allocations dated by then count.
    """
    items = open_items(books)
    accounts = {account.code for account in books.with_role(role)}
    own = [
        item
        for item in items.items.values()
        if item.party == party
        and item.account in accounts
        and item.transaction.posting_date <= as_at
    ]
    standing = {
        settlement.allocation.id: settlement
        for item in own
        for settlement in items.by_item.get(item.key, ())
        if settlement.counts_at(as_at)
    }
    left = {item.key: item.amount for item in own}
    for settlement in standing.values():
        amount = settlement.allocation.amount
        if settlement.debit in left:
            left[settlement.debit] -= amount
        if settlement.credit in left:
            left[settlement.credit] += amount
    shown = (
        set(left) if everything else _hanging_on(items, {k for k, v in left.items() if v}, as_at)
    )
    ends = [End(item, left[item.key]) for item in own if item.key in shown]
    ends.sort(key=lambda end: (end.item.transaction.day, end.item.transaction.id))
    return Threads(
        tuple(end for end in ends if end.item.amount > 0),
        tuple(end for end in ends if end.item.amount < 0),
        tuple(
            s.allocation
            for s in standing.values()
            if s.debit in shown and s.credit in shown and s.allocation.party
        ),
        len(own) - len(ends),
    )


def _hanging_on(
    items: OpenItems, loose: set[tuple[str, str, str | None]], as_at: date
) -> set[tuple[str, str, str | None]]:
    """The loose ends, and what is tied to one of them."""
    shown = set(loose)
    for key in loose:
        for settlement in items.by_item.get(key, ()):
            if settlement.counts_at(as_at):
                shown |= {settlement.debit, settlement.credit}
    return shown
