"""Remarks of the practice's people to each other, on anything in a client's books (handbook, section 9)."""

from collections.abc import Iterable, Mapping
from datetime import datetime
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.kinds import Role
from corkpost.core.refusals import BadEntry, NotAllowed, NothingToDo, UnknownName

LONGEST = 2_000


class About(StrEnum):
    ACCOUNT = "account"
    TRANSACTION = "transaction"
    TIE_OUT = "tie-out"
    POINT = "point"


class Remark(NamedTuple):
    """*asks*: it has to be cleared before the trial balance is signed; else it is a note. *answers*: the
    number of the remark that it answers. *paper*: the digest of the paper that goes with it."""

    number: int
    about: About
    name: str
    text: str
    asks: bool
    answers: int | None
    by: str
    at: datetime
    cleared_by: str | None = None
    cleared_at: datetime | None = None
    paper: str | None = None

    @property
    def waits(self) -> bool:
        return self.asks and self.answers is None and self.cleared_by is None


class Thread(NamedTuple):
    first: Remark
    answers: tuple[Remark, ...]


def threads(remarks: Iterable[Remark]) -> tuple[Thread, ...]:
    """Every remark with its answers, the oldest first; those that wait before the others."""
    found = list(remarks)
    answers: dict[int, list[Remark]] = {}
    for remark in found:
        if remark.answers is not None:
            answers.setdefault(remark.answers, []).append(remark)
    firsts = [remark for remark in found if remark.answers is None]
    firsts.sort(key=lambda remark: (not remark.waits, remark.number))
    return tuple(Thread(first, tuple(answers.get(first.number, ()))) for first in firsts)


def waiting(remarks: Iterable[Remark]) -> tuple[Remark, ...]:
    """The remarks that have to be cleared."""
    return tuple(remark for remark in remarks if remark.waits)


def refuse_remark(
    books: Books, known: Mapping[int, Remark], about: About, name: str, text: str, to: int | None
) -> None:
    """Raises BadEntry, or UnknownName for what is not there. *to*: the remark that is answered. Points
    and tie-outs are taken at their word: what was remarked on may be gone by the next run."""
    if not text.strip():
        raise BadEntry(["A remark needs words."])
    if len(text) > LONGEST:
        raise BadEntry([f"The remark has {len(text)} signs: {LONGEST} are the most."])
    if about is About.ACCOUNT:
        books.account(name)
    if about is About.TRANSACTION:
        books.transaction(name)
    if to is not None:
        first = known.get(to)
        if first is None or (first.about, first.name) != (about, name):
            raise UnknownName("remark", str(to))
        if first.answers is not None:
            raise BadEntry(["Answer the remark, not its answer."])


def refuse_clearing(remark: Remark, person: str, role: Role) -> None:
    """Raises NothingToDo, or NotAllowed: what a reviewer remarked, a reviewer or partner clears."""
    if not remark.waits:
        raise NothingToDo("There is nothing to clear: it is cleared, or it is a note.")
    if remark.by != person and role is Role.PREPARER:
        raise NotAllowed(
            f"{remark.by} made this remark: they or a reviewer clear it. Answer it instead."
        )
