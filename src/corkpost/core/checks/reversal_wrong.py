"""reversal-wrong: a reversal of another amount or account, or a second one."""

import json
from collections.abc import Iterator

from corkpost.core.matching.accruals import Held, journals_between, reversals_of
from corkpost.core.points import Check, Family, Look, Point

CHECK = Check(
    "reversal-wrong",
    family=Family.PERIODS,
    routes=("adjust", "ask", "leave", "waive"),
    finds="reversals that are not the mirror of what they take back",
)
NEARLY = 0.25


def find(look: Look) -> Iterator[Point]:
    raising, releasing = journals_between(look.books)
    used: set[str] = set()
    for one in raising:
        found = [other for other in reversals_of(one, releasing) if other.posted.id not in used]
        exact = [o for o in found if o.amount == -one.amount and o.result == one.result]
        if exact:
            used.add(exact[0].posted.id)
            second = [o for o in exact[1:] if o.posted.change is None]
            twins = [r for r in raising if (r.result, r.amount) == (one.result, one.amount)]
            if second and len(twins) == 1:
                used.add(second[0].posted.id)
                yield _point(look, one, second[0], "it is reversed a second time", 0.9)
            continue
        for other in found:
            why = _differs(look, one, other)
            if why and other.posted.change is None:
                used.add(other.posted.id)
                linked = other.posted.reverses == one.posted.id
                yield _point(look, one, other, why, 0.96 if linked else 0.85)
                break


def _differs(look: Look, one: Held, other: Held) -> str | None:
    """What is not its mirror; None where it is more likely something else."""
    linked = other.posted.reverses == one.posted.id
    near = abs(one.amount + other.amount) <= NEARLY * abs(one.amount)
    if other.result == one.result and (linked or near):
        return "the amount is another"
    if other.amount == -one.amount:
        name = look.books.accounts[other.result].name
        return f"it goes to {name}, another account"
    return None


def _point(look: Look, one: Held, other: Held, why: str, certainty: float) -> Point:
    books = look.books
    twice = "second" in why
    left = other.amount if twice else one.amount + other.amount
    lines = [[one.holding, -left, None]] if left else []
    if twice or other.result == one.result:
        lines.append([one.result, left, None])
    else:
        lines += [[one.result, one.amount, None], [other.result, other.amount, None]]
        lines = [row for row in lines if row[1]]
    return CHECK.point(
        books,
        subjects={"held": (one.posted.id,), "reversal": (other.posted.id,)},
        amount=abs(left) or abs(one.amount),
        certainty=certainty,
        summary=f"{other.posted.id} reverses {one.posted.id}, and {why}.",
        short=f"{one.posted.id} and {other.posted.id}",
        because=(why,),
        hints={
            "lines": json.dumps(lines),
            "date": books.calendar.first_open_day(other.day).isoformat(),
            "title": "Post what makes it the mirror",
            "reason": f"{other.posted.id} made the mirror of {one.posted.id}: {why}.",
        },
    )
