"""What the bank's spine shows: the books on one side, the statement on the other, row by row by day."""

from collections.abc import Iterator, Sequence
from datetime import date
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.bank.sides import Entry, EntryKey
from corkpost.core.matching.bank_look import BankLook
from corkpost.core.points import Level
from corkpost.core.statements import StatementLine


class RowKind(StrEnum):
    """*proposed*: what may be agreed; *differs*: what is one movement with another figure; *line* and
    *entry* stand alone."""

    AGREED = "agreed"
    PROPOSED = "proposed"
    DIFFERS = "differs"
    LINE = "line"
    ENTRY = "entry"


class SpineRow(NamedTuple):
    """*group*: of an agreement, which the program made where *by_program*. *level*: of a proposal.
    *why*: what speaks for it."""

    kind: RowKind
    day: date
    entries: tuple[Entry, ...]
    lines: tuple[StatementLine, ...]
    why: tuple[str, ...] = ()
    level: Level | None = None
    group: str | None = None
    by_program: bool = False


def spine_of(look: BankLook) -> tuple[SpineRow, ...]:
    """The rows of a statement, by day; of one day what is agreed first."""
    rows = [*_agreed(look), *_open(look)]
    return tuple(sorted(rows, key=lambda row: (row.day, row.kind is not RowKind.AGREED)))


def _agreed(look: BankLook) -> Iterator[SpineRow]:
    for group in look.state.groups:
        yield SpineRow(
            RowKind.AGREED,
            max((line.day for line in group.lines), default=group.day),
            tuple(group.entries),
            tuple(group.lines),
            (group.why,) if group.why else (),
            group=group.id,
            by_program=group.by_program,
        )


def _open(look: BankLook) -> Iterator[SpineRow]:
    entries, lines = look.sides.entries, look.sides.lines
    shown: set[EntryKey | str] = set()
    for proposal in look.proposals:
        shown |= {*proposal.entries, *proposal.lines}
        mine, theirs = (
            [entries[key] for key in proposal.entries],
            [lines[name] for name in proposal.lines],
        )
        yield _row(RowKind.PROPOSED, mine, theirs, tuple(proposal.why), proposal.level)
    for pair in look.differing:
        theirs = [pair.line, *([pair.correction] if pair.correction else [])]
        shown |= {pair.entry.key, *(line.id for line in theirs)}
        yield _row(RowKind.DIFFERS, [pair.entry], theirs, (pair.how,))
    for line in (*look.state.carried_in, *look.state.unmatched):
        if line.id not in shown:
            yield _row(RowKind.LINE, [], [line])
    for entry in look.state.outstanding:
        if entry.key not in shown:
            yield _row(RowKind.ENTRY, [entry], [])


def _row(
    kind: RowKind,
    entries: Sequence[Entry],
    lines: Sequence[StatementLine],
    why: tuple[str, ...] = (),
    level: Level | None = None,
) -> SpineRow:
    days = [line.day for line in lines[:1]] or [entry.day for entry in entries]
    return SpineRow(kind, max(days), tuple(entries), tuple(lines), why, level)
