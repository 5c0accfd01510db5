"""What is there by table and month, and the months where something is missing."""

from dataclasses import replace

from corkpost.core.books import PayrollMonth
from corkpost.core.coverage import coverage
from tests.builders import bank_line, bill, books_with, day, direct_payment, with_statement


def rows(books, today="2026-04-15"):
    year = books.calendar.year_of(day("2026-06-30"))
    found = coverage(books, tuple(books.calendar.periods(year)), day(today))
    return {
        row.name: [
            "gap" if missing else count
            for count, missing in zip(row.counts, row.missing, strict=True)
        ][:5]
        for row in found
    }


def test_rows_are_counted_by_table_and_month_and_ours_are_not_among_them():
    ours = bill("RW-2", on="2026-02-04", fuel="1.00")._replace(change=2)
    books = books_with(
        bill("RW-1", on="2026-02-03", fuel="1.00"), ours, direct_payment("2026-03-01", fuel="1.00")
    )
    assert rows(books) == {
        "Bills and credits": [0, 1, 0, 0, 0],
        "Money coded straight, moved, banked": [0, 0, 1, 0, 0],
    }


def test_a_month_between_statements_or_after_them_is_a_gap_once_it_is_over():
    books = with_statement(books_with(), first="2026-01-05", last="2026-01-30")
    books = with_statement(
        books, bank_line("2026-03-09", "-1.00"), first="2026-03-02", last="2026-03-30"
    )
    name = "Statement lines, bank"
    assert rows(books)[name] == [0, "gap", 1, 0, 0]
    assert rows(books, today="2026-05-31")[name] == [0, "gap", 1, "gap", "gap"]


def test_a_payroll_summary_is_missing_only_between_two_others():
    months = tuple(PayrollMonth(month) for month in ("2026-01", "2026-03"))
    books = books_with(payroll=months)
    assert rows(books) == {"Payroll summary": [1, "gap", 1, 0, 0]}
    assert rows(replace(books, tables=replace(books.tables, payroll=months[:1]))) == {
        "Payroll summary": [1, 0, 0, 0, 0]
    }
