"""Checks say what they come after; circles are refused."""

import pytest

from corkpost.core.checks import in_order, order, registry
from corkpost.core.points import ALL_OTHERS, Check, CheckRun, Family
from tests.builders import TODAY, books_with


def check(name: str, *after: str) -> Check:
    return Check(name, family=Family.PROOF, routes=("leave",), after=after)


def test_each_check_runs_after_those_that_it_comes_after():
    assert in_order([check("a", "b"), check("last", ALL_OTHERS), check("b", "c"), check("c")]) == (
        "c", "b", "a", "last",
    )  # fmt: skip
    places = {name: place for place, name in enumerate(order())}
    assert places.keys() == registry().keys()
    assert all(
        places[name] < places[registered.check.id]
        for registered in registry().values()
        for name in registered.check.after
        if name != ALL_OTHERS
    )
    assert order()[-1] == "movement"


@pytest.mark.parametrize(
    ("checks", "fault"),
    [
        ([check("a", "b"), check("b", "a")], "cycle"),
        ([check("a", "nobody")], "nobody, which is no check"),
    ],
)
def test_a_circle_and_an_unknown_check_are_refused(checks, fault):
    with pytest.raises(ValueError, match=fault):
        in_order(checks)


def test_a_check_may_ask_only_those_that_it_says_it_comes_after():
    look = CheckRun(books_with(), TODAY, found={"b": (), "c": ()})
    assert list(look.found_before(check("a", "b"), "b")) == []
    with pytest.raises(ValueError, match="a does not come after c"):
        list(look.found_before(check("a", "b"), "c"))
    assert list(look.found_before(check("a", ALL_OTHERS), "c")) == []
