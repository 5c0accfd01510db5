"""The points that checks found, kept so that a client opens without a run of all checks."""

import json
import sqlite3
import zlib
from collections.abc import Iterable
from datetime import date
from functools import cache
from hashlib import sha256
from importlib import resources

from corkpost.core.points import Point, point_from
from corkpost.store.clients import ClientRow

KEPT = """
    SELECT content FROM kept_points
    WHERE client_id = :client_id AND revision = :revision AND today = :today AND program = :program
"""
FRESH = """
    SELECT client_id FROM kept_points
    JOIN clients ON clients.id = client_id AND clients.revision = kept_points.revision
    WHERE today = :today AND program = :program
"""
KEEP = """
    INSERT INTO kept_points (client_id, revision, today, program, content)
    VALUES (:client_id, :revision, :today, :program, :content)
    ON CONFLICT (client_id) DO UPDATE
    SET revision = :revision, today = :today, program = :program, content = :content
"""


@cache
def program() -> str:
    """A digest of the rules that find points: what another program found is not believed."""
    core = resources.files("corkpost.core")
    content = sha256()
    folders = [core]
    while folders:
        for entry in sorted(folders.pop().iterdir(), key=lambda file: file.name):
            if entry.is_dir():
                folders.append(entry)
            elif entry.name.endswith(".py"):
                content.update(entry.read_bytes())
    return content.hexdigest()


def kept_points(
    connection: sqlite3.Connection, client: ClientRow, today: date
) -> tuple[Point, ...] | None:
    """What was found in the client at this revision, on this day; None where nothing is kept."""
    row = connection.execute(KEPT, _named(client, today)).fetchone()
    if row is None:
        return None
    return tuple(point_from(fields) for fields in json.loads(zlib.decompress(row[0])))


def with_fresh_points(connection: sqlite3.Connection, today: date) -> frozenset[int]:
    """The clients whose kept points are those of their revision and of this day."""
    found = connection.execute(FRESH, {"today": today.isoformat(), "program": program()})
    return frozenset(row[0] for row in found)


def keep_points(
    connection: sqlite3.Connection, client: ClientRow, today: date, points: Iterable[Point]
) -> None:
    """Keep what was found in the client at this revision, on this day."""
    content = json.dumps([point._asdict() for point in points], ensure_ascii=False)
    packed = zlib.compress(content.encode(), level=1)
    connection.execute(KEEP, {**_named(client, today), "content": packed})


def _named(client: ClientRow, today: date) -> dict[str, object]:
    return {
        "client_id": client.id,
        "revision": client.revision,
        "today": today.isoformat(),
        "program": program(),
    }
