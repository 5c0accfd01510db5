"""unallocated: money on account beside what it pays."""

import pytest

from corkpost.core.checks import found_by
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun, Level
from tests.builders import TODAY, allocated, bill, books_with, invoice, payment, receipt


def found(*transactions, **facts):
    return list(found_by(CheckRun(books_with(*transactions, **facts), TODAY), "unallocated"))


def sold(number, on="2026-05-02", total="100.00", id=None):
    return invoice(f"SK-{number}", on=on, id=id or f"I{number}", sales=total)


@pytest.mark.parametrize(
    ("rows", "items", "level"),
    [
        ([sold(101), receipt("2026-05-20", "100.00")], ("I101",), Level.SURE),
        ([sold(101), sold(102), receipt("2026-05-20", "100.00", memo="SK-102")], ("I102",), Level.SURE),
        ([sold(101), sold(102), receipt("2026-05-20", "100.00")], ("I101",), Level.LIKELY),
        ([sold(101, total="60.00"), sold(102, total="40.00"), receipt("2026-05-20", "100.00")],
         ("I101", "I102"), Level.SURE),
        ([sold(101, on="2024-05-02"), receipt("2026-05-20", "100.00")], ("I101",), Level.LOOK),
        ([receipt("2026-08-20", "33.00")], (), Level.LOOK),
    ],
)  # fmt: skip
def test_what_it_finds_and_how_sure_it_is(rows, items, level):
    (point,) = found(*rows)
    assert (point.named("item"), point.level) == (items, level)


def test_several_payments_on_account_for_one_bill_are_one_point():
    (point,) = found(
        bill("RW 1", on="2026-05-02", id="B1", fuel="100.00"),
        payment("2026-05-20", "60.00", id="P1"),
        payment("2026-06-20", "40.00", id="P2"),
    )
    assert (point.named("money"), point.named("item")) == (("P1", "P2"), ("B1",))
    assert point.summary.startswith("2 payments to Reedwharf stand on account")


@pytest.mark.parametrize(
    "quiet",
    [
        # no match, and under 60 days old
        [sold(101, total="70.00"), receipt("2026-10-20", "100.00")],
        # another party's item has the sum
        [sold(101), receipt("2026-10-20", "100.00", party="Averin Scouts")],
        # nothing on account
        [sold(101)],
    ],
)
def test_it_keeps_quiet_otherwise(quiet):
    assert found(*quiet) == []


def test_what_is_left_of_a_receipt_counts_and_not_the_whole():
    first, second = sold(101), sold(102, total="50.00")
    money = receipt("2026-05-20", "150.00", id="R1")
    (point,) = found(first, second, money, allocations=[allocated(first, money, "100.00")])
    assert (point.named("item"), point.amount) == (("I102",), 5000)


def test_a_credit_beside_an_invoice_is_found_too():
    (point,) = found(
        sold(101, total="80.00"),
        invoice("CR-1", on="2026-06-01", kind=Kind.SALES_CREDIT, sales="-80.00"),
    )
    assert point.summary.startswith("A credit from Harbour School stands on account")
