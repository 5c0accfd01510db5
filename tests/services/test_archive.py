"""A client that leaves: archived, brought back, and after its time removed without a trace but the record."""

from dataclasses import replace
from datetime import date, datetime, timedelta

import pytest

from corkpost.core.refusals import BadEntry, NoReason, NotAllowed, UnknownName
from corkpost.services import archive, books, desk, find, papers, record, staff, store
from corkpost.services.archive import NotYet
from corkpost.services.record import Asked
from corkpost.services.workplace import Workplace
from corkpost.store.clients import Archived
from tests.builders import TODAY
from tests.formats.folders import small_books, write
from tests.practice import accrue, void_twin

LATER = date(2037, 1, 1)


@pytest.fixture
def left(office, tmp_path):
    """SMALL is archived; OTHER, with a paper that SMALL has too, is not."""
    books.take_in(office.workplace, office["OB"], write(small_books("OTHER"), tmp_path / "other"))
    for code, name, content in (
        ("SMALL", "own.pdf", b"of the one"),
        ("SMALL", "both.pdf", b"of both"),
        ("OTHER", "both.pdf", b"of both"),
    ):
        papers.keep_paper(office.workplace, office["OB"], code, "T1", name, content)
    void_twin(office)
    archive.archive(office.workplace, office["OB"], "SMALL", "they went to another practice")
    return office


def at(office, today):
    """The practice on another day."""
    office.workplace.close()
    workplace = Workplace(
        office.workplace.database.folder, today, clock=lambda: datetime(today.year, 1, 1, 9)
    )
    people = {code: staff.person_named(workplace, code) for code in office.people}
    return replace(office, workplace=workplace, people=people)


def test_what_is_archived_is_read_off_the_desk_and_written_to_once_it_is_brought_back(left):
    (row,) = archive.archived(left.workplace, left["OB"])
    assert (row.code, row.made_by, row.kept_until) == ("SMALL", "OB", date(2036, 12, 31))
    assert [row.code for row in desk.desk(left.workplace, left["OB"]).rows] == ["OTHER"]
    assert {hit.client for hit in find.find(left.workplace, left["OB"], "reedw").postings} == {
        "OTHER"
    }
    assert find.find(left.workplace, left["IO"], "reedw", "SMALL").postings
    with pytest.raises(Archived, match="brings it back"):
        accrue(left)
    with pytest.raises(Archived):
        papers.keep_copy(left.workplace, left["IO"], "SMALL", "x.pdf", b"x")
    archive.bring_back(left.workplace, left["OB"], "SMALL", "they came back")
    assert accrue(left).number
    assert archive.archived(left.workplace, left["OB"]) == ()
    assert store.verify(left.workplace).broken == ()


def test_it_takes_a_partner_a_reason_and_a_state_that_changes(left):
    for deed in (archive.archive, archive.bring_back, archive.remove):
        with pytest.raises(NotAllowed):
            deed(left.workplace, left["TV"], "SMALL", "x")
        with pytest.raises(NoReason):
            deed(left.workplace, left["OB"], "SMALL", " ")
        with pytest.raises(UnknownName):
            deed(left.workplace, left["OB"], "NONE", "x")
    with pytest.raises(BadEntry, match="archived already"):
        archive.archive(left.workplace, left["OB"], "SMALL", "x")
    with pytest.raises(BadEntry, match="worked on already"):
        archive.bring_back(left.workplace, left["OB"], "OTHER", "x")
    with pytest.raises(BadEntry, match="1 to 50"):
        archive.set_kept_years(left.workplace, left["OB"], 0)


def test_a_client_is_kept_for_its_time_and_removed_after_it_with_all_that_is_its_own(
    left, monkeypatch
):
    with pytest.raises(NotYet, match="31 December 2036"):
        archive.remove(left.workplace, left["OB"], "SMALL", "its time is over")
    later = at(left, LATER)
    with pytest.raises(NotYet, match="archive it first"):
        archive.remove(later.workplace, later["OB"], "OTHER", "its time is over")
    heads = store.verify(later.workplace).heads
    later.workplace.database.reading.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    assert b"one delivery, one bill" in later.workplace.database.path.read_bytes()
    monkeypatch.setattr(archive, "JUST_KEPT_SECONDS", -1)
    archive.remove(later.workplace, later["OB"], "SMALL", "its time is over")
    raw = later.workplace.database.reading
    for table, columns in (
        (name, [row[1] for row in raw.execute(f"PRAGMA table_info({name})")])
        for (name,) in raw.execute("SELECT name FROM sqlite_master WHERE type = 'table'").fetchall()
    ):
        if "client_id" in columns:
            assert not raw.execute(f"SELECT 1 FROM {table} WHERE client_id = 1").fetchone(), table
    kept = {file.read_bytes() for file in later.workplace.database.files.iterdir()}
    assert kept == {b"of both"}
    proved = store.verify(later.workplace)
    assert (proved.broken, proved.heads) == ((), {"OTHER": heads["OTHER"]})
    assert find.find(later.workplace, later["OB"], "reedw").postings
    day = Asked(LATER, LATER, "its time is over")
    (row,) = record.listed(later.workplace, later["OB"], day)
    assert heads["SMALL"][:16] in row.detail
    raw.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    assert b"one delivery, one bill" not in later.workplace.database.path.read_bytes()
    later.workplace.close()


def test_a_new_client_of_the_same_code_is_another_one(left, tmp_path, monkeypatch):
    later = at(left, LATER)
    later.workplace.ledger(later["OB"], "SMALL")
    archive.remove(later.workplace, later["OB"], "SMALL", "its time is over")
    books.take_in(later.workplace, later["OB"], write(small_books(), tmp_path / "anew"))
    ledger = later.workplace.ledger(later["OB"], "SMALL")
    assert len(ledger.books.changes) == 1
    later.workplace.close()


def test_the_years_that_clients_are_kept_are_the_practice_s(left):
    archive.set_kept_years(left.workplace, left["OB"], 1)
    (row,) = archive.archived(left.workplace, left["OB"])
    assert row.kept_until == date(2027, 12, 31)
    assert row.kept_until - TODAY > timedelta(days=365)
