"""The rules that every plan is asked, and that each way to an account meets them (handbook, section 4)."""

import pytest

from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Account
from corkpost.core.by_hand import picked
from corkpost.core.entries import EntryLine, EntryRequest, plan_entry
from corkpost.core.kinds import AccountRole, AccountType, Entity, EntryKind
from corkpost.core.open_items import open_items
from corkpost.core.plan_rules import Answer, rules_of
from corkpost.core.refusals import BadEntry
from corkpost.core.routes import plan_route
from corkpost.core.routes.record_missing import recorded
from corkpost.core.tax import TaxTreatment
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
    direct_payment,
    payment,
    posted,
    with_statement,
)
from tests.notation import eur, journal

PRIVATE = Account("9000", "household", AccountType.EXPENSE, AccountRole.PRIVATE)


def written(books, code):
    """By the composer: 10.00 from fuel to the account."""
    lines = (EntryLine(code, eur("10.00")), EntryLine(CODES["fuel"], -eur("10.00")))
    request = EntryRequest(EntryKind.ADJUSTING, day("2026-06-30"), "why", lines)
    return plan_entry(books, request)


def moved_by_hand(books, code):
    return plan_route(books, picked(books, "reclassify", "D1"), "reclassify", {"account": code})


def told_of_a_line(books, code):
    (line,) = books.statements[0].lines
    return recorded(books, line, {"account": code})


WAYS = {"composer": written, "move by hand": moved_by_hand, "statement line": told_of_a_line}


@pytest.mark.parametrize("account", ["receivables", "payables", "stock", "household"])
@pytest.mark.parametrize("way", WAYS)
def test_no_way_puts_a_line_of_nobody_on_a_control_account_or_any_on_stock_or_private(way, account):
    books = books_with(
        direct_payment("2026-03-08", fuel="10.00", id="D1"), accounts=(*ACCOUNTS, PRIVATE)
    )
    books = with_statement(books, bank_line("2026-06-01", "-10.00", "CARD"))
    code = {**CODES, "household": "9000"}[account]
    with pytest.raises(BadEntry, match=r"name the party|stock count|private"):
        ready(WAYS[way](books, code), books)


def test_what_takes_back_a_line_of_nobody_is_no_new_one_and_both_halves_close():
    bare = posted("Dr receivables 50.00, Cr sales 50.00", on="2026-05-01", id="J1")
    books = books_with(bare)
    done = after(books, ready(plan_route(books, picked(books, "void", "J1"), "void", {}), books))
    assert not any(open_items(done).open_now.values())
    undone = after(done, ready(plan_undo(done, 1), done), 2)
    left = {key: amount for key, amount in open_items(undone).open_now.items() if amount}
    assert left == {("J1", CODES["receivables"], None): eur("50.00")}


def test_an_allocation_joins_items_of_one_party():
    mine = bill("A-1", on="2026-01-02", id="B1", office="40.00")
    theirs = payment("2026-01-10", "40.00", "Kittiwake Signs", id="P1")
    books = books_with(mine, theirs)
    point = picked(books, "allocate", "P1", ("B1",))
    with pytest.raises(BadEntry, match="not a debit and a credit of one party"):
        ready(plan_route(books, point, "allocate", {"items": "B1"}), books)


def test_taking_back_a_move_gives_an_allocation_back_as_it_came_in_even_between_two_parties():
    wrong = bill("A-1", on="2026-01-02", id="B1", office="40.00")
    right = bill("K-1", "2026-01-02", "Kittiwake Signs", id="B2", office="40.00")
    paid = payment("2026-01-10", "40.00", "Kittiwake Signs", id="P1")
    books = books_with(wrong, right, paid, allocations=[allocated(paid, wrong, "40.00")])
    point = picked(books, "move-allocation", "P1", ("B2",))
    done = after(books, ready(plan_route(books, point, "move-allocation", {}), books))
    undone = after(done, ready(plan_undo(done, 1), done), 2)
    assert open_items(undone).open_now["B1", CODES["payables"], "S1"] == 0


@pytest.mark.parametrize("account", ["drawings", "wages", "savings", "loan"])
def test_tax_where_none_belongs_is_asked_about(account):
    line = EntryLine(CODES[account], eur("12.30"), tax_code="S23", tax=TaxTreatment.INCLUDED)
    lines = (line, EntryLine(CODES["capital"], -eur("12.30")))
    books = books_with()
    plan = plan_entry(books, EntryRequest(EntryKind.ADJUSTING, day("2026-06-30"), "why", lines))
    asked = [rule.says for rule in rules_of(plan, books) if rule.answer is Answer.ASKED]
    assert any(f"{account} bears no tax as a rule" in says for says in asked)
    assert set(asked) <= set(ready(plan, books).warnings)


def test_tax_that_rounds_to_nothing_makes_no_line():
    line = EntryLine(CODES["office"], eur("0.02"), tax_code="S23", tax=TaxTreatment.INCLUDED)
    lines = (line, EntryLine(CODES["capital"], -eur("0.02")))
    books = books_with()
    plan = plan_entry(books, EntryRequest(EntryKind.ADJUSTING, day("2026-06-30"), "why", lines))
    assert journal(plan, books) == "2026-06-30: Dr office 0.02, Cr capital 0.02"


def test_a_part_of_a_line_on_the_bank_account_is_agreed_and_raises_no_question():
    books = with_statement(books_with(), bank_line("2026-06-01", "-10.00", "CARD"))
    (line,) = books.statements[0].lines
    assert ready(recorded(books, line, {"account": CODES["fuel"]}), books).warnings == ()


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize(("entity", "asked"), [(Entity.COMPANY, True), (Entity.SOLE_TRADER, False)])
def test_an_owner_s_account_of_another_kind_of_client_is_asked_about_by_every_way(
    way, entity, asked
):
    books = books_with(direct_payment("2026-03-08", fuel="10.00", id="D1"), entity=entity)
    books = with_statement(books, bank_line("2026-03-20", "-10.00", "SHOP"))
    plan = WAYS[way](books, CODES["drawings"])
    said = [
        rule.answer for rule in rules_of(plan, books) if "does not go with a company" in rule.says
    ]
    assert said == ([Answer.ASKED] if asked else [])
