"""Wages, loans and what moved: what each check sees and leaves alone, and that its route puts it right."""

from dataclasses import replace

import pytest

from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Party, PayrollMonth
from corkpost.core.checks import run_checks
from corkpost.core.kinds import PartyKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun
from corkpost.core.refusals import BadEntry
from corkpost.core.routes import options_for, plan_route
from tests.builders import (
    CODES,
    PARTIES,
    TODAY,
    after,
    books_with,
    direct_payment,
    direct_receipt,
    posted,
)
from tests.notation import eur, journal


def found(books, check):
    return [point for point in run_checks(CheckRun(books, TODAY)) if point.check == check]


def plan_of(books, point, **settings):
    first = options_for(books, point)[0]
    return ready(plan_route(books, point, first.route, {**first.settings, **settings}), books)


# Worked example 10 of the handbook, as the bureau's summary gives it.
SUMMARY = PayrollMonth(
    "2026-03",
    None,
    eur("8400.00"),
    eur("928.00"),
    eur("6310.00"),
    eur("1460.00"),
    eur("630.00"),
    eur("0.00"),
)
LATER = direct_payment("2026-09-30", office="1.00")
"""Something later, so that what comes before is known to be over."""


def pay(month, wages="8400.00", contributions="928.00", net="6310.00", tax="3018.00", **more):
    text = f"Dr wages {wages}, Dr contributions {contributions}, Cr net pay owed {net}, Cr payroll tax {tax}"
    return posted(text, on=f"2026-{month:02d}-28", kind=Kind.PAYROLL, **more)


def test_a_payroll_as_the_bureau_s_summary_has_it_is_left_alone():
    books = books_with(pay(3), LATER, payroll=(SUMMARY,))
    assert found(books, "payroll-disagrees") == []


def test_wages_keyed_otherwise_than_the_bureau_gave_them_are_brought_to_its_summary():
    slip = pay(3, wages="8040.00", tax="2658.00", id="W3")
    books = books_with(slip, LATER, payroll=(SUMMARY,))
    (point,) = found(books, "payroll-disagrees")
    assert "gross pay of March 2026 is 8,400.00; the books have 8,040.00" in point.summary
    plan = plan_of(books, point)
    assert journal(plan, books) == "2026-03-28: Dr wages 360.00, Cr payroll tax 360.00"
    assert found(after(books, plan), "payroll-disagrees") == []


def test_in_a_barred_month_it_is_brought_right_on_the_first_open_day_and_stays_so():
    slip = pay(3, wages="8040.00", tax="2658.00", id="W3")
    books = books_with(slip, LATER, payroll=(SUMMARY,), filed_through="2026-06-30")
    (point,) = found(books, "payroll-disagrees")
    plan = plan_of(books, point)
    assert journal(plan, books).startswith("2026-07-01")
    assert found(after(books, plan), "payroll-disagrees") == []


def test_a_month_that_the_bureau_paid_and_the_books_lack_comes_whole():
    books = books_with(LATER, payroll=(SUMMARY,))
    (point,) = found(books, "payroll-disagrees")
    assert journal(plan_of(books, point), books) == (
        "2026-03-31: Dr wages 8400.00, Dr contributions 928.00, Cr net pay owed 6310.00, "
        "Cr payroll tax 3018.00"
    )


def test_a_journal_of_the_first_days_of_the_next_month_is_that_of_the_month_paid():
    early = pay(3)._replace(posting_date=LATER.posting_date.replace(month=4, day=5))
    books = books_with(early, LATER, payroll=(SUMMARY,))
    assert found(books, "payroll-disagrees") == []


def cleared(month):
    """The net pay and the taxes of a month, paid on the day."""
    text = "Dr net pay owed 6310.00, Cr bank 6310.00"
    taxes = "Dr payroll tax 3018.00, Cr bank 3018.00"
    return (
        pay(month),
        posted(text, on=f"2026-{month:02d}-28", kind=Kind.DIRECT_PAYMENT),
        posted(taxes, on=f"2026-{month + 1:02d}-15", kind=Kind.DIRECT_PAYMENT),
    )


def test_net_pay_that_was_paid_and_coded_to_wages_is_moved_to_what_is_owed():
    paid = direct_payment("2026-05-28", id="P5", wages="6310.00")
    taxes = posted("Dr payroll tax 3018.00, Cr bank 3018.00", on="2026-06-15")
    books = books_with(*cleared(2), *cleared(3), *cleared(4), pay(5), taxes, paid, LATER)
    (point,) = found(books, "payroll-not-cleared")
    assert point.named("payment") == ("P5",)
    plan = plan_of(books, point)
    assert journal(plan, books) == "2026-05-28: Dr net pay owed 6310.00, Cr wages 6310.00"
    assert found(after(books, plan), "payroll-not-cleared") == []


def test_taxes_that_are_not_due_by_the_client_s_habit_are_left_alone_and_told_once_they_are():
    few = (*cleared(2), *cleared(3), *cleared(4), pay(5), cleared(5)[1])
    soon = direct_payment("2026-06-20", office="1.00")
    assert found(books_with(*few, soon), "payroll-not-cleared") == []
    (point,) = found(books_with(*few, LATER), "payroll-not-cleared")
    assert (point.amount, point.routes) == (eur("3018.00"), ("ask", "leave", "waive"))


def test_one_payment_of_a_quarter_s_taxes_clears_the_three_months():
    months = [row for month in (2, 3, 4) for row in cleared(month)[:2]]
    quarter = posted("Dr payroll tax 9054.00, Cr bank 9054.00", on="2026-05-15")
    assert found(books_with(*months, quarter, LATER), "payroll-not-cleared") == []


LENDER = Party("L1", "Averin Finance", PartyKind.LENDER)


def instalments(account, times=6):
    return [
        direct_payment(
            f"2026-{month:02d}-05", memo="DD AVERIN FINANCE", id=f"I{month}", **{account: "410.00"}
        )
        for month in range(1, times + 1)
    ]


def test_instalments_in_cost_go_to_the_loan_but_for_the_interest_that_is_said():
    books = books_with(*instalments("office"), parties=(*PARTIES, LENDER))
    (point,) = found(books, "loan-repayment-as-cost")
    assert point.amount == eur("2460.00")
    with pytest.raises(BadEntry, match="how much of the instalments is interest"):
        plan_of(books, point)
    with pytest.raises(BadEntry, match="part of 2,460"):
        plan_of(books, point, interest="2460.00")
    plan = plan_of(books, point, interest="183.20")
    assert plan.about == ("I1", "I2", "I3", "I4", "I5", "I6")
    assert journal(plan, books) == (
        "2026-06-05: Dr loan 2460.00, Cr office 2460.00, Dr loan interest 183.20, Cr loan 183.20"
    )


def test_instalments_all_in_the_loan_are_told_unless_interest_is_booked_beside_them():
    rows = instalments("loan")
    books = books_with(*rows, parties=(*PARTIES, LENDER))
    (point,) = found(books, "loan-repayment-as-cost")
    entry = journal(plan_of(books, point, interest="91.50"), books)
    assert entry == "2026-06-05: Dr loan interest 91.50, Cr loan 91.50"
    interest = posted("Dr loan interest 15.00, Cr loan 15.00", on="2026-03-31")
    quiet = books_with(*rows, interest, parties=(*PARTIES, LENDER))
    assert found(quiet, "loan-repayment-as-cost") == []


def test_two_payments_or_none_to_a_lender_are_no_instalments():
    twice = books_with(*instalments("office", 2), parties=(*PARTIES, LENDER))
    assert found(twice, "loan-repayment-as-cost") == []
    # The same payments to somebody who lends nothing are a standing cost.
    assert found(books_with(*instalments("office")), "loan-repayment-as-cost") == []


def trade(year, office, sales="9000.00", months=range(1, 11)):
    return [
        row
        for month in months
        for row in (
            direct_payment(f"{year}-{month:02d}-28", memo=f"p{month}", office=office),
            direct_receipt(f"{year}-{month:02d}-28", memo=f"r{month}", sales=sales),
        )
    ]


@pytest.mark.parametrize(
    ("office", "sales", "told"),
    [
        ("900.00", "9000.00", ["office, +200%"]),
        ("350.00", "9000.00", []),  # by less than half
        ("900.00", "27000.00", []),  # the whole business grew as much
    ],
)
def test_an_account_that_moved_beyond_the_threshold_is_told(office, sales, told):
    books = books_with(*trade(2025, "300.00"), *trade(2026, office, sales))
    books = replace(books, client=replace(books.client, capital_item=eur("9999.00")))
    points = [p for p in found(books, "movement") if p.named("account") == (CODES["office"],)]
    assert [point.short for point in points] == told
    assert all(options_for(books, point)[0].title.startswith("Explain") for point in points)


def test_wages_that_take_another_share_of_sales_than_in_every_quarter_before_are_told():
    def quarters(last):
        shares = ["300.00", "310.00", "290.00", "305.00", last]
        return [
            row
            for place, share in enumerate(shares)
            for row in (
                direct_payment(f"{2025 + place // 4}-{place % 4 * 3 + 3:02d}-15", wages=share),
                direct_receipt(f"{2025 + place // 4}-{place % 4 * 3 + 3:02d}-16", sales="1000.00"),
            )
        ] + [direct_payment("2026-04-15", office="1.00")]

    (point,) = [p for p in found(books_with(*quarters("400.00")), "movement") if p.named("ratio")]
    assert "40.0% in quarter 1 of 2026; in the quarters before it lay between 29.0% and 31.0%" in (
        point.summary
    )
    assert not [p for p in found(books_with(*quarters("330.00")), "movement") if p.named("ratio")]
