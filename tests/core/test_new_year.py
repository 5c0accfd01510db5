"""What a new year begins with: each row of the list where it is wanted, and where it is there."""

from dataclasses import replace
from fractions import Fraction

from corkpost.core.books import Account
from corkpost.core.closing import CloseYear, plan_closing
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.new_year import needs_of_new_year
from corkpost.core.recipes import UseRecipe, plan_recipe
from corkpost.core.row_kinds.assets import FixedAsset
from corkpost.core.row_kinds.budgets import BudgetFigure
from corkpost.core.row_kinds.rates import Rate
from tests.builders import ACCOUNTS, after, books_with, day, posted

END = day("2026-12-31")


def needs(books):
    return {need.name: need for need in needs_of_new_year(books, END)}


def recipe(books, name, **said):
    return after(books, plan_recipe(books, UseRecipe(name, said)))


def test_a_month_s_end_asks_nothing_and_an_idle_year_only_says_its_thresholds():
    books = books_with()
    assert needs_of_new_year(books, day("2026-11-30")) == ()
    found = needs(books)
    assert list(found) == ["The old year closed", "Thresholds"]
    assert all(need.met for need in found.values())
    assert "materiality 500.00, not set by a partner" in found["Thresholds"].says


def test_a_year_is_wanted_closed_and_again_for_what_came_later():
    books = books_with(posted("Dr bank 500.00, Cr sales 500.00", "2026-05-01"))
    assert not needs(books)["The old year closed"].met
    closed = after(books, plan_closing(books, CloseYear("2026")))
    assert needs(closed)["The old year closed"].met
    late = posted("Dr fuel 20.00, Cr bank 20.00", "2026-12-30")
    rows = (*closed.tables.transactions, late)
    again = closed.followed_by(tables=closed.tables.with_rows("transactions", rows))
    assert needs(again)["The old year closed"].says.startswith("What came after the closing")


def test_what_is_set_aside_wants_a_mirror_or_a_schedule_for_all_of_it():
    name = "What was set aside, taken back"
    books = books_with(posted("Dr electricity 90.00, Cr accruals 90.00", "2026-12-31"))
    assert not needs(books)[name].met
    assert "accruals: 90.00 of 90.00" in needs(books)[name].says
    mirrored = recipe(books_with(), "accrual", account="5310", amount="90", date="2026-12-31")
    assert needs(mirrored)[name].met


def test_depreciation_rates_and_a_budget_are_wanted_where_the_client_has_such():
    van = FixedAsset("VAN", "van", "0100", day("2026-01-01"), 1_200_000, life=Fraction(5))
    held = posted("Dr savings 800.00, Cr bank 800.00", "2026-06-01")
    held = held._replace(
        lines=(held.lines[0]._replace(currency="USD", foreign_amount="1000.00"), held.lines[1])
    )
    books = books_with(
        posted("Dr boats 12000.00, Cr bank 12000.00", "2026-01-01"),
        held,
        more={
            "assets": (van,),
            "budgets": (BudgetFigure("budget", "5200", "2026-03", 10000),),
            "rates": (Rate("USD", day("2026-11-30"), Fraction(8, 10)),),
        },
    )
    found = needs(books)
    assert "2,400.00 of 1 asset" in found["Depreciation of the old year"].says
    assert "the last of USD is of 30 November 2026" in found["Rates of the last day"].says
    assert found["A budget"].says == "None yet for 2027."
    more = {
        **books.tables.more,
        "budgets": (BudgetFigure("budget", "5200", "2027-03", 10000), *books.tables.of("budgets")),
        "rates": (*books.tables.of("rates"), Rate("USD", day("2026-12-30"), Fraction(8, 10))),
        "assets": (),
    }
    filled = needs(books.followed_by(tables=replace(books.tables, more=more)))
    assert filled["A budget"].met
    assert filled["Rates of the last day"].met
    assert "Depreciation of the old year" not in filled


def test_steps_that_are_late_are_told_before_those_that_come():
    prepaid = Account("1400", "prepayments", AccountType.ASSET, AccountRole.PREPAYMENT)
    books = books_with(
        posted("Dr office 1200.00, Cr bank 1200.00", "2026-10-01"), accounts=(*ACCOUNTS, prepaid)
    )
    span = {"from": "2026-10-01", "to": "2027-09-30", "date": "2026-10-01", "style": "spread"}
    spread = recipe(books, "prepayment", account="6100", amount="1200", **span)
    late = needs(spread)["Steps of schedules"]
    assert not late.met
    assert "3 due by 31 December 2026 not posted" in late.says
