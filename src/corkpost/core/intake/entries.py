"""Postings of a ledger to entries: which rows are one event. Each sum of debits is its sum of credits."""

import hashlib
from collections import Counter, defaultdict
from collections.abc import Callable, Iterator, Sequence
from typing import NamedTuple

from corkpost.core.intake.raw import Posting

Key = Callable[[Posting], tuple[object, ...] | None]


def _of(*names: str) -> Key:
    """A key of these fields; None where the first of them is not said."""

    def key(row: Posting) -> tuple[object, ...] | None:
        return tuple(getattr(row, name) for name in names) if getattr(row, names[0]) else None

    return key


KEYS: tuple[Key, ...] = (
    _of("number", "journal", "day"),
    _of("number", "day"),
    _of("number", "journal"),
    _of(
        "number",
    ),
    _of("reference", "day", "text"),
    _of("reference", "day"),
    _of("text", "day"),
    _of(
        "reference",
    ),
    _of("day", "journal"),
    _of("day"),
)
"""By what rows may belong together, the finest first."""


class Entry(NamedTuple):
    """Rows that are one event. *by_number*: the list's own number says so."""

    rows: tuple[Posting, ...]
    by_number: bool


class Found(NamedTuple):
    """*left*: rows that belong to nothing that balances."""

    entries: list[Entry]
    left: list[Posting]


def entries_of(postings: Sequence[Posting]) -> Found:
    """The entries in the order of their first rows. What balances by a fine key is taken before what only
    balances by a coarse one."""
    found: list[Entry] = []
    left = list(postings)
    for place, key in enumerate(KEYS):
        groups: dict[tuple[object, ...], list[Posting]] = defaultdict(list)
        rest: list[Posting] = []
        for row in left:
            name = key(row)
            if name is None:
                rest.append(row)
            else:
                groups[name].append(row)
        for rows in groups.values():
            if sum(row.amount for row in rows) == 0 and len(rows) > 1:
                parts = [rows] if place < 4 else list(_pairs(rows))
                found += [Entry(tuple(part), place < 4) for part in parts]
            else:
                rest += rows
        left = rest
        if not left:
            break
    order = {id(row): number for number, row in enumerate(postings)}
    found.sort(key=lambda entry: min(order[id(row)] for row in entry.rows))
    return Found(found, left)


def _pairs(rows: list[Posting]) -> Iterator[list[Posting]]:
    """Two rows that name each other's accounts, and two of one sum where there are no others of it, are
    entries of their own; the others are one."""
    left = list(rows)
    by_amount: dict[int, list[Posting]] = defaultdict(list)
    for row in rows:
        by_amount[abs(row.amount)].append(row)
    for same in by_amount.values():
        debits = [row for row in same if row.amount > 0]
        credits = [row for row in same if row.amount < 0]
        for debit in debits:
            mates = [
                row
                for row in credits
                if row.contra == debit.account and debit.contra == row.account
            ]
            if not mates and len(debits) == len(credits) == 1 and not debit.contra:
                mates = credits
            if mates and len(rows) > 2:
                mate = mates[0]
                credits.remove(mate)
                left = [row for row in left if row is not debit and row is not mate]
                yield [debit, mate]
    if left:
        yield left


def ids_of(entries: Sequence[Entry]) -> list[str]:
    """A lasting name of each: the list's own number where it is one entry's alone, else made of what is in
    it, and of how often that was there before."""
    wanted = [
        (f"{first.journal}-{first.number}" if first.journal else first.number)
        if entry.by_number
        else ""
        for entry in entries
        for first in entry.rows[:1]
    ]
    times = Counter(wanted)
    seen: Counter[str] = Counter()
    names = []
    for entry, name in zip(entries, wanted, strict=True):
        if name and times[name] == 1 and not name.startswith("row "):
            names.append(name)
            continue
        rows = sorted((str(r.day), r.account, r.amount, r.reference, r.text) for r in entry.rows)
        digest = hashlib.sha256(repr((name, rows)).encode()).hexdigest()[:12]
        seen[digest] += 1
        names.append(digest if seen[digest] == 1 else f"{digest}-{seen[digest]}")
    return names
