"""bill-paid-direct and invoice-received-direct: one rule on two sides."""

import pytest

from corkpost.core.checks import found_by
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun, Level
from tests.builders import (
    TODAY,
    allocated,
    bill,
    books_with,
    direct_payment,
    direct_receipt,
    invoice,
    payment,
    posted,
)
from tests.notation import eur


def owed(reference="KS 04790", on="2026-02-16", total="318.57", id="B1", party="Kittiwake Signs"):
    return bill(reference, on=on, party=party, id=id, office=total)


def paid(on="2026-03-08", total="318.57", party="Kittiwake Signs", memo=None, id="P1"):
    return direct_payment(on, party=party, memo=memo, id=id, office=total)


def found(*transactions, **facts):
    return list(found_by(CheckRun(books_with(*transactions, **facts), TODAY), "bill-paid-direct"))


@pytest.mark.parametrize(
    ("open_", "money", "level", "why"),
    [
        ([owed()], paid(), Level.SURE, "same sum"),
        ([owed()], paid(memo="KS 4790"), Level.SURE, "quotes its number"),
        ([owed()], paid(party=None, memo="KITTIWAKE SIGNS LTD CARD 44"), Level.SURE, "same sum"),
        ([owed()], paid(party=None, memo="ktw signs"), Level.SURE, "same sum"),
        ([owed()], paid(party=None, memo="card 4471"), Level.LOOK, "nobody is named"),
        ([owed()], paid(party=None, memo="transfer KS-04790"), Level.LIKELY, "nobody is named"),
        ([owed(total="100.00"), owed("KS 04801", total="218.57", id="B2")], paid(), Level.SURE, "two bills"),
        ([owed(total="500.00")], paid(memo="part of KS 04790"), Level.LIKELY, "part"),
        ([owed(total="325.00")], paid(), Level.LIKELY, "short"),
    ],
)  # fmt: skip
def test_what_it_finds_and_how_sure_it_is(open_, money, level, why):
    (point,) = found(*open_, money)
    assert point.named("bill") == tuple(sorted(bill.id for bill in open_))
    assert (point.named("payment"), point.level) == (("P1",), level)
    assert any(why in said for said in (*point.because, *point.against)), point


@pytest.mark.parametrize(
    "quiet",
    [
        # another amount, and no set of open bills adds up to it
        [owed(total="400.00"), paid()],
        [owed(total="300.00"), paid()],
        # nobody named, and two open items have that sum
        [owed(), owed("RW 1", id="B2", party="Reedwharf"), paid(party=None, memo="card")],
        # nobody named, and too long ago
        [owed(on="2025-10-01"), paid(party=None, memo="card")],
        # nothing is owed
        [paid()],
        # money of another party
        [owed(), paid(party="Tern Print Ltd")],
        # coded to more than cost: it is looked at where it was coded
        [owed(), posted("Dr office 300.00, Dr drawings 18.57, Cr bank 318.57", "2026-03-08",
                        Kind.DIRECT_PAYMENT, party="Kittiwake Signs")],
    ],
)  # fmt: skip
def test_it_keeps_quiet_otherwise(quiet):
    assert found(*quiet) == []


def test_a_settled_bill_is_not_asked_about():
    open_, money = owed(), payment("2026-03-01", "318.57", party="Kittiwake Signs")
    assert found(open_, money, paid(), allocations=[allocated(money, open_, "318.57")]) == []


def test_no_bill_and_no_payment_is_used_twice_and_the_nearest_pair_goes_together():
    points = found(
        owed(on="2026-02-16", id="B1"),
        owed("KS 04805", on="2026-03-06", id="B2"),
        paid(on="2026-02-18", id="P1"),
        paid(on="2026-03-08", id="P2"),
    )
    pairs = sorted((point.named("payment"), point.named("bill")) for point in points)
    assert pairs == [(("P1",), ("B1",)), (("P2",), ("B2",))]
    # The later one could be for either, the earlier one is before the second bill was written.
    assert [bool(point.against) for point in points] == [False, True]


def test_the_cost_counts_gross_with_the_tax_that_was_claimed():
    money = direct_payment("2026-03-08", party="Kittiwake Signs", office="259.00", tax="59.57")
    (point,) = found(owed(), money)
    assert point.amount == eur("318.57")
    assert "coded to office" in point.summary


def test_the_customer_s_side_is_the_same_rule_turned_round():
    books = books_with(
        invoice("SK-1", on="2026-05-02", id="I1", sales="500.00", tax="115.00"),
        invoice("SK-2", on="2026-05-09", id="I2", sales="100.00"),
        direct_receipt("2026-05-20", party="Harbour School", id="R1", other_income="715.00"),
    )
    (point,) = found_by(CheckRun(books, TODAY), "invoice-received-direct")
    assert (point.named("receipt"), point.named("invoice")) == (("R1",), ("I1", "I2"))
    assert point.summary == (
        "A receipt from Harbour School was coded to other income, and two invoices still stand open."
    )
    assert found_by(CheckRun(books, TODAY), "bill-paid-direct") == ()
