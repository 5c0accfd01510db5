"""Tokens by which people are known on the command line."""

import sqlite3
from datetime import datetime

SET = """
    INSERT INTO tokens (staff_code, id, made_at) VALUES (:staff_code, :id, :made_at)
    ON CONFLICT (staff_code) DO UPDATE SET id = :id, made_at = :made_at
"""
DROP = "DELETE FROM tokens WHERE staff_code = :staff_code"
WHOSE = "SELECT staff_code FROM tokens WHERE id = :id"
SINCE = "SELECT made_at FROM tokens WHERE staff_code = :staff_code"
SET_NEEDED = "UPDATE practice SET token_needed = :on"
NEEDED = "SELECT token_needed FROM practice"


def set_token(
    connection: sqlite3.Connection, staff_code: str, token_id: str, made_at: datetime
) -> None:
    """Keep the person's token, in place of one that they had."""
    at = made_at.isoformat(timespec="seconds")
    connection.execute(SET, {"staff_code": staff_code, "id": token_id, "made_at": at})


def drop_token(connection: sqlite3.Connection, staff_code: str) -> None:
    connection.execute(DROP, {"staff_code": staff_code})


def whose(connection: sqlite3.Connection, token_id: str) -> str | None:
    """The code of the person whose token it is."""
    row = connection.execute(WHOSE, {"id": token_id}).fetchone()
    return row[0] if row else None


def since(connection: sqlite3.Connection, staff_code: str) -> str | None:
    """When the person's token was made; None where they have none."""
    row = connection.execute(SINCE, {"staff_code": staff_code}).fetchone()
    return row[0] if row else None


def set_needed(connection: sqlite3.Connection, on: bool) -> None:
    connection.execute(SET_NEEDED, {"on": int(on)})


def is_needed(connection: sqlite3.Connection) -> bool:
    row = connection.execute(NEEDED).fetchone()
    return bool(row and row[0])
