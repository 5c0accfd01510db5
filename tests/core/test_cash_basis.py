"""The trial balance by settlement: what is not paid is neither cost nor income yet."""

from hypothesis import given

from corkpost.core.cash_basis import cash_balances_at
from corkpost.core.trial_balance import BROUGHT_FORWARD, balances_at, profit_of
from tests.builders import CODES, allocated, bill, books_with, day, invoice, payment, receipt
from tests.core.strategies import any_books
from tests.notation import eur

END = day("2026-12-31")


def named(sums):
    names = {code: name for name, code in CODES.items()}
    return {names.get(code, code): amount for code, amount in sums.items() if amount}


def test_an_unpaid_bill_is_no_cost_and_a_part_of_it_that_was_paid_is():
    owed = bill("R-1", on="2026-05-01", fuel="200.00", tax="46.00")
    books = books_with(owed)
    assert cash_balances_at(books, END) == {}
    half = payment("2026-06-01", "123.00")
    paid = books_with(owed, half, allocations=(allocated(half, owed, "123.00"),))
    assert named(cash_balances_at(paid, END)) == {
        "fuel": eur("100.00"), "tax": eur("23.00"), "bank": -eur("123.00"),
    }  # fmt: skip
    # Before it was paid nothing stood, and money on account stays where it is.
    assert cash_balances_at(paid, day("2026-05-31")) == {}
    on_account = books_with(owed, half)
    assert named(cash_balances_at(on_account, END)) == {
        "payables": eur("123.00"), "bank": -eur("123.00"),
    }  # fmt: skip


def test_an_earlier_year_s_invoice_that_is_paid_in_this_one_is_this_year_s_income():
    sold = invoice("SK-1", on="2025-11-01", sales="1000.00")
    came = receipt("2026-02-01", "600.00")
    books = books_with(sold, came, allocations=(allocated(sold, came, "600.00"),))
    assert cash_balances_at(books, day("2025-12-31")) == {}
    found = cash_balances_at(books, END)
    assert named(found) == {"sales": -eur("600.00"), "bank": eur("600.00")}
    assert profit_of(found, books) == eur("600.00")
    assert BROUGHT_FORWARD not in found


@given(any_books())
def test_it_balances_for_any_books_and_is_the_other_one_where_nothing_is_open(books):
    found = cash_balances_at(books, END)
    assert sum(found.values()) == sum(balances_at(books, END).values())
