"""Money that is set against items: whose it seems to be, and which number it quotes.

What it says of itself is its memo and reference and, where it is agreed with the statement, the bank's
own words.
"""

import re
from collections import Counter, defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import NamedTuple

from corkpost.core.books import Allocation, Books, Transaction
from corkpost.core.evidence.names import words_of
from corkpost.core.evidence.references import all_digits, quotes, runs_in
from corkpost.core.evidence.said import statement_words
from corkpost.core.evidence.who import PartyFinder, finder_for
from corkpost.core.kinds import AccountRole, PartyKind, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItem
from corkpost.core.points import CheckRun
from corkpost.core.touched import touched_since

SIDES = (
    (TransactionKind.CUSTOMER_RECEIPT, AccountRole.RECEIVABLES, PartyKind.CUSTOMER, 1),
    (TransactionKind.SUPPLIER_PAYMENT, AccountRole.PAYABLES, PartyKind.SUPPLIER, -1),
)
ITSELF = 0.5
"""A text that looks so much like its own party's name is taken to bear it."""
_DIGITS = re.compile(r"\d+")
PAPERS = frozenset({TransactionKind.SALES_INVOICE, TransactionKind.PURCHASE_BILL})


class Applied(NamedTuple):
    """Money of a party with the papers that it is set against. *amount* positive."""

    posted: Transaction
    party: str
    amount: Minor
    papers: tuple[Transaction, ...]
    text: str
    who: str | None
    """The party that its text names."""
    quotes_own: bool
    """Whether its text quotes one of the papers that it is set against."""
    in_part: bool
    """Whether it settles no paper in full by itself, nor several."""
    runs: tuple[str, ...]
    """The runs of digits in its text; none at the beginning, for papers without digits."""


class Open(NamedTuple):
    """An open paper with what is left of it, positive."""

    item: OpenItem
    left: Minor


@dataclass(frozen=True)
class AppliedSide:
    """All applied money of customers, or of suppliers, and what is open beside it."""

    money: tuple[Applied, ...]
    open_by_party: Mapping[str, tuple[Open, ...]]

    @cached_property
    def doubtful(self) -> tuple[Applied, ...]:
        """The money that quotes none of the papers that it is set against, if it is set against any, where
        it quotes an open paper's number or an open paper has its sum."""
        return tuple(
            applied
            for applied in self.money
            if (quoted := self._quoted.get(applied.posted.id)) is not None
            and (quoted or applied.amount in self.by_sum)
        )

    @cached_property
    def pays_for(self) -> Counter[tuple[str, str]]:
        """How often money that names one party is set against another: its habit."""
        return Counter(
            (applied.who, applied.party)
            for applied in self.money
            if applied.who and applied.who != applied.party
        )

    @cached_property
    def by_sum(self) -> Mapping[Minor, list[Open]]:
        found: dict[Minor, list[Open]] = defaultdict(list)
        for opens in self.open_by_party.values():
            for item in opens:
                found[item.left].append(item)
        return found

    @cached_property
    def _by_number(self) -> Mapping[str, list[Open]]:
        """The open papers that have a number, by that run of its digits which fewest others have: a year
        that all of them bear tells none from another. Those without digits under none."""
        numbered = [
            (item, _runs_of(reference))
            for opens in self.open_by_party.values()
            for item in opens
            if (reference := item.item.transaction.reference)
        ]
        shared = Counter(run for _, runs in numbered for run in runs)
        found: dict[str, list[Open]] = defaultdict(list)
        for item, runs in numbered:
            # Of two that are as rare the later, which is where a number runs on.
            found[min(reversed(runs), key=lambda run: shared[run], default="")].append(item)
            if (whole := all_digits(item.item.transaction.reference)) not in runs:
                found[whole].append(item)
        return found

    @cached_property
    def _quoted(self) -> Mapping[str, list[Open]]:
        """The open papers whose number is quoted, by the id of the money; of money that quotes none of
        those that it is set against."""
        return {
            applied.posted.id: list(
                {
                    open_.item.transaction.id: open_
                    for run in applied.runs
                    for open_ in self._by_number.get(run, ())
                    if quotes(applied.text, open_.item.transaction.reference)
                }.values()
            )
            for applied in self.money
            if not applied.quotes_own
        }

    def quoted(self, doubtful: Applied) -> list[Open]:
        """The open papers whose number the doubtful money quotes, of any party."""
        return self._quoted[doubtful.posted.id]


@lru_cache(maxsize=1 << 16)
def _runs_of(reference: str) -> tuple[str, ...]:
    return tuple(dict.fromkeys(run.lstrip("0") for run in _DIGITS.findall(reference)))


def applied_sides(run: CheckRun) -> tuple[AppliedSide, ...]:
    """Receipts and payments, worked out once for the books."""
    kept: tuple[AppliedSide, ...] | None = run.books.derived.get("applied sides")
    if kept is None:
        kept = tuple(_side(run, *side) for side in SIDES)
        run.books.derived["applied sides"] = kept
    return kept


def _side(
    run: CheckRun, kind: TransactionKind, role: AccountRole, party_kind: PartyKind, sign: int
) -> AppliedSide:
    books = run.books
    accounts = {account.code for account in books.with_role(role)}
    opens: dict[str, list[Open]] = defaultdict(list)
    for item, left in run.items.open_on(accounts):
        if left * sign > 0 and item.party is not None and item.transaction.kind in PAPERS:
            opens[item.party].append(Open(item, abs(left)))
    finder = finder_for(books, party_kind)
    by_id = _applied_by_id(run, kind, accounts, finder)
    found = (by_id[posted.id] for posted in books.of_kinds(kind))
    return AppliedSide(
        tuple(applied for applied in found if applied is not None),
        {party: tuple(rows) for party, rows in opens.items()},
    )


class _Made(NamedTuple):
    """Applied money by id, None for what is put right or nobody's, with what it was made of."""

    ground: object
    transactions: tuple[Transaction, ...]
    allocations: tuple[Allocation, ...]
    by_id: Mapping[str, Applied | None]


def _applied_by_id(
    run: CheckRun, kind: TransactionKind, accounts: set[str], finder: PartyFinder
) -> Mapping[str, Applied | None]:
    books, name = run.books, f"applied {kind}"
    rows, links, statement = (
        books.tables.transactions,
        books.tables.allocations,
        statement_words(books),
    )
    ground = (run.ground, statement)
    before: _Made | None = books.kept.latest(name)
    touched = None
    if before is not None and before.ground == ground:
        touched = touched_since(books, before.transactions, before.allocations)
    by_id: dict[str, Applied | None] = {}
    if before is not None and touched is not None:
        by_id |= before.by_id
        for gone in touched & by_id.keys():
            del by_id[gone]
    for posted in books.of_kinds(kind):
        if posted.id not in by_id:
            live = posted.party is not None and not books.is_answered(posted.id)
            words = statement.get(posted.id)
            by_id[posted.id] = _applied(run, posted, accounts, finder, words) if live else None
    books.kept.put(name, _Made(ground, rows, links, by_id))
    return by_id


def _applied(
    run: CheckRun, posted: Transaction, accounts: set[str], finder: PartyFinder, words: str | None
) -> Applied:
    books = run.books
    amount = abs(sum(line.amount for line in posted.lines if line.account in accounts))
    papers = tuple(
        books.transactions[side]
        for row in run.items.standing_on(posted.id)
        for side in (row.debit_transaction, row.credit_transaction)
        if side != posted.id and side in books.transactions
    )
    text = " ".join(part for part in (posted.memo, posted.reference, words) if part)
    quoted = any(quotes(text, paper.reference) for paper in papers)
    in_part = bool(papers) and sum(paper.total for paper in papers) != amount
    runs = tuple(dict.fromkeys(["", *runs_in(text)]))
    who = finder.named_in(text)
    return Applied(posted, posted.party or "", amount, papers, text, who, quoted, in_part, runs)


def names_itself(books: Books, applied: Applied) -> bool:
    """Whether its text bears a word of its own party's names."""
    party = books.parties.get(applied.party)
    own = [party.name, *party.aliases] if party else []
    bears = any(words_of(name) & words_of(applied.text) for name in own)
    return bears or finder_for(books).likeness(applied.text, applied.party) >= ITSELF
