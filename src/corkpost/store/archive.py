"""Archiving a client, and removing one: the one place where what was written goes."""

import re
import sqlite3
from datetime import datetime
from typing import NamedTuple

ADD = """
    INSERT INTO archivings (client_id, number, archived, reason, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :archived, :reason, :made_by, :made_at
    FROM archivings
    WHERE client_id = :client_id
"""
LATEST = """
    SELECT client_id, reason, made_by, made_at FROM archivings AS latest
    WHERE archived AND number = (SELECT MAX(number) FROM archivings
                                 WHERE client_id = latest.client_id)
"""
KEPT_YEARS = "SELECT kept_years FROM practice"
SET_KEPT_YEARS = "UPDATE practice SET kept_years = :years"
LAST_DAY = "SELECT MAX(posting_date) FROM transactions WHERE client_id = :client_id"
TABLES = """
    SELECT tables.name FROM sqlite_master AS tables
    WHERE tables.type = 'table' AND tables.name <> 'clients' AND EXISTS (
      SELECT 1 FROM pragma_table_info(tables.name) WHERE name = 'client_id')
    ORDER BY tables.name
"""
GUARDS = """
    SELECT name, sql FROM sqlite_master
    WHERE type = 'trigger' AND (sql LIKE '%BEFORE DELETE%' OR name = 'a_whole_client_stays_whole')
"""
LEFT = """
    UPDATE clients SET whole = 0, code = 'removed ' || id, lease = :never WHERE id = :client_id
"""
NEVER = 2**62
FORGET_INDEX = (
    "DELETE FROM find_amounts",
    "DELETE FROM find_marks",
    "DELETE FROM find_rows",
    "INSERT INTO find_words (find_words) VALUES ('delete-all')",
)
"""The index of words has no text of its own, so nothing is taken out of it: it is made anew."""
WITH_DIGESTS = (
    "SELECT content FROM kept_rows",
    "SELECT files FROM answers",
    "SELECT digest FROM papers",
    "SELECT digest FROM incoming_papers",
    "SELECT digest FROM paper_copies",
    "SELECT paper FROM remarks WHERE paper IS NOT NULL",
    "SELECT content FROM drafts",
    "SELECT asked FROM proposals",
)
_DIGEST = re.compile(r"[0-9a-f]{64}")


class Archiving(NamedTuple):
    client_id: int
    reason: str
    made_by: str
    made_at: str


def set_archived(
    connection: sqlite3.Connection,
    client_id: int,
    archived: bool,
    *,
    reason: str,
    made_by: str,
    made_at: datetime,
) -> None:
    connection.execute(
        ADD,
        {
            "client_id": client_id,
            "archived": int(archived),
            "reason": reason,
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )


def archivings(connection: sqlite3.Connection) -> dict[int, Archiving]:
    """How each client that is archived came to be so, by its id."""
    return {row[0]: Archiving(*row) for row in connection.execute(LATEST)}


def kept_years(connection: sqlite3.Connection) -> int:
    """For how many years a client is kept after its last."""
    row = connection.execute(KEPT_YEARS).fetchone()
    return int(row[0]) if row else 10


def set_kept_years(connection: sqlite3.Connection, years: int) -> None:
    connection.execute(SET_KEPT_YEARS, {"years": years})


def last_day(connection: sqlite3.Connection, client_id: int) -> str | None:
    """The last day that anything was posted on."""
    found: str | None = connection.execute(LAST_DAY, {"client_id": client_id}).fetchone()[0]
    return found


def remove(connection: sqlite3.Connection, client_id: int) -> None:
    """Take away every row of the client, within the caller's write transaction. What keeps rows from being
    deleted is off in the meantime, and its number is never given again."""
    guards = connection.execute(GUARDS).fetchall()
    for name, _ in guards:
        connection.execute(f"DROP TRIGGER {name}")
    connection.execute("PRAGMA defer_foreign_keys = ON")
    for (table,) in connection.execute(TABLES).fetchall():
        connection.execute(DELETE.format(table=table), {"client_id": client_id})
    for statement in FORGET_INDEX:
        connection.execute(statement)
    connection.execute(LEFT, {"client_id": client_id, "never": NEVER})
    for _, script in guards:
        connection.execute(script)


DELETE = "DELETE FROM {table} WHERE client_id = :client_id"


def kept_digests(connection: sqlite3.Connection) -> set[str]:
    """The digests of all files that a row of any client names."""
    found: set[str] = set()
    for statement in WITH_DIGESTS:
        for (text,) in connection.execute(statement):
            found.update(_DIGEST.findall(text))
    return found
