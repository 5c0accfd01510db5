"""A field of an account put right, or confirmed; what stood before is kept."""

from datetime import datetime

from corkpost.core.amendments import ChartAmending, with_chart
from corkpost.core.books import AccountAmendment, Books
from corkpost.core.row_kinds import Posting, RowKind


def _posted(row: ChartAmending, posting: Posting) -> AccountAmendment:
    return AccountAmendment(
        row.account, posting.at, row.field, row.before, row.after, posting.reason
    )


def _inverse(books: Books, number: int) -> tuple[ChartAmending, ...]:
    rows = reversed(KIND.of_change(books, number))
    return tuple(ChartAmending(row.account, row.field, row.after, row.before) for row in rows)


KIND = RowKind(
    "account_amendments",
    8,
    AccountAmendment,
    key=lambda row: [row.account, row.at, row.field, row.before, row.after],
    readers={"at": datetime.fromisoformat},
    planned="chart",
    posted=_posted,
    laid_over=with_chart,
    inverse=_inverse,
)
