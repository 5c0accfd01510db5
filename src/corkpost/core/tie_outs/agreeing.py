"""Agreeing a proof, and what became of one since: it falls open by itself where its figures move."""

from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.books import Books, PostedChange
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.formatting import format_date
from corkpost.core.money import Minor
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.row_kinds.tie_outs import TieOutAgreed
from corkpost.core.tie_outs import tie_out_named, tie_outs
from corkpost.core.tie_outs.tie_out import TieOut

IMPORT = "import"


class TieOutState(StrEnum):
    """*fallen*: agreed once, at figures that have moved since."""

    OPEN = "open"
    AGREED = "agreed"
    FALLEN = "fallen"


class StatedTieOut(NamedTuple):
    """A proof and where it stands. *agreed*: its last agreement, which *by* made; *moved*: for a fallen
    one, what is otherwise; *since*: the changes that may have moved it."""

    tie_out: TieOut
    state: TieOutState
    agreed: TieOutAgreed | None = None
    by: PostedChange | None = None
    moved: tuple[str, ...] = ()
    since: tuple[PostedChange, ...] = ()


def stated_tie_outs(books: Books, as_at: date) -> tuple[StatedTieOut, ...]:
    """Every proof as at the end of *as_at*, with its state."""
    last = _last_agreed(books, as_at)
    return tuple(
        _stated(books, tie_out, last.get(tie_out.id), as_at) for tie_out in tie_outs(books, as_at)
    )


def _last_agreed(books: Books, as_at: date) -> Mapping[str, TieOutAgreed]:
    rows: Iterable[TieOutAgreed] = books.tables.of("tie_outs")
    latest = {row.tie_out: row for row in rows if row.as_at == as_at}
    return {name: row for name, row in latest.items() if row.agrees}


def _stated(books: Books, found: TieOut, row: TieOutAgreed | None, as_at: date) -> StatedTieOut:
    if row is None:
        return StatedTieOut(found, TieOutState.OPEN)
    by = next((change for change in books.changes if change.number == row.change), None)
    shown = _with_paper(found, row)
    if found.facts == row.facts:
        return StatedTieOut(shown, TieOutState.AGREED, row, by)
    since = tuple(_since(books, found, row, as_at))
    return StatedTieOut(shown, TieOutState.FALLEN, row, by, tuple(_moved(books, shown, row)), since)


def _with_paper(found: TieOut, row: TieOutAgreed) -> TieOut:
    """The proof with the figure that was keyed from a paper, where that is how it was agreed."""
    if not row.keyed:
        return found
    return found._replace(outside=row.outside, lacks="", evidence=(*found.evidence, "a paper"))


def _moved(books: Books, now: TieOut, row: TieOutAgreed) -> Iterator[str]:
    words = books.client.currency.format_amount
    if now.books != row.books:
        yield f"the books had {words(row.books)} and have {words(now.books)} now"
    if now.outside is None:
        yield "the figure from outside is not known any more"
    elif now.outside != row.outside:
        yield f"from outside it was {words(row.outside)} and is {words(now.outside)} now"
    if (now.books, now.outside) == (row.books, row.outside):
        yield "the figures are the same, and made of other parts"


def _since(books: Books, found: TieOut, row: TieOutAgreed, as_at: date) -> Iterator[PostedChange]:
    """The changes after the agreement that touch its accounts by its day, and what was taken in."""
    accounts = {*found.accounts, *(part.account for part in found.of_books if part.account)}
    for change in books.changes:
        if change.number <= (row.change or 0):
            continue
        touches = any(
            posted.posting_date <= as_at and any(line.account in accounts for line in posted.lines)
            for posted in books.of_change(change.number)
        )
        settles = any(allocation.change == change.number for allocation in books.tables.allocations)
        if touches or change.kind == IMPORT or (settles and found.kind == "control"):
            yield change


class AgreeTieOut(NamedTuple):
    """*outside*: keyed from a paper, where the program does not know it; *paper*: its digest, *paper_name*:
    its name. *note*: explains a difference."""

    tie_out: str
    as_at: date
    note: str = ""
    outside: Minor | None = None
    paper: str | None = None
    paper_name: str | None = None


def plan_agree_tie_out(books: Books, act: AgreeTieOut) -> Plan:
    """Agree the proof at the figures that it has, with a note where they differ.

    Raises UnknownName, BadEntry where the figure from outside or an explanation is missing, or
    NothingToDo where it is agreed at these figures.
    """
    found = tie_out_named(books, act.tie_out, act.as_at)
    keyed = act.outside is not None
    if keyed and not found.keyed:
        raise BadEntry([f"{found.title}: its figure is worked out, and is not keyed."])
    outside = act.outside if act.outside is not None else found.outside
    if outside is None:
        raise BadEntry([f"{found.title}: {found.lacks} Key the figure of a paper, or wait for it."])
    before = _last_agreed(books, act.as_at).get(found.id)
    if before and (before.facts, before.outside, before.note) == (found.facts, outside, act.note):
        raise NothingToDo(f"{found.title} is agreed at these figures already.")
    apart = found.books - outside if keyed or found.apart is None else found.apart
    note = act.note.strip()
    if (apart or found.lacks) and not keyed and not note:
        raise BadEntry([_asks_why(books, found, apart)])
    if keyed and apart and not note:
        raise BadEntry([_asks_why(books, found._replace(lacks=""), apart)])
    words = books.client.currency.format_amount
    proposed = note or f"{found.title} agreed at {words(outside)}, {format_date(act.as_at)}."
    row = TieOutAgreed(
        found.id,
        act.as_at,
        found.books,
        outside,
        note,
        found.facts,
        keyed,
        act.paper,
        act.paper_name,
    )
    return Plan(
        kind=ChangeKind.ENTRY,
        route="agree-tie-out",
        entries=(),
        allocations=(),
        more={"tie_outs": (row,)},
        proposed_reason=proposed,
    )


def _asks_why(books: Books, found: TieOut, apart: Minor) -> str:
    if apart:
        words = books.client.currency.format_amount(apart)
        return f"{found.title} differs by {words}: say why that is so, or put it right first."
    return f"{found.title}: {found.lacks} Say why it can be agreed all the same."
