"""Proofs of the trial balance: figures in the books against figures from outside (handbook, section 9).

One file each, found by being in this folder. A file has `ORDER`, its turn in the list, and `find(books,
as_at)`, which gives the proofs of its kind as at the end of a day. The figure from outside is never made of
the account that it proves: what only the account knows stands in no list beside it.
"""

import importlib
import pkgutil
from collections.abc import Callable, Iterator
from datetime import date
from functools import cache

from corkpost.core.books import Books
from corkpost.core.refusals import UnknownName
from corkpost.core.tie_outs.tie_out import TieOut

Find = Callable[[Books, date], Iterator[TieOut]]


@cache
def registry() -> tuple[Find, ...]:
    """What finds each kind, in the order of the list."""
    modules = (
        importlib.import_module(f"{__name__}.{module.name}")
        for module in pkgutil.iter_modules(__path__)
    )
    kinds = sorted((m for m in modules if hasattr(m, "ORDER")), key=lambda module: module.ORDER)
    return tuple(module.find for module in kinds)


def tie_outs(books: Books, as_at: date) -> tuple[TieOut, ...]:
    """Every proof of the client's trial balance as at the end of *as_at*."""
    return tuple(tie_out for find in registry() for tie_out in find(books, as_at))


def tie_out_named(books: Books, name: str, as_at: date) -> TieOut:
    """The proof of that id. Raises UnknownName."""
    for tie_out in tie_outs(books, as_at):
        if tie_out.id == name:
            return tie_out
    raise UnknownName("tie-out", name)
