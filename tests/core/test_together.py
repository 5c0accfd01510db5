"""Several points at once: one plan, one effect, as if each had been taken after the other."""

import pytest

from corkpost.core.bank.agreeing import ready
from corkpost.core.change import Plan, over_allocated
from corkpost.core.checks import run_checks
from corkpost.core.effect import effect_of
from corkpost.core.points import CheckRun
from corkpost.core.refusals import BadEntry
from corkpost.core.routes import options_for, plan_route
from corkpost.core.together import together
from corkpost.core.undo import plan_undo
from tests.builders import (
    TODAY,
    after,
    bank_line,
    bill,
    books_with,
    day,
    direct_payment,
    with_statement,
)
from tests.notation import eur


def books_with_three_twins(**settings):
    twins = [
        bill(reference, on=on, id=name, fuel=amount)
        for name, reference, on, amount in (
            ("A1", "RW-0117", "2026-04-03", "200.00"),
            ("A2", "RW 117", "2026-04-05", "200.00"),
            ("B1", "RW-0301", "2026-05-03", "300.00"),
            ("B2", "RW0301", "2026-05-04", "300.00"),
            ("C1", "RW-0402", "2025-11-03", "400.00"),
            ("C2", "RW 402", "2025-11-05", "400.00"),
        )
    ]
    return books_with(*twins, filed_through="2025-12-31", **settings)


def points_of(books, check="duplicate-document"):
    return [p for p in run_checks(CheckRun(books, TODAY)) if p.check == check]


def test_the_effect_is_that_of_each_taken_after_the_other():
    books = books_with_three_twins(materiality="500.00")
    points = points_of(books)
    found = together(books, points)
    assert [found_point.refused for found_point in found.taken] == [None, None, None]
    one_by_one = books
    for number, point in enumerate(points, 1):
        option = options_for(one_by_one, point)[0]
        plan = plan_route(one_by_one, point, option.route, option.settings)
        one_by_one = after(one_by_one, plan, number)
    assert found.plan is not None
    at_once = after(books, found.plan)
    at = day("2026-12-31")
    nothing = Plan(found.plan.kind, (), (), "")
    assert (
        effect_of(nothing, at_once, at).after
        == effect_of(nothing, one_by_one, at).after
        == effect_of(found.plan, books, at).after
    )
    assert over_allocated(at_once) == []
    assert len({entry.id for entry in found.plan.entries}) == 3
    assert [entry.reason for entry in found.plan.entries] == [
        found_point.reason for found_point in found.taken
    ]
    # The filed year does not move, and all of it is taken back as one.
    assert {entry.posting_date.year for entry in found.plan.entries} == {2026}
    back = after(at_once, plan_undo(at_once, 1), 2)
    assert effect_of(nothing, back, at).after == effect_of(nothing, books, at).after


def test_what_is_within_materiality_alone_may_not_be_so_together():
    """Corrections to a filed year add up, those before in the same change too."""
    twins = [
        bill(ref, on=f"2025-11-0{on}", fuel="300.00", id=f"F{on}")
        for on, ref in ((1, "RW-61"), (2, "RW 61"), (3, "RW-95"), (4, "RW 95"))
    ]
    books = books_with(*twins, filed_through="2025-12-31", materiality="500.00")
    plan = together(books, points_of(books)).plan
    credits = [line.account for entry in plan.entries for line in entry.lines if line.amount < 0]
    assert credits == ["5200", "3000"]
    assert sum(abs(part.amount) for part in plan.prior_parts) == eur("600.00")
    # Each keeps its own note, under its own name.
    assert sorted({note.split(":")[0] for note in plan.notes}) == ["F2", "F4"]


def test_bank_entries_that_are_there_twice_are_each_agreed_with_their_opposite_once():
    twins = [
        direct_payment(f"2026-0{month}-0{day_}", id=f"P{month}{day_}", charges="12.50",
                       memo="QUARTERLY FEE")
        for month in (3, 6) for day_ in (2, 3)
    ]  # fmt: skip
    line = bank_line("2026-03-02", "-12.50", "QUARTERLY FEE")
    other = bank_line("2026-06-02", "-12.50", "QUARTERLY FEE")
    books = with_statement(books_with(*twins), line, other)
    points = points_of(books, "duplicate-bank-entry")
    assert len(points) == 2
    alone = [
        ready(plan_route(books, p, "void", options_for(books, p)[0].settings), books)
        for p in points
    ]
    found = together(books, points).plan
    assert found is not None
    whole = ready(found, books)
    assert len(whole.agreements) == sum(len(plan.agreements) for plan in alone) > 0
    assert len({row.group for row in whole.agreements}) == 2


def test_one_that_can_t_go_says_why_and_two_kinds_don_t_go_together():
    books = books_with_three_twins()
    points = points_of(books)
    twice = together(books, [points[0], points[0]])
    assert twice.taken[0].refused is None
    assert twice.taken[1].refused
    mixed = books_with(
        *books.tables.transactions,
        bill("KTW-5", on="2026-03-01", party="Kittiwake Signs", office="318.57"),
        direct_payment("2026-03-08", party="Kittiwake Signs", office="318.57"),
    )
    two = [*points_of(mixed)[:1], *points_of(mixed, "bill-paid-direct")[:1]]
    with pytest.raises(BadEntry, match="of one kind"):
        together(mixed, two)
