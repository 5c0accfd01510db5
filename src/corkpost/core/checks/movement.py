"""movement: an account that moved against last year by more than the threshold in sum and in percent,
or a ratio (gross margin, wages to sales) that broke its run. It asks for an explanation."""

from collections import defaultdict
from collections.abc import Iterator, Mapping
from datetime import date, timedelta
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.dating import materiality
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, AccountType, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.periods import FinancialYear, month_end
from corkpost.core.points import ALL_OTHERS, Check, CheckRun, Family, Point
from corkpost.core.running_sums import running_sums, transactions_by_month
from corkpost.core.trial_balance import Closing, balances_at
from corkpost.core.worksheet import column_of

CHECK = Check(
    "movement",
    family=Family.PERIODS,
    routes=("leave", "ask"),
    after=(ALL_OTHERS,),
    finds="an account or a ratio that moved more than the business explains",
)
EXPLAINED = {"leave": "Explain it: the explanation is kept"}
PERCENT = 50
TIMES = 2
"""So many times materiality is worth a word."""
MONTHS = 6
"""Fewer months are too few to compare."""
SLACK = timedelta(days=31)
QUARTERS = 5
BROKE = 5
"""Points of a hundred beyond all the earlier quarters."""


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    last = books.received_through
    if last is None:
        return
    last = min(last, run.today)
    whole = last if last == month_end(last.year, last.month, 31) else _month_before(last)
    year = books.calendar.year_of(whole)
    if _months(year.first_day, whole) >= MONTHS:
        yield from _against_last_year(run, year, whole)
    yield from _ratios(run, whole)


def _month_before(day: date) -> date:
    year, month = (day.year, day.month - 1) if day.month > 1 else (day.year - 1, 12)
    return month_end(year, month, 31)


def _months(first: date, last: date) -> int:
    return (last.year - first.year) * 12 + last.month - first.month + 1


# -- against last year


def _against_last_year(run: CheckRun, year: FinancialYear, whole: date) -> Iterator[Point]:
    books = run.books
    then = month_end(whole.year - 1, whole.month, 31)
    previous = books.calendar.previous_year(year)
    if _began(books, whole) > previous.first_day + SLACK:
        # The books do not reach over the months that would be compared.
        return
    now = balances_at(books, whole, closing=Closing.OUT)
    before = balances_at(books, then, closing=Closing.OUT)
    limit = TIMES * materiality(books)
    growth = _sales(books, now), _sales(books, before)
    explained = _explained(run)
    for account in books.tables.accounts:
        if not account.is_profit_and_loss:
            continue
        one, other = now.get(account.code, 0), before.get(account.code, 0)
        by = one - other
        if (
            abs(by) - explained[account.code] < limit
            or not other
            or abs(by) * 100 < PERCENT * abs(other)
        ):
            continue
        if _moves_with_sales(one, other, growth):
            continue
        yield _moved(run, account.code, year, whole, then, (one, other))


def _began(books: Books, otherwise: date) -> date:
    """The first day with anything but an opening balance on it."""
    by_month = transactions_by_month(books)
    for month in sorted(by_month):
        days = [t.posting_date for t in by_month[month] if t.kind is not TransactionKind.OPENING]
        if days:
            return min(days)
    return otherwise


def _explained(run: CheckRun) -> Mapping[str, Minor]:
    """By account: what other points on it may explain."""
    sums: dict[str, Minor] = defaultdict(int)
    for point in run.found_before(CHECK):
        for account in point.accounts:
            sums[account] += point.amount
    return sums


def _sales(books: Books, sums: Mapping[str, Minor]) -> Minor:
    return -sum(sums.get(a.code, 0) for a in books.tables.accounts if a.type is AccountType.INCOME)


def _moves_with_sales(one: Minor, other: Minor, sales: tuple[Minor, Minor]) -> bool:
    """Whether the whole business grew or shrank by as much."""
    if not sales[0] or not sales[1]:
        return False
    share, before = abs(one) * 100 / abs(sales[0]), abs(other) * 100 / abs(sales[1])
    return abs(share - before) * 100 < PERCENT * before / 2


def _moved(
    run: CheckRun,
    account: str,
    year: FinancialYear,
    whole: date,
    then: date,
    sums: tuple[Minor, Minor],
) -> Point:
    books = run.books
    words = books.client.currency.format_amount
    name = books.accounts[account].name
    one, other = (abs(amount) for amount in sums)
    percent = round(100 * (one - other) / other)
    lines = sorted(
        ((abs(line.amount), posted.id) for posted, line in books.lines_on(account)
         if year.first_day <= posted.posting_date <= whole and column_of(posted) is not None
         and posted.id not in books.never_was),
        reverse=True,
    )  # fmt: skip
    return CHECK.point(
        books,
        subjects={},
        about={"account": (account,), "year": (year.label,)},
        account=account,
        related=tuple(name for _, name in lines[:3]),
        amount=one - other,
        certainty=0.6,
        summary=(
            f"{name} came to {words(one)} by {format_date(whole)}; a year before, by "
            f"{format_date(then)}, it was "
            f"{words(other)}."
        ),
        short=f"{name}, {'+' if percent > 0 else '−'}{abs(percent)}%",
        because=(
            f"over {PERCENT}% and {words(TIMES * materiality(books))}, twice materiality",
            "sales did not move by as much",
        ),
        hints=EXPLAINED,
    )


# -- ratios


class _Quarter(NamedTuple):
    year: int
    number: int

    def __str__(self) -> str:
        return f"{self.year}-Q{self.number}"


RATIOS = {
    "gross margin": frozenset({AccountRole.COST_OF_SALES}),
    "wages to sales": frozenset(
        {AccountRole.WAGES, AccountRole.DIRECTOR_PAY, AccountRole.EMPLOYER_CONTRIBUTIONS}
    ),
}


def _ratios(run: CheckRun, whole: date) -> Iterator[Point]:
    books = run.books
    for name, roles in RATIOS.items():
        costs = {account.code for account in books.with_role(*roles)}
        if not costs:
            continue
        sales, spent = _by_quarter(books, costs, whole)
        quarters = sorted(quarter for quarter, amount in sales.items() if amount > 0)
        if len(quarters) < QUARTERS:
            continue
        ratios = [_ratio(name, sales[quarter], spent[quarter]) for quarter in quarters]
        *earlier, latest = ratios
        low, high = min(earlier), max(earlier)
        beyond = max(low - latest, latest - high)
        if beyond < max(BROKE, high - low):
            continue
        yield _broke(run, name, quarters[-1], (low, high, latest), sales[quarters[-1]])


def _ratio(name: str, sales: Minor, spent: Minor) -> float:
    part = 100 * spent / sales
    return 100 - part if name == "gross margin" else part


def _by_quarter(
    books: Books, costs: set[str], whole: date
) -> tuple[Mapping[_Quarter, Minor], Mapping[_Quarter, Minor]]:
    """Sales and those costs of every whole quarter."""
    income = {
        account.code for account in books.tables.accounts if account.type is AccountType.INCOME
    }
    sales: dict[_Quarter, Minor] = defaultdict(int)
    spent: dict[_Quarter, Minor] = defaultdict(int)
    done = (whole.year, whole.month // 3)
    for (year, month), sums in running_sums(books).accounts.items():
        quarter = _Quarter(year, (month + 2) // 3)
        if tuple(quarter) > done:
            continue
        for (sort, account), amount in sums.items():
            if account in income and not sort.closing:
                sales[quarter] -= amount
            elif account in costs and not sort.closing:
                spent[quarter] += amount
    return sales, spent


def _broke(
    run: CheckRun, name: str, quarter: _Quarter, ratios: tuple[float, float, float], sales: Minor
) -> Point:
    low, high, latest = ratios
    beyond = low - latest if latest < low else latest - high
    return CHECK.point(
        run.books,
        subjects={},
        about={"ratio": (name,), "quarter": (str(quarter),)},
        amount=round(sales * beyond / 100),
        certainty=0.55,
        summary=(
            f"{name.capitalize()} was {latest:.1f}% in quarter {quarter.number} of {quarter.year}; in "
            f"the quarters before it lay between {low:.1f}% and {high:.1f}%."
        ),
        short=f"{name}, {latest:.1f}%",
        because=(f"{beyond:.1f} points beyond every quarter before",),
        hints=EXPLAINED,
    )
