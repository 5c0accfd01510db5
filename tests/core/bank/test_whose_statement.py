"""Whose a statement is: the number decides, else what speaks for and against the account."""

import pytest

from corkpost.core.bank.whose_statement import (
    WhoseStatement,
    evidence,
    refuse_doubtful,
    same_number,
)
from corkpost.core.statements import Given
from tests.builders import CODES, books_with, day, direct_payment, payment
from tests.notation import eur

BOOKS = books_with(
    *(direct_payment(f"2026-0{n}-03", office="43.05", memo="quay rent") for n in range(1, 7)),
    payment("2026-05-02", "246.00"),
)
OURS = [("2026-06-03", "-43.05", "QUAY RENT"), ("2026-05-02", "-246.00", "REEDWHARF"),
        ("2026-06-20", "-6.50", "FEE"), ("2026-06-21", "-7.10", "CARD")]  # fmt: skip
THEIRS = [(f"2026-06-{n:02}", f"-{n}3.33", f"BAKER {n}") for n in range(2, 22)]


def weigh(rows, opening="0.00", stood=None, already=0):
    given = [Given(n, day(on), eur(amount), text) for n, (on, amount, text) in enumerate(rows, 1)]
    found = evidence(
        BOOKS,
        CODES["bank"],
        given,
        opening=eur(opening),
        stood=eur(stood) if stood else None,
        already=already,
    )
    refuse_doubtful(BOOKS, CODES["bank"], found)
    return sum(spoken.weight for spoken in found)


@pytest.mark.parametrize(
    ("one", "other", "same"),
    [
        ("IE12 BOFI 9000 0112 3456", "3456", False),
        ("IE12 BOFI 9000 0112 3456", "0112-3456", True),
        ("IE12 BOFI 9000 0112 3456", "ie12bofi900001123456", True),
        ("IE12 BOFI 9000 0112 3456", "IE12 BOFI 9000 0999 9999", False),
        (None, "IE12", None),
        ("", "IE12", None),
    ],
)
def test_an_account_s_number_within_another_s_is_the_same(one, other, same):
    assert same_number(one, other) is same


def test_what_goes_on_from_the_last_statement_is_taken_in_and_so_is_a_month_after_a_gap():
    assert weigh(OURS, "100.00", "100.00") > 0
    assert weigh(OURS, "100.00", "250.00") >= 0
    assert weigh(THEIRS, "100.00", "250.00", already=3) >= 0
    assert weigh(OURS[:1]) == 0


def test_another_s_statement_is_asked_about_with_what_speaks_against_it():
    with pytest.raises(WhoseStatement, match="the account stood at 250"):
        weigh(THEIRS, "100.00", "250.00")
    with pytest.raises(WhoseStatement, match="none of its 20 sums are in the books"):
        weigh(THEIRS)
