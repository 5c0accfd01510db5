"""What a person picks by hand goes by the same routes as what a check finds."""

import pytest

from corkpost.core.by_hand import picked
from corkpost.core.refusals import UnknownName
from corkpost.core.routes import plan_route
from tests.builders import (
    bill,
    books_with,
    direct_payment,
    direct_receipt,
    invoice,
    payment,
    posted,
)
from tests.notation import journal, settlements

BOOKS = books_with(
    bill("RW 1", on="2026-05-02", id="B1", fuel="60.00"),
    invoice("SK-1", on="2026-05-02", id="I1", sales="80.00"),
    direct_payment("2026-05-08", id="D1", office="60.00"),
    direct_receipt("2026-05-09", id="D2", sales="75.00"),
    payment("2026-05-20", "45.00", id="P1"),
    posted("Dr payables (Reedwharf) 9.00, Cr office 9.00", "2026-05-21", id="J1"),
    posted("Dr office 9.00, Cr payables (Reedwharf) 9.00", "2026-05-22", id="J2"),
)


def by_hand(route, transaction, *items, **settings):
    return plan_route(BOOKS, picked(BOOKS, route, transaction, items), route, settings)


def test_one_document_is_voided_without_another_that_stays():
    plan = by_hand("void", "B1")
    assert journal(plan, BOOKS) == "2026-05-02: Cr fuel 60.00, Dr payables (Reedwharf) 60.00"
    assert settlements(plan) == "2026-05-02: new-1 with B1 60.00"
    assert plan.proposed_reason == ""


@pytest.mark.parametrize(
    ("money", "item", "entry"),
    [
        ("D1", "B1", "2026-05-08: Dr payables (Reedwharf) 60.00, Cr office 60.00"),
        ("D2", "I1", "2026-05-09: Cr receivables (Harbour School) 75.00, Dr sales 75.00"),
    ],
)
def test_money_coded_straight_settles_what_the_person_points_at(money, item, entry):
    assert journal(by_hand("settle", money, item), BOOKS) == entry


def test_two_journals_of_a_party_are_set_against_each_other():
    assert settlements(by_hand("allocate", "J1", "J2", items="J2")) == "2026-05-22: J1 with J2 9.00"


def test_only_routes_and_transactions_that_are_there_can_be_picked():
    for route, transaction, items in (
        ("leave", "B1", ()),
        ("void", "B9", ()),
        ("settle", "D1", ("B9",)),
    ):
        with pytest.raises(UnknownName):
            picked(BOOKS, route, transaction, items)
