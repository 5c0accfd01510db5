"""Reopening what was signed: until when, and what stands after that."""

from datetime import date, timedelta

import pytest

from corkpost.core.refusals import BadEntry
from corkpost.core.reopenings import LONGEST, Reopening, open_until, stands

AT, TODAY = date(2026, 10, 31), date(2026, 11, 16)


def reopened(until):
    return Reopening("late bill", "OB", "2026-11-16T09:00:00", until)


@pytest.mark.parametrize(
    ("reopening", "later", "standing"),
    [
        (None, (), True),
        (reopened(TODAY), (), False),
        (reopened(TODAY - timedelta(1)), (), True),
        (reopened(TODAY - timedelta(1)), (date(2026, 9, 30),), True),
        (reopened(TODAY - timedelta(1)), (AT,), False),  # signed anew: that one stands in its place
        (reopened(None), (), False),  # made before reopenings had an end
    ],
)
def test_a_seal_stands_again_once_its_reopening_has_ended(reopening, later, standing):
    assert stands(AT, reopening, later, TODAY) is standing


def test_it_stays_open_for_two_weeks_unless_said_and_never_over_a_year():
    assert open_until(TODAY, None) == date(2026, 11, 30)
    assert open_until(TODAY, TODAY) == TODAY
    for wrong in (TODAY - timedelta(1), TODAY + LONGEST + timedelta(1)):
        with pytest.raises(BadEntry):
            open_until(TODAY, wrong)
