"""The chart put right, what is guessed of it, and parties of nearly the same name."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.amendments import amended_accounts
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Account
from corkpost.core.change import checked
from corkpost.core.chart.changing import AccountWanted, FixedBySigning, plan_account, plan_chart
from corkpost.core.chart.fitting import FITTING
from corkpost.core.chart.guessing import guesses
from corkpost.core.chart.parties import near_parties, plan_party
from corkpost.core.effect import effect_of
from corkpost.core.kinds import AccountRole, AccountType, PartyKind
from corkpost.core.refusals import BadEntry, NothingToDo, UnknownName
from corkpost.core.undo import plan_undo
from tests.builders import (
    ACCOUNTS,
    CODES,
    after,
    allocated,
    bank_line,
    bill,
    books_with,
    day,
    invoice,
    payment,
    posted,
    with_statement,
)
from tests.notation import eur

FUEL, OFFICE = CODES["fuel"], CODES["office"]


def with_accounts(books, *made):
    """The books with these accounts instead of those of the same code, or beside them."""
    codes = {account.code for account in made}
    kept = tuple(account for account in books.tables.accounts if account.code not in codes)
    return replace(books, tables=replace(books.tables, accounts=(*kept, *made)))


def said(books, code):
    account = books.accounts[code]
    return account.name, account.type.value, account.role.value


def test_an_account_is_put_right_and_the_undoing_brings_the_old_words_back():
    books = books_with()
    wanted = AccountWanted(FUEL, name=" Fuel  and oil ", role="cost-of-sales")
    put = after(books, ready(plan_chart(books, [wanted]), books))
    assert said(put, FUEL) == ("Fuel and oil", "expense", "cost-of-sales")
    assert said(books, FUEL) == ("fuel", "expense", "")
    back = after(put, plan_undo(put, 1), 2)
    assert said(back, FUEL) == ("fuel", "expense", "")


@pytest.mark.parametrize(
    ("wanted", "says"),
    [
        (AccountWanted(FUEL, role="sales"), "goes with the type income, not with expense"),
        (AccountWanted(FUEL, name=" "), "give it a name"),
        (AccountWanted(CODES["sales"], type="asset"), "sales goes with the type income"),
    ],
)
def test_what_does_not_fit_together_is_refused_in_words(wanted, says):
    with pytest.raises(BadEntry, match=says):
        plan_chart(books_with(), [wanted])


@pytest.mark.parametrize(
    "wanted",
    [
        AccountWanted("9999", role=""),
        AccountWanted(FUEL, role="nonsense"),
        AccountWanted(FUEL, type="nonsense"),
        AccountWanted(FUEL, owner="X9"),
        AccountWanted(FUEL, tax_code="X9"),
    ],
)
def test_names_that_are_not_there_are_told(wanted):
    with pytest.raises(UnknownName):
        plan_chart(books_with(), [wanted])


def test_nothing_to_put_right_is_told():
    books = books_with()
    with pytest.raises(NothingToDo):
        checked(plan_chart(books, [AccountWanted(FUEL, name="fuel", type="expense")]), books)


def test_a_type_that_moves_profit_shows_it_and_is_refused_where_it_is_filed():
    """Need 154: the type may not change once closed years have postings on the account."""
    boat = posted("Dr fuel 900.00, Cr bank 900.00", on="2026-05-01")
    books = books_with(boat, filed_through="2025-12-31")
    plan = plan_chart(books, [AccountWanted(FUEL, type="asset")])
    effect = effect_of(plan, books, day("2026-12-31"))
    assert (effect.before.profit, effect.after.profit) == (eur("-900.00"), 0)
    earlier = posted("Dr fuel 10.00, Cr bank 10.00", on="2025-05-01")
    filed = books_with(earlier, boat, filed_through="2025-12-31")
    with pytest.raises(FixedBySigning, match="31 December 2025"):
        plan_chart(filed, [AccountWanted(FUEL, type="asset")])
    # Within the balance sheet no signed figure moves.
    plan_chart(filed, [AccountWanted(CODES["clearing"], type="liability")])


def test_an_account_that_others_rest_on_keeps_its_role():
    paid, owed = payment("2026-05-02", "246.00"), bill("RW-1", on="2026-05-01", fuel="246.00")
    books = books_with(paid, owed, allocations=[allocated(paid, owed, "246.00")])
    with pytest.raises(BadEntry, match="stays a control account"):
        plan_chart(books, [AccountWanted(CODES["payables"], role="accrual")])
    stated = with_statement(books, bank_line("2026-05-02", "-246.00"))
    with pytest.raises(BadEntry, match="statements of it were taken in"):
        plan_chart(stated, [AccountWanted(CODES["bank"], role="clearing")])


def test_a_control_account_in_the_making_tells_which_lines_have_no_party():
    books = books_with(posted("Dr clearing 10.00, Cr bank 10.00", on="2026-05-01"))
    plan = plan_chart(books, [AccountWanted(CODES["clearing"], role="receivables")])
    assert plan.warnings == (
        "1 line on 1290 clearing name no party: they will be in the control account and on no "
        "party's list.",
    )


def test_newer_books_that_put_it_right_themselves_are_not_put_right_again():
    books = books_with()
    put = after(books, plan_chart(books, [AccountWanted(FUEL, name="Fuel", role="repairs")]))
    rows = put.tables.account_amendments
    renamed = Account(FUEL, "Fuel and oil", AccountType.EXPENSE)
    assert amended_accounts((renamed,), rows)[0][1:4] == (
        "Fuel and oil", AccountType.EXPENSE, AccountRole.REPAIRS,
    )  # fmt: skip


@given(st.sampled_from(ACCOUNTS), st.sampled_from(AccountRole), st.sampled_from(AccountType))
def test_whatever_is_asked_the_chart_stays_fitting_and_undoing_restores_it(account, role, type_):
    books = books_with(bill("RW-1", on="2026-05-01", fuel="246.00"))
    try:
        plan = plan_chart(books, [AccountWanted(account.code, type=type_, role=role)])
    except BadEntry:
        assert type_ not in FITTING[role]
        return
    put = after(books, plan)
    now = put.accounts[account.code]
    assert now.type in FITTING[now.role]
    assert after(put, plan_undo(put, 1), 2).tables.accounts == books.tables.accounts


def guessed(books):
    return {code: (guess.role.value, guess.why) for code, guess in guesses(books).items()}


def test_a_guess_is_made_from_use_before_it_is_made_from_the_name():
    bare = Account("1101", "Sundry people", AccountType.ASSET)
    sold = [
        posted("Dr receivables (Harbour School) 10.00, Cr sales 10.00", on="2026-05-01")
        for _ in range(3)
    ]
    moved = [
        row._replace(lines=(row.lines[0]._replace(account="1101"), row.lines[1])) for row in sold
    ]
    fees = Account("6320", "Card fees", AccountType.EXPENSE)
    savings = Account("1206", "Rainy days", AccountType.ASSET)
    books = with_accounts(books_with(*moved), bare, fees, savings)
    stated = with_statement(books)
    statement = stated.statements[0]._replace(account="1206")
    found = guessed(replace(stated, statements=(statement,)))
    assert found == {
        "1101": ("receivables", "3 of its 3 lines name a customer"),
        "6320": ("bank-charges", "its name says “card fees”"),
        "1206": ("bank", "bank statements of it were taken in"),
    }


def test_a_guess_counts_nowhere_until_it_is_confirmed_and_is_gone_then():
    fees = Account("6320", "Bank charges abroad", AccountType.EXPENSE)
    books = with_accounts(books_with(), fees)
    assert books.accounts["6320"].role is AccountRole.ORDINARY
    kept = after(books, plan_chart(books, [AccountWanted("6320", role="")]))
    assert (guessed(kept), said(kept, "6320")[2]) == ({}, "")
    back = after(kept, plan_undo(kept, 1), 2)
    assert list(guessed(back)) == ["6320"]


@pytest.mark.parametrize(
    ("name", "type_"),
    [
        ("Sales of wool", AccountType.ASSET),  # the type does not fit
        ("Capital reserve", AccountType.EQUITY),  # the books have their capital account
        ("Woodstock festival", AccountType.ASSET),  # no word of its own
    ],
)
def test_no_guess_is_made_on_a_word_alone_that_does_not_fit(name, type_):
    books = with_accounts(books_with(), Account("8000", name, type_))
    assert guessed(books) == {}


def test_a_new_account_needs_a_code_and_a_name_of_its_own():
    books = books_with()
    made = after(books, plan_account(books, Account("5210", "Ropes", AccountType.EXPENSE)))
    assert said(made, "5210") == ("Ropes", "expense", "")
    for code, name, says in (("5200", "Ropes", "taken: fuel"), ("5211", "FUEL", "that very name")):
        with pytest.raises(BadEntry, match=says):
            plan_account(books, Account(code, name, AccountType.EXPENSE))
    # It stays when the change is taken back: lines may stand on it by then.
    with pytest.raises(NothingToDo):
        checked(plan_undo(made, 1), made)


def test_parties_of_nearly_that_name_are_shown_before_a_new_one_is_made():
    books = books_with(invoice("SK-1", on="2026-05-01", sales="10.00"))
    near = near_parties(books, "Kittiwake Sign Ltd")
    assert [(like.party.code, like.name) for like in near] == [("S2", "Kittiwake Signs")]
    assert [near_party.likeness for near_party in near_parties(books, "KTW SIGNS")] == [1]
    assert near_parties(books, "Gull Roofing") == ()
    made = after(books, plan_party(books, "Gull  Roofing", PartyKind.SUPPLIER))
    assert made.parties["GULLROOF"].name == "Gull Roofing"
    again = after(made, plan_party(made, "Gull Roof", PartyKind.SUPPLIER), 2)
    assert again.parties["GULLROOF2"].name == "Gull Roof"
    with pytest.raises(BadEntry, match="has that very name"):
        plan_party(made, "gull roofing", PartyKind.CUSTOMER)
