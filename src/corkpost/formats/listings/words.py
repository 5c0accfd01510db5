"""The words that headings, totals and marks are told by, in clients' languages: `words.json`."""

import json
from collections import defaultdict
from collections.abc import Iterable
from functools import cache
from importlib import resources
from typing import Any

from corkpost.core.chart.trade_words import plain
from corkpost.core.money import Currency


@cache
def _data() -> Any:
    return json.loads((resources.files(__package__) / "words.json").read_text("utf-8"))


LEAST_PART = 5
"""A shorter word says nothing as a part of a name: `code` and `type` stand in many."""


@cache
def _whole_columns() -> dict[str, tuple[str, ...]]:
    found: dict[str, dict[str, None]] = defaultdict(dict)
    for role, words in _data()["columns"].items():
        for word in words:
            found[plain(word)][role] = None
    return {word: tuple(roles) for word, roles in found.items()}


def wholly(heading: str) -> tuple[str, ...]:
    """What a column may be of which the whole heading is a word: as it stands, or written out and without
    the currency."""
    return _whole_columns().get(plain(heading), ()) or _whole_columns().get(_out(heading), ())


@cache
def _out(heading: str) -> str:
    """`Amt (EUR)` as `amount`, `ACCT_DESC` as `account description`."""
    words = plain(heading).split()
    kept = [_data()["short"].get(word, word) for word in words if not _is_money(word)]
    return " ".join(filter(None, kept))


def _is_money(word: str) -> bool:
    return word in _data()["money"] or (len(word) == 3 and Currency(word.upper()).is_known)


def names_wholly(heading: str, role: str) -> bool:
    """Whether the whole of a heading is a word for that column."""
    return role in wholly(heading)


CODES = frozenset("code no num number nr id codice cod codigo numero nummer kontonr numer".split())


def names_code(heading: str) -> bool:
    """Whether a heading says that a code or a number stands below it."""
    return bool(CODES & set(plain(heading).split()))


@cache
def _columns() -> dict[str, str]:
    return {
        plain(word): role for role, words in _data()["columns"].items() for word in reversed(words)
    }


@cache
def roles_of(heading: str) -> tuple[str, ...]:
    """What a column of this heading may be, the likeliest first: by the whole of it, else by a part."""
    bare = _out(heading)
    if not bare or len(bare) > 60:
        return ()
    whole = wholly(heading)
    if whole:
        return whole
    padded = f" {bare} "
    parts = sorted(
        (
            (-len(word), role)
            for word, role in _columns().items()
            if (len(word) >= LEAST_PART or " " in word) and f" {word} " in padded
        )
    )
    return tuple(dict.fromkeys(role for _, role in parts))


@cache
def _list(name: str) -> tuple[str, ...]:
    return tuple(sorted({plain(word) for word in _data()[name]}, key=len, reverse=True))


@cache
def begins_as(text: str, name: str) -> bool:
    """Whether a cell begins with one of the words of that list (`opening`, `total`, `closing`,
    `carried`)."""
    bare = plain(text)
    return any(bare == word or bare.startswith(f"{word} ") for word in _list(name))


@cache
def says_opening(text: str) -> bool:
    """Whether the text of an entry says that it is what there was before."""
    bare = plain(text)
    return bool(bare) and any(
        bare == word or (" " in word and bare.startswith(f"{word} ")) for word in _list("opening")
    )


@cache
def mark_of(text: str) -> int:
    """1 for debit, -1 for credit, 0 where it is no mark."""
    bare = text.strip().casefold().strip(".")
    if bare in _data()["debit_marks"]:
        return 1
    return -1 if bare in _data()["credit_marks"] else 0


def titles_in(texts: Iterable[str]) -> dict[str, int]:
    """How often each kind of list is named in the texts above a table, or in the name of its file."""
    found: dict[str, int] = {}
    for text in texts:
        padded = f" {plain(text)} "
        for kind, words in _data()["titles"].items():
            found[kind] = found.get(kind, 0) + sum(f" {plain(word)} " in padded for word in words)
    return found


def own_name(text: str) -> str:
    """What `Company: Heron Boats` names; any other text as it is."""
    before, _, after = text.partition(":")
    return after.strip() if plain(before) in _list("whose") else text


def side_in(texts: Iterable[str]) -> str | None:
    """`receivables` or `payables`, where the texts name one of them alone."""
    told = {
        side
        for text in texts
        for side, words in _data()["sides"].items()
        if any(f" {plain(word)} " in f" {plain(text)} " for word in words)
    }
    return told.pop() if len(told) == 1 else None


def sides_of(cells: Iterable[str]) -> dict[str, str]:
    """The side that each of these words for one names, where both sides are named and every word is one."""
    words = {cell: plain(cell) for cell in cells}
    sides = ("receivables", "payables")
    for pair in _data()["side_pairs"]:
        named = dict(zip(map(plain, pair), sides, strict=True))
        if set(words.values()) == named.keys():
            return {cell: named[word] for cell, word in words.items()}
    found = {cell: side for cell in words if (side := side_in([cell]))}
    return found if len(found) == len(words) and set(found.values()) == set(sides) else {}


@cache
def account_words() -> tuple[str, ...]:
    """What may stand before the account in the heading of its block: `Account: 1200 Bank`."""
    return _list("account")


def is_one_of(text: str, name: str) -> bool:
    """Whether a text is one of the words of that list."""
    return plain(text) in _list(name)


def names_one_of(texts: Iterable[str], name: str) -> bool:
    """Whether one of the words of that list stands in any of the texts."""
    padded = [f" {plain(text)} " for text in texts]
    return any(f" {word} " in text for word in _list(name) for text in padded)


def only_moved(heading: str) -> bool:
    """Whether a column holds what moved, and not what was held."""
    return _out(heading) in _list("moved")
