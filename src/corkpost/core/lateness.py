"""Entries that came into a month after it was finished (handbook, section 9): marked wherever they are."""

from collections.abc import Mapping
from datetime import date, datetime, time

from corkpost.core.books import Books, Transaction
from corkpost.core.formatting import format_date
from corkpost.core.kinds import TransactionKind


def came_on(books: Books) -> Mapping[str, date]:
    """The day on which newer books brought each transaction that they did."""
    days = {change.number: change.made_on for change in books.changes}
    return {name: days[number] for name, number in books.arrived.items() if number in days}


def keyed_at(books: Books, posted: Transaction, came: date | None) -> datetime | None:
    """When it was keyed, as the books say; what newer books brought into a filed year on a day (*came*) was
    not there before, whatever they say."""
    through = books.client.filed_through
    if came is None or through is None or posted.posting_date > through:
        return posted.entered_at
    then = datetime.combine(came, time())
    return max(posted.entered_at or then, then)


def late_because(books: Books, posted: Transaction) -> str | None:
    """Why the entry is late, in words: keyed into a filed year, or into what was signed off already. None
    where it is not. Closing entries never are: a year is closed after it was signed."""
    if posted.kind is TransactionKind.CLOSING:
        return None
    through, filed_on = books.client.filed_through, books.filed_on
    keyed = keyed_at(books, posted, came_on(books).get(posted.id))
    if through and filed_on and keyed and posted.posting_date <= through and keyed > filed_on:
        return f"keyed on {format_date(keyed.date())}, after the year was filed"
    came = posted.change or books.arrived.get(posted.id)
    for signed in books.signed:
        if came is not None and came > signed.change and posted.posting_date <= signed.as_at:
            return f"it came after {format_date(signed.as_at)} was signed off"
    return None
