"""Sessions, tries to come in, second factors and invitations."""

import json
import sqlite3
from datetime import datetime
from typing import NamedTuple

ADD_SESSION = """
    INSERT INTO sessions (id, staff_code, made_at, began, seen, confirmed, address, agent)
    VALUES (:id, :staff_code, :made_at, :now, :now, :now, :address, :agent)
"""
SESSION = """
    SELECT id, staff_code, made_at, began, seen, confirmed, address, agent, ended_at
    FROM sessions WHERE id = :id
"""
SESSIONS_OF = """
    SELECT id, staff_code, made_at, began, seen, confirmed, address, agent, ended_at
    FROM sessions WHERE staff_code = :staff_code AND ended_at IS NULL AND seen >= :since
    ORDER BY seen DESC
"""
SEEN = "UPDATE sessions SET seen = MAX(seen, :now) WHERE id = :id"
CONFIRMED = "UPDATE sessions SET confirmed = :now WHERE id = :id"
END = """
    UPDATE sessions SET ended_at = :at, ended_by = :by, ended_why = :why
    WHERE ended_at IS NULL AND (id = :id OR (:id IS NULL AND staff_code = :staff_code))
"""
TRIES = "SELECT failed, last FROM tries WHERE of = :of"
COUNT_TRY = """
    INSERT INTO tries (of, failed, last) VALUES (:of, 1, :now)
    ON CONFLICT (of) DO UPDATE SET
      failed = CASE WHEN last < :forgotten THEN 1 ELSE failed + 1 END, last = :now
"""
FORGET_TRIES = "DELETE FROM tries WHERE of = :of"
FACTOR = "SELECT secret, recovery, used, since FROM second_factors WHERE staff_code = :staff_code"
SET_FACTOR = """
    INSERT INTO second_factors (staff_code, secret, recovery, used, since)
    VALUES (:staff_code, :secret, :recovery, :used, :since)
    ON CONFLICT (staff_code) DO UPDATE SET
      secret = :secret, recovery = :recovery, used = :used, since = :since
"""
DROP_FACTOR = "DELETE FROM second_factors WHERE staff_code = :staff_code"
INVITE = """
    INSERT INTO invitations (id, staff_code, made_by, until)
    VALUES (:id, :staff_code, :made_by, :until)
"""
INVITED = "SELECT staff_code, until FROM invitations WHERE id = :id"
FORGET_INVITATIONS = "DELETE FROM invitations WHERE staff_code = :staff_code"


class SessionRow(NamedTuple):
    """Times but *made_at* and *ended_at* are seconds since 1970."""

    id: str
    staff_code: str
    made_at: str
    began: int
    seen: int
    confirmed: int
    address: str
    agent: str
    ended_at: str | None


class Factor(NamedTuple):
    """*recovery*: SHA-256 of each code that is left. *used*: the last step whose code was taken."""

    secret: str
    recovery: tuple[str, ...]
    used: int
    since: str


def add_session(
    connection: sqlite3.Connection,
    session_id: str,
    staff_code: str,
    *,
    made_at: datetime,
    now: int,
    address: str,
    agent: str,
) -> None:
    connection.execute(
        ADD_SESSION,
        {
            "id": session_id,
            "staff_code": staff_code,
            "made_at": made_at.isoformat(timespec="seconds"),
            "now": now,
            "address": address,
            "agent": agent,
        },
    )


def session_named(connection: sqlite3.Connection, session_id: str) -> SessionRow | None:
    row = connection.execute(SESSION, {"id": session_id}).fetchone()
    return SessionRow(*row) if row else None


def sessions_of(connection: sqlite3.Connection, staff_code: str, since: int) -> list[SessionRow]:
    """Those that were not ended, and were seen since that second; the latest first."""
    parameters = {"staff_code": staff_code, "since": since}
    return [SessionRow(*row) for row in connection.execute(SESSIONS_OF, parameters)]


def set_seen(connection: sqlite3.Connection, session_id: str, now: int) -> None:
    connection.execute(SEEN, {"id": session_id, "now": now})


def set_confirmed(connection: sqlite3.Connection, session_id: str, now: int) -> None:
    connection.execute(CONFIRMED, {"id": session_id, "now": now})


def end_sessions(
    connection: sqlite3.Connection,
    *,
    at: datetime,
    by: str,
    why: str,
    session_id: str | None = None,
    staff_code: str = "",
) -> int:
    """End that session, or all of a person; how many were ended."""
    parameters = {
        "id": session_id,
        "staff_code": staff_code,
        "at": at.isoformat(timespec="seconds"),
        "by": by,
        "why": why,
    }
    return connection.execute(END, parameters).rowcount


def tries_of(connection: sqlite3.Connection, of: str) -> tuple[int, int]:
    """How often it failed in a row, and when last, in seconds since 1970."""
    row = connection.execute(TRIES, {"of": of}).fetchone()
    return (row[0], row[1]) if row else (0, 0)


def count_try(connection: sqlite3.Connection, of: str, now: int, forgotten: int) -> None:
    """Count one more; those before the second *forgotten* count no more."""
    connection.execute(COUNT_TRY, {"of": of, "now": now, "forgotten": forgotten})


def forget_tries(connection: sqlite3.Connection, of: str) -> None:
    connection.execute(FORGET_TRIES, {"of": of})


def factor_of(connection: sqlite3.Connection, staff_code: str) -> Factor | None:
    row = connection.execute(FACTOR, {"staff_code": staff_code}).fetchone()
    return Factor(row[0], tuple(json.loads(row[1])), row[2], row[3]) if row else None


def set_factor(connection: sqlite3.Connection, staff_code: str, factor: Factor) -> None:
    connection.execute(
        SET_FACTOR,
        {
            "staff_code": staff_code,
            **factor._asdict(),
            "recovery": json.dumps(list(factor.recovery)),
        },
    )


def drop_factor(connection: sqlite3.Connection, staff_code: str) -> None:
    connection.execute(DROP_FACTOR, {"staff_code": staff_code})


def invite(
    connection: sqlite3.Connection, invitation: str, staff_code: str, made_by: str, until: int
) -> None:
    """The only one of the person: one before it is worth nothing any more."""
    connection.execute(FORGET_INVITATIONS, {"staff_code": staff_code})
    parameters = {"id": invitation, "staff_code": staff_code, "made_by": made_by, "until": until}
    connection.execute(INVITE, parameters)


def invited(connection: sqlite3.Connection, invitation: str) -> tuple[str, int] | None:
    """Whom it invites, and until when, in seconds since 1970."""
    row = connection.execute(INVITED, {"id": invitation}).fetchone()
    return (row[0], row[1]) if row else None


def forget_invitations(connection: sqlite3.Connection, staff_code: str) -> None:
    connection.execute(FORGET_INVITATIONS, {"staff_code": staff_code})
