"""reversal-wrong: a reversal of another amount or account, or a second one."""

from collections.abc import Iterator

from corkpost.core.matching.accruals import Accrued, pairs_of
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "reversal-wrong",
    family=Family.PERIODS,
    routes=("adjust", "ask", "leave", "waive"),
    finds="reversals that are not the mirror of what they take back",
    avoid="Leave the entries that take back our month-end entries to us.",
    assumes=True,
)


def find(run: CheckRun) -> Iterator[Point]:
    found = pairs_of(run.books)
    for pair in found.pairs:
        if not pair.is_mirror and not pair.parts and pair.released.posted.change is None:
            one, other = pair.raised, pair.released
            linked = other.posted.reverses == one.posted.id
            yield _point(run, one, other, _why(run, one, other), 0.96 if linked else 0.85)
    for pair in found.second:
        if pair.released.posted.change is None:
            why = "it is reversed a second time"
            yield _point(run, pair.raised, pair.released, why, 0.9)


def _why(run: CheckRun, one: Accrued, other: Accrued) -> str:
    if other.result == one.result:
        return "the amount is another"
    return f"it goes to {run.books.accounts[other.result].name}, another account"


def _point(run: CheckRun, one: Accrued, other: Accrued, why: str, certainty: float) -> Point:
    books = run.books
    twice = "second" in why
    left = other.amount if twice else one.amount + other.amount
    sides = [Side(one.holding, -left)] if left else []
    if twice or other.result == one.result:
        sides.append(Side(one.result, left))
    else:
        sides += [Side(one.result, one.amount), Side(other.result, other.amount)]
        sides = [side for side in sides if side.amount]
    return CHECK.point(
        books,
        subjects={"held": (one.posted.id,), "reversal": (other.posted.id,)},
        amount=abs(left) or abs(one.amount),
        certainty=certainty,
        summary=f"{other.posted.id} reverses {one.posted.id}, and {why}.",
        short=f"{one.posted.id} and {other.posted.id}",
        because=(why,),
        remedy=DraftEntry(
            on=other.day,
            sides=tuple(sides),
            title="Post what makes it the mirror",
            reason=f"{other.posted.id} made the mirror of {one.posted.id}: {why}.",
            answers=other.posted.id,
        ),
    )
