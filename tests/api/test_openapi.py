"""The description of the API that the pages' types are made from."""

import importlib
import pkgutil
from collections import defaultdict
from collections.abc import Iterator

import corkpost.api
from corkpost.formats.shape import Shape


def shapes(of: type[Shape]) -> Iterator[type[Shape]]:
    for made in of.__subclasses__():
        yield made
        yield from shapes(made)


def test_no_two_models_share_a_name_since_one_would_silently_stand_for_both():
    for module in pkgutil.iter_modules(corkpost.api.__path__):
        importlib.import_module(f"corkpost.api.{module.name}")
    made = defaultdict(set)
    for model in shapes(Shape):
        if model.__module__.startswith("corkpost."):
            made[model.__name__].add(model.__module__)
    assert len(made) > 200
    assert {name: where for name, where in made.items() if len(where) > 1} == {}
