"""Which year is under review, and which day is signed off next."""

from datetime import date

from corkpost.core.books import Books
from corkpost.core.periods import ONE_DAY, FinancialYear
from corkpost.core.refusals import UnknownName


def year_named(books: Books, label: str) -> FinancialYear:
    """The financial year of that label. Raises UnknownName."""
    year = books.calendar.year_labelled(label)
    if year is None:
        raise UnknownName("financial year", label)
    return year


def year_under_review(books: Books, today: date) -> FinancialYear:
    """The first year that is neither filed nor sealed to its end; at most today's."""
    calendar = books.calendar
    barred = calendar.barred_through
    first = books.client.books_from or min(
        (t.posting_date for t in books.tables.transactions), default=today
    )
    year = calendar.year_of(max(first, barred + ONE_DAY) if barred else first)
    last = calendar.year_of(today)
    return year if year.first_day <= last.first_day else last


def sign_off_day(books: Books, year: FinancialYear, today: date) -> date:
    """The day that the year's next sign-off is as at: its last period that is over, at most its end."""
    ends = [period.last_day for period in books.calendar.periods(year)]
    return max((end for end in ends if end <= today), default=ends[0])
