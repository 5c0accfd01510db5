"""The till's file: read whole, or refused with every fault and its line."""

from datetime import date

import pytest

from corkpost.core.refusals import BadEntry
from corkpost.formats.till import read_till
from corkpost.stand_ins.till import as_file, days_of
from tests.notation import EUR


def test_what_the_till_issues_is_read_back():
    days = days_of("shop", [date(2026, 9, n) for n in range(1, 29)])
    assert list(read_till(as_file(days, EUR), EUR)) == days
    assert days_of("shop", [date(2026, 9, 1)])[0] == days[0]


def test_the_least_that_a_file_may_say():
    (one,) = read_till(b"Date,Cash,Card\n2026-09-04,412.40,\n", EUR)
    assert (one.cash, one.card, one.returns, one.reference) == (41240, 0, 0, None)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "lacks the column date and cash and card"),
        ("date,cash\n", "lacks the column card"),
        (
            "date,cash,card\n4.9.2026,1,1\n2026-09-05,one,1\n",
            "line 2: '4.9.2026' is not a date: write 2026-03-31. line 3: 'one' is not a plain decimal",
        ),
    ],
)
def test_what_is_wrong_is_told_with_its_line(text, says):
    with pytest.raises(BadEntry) as refused:
        read_till(text.encode(), EUR)
    assert says in str(refused.value)
