"""accrual-not-reversed: an accrual, prepayment or deferral with no reversal in the next period.

Keeps quiet: about those meant to stand, which are released in parts or were raised more than once alike.
"""

import json
from collections.abc import Iterator
from datetime import timedelta

from corkpost.core.matching.accruals import NEXT_PERIOD, Held, pairs_of
from corkpost.core.points import Check, Family, Look, Point
from corkpost.core.refusals import said

CHECK = Check(
    "accrual-not-reversed",
    family=Family.PERIODS,
    routes=("adjust", "ask", "leave", "waive"),
    finds="accruals and prepayments that nothing took back",
    avoid=(
        "An entry made at a month's end for what is not billed yet is taken back at the start"
        " of the next month."
    ),
)


def find(look: Look) -> Iterator[Point]:
    for one in pairs_of(look.books).standing:
        if one.posted.change is None and look.today - one.day > NEXT_PERIOD:
            yield _point(look, one)


def _point(look: Look, one: Held) -> Point:
    books = look.books
    period = books.calendar.period_of(one.day)
    first_day = period.last_day + timedelta(days=1)
    holding, result = books.accounts[one.holding], books.accounts[one.result]
    words = books.client.currency.words
    return CHECK.point(
        books,
        subjects={"held": (one.posted.id,)},
        amount=abs(one.amount),
        certainty=0.88,
        summary=(
            f"{one.posted.memo or one.posted.id}: {words(abs(one.amount))} went to {holding.name} on "
            f"{said(one.day)}, and nothing took it back in the next period."
        ),
        short=f"{one.posted.memo or one.posted.id}",
        because=(f"no entry on {holding.name} within two months goes the other way",),
        hints={
            "answers": one.posted.id,
            "lines": json.dumps([[one.holding, -one.amount, None], [one.result, one.amount, None]]),
            "date": first_day.isoformat(),
            "title": f"Reverse it on {said(books.calendar.first_open_day(first_day))}",
            "reason": f"{one.posted.id} ({result.name}) reversed at the start of the next period.",
        },
    )
