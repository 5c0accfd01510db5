"""A proof agreed, with the figures that it was agreed at; or opened again."""

from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.money import Minor
from corkpost.core.row_kinds import Row, RowKind


class TieOutAgreed(NamedTuple):
    """*books*, *outside*: as they were, debit positive; *keyed*: the outside figure came from a paper,
    *paper* its digest and
    *paper_name* its name, where one is kept. *facts*: of the proof as it was seen. *agrees*: no where an
    agreement is taken back."""

    tie_out: str
    as_at: date
    books: Minor
    outside: Minor
    note: str
    facts: str
    keyed: bool = False
    paper: str | None = None
    paper_name: str | None = None
    agrees: bool = True
    change: int | None = None


def _laid_over(books: Books, rows: tuple[Row, ...]) -> Books:
    tables = books.tables.with_rows("tie_outs", (*books.tables.of("tie_outs"), *rows))
    return books.followed_by(tables=tables)


def _inverse(books: Books, number: int) -> tuple[TieOutAgreed, ...]:
    return tuple(
        row._replace(agrees=not row.agrees, change=None) for row in KIND.of_change(books, number)
    )


KIND = RowKind(
    "tie_outs",
    11,
    TieOutAgreed,
    key=lambda row: [row.tie_out, row.as_at, row.agrees],
    readers={"as_at": date.fromisoformat},
    laid_over=_laid_over,
    inverse=_inverse,
)
