"""Amendments in the store: laid over what was posted, told with who and why, given out and back."""

from dataclasses import replace

import pytest

from corkpost.core.acts import TakeBack
from corkpost.core.by_hand import Picked
from corkpost.core.refusals import ChangedMeanwhile
from corkpost.formats.books_folder.reading import read_books
from corkpost.services import acts, books, entries, sign_off, store, transactions
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Workplace
from tests.builders import TODAY, day
from tests.formats.folders import small_books
from tests.practice import PASSWORD, decide_the_rest, take_in


def amend(office, name="T3", who="IO", shown=None, **words):
    chosen = Picked("amend-reference", name, (), words)
    post_request = PostRequest("keyed wrongly", shown=shown)
    return acts.post(office.workplace, office[who], "SMALL", chosen, post_request)


def words_of(office, name="T3"):
    """As they are kept in mind, which a store that is read anew must agree to."""
    kept = office.workplace.ledger(office["IO"], "SMALL").books
    other = Workplace(office.workplace.database.folder, TODAY)
    read = other.ledger(office["IO"], "SMALL").books
    other.close()
    assert kept == read
    return kept.transactions[name].reference


def test_the_posted_row_stays_and_the_trail_says_who_when_and_why(office):
    posted = amend(office, reference="RW-0118")
    assert (posted.number, posted.entries, posted.allocations) == (2, (), ())
    assert words_of(office) == "RW-0118"
    rows = office.workplace.database.reading.execute(
        "SELECT reference FROM transactions WHERE id = 'T3'"
    )
    assert rows.fetchall() == [("RW 117",)]
    _, found = transactions.detail(office.workplace, office["IO"], "SMALL", "T3")
    (trail,) = found.amendments
    assert (trail.amendment.before, trail.change.made_by, trail.amendment.reason) == (
        "RW 117", "IO", "keyed wrongly",
    )  # fmt: skip
    assert trail.can_take_back
    assert store.verify(office.workplace).broken == ()
    acts.post(office.workplace, office["IO"], "SMALL", TakeBack(2), PostRequest("it was right"))
    assert words_of(office) == "RW 117"
    _, found = transactions.detail(office.workplace, office["IO"], "SMALL", "T3")
    assert [(row.undone, row.can_take_back) for row in found.amendments] == [
        (True, False),
        (False, False),
    ]


def test_what_came_with_the_books_is_told_and_is_not_ours_to_take_back(office):
    _, found = transactions.detail(office.workplace, office["IO"], "SMALL", "T1")
    assert [(row.change, row.can_take_back) for row in found.amendments] == [(None, False)]


def test_words_may_be_amended_under_a_seal_and_it_holds(office):
    decide_the_rest(office)
    sign_off.sign_off(office.workplace, office["TV"], "SMALL", day("2026-10-31"), PASSWORD)
    amend(office, reference="RW-0118")
    (state,) = sign_off.seal_states(
        office.workplace, office.workplace.ledger(office["IO"], "SMALL")
    )
    assert not state.broken


def test_it_goes_out_and_comes_back_and_the_client_s_own_words_come_back_too(office, tmp_path):
    before = read_books(tmp_path / "small", tmp_path / "kept").tables
    amend(office, reference="RW-0118")
    books.give_out(office.workplace, office["IO"], "SMALL", tmp_path / "received", as_received=True)
    assert read_books(tmp_path / "received", tmp_path / "kept").tables == before
    books.give_out(office.workplace, office["IO"], "SMALL", tmp_path / "ours")
    for folder in ("ours", "received"):
        taken = books.take_in(office.workplace, office["IO"], tmp_path / folder)
        assert (taken.new, taken.changed, taken.removed) == (0, 0, 0)
    assert words_of(office) == "RW-0118"
    assert len(entries.change_log(office.workplace, office["IO"], "SMALL")) == 2


def test_newer_words_of_the_client_count_and_other_news_keep_the_amendment(office, tmp_path):
    amend(office, reference="RW-0118")

    def newer(**facts):
        made = small_books()
        rows = [
            row._replace(**facts) if row.id == "T3" else row for row in made.tables.transactions
        ]
        tables = replace(made.tables, transactions=tuple(rows))
        return take_in(
            office.workplace, office["IO"], replace(made, tables=tables), tmp_path / str(facts)
        )

    assert newer(memo="diesel").changed == 1
    assert words_of(office) == "RW-0118"
    assert newer(reference="RW 0200").changed == 1
    assert words_of(office) == "RW 0200"


def test_it_is_refused_when_the_words_moved_since_it_was_shown(office):
    chosen = Picked("amend-reference", "T3", (), {"reference": "RW-0118"})
    shown = acts.preview(office.workplace, office["IO"], "SMALL", chosen).plan.digest
    amend(office, reference="RW-0119")
    with pytest.raises(ChangedMeanwhile):
        amend(office, shown=shown, reference="RW-0118")
