"""The checks of the bank: what they find, and what they keep quiet about."""

import pytest

from corkpost.core.checks import run_checks
from corkpost.core.points import Look
from tests.builders import (
    TODAY,
    bank_line,
    books_with,
    direct_payment,
    payment,
    receipt,
    with_statement,
)


def points(books):
    return [
        (p.check, p.summary) for p in run_checks(Look(books, TODAY)) if p.check.startswith("bank-")
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
