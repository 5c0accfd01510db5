"""A control account against what parties hold: it fails where they differ, and says by what."""

import pytest

from corkpost.core.control_proof import control_proof
from tests.builders import (
    CODES,
    allocated,
    bill,
    books_with,
    day,
    invoice,
    payment,
    posted,
    receipt,
)
from tests.notation import eur

RECEIVABLES = [CODES["receivables"]]
END = day("2026-10-31")


def proof(books, at=END):
    found = control_proof(books, RECEIVABLES, at)
    return found.difference, [(cause.says, cause.amount) for cause in found.causes]


def test_what_parties_hold_proves_the_account():
    owed = invoice("SK-1", on="2026-04-03", id="I1", sales="100.00")
    paid = receipt("2026-05-03", "40.00", id="R1")
    books = books_with(owed, paid, allocations=[allocated(owed, paid, "40.00")])
    found = control_proof(books, RECEIVABLES, END)
    assert (found.control, found.held, found.causes) == (eur("60.00"), eur("60.00"), ())


def test_a_line_of_nobody_counts_for_nobody_and_is_named():
    bare = posted("Dr receivables 50.00, Cr sales 50.00", on="2026-05-01", id="J1")
    owed = invoice("SK-1", on="2026-04-03", id="I1", sales="100.00")
    books = books_with(owed, bare)
    assert proof(books) == (eur("50.00"), [("lines without a party (1 entry)", eur("50.00"))])
    assert control_proof(books, RECEIVABLES, END).causes[0].transactions == ("J1",)
    assert proof(books, day("2026-04-30")) == (0, [])


@pytest.mark.parametrize(
    ("kept_on", "says"), [("2026-05-03", []), ("2026-06-09", ["dated otherwise"])]
)
def test_an_allocation_that_joins_two_control_accounts_takes_from_one_list_alone(kept_on, says):
    owed = invoice("SK-1", on="2026-04-03", id="I1", sales="100.00")
    ours = bill("A-1", on="2026-05-03", id="B1", office="30.00")
    across = allocated(owed, ours, "30.00", on=kept_on)
    difference, causes = proof(
        books_with(owed, ours, payment("2026-05-04", "1.00"), allocations=[across])
    )
    assert difference == eur("30.00")
    assert causes[0] == ("allocations that join two control accounts (1)", eur("30.00"))
    assert [name for name, _ in causes[1:]] == [
        f"allocations {x} than their items (1)" for x in says
    ]


def test_what_was_keyed_long_after_the_day_is_named_where_the_two_differ():
    bare = posted(
        "Dr receivables 50.00, Cr sales 50.00", on="2026-05-01", id="J1", keyed="2026-12-20T09:00"
    )
    _, causes = proof(books_with(bare))
    assert causes[-1] == ("keyed more than a month after the day (1)", None)
