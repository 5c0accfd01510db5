"""Jobs: long work, claimed with a lease that is renewed while it goes on."""

import sqlite3
from datetime import datetime
from typing import NamedTuple

ADD_JOB = """
    INSERT INTO jobs (id, kind, made_by, made_at, state, request, progress, result, lease)
    VALUES (:id, :kind, :made_by, :made_at, 'queued', :request, 'waiting', 'null', 0)
"""
JOB = """
    SELECT id, kind, made_by, state, request, progress, result, made_at FROM jobs WHERE id = :id
"""
LOOKED_AT = """
    SELECT id, kind, made_by, state, request, progress, result, made_at FROM jobs
    WHERE kind = 'take-in' AND state = 'done'
      AND json_extract(result, '$.coming.client') = :client
    ORDER BY made_at DESC, id
"""
WAITING = """
    SELECT EXISTS (
      SELECT 1 FROM jobs WHERE state = 'queued' OR (state = 'running' AND lease < :now)
    )
"""
CLAIM = """
    UPDATE jobs SET state = 'running', lease = :until
    WHERE id = (
      SELECT id FROM jobs
      WHERE state = 'queued' OR (state = 'running' AND lease < :now)
      ORDER BY made_at, id
      LIMIT 1
    )
    RETURNING id, kind, made_by, state, request, progress, result, made_at
"""
TELL = """
    UPDATE jobs SET progress = :progress, lease = :until WHERE id = :id
"""
RENEW = """
    UPDATE jobs SET lease = :until WHERE id = :id AND state = 'running'
"""
FINISH = """
    UPDATE jobs SET state = :state, progress = '', result = :result WHERE id = :id
"""


class JobRow(NamedTuple):
    """*request* and *result* are JSON."""

    id: str
    kind: str
    made_by: str
    state: str
    request: str
    progress: str
    result: str
    made_at: str


WAITING_OF = "SELECT COUNT(*) FROM jobs WHERE made_by = :made_by AND state IN ('queued', 'running')"


def waiting_of(connection: sqlite3.Connection, person: str) -> int:
    """How many jobs of one person are not done yet."""
    found: int = connection.execute(WAITING_OF, {"made_by": person}).fetchone()[0]
    return found


def add_job(
    connection: sqlite3.Connection,
    job_id: str,
    kind: str,
    request: str,
    *,
    made_by: str,
    made_at: datetime,
) -> None:
    parameters = {
        "id": job_id,
        "kind": kind,
        "made_by": made_by,
        "made_at": made_at.isoformat(timespec="seconds"),
        "request": request,
    }
    connection.execute(ADD_JOB, parameters)


def job_named(connection: sqlite3.Connection, job_id: str) -> JobRow | None:
    row = connection.execute(JOB, {"id": job_id}).fetchone()
    return JobRow(*row) if row else None


def looked_at(connection: sqlite3.Connection, client: str) -> list[JobRow]:
    """The jobs that looked at newer books of the client, the latest first."""
    return [JobRow(*row) for row in connection.execute(LOOKED_AT, {"client": client})]


def any_waits(connection: sqlite3.Connection, now: int) -> bool:
    """Whether there is a job to claim; asked without the write lock."""
    return bool(connection.execute(WAITING, {"now": now}).fetchone()[0])


def claim(connection: sqlite3.Connection, now: int, until: int) -> JobRow | None:
    """The next job that waits, or whose worker is gone, claimed until *until*."""
    row = connection.execute(CLAIM, {"now": now, "until": until}).fetchone()
    return JobRow(*row) if row else None


def tell(connection: sqlite3.Connection, job_id: str, progress: str, until: int) -> None:
    """Note how far it is, and renew the lease."""
    connection.execute(TELL, {"id": job_id, "progress": progress, "until": until})


def renew(connection: sqlite3.Connection, job_id: str, until: int) -> None:
    """Say that it is still being done."""
    connection.execute(RENEW, {"id": job_id, "until": until})


def finish(connection: sqlite3.Connection, job_id: str, state: str, result: str) -> None:
    connection.execute(FINISH, {"id": job_id, "state": state, "result": result})
