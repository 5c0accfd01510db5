"""A tax return that was filed: its span, and the day of filing."""

from datetime import date
from typing import NamedTuple

from corkpost.core.periods import ONE_DAY
from corkpost.core.row_kinds import register_kind


class TaxReturn(NamedTuple):
    """*first*, *last*: both included."""

    first: date
    last: date
    filed_on: date
    stands: bool = True
    change: int | None = None


KIND = register_kind(
    "tax_returns",
    21,
    TaxReturn,
    key=lambda row: [row.last],
    readers={
        "first": date.fromisoformat,
        "last": date.fromisoformat,
        "filed_on": date.fromisoformat,
    },
    brings=lambda row: [f"returned {row.last}"],
    rests_on=lambda row: [f"returned {row.first - ONE_DAY}"],
)
