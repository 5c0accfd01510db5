"""A step of a schedule that was posted."""

from datetime import date
from typing import NamedTuple

from corkpost.core.row_kinds import Posting, register_kind


class StepPosted(NamedTuple):
    """*day*: that of the step in its schedule. *entry*: what posted it."""

    schedule: str
    day: date
    entry: str
    stands: bool = True
    change: int | None = None


def _posted(row: StepPosted, posting: Posting) -> StepPosted:
    return row._replace(entry=posting.names.get(row.entry, row.entry))


KIND = register_kind(
    "schedule_steps",
    15,
    StepPosted,
    key=lambda row: [row.schedule, row.day],
    readers={"day": date.fromisoformat},
    posted=_posted,
    rests_on=lambda row: [f"schedule {row.schedule}"],
)
