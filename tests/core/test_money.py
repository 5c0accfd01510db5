"""Money: text and minor units, rounding away from zero, shares."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.money import Currency, NotAnAmount, in_shares, rounded, tax_within
from tests.notation import EUR, eur


@pytest.mark.parametrize(
    ("gross", "tax"),
    [("246.00", "46.00"), ("318.57", "59.57"), ("100.00", "18.70"), ("24.60", "4.60"),
     ("1538.05", "287.60"), ("-100.00", "-18.70"), ("0.01", "0.00")],
)  # fmt: skip
def test_tax_within_at_23_percent(gross, tax):
    assert tax_within(eur(gross), Fraction(23)) == eur(tax)


@given(st.integers(-(10**13), 10**13), st.fractions(0, 100, max_denominator=1000))
def test_the_opposite_of_a_sum_has_the_opposite_tax(gross, rate):
    assert tax_within(-gross, rate) == -tax_within(gross, rate)
    assert abs(tax_within(gross, rate)) <= abs(gross)


@pytest.mark.parametrize(
    ("exact", "whole"), [("1/2", 1), ("-1/2", -1), ("3/2", 2), ("4/3", 1), ("-7/5", -1)]
)
def test_half_goes_away_from_zero(exact, whole):
    assert rounded(Fraction(exact)) == whole


@pytest.mark.parametrize("code", ["EUR", "JPY", "KWD"])
@given(amount=st.integers(-(10**12), 10**12))
def test_an_amount_written_and_read_is_the_same(code, amount):
    currency = Currency(code)
    assert currency.parse(currency.format(amount)) == amount


@pytest.mark.parametrize("text", ["1.234", "1,234.00", "", "1e3", " 1", "+1", "1.", "9" * 16, "١"])
def test_only_plain_decimals_are_amounts(text):
    with pytest.raises(NotAnAmount):
        EUR.parse(text)


def test_sums_in_sentences_have_their_thousands_apart():
    assert (EUR.format_amount(-123456789), Currency("JPY").format_amount(1234)) == (
        "1,234,567.89",
        "1,234",
    )


def test_partners_share_60_and_40_and_the_largest_takes_what_is_left_over():
    assert in_shares(3_125_000, {"F": Fraction(60), "T": Fraction(40)}) == {
        "F": 1_875_000,
        "T": 1_250_000,
    }
    assert in_shares(100, {"A": Fraction(1), "B": Fraction(1), "C": Fraction(2)})["C"] == 50
    assert in_shares(-1, {"A": Fraction(1), "B": Fraction(1), "C": Fraction(1)}) == {
        "A": 0,
        "B": 0,
        "C": -1,
    }


@given(
    st.integers(-(10**9), 10**9),
    st.dictionaries(st.text("abcdef", min_size=1), st.fractions(1, 100), min_size=1, max_size=5),
)
def test_shares_add_up_to_the_whole(total, shares):
    assert sum(in_shares(total, shares).values()) == total


def test_nothing_is_shared_by_no_shares():
    with pytest.raises(ValueError):
        in_shares(100, {"A": Fraction(0)})
