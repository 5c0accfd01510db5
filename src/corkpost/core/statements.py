"""Bank statements: what the bank says happened, and telling what was taken in before (section 5)."""

from collections.abc import Iterable, Sequence
from datetime import date
from typing import NamedTuple

from corkpost.core.money import Minor


class StatementLine(NamedTuple):
    """One line of a statement. *amount*: money in positive. *id*: `path#number` in its file."""

    id: str
    statement: int
    day: date
    amount: Minor
    text: str
    reference: str | None = None
    counterparty: str | None = None
    bank_id: str | None = None
    balance: Minor | None = None
    value_day: date | None = None

    @property
    def number(self) -> int:
        """Its place in the file, from 1."""
        return int(self.id.rpartition("#")[2])

    @property
    def words(self) -> str:
        """All that the bank wrote of it."""
        parts = [part for part in (self.counterparty, self.text) if part]
        if self.reference and self.reference not in " ".join(parts):
            parts.append(self.reference)
        return " ".join(parts)


class Statement(NamedTuple):
    """A statement of one account as it was taken in, with the lines that were new in it.

    *off_by*: what opening and lines exceed the closing balance by; nil where they agree or the file
    gives no balances. *off_from*: the first line after which the running balance does not follow.
    """

    number: int
    account: str
    path: str
    first_day: date
    last_day: date
    opening: Minor | None
    closing: Minor | None
    off_by: Minor
    off_from: str | None
    warnings: tuple[str, ...]
    lines: tuple[StatementLine, ...]

    @property
    def order(self) -> tuple[date, int]:
        """By which an account's statements follow each other."""
        return (self.last_day, self.number)


class Given(NamedTuple):
    """A line as a file gives it. *number*: its place in the file, from 1."""

    number: int
    day: date
    amount: Minor
    text: str
    reference: str | None = None
    counterparty: str | None = None
    bank_id: str | None = None
    balance: Minor | None = None
    value_day: date | None = None


class Known(NamedTuple):
    """The lines of a file: those that are new, and how many were taken in before."""

    new: tuple[Given, ...]
    already: int


def told_apart(given: Sequence[Given], taken: Iterable[StatementLine]) -> Known:
    """Which of the lines that a file gives were not taken in before.

    A line is the same as one of the same day and amount when the bank's ids are equal; where no id of
    the file is known, when the running balances are; where none of those is, when the texts are. Each
    line taken before stands for one only, so that two equal coffees on a day stay two.
    """
    by_day: dict[tuple[date, Minor], list[StatementLine]] = {}
    for line in taken:
        by_day.setdefault((line.day, line.amount), []).append(line)
    pairs = [
        (paper, other) for paper in given for other in by_day.get((paper.day, paper.amount), ())
    ]
    ids = any(paper.bank_id and paper.bank_id == other.bank_id for paper, other in pairs)
    balances = any(
        paper.balance is not None and paper.balance == other.balance and _reads_alike(paper, other)
        for paper, other in pairs
    )
    new = []
    for paper in given:
        rows = by_day.get((paper.day, paper.amount), [])
        same = next((row for row in rows if _is_same(paper, row, ids, balances)), None)
        if same is None:
            new.append(paper)
        else:
            rows.remove(same)
    return Known(tuple(new), len(given) - len(new))


def _is_same(one: Given, other: StatementLine, ids: bool, balances: bool) -> bool:
    if ids and one.bank_id and other.bank_id:
        return one.bank_id == other.bank_id
    if balances and one.balance is not None and other.balance is not None:
        return one.balance == other.balance
    return _reads_alike(one, other)


def _reads_alike(one: Given, other: StatementLine) -> bool:
    return _plain(one.text) == _plain(other.text)


def _plain(text: str) -> str:
    return "".join(sign for sign in text.casefold() if sign.isalnum())


class Sums(NamedTuple):
    """Whether opening and lines come to closing. *off_from*: the number of the first line that the
    running balance does not follow."""

    off_by: Minor
    off_from: int | None


def sums_of(opening: Minor | None, closing: Minor | None, given: Sequence[Given]) -> Sums:
    """Compare a statement's balances with its lines; nil where it gives no two balances."""
    off_from = None
    running = opening
    for paper in given:
        if running is not None:
            running += paper.amount
        if paper.balance is not None:
            if running is not None and running != paper.balance and off_from is None:
                off_from = paper.number
            running = paper.balance
    if opening is None or closing is None:
        return Sums(0, off_from)
    off_by = opening + sum(paper.amount for paper in given) - closing
    if off_by and off_from is None and given:
        off_from = given[-1].number
    return Sums(off_by, off_from if off_by else None)
