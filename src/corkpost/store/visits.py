"""What a person saw among a client's review points, at the last visit and at the one before."""

import sqlite3
from datetime import datetime
from typing import NamedTuple

VISIT = """
    SELECT seen_at, seen, before_at, before
    FROM visits
    WHERE staff_code = :staff_code AND client_id = :client_id
"""
KEEP_VISIT = """
    INSERT INTO visits (staff_code, client_id, seen_at, seen, before_at, before)
    VALUES (:staff_code, :client_id, :seen_at, :seen, :before_at, :before)
    ON CONFLICT (staff_code, client_id)
    DO UPDATE SET seen_at = :seen_at, seen = :seen, before_at = :before_at, before = :before
"""


class Visit(NamedTuple):
    """*seen*, *before*: points to states and facts, as JSON."""

    seen_at: datetime
    seen: str
    before_at: datetime | None
    before: str | None


def visit_of(connection: sqlite3.Connection, staff_code: str, client_id: int) -> Visit | None:
    named = {"staff_code": staff_code, "client_id": client_id}
    row = connection.execute(VISIT, named).fetchone()
    if row is None:
        return None
    before_at = datetime.fromisoformat(row[2]) if row[2] else None
    return Visit(datetime.fromisoformat(row[0]), row[1], before_at, row[3])


def keep_visit(
    connection: sqlite3.Connection, staff_code: str, client_id: int, visit: Visit
) -> None:
    connection.execute(
        KEEP_VISIT,
        {
            "staff_code": staff_code,
            "client_id": client_id,
            "seen_at": visit.seen_at.isoformat(),
            "seen": visit.seen,
            "before_at": visit.before_at.isoformat() if visit.before_at else None,
            "before": visit.before,
        },
    )
