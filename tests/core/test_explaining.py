"""Our entries in plain words: what was done, what moves, what it means, what to do otherwise."""

from dataclasses import replace
from datetime import date

import pytest

from corkpost.core import checks, routes
from corkpost.core.books import PostedChange
from corkpost.core.checks import run_checks
from corkpost.core.explaining import explained, news, told_kinds
from corkpost.core.kinds import EntryKind
from corkpost.core.points import CheckRun
from tests.builders import TODAY, bill, books_with, posted


def told(*entries, points=None, route=None, kind="entry", undone=(), books=None):
    """The explanation of change 2, which brought these entries."""
    ours = [entry._replace(change=2) for entry in entries]
    made = PostedChange(2, kind, "IO", "as agreed", route=route, made_on=date(2026, 10, 1))
    undoing = [PostedChange(3, "undo", "IO", "no", undoes=2)] if undone else []
    stood = books or books_with()
    there = books_with(*stood.tables.transactions, *ours)
    return explained(replace(there, changes=(made, *undoing)), points or {})


def test_a_bill_that_was_in_twice_is_explained_with_what_to_do_otherwise():
    """Worked example 1, as its bookkeeper reads it."""
    first = bill("RW-0117", on="2026-04-03", id="A", fuel="200.00", tax="46.00")
    twin = bill("RW 117", on="2026-04-05", id="B", fuel="200.00", tax="46.00")
    books = books_with(first, twin)
    (point,) = (p for p in run_checks(CheckRun(books, TODAY)) if p.check == "duplicate-document")
    void = posted(
        "Dr payables (Reedwharf) 246.00, Cr fuel 200.00, Cr tax 46.00",
        "2026-04-05",
        corrects="B",
        entry_kind=EntryKind.CORRECTING,
    )
    (one,) = told(void, points={2: [point]}, route="void", kind="correction", books=books)
    assert one.words.heading == "An invoice, bill or credit recorded twice"
    assert one.words.did == "What was entered twice is taken out once."
    assert one.about[0] == "purchase bill RW 117 of 5 April 2026, Reedwharf, 246.00"
    assert one.moves == (
        "what is owed to Reedwharf down by 246.00",
        "fuel down by 200.00",
        "the tax to be paid up by 46.00",
    )
    assert "do not pay it" in one.words.means
    assert "look for its number" in one.words.avoid


@pytest.mark.parametrize(
    ("text", "moves"),
    [
        ("Dr drawings 10.00, Cr fuel 10.00", ("drawings up by 10.00", "fuel down by 10.00")),
        ("Dr bank 9.00, Cr sales 9.00", ("bank up by 9.00", "sales up by 9.00")),
        (
            "Dr receivables (Harbour School) 5.00, Cr loan 5.00",
            ("what Harbour School owes up by 5.00", "loan up by 5.00"),
        ),
        ("Dr capital 3.00, Dr office 2.00, Cr office 2.00, Cr bank 3.00",
         ("capital down by 3.00", "bank down by 3.00")),
    ],
)  # fmt: skip
def test_what_moves_is_said_without_debit_and_credit(text, moves):
    (one,) = told(posted(text, "2026-10-01", entry_kind=EntryKind.RECLASSIFYING))
    assert one.moves == moves
    assert one.words.heading == "Shown elsewhere in the statements"


def test_an_entry_that_takes_itself_back_says_so_and_its_mirror_moves_nothing_more():
    entry = posted(
        "Dr electricity 410.00, Cr accruals 410.00", "2026-06-30", entry_kind=EntryKind.ADJUSTING
    )
    mirror = posted(
        "Dr accruals 410.00, Cr electricity 410.00",
        "2026-07-01",
        entry_kind=EntryKind.REVERSING,
        reverses=entry.id,
    )
    (one,) = told(entry, mirror)
    assert one.moves == ("electricity up by 410.00", "accruals up by 410.00")
    assert one.words.means.startswith("It takes itself back on 1 July 2026")
    assert (one.day, one.taken_back) == (entry.posting_date, False)


def test_taken_back_it_is_marked_and_without_entries_it_still_says_something():
    entry = posted("Dr fuel 1.00, Cr bank 1.00", "2026-10-01", entry_kind=EntryKind.CORRECTING)
    (one,) = told(entry, undone=(2,))
    assert one.taken_back
    (bare,) = told(route="set-account")
    assert (bare.words.heading, bare.day) == ("Put right without an entry", date(2026, 10, 1))
    assert told(route="new-party") == ()
    assert told(kind="agreement") == ()


def test_what_is_told_once_is_news_no_more_until_it_is_taken_back():
    (one,) = told(posted("Dr fuel 1.00, Cr bank 1.00", "2026-10-01"))
    gone = one._replace(taken_back=True)
    assert news([one], frozenset()) == ((one,), ())
    assert news([one], frozenset({2})) == ((), ())
    assert news([one], frozenset({2}), told_too=True) == ((one,), ())
    assert news([gone], frozenset({2})) == ((), (gone,))
    assert news([gone], frozenset({2, -2})) == ((), ())
    # What was taken back before anybody heard of it is nobody's news.
    assert news([gone], frozenset(), told_too=True) == ((), ())


def test_faults_come_by_kind_with_how_often_the_year_before_had_them():
    (one,) = told(
        posted("Dr fuel 1.00, Cr bank 1.00", "2026-10-01", entry_kind=EntryKind.CORRECTING)
    )
    kind = one._replace(words=one.words._replace(heading="Paid past", avoid="Look."))
    before = kind._replace(day=date(2025, 5, 1))
    gone = before._replace(taken_back=True)
    found = told_kinds(books_with(), [one, kind, kind], [one, kind, kind, before, gone])
    assert [(s.words.heading, len(s.items), s.year_before) for s in found] == [
        ("Paid past", 2, 1),
        ("Put right", 1, 0),
    ]


def test_every_check_and_every_route_that_posts_has_words_for_the_bookkeeper():
    mute = {name for name, registered in checks.registry().items() if not registered.check.avoid}
    assert mute == {"movement"}
    for name, registered in routes.registry().items():
        assert bool(registered.route.did and registered.route.means) is (
            registered.plan is not None
        ), name
