"""States of points: what was decided about each, and whether it still holds (handbook, section 6)."""

import json
from collections.abc import Container, Iterable, Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.first_facts import are_facts_of
from corkpost.core.points import Point, PointState, point_from
from corkpost.core.queries import Query
from corkpost.core.seal import Decided

DECIDED = (PointState.LEFT, PointState.ASKED, PointState.WAIVED)
"""What a person says of a point without posting anything."""


class Decision(NamedTuple):
    """*seen*: the point as it was seen, as JSON. *change*: the change that corrected it."""

    point: str
    state: PointState
    reason: str
    facts: str
    seen: str
    change: int | None
    made_by: str
    made_at: str


class StatedPoint(NamedTuple):
    """A point with its state and, where somebody decided, that decision. *changed*: its facts are
    not what they were when it was decided, so it is open again."""

    point: Point
    state: PointState
    decision: Decision | None
    changed: bool = False
    query: Query | None = None
    """What the client was asked about it last."""

    def decided(self, preparers: Container[str] = ()) -> Decided:
        """As sign-off looks at it. *preparers*: whose word that it is no error is a proposal."""
        by = self.decision.made_by if self.decision else None
        said_no_error = self.state in (PointState.LEFT, PointState.WAIVED)
        return Decided(self.point, self.state, said_no_error and by in preparers)


def with_states(
    books: Books,
    points: Iterable[Point],
    decisions: Mapping[str, Decision],
    queries: Iterable[Query],
    today: date,
) -> tuple[StatedPoint, ...]:
    """Every point with its state: those found now, then those that a standing change corrected.
    *decisions*: the latest of each point, by its id."""
    asked = {query.point: query for query in queries if query.ended is None}
    found = [
        _stated(books, point, decisions.get(point.id), asked.get(point.id), today)
        for point in points
    ]
    here = {stated.point.id for stated in found}
    corrected = [
        StatedPoint(point_of(decision.seen), PointState.CORRECTED, decision)
        for decision in decisions.values()
        if decision.state is PointState.CORRECTED and decision.point not in here
    ]
    corrected.sort(
        key=lambda stated: stated.decision.made_at if stated.decision else "", reverse=True
    )
    return (*found, *corrected)


def _stated(
    books: Books, point: Point, decision: Decision | None, query: Query | None, today: date
) -> StatedPoint:
    if decision is None or decision.state not in DECIDED:
        return StatedPoint(point, PointState.OPEN, decision, query=query)
    changed = not are_facts_of(point, decision.facts, books)
    back = decision.state is PointState.ASKED and query is not None and query.is_back(today)
    state = PointState.OPEN if changed or back else decision.state
    return StatedPoint(point, state, decision, changed, query)


def point_of(seen: str) -> Point:
    """A point as it was kept with a decision."""
    return point_from(json.loads(seen))
