"""Opening balances to the trial balance that was signed, account by account."""

from collections.abc import Iterator
from datetime import date, timedelta

from corkpost.core.books import Books
from corkpost.core.control_proof import Cause
from corkpost.core.formatting import format_date
from corkpost.core.openings import opening_differences, signed_at
from corkpost.core.tie_outs.tie_out import Part, TieOut

ORDER = 10


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    year = books.calendar.year_of(as_at)
    year_end = year.first_day - timedelta(days=1)
    signed = signed_at(books, year_end)
    if signed is None:
        return
    rows = opening_differences(books, year_end, signed)
    differing = [row for row in rows if row.difference]
    yield TieOut(
        id="openings",
        kind="openings",
        title=f"Opening balances, {format_date(year.first_day)}",
        accounts=tuple(row.account for row in rows),
        # Debits alone: a whole trial balance comes to nil on both sides.
        books=sum(row.found for row in rows if row.found > 0),
        outside=sum(row.signed for row in rows if row.signed > 0),
        of_books=tuple(
            Part(books.accounts[row.account].name, row.found, account=row.account) for row in rows
        ),
        of_outside=tuple(
            Part(books.accounts[row.account].name, row.signed, account=row.account) for row in rows
        ),
        causes=tuple(
            Cause(
                f"{row.account} {books.accounts[row.account].name}: "
                f"signed {books.client.currency.format_amount(row.signed)}",
                row.difference,
                (),
            )
            for row in differing
        ),
        evidence=(f"trial balance signed as at {format_date(year_end)}",),
        apart=sum(abs(row.difference) for row in differing),
    )
