"""Money that is set against items: whose it seems to be, and which number it quotes.

What it says of itself is its memo and reference and, where it is agreed with the statement, the bank's
own words.
"""

import re
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

from corkpost.core.bank.sides import bank_accounts, bank_sides
from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import AccountRole, PartyKind, TransactionKind
from corkpost.core.matching.names import PartyFinder, words_of
from corkpost.core.matching.references import folded, quotes
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItem
from corkpost.core.points import Look

SIDES = (
    (TransactionKind.CUSTOMER_RECEIPT, AccountRole.RECEIVABLES, PartyKind.CUSTOMER, 1),
    (TransactionKind.SUPPLIER_PAYMENT, AccountRole.PAYABLES, PartyKind.SUPPLIER, -1),
)
_DIGITS = re.compile(r"\d+")
PAPERS = frozenset({TransactionKind.SALES_INVOICE, TransactionKind.PURCHASE_BILL})


class Applied(NamedTuple):
    """Money of a party with the papers that it is set against. *amount* positive."""

    posted: Transaction
    party: str
    amount: Minor
    papers: tuple[Transaction, ...]
    text: str


class Open(NamedTuple):
    """An open paper with what is left of it, positive."""

    item: OpenItem
    left: Minor


@dataclass(frozen=True)
class AppliedSide:
    """All applied money of customers, or of suppliers, and what is open beside it."""

    finder: PartyFinder
    money: tuple[Applied, ...]
    open_by_party: Mapping[str, tuple[Open, ...]]

    @cached_property
    def named(self) -> Mapping[str, str | None]:
        """By the money's id: the party that its text names."""
        return {one.posted.id: self.finder.named_in(one.text) for one in self.money}

    @cached_property
    def pays_for(self) -> Counter[tuple[str, str]]:
        """How often money that names one party is set against another: its habit."""
        return Counter(
            (who, one.party)
            for one in self.money
            if (who := self.named[one.posted.id]) and who != one.party
        )

    @cached_property
    def by_sum(self) -> Mapping[Minor, list[Open]]:
        found: dict[Minor, list[Open]] = defaultdict(list)
        for opens in self.open_by_party.values():
            for one in opens:
                found[one.left].append(one)
        return found

    @cached_property
    def _by_number(self) -> Mapping[str, list[Open]]:
        """The open papers that have a number, by that run of its digits which fewest others have: a year
        that all of them bear tells none from another. Those without digits under none."""
        numbered = [
            (one, [run.lstrip("0") for run in _DIGITS.findall(reference)])
            for opens in self.open_by_party.values()
            for one in opens
            if (reference := one.item.transaction.reference)
        ]
        shared = Counter(run for _, runs in numbered for run in dict.fromkeys(runs))
        found: dict[str, list[Open]] = defaultdict(list)
        for one, runs in numbered:
            # Of two that are as rare the later, which is where a number runs on.
            found[min(reversed(runs), key=lambda run: shared[run], default="")].append(one)
        return found

    def quoted(self, one: Applied) -> list[Open]:
        """The open papers whose number the money quotes, of any party."""
        runs = dict.fromkeys(["", *runs_in(one.text)])
        return [
            open_
            for run in runs
            for open_ in self._by_number.get(run, ())
            if quotes(one.text, open_.item.transaction.reference)
        ]


def runs_in(text: str | None) -> list[str]:
    """The runs of digits in a text, as they stand and as they are compared, without leading noughts."""
    found = _DIGITS.findall(text or "") + _DIGITS.findall(folded(text))
    return [run.lstrip("0") for run in found if run.strip("0")]


def applied_sides(look: Look) -> tuple[AppliedSide, ...]:
    """Receipts and payments, worked out once for the books."""
    kept: tuple[AppliedSide, ...] | None = look.books.derived.get("applied sides")
    if kept is None:
        kept = tuple(_side(look, *side) for side in SIDES)
        look.books.derived["applied sides"] = kept
    return kept


def _side(
    look: Look, kind: TransactionKind, role: AccountRole, party_kind: PartyKind, sign: int
) -> AppliedSide:
    books = look.books
    accounts = {account.code for account in books.with_role(role)}
    opens: dict[str, list[Open]] = defaultdict(list)
    for key, left in look.items.open_now.items():
        if left * sign > 0 and key[1] in accounts and key[2] is not None:
            item = look.items.items[key]
            if item.transaction.kind in PAPERS:
                opens[key[2]].append(Open(item, abs(left)))
    return AppliedSide(
        PartyFinder(books.tables.parties, frozenset({party_kind})),
        tuple(_applied(look, kind, accounts)),
        {party: tuple(rows) for party, rows in opens.items()},
    )


def _applied(look: Look, kind: TransactionKind, accounts: set[str]) -> Iterator[Applied]:
    books = look.books
    statement = statement_words(books)
    for posted in books.tables.transactions:
        gone = books.is_answered(posted.id)
        if posted.kind is not kind or posted.party is None or gone:
            continue
        amount = abs(sum(line.amount for line in posted.lines if line.account in accounts))
        papers = []
        for row in look.items.standing_on(posted.id):
            for name in (row.debit_transaction, row.credit_transaction):
                if name != posted.id and name in books.transactions:
                    papers.append(books.transactions[name])
        words = (posted.memo, posted.reference, statement.get(posted.id))
        text = " ".join(part for part in words if part)
        yield Applied(posted, posted.party, amount, tuple(papers), text)


def statement_words(books: Books) -> Mapping[str, str]:
    """What the bank wrote of each transaction that is agreed with a statement line."""
    kept: dict[str, str] | None = books.derived.get("statement words")
    if kept is None:
        kept = {}
        for code in bank_accounts(books):
            for group in bank_sides(books, code).groups.values():
                if len(group.lines) == 1:
                    for entry in group.entries:
                        kept[entry.posted.id] = group.lines[0].words
        books.derived["statement words"] = kept
    return kept


def names_itself(books: Books, one: Applied) -> bool:
    """Whether its text bears a word of its own party's names."""
    party = books.parties.get(one.party)
    own = [party.name, *party.aliases] if party else []
    return any(words_of(name) & words_of(one.text) for name in own)


def quotes_own(one: Applied) -> bool:
    """Whether its text quotes one of the papers that it is set against."""
    return any(quotes(one.text, paper.reference) for paper in one.papers)
