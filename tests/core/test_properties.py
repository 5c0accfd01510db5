"""What must hold for all books: changes balance, barred spans never move, an undo gives back."""

from hypothesis import given, settings

from corkpost.core import routes
from corkpost.core.by_hand import picked, routes_for
from corkpost.core.change import checked
from corkpost.core.checks import registry, run_checks
from corkpost.core.effect import effect_of, year_end_after
from corkpost.core.open_items import open_items
from corkpost.core.points import Look
from corkpost.core.refusals import Refusal
from corkpost.core.trial_balance import balances, trial_balance
from corkpost.core.undo import plan_undo
from tests.builders import CODES, TODAY, after, day
from tests.core.strategies import any_books

FILED = day("2025-12-31")
END = day("2026-12-31")


def plans(books):
    """Every plan that any route offers for any point of the books."""
    for point in run_checks(Look(books, TODAY)):
        for option in routes.options_for(books, point):
            if routes.route_named(option.route).plan:
                plan = routes.plan_route(books, point, option.route, option.settings)
                yield point, checked(plan, books)


@settings(max_examples=150)
@given(any_books(filed_through="2025-12-31"))
def test_every_correction_balances_and_leaves_the_barred_span_and_its_aged_lists_alone(books):
    for _, plan in plans(books):
        assert all(sum(line.amount for line in entry.lines) == 0 for entry in plan.entries)
        done = after(books, plan)
        assert trial_balance(done, FILED) == trial_balance(books, FILED)
        assert list(open_items(done).open_at(FILED)) == list(open_items(books).open_at(FILED))


@settings(max_examples=150)
@given(any_books())
def test_a_change_and_its_undo_give_the_first_trial_balance_and_open_items_back(books):
    for point, plan in plans(books):
        done = after(books, plan)
        undone = after(done, checked(plan_undo(done, 1), done), 2)
        assert trial_balance(undone, END) == trial_balance(books, END)
        left = {k: v for k, v in open_items(undone).open_now.items() if v}
        assert left == {k: v for k, v in open_items(books).open_now.items() if v}
        assert point.id in {again.id for again in run_checks(Look(undone, TODAY))}


@settings(max_examples=150)
@given(any_books(filed_through="2025-12-31"))
def test_what_is_shown_is_what_is_posted(books):
    for _, plan in plans(books):
        at = year_end_after(plan, books)
        effect = effect_of(plan, books, at)
        done = after(books, plan)
        sums = balances(done.tables.transactions, done, at)
        assert {row.code: row.after for row in effect.accounts} == {
            row.code: sums.get(row.code, 0) for row in effect.accounts
        }
        untouched = sums.keys() - {row.code for row in effect.accounts}
        before = balances(books.tables.transactions, books, at)
        assert all(sums[code] == before[code] for code in untouched)
        assert sum(row.after - row.before for row in effect.accounts) == 0


@settings(max_examples=100)
@given(any_books())
def test_a_corrected_point_is_gone(books):
    for point, plan in plans(books):
        # Old money set against the oldest items may leave a rest on account, and stays a point.
        if point.check == "unallocated" and not point.named("item"):
            continue
        done = after(books, plan)
        assert point.id not in {again.id for again in run_checks(Look(done, TODAY))}


@given(any_books())
def test_the_same_books_give_the_same_points_whatever_order_they_came_in(books):
    points = run_checks(Look(books, TODAY))
    assert len({point.id for point in points}) == len(points)
    assert run_checks(Look(books, TODAY)) == points
    for point in points:
        assert 0 <= point.certainty <= 1
        assert point.amount > 0
        assert set(point.transactions) <= set(books.transactions)
        assert point.check in registry()


SAID = {"reclassify": {"account": CODES["electricity"]}, "amend-reference": {"reference": "X-1"}}
"""What a person says to a route that asks."""


@settings(max_examples=60)
@given(any_books(filed_through="2025-12-31"))
def test_whatever_is_picked_by_hand_leaves_the_barred_span_alone_and_can_be_taken_back(books):
    left = {k: v for k, v in open_items(books).open_now.items() if v}
    barred = [(item.key, amount) for item, amount in open_items(books).open_at(FILED)]
    for posted in books.tables.transactions[:5]:
        for route in set(routes_for(books, posted)) - {"settle", "allocate", "move-allocation"}:
            point = picked(books, route, posted.id)
            try:
                plan = checked(routes.plan_route(books, point, route, SAID.get(route, {})), books)
            except Refusal:
                continue
            done = after(books, plan)
            assert trial_balance(done, FILED) == trial_balance(books, FILED)
            now = [(item.key, amount) for item, amount in open_items(done).open_at(FILED)]
            assert now == barred
            undone = after(done, checked(plan_undo(done, 1), done), 2)
            assert trial_balance(undone, END) == trial_balance(books, END)
            assert {k: v for k, v in open_items(undone).open_now.items() if v} == left
