"""What settles what, where the listings do not say it: by the open-item list, by numbers, by exact sums,
then the oldest first. All of it is marked as reckoned."""

import json
from collections import defaultdict, deque
from collections.abc import Iterable, Iterator, Mapping, Sequence, Set
from dataclasses import dataclass
from datetime import date

from corkpost.core.books import Allocation, Transaction
from corkpost.core.intake.raw import OpenItem
from corkpost.core.kinds import TransactionKind
from corkpost.core.money import Minor

BY_NUMBER, BY_SUM, OLDEST_FIRST = "its number is named", "the sums are equal", "the oldest first"
_RECKONED = {why: json.dumps({"reckoned": why}) for why in (BY_NUMBER, BY_SUM, OLDEST_FIRST)}
MONEY = frozenset(
    {
        TransactionKind.CUSTOMER_RECEIPT,
        TransactionKind.SUPPLIER_PAYMENT,
        TransactionKind.CUSTOMER_REFUND,
        TransactionKind.SUPPLIER_REFUND,
    }
)
LEAST_FIGURES = 3
"""So many signs of a number say whose it is; fewer stand in too many texts."""


@dataclass
class _Item:
    """*amount*: what is left to settle, debit positive. *of_other*: it is money that names a paper, and no
    paper of this party that was open."""

    posted: Transaction
    amount: Minor
    day: date
    reference: str
    of_other: bool = False

    @property
    def said(self) -> set[str]:
        """What may be a number in it."""
        return {self.reference, *(self.posted.memo or "").casefold().split()}


def settled(
    transactions: Sequence[Transaction], controls: Iterable[str], open_items: Sequence[OpenItem]
) -> list[Allocation]:
    """Allocations party by party. What an open-item list says is open of a document is left open."""
    listed: dict[str, list[OpenItem]] = defaultdict(list)
    for item in open_items:
        listed[item.party].append(item)
    found: list[Allocation] = []
    sides: dict[tuple[str, str], list[_Item]] = defaultdict(list)
    codes = frozenset(controls)
    papers = {
        (posted.reference or "").casefold() for posted in transactions if posted.kind not in MONEY
    }
    papers = {number for number in papers if len(number) >= LEAST_FIGURES and _has_figure(number)}
    for posted in transactions:
        for (account, party), amount in _on_controls(posted, codes).items():
            if amount:
                reference = (posted.reference or "").casefold()
                sides[account, party].append(_Item(posted, amount, posted.posting_date, reference))
    for (_, party), items in sorted(sides.items()):
        _leave_open(items, listed.get(party, ()))
        for debit, credit, amount, why in _matched(items, papers):
            found.append(
                Allocation(
                    "",
                    max(debit.day, credit.day),
                    party,
                    debit.posted.id,
                    credit.posted.id,
                    amount,
                    other=_RECKONED[why],
                )
            )
    return _named_apart(found)


def _named_apart(rows: list[Allocation]) -> list[Allocation]:
    """Each under a name of its own, the same whenever it is reckoned."""
    times: dict[tuple[str, str], int] = defaultdict(int)
    named = []
    for row in rows:
        pair = (row.debit_transaction, row.credit_transaction)
        times[pair] += 1
        tail = f"/{times[pair]}" if times[pair] > 1 else ""
        named.append(row._replace(id=f"{pair[0]}/{pair[1]}{tail}"))
    return named


def _on_controls(posted: Transaction, controls: frozenset[str]) -> Mapping[tuple[str, str], Minor]:
    sums: dict[tuple[str, str], Minor] = defaultdict(int)
    for line in posted.lines:
        if line.account in controls and line.party:
            sums[line.account, line.party] += line.amount
    return sums


def _leave_open(items: list[_Item], listed: Sequence[OpenItem]) -> None:
    """Take out of what can be settled what the list says is open still."""
    for item in listed:
        named = [
            row
            for row in items
            if item.reference and row.reference == item.reference.casefold() and row.posted
        ]
        for row in named or [r for r in items if r.amount == item.amount and r.day == item.day]:
            if (row.amount > 0) == (item.amount > 0):
                row.amount -= item.amount if abs(item.amount) <= abs(row.amount) else row.amount
                break


def _has_figure(number: str) -> bool:
    return any(sign.isdigit() for sign in number)


def _matched(items: list[_Item], papers: Set[str]) -> Iterator[tuple[_Item, _Item, Minor, str]]:
    """*papers*: the numbers of all papers: money that names one which this party does not owe, or owes no
    longer, is for no other of its papers."""
    items.sort(key=lambda row: (row.day, row.posted.id))
    for row in items:
        row.of_other = row.posted.kind in MONEY and bool(row.said & papers)
    yield from _by_number(items)
    yield from _by_sum(items)
    spread = [row for row in items if not row.of_other]
    debits = deque(row for row in spread if row.amount > 0)
    credits = deque(row for row in spread if row.amount < 0)
    while debits and credits:
        yield _take(debits[0], credits[0], OLDEST_FIRST)
        for left in (debits, credits):
            if not left[0].amount:
                left.popleft()


def _take(one: _Item, other: _Item, why: str) -> tuple[_Item, _Item, Minor, str]:
    """Settle of both what the smaller has."""
    debit, credit = (one, other) if one.amount > 0 else (other, one)
    if why is BY_NUMBER:
        debit.of_other = credit.of_other = False
    amount = min(debit.amount, -credit.amount)
    debit.amount -= amount
    credit.amount += amount
    return debit, credit, amount, why


def _by_number(items: list[_Item]) -> Iterator[tuple[_Item, _Item, Minor, str]]:
    """What names the other's number."""
    numbered: dict[str, dict[bool, deque[_Item]]] = {}
    for row in items:
        if len(row.reference) >= LEAST_FIGURES and row.amount:
            sides = numbered.setdefault(row.reference, {True: deque(), False: deque()})
            sides[row.amount > 0].append(row)
    for row in items:
        for number in sorted(row.said & numbered.keys()):
            mates = numbered[number][row.amount < 0]
            while row.amount and mates:
                if mates[0].amount:
                    yield _take(row, mates[0], BY_NUMBER)
                else:
                    mates.popleft()


def _by_sum(items: list[_Item]) -> Iterator[tuple[_Item, _Item, Minor, str]]:
    """Equal sums, the earliest first."""
    waiting: dict[Minor, deque[_Item]] = defaultdict(deque)
    for row in items:
        if not row.amount:
            continue
        mates = waiting[-row.amount]
        if mates:
            yield _take(row, mates.popleft(), BY_SUM)
        else:
            waiting[row.amount].append(row)
