"""Open items: what is owed, party by party, and what settles what (handbook, section 4)."""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from functools import cached_property
from typing import NamedTuple, TypeVar, cast

from corkpost.core.books import Allocation, Books, Transaction
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor

Key = TypeVar("Key")
Member = TypeVar("Member")
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
        return _with_settlements({}, self.settlements)

    @cached_property
    def by_transaction(self) -> Mapping[str, tuple[OpenItem, ...]]:
        return _grouped({}, ((item.transaction.id, item) for item in self.items.values()))

    @cached_property
    def by_party(self) -> Mapping[str | None, tuple[ItemKey, ...]]:
        """The keys of each party's items, in the order of the books; those of nobody under None."""
        return _grouped({}, ((key[2], key) for key in self.items))

    @cached_property
    def open_now(self) -> Mapping[ItemKey, Minor]:
        """What is left of each item once everything posted counts, debit positive."""
        left = {key: item.amount for key, item in self.items.items()}
        for settlement in self.settlements:
            if settlement.until is None:
                _settle(left, settlement)
        return left

    @cached_property
    def still_open(self) -> Mapping[ItemKey, Minor]:
        """Of `open_now`, those of which something is left."""
        return {key: left for key, left in self.open_now.items() if left}

    @cached_property
    def open_by_account(self) -> Mapping[str, tuple[tuple[OpenItem, Minor], ...]]:
        """Of each control account the items of which something is left, with what, debit positive."""
        return _grouped({}, ((key[1], (self.items[key], x)) for key, x in self.still_open.items()))

    def open_on(self, accounts: Iterable[str]) -> Iterator[tuple[OpenItem, Minor]]:
        """The items of these accounts of which something is left, with what, debit positive."""
        for account in sorted(accounts):
            yield from self.open_by_account.get(account, ())

    def with_more(
        self,
        control_accounts: frozenset[str],
        transactions: Iterable[Transaction],
        allocations: Iterable[Allocation],
    ) -> "OpenItems":
        """These with what more transactions and allocations make of them; a transaction that is here
        already takes its own place."""
        items = dict(self.items)
        by_transaction = dict(self.by_transaction)
        left = dict(self.open_now)
        fresh = []
        for posted in transactions:
            own = tuple(items_of(posted, control_accounts))
            if own:
                by_transaction[posted.id] = own
            for item in own:
                if item.key not in items:
                    fresh.append((item.party, item.key))
                    left[item.key] = item.amount
                items[item.key] = item
        rows = tuple(allocations)
        undone_on = {row.undoes: row.date for row in rows if row.undoes is not None}
        by_item = dict(self.by_item)
        settlements = self._ended(undone_on, by_item, left) if undone_on else self.settlements
        added = [
            settlement
            for row in rows
            if row.undoes is None
            for settlement in _settlement(row, by_transaction, undone_on.get(row.id))
        ]
        for settlement in added:
            if settlement.until is None:
                _settle(left, settlement)
        made = OpenItems(items, (*settlements, *added))
        vars(made).update(
            by_transaction=by_transaction,
            by_party=_grouped(self.by_party, fresh),
            open_now=left,
            by_item=_with_settlements(by_item, added),
        )
        return made

    def _ended(
        self,
        undone_on: Mapping[str, date],
        by_item: dict[ItemKey, tuple[Settlement, ...]],
        left: dict[ItemKey, Minor],
    ) -> tuple[Settlement, ...]:
        """The settlements, with the end of those whose allocations were taken back; in the other two as
        well."""
        settlements = list(self.settlements)
        for place, settled in enumerate(settlements):
            until = undone_on.get(settled.allocation.id)
            if until is not None:
                settlements[place] = ended = settled._replace(until=until)
                _exchange(by_item, settled, ended)
                if settled.until is None:
                    _settle(left, settled, back=True)
        return tuple(settlements)

    def and_settled(self, more: tuple[Settlement, ...]) -> "OpenItems":
        """These with more settlements that stand."""
        made = OpenItems(self.items, (*self.settlements, *more))
        left = dict(self.open_now)
        for settlement in more:
            _settle(left, settlement)
        vars(made).update(
            by_transaction=self.by_transaction,
            by_party=self.by_party,
            open_now=left,
            by_item=_with_settlements(self.by_item, more),
        )
        return made

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
        keys = self.by_party.get(party, ())
        own = [(self.items[key], self.open_now[key]) for key in keys if self.open_now[key]]
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


def _settle(left: dict[ItemKey, Minor], settled: Settlement, *, back: bool = False) -> None:
    amount = -settled.allocation.amount if back else settled.allocation.amount
    left[settled.debit] -= amount
    left[settled.credit] += amount


def _with_settlements(
    by_item: Mapping[ItemKey, tuple[Settlement, ...]], more: Iterable[Settlement]
) -> Mapping[ItemKey, tuple[Settlement, ...]]:
    return _grouped(
        by_item,
        ((key, settlement) for settlement in more for key in (settlement.debit, settlement.credit)),
    )


def _grouped(
    before: Mapping[Key, tuple[Member, ...]], more: Iterable[tuple[Key, Member]]
) -> Mapping[Key, tuple[Member, ...]]:
    """The groups with more members, each behind those of its key."""
    added: dict[Key, list[Member]] = defaultdict(list)
    for key, member in more:
        added[key].append(member)
    return {**before, **{key: (*before.get(key, ()), *members) for key, members in added.items()}}


def _exchange(
    by_item: dict[ItemKey, tuple[Settlement, ...]], old: Settlement, new: Settlement
) -> None:
    for key in (old.debit, old.credit):
        by_item[key] = tuple(
            new if settlement is old else settlement for settlement in by_item[key]
        )


def open_items(books: Books) -> OpenItems:
    """The open items of the books. Allocations that name no item of theirs are left out."""
    found = books.derived.get("open items")
    if found is None:
        found = books.derived["open items"] = _open_items(books)
    return cast(OpenItems, found)


class _Made(NamedTuple):
    """Open items with what they were made of. *plain*: without what is taken back of nobody."""

    transactions: tuple[Transaction, ...]
    allocations: tuple[Allocation, ...]
    control: frozenset[str]
    plain: OpenItems


def _open_items(books: Books) -> OpenItems:
    before: _Made | None = books.kept.latest("open items")
    plain = _continued(books, before) if before is not None else None
    if plain is None:
        plain = OpenItems({}, ()).with_more(
            books.control_accounts, books.tables.transactions, books.tables.allocations
        )
    rows, links = books.tables.transactions, books.tables.allocations
    books.kept.put("open items", _Made(rows, links, books.control_accounts, plain))
    of_nobody = tuple(_taken_back_of_nobody(books, plain))
    return plain.and_settled(of_nobody) if of_nobody else plain


def _continued(books: Books, before: _Made) -> OpenItems | None:
    """The items of books that go on from others with more transactions and allocations, or with a few
    put right in words; None for any others."""
    rows, links = books.tables.transactions, books.tables.allocations
    known = len(before.allocations)
    if before.control != books.control_accounts or links[:known] != before.allocations:
        return None
    exchanged = books.kept.exchanged(before.transactions, rows)
    if exchanged is None or any(old.lines != new.lines for old, new in exchanged):
        return None
    more = (*(new for _, new in exchanged), *rows[len(before.transactions) :])
    return before.plain.with_more(books.control_accounts, more, links[known:])


def _taken_back_of_nobody(books: Books, plain: OpenItems) -> Iterator[Settlement]:
    """Lines without a party and what takes them back. No row can allocate them, there being nobody to
    allocate them for, and open on both sides they would count as two things that are wrong."""
    bare = [plain.items[key] for key in plain.by_party.get(None, ())]
    left = {item.key: item.amount for item in bare}
    for item in bare:
        for other in plain.by_transaction.get(_answers(books, item) or "", ()):
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
    row: Allocation, items: Mapping[str, tuple[OpenItem, ...]], until: date | None
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
