"""How sure a point is, as books with known faults taught it: what a check says is held against how often it
was right (`bench/certainty_fit.py` writes `certainty.json`).

Our books know less than the world. So what they teach may make a point less sure without limit, and surer
only within its level: that all of a kind were right among them makes nothing sure that was likely.
"""

import json
from bisect import bisect_left
from collections.abc import Mapping
from functools import cache
from importlib import resources

from corkpost.core.points import LIKELY, SURE, Point

LEAST = 0.01
Steps = tuple[tuple[float, float], ...]
"""What was said, and what it is worth, both rising."""


@cache
def taught() -> Mapping[str, Steps]:
    """By check: what it says, and how often that is right."""
    rows = json.loads((resources.files(__package__) / "certainty.json").read_text("utf-8"))
    return {name: tuple((said, worth) for said, worth in steps) for name, steps in rows.items()}


def as_taught(point: Point) -> Point:
    """The point with the certainty that its check has earned."""
    steps = taught().get(point.check)
    if not steps:
        return point
    certainty = worth_of(point.certainty, steps)
    return point if certainty == point.certainty else point._replace(certainty=certainty)


def worth_of(said: float, steps: Steps) -> float:
    """What *said* is worth: between two steps on the line between them, beyond moved as the nearest."""
    place = bisect_left([known for known, _ in steps], said)
    if place == len(steps):
        known, worth = steps[-1]
        found = said + worth - known
    elif place == 0 or steps[place][0] == said:
        known, worth = steps[place]
        found = said + worth - known
    else:
        (low, from_), (high, to) = steps[place - 1], steps[place]
        found = from_ + (to - from_) * (said - low) / (high - low)
    return round(max(LEAST, min(found, top_of(said))), 2)


def top_of(said: float) -> float:
    """The highest of its level."""
    if said >= SURE:
        return 0.99
    return SURE - 0.01 if said >= LIKELY else LIKELY - 0.01
