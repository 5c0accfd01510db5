"""Financial years, periods and who may post in them."""

from datetime import date, timedelta
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.kinds import PeriodState
from corkpost.core.periods import (
    Calendar,
    FinancialYear,
    month_end,
    parse_year_end,
    year_end_on,
    year_end_text,
)
from tests.builders import day


@pytest.mark.parametrize(
    ("year_end", "on", "first", "last"),
    [
        ("12-31", "2026-05-05", "2026-01-01", "2026-12-31"),
        ("03-31", "2026-05-05", "2026-04-01", "2027-03-31"),
        ("02-28", "2024-02-29", "2023-03-01", "2024-02-29"),
        ("06-15", "2026-06-16", "2026-06-16", "2027-06-15"),
    ],
)
def test_the_year_follows_from_the_year_end(year_end, on, first, last):
    year = Calendar(parse_year_end(year_end)).year_of(day(on))
    assert (year.first_day, year.last_day) == (day(first), day(last))


def test_short_and_long_years_are_taken_as_they_are_named():
    named = (FinancialYear("2025", day("2025-02-10"), day("2026-03-31")),)
    calendar = Calendar((3, 31), named)
    first = calendar.year_of(day("2025-12-31"))
    assert len(calendar.periods(first)) == 14
    assert calendar.periods(first)[0].first_day == day("2025-02-10")
    assert calendar.next_year(first).label == "2027"
    assert calendar.previous_year(first).last_day == day("2025-02-09")
    assert calendar.year_labelled("2025") == first


YEAR_ENDS = st.dates(date(2023, 1, 1), date(2023, 12, 31)).map(lambda d: f"{d:%m-%d}")


@given(YEAR_ENDS, st.dates(date(2015, 1, 1), date(2040, 1, 1)))
def test_periods_leave_no_gap_and_no_overlap(year_end, on):
    calendar = Calendar(parse_year_end(year_end))
    year = calendar.year_of(on)
    periods = calendar.periods(year)
    assert (periods[0].first_day, periods[-1].last_day) == (year.first_day, year.last_day)
    for earlier, later in pairwise(periods):
        assert later.first_day == earlier.last_day + timedelta(days=1)
    assert len(periods) == 12
    assert calendar.period_of(on).first_day <= on <= calendar.period_of(on).last_day
    assert calendar.previous_year(calendar.next_year(year)) == year
    assert calendar.year_labelled(year.label) == year


def test_filing_and_a_seal_bar_whatever_was_set_and_the_later_one_counts():
    calendar = Calendar(
        (12, 31),
        filed_through=day("2025-12-31"),
        sealed_through=day("2026-03-31"),
        states={day("2026-02-01"): PeriodState.OPEN, day("2026-04-01"): PeriodState.BARRED},
    )
    assert calendar.state_on(day("2026-02-10")) is PeriodState.BARRED
    assert calendar.state_on(day("2026-05-01")) is PeriodState.OPEN
    assert calendar.first_open_day(day("2025-06-01")) == day("2026-05-01")
    assert calendar.first_open_day(day("2026-07-09")) == day("2026-07-09")
    assert "filed through 31 December 2025" in calendar.why_barred(day("2025-06-01"))
    assert "sealed as at 31 March 2026" in calendar.why_barred(day("2026-01-01"))
    assert "the period to 30 April 2026 was barred" in calendar.why_barred(day("2026-04-01"))


@given(YEAR_ENDS)
def test_a_year_end_is_written_as_it_is_read_and_a_month_s_last_day_is_its_last(text):
    assert year_end_text(parse_year_end(text)) == text
    for year in (2023, 2024):
        ends = month_end(year, *parse_year_end(text))
        assert year_end_on(ends) == parse_year_end(text)


@pytest.mark.parametrize("label", ["26", "9999x", "", "two", "0000"])
def test_what_labels_no_year_finds_none(label):
    assert Calendar((12, 31)).year_labelled(label) is None


@pytest.mark.parametrize("text", ["13-01", "12-32", "12", "a-b"])
def test_what_is_no_year_end_is_refused(text):
    with pytest.raises(ValueError):
        parse_year_end(text)
