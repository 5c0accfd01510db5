"""A control account against what its parties hold (handbook, section 4): a proof that can fail.

Only what parties hold counts on the list's side. Lines of nobody stand beside it, and so does whatever
else keeps the two apart, each with its sum.
"""

from collections.abc import Iterable, Iterator
from datetime import date, timedelta
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItem, Settlement, open_items
from corkpost.core.periods import LAST_DAY
from corkpost.core.running_sums import account_sums

KEYED_SOON = timedelta(days=31)


class Cause(NamedTuple):
    """*amount*: of the difference, debit positive; None for what moves no figure of this list but can
    make one that was drawn on the day another."""

    says: str
    amount: Minor | None
    transactions: tuple[str, ...]


class ControlProof(NamedTuple):
    """*control*: the accounts' balance. *held*: what parties hold. Both debit positive."""

    control: Minor
    held: Minor
    causes: tuple[Cause, ...]

    @property
    def difference(self) -> Minor:
        """What is in the accounts and on no party's list."""
        return self.control - self.held


def control_proof(books: Books, accounts: Iterable[str], as_at: date) -> ControlProof:
    """The balance of the control *accounts* at the end of *as_at* against the parties' open items."""
    codes = frozenset(accounts)
    sums = account_sums(books, None, as_at)
    control = sum(amount for _, account, amount in sums if account in codes)
    items = open_items(books)
    every = items.open_on(codes) if as_at == LAST_DAY else items.open_at(as_at)
    opened = [(item, left) for item, left in every if item.account in codes]
    held = sum(left for item, left in opened if item.party is not None)
    if control == held:
        return ControlProof(control, held, ())
    late = [
        posted.id
        for account in sorted(codes)
        for posted, _ in books.lines_on(account)
        if posted.posting_date <= as_at
        and posted.entered_at
        and posted.entered_at.date() - as_at > KEYED_SOON
    ]
    causes = [
        *_of_nobody(opened),
        *_between_accounts(books, codes, as_at),
        *_dated_otherwise(books, codes, as_at),
    ]
    if late:
        names = tuple(dict.fromkeys(late))
        causes.append(Cause(f"keyed more than a month after the day ({len(names)})", None, names))
    return ControlProof(control, held, tuple(causes))


def _of_nobody(opened: Iterable[tuple[OpenItem, Minor]]) -> Iterator[Cause]:
    bare = [(item.transaction.id, left) for item, left in opened if item.party is None]
    if bare:
        amount = sum(left for _, left in bare)
        many = f"{len(bare)} entries" if len(bare) > 1 else "1 entry"
        yield Cause(
            f"lines without a party ({many})",
            amount,
            tuple(dict.fromkeys(name for name, _ in bare)),
        )


def _settlements(books: Books, codes: frozenset[str], as_at: date) -> Iterator[Settlement]:
    for settlement in open_items(books).settlements:
        own = settlement.debit[1] in codes or settlement.credit[1] in codes
        if own and settlement.counts_at(as_at) and settlement.allocation.party:
            yield settlement


def _between_accounts(books: Books, codes: frozenset[str], as_at: date) -> Iterator[Cause]:
    """Allocations that take from this list what they take from another account's."""
    across = [
        settlement
        for settlement in _settlements(books, codes, as_at)
        if (settlement.debit[1] in codes) is not (settlement.credit[1] in codes)
    ]
    if across:
        amount = sum(
            settlement.allocation.amount
            if settlement.debit[1] in codes
            else -settlement.allocation.amount
            for settlement in across
        )
        names = {key[0] for settlement in across for key in (settlement.debit, settlement.credit)}
        yield Cause(
            f"allocations that join two control accounts ({len(across)})",
            amount,
            tuple(sorted(names)),
        )


def _dated_otherwise(books: Books, codes: frozenset[str], as_at: date) -> Iterator[Cause]:
    odd = []
    for settlement in _settlements(books, codes, as_at):
        row = settlement.allocation
        sides = [
            books.transactions[name] for name in (row.debit_transaction, row.credit_transaction)
        ]
        later = books.calendar.first_open_day(max(side.posting_date for side in sides))
        if row.change is None and row.date != later:
            odd += [side.id for side in sides]
    if odd:
        names = tuple(dict.fromkeys(odd))
        yield Cause(f"allocations dated otherwise than their items ({len(odd) // 2})", None, names)
