"""The checks, one file each, found by being in this folder.

A file has `CHECK` (its facts) and `find` (its points). This registry imports each and holds no list.
"""

import importlib
import pkgutil
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from functools import cache
from graphlib import TopologicalSorter
from typing import NamedTuple

from corkpost.core.evidence.account_kind import assumed, less_sure
from corkpost.core.evidence.certainty import as_taught
from corkpost.core.points import ALL_OTHERS, Check, CheckRun, Family, Find, Point
from corkpost.core.stories import settled


class Registered(NamedTuple):
    check: Check
    find: Find


@cache
def registry() -> Mapping[str, Registered]:
    """Every check by its id, in the order of the ids."""
    modules = (
        importlib.import_module(f"{__name__}.{module.name}")
        for module in pkgutil.iter_modules(__path__)
    )
    found = (Registered(module.CHECK, module.find) for module in modules)
    return {
        registered.check.id: registered
        for registered in sorted(found, key=lambda registered: registered.check.id)
    }


def in_order(checks: Iterable[Check]) -> tuple[str, ...]:
    """The ids of the checks, each after those that it comes after. Raises ValueError for a circle, and
    for an id that is none."""
    named = {check.id: check.after for check in checks}
    unknown = {name for after in named.values() for name in after} - named.keys() - {ALL_OTHERS}
    if unknown:
        raise ValueError(f"checks come after {', '.join(sorted(unknown))}, which is no check")
    last = {name for name, after in named.items() if ALL_OTHERS in after}
    graph = {
        name: set(after) - {ALL_OTHERS} | (named.keys() - last if name in last else set())
        for name, after in sorted(named.items())
    }
    return tuple(TopologicalSorter(graph).static_order())


@cache
def order() -> tuple[str, ...]:
    """The ids of all checks in the order in which they run."""
    return in_order(registered.check for registered in registry().values())


def found_by(run: CheckRun, check: str) -> tuple[Point, ...]:
    """The points of one check, found once in a look, after those that it comes after."""
    if check not in run.found:
        after = registry()[check].check.after
        for name in (n for n in order() if n in after or (ALL_OTHERS in after and n != check)):
            found_by(run, name)
        run.found[check] = tuple(_found(run, registry()[check]))
    return run.found[check]


def _found(run: CheckRun, registered: Registered) -> Iterator[Point]:
    looks_like = assumed(run.books) if registered.check.assumes else None
    if looks_like is None:
        return registered.find(run)
    books, taken = looks_like
    surely = {point.id: point for point in registered.find(run)}
    found = registered.find(replace(run, books=books, found=run.found))
    return less_sure(books, found, taken, surely)


def as_said(run: CheckRun) -> tuple[Point, ...]:
    """The points of every check, settled, as certain as the checks say."""
    checks = {name: registered.check for name, registered in registry().items()}
    return settled([point for name in order() for point in found_by(run, name)], checks, run.left)


def run_checks(run: CheckRun) -> tuple[Point, ...]:
    """The points of every check, settled, as certain as each has earned, most at stake first within a
    family."""
    checks = {name: registered.check for name, registered in registry().items()}
    points = [as_taught(point) for point in as_said(run)]
    turns = list(Family)
    points.sort(
        key=lambda point: (turns.index(checks[point.check].family), -point.amount, point.id)
    )
    return tuple(points)


# A circle among the checks is a fault of the program: it is told when the program starts.
order()
