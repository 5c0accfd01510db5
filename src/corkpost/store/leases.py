"""Leases: who does what only one process may do."""

import sqlite3

TAKE = """
    INSERT INTO leases (name, holder, until) VALUES (:name, :holder, :until)
    ON CONFLICT (name) DO UPDATE SET holder = :holder, until = :until
    WHERE holder = :holder OR until < :now
    RETURNING 1
"""
GIVE_BACK = "DELETE FROM leases WHERE name = :name AND holder = :holder"


def take(connection: sqlite3.Connection, name: str, holder: str, now: int, until: int) -> bool:
    """Take the lease where it is free, or renew one's own; whether it is held. Times are seconds."""
    parameters = {"name": name, "holder": holder, "now": now, "until": until}
    return connection.execute(TAKE, parameters).fetchone() is not None


def give_back(connection: sqlite3.Connection, name: str, holder: str) -> None:
    connection.execute(GIVE_BACK, {"name": name, "holder": holder})
