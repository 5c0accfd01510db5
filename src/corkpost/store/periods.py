"""Posting states of periods: who set which, when and why. The latest row counts."""

import sqlite3
from collections.abc import Mapping
from datetime import date, datetime
from typing import NamedTuple

from corkpost.core.kinds import PeriodState
from corkpost.core.periods import PostingWindow

STATES = """
    SELECT first_day, state, reason, made_by, made_at
    FROM period_states
    WHERE client_id = :client_id
    ORDER BY number
"""
ADD_STATE = """
    INSERT INTO period_states (client_id, number, first_day, state, reason, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :first_day, :state, :reason, :made_by, :made_at
    FROM period_states
    WHERE client_id = :client_id
"""


OPENED_THROUGH = """
    SELECT MAX(last_day) FROM opened_years WHERE client_id = :client_id
"""
ADD_YEAR = """
    INSERT INTO opened_years (client_id, last_day, made_by, made_at)
    VALUES (:client_id, :last_day, :made_by, :made_at)
"""


WINDOWS = """
    SELECT staff, first_day, last_day, until, reason, made_by, made_at
    FROM posting_windows
    WHERE client_id = :client_id
    ORDER BY number
"""
ADD_WINDOW = """
    INSERT INTO posting_windows
      (client_id, number, staff, first_day, last_day, until, reason, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :staff, :first_day, :last_day, :until, :reason,
           :made_by, :made_at
    FROM posting_windows
    WHERE client_id = :client_id
"""


class StateSet(NamedTuple):
    first_day: date
    state: PeriodState
    reason: str
    made_by: str
    made_at: str


def history_of(connection: sqlite3.Connection, client_id: int) -> list[StateSet]:
    """Every state that was ever set, oldest first."""
    return [
        StateSet(date.fromisoformat(row[0]), PeriodState(row[1]), *row[2:])
        for row in connection.execute(STATES, {"client_id": client_id})
    ]


def states_of(connection: sqlite3.Connection, client_id: int) -> Mapping[date, PeriodState]:
    """The state that each period was last set to, by its first day."""
    return {row.first_day: row.state for row in history_of(connection, client_id)}


def set_state(
    connection: sqlite3.Connection,
    client_id: int,
    first_day: date,
    state: PeriodState,
    *,
    reason: str,
    made_by: str,
    made_at: datetime,
) -> None:
    connection.execute(
        ADD_STATE,
        {
            "client_id": client_id,
            "first_day": first_day.isoformat(),
            "state": state,
            "reason": reason,
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )


def opened_through(connection: sqlite3.Connection, client_id: int) -> date | None:
    """The end of the last financial year that somebody opened; None where nobody did."""
    (last,) = connection.execute(OPENED_THROUGH, {"client_id": client_id}).fetchone()
    return date.fromisoformat(last) if last else None


def add_year(
    connection: sqlite3.Connection,
    client_id: int,
    last_day: date,
    *,
    made_by: str,
    made_at: datetime,
) -> None:
    """A financial year that was opened, by its last day."""
    connection.execute(
        ADD_YEAR,
        {
            "client_id": client_id,
            "last_day": last_day.isoformat(),
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )


def windows_of(connection: sqlite3.Connection, client_id: int, today: date) -> list[PostingWindow]:
    """The windows that may be used on *today*: the latest of each person."""
    latest = {
        row[0]: PostingWindow._make((row[0], *map(date.fromisoformat, row[1:4]), *row[4:]))
        for row in connection.execute(WINDOWS, {"client_id": client_id})
    }
    return [window for window in latest.values() if window.until >= today]


def add_window(connection: sqlite3.Connection, client_id: int, window: PostingWindow) -> None:
    fields = {
        name: value.isoformat() if isinstance(value, date) else value
        for name, value in window._asdict().items()
    }
    connection.execute(ADD_WINDOW, {"client_id": client_id, **fields})
