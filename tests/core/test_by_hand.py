"""What a person picks by hand goes by the same routes as what a check finds."""

import pytest

from corkpost.core.books import Party
from corkpost.core.by_hand import picked, routes_for
from corkpost.core.kinds import PartyKind
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.routes import plan_route
from tests.builders import (
    CODES,
    PARTIES,
    PARTY_CODES,
    bank_line,
    bill,
    books_with,
    direct_payment,
    direct_receipt,
    invoice,
    payment,
    posted,
    with_statement,
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


def test_a_cost_is_moved_to_the_account_that_the_person_says():
    with pytest.raises(BadEntry, match="Choose the account"):
        by_hand("reclassify", "B1")
    plan = by_hand("reclassify", "B1", account=CODES["office"])
    assert journal(plan, BOOKS) == "2026-05-02: Dr office 60.00, Cr fuel 60.00"


def test_a_payment_that_was_stopped_is_reversed_though_no_check_told_it():
    plan = by_hand("reverse-payment", "P1", date="2026-06-01")
    assert journal(plan, BOOKS) == "2026-06-01: Cr payables (Reedwharf) 45.00, Dr bank 45.00"


def test_a_customer_who_is_a_supplier_under_another_code_is_set_off():
    PARTY_CODES["Reedwharf Ltd"] = "C9"
    parties = (*PARTIES, Party("C9", "Reedwharf Ltd", PartyKind.CUSTOMER))
    owed = invoice("SK-9", on="2026-06-01", party="Reedwharf Ltd", id="I9", sales="25.00")
    owing = bill("RW 9", on="2026-05-02", id="B9", fuel="60.00")
    books = books_with(owed, owing, parties=parties)
    for name in ("I9", "B9"):
        assert "offset" in routes_for(books, books.transactions[name])
        plan = plan_route(books, picked(books, "offset", name), "offset", {})
        assert journal(plan, books) == (
            "2026-06-01: Dr payables (Reedwharf) 25.00, Cr receivables (Reedwharf Ltd) 25.00"
        )
        assert settlements(plan) == (
            "2026-06-01: I9 with new-1 25.00\n2026-06-01: new-1 with B9 25.00"
        )
    assert "offset" not in routes_for(BOOKS, BOOKS.transactions["B1"])


def test_a_refund_is_offered_where_a_statement_line_brings_the_overpayment_back():
    lines = (
        bank_line("2026-05-20", "-45.00", "REEDWHARF"),
        bank_line("2026-06-02", "45.00", "REEDWHARF REFUND"),
    )
    over = payment("2026-05-20", "45.00", id="P9")
    books = books_with(over)
    assert "refund" not in routes_for(books, over)
    back = with_statement(books, *lines)
    assert "refund" in routes_for(back, over)
    plan = plan_route(back, picked(back, "refund", "P9"), "refund", {})
    assert journal(plan, back) == "2026-06-02: Dr bank 45.00, Cr payables (Reedwharf) 45.00"
