"""Parties made one, in the store: read anew, chained, sealed, taken back, given out and back."""

from corkpost.core.acts import Merge, TakeBack
from corkpost.core.open_items import open_items
from corkpost.formats.books_folder.reading import read_books
from corkpost.services import acts, books, sign_off, store
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Workplace
from tests.builders import TODAY, day
from tests.practice import PASSWORD, decide_the_rest


def merge(office, keep="S2", other="S1"):
    return acts.post(
        office.workplace, office["IO"], "SMALL", Merge(keep, other), PostRequest("one firm")
    )


def now(office):
    """As they are kept in mind, which a store that is read anew must agree to."""
    kept = office.workplace.ledger(office["IO"], "SMALL").books
    other = Workplace(office.workplace.database.folder, TODAY)
    read = other.ledger(office["IO"], "SMALL").books
    other.close()
    assert kept == read
    return kept


def test_it_is_read_so_from_then_on_the_rows_stay_and_it_can_be_taken_back(office):
    before = now(office)
    owed = sum(amount for _, amount in open_items(before).open_of("S1"))
    assert owed
    merge(office)
    after = now(office)
    assert sum(amount for _, amount in open_items(after).open_of("S2")) == owed + sum(
        amount for _, amount in open_items(before).open_of("S2")
    )
    rows = office.workplace.database.reading.execute("SELECT party FROM lines WHERE party = 'S1'")
    assert rows.fetchall()
    assert store.verify(office.workplace).broken == ()
    acts.post(office.workplace, office["IO"], "SMALL", TakeBack(2), PostRequest("they are two"))
    assert now(office).tables.transactions == before.tables.transactions
    assert set(now(office).tables.parties) == set(before.tables.parties)


def test_a_seal_holds_whatever_name_is_read(office):
    decide_the_rest(office)
    sign_off.sign_off(office.workplace, office["TV"], "SMALL", day("2026-10-31"), PASSWORD)
    merge(office)
    (state,) = sign_off.seal_states(
        office.workplace, office.workplace.ledger(office["IO"], "SMALL")
    )
    assert not state.broken


def test_newer_books_under_either_name_change_nothing_and_lose_nothing(office, tmp_path):
    received = read_books(tmp_path / "small", tmp_path / "kept").tables
    merge(office)
    books.give_out(office.workplace, office["IO"], "SMALL", tmp_path / "received", as_received=True)
    assert read_books(tmp_path / "received", tmp_path / "kept").tables == received
    books.give_out(office.workplace, office["IO"], "SMALL", tmp_path / "ours")
    ours = read_books(tmp_path / "ours", tmp_path / "kept").tables
    assert "Reedwharf" in {p.code: p for p in ours.parties}["S2"].aliases
    for folder in ("ours", "received"):
        taken = books.take_in(office.workplace, office["IO"], tmp_path / folder)
        assert (taken.new, taken.changed, taken.removed) == (0, 0, 0)
    assert "S1" not in now(office).parties
