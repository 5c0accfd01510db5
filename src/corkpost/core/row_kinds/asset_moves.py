"""What was done with a fixed asset: written off, added to, valued anew, disposed of."""

from datetime import date
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.money import Minor
from corkpost.core.row_kinds import Posting, register_kind


class AssetMoved(StrEnum):
    """DEPRECIATION: *amount* more is written off. ADDITION, REVALUATION: *amount* more of cost or value.
    DISPOSAL: *amount* of cost goes, with all that was written off."""

    DEPRECIATION = "depreciation"
    ADDITION = "addition"
    REVALUATION = "revaluation"
    DISPOSAL = "disposal"


class AssetMove(NamedTuple):
    """*entry*: what posted it. *units*: used up to the day, for an asset written off by units."""

    asset: str
    day: date
    what: AssetMoved
    amount: Minor
    entry: str
    units: str | None = None
    stands: bool = True
    change: int | None = None


def _posted(row: AssetMove, posting: Posting) -> AssetMove:
    return row._replace(entry=posting.names.get(row.entry, row.entry))


def _rests_on(row: AssetMove) -> list[str]:
    """A disposal takes out what was moved before it."""
    moved = [f"moved {row.asset}"] if row.what is AssetMoved.DISPOSAL else []
    return [f"asset {row.asset}", *moved]


KIND = register_kind(
    "asset_moves",
    13,
    AssetMove,
    key=lambda row: [row.asset, row.what, row.entry],
    readers={"day": date.fromisoformat, "what": AssetMoved},
    posted=_posted,
    brings=lambda row: [f"moved {row.asset}"],
    rests_on=_rests_on,
)
