"""What of a statement file was taken in before, and whether its sums come out."""

import pytest

from corkpost.core.statements import Given, StatementLine, sums_of, told_apart
from tests.builders import day


def given(number, amount, text="COFFEE", bank_id=None, balance=None, on="2026-05-18"):
    return Given(number, day(on), amount, text, bank_id=bank_id, balance=balance)


def taken(*lines):
    return [StatementLine(f"a#{line.number}", 1, *line[1:]) for line in lines]


@pytest.mark.parametrize(
    ("before", "file", "new"),
    [
        # The same file again, whatever it gives to tell lines by.
        ([given(1, -350)], [given(1, -350)], []),
        ([given(1, -350, bank_id="A")], [given(1, -350, bank_id="A")], []),
        # Two equal coffees on a day stay two, and a third is new.
        ([given(1, -350), given(2, -350)], [given(1, -350), given(2, -350)], []),
        ([given(1, -350), given(2, -350)], [given(1, -350), given(2, -350), given(3, -350)], [3]),
        # The bank gave all ids anew: the texts tell.
        ([given(1, -350, bank_id="A")], [given(1, -350, bank_id="X")], []),
        # The ids last, and this one is another: a twin that came later that day.
        (
            [given(1, -350, bank_id="A")],
            [given(1, -350, bank_id="A"), given(2, -350, bank_id="B")],
            [2],
        ),
        (
            [given(1, -900, "RENT", "R"), given(2, -350, bank_id="A")],
            [given(1, -900, "RENT", "R"), given(2, -350, bank_id="B")],
            [2],
        ),
        # One id for different lines is no key.
        ([given(1, -350, bank_id="A")], [given(1, -400, bank_id="A")], [1]),
        # No ids: where balances last, they tell twins apart.
        (
            [given(1, -900, "RENT", balance=1000), given(2, -350, balance=650)],
            [given(1, -900, "RENT", balance=1000), given(2, -350, balance=300)],
            [2],
        ),
        # Case, blanks and signs of a text don't count; another text does.
        ([given(1, -350, "Coffee  shop")], [given(1, -350, "COFFEE-SHOP")], []),
        ([given(1, -350)], [given(1, -350, "TEA")], [1]),
        ([given(1, -350)], [given(1, -350, on="2026-05-19")], [1]),
    ],
)
def test_each_line_is_taken_in_once(before, file, new):
    found = told_apart(file, taken(*before))
    assert [line.number for line in found.new] == new
    assert found.already == len(file) - len(new)


@pytest.mark.parametrize(
    ("opening", "closing", "lines", "off_by", "off_from"),
    [
        (1000, 650, [given(1, -350)], 0, None),
        (1000, 600, [given(1, -350)], 50, 1),
        (1000, 300, [given(1, -350, balance=650), given(2, -300, balance=300)], 50, 2),
        (1000, 200, [given(1, -350, balance=600), given(2, -400, balance=200)], 50, 1),
        (None, 650, [given(1, -350)], 0, None),
        (1000, None, [given(1, -350)], 0, None),
        (1000, 1000, [], 0, None),
        (1000, 900, [], 100, None),
    ],
)
def test_where_the_sums_do_not_come_out_the_first_line_that_does_not_follow_is_named(
    opening, closing, lines, off_by, off_from
):
    assert sums_of(opening, closing, lines) == (off_by, off_from)
