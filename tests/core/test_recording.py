"""One statement line told in several parts: accounts, documents, a fee kept out of a receipt."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Account, Dimension
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.open_items import open_items
from corkpost.core.refusals import BadEntry
from corkpost.core.routes import plan_route
from tests.builders import ACCOUNTS, CODES, after, bank_line, bill, payment
from tests.core.routes.test_bank_routes import bank_point, difference, missing, put_right
from tests.notation import EUR, eur, journal, settlements

OFFICE, FUEL, DRAWINGS, CHARGES, SALES = (
    CODES[name] for name in ("office", "fuel", "drawings", "charges", "sales")
)


def recorded(books, *parts):
    return put_right(books, "bank-missing", "record-missing", parts=json.dumps(parts))


def test_a_card_payment_is_split_between_two_costs_and_the_owner_and_the_rest_falls_to_the_last():
    books = missing(bank_line("2026-04-20", "-100.00", "CARD 4471"))
    plan, done = recorded(
        books,
        {"account": OFFICE, "amount": "24.60", "tax_code": "S23", "text": "paper"},
        {"account": FUEL, "amount": "20+5.40"},
        {"account": DRAWINGS},
    )
    assert journal(plan, books) == (
        "2026-04-20: Cr bank 100.00, Dr office 20.00, Dr tax 4.60, Dr fuel 25.40, Dr drawings 50.00"
    )
    assert [line.description for line in plan.entries[0].lines if line.account == OFFICE] == [
        "paper"
    ]
    assert difference(done) == 0


def test_one_transfer_settles_documents_of_two_suppliers():
    one = bill("RW-1", on="2026-04-03", id="B1", fuel="60.00")
    two = bill("KS-1", "2026-04-04", "Kittiwake Signs", id="B2", office="40.00")
    books = missing(bank_line("2026-04-20", "-100.00", "COLLECTED"), entries=[one, two])
    plan, done = recorded(books, {"items": "B1", "amount": "60"}, {"items": "B2"})
    assert settlements(plan) == ("2026-04-20: new-1 with B1 60.00\n2026-04-20: new-1 with B2 40.00")
    assert not any(open_items(done).open_now.values())


def test_a_receipt_that_came_in_less_a_fee_counts_in_full():
    books = missing(bank_line("2026-04-20", "97.50", "PAID OUT"))
    plan, _ = recorded(
        books, {"account": SALES, "amount": "100.00"}, {"account": CHARGES, "amount": "-2.50"}
    )
    assert journal(plan, books) == ("2026-04-20: Dr bank 97.50, Cr sales 100.00, Dr charges 2.50")


@pytest.mark.parametrize(
    ("parts", "says"),
    [
        (
            [{"account": OFFICE, "amount": "60"}, {"account": FUEL, "amount": "30"}],
            "come to 90.00, the line is 100.00: 10.00 is still to be told",
        ),
        (
            [{"account": OFFICE, "amount": "60"}, {"account": "2100"}],
            "Part 2: payables is a control",
        ),
        ([{"account": OFFICE, "amount": "abc"}, {"account": FUEL}], "Part 1: 'abc'"),
        ([{"account": OFFICE, "amount": "100"}, {"account": FUEL}], "Part 2: the amount is nil"),
        ([{"account": OFFICE, "dimensions": "site=MOON"}], "no 'site' 'MOON'"),
        ([{"account": "1299"}], "is private and does not belong"),
        ([{"items": "B1", "amount": "50"}, {"items": "B1"}], "named in two parts"),
        ([], "1 to 40 parts"),
        ("B1", "can't be read"),
    ],
)
def test_parts_that_do_not_add_up_or_fit_are_refused_with_what_is_wrong(parts, says):
    private = Account("1299", "own savings", AccountType.ASSET, AccountRole.PRIVATE)
    books = missing(
        bank_line("2026-04-20", "-100.00", "CARD 4471"),
        entries=[bill("RW-1", on="2026-04-03", id="B1", fuel="60.00")],
        accounts=(*ACCOUNTS, private),
        dimensions=(Dimension("site", "QUAY", "the quay"),),
    )
    settings = {"parts": json.dumps(parts)}
    with pytest.raises(BadEntry, match=says):
        plan_route(books, bank_point(books, "bank-missing"), "record-missing", settings)


def test_a_dimension_is_written_on_the_cost_and_not_on_the_bank():
    site = Dimension("site", "QUAY", "the quay")
    books = missing(bank_line("2026-04-20", "-12.30", "CARD"), dimensions=(site,))
    plan, _ = put_right(
        books, "bank-missing", "record-missing", account=OFFICE, dimensions="site=QUAY"
    )
    assert [line.dimensions for line in plan.entries[0].lines] == [None, "site=QUAY"]


def test_a_number_that_another_payment_bears_is_told():
    """Need 98."""
    other = payment("2026-03-02", "75.00", id="P1")._replace(reference="001101")
    books = missing(
        bank_line("2026-04-20", "-12.30", "CHEQUE", reference="001101"), entries=[other]
    )
    plan, _ = put_right(books, "bank-missing", "record-missing", account=OFFICE)
    assert plan.warnings == (
        "P1 of 2 March 2026 on this account has the number 001101 already. Two payments don't share "
        "a number: look at both.",
    )


@given(st.lists(st.integers(1, 10_000), min_size=1, max_size=6), st.sampled_from([1, -1]))
def test_whatever_the_parts_the_bank_moves_by_the_line_and_the_difference_is_nil(amounts, sign):
    books = missing(bank_line("2026-04-20", EUR.format(sign * sum(amounts)), "CARD"))
    parts = [
        {"account": OFFICE, "tax_code": "S23" if amount % 2 else "", "amount": EUR.format(amount)}
        for amount in amounts
    ]
    settings = {"parts": json.dumps(parts)}
    plan = plan_route(books, bank_point(books, "bank-missing"), "record-missing", settings)
    done = after(books, ready(plan, books))
    assert difference(done) == 0
    assert sum(x.amount for _, x in done.lines_on(CODES["bank"])) == sign * sum(amounts)
    assert eur("0.00") == sum(x.amount for x in plan.entries[0].lines)
