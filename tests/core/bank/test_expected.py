"""The correction that an error of the bank waits for: taken when it can't be mistaken."""

import pytest

from corkpost.core.bank.agreeing import ready
from corkpost.core.bank.expected import corrections_come, plan_correction
from corkpost.core.checks import run_checks
from corkpost.core.points import CheckRun
from corkpost.core.routes import plan_route
from tests.builders import TODAY, after, bank_line, posted, with_statement
from tests.core.routes.test_bank_routes import bank_point, credited, difference
from tests.notation import journal


def waiting(amount="248.00"):
    """Example 6, on the 18th: the error is booked, and its correction has not come."""
    books = credited(amount, None)
    point = bank_point(books, "bank-amount-differs")
    return after(books, ready(plan_route(books, point, "bank-error", {}), books))


@pytest.mark.parametrize(
    ("amount", "correction", "entry"),
    [
        ("248.00", "2232.00", "Cr clearing 2232.00, Dr bank 2232.00"),
        ("2840.00", "-360.00", "Dr clearing 360.00, Cr bank 360.00"),
    ],
)
def test_the_correction_clears_clearing_and_is_agreed_when_it_comes(amount, correction, entry):
    books = waiting(amount)
    assert corrections_come(books) == ()
    came = with_statement(
        books, bank_line("2026-05-20", correction, "ADJ"), opening=amount, first="2026-05-19"
    )
    (expected,) = corrections_come(came)
    plan = ready(plan_correction(came, expected), came)
    assert journal(plan, came) == f"2026-05-20: {entry}"
    done = after(came, plan, 2)
    assert (difference(done), corrections_come(done)) == (0, ())
    assert [p.check for p in run_checks(CheckRun(done, TODAY))] == []


def test_what_could_be_something_else_is_left_to_a_person():
    line = bank_line("2026-05-20", "2232.00", "ADJ")
    twice = with_statement(waiting(), line, line, first="2026-05-19")
    assert corrections_come(twice) == ()
    early = with_statement(waiting(), bank_line("2026-05-17", "2232.00", "ADJ"))
    assert corrections_come(early) == ()
    other = with_statement(waiting(), bank_line("2026-05-20", "2232.01", "ADJ"))
    assert corrections_come(other) == ()
    entry = posted("Dr bank 2232.00, Cr sales 2232.00", on="2026-05-19")
    booked = with_statement(waiting(), line, first="2026-05-19").with_posted([entry], [])
    assert corrections_come(booked) == ()


def test_a_clearing_entry_of_the_client_s_own_is_no_error_of_the_bank():
    received = posted("Dr clearing 2232.00, Cr bank 2232.00", on="2026-05-18")
    books = with_statement(
        credited("2480.00", None).with_posted([received], []),
        bank_line("2026-05-20", "2232.00", "ADJ"),
    )
    assert corrections_come(books) == ()
