"""How many statement lines are rightly tied to the books, on generated statements. Also how fast.

Run by `make review-quality`.
"""

import gc
import time
from collections.abc import Iterable
from dataclasses import replace
from datetime import date
from random import Random
from typing import NamedTuple

from bench.books_of_size import books_of
from corkpost.core.bank.sides import bank_sides
from corkpost.core.books import Books
from corkpost.core.evidence.who import finder_for
from corkpost.core.kinds import AccountRole, StatementFormat
from corkpost.core.matching.bank_lines import Proposal, propose, text_key, who_of
from corkpost.core.points import Level
from corkpost.core.statements import Statement, StatementLine
from corkpost.demo.bank import Banked, BankHabit, banked
from corkpost.demo.labelled import labelled

FIRST, LAST = date(2025, 11, 1), date(2026, 10, 31)


class Quality(NamedTuple):
    """*pairs*: true ones; *found*: of them proposed; *sure*, *sure_wrong*: proposals shown as sure."""

    pairs: int
    found: int
    sure: int
    sure_wrong: int

    def __add__(self, other: object) -> "Quality":
        assert isinstance(other, Quality)
        return Quality(*(a + b for a, b in zip(self, other, strict=True)))


def with_statement(books: Books, side: Banked) -> Books:
    """The books with all that the bank shows as one statement."""
    lines = tuple(
        StatementLine(
            f"all#{n}", 1, r.line.day, r.line.amount, r.line.text, r.line.reference,
            r.line.counterparty, r.line.bank_id,
        )
        for n, r in enumerate(side.movements, 1)
    )  # fmt: skip
    closing = side.opening + sum(line.amount for line in lines)
    statement = Statement(
        1, side.account, "all", side.first, side.last, side.opening, closing, 0, None, (), lines
    )
    return Books(books.client, books.tables, books.calendar, statements=(statement,))


def proposals(books: Books, account: str) -> tuple[Proposal, ...]:
    sides = bank_sides(books, account)
    entries = [entry for entry in sides.entries.values() if FIRST <= entry.day <= LAST]
    return propose(books, sides, entries, sides.lines.values())


def measured(books: Books, side: Banked) -> Quality:
    """What is proposed for the statement, against what is true; twins count as right."""
    whole = with_statement(books, side)
    sides = bank_sides(whole, side.account)
    finder = finder_for(whole)
    truth = {
        f"all#{n}": r.entry
        for n, r in enumerate(side.movements, 1)
        if r.entry and FIRST <= sides.entries[r.entry].day <= LAST
    }

    def right(proposal: Proposal) -> bool:
        if len(proposal.lines) != 1 or len(proposal.entries) != 1:
            return False
        true = truth.get(proposal.lines[0])
        if true is None:
            return False
        mine, own = sides.entries[proposal.entries[0]], sides.entries[true]
        return mine == own or (
            mine.amount == own.amount
            and who_of(mine, finder) == who_of(own, finder)
            and text_key(mine.posted.memo or "") == text_key(own.posted.memo or "")
        )

    made = proposals(whole, side.account)
    found = sum(right(proposal) for proposal in made)
    sure = [proposal for proposal in made if proposal.level is Level.SURE]
    return Quality(len(truth), found, len(sure), sum(not right(proposal) for proposal in sure))


def measure(seeds: Iterable[int]) -> Quality:
    """Over labelled books of these seeds, with banks of several ways."""
    total = Quality(0, 0, 0, 0)
    for seed in seeds:
        rng = Random(f"bank {seed}")
        books = labelled(seed).books
        habit = BankHabit(
            "X", (StatementFormat.CSV,), delay=rng.choice(((0, 1), (0, 3), (1, 5))),
            names_numbers=rng.choice((20, 60, 90)), full_names=rng.random() < 0.5,
        )  # fmt: skip
        (bank,) = books.with_role(AccountRole.BANK)
        total += measured(books, banked(books, bank.code, habit, rng, FIRST, LAST))
    return total


def main() -> None:
    quality = measure(range(100, 120))
    print(f"statement lines tied to entries, on {quality.pairs:,} true pairs:")
    print(f"  found {quality.found / quality.pairs:.3f} (aim: 0.98)")
    print(f"  sure {quality.sure:,}, of them wrong {quality.sure_wrong} (aim: none)")
    books = books_of(9_000)
    (bank, *_) = books.with_role(AccountRole.BANK)
    side = banked(books, bank.code, BankHabit("X", (StatementFormat.CSV,)), Random(1), FIRST, LAST)
    side = replace(side, movements=side.movements[:2_400])
    whole = with_statement(books, side)
    gc.freeze()
    begun = time.process_time()
    made = proposals(whole, bank.code)
    took = time.process_time() - begun
    entries = sum(FIRST <= e.day <= LAST for e in bank_sides(whole, bank.code).entries.values())
    print(f"{len(side.movements):,} lines against {entries:,} entries: {took:.2f} s (aim: under 2)")
    print(f"  {len(made):,} proposals")


if __name__ == "__main__":
    main()
