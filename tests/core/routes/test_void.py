"""void: worked examples 1 and 2 of the handbook, open and barred, and what it frees."""

import pytest

from corkpost.core.checks import run_checks
from corkpost.core.dating import ProfitPart
from corkpost.core.kinds import Entity
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun, Point
from corkpost.core.refusals import NothingToDo, UnknownName
from corkpost.core.routes import void
from corkpost.core.trial_balance import trial_balance
from tests.builders import TODAY, after, allocated, bill, books_with, day, payment
from tests.notation import eur, journal, settlements


def only_point(books) -> Point:
    (point,) = run_checks(CheckRun(books, TODAY))
    return point


def twice(first_on: str, second_on: str, **facts):
    first = bill("RW-0117", on=first_on, id="T1", fuel="200.00", tax="46.00")
    second = bill("RW 117", on=second_on, id="T2", fuel="200.00", tax="46.00")
    return books_with(first, second, **facts)


def test_a_bill_recorded_twice_in_an_open_year_is_voided_on_its_own_date():
    books = twice("2026-04-03", "2026-04-05")
    plan = void.plan(books, only_point(books), {"transaction": "T2"})
    assert journal(plan, books) == (
        "2026-04-05: Cr fuel 200.00, Cr tax 46.00, Dr payables (Reedwharf) 246.00"
    )
    assert settlements(plan) == "2026-04-05: new-1 with T2 246.00"


def test_in_a_filed_year_it_is_voided_on_the_first_open_day_within_materiality():
    books = twice(
        "2025-11-03", "2025-11-05", filed_through="2025-12-31", returned_through="2026-03-31"
    )
    plan = void.plan(books, only_point(books), {})
    assert journal(plan, books) == (
        "2026-01-01: Cr fuel 200.00, Cr tax 46.00, Dr payables (Reedwharf) 246.00"
    )
    assert settlements(plan) == "2026-01-01: new-1 with T2 246.00"
    # Its tax belongs to the first period not yet returned.
    assert [line.tax_date for line in plan.entries[0].lines] == [None, day("2026-04-01"), None]
    before = trial_balance(books, day("2025-12-31"))
    assert trial_balance(after(books, plan), day("2025-12-31")) == before


@pytest.mark.parametrize(
    ("entity", "entry"),
    [
        (Entity.SOLE_TRADER, "Cr tax 46.00, Dr payables (Reedwharf) 246.00, Cr capital 200.00"),
        (
            Entity.COMPANY,
            "Cr tax 46.00, Dr payables (Reedwharf) 246.00, Cr retained earnings 200.00",
        ),
        (
            Entity.PARTNERSHIP,
            "Cr tax 46.00, Dr payables (Reedwharf) 246.00, "
            "Cr current account Fennel 120.00, Cr current account Thorn 80.00",
        ),
    ],
)
def test_beyond_materiality_the_profit_part_goes_where_the_entity_keeps_profit(entity, entry):
    books = twice(
        "2025-11-03", "2025-11-05", filed_through="2025-12-31", materiality="199.99", entity=entity
    )
    plan = void.plan(books, only_point(books), {})
    assert journal(plan, books) == f"2026-01-01: {entry}"


def test_a_twin_voided_to_capital_is_not_found_again():
    books = twice("2025-11-03", "2025-11-05", filed_through="2025-12-31", materiality="1.00")
    corrected = after(books, void.plan(books, only_point(books), {}))
    assert run_checks(CheckRun(corrected, TODAY)) == ()


def test_materiality_is_used_up_by_the_corrections_to_a_year_without_their_signs():
    papers = [
        bill("A-100", on="2025-03-01", id="A1", fuel="300.00"),
        bill("A 100", on="2025-03-02", id="A2", fuel="300.00"),
        bill("B-200", on="2025-06-01", id="B1", kind=Kind.PURCHASE_CREDIT, fuel="-250.00"),
        bill("B 200", on="2025-06-02", id="B2", kind=Kind.PURCHASE_CREDIT, fuel="-250.00"),
    ]
    books = books_with(*papers, filed_through="2025-12-31", materiality="500.00")
    points = run_checks(CheckRun(books, TODAY))
    first, second = (point for point in points if point.check == "duplicate-document")
    one = after(books, void.plan(books, first, {}))
    assert "this year" in void.plan(books, second, {}).notes[1]
    assert "prior-year correction" in void.plan(one, second, {}).notes[1]
    assert "550.00" in void.plan(one, second, {}).notes[1]


@pytest.mark.parametrize(
    ("chosen", "account"), [(ProfitPart.THIS_YEAR, "fuel"), (ProfitPart.PRIOR_YEAR, "capital")]
)
def test_the_accountant_may_choose_the_other_year(chosen, account):
    books = twice("2025-11-03", "2025-11-05", filed_through="2025-12-31")
    plan = void.plan(books, only_point(books), {"profit": chosen})
    assert f"Cr {account} 200.00" in journal(plan, books)
    assert "chosen by hand" in plan.notes[1]


def test_what_the_voided_one_had_settled_goes_to_the_one_that_stays():
    first = bill("RW-0117", on="2026-04-03", id="T1", fuel="246.00")
    second = bill("RW 117", on="2026-04-05", id="T2", fuel="246.00")
    paid = payment("2026-04-20", "246.00", id="P1")
    books = books_with(first, second, paid, allocations=[allocated(paid, second, "246.00")])
    plan = void.plan(books, only_point(books), {"transaction": "T2"})
    assert settlements(plan).splitlines() == [
        "2026-04-20: free P1 with T2 246.00",
        "2026-04-05: new-1 with T2 246.00",
        "2026-04-20: P1 with T1 246.00",
    ]


def test_the_kept_one_is_the_allocated_one_else_the_one_keyed_first():
    first = bill("RW-0117", on="2026-04-03", id="T1", keyed="2026-04-09T10:00", fuel="246.00")
    second = bill("RW 117", on="2026-04-05", id="T2", keyed="2026-04-06T10:00", fuel="246.00")
    books = books_with(first, second)
    assert [o.settings["transaction"] for o in void.options(books, only_point(books))] == [
        "T1",
        "T2",
    ]
    paid = payment("2026-04-20", "246.00")
    books = books_with(first, second, paid, allocations=[allocated(paid, first, "246.00")])
    assert void.options(books, only_point(books))[0].settings["transaction"] == "T2"


def test_a_void_one_is_not_voided_again_and_no_other_document_by_this_point():
    books = twice("2026-04-03", "2026-04-05")
    point = only_point(books)
    done = after(books, void.plan(books, point, {}))
    with pytest.raises(NothingToDo):
        void.plan(done, point, {"transaction": "T2"})
    with pytest.raises(UnknownName):
        void.plan(books, point, {"transaction": "T9"})


def test_the_void_counts_in_no_earlier_profit_than_its_own_year():
    books = twice("2025-11-03", "2025-11-05", filed_through="2025-12-31")
    plan = void.plan(books, only_point(books), {})
    (part,) = plan.prior_parts
    assert (part.year, part.amount) == ("2025", eur("200.00"))
