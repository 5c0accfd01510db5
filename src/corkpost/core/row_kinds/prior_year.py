"""Balances at the ends of earlier years, as they were signed."""

from datetime import date

from corkpost.core.books import PriorBalance
from corkpost.core.row_kinds import RowKind

KIND = RowKind(
    "prior_year",
    3,
    PriorBalance,
    key=lambda row: [row.year_end, row.account],
    readers={"year_end": date.fromisoformat},
)
