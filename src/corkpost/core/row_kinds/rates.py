"""An exchange rate of a day: units of the client's currency for one of the other."""

from datetime import date
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.row_kinds import register_kind


class Rate(NamedTuple):
    currency: str
    day: date
    rate: Fraction
    stands: bool = True
    change: int | None = None


KIND = register_kind(
    "rates",
    16,
    Rate,
    key=lambda row: [row.currency, row.day],
    readers={"day": date.fromisoformat, "rate": Fraction},
)
