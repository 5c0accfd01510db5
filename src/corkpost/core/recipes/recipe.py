"""What a recipe is, and what it makes of what it is told."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date
from types import MappingProxyType
from typing import TYPE_CHECKING, Any, NamedTuple

from corkpost.core.asks import Ask
from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.kinds import EntryKind, TransactionKind
from corkpost.core.row_kinds.schedules import Step

if TYPE_CHECKING:
    from corkpost.core.recipes.told import Told


class Made(NamedTuple):
    """*requests*: the entries, in order; none where nothing is left to do, and then *reason* says so.
    *working*: the arithmetic, in words. *schedule*: what follows from it. *rows*: kept beside the entries,
    which they name by `new_entry`. *plan*: whole, where a route makes it. *kind*: of the transactions."""

    requests: tuple[EntryRequest, ...]
    reason: str
    working: tuple[str, ...] = ()
    schedule: tuple[Step, ...] = ()
    rows: Mapping[str, tuple[Any, ...]] = MappingProxyType({})
    warnings: tuple[str, ...] = ()
    counts_stock: bool = False
    plan: Plan | None = None
    kind: TransactionKind | None = None


@dataclass(frozen=True, eq=False)
class Recipe:
    """*place*: its turn in the list. *says*: what it is for, in a line."""

    id: str
    place: int
    title: str
    says: str
    asks: tuple[Ask, ...]
    make: "Callable[[Books, Told], Made]"

    @property
    def route(self) -> str:
        """By which a change tells that this recipe made it."""
        return f"recipe-{self.id}"


def adjusting(
    on: date, reason: str, *lines: EntryLine, reverse_on: date | None = None
) -> EntryRequest:
    """An adjusting entry of these lines; those with nil are left out."""
    return EntryRequest(
        EntryKind.ADJUSTING, on, reason, tuple(line for line in lines if line.amount), reverse_on
    )
