"""The routes of the bank: worked examples 6, 8 and 12 of the handbook, both ways, and their kin."""

import pytest

from corkpost.core.bank.agreeing import Wanted, plan_agree, ready
from corkpost.core.bank.reconciling import reconciliation
from corkpost.core.bank.sides import bank_sides
from corkpost.core.checks import run_checks
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.matching.receipts_in_hand import in_hand
from corkpost.core.open_items import open_items
from corkpost.core.points import CheckRun
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.routes import options_for, plan_route
from tests.builders import (
    CODES,
    TODAY,
    after,
    allocated,
    bank_line,
    bill,
    books_with,
    direct_payment,
    direct_receipt,
    invoice,
    payment,
    posted,
    receipt,
    with_statement,
)
from tests.notation import eur, journal, settlements

BANK = CODES["bank"]


def bank_point(books, check):
    (point,) = (p for p in run_checks(CheckRun(books, TODAY)) if p.check == check)
    return point


def put_right(books, check, route, **settings):
    """The plan as it would be posted, and the books with it."""
    plan = ready(plan_route(books, bank_point(books, check), route, settings), books)
    return plan, after(books, plan)


def difference(books):
    sides = bank_sides(books, BANK)
    return reconciliation(sides, sides.statements[-1]).difference


# -- example 6: the bank credited too little, or too much


def credited(amount, correction):
    owed = invoice("SK-1", on="2026-05-01", id="I1", sales="2480.00")
    paid = receipt("2026-05-18", "2480.00", id="R1")
    return with_statement(
        books_with(owed, paid, allocations=[allocated(owed, paid, "2480.00")]),
        bank_line("2026-05-18", amount, "HARBOUR SCHOOL"),
        *([bank_line("2026-05-20", correction, "CORRECTION")] if correction else []),
    )


@pytest.mark.parametrize(
    ("amount", "correction", "entries"),
    [
        (
            "248.00",
            "2232.00",
            "2026-05-18: Dr clearing 2232.00, Cr bank 2232.00\n"
            "2026-05-20: Cr clearing 2232.00, Dr bank 2232.00",
        ),
        (
            "2840.00",
            "-360.00",
            "2026-05-18: Cr clearing 360.00, Dr bank 360.00\n"
            "2026-05-20: Dr clearing 360.00, Cr bank 360.00",
        ),
    ],
)
def test_the_banks_error_waits_on_clearing_until_the_bank_corrects_it(amount, correction, entries):
    books = credited(amount, correction)
    plan, done = put_right(books, "bank-amount-differs", "bank-error")
    assert journal(plan, books) == entries
    # The receipt is right: the customer owes nothing on the 18th.
    assert not any(open_items(done).open_now.values())
    assert difference(done) == 0
    assert run_checks(CheckRun(done, TODAY)) == ()


def test_an_error_that_the_bank_has_not_corrected_yet_stays_on_clearing():
    books = credited("248.00", None)
    plan, done = put_right(books, "bank-amount-differs", "bank-error")
    assert journal(plan, books) == "2026-05-18: Dr clearing 2232.00, Cr bank 2232.00"
    assert plan.notes == ("2,232.00 waits on clearing for its correction",)
    assert difference(done) == 0
    offered = [o.route for o in options_for(books, bank_point(books, "bank-amount-differs"))]
    assert offered[:2] == ["correct-amount", "bank-error"]


# -- example 8: a cheque lost


def lost():
    one = bill("A-1", on="2026-01-02", id="B1", office="400.00")
    other = bill("A-2", on="2026-01-03", id="B2", fuel="215.00")
    paid = payment("2026-01-10", "615.00", id="P1")
    books = books_with(
        one,
        other,
        paid,
        allocations=[allocated(paid, one, "400.00"), allocated(paid, other, "215.00")],
    )
    return with_statement(books, first="2026-01-01", last="2026-09-30")


def test_the_bills_of_a_lost_cheque_are_open_again():
    books = lost()
    plan, done = put_right(books, "bank-not-presented", "reverse-payment")
    assert journal(plan, books) == "2026-09-30: Cr payables (Reedwharf) 615.00, Dr bank 615.00"
    assert settlements(plan) == (
        "2026-09-30: free P1 with B1 400.00\n"
        "2026-09-30: free P1 with B2 215.00\n"
        "2026-09-30: P1 with new-1 615.00"
    )
    opened = {key[0]: left for key, left in open_items(done).open_now.items() if left}
    assert opened == {"B1": -eur("400.00"), "B2": -eur("215.00")}
    # The cheque and its opposite are agreed with each other: nothing is outstanding.
    assert difference(done) == 0


def test_or_they_stay_settled_and_an_account_of_choice_is_credited():
    books = lost()
    plan, done = put_right(
        books, "bank-not-presented", "reverse-payment", account=CODES["office"], date="2026-08-31"
    )
    assert journal(plan, books) == "2026-08-31: Dr bank 615.00, Cr office 615.00"
    assert plan.allocations == ()
    assert not any(open_items(done).open_now.values())
    assert [
        o.settings.get("stays") for o in options_for(books, bank_point(books, "bank-not-presented"))
    ][:2] == [None, "yes"]
    with pytest.raises(BadEntry, match="can't take it"):
        put_right(books, "bank-not-presented", "reverse-payment", account=CODES["payables"])


# -- the books have the wrong sum


def test_only_the_difference_is_posted_with_its_tax_in_proportion():
    paid = direct_payment("2026-09-18", id="P1", memo="harbour dues", office="17.47", tax="4.02")
    books = with_statement(books_with(paid), bank_line("2026-09-21", "-12.49", "HARBOUR DUES"))
    plan, done = put_right(books, "bank-amount-differs", "correct-amount")
    assert journal(plan, books) == "2026-09-18: Dr bank 9.00, Cr office 7.32, Cr tax 1.68"
    assert difference(done) == 0


def test_allocations_above_the_right_sum_are_undone_first():
    owed = bill("A-1", on="2026-05-01", id="B1", office="540.00")
    paid = payment("2026-05-10", "540.00", id="P1")
    books = with_statement(
        books_with(owed, paid, allocations=[allocated(paid, owed, "540.00")]),
        bank_line("2026-05-11", "-450.00", "REEDWHARF"),
    )
    plan, done = put_right(books, "bank-amount-differs", "correct-amount")
    assert journal(plan, books) == "2026-05-10: Dr bank 90.00, Cr payables (Reedwharf) 90.00"
    assert settlements(plan) == (
        "2026-05-10: free P1 with B1 540.00\n"
        "2026-05-10: P1 with new-1 90.00\n"
        "2026-05-10: P1 with B1 450.00"
    )
    assert {k[0]: v for k, v in open_items(done).open_now.items() if v} == {"B1": -eur("90.00")}


# -- what the books lack


def missing(*lines, **more):
    return with_statement(books_with(*more.pop("entries", ()), **more), *lines)


def test_the_payees_open_bill_is_offered_before_a_cost():
    owed = bill("RW-0117", on="2026-04-03", id="B1", fuel="200.00", tax="46.00")
    books = missing(bank_line("2026-04-20", "-246.00", "REEDWHARF"), entries=[owed])
    (first, *_) = options_for(books, bank_point(books, "bank-missing"))
    assert first.title == "Record it as payment of RW-0117, Reedwharf"
    plan, done = put_right(books, "bank-missing", "record-missing", **first.settings)
    assert journal(plan, books) == "2026-04-20: Cr bank 246.00, Dr payables (Reedwharf) 246.00"
    assert settlements(plan) == "2026-04-20: new-1 with B1 246.00"
    assert done.transactions["E1-1"].kind == "supplier-payment"
    assert difference(done) == 0
    assert run_checks(CheckRun(done, TODAY)) == ()


def test_one_line_for_two_invoices_and_a_line_that_pays_in_part():
    one = invoice("SK-1", on="2026-04-03", id="I1", sales="100.00")
    two = invoice("SK-2", on="2026-04-04", id="I2", sales="60.00")
    books = missing(bank_line("2026-04-20", "160.00", "HARBOUR SCHOOL"), entries=[one, two])
    (first, *_) = options_for(books, bank_point(books, "bank-missing"))
    assert first.settings == {"items": "I1,I2"}
    books = missing(bank_line("2026-04-20", "45.00", "HARBOUR SCHOOL SK-1"), entries=[one, two])
    (first, *_) = options_for(books, bank_point(books, "bank-missing"))
    _, done = put_right(books, "bank-missing", "record-missing", **first.settings)
    assert {k[0]: v for k, v in open_items(done).open_now.items() if v} == {
        "I1": eur("55.00"),
        "I2": eur("60.00"),
    }


def test_a_habit_fills_it_in_from_earlier_ones():
    entries = [direct_payment(f"2026-0{n}-02", id=f"T{n}", office="43.05") for n in (1, 2)]
    books = missing(
        *(bank_line(f"2026-0{n}-03", "-43.05", f"DD 77{n} MOBILE") for n in (1, 2, 3)),
        entries=entries,
    )
    known = books
    for number, name in enumerate(("T1", "T2"), 1):
        wanted = [Wanted(((name, 2),), (f"s1.csv#{number}",))]
        known = after(known, plan_agree(known, BANK, wanted), number)
    (first, *_) = options_for(known, bank_point(known, "bank-missing"))
    assert first.title == "Record it as office, as 2 times before"
    plan = plan_route(known, bank_point(known, "bank-missing"), "record-missing", first.settings)
    assert journal(plan, known) == "2026-03-03: Cr bank 43.05, Dr office 43.05"


@pytest.mark.parametrize(
    ("settings", "entry", "kind"),
    [
        (
            {"account": "6100", "tax_code": "S23"},
            "Cr bank 12.30, Dr office 10.00, Dr tax 2.30",
            "direct-payment",
        ),
        ({"account": "3200"}, "Cr bank 12.30, Dr drawings 12.30", "direct-payment"),
        ({"account": "1290"}, "Cr bank 12.30, Dr clearing 12.30", "transfer"),
        (
            {"account": "2100", "party": "S1"},
            "Cr bank 12.30, Dr payables (Reedwharf) 12.30",
            "supplier-payment",
        ),
        (
            {"account": "1100", "party": "C1"},
            "Cr bank 12.30, Dr receivables (Harbour School) 12.30",
            "customer-refund",
        ),
    ],
)
def test_a_line_is_recorded_as_what_it_is(settings, entry, kind):
    books = missing(bank_line("2026-04-20", "-12.30", "CARD 4471"))
    plan, done = put_right(books, "bank-missing", "record-missing", **settings)
    assert journal(plan, books) == f"2026-04-20: {entry}"
    assert done.transactions["E1-1"].kind == kind
    assert difference(done) == 0


@pytest.mark.parametrize(
    ("settings", "refused"),
    [
        ({}, BadEntry),
        ({"account": "1200"}, BadEntry),
        ({"account": "2100"}, BadEntry),
        ({"account": "9"}, UnknownName),
        ({"account": "6100", "party": "Z"}, UnknownName),
        ({"account": "6100", "tax_code": "Z"}, UnknownName),
        ({"items": "T9"}, UnknownName),
    ],
)
def test_what_is_not_said_or_not_there_is_refused(settings, refused):
    books = missing(bank_line("2026-04-20", "-12.30", "CARD 4471"))
    with pytest.raises(refused):
        put_right(books, "bank-missing", "record-missing", **settings)


def test_a_line_of_a_filed_year_is_recorded_on_the_first_open_day():
    books = missing(bank_line("2025-11-20", "-12.30", "CARD 4471"), filed_through="2025-12-31")
    plan, _ = put_right(books, "bank-missing", "record-missing", account="6100")
    assert journal(plan, books) == "2026-01-01: Cr bank 12.30, Dr office 12.30"
    assert [part.year for part in plan.prior_parts] == ["2025"]


def test_exchanged_numbers_are_set_right_in_both_and_agreed():
    def numbered(posted, reference):
        return posted._replace(reference=reference)

    books = with_statement(
        books_with(
            numbered(payment("2026-05-01", "50.00", id="P1"), "001101"),
            numbered(payment("2026-05-02", "75.00", "Tern Print Ltd", id="P2"), "001102"),
        ),
        bank_line("2026-05-05", "-50.00", "CHQ", reference="001102"),
        bank_line("2026-05-06", "-75.00", "CHQ", reference="001101"),
    )
    plan, done = put_right(books, "bank-reference-differs", "amend-reference")
    assert [(row.transaction, row.after) for row in plan.amendments] == [
        ("P1", "001102"),
        ("P2", "001101"),
    ]
    assert done.transactions["P1"].reference == "001102"
    assert difference(done) == 0
    assert all(p.check == "unallocated" for p in run_checks(CheckRun(done, TODAY)))


# -- example 12: a supplier's refund


def test_a_refund_is_set_against_the_payments_it_returns_and_the_rest_stays_on_account():
    entries = [payment("2026-03-01", "75.00", id="P1"), payment("2026-04-01", "50.00", id="P2")]
    books = missing(bank_line("2026-05-04", "100.00", "REEDWHARF REFUND"), entries=entries)
    (first, *_) = options_for(books, bank_point(books, "bank-missing"))
    assert first.route == "refund"
    plan, done = put_right(books, "bank-missing", "refund")
    assert journal(plan, books) == "2026-05-04: Dr bank 100.00, Cr payables (Reedwharf) 100.00"
    assert settlements(plan) == "2026-05-04: P1 with new-1 75.00\n2026-05-04: P2 with new-1 25.00"
    assert {k[0]: v for k, v in open_items(done).open_now.items() if v} == {"P2": eur("25.00")}
    assert done.transactions["E1-1"].kind == "supplier-refund"


def test_a_refund_of_payments_of_a_filed_year_leaves_that_year_alone():
    entries = [payment("2025-03-01", "75.00", id="P1"), payment("2025-04-01", "50.00", id="P2")]
    line = bank_line("2025-12-30", "100.00", "REEDWHARF REFUND")
    books = missing(line, entries=entries, filed_through="2025-12-31")
    plan, _ = put_right(books, "bank-missing", "refund")
    assert journal(plan, books) == "2026-01-01: Dr bank 100.00, Cr payables (Reedwharf) 100.00"
    assert settlements(plan) == "2026-01-01: P1 with new-1 75.00\n2026-01-01: P2 with new-1 25.00"


def test_a_customer_s_overpayment_is_paid_back():
    entries = [receipt("2026-03-01", "60.00", id="R1")]
    books = missing(bank_line("2026-05-04", "-60.00", "HARBOUR SCHOOL"), entries=entries)
    plan, _ = put_right(books, "bank-missing", "refund")
    assert (
        journal(plan, books) == "2026-05-04: Cr bank 60.00, Dr receivables (Harbour School) 60.00"
    )
    assert settlements(plan) == "2026-05-04: new-1 with R1 60.00"


# -- receipts in hand


def held(on, amount, name):
    text = f"Dr in hand {amount}, Cr receivables (Harbour School) {amount}"
    return posted(text, on, Kind.CUSTOMER_RECEIPT, id=name, party="Harbour School")


def test_receipts_in_hand_are_banked_as_the_one_sum_that_the_bank_credited():
    entries = [held("2026-05-01", "120.00", "R1"), held("2026-05-02", "85.00", "R2")]
    entries.append(held("2026-05-03", "40.00", "R3"))
    books = missing(bank_line("2026-05-06", "205.00", "LODGEMENT 500031"), entries=entries)
    (first, *_) = options_for(books, bank_point(books, "bank-missing"))
    assert first.title == (
        "Bank the 2 receipts in hand: Harbour School 120.00 + Harbour School 85.00"
    )
    plan, done = put_right(books, "bank-missing", "bank-receipts", **first.settings)
    assert journal(plan, books) == "2026-05-06: Dr bank 205.00, Cr in hand 120.00, Cr in hand 85.00"
    assert difference(done) == 0
    assert [receipt.posted.id for receipt in in_hand(done)] == ["R3"]
    with pytest.raises(BadEntry, match="they must be equal"):
        put_right(books, "bank-missing", "bank-receipts", line="s1.csv#1", receipts="R1,R3")
    with pytest.raises(UnknownName):
        put_right(books, "bank-missing", "bank-receipts", line="s1.csv#1", receipts="R9")


def test_income_counted_twice_is_given_back_with_its_tax_and_the_receipts_leave_the_hand():
    books = books_with(
        held("2026-05-01", "120.00", "R1"),
        held("2026-05-02", "3.00", "R2"),
        direct_receipt("2026-05-06", id="K1", memo="LODGEMENT", sales="100.00", tax="23.00"),
        direct_payment("2026-06-25", office="1.00"),
    )
    plan = plan_route(books, bank_point(books, "unbanked-stale"), "reclassify", {})
    assert journal(plan, books) == (
        "2026-05-06: Dr sales 100.00, Dr tax 23.00, Cr in hand 120.00, Cr in hand 3.00"
    )
    assert in_hand(after(books, plan)) == ()


# -- moves between own accounts, and what is left on clearing


def test_both_legs_become_one_move_each_on_its_own_date_with_the_tax_given_back():
    out = direct_payment("2026-05-04", id="P1", memo="transfer", office="500.00", tax="115.00")
    in_ = posted(
        "Dr savings 615.00, Cr other income 615.00", "2026-05-06", Kind.DIRECT_RECEIPT, id="R1"
    )
    books = books_with(out, in_)
    plan = plan_route(books, bank_point(books, "transfer-miscoded"), "pair-transfer", {})
    assert journal(plan, books) == (
        "2026-05-04: Dr clearing 615.00, Cr office 500.00, Cr tax 115.00\n"
        "2026-05-06: Cr clearing 615.00, Dr other income 615.00"
    )
    assert run_checks(CheckRun(after(books, plan), TODAY)) == ()


def test_what_is_left_on_clearing_goes_where_it_belongs():
    books = books_with(
        posted("Dr clearing 12.34, Cr bank 12.34", "2026-05-01", id="T1"),
        direct_payment("2026-06-25", office="1.00"),
    )
    point = bank_point(books, "clearing-balance")
    with pytest.raises(BadEntry, match="Choose the account"):
        plan_route(books, point, "reclassify", {})
    with pytest.raises(BadEntry, match="name the party"):
        plan_route(books, point, "reclassify", {"account": CODES["payables"]})
    plan = plan_route(books, point, "reclassify", {"account": CODES["office"]})
    assert journal(plan, books) == "2026-05-01: Cr clearing 12.34, Dr office 12.34"
    assert run_checks(CheckRun(after(books, plan), TODAY)) == ()


def test_of_a_movement_that_is_twice_in_the_books_the_one_at_the_bank_is_kept():
    owed = bill("RW-1", on="2026-04-20", id="B1", fuel="211.56")
    by_hand = payment("2026-05-04", "211.56", id="P1")
    feed = direct_payment("2026-05-05", id="P2", memo="REEDWHARF", fuel="211.56")
    books = with_statement(
        books_with(owed, by_hand, feed, allocations=[allocated(by_hand, owed, "211.56")]),
        bank_line("2026-05-05", "-211.56", "REEDWHARF"),
        last="2026-05-31",
    )
    point = bank_point(books, "duplicate-bank-entry")
    (first, *_) = options_for(books, point)
    assert first.settings == {"transaction": "P1"}


def test_the_correction_of_the_banks_error_is_known_when_it_comes():
    books = credited("248.00", None)
    _, waits = put_right(books, "bank-amount-differs", "bank-error")
    come = with_statement(
        waits, bank_line("2027-01-04", "2232.00", "CORRECTION"), opening="248.00", first="2027-01-01",
        last="2027-01-31",
    )  # fmt: skip
    (first, *_) = options_for(come, bank_point(come, "bank-missing"))
    assert first.title == "Record it as what E1-1 waits for: clearing is nil again"
    plan = ready(
        plan_route(come, bank_point(come, "bank-missing"), first.route, first.settings), come
    )
    assert journal(plan, come) == "2027-01-04: Dr bank 2232.00, Cr clearing 2232.00"
    assert difference(after(come, plan, 2)) == 0
