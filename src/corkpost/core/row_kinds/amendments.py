"""Words of a transaction put right; what stood before is kept (section 7)."""

from datetime import datetime

from corkpost.core.amendments import Amending, with_amendments
from corkpost.core.books import Amendment, Books
from corkpost.core.row_kinds import Posting, RowKind


def _posted(row: Amending, posting: Posting) -> Amendment:
    return Amendment(row.transaction, posting.at, row.field, row.before, row.after, posting.reason)


def _inverse(books: Books, number: int) -> tuple[Amending, ...]:
    rows = reversed(KIND.of_change(books, number))
    return tuple(Amending(row.transaction, row.field, row.after, row.before) for row in rows)


KIND = RowKind(
    "amendments",
    7,
    Amendment,
    key=lambda row: [row.transaction, row.at, row.field, row.before, row.after],
    readers={"at": datetime.fromisoformat},
    planned="amendments",
    posted=_posted,
    laid_over=with_amendments,
    inverse=_inverse,
)
