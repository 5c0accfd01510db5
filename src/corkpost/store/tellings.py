"""What the client's bookkeeper was told of our entries, and when."""

import json
import sqlite3
from datetime import datetime
from typing import NamedTuple

TELLINGS = """
    SELECT number, to_email, changes, made_by, made_at
    FROM tellings
    WHERE client_id = :client_id
    ORDER BY number
"""
ADD_TELLING = """
    INSERT INTO tellings (client_id, number, to_email, body, changes, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :to_email, :body, :changes, :made_by, :made_at
    FROM tellings
    WHERE client_id = :client_id
"""


class Telling(NamedTuple):
    """*changes*: the numbers of those that it explained; *to_email*: none where handed over."""

    number: int
    to_email: str | None
    changes: tuple[int, ...]
    made_by: str
    made_at: str


def tellings_of(connection: sqlite3.Connection, client_id: int) -> tuple[Telling, ...]:
    """Oldest first."""
    return tuple(
        Telling(number, to_email, tuple(json.loads(changes)), made_by, made_at)
        for number, to_email, changes, made_by, made_at in connection.execute(
            TELLINGS, {"client_id": client_id}
        )
    )


def add_telling(
    connection: sqlite3.Connection,
    client_id: int,
    *,
    to_email: str | None,
    body: str,
    changes: tuple[int, ...],
    made_by: str,
    made_at: datetime,
) -> None:
    connection.execute(
        ADD_TELLING,
        {
            "client_id": client_id,
            "to_email": to_email,
            "body": body,
            "changes": json.dumps(changes),
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )
