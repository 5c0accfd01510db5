"""Drafts: entries as they were keyed so far. Nothing of them counts anywhere."""

import sqlite3
from datetime import datetime
from typing import NamedTuple

DRAFTS = """
    SELECT id, content, made_by, made_at
    FROM drafts
    WHERE client_id = :client_id
    ORDER BY made_at DESC, id
"""
KEEP_DRAFT = """
    INSERT INTO drafts (client_id, id, content, made_by, made_at)
    VALUES (:client_id, :id, :content, :made_by, :made_at)
    ON CONFLICT (client_id, id)
    DO UPDATE SET content = :content, made_by = :made_by, made_at = :made_at
"""
WRITER = """
    SELECT made_by FROM drafts WHERE client_id = :client_id AND id = :id
"""
DROP_DRAFT = """
    DELETE FROM drafts WHERE client_id = :client_id AND id = :id
"""


class Draft(NamedTuple):
    id: str
    content: str
    made_by: str
    made_at: str


def drafts_of(connection: sqlite3.Connection, client_id: int) -> list[Draft]:
    """The client's drafts, latest first."""
    return [Draft(*row) for row in connection.execute(DRAFTS, {"client_id": client_id})]


def writer_of(connection: sqlite3.Connection, client_id: int, draft_id: str) -> str | None:
    """Who wrote it; None where there is no such draft."""
    parameters = {"client_id": client_id, "id": draft_id}
    row = connection.execute(WRITER, parameters).fetchone()
    return row[0] if row else None


def keep_draft(
    connection: sqlite3.Connection,
    client_id: int,
    draft_id: str,
    content: str,
    *,
    made_by: str,
    made_at: datetime,
) -> None:
    parameters = {
        "client_id": client_id,
        "id": draft_id,
        "content": content,
        "made_by": made_by,
        "made_at": made_at.isoformat(timespec="seconds"),
    }
    connection.execute(KEEP_DRAFT, parameters)


def drop_draft(connection: sqlite3.Connection, client_id: int, draft_id: str) -> bool:
    """Whether there was such a draft."""
    parameters = {"client_id": client_id, "id": draft_id}
    return connection.execute(DROP_DRAFT, parameters).rowcount > 0
