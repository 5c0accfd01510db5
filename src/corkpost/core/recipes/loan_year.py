"""All payments of a loan in a span, split in one change."""

from collections import defaultdict
from collections.abc import Callable, Iterator
from datetime import date
from typing import NamedTuple

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books, Line, Transaction
from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.formatting import format_date
from corkpost.core.keying import NotADay, keyed_amount, keyed_day
from corkpost.core.kinds import AccountRole
from corkpost.core.loans import Basis, interest
from corkpost.core.money import Minor, NotAnAmount
from corkpost.core.periods import ONE_DAY
from corkpost.core.recipes.loan_split import BASIS, COST, owed_at
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.table import rows_of
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry

COLUMNS = ("date", "interest", "left")
MOST_TOLD = 12


class Charged(NamedTuple):
    """A row of the lender's statement. *left*: owed after it, where the statement says."""

    interest: Minor
    left: Minor | None


def _make(books: Books, told: Told) -> Made:
    loan, first, last = told.code("account"), told.day("from"), told.day("to")
    rate, basis, cost = told.maybe_percent("rate"), Basis(told.text("basis")), told.code("cost")
    lender = dict(_lender(books, told.text("lender"), first)) if told.text("lender") else {}
    if rate is None and not lender:
        raise BadEntry(["rate: say the rate, or give the lender's statement."])
    since = first - ONE_DAY
    owed = owed_at(books, loan, since)
    words = books.client.currency.format_amount
    requests: list[EntryRequest] = []
    apart: list[str] = []
    total = 0
    by_day = _by_day(books, loan, first, last)
    for day, rows in sorted(by_day.items()):
        missing, by_rate, charged = 0, None, lender.get(day)
        if any(line.amount > 0 for _, line in rows):
            # What stands as interest that day already, in the payment or beside it, is not posted again.
            booked = sum(x.amount for p, _ in rows for x in p.lines if x.account == cost)
            by_rate = interest(owed, rate, basis, since, day) if rate is not None else None
            bears = charged.interest if charged else by_rate
            since = day
            missing = bears - booked if bears is not None else 0
        owed += missing - sum(line.amount for _, line in rows)
        apart += (f"{format_date(day)}: {told}" for told in _differs(charged, by_rate, owed, words))
        if missing:
            total += missing
            reason = f"{books.account(loan).name}: interest in the payment of {day:%-d %B %Y}."
            on = books.calendar.first_open_day(day)
            lines = (EntryLine(cost, missing), EntryLine(loan, -missing))
            requests.append(adjusting(on, reason, *lines))
    if not requests:
        return Made((), "No payment of these days lacks its interest.")
    missed = [day for day in by_day if lender and day not in lender]
    apart += (f"{format_date(day)}: the lender's statement has no such day" for day in missed)
    strange = [day for day in lender if first <= day <= last and day not in by_day]
    apart += (f"{format_date(day)}: the books have no payment of that day" for day in strange)
    if len(apart) > MOST_TOLD:
        apart[MOST_TOLD:] = [f"and {len(apart) - MOST_TOLD} more that differ"]
    reason = f"Interest of {books.account(loan).name}, {first:%-d %B %Y} to {last:%-d %B %Y}."
    whole = f"{len(requests)} payments, {words(total)} of interest in them; left {words(owed)}"
    return Made(tuple(requests), reason, (whole,), warnings=tuple(apart))


def _differs(
    charged: Charged | None, by_rate: Minor | None, owed: Minor, words: Callable[[Minor], str]
) -> Iterator[str]:
    """What the lender has otherwise than the rate, or than the books then owe."""
    if charged is None:
        return
    if by_rate is not None and charged.interest != by_rate:
        yield f"the lender charged {words(charged.interest)}, the rate says {words(by_rate)}"
    if charged.left is not None and charged.left != owed:
        yield f"the lender has {words(charged.left)} left, the books {words(owed)}"


def _lender(books: Books, text: str, near: date) -> Iterator[tuple[date, Charged]]:
    """What the lender charged, by the day of the payment. Raises BadEntry with each fault at its line."""
    currency = books.client.currency
    faults = []
    for number, row in rows_of(text, "lender", COLUMNS[:2], COLUMNS):
        try:
            charged = keyed_amount(row["interest"], currency)
            left = keyed_amount(row["left"], currency) if row["left"] else None
            yield keyed_day(row["date"], books.calendar, near), Charged(charged, left)
        except (NotADay, NotAnAmount) as wrong:
            faults.append(f"lender, line {number}: {wrong}.")
    if faults:
        raise BadEntry(faults[:100])


def _by_day(
    books: Books, loan: str, first: date, last: date
) -> dict[date, list[tuple[Transaction, Line]]]:
    """What moved the loan, by the day."""
    found: dict[date, list[tuple[Transaction, Line]]] = defaultdict(list)
    for posted, line in books.lines_on(loan):
        if first <= posted.posting_date <= last and posted.id not in books.never_was:
            found[posted.posting_date].append((posted, line))
    return found


RECIPE = Recipe(
    "loan-year",
    9,
    "Loan payments of a year split",
    "The interest in each payment that stands on a loan whole, for all payments of some days at once.",
    (
        Ask("account", AskKind.ACCOUNT, "Loan", needed=True, roles=(AccountRole.LOAN,)),
        Ask("from", AskKind.DAY, "From the day", needed=True),
        Ask("to", AskKind.DAY, "To the day", needed=True),
        Ask("rate", AskKind.PERCENT, "Rate, percent a year"),
        Ask("lender", AskKind.TABLE, "Lender's statement: date, interest, left"),
        BASIS,
        COST,
    ),
    _make,
)
