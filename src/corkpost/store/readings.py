"""Up to which change a person has read what was done in a client's books."""

import sqlite3
from datetime import datetime
from typing import NamedTuple

LAST = """
    SELECT change_number, read_at
    FROM readings
    WHERE client_id = :client_id AND staff_code = :staff_code
    ORDER BY number DESC
    LIMIT 1
"""
ADD = """
    INSERT INTO readings (client_id, staff_code, number, change_number, read_at)
    SELECT :client_id, :staff_code, COALESCE(MAX(number), 0) + 1, :change_number, :read_at
    FROM readings
    WHERE client_id = :client_id AND staff_code = :staff_code
"""


class LastRead(NamedTuple):
    change: int
    at: datetime


def last_read(connection: sqlite3.Connection, client_id: int, staff_code: str) -> LastRead | None:
    named = {"client_id": client_id, "staff_code": staff_code}
    row = connection.execute(LAST, named).fetchone()
    return LastRead(row[0], datetime.fromisoformat(row[1])) if row else None


def add_reading(
    connection: sqlite3.Connection, client_id: int, staff_code: str, read: LastRead
) -> None:
    connection.execute(
        ADD,
        {
            "client_id": client_id,
            "staff_code": staff_code,
            "change_number": read.change,
            "read_at": read.at.isoformat(timespec="seconds"),
        },
    )
