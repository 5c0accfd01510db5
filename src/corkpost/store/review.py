"""What people decided about review points. The latest row of a point counts."""

import sqlite3
from datetime import datetime

from corkpost.core.points import PointState
from corkpost.core.states import Decision

DECISIONS = """
    SELECT point, state, reason, facts, seen, change_number, made_by, made_at
    FROM decisions
    WHERE client_id = :client_id
    ORDER BY number
"""
ADD_DECISION = """
    INSERT INTO decisions (
      client_id, number, point, state, reason, facts, seen, change_number, made_by,
      made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :point, :state, :reason, :facts, :seen,
           :change_number, :made_by, :made_at
    FROM decisions
    WHERE client_id = :client_id
"""


def decisions_of(connection: sqlite3.Connection, client_id: int) -> dict[str, Decision]:
    """The latest decision about each point."""
    return {
        row[0]: Decision(row[0], PointState(row[1]), *row[2:])
        for row in connection.execute(DECISIONS, {"client_id": client_id})
    }


def add_decision(
    connection: sqlite3.Connection,
    client_id: int,
    *,
    point: str,
    state: PointState,
    reason: str,
    facts: str,
    seen: str,
    change: int | None,
    made_by: str,
    made_at: datetime,
) -> None:
    connection.execute(
        ADD_DECISION,
        {
            "client_id": client_id,
            "point": point,
            "state": state,
            "reason": reason,
            "facts": facts,
            "seen": seen,
            "change_number": change,
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )
