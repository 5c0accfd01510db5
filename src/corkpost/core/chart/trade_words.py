"""What an account is by its name or its class, in the languages of clients' charts: `trade_words.json`."""

import json
import re
import unicodedata
from functools import cache
from importlib import resources
from typing import Any, NamedTuple

from corkpost.core.kinds import AccountRole, AccountType

_LETTERS = str.maketrans(
    {"ä": "ae", "ö": "oe", "ü": "ue", "ß": "ss", "ø": "o", "ł": "l", "æ": "ae"}
)
_APART = re.compile(r"[\s_.:;,\-()'\u2019\u00b0\u00ba#*/]+")


@cache
def plain(text: str) -> str:
    """In small letters without accents, words apart by one blank."""
    small = unicodedata.normalize("NFKC", text).casefold().translate(_LETTERS)
    bare = "".join(s for s in unicodedata.normalize("NFD", small) if not unicodedata.combining(s))
    return _APART.sub(" ", bare).strip()


@cache
def _data() -> Any:
    return json.loads((resources.files(__package__) / "trade_words.json").read_text("utf-8"))


@cache
def type_said(text: str) -> AccountType | None:
    """The type that a chart's own word is; None where it is none that is known."""
    bare = plain(text)
    for name, words in _data()["types"].items():
        if bare in words:
            return AccountType(name)
    return None


class Named(NamedTuple):
    """What the name of an account speaks for, and *why*, in words."""

    type: AccountType
    role: AccountRole
    why: str


@cache
def by_name(name: str, among: frozenset[AccountType] = frozenset(AccountType)) -> Named | None:
    """Type and role that the longest trade word in an account's name speaks for: of those that govern
    others wherever they stand (`interest` in `interest on a loan`), else of all. *among*: the types that
    it can have."""
    padded = f" {_folded(plain(name))} "
    governs = _longest(_data()["governing"], padded, among)
    named = _longest(_data()["names"], padded, among)
    if governs is None or named is None:
        return governs or named
    # `accounts payable` says more than that something is payable.
    return named if not governs.role and named.role and named.type is governs.type else governs


def _longest(rows: Any, padded: str, among: frozenset[AccountType]) -> Named | None:
    standing = (
        (word, kind, role)
        for role, kind, words in rows
        if kind in among
        for word in words.split("|")
        if _stands(word, padded)
    )
    best = max(standing, key=lambda row: len(row[0]), default=None)
    if best is None:
        return None
    word, kind, role = best
    return Named(AccountType(kind), AccountRole(role), f"its name says “{_shown(word)}”")


def _folded(text: str) -> str:
    """`director s loan` and `directors loan` are one."""
    return text.replace(" s ", "s ").replace(" & ", " and ")


def _stands(word: str, padded: str) -> bool:
    """`loan` as a word, or several; `^vat` at the name's beginning, `income$` at its end; `-kosten` at the
    end of a word; `director+loan` apart from each other."""
    if word[0] == "^":
        return padded.startswith((f" {word[1:]} ", f" {word[1:]}s "))
    if word[-1] == "$":
        return padded.endswith(f" {word[:-1]} ")
    if word[0] == "-":
        return f"{word[1:]} " in padded
    return all(f" {part} " in padded or f" {part}s " in padded for part in word.split("+"))


def _shown(word: str) -> str:
    return word.strip("^-$").replace("+", " \N{HORIZONTAL ELLIPSIS} ")
