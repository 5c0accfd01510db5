"""The trial balance as at a date, before and after closing, and the ledgers behind it."""

import pytest
from hypothesis import given

from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.ledger import account_ledger, party_ledger
from corkpost.core.open_items import open_items
from corkpost.core.refusals import UnknownName
from corkpost.core.trial_balance import BROUGHT_FORWARD, Closing, Column, balances, trial_balance
from tests.builders import CODES, bill, books_with, day, payment, posted
from tests.core.strategies import any_books
from tests.notation import eur


def two_years(*more):
    return books_with(
        posted("Dr bank 100.00, Cr capital 100.00", "2024-12-31", Kind.OPENING),
        posted("Dr bank 50.00, Cr sales 50.00", "2025-06-01"),
        posted("Dr fuel 20.00, Cr bank 20.00", "2025-12-31"),
        posted("Dr bank 7.00, Cr sales 7.00", "2026-01-01"),
        *more,
    )


def figures(books, at, **choices):
    found = trial_balance(books, day(at), **choices)
    return {row.name: row.balance for row in found.rows}


def test_income_and_cost_show_the_year_only_and_earlier_years_stand_apart():
    assert figures(two_years(), "2026-12-31") == {
        "bank": eur("137.00"),
        "capital": -eur("100.00"),
        "sales": -eur("7.00"),
        "Result brought forward, not closed": -eur("30.00"),
    }


def test_a_closing_entry_carries_the_result_forward_and_can_be_left_out_of_its_year():
    closing = posted("Dr sales 50.00, Cr fuel 20.00, Cr capital 30.00", "2025-12-31", Kind.CLOSING)
    books = two_years(closing)
    assert figures(books, "2025-12-31") == {"bank": eur("130.00"), "capital": -eur("130.00")}
    before = figures(books, "2025-12-31", closing=Closing.OUT)
    assert (before["sales"], before["fuel"]) == (-eur("50.00"), eur("20.00"))
    # In a later year it always counts: what was closed is closed.
    assert "Result brought forward, not closed" not in figures(
        books, "2026-12-31", closing=Closing.OUT
    )


def test_as_received_leaves_our_entries_out():
    ours = posted("Dr fuel 1.00, Cr bank 1.00", "2026-02-01", change=1)
    books = two_years(ours)
    assert "fuel" not in figures(books, "2026-12-31", column=Column.AS_RECEIVED)
    assert figures(books, "2026-12-31")["fuel"] == eur("1.00")


@given(any_books())
def test_debits_equal_credits_on_every_day(books):
    for at in ("2025-06-30", "2025-12-31", "2026-12-31"):
        found = trial_balance(books, day(at))
        assert found.debits + found.credits == 0


@given(any_books())
def test_each_account_s_movements_close_at_its_figure_on_the_trial_balance(books):
    at = day("2026-12-31")
    sums = balances(books.tables.transactions, books, at)
    for code in [*books.accounts, BROUGHT_FORWARD]:
        ledger = account_ledger(books, code, day("2026-03-01"), at)
        assert ledger.closing == sums.get(code, 0)
        assert ledger.opening + sum(m.line.amount for m in ledger.movements) == ledger.closing


@given(any_books())
def test_each_party_s_history_closes_at_what_its_open_items_come_to(books):
    at = day("2026-12-31")
    left = list(open_items(books).open_at(at))
    for code in books.parties:
        open_of_party = sum(amount for item, amount in left if item.party == code)
        assert party_ledger(books, code, day("2026-01-01"), at).closing == open_of_party


def test_a_party_s_history_runs_from_what_stood_before():
    books = books_with(
        bill("RW 1", on="2026-01-10", id="T1", fuel="400.00"),
        payment("2026-02-01", "150.00", id="T2"),
        bill("RW 2", on="2026-03-10", id="T3", fuel="30.00"),
    )
    ledger = party_ledger(books, "S1", day("2026-02-01"), day("2026-03-31"))
    assert ledger.opening == -eur("400.00")
    assert [(m.posted.id, m.running) for m in ledger.movements] == [
        ("T2", -eur("250.00")),
        ("T3", -eur("280.00")),
    ]


def test_an_account_never_posted_to_is_nil_and_an_unknown_one_is_refused():
    books = two_years()
    assert account_ledger(books, CODES["boats"], day("2026-01-01"), day("2026-12-31")).closing == 0
    with pytest.raises(UnknownName):
        account_ledger(books, "9999", day("2026-01-01"), day("2026-12-31"))
    with pytest.raises(UnknownName):
        party_ledger(books, "X", day("2026-01-01"), day("2026-12-31"))
