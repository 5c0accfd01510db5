"""settle: worked example 3 of the handbook, open and barred, with and without tax, several items."""

import pytest

from corkpost.core.checks import run_checks
from corkpost.core.open_items import open_items
from corkpost.core.points import CheckRun
from corkpost.core.refusals import NothingToDo, UnknownName
from corkpost.core.routes import settle
from corkpost.core.trial_balance import trial_balance
from tests.builders import (
    TODAY,
    after,
    bill,
    books_with,
    day,
    direct_payment,
    direct_receipt,
    invoice,
)
from tests.notation import journal, settlements


def kittiwake(paid, **facts):
    owed = bill(
        "KS 04790", on="2026-02-16", party="Kittiwake Signs", id="B1", office="259.00", tax="59.57"
    )
    return books_with(owed, paid, **facts)


def point_of(books):
    (point,) = run_checks(CheckRun(books, TODAY))
    return point


def test_a_bill_paid_direct_with_no_tax_is_settled_on_the_payments_date():
    paid = direct_payment("2026-03-08", party="Kittiwake Signs", id="P1", office="318.57")
    books = kittiwake(paid)
    plan = settle.plan(books, point_of(books), {})
    assert journal(plan, books) == (
        "2026-03-08: Dr payables (Kittiwake Signs) 318.57, Cr office 318.57"
    )
    assert settlements(plan) == "2026-03-08: new-1 with B1 318.57"
    done = after(books, plan)
    assert not any(open_items(done).open_now.values())
    assert run_checks(CheckRun(done, TODAY)) == ()


def test_tax_that_was_claimed_on_the_payment_is_given_back():
    paid = direct_payment(
        "2026-03-08", party="Kittiwake Signs", id="P1", office="259.00", tax="59.57"
    )
    books = kittiwake(paid)
    assert journal(settle.plan(books, point_of(books), {}), books) == (
        "2026-03-08: Dr payables (Kittiwake Signs) 318.57, Cr office 259.00, Cr tax 59.57"
    )


def test_an_invoice_received_direct_is_settled_the_other_way_round():
    sold = invoice("SK-1", on="2026-05-02", id="I1", sales="500.00", tax="115.00")
    money = direct_receipt(
        "2026-05-20", party="Harbour School", id="R1", sales="500.00", tax="115.00"
    )
    books = books_with(sold, money)
    plan = settle.plan(books, point_of(books), {})
    assert journal(plan, books) == (
        "2026-05-20: Cr receivables (Harbour School) 615.00, Dr sales 500.00, Dr tax 115.00"
    )
    assert settlements(plan) == "2026-05-20: I1 with new-1 615.00"


def test_in_a_filed_year_the_bill_is_settled_on_the_first_open_day_and_the_old_list_still_proves():
    owed = bill("KS 1", on="2025-02-16", party="Kittiwake Signs", id="B1", office="318.57")
    paid = direct_payment("2025-03-08", party="Kittiwake Signs", id="P1", office="318.57")
    books = books_with(owed, paid, filed_through="2025-12-31")
    plan = settle.plan(books, point_of(books), {})
    assert journal(plan, books) == (
        "2026-01-01: Dr payables (Kittiwake Signs) 318.57, Cr office 318.57"
    )
    assert settlements(plan) == "2026-01-01: new-1 with B1 318.57"
    done = after(books, plan)
    at = day("2025-12-31")
    assert trial_balance(done, at) == trial_balance(books, at)
    assert list(open_items(done).open_at(at)) == list(open_items(books).open_at(at))
    assert not list(open_items(done).open_at(day("2026-01-01")))


def test_one_payment_settles_two_bills_and_a_short_one_leaves_the_rest_open():
    bills = [
        bill("KS 111", on="2026-02-01", party="Kittiwake Signs", id="B1", office="400.00"),
        bill("KS 112", on="2026-02-08", party="Kittiwake Signs", id="B2", office="215.00"),
    ]
    both = direct_payment("2026-03-08", party="Kittiwake Signs", id="P1", office="615.00")
    books = books_with(*bills, both)
    plan = settle.plan(books, point_of(books), {})
    assert settlements(plan).splitlines() == [
        "2026-03-08: new-1 with B1 400.00",
        "2026-03-08: new-1 with B2 215.00",
    ]
    short = direct_payment("2026-03-08", party="Kittiwake Signs", id="P2", office="395.00")
    books = books_with(bills[0], short)
    done = after(books, settle.plan(books, point_of(books), {}))
    assert [left for left in open_items(done).open_now.values() if left] == [-500]


def test_the_items_are_for_the_person_to_choose_within_one_party():
    bills = [
        bill("KS 111", on="2026-02-01", party="Kittiwake Signs", id="B1", office="318.57"),
        bill("KS 112", on="2026-02-08", party="Kittiwake Signs", id="B2", office="318.57"),
        bill("RW 1", on="2026-02-08", id="B3", fuel="77.00"),
    ]
    paid = direct_payment("2026-03-08", party="Kittiwake Signs", id="P1", office="318.57")
    books = books_with(*bills, paid)
    point = point_of(books)
    assert "with B2" in settlements(settle.plan(books, point, {"items": "B2"}))
    with pytest.raises(UnknownName, match="single party"):
        settle.plan(books, point, {"items": "B1,B3"})
    with pytest.raises(UnknownName, match="transaction"):
        settle.plan(books, point, {"items": "nowhere"})


def test_a_payment_is_settled_once():
    paid = direct_payment("2026-03-08", party="Kittiwake Signs", id="P1", office="318.57")
    books = kittiwake(paid)
    point = point_of(books)
    with pytest.raises(NothingToDo):
        settle.plan(after(books, settle.plan(books, point, {})), point, {})


@pytest.mark.parametrize(
    ("bills", "title"),
    [(1, "Settle the bill with it: B1"), (2, "Settle the bills with it: B1, B2")],
)
def test_it_says_as_a_deed_what_it_would_do_and_proposes_why(bills, title):
    owed = [
        bill(f"KS 11{n}", on="2026-02-01", party="Kittiwake Signs", id=f"B{n}", office=f"{n}00.00")
        for n in range(1, bills + 1)
    ]
    total = f"{sum(range(1, bills + 1))}00.00"
    books = books_with(
        *owed, direct_payment("2026-03-08", party="Kittiwake Signs", id="P1", office=total)
    )
    (option,) = settle.options(books, point_of(books))
    assert option.title == title
    assert option.proposed_reason.startswith("P1 settles KS 111")
    assert "so that the cost was counted twice" in option.proposed_reason
