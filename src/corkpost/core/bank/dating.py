"""The days on which agreements with the bank count."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.bank.sides import bank_sides
from corkpost.core.books import Books
from corkpost.core.change import Plan


def agreement_days(plan: Plan, books: Books) -> Iterator[date]:
    """The days of what a plan agrees or takes apart by itself; none where it posts entries, which have days
    of their own."""
    if plan.entries:
        return
    for row in plan.agreements:
        sides = bank_sides(books, row.account)
        if row.takes_apart and row.group in sides.groups:
            yield sides.groups[row.group].day
        line = sides.lines.get(row.statement_line or "")
        if line is not None:
            yield line.day
        entry = sides.entries.get((row.transaction or "", row.line or 0))
        if entry is not None:
            yield entry.day
