"""Open items and aged lists: dated allocations, run again they say the same."""

import pytest

from corkpost.core.kinds import AccountRole
from corkpost.core.open_items import BUCKETS, aged, bucket_of, open_items
from corkpost.core.trial_balance import balances
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


def test_an_allocation_counts_from_its_own_date_and_not_before_its_items():
    sold = invoice("SK-1", on="2026-05-02", sales="100.00")
    money = receipt("2026-05-20", "100.00")
    books = books_with(sold, money, allocations=[allocated(sold, money, "100.00", on="2026-06-03")])
    items = open_items(books)
    assert [left for _, left in items.open_at(day("2026-05-31"))] == [eur("100.00"), -eur("100.00")]
    assert list(items.open_at(day("2026-06-03"))) == []


def test_undoing_one_is_another_row_with_its_own_date():
    sold = invoice("SK-1", on="2026-05-02", sales="100.00")
    money = receipt("2026-05-20", "100.00")
    row = allocated(sold, money, "100.00")
    back = row._replace(id="undo", date=day("2026-07-01"), undoes=row.id)
    items = open_items(books_with(sold, money, allocations=[row, back]))
    assert list(items.open_at(day("2026-06-30"))) == []
    assert len(list(items.open_at(day("2026-07-01")))) == 2
    assert items.standing_on(sold.id) == ()


def test_the_aged_list_comes_to_the_control_account_party_by_party():
    books = books_with(
        bill("RW 1", on="2026-01-10", fuel="400.00"),
        bill("KS 1", on="2026-04-10", party="Kittiwake Signs", office="100.00"),
        payment("2026-02-01", "150.00"),
        posted("Dr office 30.00, Cr payables 30.00", "2026-04-01"),
    )
    at = day("2026-04-30")
    parties = aged(books, AccountRole.PAYABLES, at)
    assert {party.party: party.total for party in parties} == {
        "S1": -eur("250.00"),
        "S2": -eur("100.00"),
        None: -eur("30.00"),
    }
    total = sum(party.total for party in parties)
    assert total == balances(books.tables.transactions, books, at)[CODES["payables"]]


@pytest.mark.parametrize(
    ("days", "bucket"),
    [(-5, "current"), (0, "current"), (1, "1-30"), (30, "1-30"), (31, "31-60"), (60, "31-60"),
     (61, "61-90"), (90, "61-90"), (91, "over 90"), (4000, "over 90")],
)  # fmt: skip
def test_ages_are_days_past_due(days, bucket):
    assert bucket_of(days) == bucket
    assert bucket in BUCKETS


def test_the_due_date_counts_and_without_one_the_paper_s():
    due = invoice("SK-1", on="2026-01-10", sales="1.00")._replace(due_date=day("2026-02-09"))
    plain = invoice("SK-2", on="2026-01-10", party="Averin Scouts", sales="1.00")
    first, second = aged(books_with(due, plain), AccountRole.RECEIVABLES, day("2026-02-10"))
    assert (first.items[0].days_past_due, second.items[0].days_past_due) == (1, 31)


def test_an_allocation_between_parties_counts_on_the_items_that_it_names():
    sold = invoice("SK-1", on="2026-05-02", party="Averin Scouts", sales="100.00")
    money = receipt("2026-05-20", "100.00", party="Harbour School")
    books = books_with(sold, money, allocations=[allocated(sold, money, "100.00")])
    assert list(open_items(books).open_at(day("2026-12-31"))) == []


def test_what_names_no_item_is_left_out():
    sold = invoice("SK-1", on="2026-05-02", sales="100.00")
    cash = posted("Dr bank 100.00, Cr sales 100.00", "2026-05-20")
    books = books_with(sold, cash, allocations=[allocated(sold, cash, "100.00")])
    assert open_items(books).settlements == ()
