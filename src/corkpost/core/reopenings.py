"""Reopening what was signed: by whom, why and until when. It ends by itself (handbook, section 9)."""

from collections.abc import Iterable
from datetime import date, timedelta
from typing import NamedTuple

from corkpost.core.formatting import format_date
from corkpost.core.refusals import BadEntry

USUALLY = timedelta(days=14)
LONGEST = timedelta(days=366)


class Reopening(NamedTuple):
    """*until*: the last day that it is open; None for those that were made without one: they never end."""

    reason: str
    made_by: str
    made_at: str
    until: date | None


def stands(as_at: date, reopening: Reopening | None, later: Iterable[date], today: date) -> bool:
    """Whether a seal stands on *today*: it was not reopened, or that has ended. *later*: the days of seals
    that were made after it; one that covers its day takes its place for good."""
    if reopening is None:
        return True
    if reopening.until is None or today <= reopening.until:
        return False
    return all(day < as_at for day in later)


def open_until(today: date, wanted: date | None) -> date:
    """The last day of a reopening, two weeks from *today* unless said. Raises BadEntry."""
    until = wanted or today + USUALLY
    if until < today:
        raise BadEntry([f"{format_date(until)} is past: name the last day that it stays open."])
    if until > today + LONGEST:
        raise BadEntry(["A year is the most that it stays open. Name an earlier day."])
    return until
