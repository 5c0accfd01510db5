"""What the books and the bank say of a transaction, where a statement's line is agreed with it."""

from dataclasses import replace

from corkpost.core.books import AgreementRow
from corkpost.core.checks import run_checks
from corkpost.core.evidence.said import said_of, told_by
from corkpost.core.points import CheckRun
from tests.builders import CODES, TODAY, bank_line, bill, books_with, direct_payment, with_statement

BANK = CODES["bank"]


def agreed(text: str):
    """A bill that stands open, a payment that says nothing, and the bank's line of it."""
    paper = bill("RW-0117", "2026-04-01", id="B1", fuel="200.00", tax="46.00")
    paid = direct_payment("2026-04-20", id="P1", memo="online banking", fuel="246.00")
    number = next(line.number for line in paid.lines if line.account == BANK)
    rows = (
        AgreementRow("a1", BANK, "P1", number),
        AgreementRow("a1", BANK, statement_line="s1.csv#1"),
    )
    books = books_with(paper, paid, agreements=rows)
    return with_statement(books, bank_line("2026-04-20", "-246.00", text), opening="246.00")


def test_the_bank_s_words_are_read_wherever_the_entry_is_agreed_with_its_line():
    books = agreed("SEPA CT REEDWHRAF")
    paid = books.transactions["P1"]
    assert said_of(books, paid) == "online banking SEPA CT REEDWHRAF"
    assert told_by(books, paid) == "SEPA CT REEDWHRAF"
    found = [p for p in run_checks(CheckRun(books, TODAY)) if p.check == "bill-paid-direct"]
    assert [{name for _, name in point.subjects} for point in found] == [{"P1", "B1"}]
    assert found[0].parties == ("S1",)


def test_what_two_readings_of_a_text_differ_by_tells_series_apart_by_the_bank_alone():
    books = agreed("")
    assert told_by(books, books.transactions["P1"]) == "online banking"


def test_they_are_read_before_anybody_agreed_them_where_nothing_else_fits_the_sum():
    books = agreed("SEPA CT REEDWHRAF")
    books = replace(books, tables=replace(books.tables, agreements=()))
    assert told_by(books, books.transactions["P1"]) == "SEPA CT REEDWHRAF"
    # Two lines of the sum: nobody knows which is meant.
    again = with_statement(
        books, bank_line("2026-04-20", "-246.00", "KITTIWAKE"), first="2026-04-19"
    )
    assert told_by(again, again.transactions["P1"]) == "online banking"
