"""A fact of a client that the practice set, over what its books said when they came."""

from typing import NamedTuple

from corkpost.core.row_kinds import register_kind


class FactSet(NamedTuple):
    """*value*: as text; None for what is not so any more."""

    fact: str
    value: str | None
    stands: bool = True
    change: int | None = None


KIND = register_kind("facts_set", 23, FactSet, key=lambda row: [row.fact], readers={})
