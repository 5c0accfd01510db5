"""The checks of what proves, of the periods and of odd accounts: what each sees and leaves alone, and
that what it works out puts it right."""

from dataclasses import replace
from datetime import datetime

import pytest

from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Account, PriorBalance, StockItem
from corkpost.core.checks import run_checks
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.open_items import open_items
from corkpost.core.points import CheckRun
from corkpost.core.routes import options_for, plan_route
from tests.builders import (
    ACCOUNTS,
    CODES,
    TODAY,
    after,
    bill,
    books_with,
    day,
    direct_payment,
    posted,
    receipt,
)
from tests.notation import eur, journal


def found(books, check):
    return [point for point in run_checks(CheckRun(books, TODAY)) if point.check == check]


def put_right(books, check, **settings):
    """The entry of the first way that is offered, and whether the check is quiet then."""
    (point,) = found(books, check)
    (first, *_) = options_for(books, point)
    plan = ready(plan_route(books, point, first.route, {**first.settings, **settings}), books)
    return journal(plan, books), found(after(books, plan), check) == []


# -- what does not prove

BARE = posted(
    "Dr receivables 50.00, Cr sales 50.00", on="2026-05-01", id="J1", memo="Averin Scouts"
)


def test_a_line_without_a_party_is_told_and_given_to_whom_it_names():
    books = books_with(BARE)
    # What the account and its parties differ by comes of it, and is no point of its own.
    (bare,) = run_checks(CheckRun(books, TODAY))
    assert "50.00 is on nobody's list" in bare.consequences[0]
    left = run_checks(CheckRun(books, TODAY, left=frozenset({bare.id})))
    (total,) = (point for point in left if point.check == "control-disagrees")
    assert (total.amount, total.routes) == (eur("50.00"), ("leave",))
    entry, _ = put_right(books, "control-without-party")
    assert entry == "2026-05-01: Cr receivables 50.00, Dr receivables (Averin Scouts) 50.00"
    (point,) = found(books, "control-without-party")
    done = after(books, plan_route(books, point, "reclassify", {"account": CODES["receivables"]}))
    assert found(done, "control-disagrees") == []


def test_where_nothing_says_whose_it_is_the_party_is_asked_for():
    books = books_with(BARE._replace(memo="to be invoiced"))
    entry, _ = put_right(books, "control-without-party", party="C1")
    assert entry == "2026-05-01: Cr receivables 50.00, Dr receivables (Harbour School) 50.00"


def test_an_opening_that_is_not_what_was_signed_is_brought_to_it():
    before = posted("Dr stock 90.00, Cr capital 90.00", on="2025-12-31")
    signed = (
        PriorBalance(day("2025-12-31"), CODES["stock"], eur("90.00")),
        PriorBalance(day("2025-12-31"), CODES["bank"], eur("12.00")),
        PriorBalance(day("2025-12-31"), CODES["capital"], eur("-102.00")),
    )
    books = books_with(before, prior_year=signed, filed_through="2025-12-31")
    (point,) = found(books, "opening-disagrees")
    assert "begins 2026 at 0.00; it was signed at 12.00" in point.summary
    (first, *_) = options_for(books, point)
    settings = {**first.settings, "account": CODES["capital"]}
    plan = plan_route(books, point, first.route, settings)
    assert journal(plan, books) == "2026-01-01: Dr bank 12.00, Cr capital 12.00"
    # A list that does not balance is nothing to go by.
    assert found(books_with(before, prior_year=signed[:2]), "opening-disagrees") == []


def test_every_year_s_end_that_is_given_is_compared_and_one_fault_is_one_point():
    before = posted("Dr stock 90.00, Cr capital 90.00", on="2024-12-31")
    put_right_since = posted("Dr bank 12.00, Cr stock 12.00", on="2025-05-02")

    def signed(at, stock, bank):
        sums = {"stock": stock, "bank": bank, "capital": "-90.00"}
        return [PriorBalance(day(at), CODES[name], eur(sum_)) for name, sum_ in sums.items()]

    alone = [*signed("2024-12-31", "78.00", "12.00"), *signed("2025-12-31", "78.00", "12.00")]
    books = books_with(before, put_right_since, prior_year=alone)
    earlier = found(books, "opening-disagrees")
    assert {point.routes for point in earlier} == {("ask", "leave", "waive")}
    assert {point.named("year end") for point in earlier} == {("2024-12-31",)}
    # What both years lack alike is told of the latest.
    same = [*signed("2024-12-31", "70.00", "20.00"), *signed("2025-12-31", "58.00", "32.00")]
    latest = found(books_with(before, put_right_since, prior_year=same), "opening-disagrees")
    assert [point.named("year end") for point in latest] == [(), ()]


def test_an_account_that_the_client_s_chart_shows_on_the_other_statement():
    odd = Account("6200", "boat hire", AccountType.ASSET, expected_type=AccountType.EXPENSE)
    fine = Account("6201", "rope", AccountType.INCOME, expected_type=AccountType.EXPENSE)
    books = books_with(accounts=(*ACCOUNTS, odd, fine))
    (point,) = found(books, "account-type-wrong")
    plan = plan_route(books, point, "set-type", {})
    assert found(after(books, plan), "account-type-wrong") == []


def test_cash_below_nil_and_a_customer_in_credit_are_told_unless_it_comes_right_in_a_month():
    cash = Account("1210", "cash box", AccountType.ASSET, AccountRole.CASH)
    out = posted("Dr office 30.00, Cr clearing 30.00", on="2026-03-01", id="K1")
    back = posted("Dr clearing 30.00, Cr sales 30.00", on="2026-03-20", id="K2")

    def on_cash(row):
        return row._replace(
            lines=tuple(
                x._replace(account="1210") if x.account == CODES["clearing"] else x
                for x in row.lines
            )
        )

    accounts = (*ACCOUNTS, cash)
    (point,) = found(books_with(on_cash(out), accounts=accounts), "balance-wrong-side")
    assert "below nil from 1 March 2026 on, by up to 30.00" in point.summary
    books = books_with(on_cash(out), on_cash(back), accounts=accounts)
    assert found(books, "balance-wrong-side") == []
    credit = posted("Cr receivables (Averin Scouts) 20.00, Dr sales 20.00", on="2026-03-01")
    (point,) = found(books_with(credit), "balance-wrong-side")
    assert point.summary == "Averin Scouts is in credit by 20.00, since 1 March 2026."
    recent = posted("Cr receivables (Averin Scouts) 20.00, Dr sales 20.00", on="2026-11-01")
    assert found(books_with(recent), "balance-wrong-side") == []
    # Money on account is told as such.
    assert found(books_with(receipt("2026-03-01", "20.00")), "balance-wrong-side") == []


def test_stock_is_brought_to_the_count_by_the_one_recipe_that_may_move_it():
    goods = Account("5000", "goods", AccountType.EXPENSE, AccountRole.COST_OF_SALES)
    bought = posted("Dr stock 500.00, Cr bank 500.00", on="2026-05-01")
    counted = (StockItem(day("2026-10-31"), "rope", "10", "42.00", eur("420.00")),)
    books = books_with(bought, stock=counted, accounts=(*ACCOUNTS, goods))
    (point,) = found(books, "stock-disagrees")
    plan = ready(plan_route(books, point, "adjust", {}), books)
    moved = {line.account: line.amount for line in plan.entries[0].lines}
    assert moved == {CODES["stock"]: eur("-80.00"), "5000": eur("80.00")}
    assert found(after(books, plan), "stock-disagrees") == []


# -- between the periods


def accrued(amount="410.00", on="2026-06-30", id="J1", **more):
    text = f"Dr electricity {amount}, Cr accruals {amount}"
    return posted(text, on=on, id=id, memo="electricity", **more)


def back(amount="410.00", on="2026-07-01", id="J2", account="electricity", **more):
    return posted(f"Dr accruals {amount}, Cr {account} {amount}", on=on, id=id, **more)


def test_an_accrual_that_nothing_took_back_is_reversed_on_the_next_period_s_first_day():
    assert put_right(books_with(accrued()), "accrual-not-reversed") == (
        "2026-07-01: Dr accruals 410.00, Cr electricity 410.00",
        True,
    )


@pytest.mark.parametrize(
    "rows",
    [
        (accrued(), back()),
        (accrued(), back("100.00"), back("310.00", on="2026-08-01", id="J3")),  # released in parts
        (accrued(on="2026-10-31"),),  # its next period is not over
    ],
)
def test_an_accrual_that_is_taken_back_or_may_be_yet_is_left_alone(rows):
    assert found(books_with(*rows), "accrual-not-reversed") == []


@pytest.mark.parametrize(
    ("reversal", "why", "entry"),
    [
        (back("401.00"), "the amount is another", "Dr accruals 9.00, Cr electricity 9.00"),
        (
            back(account="office"),
            "it goes to office, another account",
            "Cr electricity 410.00, Dr office 410.00",
        ),
    ],
)
def test_a_reversal_that_is_no_mirror_is_told_and_made_one(reversal, why, entry):
    books = books_with(accrued(), reversal)
    (point,) = found(books, "reversal-wrong")
    assert point.because == (why,)
    plan = plan_route(books, point, "adjust", {})
    assert journal(plan, books) == f"2026-07-01: {entry}"


def test_a_second_reversal_is_told_and_taken_out():
    books = books_with(accrued(), back(), back(on="2026-07-03", id="J3"))
    (point,) = found(books, "reversal-wrong")
    assert point.because == ("it is reversed a second time",)
    plan = plan_route(books, point, "adjust", {})
    assert journal(plan, books) == "2026-07-03: Cr accruals 410.00, Dr electricity 410.00"
    assert found(books_with(accrued(), back()), "reversal-wrong") == []


def rents(*months, year=2026):
    return [
        direct_payment(f"{year}-{month:02d}-03", id=f"R{month}", office="640.00", memo="quay rent")
        for month in months
    ]


@pytest.mark.parametrize(
    "put_elsewhere",
    ["Dr payables (Reedwharf) 640.00, Cr office 640.00", "Dr drawings 640.00, Cr office 640.00"],
)
def test_a_payment_that_was_settled_or_moved_to_the_owner_leaves_no_gap_in_the_habit(put_elsewhere):
    moved = posted(put_elsewhere, on="2026-05-03", corrects="R5", change=1)
    assert found(books_with(*rents(*range(1, 11)), moved), "recurring-missing") == []


def test_a_monthly_cost_that_is_absent_in_one_month_is_accrued():
    books = books_with(*rents(1, 2, 3, 4, 6, 7, 8, 9, 10))
    (point,) = found(books, "recurring-missing")
    assert "9 times, and is absent in May 2026" in point.summary
    entry, _ = put_right(books, "recurring-missing")
    assert entry == (
        "2026-05-31: Dr office 640.00, Cr accruals 640.00\n"
        "2026-06-01: Cr office 640.00, Dr accruals 640.00"
    )


@pytest.mark.parametrize(
    "months",
    [
        (1, 2, 3, 4, 5, 6, 7, 8, 9, 10),
        (1, 2, 3, 7, 8, 9, 10),  # a season
        (3, 4, 5, 6),  # it began and ended
        (1, 3, 5, 7, 9, 10),  # no monthly habit
    ],
)
def test_costs_that_rest_begin_or_are_no_habit_are_left_alone(months):
    assert found(books_with(*rents(*months)), "recurring-missing") == []


def test_a_series_survives_a_month_with_two_but_not_beside_the_gap():
    twice = rents(8)[0]._replace(id="R8 again")
    (point,) = found(books_with(*rents(1, 2, 3, 4, 6, 7, 8, 9, 10), twice), "recurring-missing")
    assert "is absent in May 2026" in point.summary
    late = rents(6)[0]._replace(id="R5 late")
    assert found(books_with(*rents(1, 2, 3, 4, 6, 7, 8, 9, 10), late), "recurring-missing") == []


def test_what_was_keyed_into_a_filed_year_afterwards_is_told():
    late = posted(
        "Dr fuel 90.00, Cr bank 90.00", on="2025-11-03", id="L1", keyed="2026-07-01T09:00"
    )
    early = posted(
        "Dr fuel 10.00, Cr bank 10.00", on="2025-11-03", id="L2", keyed="2026-01-05T09:00"
    )
    moved = posted(
        "Dr savings 5.00, Cr bank 5.00", on="2025-11-03", id="L3", keyed="2026-07-01T09:00"
    )
    books = books_with(late, early, moved, filed_through="2025-12-31")
    books = replace(books, client=replace(books.client, filed_on=datetime(2026, 6, 18, 9)))
    points = {point.transactions[0]: point for point in found(books, "entered-late")}
    assert sorted(points) == ["L1", "L3"]
    assert points["L3"].routes == ("ask", "leave")
    plan = plan_route(books, points["L1"], "to-this-year", {})
    assert journal(plan, books) == "2026-01-01: Dr fuel 90.00, Cr capital 90.00"


# -- on an odd account


def with_limit(books):
    return replace(books, client=replace(books.client, capital_item=eur("500.00")))


def test_something_of_lasting_use_among_small_costs_is_brought_to_the_assets():
    books = with_limit(books_with(bill("RW-1", on="2026-05-01", id="B1", office="1200.00")))
    assert put_right(books, "capital-as-cost")[0] == (
        "2026-05-01: Dr boats 1200.00, Cr office 1200.00"
    )
    often = [bill(f"RW-{n}", on=f"2026-0{n}-01", office="700.00") for n in range(1, 5)]
    assert found(with_limit(books_with(*often)), "capital-as-cost") == []
    assert found(with_limit(books_with(bill("RW-1", on="2026-05-01", office="499.00"))),
                 "capital-as-cost") == []  # fmt: skip


def taxed(net, tax, id="B1", on="2026-05-01"):
    row = bill("RW-1", on=on, id=id, fuel=net, tax=tax)
    return row._replace(
        lines=tuple(
            x if x.account == CODES["payables"] else x._replace(tax_code="S23") for x in row.lines
        )
    )


def test_tax_that_is_not_its_rate_is_put_right_within_the_gross():
    books = books_with(taxed("100.00", "32.00"))
    (point,) = found(books, "tax-code-odd")
    plan = plan_route(books, point, "reclassify", {})
    assert journal(plan, books) == "2026-05-01: Cr tax 7.32, Dr fuel 7.32"
    assert found(books_with(taxed("100.00", "23.02")), "tax-code-odd") == []


def test_one_bill_without_the_tax_that_all_the_others_bear_is_told():
    rows = [taxed("100.00", "23.00", id=f"B{n}", on=f"2026-0{n}-01") for n in range(1, 8)]
    bare = bill("RW-9", on="2026-08-01", id="B9", fuel="123.00")
    (point,) = found(books_with(*rows, bare), "tax-code-odd")
    plan = plan_route(books_with(*rows, bare), point, "reclassify", {})
    assert journal(plan, books_with(bare)) == "2026-08-01: Dr tax 23.00, Cr fuel 23.00"
    another = bill("RW-8", on="2026-09-01", id="B8", fuel="50.00")
    assert found(books_with(*rows, bare, another), "tax-code-odd") == []


def test_a_supplier_s_one_bill_on_another_account_is_moved_to_the_usual_one():
    rows = [bill(f"RW-{n}", on=f"2026-0{n}-01", fuel="100.00") for n in range(1, 7)]
    odd = bill("RW-9", on="2026-08-01", id="B9", office="90.00")
    assert put_right(books_with(*rows, odd), "unusual-account") == (
        "2026-08-01: Dr fuel 90.00, Cr office 90.00",
        True,
    )
    # In a filed year it would bend two costs of this one: it is left, with a note, unless one asks.
    filed = books_with(*rows, odd, filed_through="2026-08-31")
    (point,) = found(filed, "unusual-account")
    first, *others = options_for(filed, point)
    assert (first.route, first.proposed_reason[:20]) == ("leave", "For the comparatives")
    assert "reclassify" in {option.route for option in others}
    large = bill("RW-9", on="2026-08-01", office="900.00")
    shared = bill("RW-8", on="2026-09-01", office="80.00")
    assert found(books_with(*rows, large), "unusual-account") == []
    assert found(books_with(*rows, odd, shared), "unusual-account") == []


def test_a_customer_in_credit_is_shown_as_a_liability_at_the_cut_off_and_their_list_stays():
    """Dr the account that stands for receivables, Cr deposits; undone the day after; profit nil."""
    more = (
        Account("1190", "shown as owed", AccountType.ASSET, AccountRole.PRESENTATION),
        Account("2350", "deposits", AccountType.LIABILITY),
    )
    credit = posted("Cr receivables (Averin Scouts) 80.00, Dr sales 80.00", on="2026-03-01")
    books = books_with(credit, accounts=(*ACCOUNTS, *more))
    (point,) = found(books, "balance-wrong-side")
    plan = ready(plan_route(books, point, "adjust", {}), books)
    assert journal(plan, books).splitlines() == [
        "2026-10-31: Dr shown as owed 80.00, Cr deferred income 80.00",
        "2026-11-01: Cr shown as owed 80.00, Dr deferred income 80.00",
    ]
    # Where the chart has no such account the person names one.
    bare = tuple(account for account in ACCOUNTS if account.role != "deferred-income")
    books = books_with(credit, accounts=(*bare, *more))
    (point,) = found(books, "balance-wrong-side")
    plan = ready(plan_route(books, point, "adjust", {"account": "2350"}), books)
    assert "Cr deposits 80.00" in journal(plan, books)
    standing = open_items(books).open_now
    assert open_items(after(books, plan)).open_now == standing
