"""A party that is read as another, or no longer (section 7, `merge-party`)."""

from datetime import datetime

from corkpost.core.books import Books, PartyAmendment
from corkpost.core.change import PartyAmending
from corkpost.core.merging import with_merges
from corkpost.core.row_kinds import Posting, RowKind


def _posted(row: PartyAmending, posting: Posting) -> PartyAmendment:
    return PartyAmendment(row.party, posting.at, row.before, row.after, posting.reason)


def _inverse(books: Books, number: int) -> tuple[PartyAmending, ...]:
    rows = reversed(KIND.of_change(books, number))
    return tuple(PartyAmending(row.party, row.after, row.before) for row in rows)


KIND = RowKind(
    "party_amendments",
    9,
    PartyAmendment,
    key=lambda row: [row.party, row.at, row.before, row.after],
    readers={"at": datetime.fromisoformat},
    planned="parties_amended",
    posted=_posted,
    laid_over=with_merges,
    inverse=_inverse,
)
