"""Every point of the demo's and the labelled books, put right by every way that is offered: it is gone
at the next run, nothing says the opposite, and taking it back gives the first state back."""

from collections import Counter

import pytest
from bench.books_from_elsewhere import elsewhere

from corkpost.core.checks import registry
from corkpost.demo.labelled import labelled
from corkpost.demo.untidy.roughened import untidy
from corkpost.services import staff
from tests.core.laws import POSTING_ROUTES, breaches, looked_at, posting_options

REACHED: Counter[tuple[str, str]] = Counter()
CLIENTS = ("SALT", "BRIG", "COPP", "HOLL", "FENN", "TIDE", "MOOR", "KILN", "TAMA", "PEBB")
SEEDS = (204, 205, 206, 207)
"""One of each entity; no threshold was set on them."""
IN_SMALL_BOOKS = {
    "duplicate-bank-entry",
    "duplicate-payment",
    "unbanked-stale",
    "account-type-wrong",
    "entered-too",
}
"""What these books have none of: the properties over small books reach them."""


def put_right(books, most):
    """What breaks the law, of at most so many points of each check and way."""
    before = looked_at(books)
    done: Counter[tuple[str, str, int]] = Counter()
    broken = []
    for point in before.values():
        for place, option in enumerate(posting_options(books, point)):
            if done[point.check, option.route, place] == most:
                continue
            done[point.check, option.route, place] += 1
            REACHED[point.check, option.route] += 1
            broken += [
                f"{point.check} by {option.route} ({option.title}): {what}"
                for what in breaches(books, point, option, before)
            ]
    return broken


@pytest.mark.parametrize("code", CLIENTS)
def test_each_point_of_the_demo_is_gone_once_it_is_put_right(demo, code):
    assert put_right(demo.ledger(staff.person_named(demo, "OB"), code).books, most=3) == []


@pytest.mark.parametrize("seed", SEEDS)
def test_each_point_of_labelled_books_is_gone_once_it_is_put_right(seed):
    assert put_right(labelled(seed).books, most=1) == []


@pytest.mark.parametrize("seed", SEEDS[1:3])
def test_so_is_each_that_was_found_by_untidy_evidence(seed):
    assert put_right(untidy(seed).books, most=1) == []


@pytest.mark.parametrize("seed", range(3))
def test_so_is_each_of_books_of_another_shape(seed):
    assert put_right(elsewhere(seed).books, most=1) == []


@pytest.mark.soak
@pytest.mark.parametrize("seed", range(300, 340))
def test_the_same_over_many_books_and_all_their_points(seed):
    assert put_right(labelled(seed).books, most=99) == []
    assert put_right(untidy(seed).books, most=99) == []
    assert put_right(elsewhere(seed).books, most=99) == []


def test_which_checks_and_routes_that_reached(capsys):
    checks, ways = {check for check, _ in REACHED}, {route for _, route in REACHED}
    with capsys.disabled():
        print(f"\nput right: {REACHED.total()} ways of {len(checks)} checks by {len(ways)} routes")
    corrected = {
        name
        for name, registered in registry().items()
        if set(registered.check.routes) & POSTING_ROUTES
    }
    assert corrected - checks <= IN_SMALL_BOOKS
    assert POSTING_ROUTES - ways <= {"refund", "set-type", "theirs-stands"}
