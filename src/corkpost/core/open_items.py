"""Open items: what is owed, party by party, and what settles what (handbook, section 4)."""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from functools import cached_property
from typing import NamedTuple, cast

from corkpost.core.books import Allocation, Books, Transaction
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor

ItemKey = tuple[str, str, str | None]
"""Transaction, control account, party."""


class OpenItem(NamedTuple):
    """What one transaction put on one party's side of a control account, debit positive."""

    transaction: Transaction
    account: str
    party: str | None
    amount: Minor

    @property
    def key(self) -> ItemKey:
        return (self.transaction.id, self.account, self.party)

    @property
    def due_date(self) -> date:
        """The due date; where the paper gives none, the day on the paper."""
        return self.transaction.due_date or self.transaction.day


class Settlement(NamedTuple):
    """An allocation as it counts: from *since* on, until *until* (not included) if it was undone."""

    allocation: Allocation
    debit: ItemKey
    credit: ItemKey
    since: date
    until: date | None

    def counts_at(self, as_at: date) -> bool:
        return self.since <= as_at and (self.until is None or as_at < self.until)


class Standing(NamedTuple):
    """How a transaction's items stand. *open*: what is left, debit positive.

    *settled_on*: the day since which nothing is left. *days_open*: since the day on the paper.
    """

    open: Minor
    settled_on: date | None
    days_open: int | None


@dataclass(frozen=True)
class OpenItems:
    """Every item on the control accounts with every settlement, for any date."""

    items: Mapping[ItemKey, OpenItem]
    settlements: tuple[Settlement, ...]

    @cached_property
    def by_item(self) -> Mapping[ItemKey, tuple[Settlement, ...]]:
        found: dict[ItemKey, list[Settlement]] = defaultdict(list)
        for settlement in self.settlements:
            found[settlement.debit].append(settlement)
            found[settlement.credit].append(settlement)
        return {key: tuple(settlements) for key, settlements in found.items()}

    @cached_property
    def by_transaction(self) -> Mapping[str, tuple[OpenItem, ...]]:
        found: dict[str, list[OpenItem]] = defaultdict(list)
        for item in self.items.values():
            found[item.transaction.id].append(item)
        return {name: tuple(items) for name, items in found.items()}

    @cached_property
    def open_now(self) -> Mapping[ItemKey, Minor]:
        """What is left of each item once everything posted counts, debit positive."""
        left = {key: item.amount for key, item in self.items.items()}
        for settlement in self.settlements:
            if settlement.until is None:
                left[settlement.debit] -= settlement.allocation.amount
                left[settlement.credit] += settlement.allocation.amount
        return left

    def open_at(self, as_at: date) -> Iterator[tuple[OpenItem, Minor]]:
        """The items posted by *as_at* that are not settled at the end of it, with what is left."""
        left = {
            key: item.amount
            for key, item in self.items.items()
            if item.transaction.posting_date <= as_at
        }
        for settlement in self.settlements:
            if settlement.counts_at(as_at):
                left[settlement.debit] -= settlement.allocation.amount
                left[settlement.credit] += settlement.allocation.amount
        return ((self.items[key], amount) for key, amount in left.items() if amount)

    def open_of(self, party: str) -> tuple[tuple[OpenItem, Minor], ...]:
        """What is left open of the party's items, debit positive; the oldest paper first."""
        left = ((self.items[key], amount) for key, amount in self.open_now.items() if amount)
        own = (pair for pair in left if pair[0].party == party)
        return tuple(
            sorted(own, key=lambda pair: (pair[0].transaction.day, pair[0].transaction.id))
        )

    def standing_of(self, transaction_id: str, today: date) -> "Standing | None":
        """How its items stand; None for a transaction that has none."""
        own = self.by_transaction.get(transaction_id, ())
        if not own:
            return None
        left = sum(self.open_now[item.key] for item in own)
        if left:
            return Standing(left, None, (today - own[0].transaction.day).days)
        since = [s.since for item in own for s in self.by_item.get(item.key, ()) if s.until is None]
        return Standing(0, max(since, default=None), None)

    def standing_on(self, transaction_id: str) -> tuple[Allocation, ...]:
        """The allocations of that transaction that were not undone, in the order they were made."""
        return tuple(
            dict.fromkeys(
                settlement.allocation
                for item in self.by_transaction.get(transaction_id, ())
                for settlement in self.by_item.get(item.key, ())
                if settlement.until is None and settlement.allocation.party
            )
        )


def open_items(books: Books) -> OpenItems:
    """The open items of the books. Allocations that name no item of theirs are left out."""
    found = books.derived.get("open items")
    if found is None:
        found = books.derived["open items"] = _open_items(books)
    return cast(OpenItems, found)


def _open_items(books: Books) -> OpenItems:
    items = {
        item.key: item
        for posted in books.tables.transactions
        for item in items_of(posted, books.control_accounts)
    }
    by_transaction: dict[str, list[OpenItem]] = defaultdict(list)
    for item in items.values():
        by_transaction[item.transaction.id].append(item)
    undone_on = {row.undoes: row.date for row in books.tables.allocations if row.undoes is not None}
    settlements = (
        settlement
        for row in books.tables.allocations
        if row.undoes is None
        for settlement in _settlement(row, by_transaction, undone_on.get(row.id))
    )
    return OpenItems(items, (*settlements, *_taken_back_of_nobody(books, by_transaction)))


def _taken_back_of_nobody(
    books: Books, items: Mapping[str, list[OpenItem]]
) -> Iterator[Settlement]:
    """Lines without a party and what takes them back. No row can allocate them, there being nobody to
    allocate them for, and open on both sides they would count as two things that are wrong."""
    bare = [i for own in items.values() for i in own if i.party is None and _answers(books, i)]
    left = {item.key: item.amount for own in items.values() for item in own if item.party is None}
    for item in bare:
        for other in items.get(_answers(books, item) or "", ()):
            if other.party is not None or other.account != item.account:
                continue
            if left[item.key] * left[other.key] < 0:
                amount = min(abs(left[item.key]), abs(left[other.key]))
                debit, credit = (item, other) if item.amount > 0 else (other, item)
                left[debit.key] -= amount
                left[credit.key] += amount
                since = max(item.transaction.posting_date, other.transaction.posting_date)
                row = Allocation(
                    f"of nobody {item.transaction.id}",
                    since,
                    "",
                    debit.transaction.id,
                    credit.transaction.id,
                    amount,
                )
                yield Settlement(row, debit.key, credit.key, since, None)


def _answers(books: Books, item: OpenItem) -> str | None:
    """What the item's transaction takes back or puts right. A correction that was taken back itself
    answers nothing: only its mirror and it do each other."""
    posted = item.transaction
    if posted.reverses:
        return posted.reverses
    return None if posted.id in books.never_was else posted.corrects


def items_of(posted: Transaction, control_accounts: frozenset[str]) -> Iterator[OpenItem]:
    """The items that one transaction makes: its control lines, netted by account and party."""
    sums: dict[tuple[str, str | None], Minor] = {}
    for line in posted.lines:
        if line.account in control_accounts:
            key = (line.account, line.party)
            sums[key] = sums.get(key, 0) + line.amount
    return (OpenItem(posted, *key, amount) for key, amount in sums.items() if amount)


def _settlement(
    row: Allocation, items: Mapping[str, list[OpenItem]], until: date | None
) -> Iterator[Settlement]:
    debit = side_of(row, items.get(row.debit_transaction, ()), debit=True)
    credit = side_of(row, items.get(row.credit_transaction, ()), debit=False)
    if debit and credit:
        dates = (debit.transaction.posting_date, credit.transaction.posting_date)
        yield Settlement(row, debit.key, credit.key, max(row.date, *dates), until)


def side_of(row: Allocation, items: Iterable[OpenItem], *, debit: bool) -> OpenItem | None:
    """The item that an allocation means: its party's, else the one that can bear the amount.

    Books come with allocations between different parties; the row then names only one of them.
    """
    fitting = [item for item in items if (item.amount > 0) is debit]
    own = [item for item in fitting if item.party == row.party]
    return max(own or fitting, key=lambda item: abs(item.amount), default=None)


class AgedItem(NamedTuple):
    """*open* is debit positive; *days_past_due* is negative before the due date."""

    transaction: str
    posting_date: date
    due_date: date
    open: Minor
    days_past_due: int
    reference: str | None


BUCKETS = ("current", "1-30", "31-60", "61-90", "over 90")


def bucket_of(days_past_due: int) -> str:
    """Which age a debt of so many days past due has."""
    if days_past_due <= 0:
        return BUCKETS[0]
    return BUCKETS[min(1 + (days_past_due - 1) // 30, 4)]


class AgedParty(NamedTuple):
    party: str | None
    total: Minor
    buckets: Mapping[str, Minor]
    items: tuple[AgedItem, ...]


def aged(books: Books, role: AccountRole, as_at: date) -> tuple[AgedParty, ...]:
    """What is open at the end of *as_at* on the accounts of *role*, by party, by its code.

    Only allocations dated by then count, so that the list of an earlier date, run again, is what it
    was. Lines without a party stand under None, so that the total is the control account's balance.
    """
    accounts = {account.code for account in books.with_role(role)}
    by_party: dict[str | None, list[AgedItem]] = defaultdict(list)
    for item, left in open_items(books).open_at(as_at):
        if item.account in accounts:
            by_party[item.party].append(_aged_item(item, left, as_at))
    return tuple(_aged_party(party, by_party[party]) for party in sorted(by_party, key=str))


def _aged_item(item: OpenItem, left: Minor, as_at: date) -> AgedItem:
    posted = item.transaction
    days = (as_at - item.due_date).days
    return AgedItem(posted.id, posted.posting_date, item.due_date, left, days, posted.reference)


def _aged_party(party: str | None, items: list[AgedItem]) -> AgedParty:
    buckets = dict.fromkeys(BUCKETS, 0)
    for item in items:
        buckets[bucket_of(item.days_past_due)] += item.open
    items.sort(key=lambda item: (item.due_date, item.transaction))
    return AgedParty(party, sum(item.open for item in items), buckets, tuple(items))
