"""The description of the API that the pages' types are made from."""

import importlib
import pkgutil
from collections import defaultdict

from pydantic import BaseModel

import corkpost.api


def test_no_two_models_share_a_name_since_one_would_silently_stand_for_both():
    made = defaultdict(set)
    for module in pkgutil.iter_modules(corkpost.api.__path__):
        for thing in vars(importlib.import_module(f"corkpost.api.{module.name}")).values():
            if isinstance(thing, type) and issubclass(thing, BaseModel):
                made[thing.__name__].add(thing.__module__)
    assert len(made) > 60
    assert {name: where for name, where in made.items() if len(where) > 1} == {}
