"""Two sums of money, each set against the paper that the other is for."""

from collections import defaultdict
from collections.abc import Iterator
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.evidence.references import numbers_of, quotes
from corkpost.core.matching.applied_money import Applied, AppliedSide, names_itself
from corkpost.core.money import Minor

BY_BOTH, BY_NUMBER, BY_SUM, BY_NAME = 0.97, 0.9, 0.85, 0.93
TELLING = 4
"""A run of digits in so many papers of a party still tells them from others."""


class Exchange(NamedTuple):
    """*one* is for the paper of *other*, and the other way round."""

    one: Applied
    other: Applied
    certainty: float
    because: tuple[str, ...]


def exchanges(books: Books, side: AppliedSide, *, parties: bool) -> Iterator[Exchange]:
    """Those within a party; with *parties* those between two. None stands in two of them."""
    singles = [applied for applied in side.money if len(applied.papers) == 1]
    found = _between(books, singles) if parties else _within(singles)
    used: set[str] = set()
    for exchange in sorted(found, key=lambda row: (-row.certainty, row.one.posted.id)):
        names = {exchange.one.posted.id, exchange.other.posted.id}
        if not names & used:
            used |= names
            yield exchange


def _paper(applied: Applied) -> Transaction:
    return applied.papers[0]


def _within(singles: list[Applied]) -> Iterator[Exchange]:
    doubted = [applied for applied in singles if not applied.quotes_own]
    by_sum: dict[tuple[str, Minor], list[Applied]] = defaultdict(list)
    by_number: dict[tuple[str, str], list[Applied]] = defaultdict(list)
    for applied in doubted:
        by_sum[applied.party, applied.amount].append(applied)
        for run in numbers_of(_paper(applied).reference):
            by_number[applied.party, run].append(applied)
    for one in doubted:
        own = _paper(one).total
        others = by_sum.get((one.party, own), []) if one.amount != own else []
        # A run of digits that many numbers have tells none of them.
        told = [by_number.get((one.party, run), ()) for run in one.runs if run]
        quoted = [row for rows in told if len(rows) <= TELLING for row in rows]
        for other in {row.posted.id: row for row in (*others, *quoted)}.values():
            if other.posted.id > one.posted.id and _paper(one).id != _paper(other).id:
                yield from _weighed(one, other)


def _weighed(one: Applied, other: Applied) -> Iterator[Exchange]:
    numbers = quotes(one.text, _paper(other).reference) and quotes(
        other.text, _paper(one).reference
    )
    fits = one.amount == _paper(other).total and other.amount == _paper(one).total
    differs = one.amount != other.amount
    why = []
    if numbers:
        why.append("each quotes the number of the other's document")
    if fits and differs:
        why.append("each has the very sum of the other's document, and not of its own")
    if why:
        certainty = BY_BOTH if numbers and fits else BY_NUMBER if numbers else BY_SUM
        yield Exchange(one, other, certainty, tuple(why))


def _between(books: Books, singles: list[Applied]) -> Iterator[Exchange]:
    by_names: dict[tuple[str, str], list[Applied]] = defaultdict(list)
    for applied in singles:
        if applied.who and applied.who != applied.party and not names_itself(books, applied):
            by_names[applied.who, applied.party].append(applied)
    for (who, party), rows in by_names.items():
        for one in rows if who < party else ():
            for other in by_names.get((party, who), ()):
                if one.amount == _paper(other).total and other.amount == _paper(one).total:
                    why = (
                        "each names the party of the other",
                        "each has the sum of the other's document",
                    )
                    yield Exchange(one, other, BY_NAME, why)
