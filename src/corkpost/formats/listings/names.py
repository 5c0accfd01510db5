"""What a journal is by its name, in the languages of clients' books: `journals.json`."""

import json
from functools import cache
from importlib import resources
from typing import Any

from corkpost.core.chart.trade_words import plain
from corkpost.core.kinds import TransactionKind


@cache
def _journals() -> Any:
    return json.loads((resources.files(__package__) / "journals.json").read_text("utf-8"))


@cache
def by_journal(name: str) -> TransactionKind | None:
    """What the entries of a journal, or documents of a type, of that name are; None where the name says
    nothing that their accounts do not say better."""
    bare = plain(name)
    for kind, named in _journals().items():
        if bare and bare in map(plain, named):
            return TransactionKind(kind)
    return None
