"""What is relied on beside the posted rows can't be altered without its showing."""

import random
import sqlite3
from pathlib import Path

import pytest

from corkpost.services import store
from corkpost.services.workplace import Workplace
from corkpost.store import witness
from corkpost.store.database import STORE, connect, new_store
from tests.builders import TODAY


@pytest.fixture
def raw():
    connection = new_store()
    connection.execute("PRAGMA ignore_check_constraints = ON")
    yield connection
    connection.close()


def columns_of(connection, table):
    return connection.execute(f"PRAGMA table_info({table})").fetchall()


def add_row(connection, table, number):
    """A row of made-up values that no other has; how it is found again."""
    columns = columns_of(connection, table)
    values = [
        number if kind == "INTEGER" else f"{name} {number}".encode() if kind == "BLOB" else f"{name} {number}"
        for _, name, kind, *_ in columns
    ]  # fmt: skip
    marks = ", ".join("?" for _ in values)
    connection.execute(f"INSERT INTO {table} VALUES ({marks})", values)
    found = dict(zip((column[1] for column in columns), values, strict=True))
    return {column[1]: found[column[1]] for column in columns if column[5]}


def without_triggers(connection):
    for (name,) in connection.execute(
        "SELECT name FROM sqlite_master WHERE type = 'trigger'"
    ).fetchall():
        connection.execute(f"DROP TRIGGER {name}")


@pytest.mark.parametrize("table", sorted(witness.WITNESSED))
def test_every_column_of_every_witnessed_row_is_proved(raw, table):
    first, second = (add_row(raw, table, number) for number in (1, 2))
    assert list(witness.faults(raw)) == []
    without_triggers(raw)
    where = " AND ".join(f"{name} = ?" for name in first)
    for _, name, kind, _, _, key in columns_of(raw, table):
        if key:
            continue
        another = 7 if kind == "INTEGER" else b"another" if kind == "BLOB" else "another"
        raw.execute("SAVEPOINT whole")
        raw.execute(f"UPDATE {table} SET {name} = ? WHERE {where}", [another, *first.values()])
        (said,) = witness.faults(raw)
        assert said.startswith(f"a row of {table} (")
        assert said.endswith("was altered")
        raw.execute("ROLLBACK TO whole")
    raw.execute(f"DELETE FROM {table} WHERE {where}", list(second.values()))
    add_row(raw, table, 3)
    assert [said.rsplit(") ")[1] for said in witness.faults(raw)] == [
        "is there without a witness",
        "is gone",
    ]


def test_what_may_change_is_witnessed_each_time_and_what_may_not_is_refused(raw):
    add_row(raw, "staff", 1)
    raw.execute("UPDATE staff SET role = 'partner'")
    raw.execute("DELETE FROM staff")
    assert list(witness.faults(raw)) == []
    assert witness.head(raw)[0] == 3
    for table in sorted(
        witness.WITNESSED - {"practice", "staff", "staff_clients", "second_factors", "tokens"}
    ):
        add_row(raw, table, 5)
        name = columns_of(raw, table)[-1][1]
        for act in (f"UPDATE {table} SET {name} = {name}", f"DELETE FROM {table}"):
            with pytest.raises(sqlite3.IntegrityError):
                raw.execute(act)


def test_a_chain_that_was_altered_and_a_trigger_that_is_gone_are_said(raw):
    add_row(raw, "decisions", 1)
    raw.execute("DROP TRIGGER witnessed_is_never_updated")
    raw.execute("DROP TRIGGER decisions_insert_witnessed")
    raw.execute("CREATE TABLE extra (name TEXT) STRICT")
    raw.execute("UPDATE witnessed SET content = 'another'")
    fresh = new_store()
    assert list(witness.schema_faults(raw, fresh)) == [
        "the trigger decisions_insert_witnessed is missing",
        "the trigger witnessed_is_never_updated is missing",
        "the table extra is not ours",
    ]
    fresh.close()
    assert next(witness.faults(raw)) == "witness 1 was altered, or one before it is gone"


def test_a_column_that_comes_later_is_witnessed_from_then_on(raw):
    add_row(raw, "contacts", 1)
    raw.execute("ALTER TABLE contacts ADD COLUMN phone TEXT")
    assert list(witness.faults(raw)) == []
    witness.install(raw)
    add_row(raw, "contacts", 2)
    assert list(witness.faults(raw)) == []
    assert witness.head(raw)[0] == 2
    without_triggers(raw)
    raw.execute("UPDATE contacts SET phone = 'another' WHERE number = 2")
    raw.execute("UPDATE contacts SET email = 'another' WHERE number = 1")
    assert len(list(witness.faults(raw))) == 2


def test_every_table_is_chained_witnessed_reckoned_or_said_not_to_be_covered(raw):
    tables = {
        name
        for (name,) in raw.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
        if not name.startswith(("sqlite_", "find_words_"))
    }
    groups = (witness.WITNESSED, witness.CHAINED, witness.RECKONED, witness.NOT_COVERED.keys())
    assert sorted(name for group in groups for name in group) == sorted(tables)


def content_of(file: Path) -> list[str] | None:
    """All that is covered, as it reads; None where it can't be read."""
    connection = connect(file)
    covered = witness.WITNESSED | witness.CHAINED
    try:
        return [
            repr(row)
            for table in sorted(covered)
            for row in connection.execute(f"SELECT * FROM {table}").fetchall()
        ]
    except (sqlite3.DatabaseError, UnicodeDecodeError):
        return None
    finally:
        connection.close()


def flip(file: Path, folder: Path, at: int, bit: int) -> tuple[bool, bool]:
    """Whether what is covered reads otherwise with one bit of the store turned, and whether it is told."""
    folder.mkdir()
    content = bytearray(file.read_bytes())
    content[at] ^= 1 << bit
    spoiled = folder / STORE
    spoiled.write_bytes(content)
    try:
        workplace = Workplace(folder, TODAY)
    except Exception:
        return True, True
    try:
        told = bool(store.verify(workplace).broken)
    finally:
        workplace.close()
    return content_of(spoiled) != content_of(file), told


def flips_found(office, tmp_path: Path, times: int, seed: int) -> int:
    """Turn that many bits of the store, one at a time; how many turned what is covered. All are told."""
    office.workplace.database.reading.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    file = tmp_path / STORE
    file.write_bytes(office.workplace.database.path.read_bytes())
    dice, moved = random.Random(seed), 0
    for number in range(times):
        at, bit = dice.randrange(file.stat().st_size), dice.randrange(8)
        otherwise, told = flip(file, tmp_path / str(number), at, bit)
        assert told or not otherwise, f"byte {at}, bit {bit}: altered, and nobody said so"
        moved += otherwise
    return moved


def test_a_bit_that_turns_in_the_store_is_told(office, tmp_path):
    assert flips_found(office, tmp_path, times=60, seed=20261031) > 0


@pytest.mark.soak
def test_a_bit_that_turns_in_the_store_is_told_at_length(office, tmp_path):
    assert flips_found(office, tmp_path, times=1500, seed=20261101) > 100
