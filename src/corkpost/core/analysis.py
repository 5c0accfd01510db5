"""Analytical reading: a span against the same a year earlier by account, month by month, and ratios
(handbook, section 9). What moved much asks for one line of explanation."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from datetime import date
from enum import StrEnum
from fractions import Fraction
from statistics import median
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.budgets import budget_of
from corkpost.core.dating import materiality
from corkpost.core.financials import (
    BalanceSheet,
    ProfitAndLoss,
    Section,
    StatementRow,
    balance_sheet,
    profit_and_loss,
    year_earlier,
)
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor, rounded
from corkpost.core.running_sums import Month, running_sums

MONTHS = 12
ASKS_PERCENT = 10
"""What moved by so much of last year, and by materiality, asks for an explanation."""
FEWEST = 6
"""Fewer months with a figure have no run that one of them could break."""
BREAKS_BY = 3
"""So many times the usual distance from the middle breaks the run."""

WAGES = frozenset({AccountRole.WAGES, AccountRole.DIRECTOR_PAY, AccountRole.EMPLOYER_CONTRIBUTIONS})


class Unit(StrEnum):
    PERCENT = "%"
    DAYS = "days"
    TIMES = "times"


class Reading(NamedTuple):
    """One account of profit and loss. *months*: the twelve to the end of the span, the last one last;
    *earlier*: the twelve before; *broke*: which of the later broke the run, from 0. *asks*: it moved so
    much, or is so far from its budget, that it wants a word. *budget*: nil where it has none."""

    section: Section
    account: str
    name: str
    now: Minor
    before: Minor
    months: tuple[Minor, ...]
    earlier: tuple[Minor, ...]
    broke: tuple[int, ...]
    asks: bool
    budget: Minor = 0

    @property
    def change(self) -> Minor:
        return self.now - self.before


class Ratio(NamedTuple):
    """*now*, *before*: None where a part of it is nil, or not known. *how*: what is divided by what."""

    name: str
    unit: Unit
    now: Fraction | None
    before: Fraction | None
    how: str


def one_decimal(value: Fraction) -> str:
    """A ratio as people read it: `74.2`."""
    return f"{rounded(value * 10) / 10:.1f}"


class Analysis(NamedTuple):
    first: date
    last: date
    months: tuple[Month, ...]
    rows: tuple[Reading, ...]
    ratios: tuple[Ratio, ...]


def analysis(books: Books, first: date, last: date) -> Analysis:
    """The span from *first* to *last*, both included, beside the same a year earlier."""
    result = profit_and_loss(books, first, last)
    months, earlier = _months_to(last), _months_to(year_earlier(last))
    by_month = _by_month(books, (*earlier, *months))
    limit = materiality(books)
    meant = budget_of(books, first, last)
    return Analysis(
        first,
        last,
        months,
        tuple(
            Reading(
                row.section,
                row.account,
                row.name,
                row.amount,
                row.before,
                series,
                before,
                breaks(series, before),
                _asks(row.amount, row.before, limit)
                or bool(budget and _asks(row.amount, budget, limit)),
                budget,
            )
            for row in result.rows
            for budget in [meant.get(row.account, 0) * (-1 if row.section is Section.INCOME else 1)]
            for own in [by_month.get(row.account, {})]
            for series in [_series(row.section, own, months)]
            for before in [_series(row.section, own, earlier)]
        ),
        tuple(_ratios(books, result, first, last)),
    )


def _months_to(last: date) -> tuple[Month, ...]:
    number = last.year * 12 + last.month - 1
    return tuple(((n // 12), n % 12 + 1) for n in range(number - MONTHS + 1, number + 1))


def _by_month(books: Books, months: Sequence[Month]) -> Mapping[str, Mapping[Month, Minor]]:
    """What each account moved in each month, debit positive, closing entries left out."""
    found: dict[str, dict[Month, Minor]] = {}
    sums = running_sums(books).accounts
    for month in months:
        for (sort, account), amount in sums.get(month, {}).items():
            if not sort.closing:
                own = found.setdefault(account, {})
                own[month] = own.get(month, 0) + amount
    return found


def _series(
    section: Section, by_month: Mapping[Month, Minor], months: Iterable[Month]
) -> tuple[Minor, ...]:
    sign = -1 if section is Section.INCOME else 1
    return tuple(sign * by_month.get(month, 0) for month in months)


def breaks(series: Sequence[Minor], earlier: Sequence[Minor]) -> tuple[int, ...]:
    """The places that lie further from the middle than the run usually does, and from the same month a
    year earlier too, so that a season breaks nothing; none where there is no run."""
    some = [amount for amount in series if amount]
    if len(some) < FEWEST:
        return ()
    middle = median(some)
    usual = median(abs(amount - middle) for amount in some)
    limit = max(BREAKS_BY * usual, abs(middle) / 2)
    return tuple(
        place
        for place, (amount, then) in enumerate(zip(series, earlier, strict=True))
        if amount and abs(amount - middle) > limit and (not then or abs(amount - then) > limit)
    )


def _asks(now: Minor, before: Minor, limit: Minor) -> bool:
    by = abs(now - before)
    return by >= limit and 100 * by >= ASKS_PERCENT * abs(before)


class _Parts(NamedTuple):
    """What ratios are made of, in one span."""

    days: int
    sales: Minor
    costs: Minor
    gross: Minor
    profit: Minor
    wages: Minor
    interest: Minor
    receivables: Minor
    payables: Minor


_RATIOS: tuple[tuple[str, Unit, str, Callable[[_Parts], tuple[Minor, Minor]]], ...] = (
    ("Gross margin", Unit.PERCENT, "gross profit to sales", lambda p: (100 * p.gross, p.sales)),
    ("Profit to sales", Unit.PERCENT, "profit to sales", lambda p: (100 * p.profit, p.sales)),
    (
        "Wages to sales",
        Unit.PERCENT,
        "wages, and what employers pay on them, to sales",
        lambda p: (100 * p.wages, p.sales),
    ),
    (
        "Days of receivables",
        Unit.DAYS,
        "what customers owe, in days of sales",
        lambda p: (p.days * p.receivables, p.sales),
    ),
    (
        "Days of payables",
        Unit.DAYS,
        "what is owed to suppliers, in days of costs",
        lambda p: (p.days * p.payables, p.costs),
    ),
    (
        "Cover of interest",
        Unit.TIMES,
        "profit before interest, to interest",
        lambda p: (p.profit + p.interest, p.interest),
    ),
)


def _ratios(books: Books, result: ProfitAndLoss, first: date, last: date) -> Iterator[Ratio]:
    sheet = balance_sheet(books, last)
    now, before = (_parts(books, result, sheet, first, last, before=was) for was in (False, True))
    for name, unit, how, of in _RATIOS:
        yield Ratio(name, unit, _divided(*of(now)), _divided(*of(before)), how)


def _parts(
    books: Books,
    result: ProfitAndLoss,
    sheet: BalanceSheet,
    first: date,
    last: date,
    *,
    before: bool,
) -> _Parts:
    def on(rows: Iterable[StatementRow], *roles: AccountRole) -> Minor:
        codes = {account.code for account in books.with_role(*roles)}
        return sum(row.before if before else row.amount for row in rows if row.account in codes)

    start, end = (year_earlier(first), year_earlier(last)) if before else (first, last)
    return _Parts(
        days=(end - start).days + 1,
        sales=result.total(Section.INCOME, before=before),
        costs=result.total(Section.COST_OF_SALES, Section.EXPENSES, before=before),
        gross=result.gross_profit(before=before),
        profit=result.profit(before=before),
        wages=on(result.rows, *WAGES),
        interest=on(result.rows, AccountRole.LOAN_INTEREST),
        receivables=on(sheet.rows, AccountRole.RECEIVABLES),
        payables=on(sheet.rows, AccountRole.PAYABLES),
    )


def _divided(part: Minor, whole: Minor) -> Fraction | None:
    return Fraction(part, whole) if whole else None
