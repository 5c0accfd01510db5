"""Late entries: what came into a month after it was finished."""

from dataclasses import replace
from datetime import datetime

import pytest

from corkpost.core.books import PostedChange, Signed
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.lateness import late_because
from tests.builders import books_with, day, posted


def why(on, keyed=None, *, arrived=None, kind=Kind.JOURNAL):
    row = posted("Dr fuel 1.00, Cr bank 1.00", on=on, id="T1", keyed=keyed, kind=kind)
    books = books_with(row, filed_through="2025-12-31")
    books = replace(
        books,
        client=replace(books.client, filed_on=datetime(2026, 6, 18, 9)),
        changes=(PostedChange(4, "import", "OB", "newer books"),),
        arrived={"T1": arrived} if arrived else {},
        signed=(Signed(day("2026-08-31"), 3),),
    )
    return late_because(books, row)


@pytest.mark.parametrize(
    ("row", "says"),
    [
        (("2025-11-03", "2026-07-01T09:00"), "keyed on 1 July 2026, after the year was filed"),
        (("2025-11-03", "2026-05-01T09:00"), None),
        (("2026-02-03", "2026-07-01T09:00"), None),
        (("2025-11-03",), None),
    ],
)
def test_what_was_keyed_into_a_filed_year_is_late(row, says):
    assert why(*row) == says


def test_what_came_with_newer_books_after_the_sign_off_is_late():
    assert why("2026-07-14", arrived=4) == "it came after 31 August 2026 was signed off"
    assert why("2026-07-14", arrived=2) is None
    assert why("2026-09-14", arrived=4) is None
    assert why("2026-07-14", arrived=4, kind=Kind.CLOSING) is None
