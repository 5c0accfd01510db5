"""Accounts closed to entries, to journals, or to lines without a dimension: by whatever way."""

import pytest

from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Dimension
from corkpost.core.chart.marking import MarkAccount, marks_of, plan_mark_account
from corkpost.core.entries import EntryLine, EntryRequest, plan_entry
from corkpost.core.kinds import EntryKind
from corkpost.core.recipes import UseRecipe, plan_recipe
from corkpost.core.recoding import Recode, plan_recode
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.undo import plan_undo
from tests.builders import CODES, after, books_with, day, posted
from tests.notation import eur

SITES = (Dimension("site", "QUAY", "Quay"),)


def marked(account, *marks):
    books = books_with(
        posted("Dr fuel 5.00, Cr bank 5.00", "2026-05-01", id="T1"), dimensions=SITES
    )
    return after(books, ready(plan_mark_account(books, MarkAccount(CODES[account], marks)), books))


def entry(books, site=None):
    lines = (
        EntryLine(CODES["fuel"], eur("1.00"), dimensions=site),
        EntryLine(CODES["accruals"], -eur("1.00")),
    )
    request = EntryRequest(EntryKind.ADJUSTING, day("2026-06-30"), "why", lines)
    return ready(plan_entry(books, request), books)


@pytest.mark.parametrize(
    ("mark", "says"),
    [
        ("inactive", "is not used any more"),
        ("no-journals", "closed to journals"),
        ("needs:site", "needs a site on each line"),
    ],
)
def test_a_mark_refuses_entries_and_recipes_and_is_told_of_corrections(mark, says):
    books = marked("fuel", mark)
    with pytest.raises(BadEntry, match=says):
        entry(books)
    told = {"account": CODES["fuel"], "amount": "4", "date": "2026-06-30"}
    with pytest.raises(BadEntry, match=says):
        ready(plan_recipe(books, UseRecipe("accrual", told)), books)
    # What stands there already may be moved away.
    moved = plan_recode(books, Recode(("T1",), CODES["fuel"], to_account=CODES["office"]))
    assert ready(moved, books).entries


def test_a_line_that_has_its_dimension_stands_and_the_mark_is_taken_back_by_undo():
    books = marked("fuel", "needs:site")
    assert entry(books, "site=QUAY").entries
    back = after(books, ready(plan_undo(books, books.changes[-1].number), books))
    assert (marks_of(back), len(entry(back).entries)) == ({}, 1)
    with pytest.raises(NothingToDo):
        plan_mark_account(books, MarkAccount(CODES["fuel"], ("needs:site",)))
    with pytest.raises(BadEntry, match="is no mark"):
        plan_mark_account(books, MarkAccount(CODES["fuel"], ("needs:moon",)))
