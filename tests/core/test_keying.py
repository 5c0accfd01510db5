"""What people key: sums in amounts, short forms of days."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.keying import NotADay, keyed_amount, keyed_day, keyed_number
from corkpost.core.money import Currency, NotAnAmount
from corkpost.core.periods import Calendar
from tests.builders import day
from tests.notation import EUR, eur


@pytest.mark.parametrize(
    ("keyed", "amount"),
    [
        ("1250/1.23", "1016.26"),
        ("1639*0.25", "409.75"),
        ("3*45.50+12", "148.50"),
        ("2*(10.10-0.05)", "20.10"),
        ("1,234.50", "1234.50"),
        ("12,345,678.90", "12345678.90"),
        ("12,5", "12.50"),
        ("12,50", "12.50"),
        (" 7 ", "7.00"),
        (".5", "0.50"),
        ("-3+5", "2.00"),
        ("10/3", "3.33"),
        ("0.01*0.5", "0.01"),
        ("--4", "4.00"),
    ],
)
def test_a_sum_is_worked_out_to_the_cent(keyed, amount):
    assert keyed_amount(keyed, EUR) == eur(amount)


@pytest.mark.parametrize(
    "keyed",
    ["", "abc", "1/0", "1+", "(1", "1)", "*2", "1 2", "1.2.3", "1,23,4", "9" * 81, "(" * 60 + "1",
     "9999999999999999", "1e5", "¼"],
)  # fmt: skip
def test_what_is_no_sum_is_refused_in_words(keyed):
    with pytest.raises(NotAnAmount):
        keyed_amount(keyed, EUR)


@pytest.mark.parametrize(
    ("keyed", "code"), [("0.005", "EUR"), ("1.50+0.001", "EUR"), ("10.5", "JPY")]
)
def test_a_fraction_that_the_currency_lacks_is_not_rounded_in_silence(keyed, code):
    with pytest.raises(NotAnAmount, match=f"a fraction that {code} lacks"):
        keyed_amount(keyed, Currency(code))


def test_currencies_without_cents_round_to_the_whole():
    assert keyed_amount("10/4", Currency("JPY")) == 3


@given(st.integers(min_value=-(10**12), max_value=10**12))
def test_a_plain_amount_is_read_as_itself(minor):
    assert keyed_amount(EUR.format(minor), EUR) == minor


CALENDAR = Calendar((3, 31))


@pytest.mark.parametrize(
    ("keyed", "read"),
    [
        ("pe", "2026-02-28"),
        ("ps", "2026-02-01"),
        ("np", "2026-03-01"),
        ("YE", "2026-03-31"),
        ("ys", "2025-04-01"),
        ("ny", "2026-04-01"),
        ("31.12", "2025-12-31"),
        ("1/2", "2026-02-01"),
        ("5 apr", "2025-04-05"),
        ("5 April 2027", "2027-04-05"),
        ("31.12.27", "2027-12-31"),
        ("2026-05-06", "2026-05-06"),
    ],
)
def test_a_day_without_a_year_lies_in_the_year_being_looked_at(keyed, read):
    assert keyed_day(keyed, CALENDAR, near=day("2026-02-11")) == day(read)


@pytest.mark.parametrize(
    "keyed", ["", "31.2", "32.1", "12.13", "soon", "2026-13-01", "5 foo", "0026-01-01", "1.1.9999"]
)
def test_what_is_no_day_is_refused_with_what_would_be(keyed):
    with pytest.raises(NotADay, match=r"write 31\.12"):
        keyed_day(keyed, CALENDAR, near=day("2026-02-11"))


@pytest.mark.parametrize("text", ["1e999999999", "1/3", "", "x", "--1", "1.2.3", "\u0661"])
def test_a_number_is_plain_or_refused_at_once(text):
    with pytest.raises(ValueError, match="is no number"):
        keyed_number(text)


def test_a_number_may_have_a_comma_and_a_sign():
    assert [keyed_number(text) for text in ("12,5", " -3 ")] == [Fraction(25, 2), Fraction(-3)]
