"""What must hold for all books: changes balance, barred spans never move, an undo gives back."""

from collections import Counter

from hypothesis import given, settings

from corkpost.core.bank.agreeing import ready
from corkpost.core.by_hand import picked, routes_for
from corkpost.core.checks import registry, run_checks
from corkpost.core.effect import effect_of, year_end_after
from corkpost.core.open_items import open_items
from corkpost.core.points import CheckRun, Family
from corkpost.core.refusals import Refusal
from corkpost.core.routes import plan_route
from corkpost.core.trial_balance import balances, trial_balance
from corkpost.core.undo import plan_undo
from tests.builders import CODES, TODAY, after, day
from tests.core.laws import POSTING_ROUTES, left_open, planned, posting_options
from tests.core.scenes import SCENES
from tests.core.strategies import any_books

FILED = day("2025-12-31")
END = day("2026-12-31")


def plans(books, reached):
    """Every plan that any route offers for any point of the books; *reached* counts the routes."""
    for point in run_checks(CheckRun(books, TODAY)):
        for option in posting_options(books, point):
            plan = planned(books, point, option)
            reached[option.route] += 1
            reached[point.check] += 1
            yield point, plan


def open_when_filed(books):
    """The aged list of the filed date: a party that is read as another has other words, no other sum."""
    return [
        (item.transaction.id, item.account, left) for item, left in open_items(books).open_at(FILED)
    ]


def for_books_of_every_kind(law, **facts):
    """Asks the law of books with each scene in them."""
    for scene in SCENES:
        settings(max_examples=10)(given(any_books(must=scene, **facts))(law))()


def reaches_every_route(reached, but=frozenset()):
    """A law that some route, or a check of the bank's, never met says nothing of it."""
    of_the_bank = {
        name for name, registered in registry().items() if registered.check.family is Family.BANK
    }
    of_the_bank -= {"takings-short"}  # a shop's takings by day: the demo has them
    assert (POSTING_ROUTES | of_the_bank) - reached.keys() == but, dict(reached)


def test_every_correction_balances_and_leaves_the_barred_span_and_its_aged_lists_alone():
    reached: Counter[str] = Counter()

    def law(books):
        for _, plan in plans(books, reached):
            assert all(sum(line.amount for line in entry.lines) == 0 for entry in plan.entries)
            done = after(books, plan)
            assert trial_balance(done, FILED) == trial_balance(books, FILED)
            assert open_when_filed(done) == open_when_filed(books)

    for_books_of_every_kind(law, filed_through="2025-12-31")
    reaches_every_route(reached)


def test_a_change_and_its_undo_give_the_first_trial_balance_open_items_and_points_back():
    reached: Counter[str] = Counter()

    def law(books):
        for point, plan in plans(books, reached):
            done = after(books, plan)
            number = done.changes[-1].number
            undone = after(done, ready(plan_undo(done, number), done))
            assert trial_balance(undone, END) == trial_balance(books, END)
            assert left_open(undone) == left_open(books)
            assert point.id in {again.id for again in run_checks(CheckRun(undone, TODAY))}

    for_books_of_every_kind(law)
    reaches_every_route(reached, but={"to-this-year"})


def test_what_is_shown_is_what_is_posted():
    reached: Counter[str] = Counter()

    def law(books):
        for _, plan in plans(books, reached):
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

    for_books_of_every_kind(law, filed_through="2025-12-31")
    reaches_every_route(reached)


def test_a_corrected_point_is_gone():
    reached: Counter[str] = Counter()

    def law(books):
        for point, plan in plans(books, reached):
            # Old money set against the oldest items may leave a rest on account, and stays a point.
            if point.check == "unallocated" and not point.named("item"):
                continue
            done = after(books, plan)
            assert point.id not in {again.id for again in run_checks(CheckRun(done, TODAY))}

    for_books_of_every_kind(law, filed_through="2025-12-31")
    reaches_every_route(reached)


@given(any_books())
def test_the_same_books_give_the_same_points_whatever_order_they_came_in(books):
    points = run_checks(CheckRun(books, TODAY))
    assert len({point.id for point in points}) == len(points)
    assert run_checks(CheckRun(books, TODAY)) == points
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
    left = left_open(books)
    barred = [(item.key, amount) for item, amount in open_items(books).open_at(FILED)]
    for posted in books.tables.transactions[:5]:
        for route in set(routes_for(books, posted)) - {"settle", "allocate", "move-allocation"}:
            point = picked(books, route, posted.id)
            try:
                plan = ready(plan_route(books, point, route, SAID.get(route, {})), books)
            except Refusal:
                continue
            done = after(books, plan)
            assert trial_balance(done, FILED) == trial_balance(books, FILED)
            now = [(item.key, amount) for item, amount in open_items(done).open_at(FILED)]
            assert now == barred
            number = done.changes[-1].number
            undone = after(done, ready(plan_undo(done, number), done))
            assert trial_balance(undone, END) == trial_balance(books, END)
            assert left_open(undone) == left
