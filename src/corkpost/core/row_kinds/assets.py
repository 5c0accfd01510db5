"""A fixed asset as the register has it."""

from datetime import date
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.money import Minor
from corkpost.core.row_kinds import register_kind


class FixedAsset(NamedTuple):
    """*cost*, *residual*: positive. *method*: straight-line, reducing-balance, units or none. *life*: in
    years for straight-line, in units for units; *rate*: percent a year. *part*: by which a part of a year
    counts: months begun, or days. *depreciation*: what was written off by *depreciated_to*, before the
    register was kept here; both None where that is not known. *entry*: the transaction that bought it.
    """

    asset: str
    account: str
    name: str
    bought: date
    cost: Minor
    method: str = "straight-line"
    life: Fraction | None = None
    rate: Fraction | None = None
    residual: Minor = 0
    part: str = "month"
    depreciation_account: str | None = None
    depreciation: Minor | None = None
    depreciated_to: date | None = None
    entry: str | None = None
    stands: bool = True
    change: int | None = None


def _fraction(text: str | None) -> Fraction | None:
    return None if text is None else Fraction(text)


def _day(text: str | None) -> date | None:
    return None if text is None else date.fromisoformat(text)


KIND = register_kind(
    "assets",
    12,
    FixedAsset,
    key=lambda row: [row.asset],
    readers={
        "bought": date.fromisoformat,
        "life": _fraction,
        "rate": _fraction,
        "depreciated_to": _day,
    },
    brings=lambda row: [f"asset {row.asset}"],
)
