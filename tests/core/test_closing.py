"""Closing a year: example 14, each entity, again for the difference, taken back, by dimension."""

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.approval import ApprovalRule, why_held
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Account, Dimension
from corkpost.core.closing import CloseYear, closing_of, plan_closing
from corkpost.core.kinds import AccountRole, AccountType, Entity, Role
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.seal_forms import seal_digest
from corkpost.core.trial_balance import Closing, balances_at
from corkpost.core.undo import plan_undo
from tests.builders import ACCOUNTS, CODES, after, books_with, day, posted
from tests.core.strategies import any_books
from tests.notation import EUR, eur

CODES["dividends"] = "3500"
END = day("2026-12-31")
YEAR = CloseYear("2026")
EARNED = posted("Dr bank 40000.00, Cr sales 40000.00", "2026-05-31")
SPENT = posted("Dr fuel 8750.00, Cr bank 8750.00", "2026-06-30")
LATE = posted("Dr fuel 123.00, Cr bank 123.00", "2026-12-20")


def closed(books, wanted=YEAR, number=1):
    return after(books, ready(plan_closing(books, wanted), books), number)


def lines(books, wanted=YEAR):
    (entry,) = plan_closing(books, wanted).entries
    assert (entry.kind, entry.posting_date) == (Kind.CLOSING, END)
    assert sum(line.amount for line in entry.lines) == 0
    names = {account.code: account.name for account in books.tables.accounts}
    return [(names[line.account], EUR.format(line.amount)) for line in entry.lines]


def test_a_partnership_s_profit_goes_by_share_and_a_late_cost_closes_again_for_the_difference():
    """Example 14, to the cent."""
    books = books_with(EARNED, SPENT, entity=Entity.PARTNERSHIP)
    assert lines(books) == [
        ("sales", "40000.00"), ("fuel", "-8750.00"),
        ("current account Fennel", "-18750.00"), ("current account Thorn", "-12500.00"),
    ]  # fmt: skip
    books = closed(books)
    late = replace(books.tables, transactions=(*books.tables.transactions, LATE))
    again = replace(books, tables=late)
    assert lines(again) == [
        ("fuel", "-123.00"),
        ("current account Fennel", "73.80"), ("current account Thorn", "49.20"),
    ]  # fmt: skip
    done = closed(again, number=2)
    with pytest.raises(NothingToDo, match="closed already"):
        plan_closing(done, YEAR)
    assert closing_of(done, YEAR).is_closed


@pytest.mark.parametrize(
    ("entity", "more", "expected"),
    [
        (
            Entity.SOLE_TRADER,
            (posted("Dr drawings 500.00, Cr bank 500.00", "2026-03-01"),),
            [("sales", "40000.00"), ("fuel", "-8750.00"), ("capital", "500.00"),
             ("drawings", "-500.00"), ("capital", "-31250.00")],
        ),
        (
            Entity.COMPANY,
            (posted("Dr dividends 900.00, Cr bank 900.00", "2026-03-01"),),
            [("sales", "40000.00"), ("fuel", "-8750.00"), ("retained earnings", "900.00"),
             ("dividends", "-900.00"), ("retained earnings", "-31250.00")],
        ),
        (
            Entity.ASSOCIATION, (),
            [("sales", "40000.00"), ("fuel", "-8750.00"), ("accumulated fund", "-31250.00")],
        ),
    ],
)  # fmt: skip
def test_each_kind_of_client_keeps_its_profit_where_section_3_says(entity, more, expected):
    added = (
        ACCOUNTS[0]._replace(
            code="3500", name="dividends", type=AccountType.EQUITY, role=AccountRole.DIVIDENDS
        ),
        ACCOUNTS[0]._replace(
            code="3600",
            name="accumulated fund",
            type=AccountType.EQUITY,
            role=AccountRole.ACCUMULATED_FUND,
        ),
    )
    books = books_with(EARNED, SPENT, *more, entity=entity, accounts=(*ACCOUNTS, *added))
    found = lines(books)
    assert sorted(found) == sorted(expected)
    done = closed(books)
    # Closed again with the same figures, also where owners moved: nothing.
    with pytest.raises(NothingToDo):
        plan_closing(done, YEAR)
    taken = after(done, ready(plan_undo(done, 1), done), 2)
    assert sorted(lines(taken)) == sorted(expected)


def test_shares_may_be_others_and_come_to_a_hundred():
    books = books_with(EARNED, SPENT, entity=Entity.PARTNERSHIP)
    half = {
        CODES["current account Fennel"]: Fraction(50),
        CODES["current account Thorn"]: Fraction(50),
    }
    found = lines(books, YEAR._replace(shares=half))
    assert found[2:] == [
        ("current account Fennel", "-15625.00"), ("current account Thorn", "-15625.00"),
    ]  # fmt: skip
    with pytest.raises(BadEntry, match="100 percent"):
        plan_closing(books, YEAR._replace(shares={CODES["current account Fennel"]: Fraction(50)}))
    with pytest.raises(BadEntry, match="partnership"):
        plan_closing(books_with(EARNED), YEAR._replace(shares=half))


def test_it_stands_outside_every_bar_and_seal_and_a_preparer_hands_it_in():
    books = books_with(EARNED, SPENT, filed_through="2026-12-31", sealed_through="2026-12-31")
    plan = ready(plan_closing(books, YEAR), books)
    assert why_held(ApprovalRule(), Role.PREPARER, plan, books).startswith("A reviewer or partner")
    assert why_held(ApprovalRule(), Role.REVIEWER, plan, books) is None
    assert seal_digest(after(books, plan), END) == seal_digest(books, END)
    done = after(books, plan)
    back = after(done, ready(plan_undo(done, 1), done), 2)
    now, was = balances_at(back, END), balances_at(books, END)
    assert {code: amount for code, amount in now.items() if amount} == was


def test_by_dimension_each_has_its_own_line_and_the_result_is_the_same():
    rows = [
        posted("Dr fuel 10.00, Cr bank 10.00", "2026-03-01"),
        posted("Dr fuel 4.00, Cr bank 4.00", "2026-03-02"),
    ]
    sites = ("site=QUAY", "site=YARD")
    rows = [
        row._replace(lines=(row.lines[0]._replace(dimensions=site), *row.lines[1:]))
        for row, site in zip(rows, sites, strict=True)
    ]
    books = books_with(*rows, dimensions=(Dimension("site", "QUAY", "Quay"),))
    (entry,) = plan_closing(books, YEAR._replace(by_dimension=True)).entries
    assert [(x.dimensions, x.amount) for x in entry.lines] == [
        ("site=QUAY", -1000), ("site=YARD", -400), (None, 1400),
    ]  # fmt: skip
    assert lines(books) == [("fuel", "-14.00"), ("capital", "14.00")]


@given(
    any_books(), st.lists(st.integers(1, 5_000).map(lambda cents: EUR.format(cents)), max_size=3)
)
def test_closing_leaves_nil_twice_posts_nothing_and_again_after_late_entries_is_as_once(
    books, sums
):
    """Whatever the books hold, imported closings too."""

    def close(books, number):
        try:
            return closed(books, number=number)
        except NothingToDo:
            return books

    late = tuple(posted(f"Dr fuel {sum_}, Cr bank {sum_}", "2026-12-20") for sum_ in sums)
    tables = replace(books.tables, transactions=(*books.tables.transactions, *late))
    once = close(replace(books, tables=tables), 1)
    first = close(books, 1)
    tables = replace(first.tables, transactions=(*first.tables.transactions, *late))
    twice = close(replace(first, tables=tables), 2)
    for found in (once, twice):
        left = balances_at(found, END)
        assert not any(
            left.get(account.code, 0)
            for account in found.tables.accounts
            if account.is_profit_and_loss
        )
        with pytest.raises(NothingToDo):
            plan_closing(found, YEAR)
    assert balances_at(once, END) == balances_at(twice, END)
    assert balances_at(once, END, closing=Closing.OUT) == balances_at(
        twice, END, closing=Closing.OUT
    )


def test_salaries_and_interest_go_first():
    books = books_with(EARNED, SPENT, entity=Entity.PARTNERSHIP)
    paid = YEAR._replace(salaries={CODES["current account Thorn"]: eur("1250.00")})
    assert lines(books, paid)[2:] == [
        ("current account Fennel", "-18000.00"), ("current account Thorn", "-13250.00"),
    ]  # fmt: skip


RESULT = Account("3900", "result of the year", AccountType.EQUITY)


def test_the_result_may_pass_over_a_closing_account_that_holds_what_it_held():
    books = books_with(EARNED, SPENT, accounts=(*ACCOUNTS, RESULT))
    over = YEAR._replace(through="3900")
    assert lines(books, over) == [
        ("sales", "40000.00"), ("fuel", "-8750.00"),
        ("result of the year", "-31250.00"), ("result of the year", "31250.00"),
        ("capital", "-31250.00"),
    ]  # fmt: skip
    done = closed(books, over)
    assert balances_at(done, END).get("3900", 0) == 0
    with pytest.raises(NothingToDo, match="closed already"):
        plan_closing(done, over)
    # For the difference too, and straight after it was not.
    late = done.with_posted([LATE], [])
    assert lines(late, over)[1:3] == [
        ("result of the year", "123.00"),
        ("result of the year", "-123.00"),
    ]
    for wrong in ("capital", "bank", "sales"):
        with pytest.raises(BadEntry, match="no closing account"):
            plan_closing(books, YEAR._replace(through=CODES[wrong]))
