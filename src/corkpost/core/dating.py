"""Where a correction is dated, and where its profit part goes (handbook, section 7)."""

from collections.abc import Iterable, Mapping
from datetime import date
from enum import StrEnum
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.books import Books, Line, PriorPart, Transaction
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountType
from corkpost.core.money import Minor, rounded
from corkpost.core.owners import profit_shared
from corkpost.core.refusals import UnknownName
from corkpost.core.tax import with_tax_dates


class ProfitPart(StrEnum):
    """Where the profit part of a correction to an earlier year goes."""

    BY_MATERIALITY = "by-materiality"
    THIS_YEAR = "this-year"
    PRIOR_YEAR = "prior-year"


def profit_part(settings: Mapping[str, str]) -> ProfitPart:
    """The choice that a route's settings make; by materiality unless said. Raises UnknownName."""
    chosen = settings.get("profit", ProfitPart.BY_MATERIALITY)
    try:
        return ProfitPart(chosen)
    except ValueError:
        raise UnknownName("place for the profit part", chosen) from None


class Dated(NamedTuple):
    """A correction's lines on their date, and in words why so."""

    posting_date: date
    lines: tuple[Line, ...]
    notes: tuple[str, ...]
    prior_parts: tuple[PriorPart, ...] = ()


def correction_date(books: Books, corrected: date) -> date:
    """The date of what is corrected or, where that is barred, the first open day."""
    return books.calendar.first_open_day(corrected)


def materiality(books: Books) -> Minor:
    """Above this a prior-year correction does not touch this year's profit.

    What a partner set; until then 1% of the last signed year's income, or 500.00 where none is known.
    """
    if books.client.materiality is not None:
        return books.client.materiality
    income = books.signed_income if books.signed_income is not None else _prior_income(books)
    if income:
        return rounded(income * Fraction(1, 100))
    return books.client.currency.parse("500")


def _prior_income(books: Books) -> Minor:
    last = max((row.year_end for row in books.tables.prior_year), default=None)
    return -sum(
        row.amount
        for row in books.tables.prior_year
        if row.year_end == last and books.accounts[row.account].type is AccountType.INCOME
    )


def dated(
    books: Books,
    corrected: Transaction,
    lines: Iterable[Line],
    profit_part: ProfitPart = ProfitPart.BY_MATERIALITY,
    *,
    day_is: str = "the date of what it corrects",
) -> Dated:
    """The *lines* that correct a transaction, on the date and accounts that the rules give them.

    *day_is*: in words, what the day of *corrected* is.
    """
    lines = tuple(lines)
    on = correction_date(books, corrected.posting_date)
    notes = [why_then(books, corrected.posting_date, on, day_is)]
    parts: tuple[PriorPart, ...] = ()
    year = books.calendar.year_of(corrected.posting_date)
    if year != books.calendar.year_of(on):
        part = PriorPart(year.label, -sum(line.amount for line in _profit_lines(books, lines)))
        if part.amount:
            parts = (part,)
            lines, note = _prior_year_lines(books, lines, part, profit_part)
            notes.append(note)
    numbered = (line._replace(number=number) for number, line in enumerate(lines, 1))
    return Dated(on, with_tax_dates(books, tuple(numbered), on), tuple(notes), parts)


def through_kept_profit(
    books: Books, belongs_on: date, lines: tuple[Line, ...], part: PriorPart
) -> Dated:
    """The *lines* that move *part* between this year's profit and an earlier year's, which is barred
    on *belongs_on*: on the first open day."""
    on = books.calendar.first_open_day(belongs_on)
    note = f"{part.year} bears {books.client.currency.format_amount(abs(part.amount))} of it, not this year"
    return Dated(on, lines, (why_then(books, belongs_on, on, ""), note), (part,))


def why_then(books: Books, corrected: date, on: date, day_is: str) -> str:
    """Why a correction is dated *on*, in words. *day_is*: what the day of *corrected* is."""
    if on == corrected:
        return f"dated {format_date(on)}, {day_is}: that period is open"
    why = books.calendar.why_barred(corrected)
    return f"dated {format_date(on)}, the first open day: {why}, and nothing in it may move"


def _profit_lines(books: Books, lines: Iterable[Line]) -> list[Line]:
    return [line for line in lines if books.accounts[line.account].is_profit_and_loss]


def _prior_year_lines(
    books: Books, lines: tuple[Line, ...], part: PriorPart, choice: ProfitPart
) -> tuple[tuple[Line, ...], str]:
    limit = materiality(books)
    total = abs(part.amount) + posted_prior_parts(books, part.year)
    words = books.client.currency.format_amount
    sums = f"corrections to {part.year} come to {words(total)}, materiality is {words(limit)}"
    within = total <= limit
    if choice is ProfitPart.THIS_YEAR or (choice is ProfitPart.BY_MATERIALITY and within):
        chosen = "" if choice is ProfitPart.BY_MATERIALITY else " (chosen by hand)"
        return lines, f"profit part of {words(part.amount)} in this year{chosen}: {sums}"
    shared = profit_shared(books, -part.amount, "a prior-year correction")
    kept = [line for line in lines if not books.accounts[line.account].is_profit_and_loss]
    equity = [
        Line(0, account, amount, description=f"prior-year correction, {part.year}")
        for account, amount in shared.items()
        if amount
    ]
    where = " and ".join(books.accounts[account].name for account in shared)
    chosen = "" if choice is ProfitPart.BY_MATERIALITY else " (chosen by hand)"
    note = f"profit part of {words(part.amount)} to {where} as a prior-year correction{chosen}"
    return (*kept, *equity), f"{note}: {sums}"


def posted_prior_parts(books: Books, year: str) -> Minor:
    """The sum, without signs, of the profit parts already posted to the year of that label."""
    return sum(
        abs(part.amount)
        for change in books.changes
        if change.number not in books.undone
        for part in change.prior_parts
        if part.year == year
    )
