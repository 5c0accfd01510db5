"""A party's threads: what is open and what hangs on it, as at any day."""

from hypothesis import given

from corkpost.core.kinds import AccountRole
from corkpost.core.open_items import aged
from corkpost.core.threads import threads_of
from tests.builders import allocated, books_with, day, invoice, receipt
from tests.core.strategies import any_books
from tests.notation import eur

ONE = invoice("SK-1", on="2026-05-01", id="I1", sales="100.00")
TWO = invoice("SK-2", on="2026-05-04", id="I2", sales="60.00")
PAID = receipt("2026-05-10", "130.00", id="R1")
BOOKS = books_with(
    ONE, TWO, PAID, allocations=[allocated(ONE, PAID, "100.00"), allocated(TWO, PAID, "30.00")]
)


def woven(on, everything=False):
    found = threads_of(BOOKS, AccountRole.RECEIVABLES, "C1", day(on), everything=everything)
    ends = [(end.item.transaction.id, end.left) for end in (*found.debits, *found.credits)]
    return ends, [(row.debit_transaction, row.amount) for row in found.allocations], found.settled


def test_what_is_open_shows_with_all_that_is_tied_to_it_and_the_rest_is_counted():
    ends, threads, settled = woven("2026-12-31")
    assert ends == [("I2", eur("30.00")), ("R1", 0)]
    assert (threads, settled) == ([("I2", eur("30.00"))], 1)
    assert [name for name, _ in woven("2026-12-31", everything=True)[0]] == ["I1", "I2", "R1"]


def test_an_earlier_day_shows_what_stood_then():
    ends, threads, _ = woven("2026-05-09")
    assert (ends, threads) == ([("I1", eur("100.00")), ("I2", eur("60.00"))], [])


@given(any_books())
def test_what_is_left_of_the_ends_is_the_party_s_share_of_the_aged_list(books):
    at = day("2026-12-31")
    for row in aged(books, AccountRole.PAYABLES, at):
        found = threads_of(books, AccountRole.PAYABLES, row.party, at)
        assert sum(end.left for end in (*found.debits, *found.credits)) == row.total
