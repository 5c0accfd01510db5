"""Financial statements: they add up for any history and any day, and open to what the books hold."""

from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.financials import (
    Section,
    balance_sheet,
    equity_movements,
    money_moved,
    profit_and_loss,
    whole_units,
    year_earlier,
)
from corkpost.core.kinds import MONEY_ROLES, AccountRole, AccountType
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.trial_balance import Closing, balances_at, profit_of
from tests.builders import ACCOUNTS, books_with, day, posted
from tests.core.strategies import any_books

DAYS = st.dates(date(2025, 1, 1), date(2026, 12, 31))
SHOP = tuple(
    own._replace(role=AccountRole.COST_OF_SALES) if own.name == "fuel" else own for own in ACCOUNTS
)


def test_profit_and_loss_of_a_span_across_the_year_s_end_beside_the_year_before():
    books = books_with(
        posted("Dr bank 70.00, Cr sales 70.00", "2024-12-20"),
        posted("Dr bank 100.00, Cr sales 100.00", "2025-12-20"),
        posted("Dr fuel 30.00, Cr bank 30.00", "2026-01-10"),
        posted("Dr office 20.00, Cr bank 20.00", "2026-01-11"),
        posted("Dr sales 100.00, Cr capital 100.00", "2025-12-31", Kind.CLOSING),
        posted("Dr office 5.00, Cr bank 5.00", "2026-02-01"),
        accounts=SHOP,
    )
    found = profit_and_loss(books, day("2025-12-01"), day("2026-01-31"))
    assert [(row.section, row.name, row.amount, row.before) for row in found.rows] == [
        (Section.INCOME, "sales", 10000, 7000),
        (Section.COST_OF_SALES, "fuel", 3000, 0),
        (Section.EXPENSES, "office", 2000, 0),
    ]
    assert (found.gross_profit(), found.profit(), found.profit(before=True)) == (7000, 5000, 7000)


def test_only_what_stands_on_a_dimension():
    row = posted("Dr fuel 30.00, Cr bank 30.00", "2026-01-10")
    row = row._replace(lines=(row.lines[0]._replace(dimensions="site=QUAY"), row.lines[1]))
    books = books_with(row, posted("Dr fuel 9.00, Cr bank 9.00", "2026-01-11"))
    span = day("2026-01-01"), day("2026-12-31")
    assert profit_and_loss(books, *span, dimensions="site=QUAY").profit() == -3000
    assert profit_and_loss(books, *span).profit() == -3900


@given(any_books(), DAYS)
def test_the_balance_sheet_balances_for_any_history_and_cut_off(books, at):
    found = balance_sheet(books, at)
    for before in (False, True):
        owned = found.assets(before=before)
        assert owned == found.liabilities(before=before) + found.total(
            Section.EQUITY, before=before
        )
    sums = balances_at(books, at, closing=Closing.OUT)
    first = books.calendar.year_of(at).first_day
    assert profit_and_loss(books, first, at).profit() == profit_of(sums, books)


@given(any_books(), DAYS, st.integers(0, 400))
def test_equity_and_money_move_by_what_the_statements_say(books, first, days):
    last = first + timedelta(days=days)
    rows = equity_movements(books, first, last)
    net = sum(
        amount
        for code, amount in balances_at(books, last).items()
        if code in books.accounts
        and books.accounts[code].type in (AccountType.ASSET, AccountType.LIABILITY)
    )
    assert sum(row.closing for row in rows) == net
    assert all(row.opening + row.moved == row.closing for row in rows)
    codes = {account.code for account in books.with_role(*MONEY_ROLES)}
    money = [
        sum(balances_at(books, at).get(code, 0) for code in codes)
        for at in (first - timedelta(days=1), last)
    ]
    assert (
        sum(moved.came - moved.went for moved in money_moved(books, first, last))
        == money[1] - money[0]
    )


@given(
    st.lists(st.integers(-(10**9), 10**9), max_size=20), st.sampled_from([1, 100, 1000, 100_000])
)
def test_whole_units_add_up_to_the_rounded_sum_and_none_is_a_unit_away(amounts, per_unit):
    found = whole_units(amounts, per_unit)
    total = sum(amounts)
    assert 2 * abs(sum(whole.units for whole in found) * per_unit - total) <= per_unit
    for whole, amount in zip(found, amounts, strict=True):
        assert abs(whole.units * per_unit - amount) < per_unit
        assert whole.bent or 2 * abs(whole.units * per_unit - amount) <= per_unit


def test_a_year_earlier_the_last_of_a_month_stays_the_last():
    assert year_earlier(day("2025-02-28")) == day("2024-02-29")
    assert year_earlier(day("2026-10-15")) == day("2025-10-15")
