"""Kinds of rows that a change may bring, one file each, found by being in this folder.

A file has `KIND`. What plans, posts, digests, keeps, reads back and takes back rows walks over this
registry, so that a new kind is its file, a migration that names it, and nothing else. What comes by the
ten thousand (transactions, allocations, accounts, parties, taxes, statement lines) has tables of its own
in the store.
"""

import importlib
import json
import pkgutil
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime
from enum import StrEnum
from fractions import Fraction
from functools import cache
from typing import Any, NamedTuple

from corkpost.core.books import Books

Row = Any
"""A named tuple of the kind's value."""


class Posting(NamedTuple):
    """What a planned row learns when it is posted. *names*: lasting ids by those of the plan."""

    at: datetime
    reason: str
    names: Mapping[str, str]


def _as_planned(row: Row, _: Posting) -> Row:
    return row


def _not_laid_over(books: Books, _: tuple[Row, ...]) -> Books:
    return books


def _without_inverse(_: Books, __: int) -> tuple[Row, ...]:
    return ()


def _no_names(_: Row) -> Iterable[str]:
    return ()


@dataclass(frozen=True, eq=False)
class RowKind:
    """*name*: of its table in the store and in digests. *place*: its turn in a digest; it never changes,
    and a later kind gets a later one. *key*: what a newer row replaces an older one by.

    *readers*: for the fields that JSON has no type for. *planned*: the field of a plan that holds its
    rows; empty for what plans bring under its name among `more`, or never. *posted*: the row as it is
    kept. *laid_over*: the books with these rows among them. *inverse*: the planned rows that take back
    those of a change. *brings*, *rests_on*: the names that a row gives to others, and those of others that
    it can't be without: what a later row rests on is not taken back. *keeps_all*: the store
    gives every version of a row, not the newest alone.
    """

    name: str
    place: int
    value: type
    key: Callable[[Row], list[Any]]
    readers: Mapping[str, Callable[[str], Any]] = field(default_factory=dict)
    planned: str = ""
    posted: Callable[[Row, Posting], Row] = _as_planned
    laid_over: Callable[[Books, tuple[Row, ...]], Books] = _not_laid_over
    inverse: Callable[[Books, int], tuple[Row, ...]] = _without_inverse
    brings: Callable[[Row], Iterable[str]] = _no_names
    rests_on: Callable[[Row], Iterable[str]] = _no_names
    keeps_all: bool = False

    @property
    def names_its_change(self) -> bool:
        """Whether a row says which change brought it."""
        return "change" in self.value._fields  # type: ignore[attr-defined]

    def of_change(self, books: Books, number: int) -> tuple[Row, ...]:
        """The rows that the change brought, in their order."""
        if not self.names_its_change:
            return ()
        return tuple(row for row in books.tables.of(self.name) if row.change == number)

    def content(self, row: Row) -> str:
        """The row as it is kept: its fields by name."""
        fields = {name: value for name, value in row._asdict().items() if name != "change"}
        return json.dumps(fields, default=_plain, ensure_ascii=False)

    def row(self, content: str, change: int | None = None) -> Row:
        """The row as it was kept, brought by that change where the kind names it."""
        return self.rows((content,), (change,))[0]

    def rows(self, contents: Iterable[str], changes: Iterable[int | None]) -> tuple[Row, ...]:
        """The rows as they were kept, each brought by its change where the kind names it. A field that
        came later has its default, and one that is gone is passed over. The first stores kept the
        values alone, in the order of the fields."""
        names = self.value._fields  # type: ignore[attr-defined]
        found = []
        # Decoded in one go: a client has ten thousand.
        every = json.loads(f"[{','.join(contents)}]")
        for kept, change in zip(every, changes, strict=True):
            fields = dict(zip(names, kept, strict=False)) if isinstance(kept, list) else kept
            known = {name: value for name, value in fields.items() if name in names}
            for name, read in self.readers.items():
                known[name] = read(known[name])
            if self.names_its_change:
                known["change"] = change
            found.append(self.value(**known))
        return tuple(found)

    def keyed(self, rows: Iterable[Row]) -> list[tuple[str, str]]:
        """Key and content of each row. Rows that are the same to the letter get keys of their own."""
        seen: dict[str, int] = {}
        found = []
        for row in rows:
            key = json.dumps(self.key(row), default=_plain, ensure_ascii=False)
            seen[key] = seen.get(key, 0) + 1
            if seen[key] > 1:
                key = f"{key} {seen[key]}"
            found.append((key, self.content(row)))
        return found


def register_kind(
    name: str,
    place: int,
    value: type,
    key: Callable[[Row], list[Any]],
    *,
    readers: Mapping[str, Callable[[Any], Any]],
    posted: Callable[[Row, Posting], Row] = _as_planned,
    brings: Callable[[Row], Iterable[str]] = _no_names,
    rests_on: Callable[[Row], Iterable[str]] = _no_names,
) -> RowKind:
    """A kind whose rows are ours alone and have a field `stands`: no where they are taken back. All that
    were ever kept are read, so that taking the last one back brings the one before it again."""

    def laid_over(books: Books, rows: tuple[Row, ...]) -> Books:
        tables = books.tables.with_rows(name, (*books.tables.of(name), *rows))
        return books.followed_by(tables=tables)

    def inverse(books: Books, number: int) -> tuple[Row, ...]:
        return tuple(_before(books, row, number) for row in kind.of_change(books, number))

    def _before(books: Books, row: Row, number: int) -> Row:
        earlier = [
            other
            for other in books.tables.of(name)
            if key(other) == key(row) and other.change < number and other.change not in books.undone
        ]
        last = earlier[-1] if earlier else row._replace(stands=False)
        return last._replace(change=None)

    kind = RowKind(
        name,
        place,
        value,
        key=key,
        keeps_all=True,
        readers=readers,
        posted=posted,
        laid_over=laid_over,
        inverse=inverse,
        brings=brings,
        rests_on=rests_on,
    )
    return kind


def standing(kind: RowKind, books: Books) -> tuple[Row, ...]:
    """The rows of a register that stand: the latest of each key, where it was not taken back."""
    latest: dict[str, Row] = {}
    for row in books.tables.of(kind.name):
        latest[json.dumps(kind.key(row), default=_plain)] = row
    return tuple(row for row in latest.values() if row.stands)


def _plain(value: object) -> str:
    if isinstance(value, date | StrEnum):
        return value.value if isinstance(value, StrEnum) else value.isoformat()
    if isinstance(value, Fraction):
        return str(value)
    raise TypeError(f"{value!r} has no row")


@cache
def registry() -> Mapping[str, RowKind]:
    """Every kind by its name, in the order in which a digest takes them."""
    modules = (
        importlib.import_module(f"{__name__}.{module.name}")
        for module in pkgutil.iter_modules(__path__)
    )
    found: list[RowKind] = sorted((module.KIND for module in modules), key=lambda kind: kind.place)
    return {kind.name: kind for kind in found}
