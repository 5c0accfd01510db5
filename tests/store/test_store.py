"""The store refuses what must never be, whoever asks."""

import hashlib
import json
import re
import sqlite3
import tarfile
from importlib import resources
from io import BytesIO
from pathlib import Path
from tempfile import TemporaryDirectory

import pytest

from corkpost.services import papers, store, workplace
from corkpost.store.database import (
    STORE,
    Database,
    Unreadable,
    apply_migrations,
    connect,
    statements_of,
)
from tests.builders import TODAY
from tests.practice import Office, accrue, void_twin


@pytest.fixture
def raw(office: Office) -> sqlite3.Connection:
    """A connection beside the program's, after a correction and an entry."""
    void_twin(office)
    accrue(office)
    return office.workplace.database.reading


POSTED = ("transactions", "lines", "allocations", "changes", "client_facts", "accounts", "parties",
          "taxes", "kept_rows")  # fmt: skip


@pytest.mark.parametrize("table", POSTED)
def test_what_is_posted_is_never_updated_or_deleted(raw, table):
    column = raw.execute(f"SELECT name FROM pragma_table_info('{table}') LIMIT 1").fetchone()[0]
    assert raw.execute(f"SELECT COUNT(*) FROM {table}").fetchone()[0] > 0
    with pytest.raises(sqlite3.IntegrityError, match="never"):
        raw.execute(f"UPDATE {table} SET {column} = {column}")
    with pytest.raises(sqlite3.IntegrityError, match="never"):
        raw.execute(f"DELETE FROM {table}")


def test_decisions_seals_and_states_are_on_the_record_for_good(office, raw):
    from corkpost.core.kinds import PeriodState
    from corkpost.services import periods, sign_off
    from tests.builders import day
    from tests.practice import PASSWORD

    at = day("2026-10-31")
    periods.set_period(office.workplace, office["OB"], "SMALL", at, PeriodState.HELD, "review")
    sign_off.sign_off(
        office.workplace,
        office["OB"],
        "SMALL",
        at,
        PASSWORD,
        override_reason="the rest is trifling",
    )
    sign_off.reopen(office.workplace, office["OB"], "SMALL", at, "a bill came late")
    for table in ("decisions", "period_states", "seals", "seal_reopenings"):
        with pytest.raises(sqlite3.IntegrityError):
            raw.execute(
                f"UPDATE {table} SET made_at = ''"
                if table != "seals"
                else "UPDATE seals SET digest = ''"
            )
        with pytest.raises(sqlite3.IntegrityError):
            raw.execute(f"DELETE FROM {table}")


def insert(connection, *lines, header=True):
    """A transaction straight into the tables, the way a program with a fault would."""
    connection.execute("BEGIN")
    seq = connection.execute("SELECT MAX(seq) + 1 FROM transactions").fetchone()[0]
    for place, amount in enumerate(lines):
        connection.execute(
            "INSERT INTO lines VALUES (1, ?, ?, 1, '5200', ?, NULL, NULL, NULL, NULL, NULL, NULL, NULL, '')",
            (seq, place, amount),
        )
    if header:
        connection.execute(
            "INSERT INTO transactions (client_id, seq, change_number, id, kind, posting_date, other)"
            " VALUES (1, ?, 1, 'X', 'journal', '2026-01-01', '')",
            (seq,),
        )
    connection.execute("COMMIT")


@pytest.mark.parametrize(
    ("lines", "header", "refusal"),
    [
        ((100, -99), True, "does not balance"),
        ((100, 0), True, "CHECK"),
        ((100, -100), False, "FOREIGN KEY"),
    ],
)
def test_a_transaction_that_does_not_balance_can_t_be_committed(raw, lines, header, refusal):
    with pytest.raises(sqlite3.IntegrityError, match=refusal):
        insert(raw, *lines, header=header)
    raw.execute("ROLLBACK")


def test_a_posted_transaction_takes_no_more_lines(raw):
    insert(raw, 100, -100)
    with pytest.raises(sqlite3.IntegrityError, match="takes no more lines"):
        raw.execute(
            "INSERT INTO lines SELECT client_id, seq, 9, 9, '5200', 1, NULL, NULL, NULL, NULL, NULL, NULL, NULL, ''"
            " FROM transactions LIMIT 1"
        )


def test_a_change_is_written_whole_or_not_at_all(office, monkeypatch):
    from corkpost.services import posting

    before = dump(office.workplace.database.reading)

    def fails(*_args, **_kwargs):
        raise RuntimeError("the machine went away")

    monkeypatch.setattr(posting, "record_decision", fails)
    with pytest.raises(RuntimeError):
        void_twin(office)
    assert dump(office.workplace.database.reading) == before
    monkeypatch.undo()
    assert void_twin(office).number == 2


def dump(connection) -> list[str]:
    return [line for line in connection.iterdump() if "summaries" not in line]


def test_a_newer_store_and_another_file_are_refused_in_words(tmp_path):
    Database(tmp_path).close()
    connection = connect(tmp_path / "practice.sqlite3")
    connection.execute("PRAGMA user_version = 999")
    connection.close()
    with pytest.raises(Unreadable, match="newer Cork Post"):
        Database(tmp_path)
    other = tmp_path / "other"
    other.mkdir()
    (other / "practice.sqlite3").write_bytes(b"a letter to the tax office" * 100)
    with pytest.raises(Unreadable, match="no practice"):
        Database(other)


def test_a_migration_that_fails_leaves_the_schema_as_it_was(tmp_path, monkeypatch):
    connection = connect(tmp_path / "half.sqlite3")

    def broken(script):
        yield from list(statements_of(script))[:2]
        yield "CREATE NONSENSE"

    monkeypatch.setattr("corkpost.store.database.statements_of", broken)
    with pytest.raises(sqlite3.OperationalError):
        apply_migrations(connection)
    assert connection.execute("SELECT COUNT(*) FROM sqlite_master").fetchone() == (0,)
    assert connection.execute("PRAGMA user_version").fetchone() == (0,)


def test_every_table_is_strict_and_the_file_keeps_a_write_ahead_log(raw):
    tables = raw.execute(
        "SELECT name, strict FROM pragma_table_list WHERE schema = 'main'"
    ).fetchall()
    loose = {name for name, strict in tables if not strict and not name.startswith("sqlite_")}
    # The index of words is a table of SQLite's own kind, with its parts.
    assert {name for name in loose if not name.startswith("find_words")} == {
        "current_transactions",
        "current_allocations",
    }
    assert raw.execute("PRAGMA journal_mode").fetchone() == ("wal",)
    assert raw.execute("PRAGMA foreign_keys").fetchone() == (1,)
    assert raw.execute("PRAGMA synchronous").fetchone() == (2,)


def test_migrations_are_numbered_without_gaps():
    folder = resources.files("corkpost.store") / "migrations"
    names = sorted(file.name for file in folder.iterdir() if file.name.endswith(".sql"))
    assert [int(name[:4]) for name in names] == list(range(1, len(names) + 1))
    assert all(re.fullmatch(r"\d{4}_[a-z_]+\.sql", name) for name in names)


def altered(office, statement):
    """What somebody with the file and no scruples could do."""
    connection = connect(office.workplace.database.path)
    for (name,) in connection.execute(
        "SELECT name FROM sqlite_master WHERE type = 'trigger'"
    ).fetchall():
        connection.execute(f"DROP TRIGGER {name}")
    connection.execute("PRAGMA foreign_keys = OFF")
    connection.execute(statement)
    connection.close()
    return {broken.what for broken in store.verify(office.workplace).broken}


TAMPERED = [
    ("UPDATE lines SET amount = amount * 2", "rows of change 1 were altered"),
    ("UPDATE transactions SET posting_date = '2026-01-09' WHERE id = 'T3'", "rows of change 1 were altered"),
    ("UPDATE transactions SET reason = 'another' WHERE change_number = 2", "rows of change 2 were altered"),
    ("UPDATE changes SET reason = 'another' WHERE number = 2", "change 2 does not fit the chain"),
    ("UPDATE changes SET made_by = 'OB' WHERE number = 3", "change 3 does not fit the chain"),
    ("DELETE FROM changes WHERE number = 2", "change 2 is missing"),
    ("DELETE FROM allocations WHERE change_number = 2", "rows of change 2 were altered"),
    ("UPDATE lines SET amount = 7 WHERE position = 0 AND transaction_seq = 1", "T1 does not balance"),
    ("UPDATE allocations SET amount = 99999 WHERE id = 'L1'", "more of T1 is allocated than it has"),
    ("UPDATE accounts SET type = 'asset' WHERE code = '5200'", "rows of change 1 were altered"),
    ("DELETE FROM transactions WHERE id = 'T8'", "points at a row of transactions"),
]  # fmt: skip


@pytest.mark.parametrize(("statement", "shows"), TAMPERED)
def test_verify_shows_what_was_altered(office, raw, statement, shows):
    assert store.verify(office.workplace).broken == ()
    found = altered(office, statement)
    assert any(shows in what for what in found), found


def test_verify_counts_what_it_proved_and_tells_the_end_of_each_chain(office, raw):
    found = store.verify(office.workplace)
    assert (found.clients, found.changes, found.transactions) == (1, 3, 11)
    assert set(found.heads) == {"SMALL"}
    accrue(office, amount="5.00")
    assert store.verify(office.workplace).heads != found.heads


def test_a_kept_file_that_is_missing_or_altered_shows(office):

    papers.keep_paper(office.workplace, office["IO"], "SMALL", "T1", "bill.pdf", b"a paper")
    (kept,) = office.workplace.database.files.iterdir()
    assert store.verify(office.workplace).broken == ()
    kept.write_bytes(b"another")
    assert "was altered" in store.verify(office.workplace).broken[0].what
    kept.unlink()
    assert "is missing" in store.verify(office.workplace).broken[0].what
    (kept.parent / "notes.txt").write_text("not ours")
    assert "stray file" in store.verify(office.workplace).broken[1].what


def test_a_copy_made_at_work_comes_back_whole(office, raw, tmp_path):

    papers.keep_paper(office.workplace, office["IO"], "SMALL", "T1", "bill.pdf", b"a paper")
    writer = connect(office.workplace.database.path)
    writer.execute("BEGIN IMMEDIATE")
    writer.execute("UPDATE clients SET revision = 999")
    # Somebody is writing: the copy neither waits for them nor takes half of it in.
    store.backup(office.workplace, tmp_path / "copy.tar.gz")
    writer.close()
    heads = store.verify(office.workplace).heads
    store.restore(tmp_path / "copy.tar.gz", tmp_path / "back")
    back = workplace.Workplace(tmp_path / "back", TODAY)
    assert store.verify(back).heads == heads
    assert store.verify(back).broken == ()
    assert papers.paper(back, office["IO"], "SMALL", next(iter(back.database.files.iterdir())).name)
    assert back.database.reading.execute("SELECT revision FROM clients").fetchone()[0] < 999
    back.close()


def rewritten(copy, to, change):
    """The copy with its files by name changed."""
    with tarfile.open(copy) as archive:
        files = {m.name: archive.extractfile(m).read() for m in archive if m.isfile()}
    files = change(files)
    with tarfile.open(to, "w:gz") as archive:
        for name, content in files.items():
            head = tarfile.TarInfo(name)
            head.size = len(content)
            archive.addfile(head, BytesIO(content))
    return to


def flipped(files):
    content = bytearray(files[STORE])
    content[len(content) // 2] ^= 1
    return {**files, STORE: bytes(content)}


def posted_otherwise(files):
    """A store that was changed and whose digest was put right to fit it."""
    with TemporaryDirectory() as folder:
        made = Path(folder) / STORE
        made.write_bytes(files[STORE])
        connection = sqlite3.connect(made)
        connection.executescript(
            "DROP TRIGGER lines_are_never_updated; UPDATE lines SET amount = amount * 2;"
        )
        connection.close()
        content = made.read_bytes()
    digests = {**json.loads(files["contents.json"]), STORE: hashlib.sha256(content).hexdigest()}
    return {**files, STORE: content, "contents.json": json.dumps(digests).encode()}


@pytest.mark.parametrize(
    ("change", "why"),
    [
        (lambda files: {}, "says nothing of what it holds"),
        (lambda files: {n: c for n, c in files.items() if n != STORE}, "is missing from it"),
        (lambda files: {**files, "more.txt": b"x"}, "does not belong to it"),
        (lambda files: {**files, STORE: b"SQLite format 3"}, "was altered"),
        (flipped, "was altered"),
        (posted_otherwise, "The copy is damaged"),
    ],
)
def test_what_is_no_whole_copy_of_ours_is_not_brought_back(office, tmp_path, change, why):
    store.backup(office.workplace, tmp_path / "copy.tar.gz")
    wrong = rewritten(tmp_path / "copy.tar.gz", tmp_path / "wrong.tar.gz", change)
    with pytest.raises(store.NoBackup, match=why):
        store.restore(wrong, tmp_path / "back")
    assert list((tmp_path / "back").iterdir()) == []


def test_a_copy_is_not_brought_back_beside_what_is_left_of_another_store(office, tmp_path):
    store.backup(office.workplace, tmp_path / "copy.tar.gz")
    (tmp_path / "back").mkdir()
    (tmp_path / "back" / f"{STORE}-wal").write_bytes(b"postings of another store")
    with pytest.raises(store.NoBackup, match="what is left of one"):
        store.restore(tmp_path / "copy.tar.gz", tmp_path / "back")


def test_no_copy_and_no_practice_is_ever_written_over(office, tmp_path):
    store.backup(office.workplace, tmp_path / "copy.tar.gz")
    with pytest.raises(store.NoBackup, match="name a new file"):
        store.backup(office.workplace, tmp_path / "copy.tar.gz")
    with pytest.raises(store.NoBackup, match="holds a practice already"):
        store.restore(tmp_path / "copy.tar.gz", office.workplace.database.folder)
    (tmp_path / "no.tar.gz").write_bytes(b"nothing")
    with pytest.raises(store.NoBackup, match="no copy that can be brought back"):
        store.restore(tmp_path / "no.tar.gz", tmp_path / "back")
    assert not (tmp_path / "back" / "practice.sqlite3").exists()
