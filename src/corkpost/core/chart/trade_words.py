"""What an account is by its name or its class, in the languages of clients' charts: `trade_words.json`."""

import json
import re
import unicodedata
from functools import cache
from importlib import resources
from typing import Any

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


@cache
def by_name(name: str) -> tuple[AccountType, AccountRole, str] | None:
    """Type and role that the longest trade word in an account's name speaks for, and the word."""
    padded = f" {plain(name)} "
    best: tuple[int, int, AccountType, AccountRole, str] | None = None
    for rank, (role, kind, words) in enumerate(_data()["names"]):
        for word in words.split("|"):
            if f" {word} " in padded and (best is None or len(word) > best[0]):
                best = (len(word), -rank, AccountType(kind), AccountRole(role), word)
    return best[2:] if best else None
