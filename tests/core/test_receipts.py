"""Receipts: what money that came in settled, and what none is given for."""

import pytest

from corkpost.core.open_items import open_items
from corkpost.core.receipts import Method, NoReceipt, brings_money_in, receipt_of
from tests.builders import (
    allocated,
    bill,
    books_with,
    direct_receipt,
    invoice,
    payment,
    posted,
    receipt,
)
from tests.notation import eur


def given(books, posted, method=None):
    return receipt_of(books, open_items(books), posted, method)


def parts(found):
    return [(part.reference, part.amount) for part in found.settles]


def test_a_customer_s_receipt_tells_what_it_settles_and_what_stays_on_account():
    one = invoice("SK-1", on="2026-05-01", sales="100.00")
    two = invoice("SK-2", on="2026-05-02", sales="50.00")
    paid = receipt("2026-05-18", "180.00")
    books = books_with(
        one, two, paid, allocations=[allocated(one, paid, "100.00"), allocated(two, paid, "30.00")]
    )
    found = given(books, paid)
    assert (found.party, found.amount, found.on_account) == (
        "Harbour School", eur("180.00"), eur("50.00"),
    )  # fmt: skip
    assert parts(found) == [("SK-1", eur("100.00")), ("SK-2", eur("30.00"))]
    assert (found.method, given(books, paid, Method.CARD).method) == ("bank transfer", "card")


def test_money_back_from_a_supplier_is_a_receipt_too():
    """Worked example 12: 100.00 comes back of two payments that were too much."""
    first, second = payment("2026-03-01", "75.00"), payment("2026-03-09", "50.00")
    back = posted("Dr bank 100.00, Cr payables (Reedwharf) 100.00", "2026-04-02", party="Reedwharf")
    books = books_with(
        first,
        second,
        back,
        allocations=[allocated(first, back, "75.00"), allocated(second, back, "25.00")],
    )
    found = given(books, back)
    assert (found.party, found.amount, found.on_account) == ("Reedwharf", eur("100.00"), 0)
    assert [amount for _, amount in parts(found)] == [eur("75.00"), eur("25.00")]


def test_a_sale_paid_at_once_settles_itself():
    sale = direct_receipt("2026-05-18", party="Harbour School", sales="100.00", tax="23.00")
    assert parts(given(books_with(sale), sale)) == [(sale.id, eur("123.00"))]


@pytest.mark.parametrize(
    ("text", "words", "method"),
    [
        ("Dr in hand 5.00, Cr receivables (Harbour School) 5.00", "cheque 104", Method.CHEQUE),
        ("Dr in hand 5.00, Cr receivables (Harbour School) 5.00", "in cash", Method.CASH),
        ("Dr card takings 5.00, Cr receivables (Harbour School) 5.00", "", Method.CARD),
        ("Dr bank 5.00, Cr receivables (Harbour School) 5.00", "CHQ 9", Method.CHEQUE),
    ],
)
def test_how_it_came_is_seen_by_account_and_words(text, words, method):
    paid = posted(text, "2026-05-18", memo=words)
    assert given(books_with(paid), paid).method is method


def test_none_is_given_for_what_brings_no_money_or_was_taken_back():
    owed = bill("RW-1", on="2026-04-03", fuel="10.00")
    out = payment("2026-05-01", "10.00")
    nobodys = direct_receipt("2026-05-18", sales="1.00")
    two = posted(
        "Dr bank 3.00, Cr receivables (Harbour School) 1.00, Cr receivables (Averin Scouts) 2.00",
        "2026-05-18",
    )
    paid = receipt("2026-05-18", "1.00")
    mirror = posted(
        "Dr receivables (Harbour School) 1.00, Cr bank 1.00", "2026-05-18", reverses=paid.id
    )._replace(change=4)
    books = books_with(owed, out, nobodys, two, paid, mirror)
    assert not any(brings_money_in(books, paper) for paper in (owed, out, nobodys, two, paid))
    with pytest.raises(NoReceipt, match="brings no money in"):
        given(books, out)
