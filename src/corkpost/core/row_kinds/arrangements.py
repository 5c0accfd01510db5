"""Another grouping of accounts, for another reader: a lender, an owner."""

from typing import NamedTuple

from corkpost.core.row_kinds import register_kind


class Group(NamedTuple):
    """*picks*: codes of accounts, or roles; the first group that names an account has it."""

    heading: str
    picks: tuple[str, ...]


class Arrangement(NamedTuple):
    """*groups*: in their order; what none of them names stands below them."""

    name: str
    groups: tuple[Group, ...]
    stands: bool = True
    change: int | None = None


def _groups(rows: list[list[object]]) -> tuple[Group, ...]:
    return tuple(Group(str(heading), tuple(picks)) for heading, picks in rows)  # type: ignore[arg-type]


KIND = register_kind(
    "arrangements",
    18,
    Arrangement,
    key=lambda row: [row.name],
    readers={"groups": _groups},
)
