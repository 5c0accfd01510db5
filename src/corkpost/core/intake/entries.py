"""Postings of a ledger to entries: which rows are one event. Each sum of debits is its sum of credits."""

import hashlib
from collections import Counter, defaultdict
from collections.abc import Callable, Iterator, Sequence
from operator import itemgetter
from typing import NamedTuple

from corkpost.core.intake.raw import Posting


class _Key:
    """What rows that belong together have in common. A row that does not say the first of it has none."""

    def __init__(self, first: str, *others: str) -> None:
        places = [Posting._fields.index(name) for name in (first, *others)]
        self.first = places[0]
        self.of: Callable[[Posting], object] = itemgetter(*places)


OF_ROW = "row "
"""So begins the number that a reading gives to what has none of its own: where it stands in the file."""
NUMBERED = (
    _Key("number", "journal", "day"),
    _Key("number", "day"),
    _Key("number", "journal"),
    _Key("number"),
)
KEYS = (
    *NUMBERED,
    _Key("reference", "day", "text"),
    _Key("reference", "day"),
    _Key("text", "day"),
    _Key("reference"),
    _Key("day", "journal"),
    _Key("day"),
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
    for key in KEYS:
        groups: dict[object, list[Posting]] = defaultdict(list)
        rest: list[Posting] = []
        first, of = key.first, key.of
        for row in left:
            if row[first]:
                groups[of(row)].append(row)
            else:
                rest.append(row)
        numbered = key in NUMBERED
        for rows in groups.values():
            if len(rows) > 1 and sum(row.amount for row in rows) == 0:
                parts = [rows] if numbered else _pairs(rows)
                found += [Entry(tuple(part), numbered) for part in parts]
            else:
                rest += rows
        left = rest
        if not left:
            break
    if key is not KEYS[0]:
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
        if name.startswith(OF_ROW):
            # Where it stands is no name: a row more above it would make it another.
            name = ""
        if name and times[name] == 1:
            names.append(name)
            continue
        rows = sorted((str(r.day), r.account, r.amount, r.reference, r.text) for r in entry.rows)
        digest = hashlib.sha256(repr((name, rows)).encode()).hexdigest()[:12]
        seen[digest] += 1
        names.append(digest if seen[digest] == 1 else f"{digest}-{seen[digest]}")
    return names
