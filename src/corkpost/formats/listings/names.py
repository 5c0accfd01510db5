"""What an account or a journal is by its name, in the languages of clients' books: `accounts.json`,
`journals.json`."""

import json
from functools import cache
from importlib import resources
from typing import Any

from corkpost.core.intake.making import Words
from corkpost.core.kinds import AccountRole, AccountType, TransactionKind
from corkpost.formats.listings.words import plain


@cache
def _data(file: str) -> Any:
    return json.loads((resources.files(__package__) / file).read_text("utf-8"))


@cache
def type_said(text: str) -> AccountType | None:
    """The type that a chart's own word is; None where it is none that is known."""
    bare = plain(text)
    for name, words in _data("accounts.json")["types"].items():
        if bare in words:
            return AccountType(name)
    return None


@cache
def by_name(name: str) -> tuple[AccountType, AccountRole, str] | None:
    """Type and role that the longest trade word in an account's name speaks for, and the word."""
    padded = f" {plain(name)} "
    best: tuple[int, int, AccountType, AccountRole, str] | None = None
    for rank, (role, kind, words) in enumerate(_data("accounts.json")["names"]):
        for word in words.split("|"):
            if f" {word} " in padded and (best is None or len(word) > best[0]):
                best = (len(word), -rank, AccountType(kind), AccountRole(role), word)
    return best[2:] if best else None


@cache
def by_journal(name: str) -> TransactionKind | None:
    """What the entries of a journal, or documents of a type, of that name are; None where the name says
    nothing that their accounts do not say better."""
    bare = plain(name)
    for kind, named in _data("journals.json").items():
        if bare and bare in map(plain, named):
            return TransactionKind(kind)
    return None


WORDS = Words(by_name, by_journal)
