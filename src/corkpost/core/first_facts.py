"""Facts of points as the first releases digested them: decisions that were made then still hold."""

import hashlib
import json
from datetime import date
from typing import NamedTuple

from corkpost.core.bank.sides import statement_line
from corkpost.core.books import Books
from corkpost.core.money import Minor
from corkpost.core.points import FACTS, Point


class Line(NamedTuple):
    """A line as it was then: its name and fields were written into the digest. Nothing is added here."""

    number: int
    account: str
    amount: Minor
    party: str | None
    tax_code: str | None
    description: str | None
    dimensions: str | None
    currency: str | None
    foreign_amount: str | None
    tax_date: date | None
    other: str


def are_facts_of(point: Point, kept: str, books: Books) -> bool:
    """Whether the facts that were kept with a decision are those of the point as it is found now."""
    if kept.startswith(FACTS):
        return kept == point.facts
    # The sum had a sign then, which the point does not keep.
    return kept in (_first_facts(point, books, 1), _first_facts(point, books, -1))


def _first_facts(point: Point, books: Books, sign: int) -> str:
    entries = sorted(
        str(
            (
                posted.id,
                posted.kind,
                posted.posting_date,
                tuple(Line(*(getattr(x, name) for name in Line._fields)) for x in posted.lines),
            )
        )
        for posted in (books.transactions[name] for name in point.transactions)
    )
    facts: list[object] = [sign * point.amount, point.level, entries]
    if point.statement_lines:
        lines = (statement_line(books, name) for name in point.statement_lines)
        facts.append([(line.id, line.amount) for line in lines])
    return hashlib.sha256(json.dumps(facts).encode()).hexdigest()[:16]
