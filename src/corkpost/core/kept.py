"""What was worked out from books, kept for the books that follow them.

Most of what a run finds is as it was before the last posting. A result is kept with all that it was made
of, and made anew when any of that is another; so what is kept never says anything else than a full run
would. Rows are values that are shared from one state of the books to the next: to compare them is to
compare where they lie, which is what makes this quick.
"""

from collections.abc import Callable, Hashable, Iterable, Iterator, Mapping
from typing import Any, NamedTuple, TypeVar

Row = TypeVar("Row")
Key = TypeVar("Key", bound=Hashable)
Inputs = TypeVar("Inputs")
Result = TypeVar("Result")

FEW = 50
"""So many rows that were exchanged are exchanged in an index too; with more it is made anew."""


class _Index(NamedTuple):
    rows: tuple[Any, ...]
    ground: Any
    by_key: Mapping[Any, tuple[Any, ...]]


class Kept:
    """Results and indexes under their names. Never altered where others may read: each name holds a
    mapping that is put there whole."""

    def __init__(self) -> None:
        self._results: dict[str, Mapping[Any, tuple[Any, Any]]] = {}
        self._indexes: dict[str, _Index] = {}
        self._latest: dict[str, Any] = {}
        self._compared: tuple[Any, Any, Any] = ((), (), [])

    def handed_on(self) -> "Kept":
        """The same for books that follow these: what they add is not seen here."""
        following = Kept()
        following._results = dict(self._results)
        following._indexes = dict(self._indexes)
        following._latest = dict(self._latest)
        return following

    def latest(self, name: str) -> Any:
        """What was put there last under the name, for one that goes on from it; None where nothing was."""
        return self._latest.get(name)

    def put(self, name: str, value: object) -> None:
        """Hand a value on under the name; whoever takes it up says itself what it was made of."""
        self._latest[name] = value

    def __reduce__(self) -> tuple[type["Kept"], tuple[()]]:
        return (Kept, ())

    def once(self, name: str, inputs: Inputs, make: Callable[[], Result]) -> Result:
        """The result of that name. *inputs*: all that *make* reads."""
        before = self._results.get(name, {}).get(None)
        if before is not None and before[0] == inputs:
            result: Result = before[1]
            return result
        result = make()
        self._results[name] = {None: (inputs, result)}
        return result

    def each(
        self,
        name: str,
        groups: Iterable[tuple[Key, Inputs]],
        make: Callable[[Key, Inputs], Result],
    ) -> Iterator[Result]:
        """The result of each group, in their order. *make* may read nothing else than it is given.

        Kept until the next call under this name has ended: what is no group any more is dropped.
        """
        before = self._results.get(name, {})
        now: dict[Key, tuple[Inputs, Result]] = {}
        for key, inputs in groups:
            kept = before.get(key)
            if kept is None or kept[0] != inputs:
                kept = (inputs, make(key, inputs))
            now[key] = kept
            yield kept[1]
        self._results[name] = now

    def by_key(
        self,
        name: str,
        rows: tuple[Row, ...],
        keys_of: Callable[[Row], Iterable[Key]],
        ground: object = None,
    ) -> Mapping[Key, tuple[Row, ...]]:
        """The rows by each of their keys, in their order. Where *rows* go on from those of the last
        call, only what was added or exchanged is looked at. *ground*: all that *keys_of* reads besides
        the row."""
        before = self._indexes.get(name)
        if before is not None and before.ground != ground:
            before = None
        found = self._continued(before, rows, keys_of) if before is not None else None
        if found is None:
            lists: dict[Key, list[Row]] = {}
            for row in rows:
                for key in keys_of(row):
                    lists.setdefault(key, []).append(row)
            found = {key: tuple(members) for key, members in lists.items()}
        if before is None or found is not before.by_key or rows is not before.rows:
            self._indexes[name] = _Index(rows, ground, found)
        return found

    def exchanged(
        self, before: tuple[Row, ...], rows: tuple[Row, ...]
    ) -> list[tuple[Row, Row]] | None:
        """The rows that others stand in place of, as (before, now), where *rows* go on from *before*;
        None where they do not, or where they are more than FEW."""
        # Many indexes of the same rows ask one after the other: they are compared once.
        # Read at once: another thread may put its own there.
        known, against, differing = self._compared
        if known is before and against is rows:
            found: list[tuple[Row, Row]] | None = differing
            return found
        found = None
        if len(rows) >= len(before):
            pairs = zip(before, rows, strict=False)
            found = [pair for pair in pairs if pair[0] is not pair[1]]
            found = found if len(found) <= FEW else None
        self._compared = (before, rows, found)
        return found

    def _continued(
        self,
        before: _Index,
        rows: tuple[Row, ...],
        keys_of: Callable[[Row], Iterable[Key]],
    ) -> Mapping[Key, tuple[Row, ...]] | None:
        """The index for *rows*, made of the one before; None where they do not go on from its rows."""
        if rows is before.rows:
            return before.by_key
        exchanged = self.exchanged(before.rows, rows)
        if exchanged is None:
            return None
        found = dict(before.by_key)
        touched: set[Key] = set()
        for old, new in exchanged:
            keys = list(keys_of(old))
            if keys != list(keys_of(new)):
                return None
            touched.update(keys)
        # All at once: of two rows that change places neither may be taken for the other.
        instead = {id(old): new for old, new in exchanged}
        for key in touched:
            found[key] = tuple(instead.get(id(row), row) for row in found[key])
        for row in rows[len(before.rows) :]:
            for key in keys_of(row):
                found[key] = (*found.get(key, ()), row)
        return found
