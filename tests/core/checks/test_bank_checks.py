"""The checks of the bank: what they find, and what they keep quiet about."""

import pytest

from corkpost.core.checks import run_checks
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun
from tests.builders import (
    TODAY,
    allocated,
    bank_line,
    bill,
    books_with,
    direct_payment,
    direct_receipt,
    payment,
    posted,
    receipt,
    with_statement,
)


def points(books):
    return [
        (p.check, p.summary)
        for p in run_checks(CheckRun(books, TODAY))
        if p.check.startswith("bank-")
    ]


def numbered(posted, reference):
    return posted._replace(reference=reference)


def test_a_line_that_the_books_lack_is_told_with_what_the_bank_wrote():
    books = with_statement(
        books_with(payment("2026-05-01", "211.56", id="P1")),
        bank_line("2026-05-02", "-211.56", "REEDWHARF"),
        bank_line("2026-05-29", "-6.50", "FEE"),
    )
    assert points(books) == [
        (
            "bank-missing",
            "The bank shows 6.50 out of 1200 on 29 May 2026, FEE, which the books do not have.",
        )
    ]


def test_an_entry_and_its_line_of_one_sum_on_one_day_are_one_movement_whoever_is_named():
    paid = payment("2026-05-01", "211.56", id="P1")
    soon = bank_line("2026-05-02", "-211.56", "KITTIWAKE SIGNS")
    assert points(with_statement(books_with(paid), soon)) == []
    # Weeks later it is another's.
    late = bank_line("2026-06-12", "-211.56", "KITTIWAKE SIGNS")
    told = [check for check, _ in points(with_statement(books_with(paid), late))]
    assert told == ["bank-missing", "bank-not-presented"]


def test_a_stopped_payment_that_was_taken_back_and_the_opening_wait_for_no_bank():
    opening = posted("Dr bank 900.00, Cr capital 900.00", on="2025-12-31", kind=Kind.OPENING)
    stopped = payment("2026-01-10", "80.00", id="P1")
    back = posted("Dr bank 80.00, Cr payables (Reedwharf) 80.00", on="2026-02-02", id="P2")
    fee = bank_line("2026-12-30", "-6.50", "FEE")
    books = books_with(opening, stopped, back, direct_payment("2026-12-29", office="6.50"))
    assert points(with_statement(books, fee, first="2025-12-01")) == []
    alone = books_with(stopped, direct_payment("2026-12-29", office="6.50"))
    assert [check for check, _ in points(with_statement(alone, fee))] == ["bank-not-presented"]


@pytest.mark.parametrize(
    ("extra", "says"),
    [
        ((), "The books say 2,480.00, the bank 248.00 on 18 May 2026: a nought is lost."),
        (
            (bank_line("2026-05-20", "2232.00", "CORRECTION"),),
            "The books say 2,480.00, the bank 248.00 on 18 May 2026: a nought is lost. "
            "The bank erred: on 20 May 2026 it brings just 2,232.00.",
        ),
    ],
)
def test_a_sum_that_differs_by_a_slip_is_told_with_who_erred(extra, says):
    books = with_statement(
        books_with(receipt("2026-05-18", "2480.00", id="R1")),
        bank_line("2026-05-18", "248.00", "HARBOUR SCHOOL"),
        *extra,
    )
    assert points(books) == [("bank-amount-differs", says)]


def test_two_cheques_with_each_others_numbers_are_one_point_and_a_lone_one_another():
    books = with_statement(
        books_with(
            numbered(payment("2026-05-01", "50.00", id="P1"), "001101"),
            numbered(payment("2026-05-02", "75.00", "Tern Print Ltd", id="P2"), "001102"),
            numbered(payment("2026-05-03", "20.00", "Kittiwake Signs", id="P3"), "001103"),
        ),
        bank_line("2026-05-05", "-50.00", "CHQ", reference="001102"),
        bank_line("2026-05-06", "-75.00", "CHQ", reference="001101"),
        bank_line("2026-05-06", "-20.00", "CHQ", reference="001109"),
    )
    assert points(books) == [
        (
            "bank-reference-differs",
            "The numbers 001101 and 001102 are exchanged: by amount and day the bank has each for "
            "the other.",
        ),
        (
            "bank-reference-differs",
            "The books have number 001103, the bank 001109, for the same sum.",
        ),
    ]


def test_what_never_reached_the_bank_is_told_once_it_is_old():
    books = with_statement(
        books_with(
            payment("2026-01-02", "615.00", id="P1"),
            payment("2026-07-02", "80.00", id="P2"),
            receipt("2026-09-12", "90.00", id="R1"),
            receipt("2026-09-25", "95.00", id="R2"),
        ),
        first="2026-01-01",
        last="2026-09-30",
    )
    assert points(books) == [
        (
            "bank-not-presented",
            "The payment P1 of 615.00 has not reached the bank in 271 days, by the statement to "
            "30 September 2026.",
        ),
        (
            "bank-not-presented",
            "The receipt R1 of 90.00 has not reached the bank in 18 days, by the statement to "
            "30 September 2026.",
        ),
    ]


def test_without_statements_the_bank_is_not_asked():
    assert points(books_with(direct_payment("2026-01-02", office="9.00"))) == []


# -- one movement twice


def twice(*lines, **second):
    return with_statement(
        books_with(
            payment("2026-05-04", "211.56", id="P1", memo="RW"),
            direct_payment(
                "2026-05-05", id="P2", memo="REEDWHARF FUELS", **(second or {"fuel": "211.56"})
            ),
        ),
        *lines,
        last="2026-05-31",
    )


def checks(books):
    return [p.check for p in run_checks(CheckRun(books, TODAY))]


def test_a_hand_entry_beside_a_feed_line_is_one_movement_while_the_bank_shows_it_once():
    one = bank_line("2026-05-05", "-211.56", "REEDWHARF")
    books = twice(one)
    (point,) = (p for p in run_checks(CheckRun(books, TODAY)) if p.check == "duplicate-bank-entry")
    assert point.summary == (
        "211.56 of 4 May 2026 is in the books twice, as P2 and P1; the bank shows it once."
    )
    # What has a twin at the bank is not told as never presented as well.
    assert "bank-not-presented" not in checks(books)
    assert "duplicate-bank-entry" not in checks(twice(one, one))
    assert "duplicate-bank-entry" not in checks(twice(one, fuel="211.57"))


def test_a_bill_that_was_paid_twice_is_told_once_both_are_at_the_bank():
    owed = bill("RW-1", on="2026-04-20", id="B1", fuel="200.00", tax="46.00")
    first, again = (
        payment("2026-05-04", "246.00", id="P1"),
        payment("2026-05-18", "246.00", id="P2"),
    )

    def books(*more, lines=2):
        made = books_with(owed, first, again, *more, allocations=[allocated(first, owed, "246.00")])
        shown = [bank_line(f"2026-05-{day}", "-246.00", "REEDWHARF") for day in ("05", "19")][
            :lines
        ]
        return with_statement(made, *shown, last="2026-05-31")

    (point,) = (p for p in run_checks(CheckRun(books(), TODAY)) if p.check == "duplicate-payment")
    assert point.summary == (
        "Reedwharf was paid 246.00 twice for RW-1: on 4 May 2026 by P1 and on 18 May 2026 by P2."
    )
    other = bill("RW-2", on="2026-05-15", id="B2", fuel="200.00", tax="46.00")
    assert "duplicate-payment" not in checks(books(other))
    assert "duplicate-payment" not in checks(books(lines=1))


# -- moves between own accounts, what is in hand, what is left on clearing


@pytest.mark.parametrize(
    ("out", "in_", "found"),
    [
        ({"memo": "transfer to savings"}, {"memo": "from bank"}, True),
        ({"memo": "A"}, {"memo": "B"}, True),
        ({"party": "Reedwharf"}, {"party": "Harbour School"}, False),
        ({"memo": "transfer", "on": "2026-05-20"}, {}, False),
    ],
)
def test_a_move_between_own_accounts_is_told_from_a_cost_and_an_income(out, in_, found):
    paid = direct_payment(out.pop("on", "2026-05-04"), id="P1", office="500.00", **out)
    got = posted(
        "Dr savings 500.00, Cr other income 500.00",
        "2026-05-05",
        Kind.DIRECT_RECEIPT,
        id="R1",
        **in_,
    )
    assert ("transfer-miscoded" in checks(books_with(paid, got))) is found


def test_of_two_moves_that_fit_neither_is_told_unless_the_text_says_which():
    paid = direct_payment("2026-05-04", id="P1", office="500.00")

    def got(name, memo=None):
        text = "Dr savings 500.00, Cr other income 500.00"
        return posted(text, "2026-05-05", Kind.DIRECT_RECEIPT, id=name, memo=memo)

    assert "transfer-miscoded" not in checks(books_with(paid, got("R1"), got("R2")))
    assert "transfer-miscoded" in checks(books_with(paid, got("R1"), got("R2", "transfer")))


def in_hand_receipt(on, amount, name, party="Harbour School"):
    text = f"Dr in hand {amount}, Cr receivables ({party}) {amount}"
    return posted(text, on, Kind.CUSTOMER_RECEIPT, id=name, party=party)


def test_receipts_in_hand_are_told_when_they_are_old_and_banked_ones_are_not():
    banked = posted("Dr bank 205.00, Cr in hand 205.00", "2026-05-06", Kind.BANKING, id="K1")
    books = books_with(
        in_hand_receipt("2026-05-01", "120.00", "R1"),
        in_hand_receipt("2026-05-02", "85.00", "R2"),
        in_hand_receipt("2026-05-03", "40.00", "R3"),
        in_hand_receipt("2026-06-20", "50.00", "R4"),
        banked,
        direct_payment("2026-06-25", office="1.00"),
    )
    found = [p.summary for p in run_checks(CheckRun(books, TODAY)) if p.check == "unbanked-stale"]
    assert found == ["40.00 of R3, received 3 May 2026, is still in hand after 53 days."]


def test_a_sum_banked_to_income_whose_receipts_are_in_hand_counts_twice():
    books = books_with(
        in_hand_receipt("2026-05-01", "120.00", "R1"),
        in_hand_receipt("2026-05-02", "85.00", "R2"),
        direct_receipt("2026-05-06", id="K1", memo="LODGEMENT", sales="205.00"),
        direct_payment("2026-06-25", office="1.00"),
    )
    (point,) = (p for p in run_checks(CheckRun(books, TODAY)) if p.check == "unbanked-stale")
    assert point.summary == (
        "K1, 205.00 paid in on 6 May 2026 and coded to income, is exactly what R1 and R2 in hand come "
        "to: the income is counted twice."
    )


def test_what_is_left_on_clearing_is_told_item_by_item_after_pairing():
    def on_clearing(on, amount, name):
        sides = ("Dr", "Cr") if not amount.startswith("-") else ("Cr", "Dr")
        bare = amount.lstrip("-")
        return posted(f"{sides[0]} clearing {bare}, {sides[1]} bank {bare}", on, id=name)

    books = books_with(
        on_clearing("2026-05-01", "100.00", "T1"),
        on_clearing("2026-05-03", "-100.00", "T2"),
        on_clearing("2026-05-04", "70.00", "T3"),
        on_clearing("2026-05-05", "-30.00", "T4"),
        on_clearing("2026-05-06", "-40.00", "T5"),
        on_clearing("2026-05-07", "12.34", "T6"),
        on_clearing("2026-06-30", "9.00", "T7"),
    )
    found = [p.summary for p in run_checks(CheckRun(books, TODAY)) if p.check == "clearing-balance"]
    assert found == [
        "12.34 of T6 is left on clearing since 7 May 2026: nothing that came after it clears it."
    ]
