"""Entries that came into a month after it was finished (handbook, section 9): marked wherever they are."""

from corkpost.core.books import Books, Transaction
from corkpost.core.formatting import format_date
from corkpost.core.kinds import TransactionKind


def late_because(books: Books, posted: Transaction) -> str | None:
    """Why the entry is late, in words: keyed into a filed year, or into what was signed off already. None
    where it is not. Closing entries never are: a year is closed after it was signed."""
    if posted.kind is TransactionKind.CLOSING:
        return None
    through, filed_on = books.client.filed_through, books.filed_on
    keyed = posted.entered_at
    if through and filed_on and keyed and posted.posting_date <= through and keyed > filed_on:
        return f"keyed on {format_date(keyed.date())}, after the year was filed"
    came = posted.change or books.arrived.get(posted.id)
    for signed in books.signed:
        if came is not None and came > signed.change and posted.posting_date <= signed.as_at:
            return f"it came after {format_date(signed.as_at)} was signed off"
    return None
