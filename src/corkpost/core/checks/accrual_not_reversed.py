"""accrual-not-reversed: an accrual, prepayment or deferral with no reversal in the next period.

Keeps quiet: about those meant to stand, which are released in parts, were raised more than once alike, or
say that they are for years.
"""

from collections.abc import Iterator
from datetime import timedelta

from corkpost.core.evidence.provisions import stands_for_years
from corkpost.core.formatting import format_date
from corkpost.core.matching.accruals import NEXT_PERIOD, Accrued, pairs_of
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "accrual-not-reversed",
    family=Family.PERIODS,
    routes=("adjust", "ask", "leave", "waive"),
    finds="accruals and prepayments that nothing took back",
    avoid=(
        "An entry made at a month's end for what is not billed yet is taken back at the start"
        " of the next month."
    ),
    assumes=True,
)


def find(run: CheckRun) -> Iterator[Point]:
    for accrued in pairs_of(run.books).standing:
        over = accrued.posted.change is None and run.today - accrued.day > NEXT_PERIOD
        if over and not _is_for_years(run, accrued):
            yield _point(run, accrued)


def _is_for_years(run: CheckRun, accrued: Accrued) -> bool:
    year_ends = run.books.calendar.year_of(accrued.day).last_day
    name = run.books.accounts[accrued.holding].name
    return stands_for_years(accrued.posted.memo or "", name, accrued.day, year_ends)


def _point(run: CheckRun, accrued: Accrued) -> Point:
    books = run.books
    period = books.calendar.period_of(accrued.day)
    first_day = period.last_day + timedelta(days=1)
    holding, result = books.accounts[accrued.holding], books.accounts[accrued.result]
    words = books.client.currency.format_amount
    return CHECK.point(
        books,
        subjects={"held": (accrued.posted.id,)},
        amount=abs(accrued.amount),
        certainty=0.88,
        summary=(
            f"{accrued.posted.memo or accrued.posted.id}: {words(abs(accrued.amount))} went to "
            f"{holding.name} on {format_date(accrued.day)}, and nothing took it back in the next period."
        ),
        short=f"{accrued.posted.memo or accrued.posted.id}",
        because=(f"no entry on {holding.name} within two months goes the other way",),
        remedy=DraftEntry(
            on=first_day,
            sides=(Side(accrued.holding, -accrued.amount), Side(accrued.result, accrued.amount)),
            title=f"Reverse it on {format_date(books.calendar.first_open_day(first_day))}",
            reason=f"{accrued.posted.id} ({result.name}) reversed at the start of the next period.",
            answers=accrued.posted.id,
        ),
    )
