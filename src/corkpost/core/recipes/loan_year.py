"""All payments of a loan in a span, split in one change."""

from collections import defaultdict
from datetime import date

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books, Line, Transaction
from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.kinds import AccountRole
from corkpost.core.loans import Basis, interest
from corkpost.core.periods import ONE_DAY
from corkpost.core.recipes.loan_split import BASIS, COST, owed_at
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told


def _make(books: Books, told: Told) -> Made:
    loan, first, last = told.code("account"), told.day("from"), told.day("to")
    rate, basis, cost = told.percent("rate"), Basis(told.text("basis")), told.code("cost")
    since = first - ONE_DAY
    owed = owed_at(books, loan, since)
    words = books.client.currency.format_amount
    requests: list[EntryRequest] = []
    total = 0
    for day, rows in sorted(_by_day(books, loan, first, last).items()):
        paid = any(line.amount > 0 for _, line in rows)
        missing = 0
        if paid:
            # What stands as interest that day already, in the payment or beside it, is not posted again.
            booked = sum(x.amount for p, _ in rows for x in p.lines if x.account == cost)
            missing = interest(owed, rate, basis, since, day) - booked
            since = day
        owed += missing - sum(line.amount for _, line in rows)
        if missing:
            total += missing
            reason = f"{books.account(loan).name}: interest in the payment of {day:%-d %B %Y}."
            on = books.calendar.first_open_day(day)
            lines = (EntryLine(cost, missing), EntryLine(loan, -missing))
            requests.append(adjusting(on, reason, *lines))
    reason = f"Interest of {books.account(loan).name}, {first:%-d %B %Y} to {last:%-d %B %Y}."
    working = (f"{len(requests)} payments, {words(total)} of interest in them; left {words(owed)}",)
    if not requests:
        return Made((), "No payment of these days lacks its interest.")
    return Made(tuple(requests), reason, working)


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
        Ask("rate", AskKind.PERCENT, "Rate, percent a year", needed=True),
        BASIS,
        COST,
    ),
    _make,
)
