"""Owners' accounts as statements; worked example 5 of the handbook: paid from the own pocket."""

import pytest
from hypothesis import given

from corkpost.core.bank.agreeing import ready
from corkpost.core.kinds import Entity
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.open_items import open_items
from corkpost.core.own_pocket import OwnPocket, plan_own_pocket
from corkpost.core.owner_accounts import Nature, owner_statements
from corkpost.core.refusals import BadEntry, BarredDate, UnknownName
from tests.builders import CODES, after, bill, day, direct_receipt, posted
from tests.core.routes.test_review_routes import books_of
from tests.core.strategies import any_books
from tests.notation import eur, journal, settlements

STATIONERY = OwnPocket(day("2026-05-02"), eur("24.60"), CODES["office"], "S23", text="stationery")


def recorded(books, paid):
    plan = ready(plan_own_pocket(books, paid), books)
    return plan, after(books, plan)


@pytest.mark.parametrize(
    ("entity", "owner"),
    [
        (Entity.COMPANY, "owner's loan"),
        (Entity.SOLE_TRADER, "introduced"),
        (Entity.PARTNERSHIP, "current account Thorn"),
    ],
)
def test_a_cost_paid_privately_is_owed_to_the_owner_with_its_tax_reclaimed(entity, owner):
    books = books_of(entity=entity)
    paid = STATIONERY
    if entity is Entity.PARTNERSHIP:
        with pytest.raises(BadEntry, match="current account Fennel or current account Thorn"):
            recorded(books, paid)
        paid = paid._replace(owner_account=CODES["current account Thorn"])
    plan, done = recorded(books, paid)
    assert journal(plan, done) == f"2026-05-02: Dr office 20.00, Dr tax 4.60, Cr {owner} 24.60"
    assert plan.proposed_reason == "stationery: paid by the owner from their own pocket."


def test_a_bill_that_the_owner_paid_is_settled_without_money_of_the_business():
    owed = bill("RW-1", on="2026-05-01", id="B1", fuel="100.00")
    books = books_of(owed)
    plan, done = recorded(books, OwnPocket(day("2026-05-02"), eur("60.00"), bills=("B1",)))
    assert journal(plan, done) == "2026-05-02: Dr payables (Reedwharf) 60.00, Cr introduced 60.00"
    assert settlements(plan) == "2026-05-02: new-1 with B1 60.00"
    assert {k[0]: v for k, v in open_items(done).open_now.items() if v} == {"B1": eur("-40.00")}


@pytest.mark.parametrize(
    ("change", "refused"),
    [
        ({"gross": 0}, BadEntry),
        ({"account": None}, BadEntry),
        ({"account": CODES["payables"]}, BadEntry),
        ({"tax_code": "X"}, UnknownName),
        ({"owner_account": CODES["bank"]}, UnknownName),
        ({"bills": ("B1",)}, BadEntry),
        ({"bills": ("B9",)}, UnknownName),
        ({"day": day("2025-05-02")}, BarredDate),
    ],
)
def test_what_can_not_be_recorded_is_refused(change, refused):
    owed = bill("RW-1", on="2026-05-01", id="B1", fuel="10.00")
    books = books_of(owed, filed_through="2025-12-31")
    with pytest.raises(refused):
        recorded(books, STATIONERY._replace(**change))


ROWS = (
    posted("Dr bank 500.00, Cr current account Fennel 500.00", on="2025-12-01"),
    posted("Dr current account Fennel 700.00, Cr bank 700.00", on="2026-02-01"),
    posted("Dr current account Fennel 40.00, Cr office 40.00", on="2026-03-01"),
    posted("Dr office 20.00, Cr current account Fennel 20.00", on="2026-03-01"),
    posted("Dr sales 900.00, Cr current account Fennel 900.00", on="2026-03-31", kind=Kind.CLOSING),
)


def test_an_account_is_told_by_the_nature_of_what_moved_it_and_how_it_ran():
    books = books_of(*ROWS, entity=Entity.PARTNERSHIP)
    (found,) = owner_statements(books, day("2026-01-01"), day("2026-12-31"))
    assert (found.opening, found.closing) == (eur("500.00"), eur("680.00"))
    assert [(row.nature.value, row.amount) for row in found.moved] == [
        ("business costs paid privately", eur("20.00")),
        ("share of profit", eur("900.00")),
        ("taken out", eur("-700.00")),
        ("private costs taken out of the books", eur("-40.00")),
    ]
    assert found.line[-2:] == (
        (day("2026-03-01"), eur("-220.00")),
        (day("2026-03-31"), eur("680.00")),
    )
    assert (found.lowest, found.overdrawn_since) == ((day("2026-03-01"), eur("-220.00")), None)


def test_money_that_the_owner_paid_in_is_no_cost_that_they_paid_whatever_it_was_booked_as():
    came = direct_receipt("2026-05-02", id="R1", sales="500.00")
    moved = posted("Dr sales 500.00, Cr capital 500.00", "2026-05-02", corrects="R1", change=1)
    back = posted("Cr sales 500.00, Dr capital 500.00", "2026-05-02", reverses=moved.id, change=2)
    for rows, amount in (((came, moved), eur("500.00")), ((came, moved, back), 0)):
        (own,) = owner_statements(books_of(*rows), day("2026-01-01"), day("2026-12-31"))
        assert [(row.nature, row.amount) for row in own.moved] == [(Nature.PAID_IN, amount)]


def test_while_the_owner_owes_it_is_told_since_when():
    books = books_of(*ROWS[:3], entity=Entity.PARTNERSHIP)
    (found,) = owner_statements(books, day("2026-01-01"), day("2026-12-31"))
    assert found.overdrawn_since == day("2026-02-01")
    drawings = posted("Dr drawings 40.00, Cr bank 40.00", on="2026-02-01")
    (found,) = owner_statements(books_of(drawings), day("2026-01-01"), day("2026-12-31"))
    assert (found.can_owe, found.overdrawn_since) == (False, None)


@given(any_books())
def test_opening_and_what_moved_come_to_the_closing_for_all_books(books):
    for statement in owner_statements(books, day("2026-01-01"), day("2026-12-31")):
        assert statement.opening + sum(row.amount for row in statement.moved) == statement.closing
        assert statement.line[-1][1] == statement.closing
