"""allocate: one or many to one or many, in parts, dated by the rule, and no entry made."""

import pytest

from corkpost.core.checks import run_checks
from corkpost.core.open_items import open_items
from corkpost.core.points import CheckRun
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.routes import allocate, options_for
from tests.builders import TODAY, after, bill, books_with, invoice, payment, posted, receipt
from tests.notation import eur, settlements


def point_of(books):
    (point,) = run_checks(CheckRun(books, TODAY))
    return point


def test_money_on_account_is_allocated_from_the_later_of_the_two_dates():
    books = books_with(
        invoice("SK-1", on="2026-05-02", id="I1", sales="100.00"),
        receipt("2026-05-20", "100.00", id="R1"),
    )
    plan = allocate.plan(books, point_of(books), {})
    assert plan.entries == ()
    assert settlements(plan) == "2026-05-20: I1 with R1 100.00"


def test_where_that_day_is_barred_it_counts_from_the_first_open_day():
    books = books_with(
        invoice("SK-1", on="2025-05-02", id="I1", sales="100.00"),
        receipt("2025-05-20", "100.00", id="R1"),
        filed_through="2025-12-31",
    )
    plan = allocate.plan(books, point_of(books), {})
    assert settlements(plan) == "2026-01-01: I1 with R1 100.00"


def test_one_receipt_for_two_invoices_and_two_receipts_for_one():
    two = books_with(
        invoice("SK-1", on="2026-05-02", id="I1", sales="60.00"),
        invoice("SK-2", on="2026-05-04", id="I2", sales="40.00"),
        receipt("2026-05-20", "100.00", id="R1"),
    )
    assert settlements(allocate.plan(two, point_of(two), {})).splitlines() == [
        "2026-05-20: I1 with R1 60.00",
        "2026-05-20: I2 with R1 40.00",
    ]
    parts = books_with(
        invoice("SK-1", on="2026-05-02", id="I1", sales="100.00"),
        receipt("2026-05-20", "60.00", id="R1"),
        receipt("2026-05-22", "40.00", id="R2"),
    )
    assert settlements(allocate.plan(parts, point_of(parts), {})).splitlines() == [
        "2026-05-20: I1 with R1 60.00",
        "2026-05-22: I1 with R2 40.00",
    ]


def test_part_sums_are_for_the_person_to_choose_and_the_rest_stays_on_account():
    books = books_with(
        bill("RW 1", on="2026-05-02", id="B1", fuel="60.00"),
        bill("RW 2", on="2026-05-04", id="B2", fuel="40.00"),
        payment("2026-05-20", "100.00", id="P1"),
    )
    plan = allocate.plan(books, point_of(books), {"items": "B2=10.00, B1"})
    assert settlements(plan).splitlines() == [
        "2026-05-20: P1 with B2 10.00",
        "2026-05-20: P1 with B1 60.00",
    ]
    left = open_items(after(books, plan)).open_now
    assert sorted(amount for amount in left.values() if amount) == [-eur("30.00"), eur("30.00")]


@pytest.mark.parametrize(
    ("items", "refusal"),
    [
        ("B1=nought", BadEntry),
        ("B1=-5.00", BadEntry),
        ("B9", UnknownName),
        ("B9=5.00", UnknownName),
    ],
)
def test_what_is_no_item_or_no_sum_is_refused(items, refusal):
    books = books_with(
        bill("RW 1", on="2026-05-02", id="B1", fuel="60.00"),
        payment("2026-05-20", "60.00", id="P1"),
    )
    with pytest.raises(refusal):
        allocate.plan(books, point_of(books), {"items": items})


def test_money_that_matches_nothing_is_offered_to_the_oldest_items():
    books = books_with(
        posted("Dr receivables (Harbour School) 70.00, Cr sales 70.00", "2026-01-05", id="J1"),
        invoice("SK-2", on="2026-02-04", id="I2", sales="80.00"),
        receipt("2026-03-20", "100.00", id="R1"),
    )
    first = options_for(books, point_of(books))[0]
    assert first.settings == {"items": "J1,I2"}
    plan = allocate.plan(books, point_of(books), first.settings)
    assert settlements(plan).splitlines() == [
        "2026-03-20: J1 with R1 70.00",
        "2026-03-20: I2 with R1 30.00",
    ]
