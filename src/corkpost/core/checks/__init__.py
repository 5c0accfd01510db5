"""The checks, one file each, found by being in this folder.

A file has `CHECK` (its facts) and `find` (its points). This registry imports each and holds no list.
"""

import importlib
import pkgutil
from collections.abc import Mapping
from functools import cache
from typing import NamedTuple

from corkpost.core.points import Check, Family, Find, Look, Point


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
    return {one.check.id: one for one in sorted(found, key=lambda one: one.check.id)}


def found_by(look: Look, check: str) -> tuple[Point, ...]:
    """The points of one check, found once in a look: some checks keep quiet about others' subjects."""
    if check not in look.found:
        look.found[check] = tuple(registry()[check].find(look))
    return look.found[check]


def run_checks(look: Look) -> tuple[Point, ...]:
    """The points of every check, most at stake first within a family."""
    points = [point for name in registry() for point in found_by(look, name)]
    families = {one.check.id: one.check.family for one in registry().values()}
    order = list(Family)
    points.sort(key=lambda point: (order.index(families[point.check]), -point.amount, point.id))
    return tuple(points)
