"""Stories compete: what a movement of money is has one explanation, and one cause makes one point.

Each check proposes, looking at nothing but its own question. Then the look settles whole: of several
stories of one movement the likeliest stands, the one before that explains more; what is only its
consequence goes with it, and is listed in it (handbook, section 6).
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping

from corkpost.core.points import LIKELY, Check, Point

FOR_EACH_MORE = 0.03
"""What a story is worth more for each further entry that it explains."""


def settled(
    points: Iterable[Point], checks: Mapping[str, Check], left: frozenset[str] = frozenset()
) -> tuple[Point, ...]:
    """The points that stand, each with what goes with it, in the order given. *checks*: by id. *left*:
    those of which people said that they are none, by id: they keep nothing back."""
    every = tuple(points)
    told = [point for point in every if point.id not in left]
    goes_with = dict(_rivals(told, checks))
    standing = [point for point in told if point.id not in goes_with]
    goes_with |= dict(_consequences(standing, checks))
    beside: dict[str, list[str]] = defaultdict(list)
    for point in every:
        cause = goes_with.get(point.id)
        while cause is not None and cause in goes_with:
            cause = goes_with[cause]
        if cause is not None:
            beside[cause].append(point.summary)
    return tuple(
        point._replace(consequences=tuple(beside[point.id])) if point.id in beside else point
        for point in every
        if point.id not in goes_with
    )


def _rivals(points: Iterable[Point], checks: Mapping[str, Check]) -> Iterator[tuple[str, str]]:
    """The points whose movement another explains better, each with that one, by id."""
    told: dict[str, Point] = {}
    contenders = [(point, _explained(point, checks[point.check])) for point in points]
    contenders.sort(key=lambda row: (-_worth(row[0], len(row[1])), row[0].id))
    for point, names in contenders:
        better = next((told[name] for name in names if name in told), None)
        if better is not None and better.check != point.check:
            yield point.id, better.id
        else:
            told |= dict.fromkeys(names, point)


def _explained(point: Point, check: Check) -> tuple[str, ...]:
    return tuple(name for role, name in point.subjects if role in check.explains)


def _worth(point: Point, explained: int) -> float:
    others = len(point.subjects) - explained
    return point.certainty + FOR_EACH_MORE * (max(explained, 1) - 1 + others)


def _consequences(
    points: Iterable[Point], checks: Mapping[str, Check]
) -> Iterator[tuple[str, str]]:
    """The points that are only what another causes, each with that one, by id."""
    by_entry: dict[str, list[Point]] = defaultdict(list)
    for point in points:
        for name in dict.fromkeys(point.transactions):
            by_entry[name].append(point)
    for point in points:
        follows = checks[point.check].follows
        subjects = [name for _, name in point.subjects]
        # What is said of an account comes of the entries that it shows.
        is_of_account = not set(subjects) & set(point.transactions)
        own = dict.fromkeys((*subjects, *(point.transactions if is_of_account else ())))
        causes = (
            cause
            for name in own
            for cause in by_entry.get(name, ())
            if cause.check in follows and cause.certainty >= min(LIKELY, point.certainty)
        )
        cause = max(causes, key=lambda row: (row.certainty, row.id), default=None)
        if cause is not None:
            yield point.id, cause.id
