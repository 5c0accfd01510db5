"""Fixed assets: what is written off by each method, the register over what the books have, and its proof."""

from dataclasses import replace
from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.assets.depreciation import Added, Method, written_off, years_of
from corkpost.core.assets.register import KeepAssets, offered, plan_keep_assets, register
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Account
from corkpost.core.kinds import AccountRole, AccountType, Entity
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import rounded
from corkpost.core.periods import Calendar
from corkpost.core.recipes import UseRecipe, plan_recipe
from corkpost.core.refusals import BadEntry, DependedOn, NothingToDo
from corkpost.core.row_kinds.assets import FixedAsset
from corkpost.core.tie_outs import tie_out_named
from corkpost.core.undo import plan_undo
from tests.builders import ACCOUNTS, after, books_with, day, posted
from tests.notation import EUR, eur, journal

YEAR = Calendar((12, 31))
MORE = (
    Account("0110", "boats, depreciation", AccountType.ASSET, AccountRole.ACCUMULATED_DEPRECIATION),
    Account("0200", "land", AccountType.ASSET, AccountRole.FIXED_ASSET),
    Account("6700", "depreciation", AccountType.EXPENSE, AccountRole.DEPRECIATION),
    Account("6710", "result of disposals", AccountType.EXPENSE),
)
VAN = FixedAsset("A1", "0100", "launch", day("2026-03-10"), eur("12000.00"), life=Fraction(5))
BOUGHT = posted("Dr boats 12000.00, Cr bank 12000.00", "2026-03-10", id="T-buy")


def books_of(*rows, keeps=(VAN,), **more):
    books = books_with(BOUGHT, *rows, accounts=(*ACCOUNTS, *MORE), **more)
    if not keeps:
        return books
    return after(books, ready(plan_keep_assets(books, KeepAssets(tuple(keeps))), books))


def use(books, recipe, **said):
    return ready(plan_recipe(books, UseRecipe(recipe, said)), books)


def standing(books, on):
    """By asset: cost, written off, still due."""
    words = EUR.format
    return {
        row.asset.asset: (words(row.cost), words(row.depreciation), words(row.due))
        for row in register(books, day(on))
    }


@pytest.mark.parametrize(
    ("on", "by_month", "by_day"),
    [
        ("2026-03-09", "0.00", "0.00"),
        ("2026-03-31", "200.00", "144.58"),
        ("2026-12-31", "2000.00", "1951.81"),
        ("2031-01-31", "11800.00", "11756.85"),
        ("2031-03-31", "12000.00", "12000.00"),
    ],
)
def test_straight_line_by_months_begun_and_by_days(on, by_month, by_day):
    assert EUR.format(written_off(VAN, day(on), YEAR)) == by_month
    assert EUR.format(written_off(VAN._replace(part="day"), day(on), YEAR)) == by_day


def test_what_is_put_into_an_asset_is_spread_over_what_is_left_of_its_life():
    added = (Added(day("2028-09-01"), eur("3000.00")),)
    # 30 of 60 months are gone: 6,000.00 and 3,000.00 more over the thirty that are left.
    assert written_off(VAN, day("2028-08-31"), YEAR, added) == eur("6000.00")
    assert written_off(VAN, day("2028-09-30"), YEAR, added) == eur("6300.00")
    assert written_off(VAN, day("2031-02-28"), YEAR, added) == eur("15000.00")


def test_reducing_balance_by_financial_years_and_units_by_use():
    car = VAN._replace(method=Method.REDUCING_BALANCE, rate=Fraction(25), residual=eur("5000.00"))
    years = list(years_of(car, YEAR))
    assert [EUR.format(year.amount) for year in years[:3]] == ["2500.00", "2375.00", "1781.25"]
    assert years[-1].left == eur("5000.00")
    press = VAN._replace(method=Method.UNITS, life=Fraction(40_000))
    assert written_off(press, day("2026-12-31"), YEAR, units=Fraction(1_234)) == eur("370.20")


SUMS = st.integers(1, 10**9)
DAYS = st.dates(day("2000-01-01"), day("2040-12-31"))


@given(SUMS, st.integers(0, 100), st.integers(1, 40), DAYS, DAYS, st.integers(1, 12))
def test_straight_line_against_a_reckoning_of_its_own(cost, percent, life, bought, on, month):
    """By decimals and the months counted one by one; and the years of any calendar add up to the whole."""
    residual = cost * percent // 101
    asset = FixedAsset("A", "0100", "x", bought, cost, life=Fraction(life), residual=residual)
    calendar = Calendar((month, 31))
    months, at = 0, bought.replace(day=1)
    while months < life * 12:
        following = at.replace(year=at.year + at.month // 12, month=at.month % 12 + 1)
        if on < bought or (following - at).days + at.toordinal() - 1 > on.toordinal():
            break
        months, at = months + 1, following
    exact = Decimal(cost - residual) * months / (life * 12)
    assert abs(written_off(asset, on, calendar) - exact) <= Decimal("0.5")
    assert sum(year.amount for year in years_of(asset, calendar)) == cost - residual


@given(SUMS, st.integers(1, 99), st.integers(1, 12), st.integers(0, 11))
def test_reducing_balance_against_its_closed_formula(cost, rate, years, month):
    bought = day("2000-01-01").replace(month=month + 1)
    asset = FixedAsset("A", "0100", "x", bought, cost, Method.REDUCING_BALANCE, rate=Fraction(rate))
    first = Fraction(rate * (12 - month), 1200)
    exact = cost * (1 - first) * (1 - Fraction(rate, 100)) ** years
    left = cost - written_off(asset, day("2000-12-31").replace(year=2000 + years), YEAR)
    assert abs(left - exact) <= years + 1
    assert rounded(cost * first) == written_off(asset, day("2000-12-31"), YEAR)


def test_depreciation_is_what_should_stand_less_what_stands_for_three_years_and_the_sale():
    books = books_of(entity=Entity.COMPANY)
    plan = use(books, "depreciation", date="2026-12-31")
    assert journal(plan, books) == (
        "2026-12-31: Dr depreciation 2000.00, Cr boats, depreciation 2000.00"
    )
    done = after(books, plan)
    assert standing(done, "2026-12-31") == {"A1": ("12000.00", "2000.00", "0.00")}
    with pytest.raises(NothingToDo):
        use(done, "depreciation", date="2026-12-31")
    done = after(done, use(done, "depreciation", date="2027-12-31"))
    assert standing(done, "2028-06-30") == {"A1": ("12000.00", "4400.00", "1200.00")}
    told = {"asset": "A1", "date": "2027-12-31", "proceeds": "8000.00", "tax": "S23"}
    sold = use(done, "disposal", **told)
    assert journal(sold, done) == (
        "2027-12-31: Dr bank 9840.00, Dr boats, depreciation 4400.00, Cr boats 12000.00, "
        "Cr tax 1840.00, Cr result of disposals 400.00"
    )
    by_sum = use(done, "disposal", **{**told, "tax": "1840.00"})
    assert journal(by_sum, done) == journal(sold, done)
    with pytest.raises(BadEntry, match="neither a tax code"):
        use(done, "disposal", **{**told, "tax": "X1"})
    gone = after(done, sold)
    assert standing(gone, "2027-12-31") == {"A1": ("0.00", "0.00", "0.00")}
    assert standing(gone, "2027-12-30")["A1"][0] == "12000.00"
    with pytest.raises(BadEntry, match="was disposed of on 31 December 2027"):
        use(gone, "disposal", **told)
    with pytest.raises(DependedOn):
        plan_undo(gone, 1)
    # The sale takes out what was written off: that is not taken back under it.
    with pytest.raises(DependedOn):
        plan_undo(gone, 2)
    back = after(gone, ready(plan_undo(gone, gone.changes[-1].number), gone))
    assert standing(back, "2027-12-31") == standing(done, "2027-12-31")


def test_what_the_client_wrote_off_itself_is_counted_among_the_assets_of_its_account():
    other = VAN._replace(asset="A2", name="dinghy", cost=eur("6000.00"))
    own = posted("Dr fuel 900.00, Cr boats 900.00", "2026-06-30")
    own = own._replace(lines=(own.lines[0], own.lines[1]._replace(account="0110")))
    books = books_of(own, keeps=(VAN, other))
    assert standing(books, "2026-06-30") == {
        "A1": ("12000.00", "600.00", "200.00"),
        "A2": ("6000.00", "300.00", "100.00"),
    }
    told = VAN._replace(depreciation=eur("800.00"), depreciated_to=day("2026-06-30"))
    known = after(books, ready(plan_keep_assets(books, KeepAssets((told,))), books))
    assert standing(known, "2026-06-30")["A2"] == ("6000.00", "100.00", "300.00")


def test_the_books_offer_each_thing_bought_once_and_land_is_not_written_off():
    opening = posted("Dr boats 500.00, Cr capital 500.00", "2025-12-31", Kind.OPENING)
    site = posted("Dr capital 1.00, Cr bank 1.00", "2026-05-05", memo="quay side")
    site = site._replace(lines=(site.lines[0]._replace(account="0200"), site.lines[1]))
    books = books_of(opening, site, keeps=())
    found = offered(books)
    assert [(row.name, row.method, EUR.format(row.cost), row.entry) for row in found] == [
        ("boats", "straight-line", "12000.00", "T-buy"),
        ("boats", "straight-line", "500.00", opening.id),
        ("quay side", "none", "1.00", site.id),
    ]
    kept = after(books, ready(plan_keep_assets(books, KeepAssets(found)), books))
    assert offered(kept) == ()
    # An asset that names no entry is told by its cost, and is not offered again.
    assert [row.cost for row in offered(books_of(opening))] == [eur("500.00")]


def test_the_proof_of_fixed_assets_fails_where_depreciation_was_not_run_and_by_account():
    books = books_of()
    end = day("2026-12-31")
    proof = tie_out_named(books, "fixed-assets", end)
    assert (proof.books, proof.outside) == (eur("12000.00"), eur("10000.00"))
    assert "depreciation by the day that is not posted" in proof.causes[-1].says
    run = after(books, use(books, "depreciation", date="2026-12-31"))
    agreed = tie_out_named(run, "fixed-assets", end)
    assert (agreed.difference, agreed.causes) == (0, ())
    # A cost booked on the account of depreciation leaves the sum as it is, and the proof fails.
    moved = posted("Dr boats 10.00, Cr bank 10.00", "2026-12-01", id="T-wrong")
    moved = moved._replace(lines=(moved.lines[0], moved.lines[1]._replace(account="0110")))
    tables = replace(run.tables, transactions=(*run.tables.transactions, moved))
    wrong = tie_out_named(replace(run, tables=tables), "fixed-assets", end)
    assert wrong.books == wrong.outside
    assert abs(wrong.difference or 0) == eur("10.00")
    empty = tie_out_named(books_of(keeps=()), "fixed-assets", end)
    assert empty.outside is None
    assert "The register of fixed assets is empty" in empty.lacks


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"account": "1200"}, "is no account of fixed assets"),
        ({"method": "guess"}, "there is no method 'guess'"),
        ({"life": None}, "over how many years"),
        ({"residual": eur("12000.01")}, "no more than that"),
        ({"depreciation_account": "9999"}, "no account '9999'"),
        ({"method": "reducing-balance"}, "by which rate"),
    ],
)
def test_an_asset_that_could_not_be_written_off_is_refused_with_the_reason(wrong, says):
    with pytest.raises(BadEntry, match=says):
        books_of(keeps=(VAN._replace(**wrong),))
