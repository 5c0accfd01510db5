"""Marks on the lines of the worksheet: prepared and reviewed, at a figure; they fall where it moves."""

from collections.abc import Iterable, Mapping
from datetime import date, datetime
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.kinds import Role
from corkpost.core.money import Minor
from corkpost.core.refusals import NotAllowed


class MarkKind(StrEnum):
    PREPARED = "prepared"
    REVIEWED = "reviewed"


class Mark(NamedTuple):
    """*figure*: the adjusted balance that was seen, debit positive; None where the mark was taken off."""

    account: str
    as_at: date
    kind: MarkKind
    figure: Minor | None
    by: str
    at: datetime


class StatedMark(NamedTuple):
    """*fell*: the figure has moved since."""

    mark: Mark
    fell: bool


def stated_marks(
    rows: Iterable[Mark], as_at: date, figures: Mapping[str, Minor]
) -> Mapping[str, tuple[StatedMark, ...]]:
    """By account: the latest mark of each kind as at that day, beside the figures as they are now."""
    latest = {(row.account, row.kind): row for row in rows if row.as_at == as_at}
    found: dict[str, tuple[StatedMark, ...]] = {}
    for (account, _), row in sorted(latest.items()):
        if row.figure is not None:
            stated = StatedMark(row, row.figure != figures.get(account, 0))
            found[account] = (*found.get(account, ()), stated)
    return found


def refuse_mark(
    standing: Iterable[StatedMark], kind: MarkKind, person: str, role: Role, *, second_person: bool
) -> None:
    """Raises NotAllowed: a reviewer or partner marks as reviewed, and not what they prepared themselves.
    *second_person* off is for a practice of one."""
    if kind is MarkKind.PREPARED:
        return
    if role is Role.PREPARER:
        raise NotAllowed("A reviewer or partner marks a line as reviewed.")
    own = any(s.mark.kind is MarkKind.PREPARED and s.mark.by == person for s in standing)
    if own and second_person:
        raise NotAllowed("You prepared this line yourself, so somebody else reviews it.")
