"""Recipes: a few figures in, the lines of an entry out (handbook, section 8).

One file each, found by being in this folder. A file has `RECIPE`, which says what it asks (`asks`), from
which its form, its command and its test table come, and `make(books, told)`, which says what is posted.
"""

import importlib
import pkgutil
from collections.abc import Mapping
from dataclasses import replace
from datetime import date
from functools import cache
from types import MappingProxyType
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.entries import plan_entries
from corkpost.core.recipes.recipe import Recipe
from corkpost.core.recipes.told import read_told
from corkpost.core.refusals import NothingToDo, UnknownName


class UseRecipe(NamedTuple):
    """*said*: what is told, as it is keyed, by the names of the asks. *near*: the day by which short forms
    of days are read; the last that the books have unless given."""

    recipe: str
    said: Mapping[str, str] = MappingProxyType({})
    near: date | None = None


@cache
def registry() -> Mapping[str, Recipe]:
    """Every recipe by its id, in the order of the list."""
    modules = (
        importlib.import_module(f"{__name__}.{module.name}")
        for module in pkgutil.iter_modules(__path__)
    )
    found: list[Recipe] = [module.RECIPE for module in modules if hasattr(module, "RECIPE")]
    return {recipe.id: recipe for recipe in sorted(found, key=lambda recipe: recipe.place)}


def recipe_named(name: str) -> Recipe:
    """The recipe of that id. Raises UnknownName."""
    if name not in registry():
        raise UnknownName("recipe", name)
    return registry()[name]


def plan_recipe(books: Books, wanted: UseRecipe) -> Plan:
    """What the recipe posts, told so. Raises UnknownName, BadEntry with every fault, or NothingToDo."""
    recipe = recipe_named(wanted.recipe)
    made = recipe.make(books, read_told(books, recipe, wanted.said, wanted.near))
    if made.plan is not None:
        return replace(made.plan, route=recipe.route)
    if not made.requests:
        raise NothingToDo(made.reason)
    plan = plan_entries(books, made.requests, made.reason, counts_stock=made.counts_stock)
    if made.kind is not None:
        entries = tuple(entry._replace(kind=made.kind) for entry in plan.entries)
        plan = replace(plan, entries=entries)
    return replace(
        plan,
        route=recipe.route,
        notes=(*made.working, *plan.notes),
        warnings=(*made.warnings, *plan.warnings),
        more=made.rows,
        schedule=made.schedule,
    )
