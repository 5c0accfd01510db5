"""The books of a new client, written in parts that nobody sees until the last of them is there."""

import sqlite3
import uuid

from corkpost.store.clients import ClientRow

LEASE_SECONDS = 300

BEGIN = """
    INSERT INTO clients (code, whole, lease) VALUES (:code, 0, :lease)
    RETURNING id
"""
HOLD = """
    UPDATE clients SET lease = :lease WHERE id = :client_id AND NOT whole
"""
MAKE_WHOLE = """
    UPDATE clients SET code = :code, whole = 1 WHERE id = :client_id AND NOT whole
    RETURNING id, code, revision
"""
LEFT_OVER = """
    SELECT id FROM clients WHERE NOT whole AND lease < :now ORDER BY id LIMIT 1
"""
LAST_SEQ = """
    SELECT COALESCE(MAX(seq), 0) FROM transactions WHERE client_id = :client_id
"""
DROP_LINES = """
    DELETE FROM lines WHERE client_id = :client_id AND transaction_seq > :after
"""
DROP_TRANSACTIONS = """
    DELETE FROM transactions WHERE client_id = :client_id AND seq > :after
"""
DROP_ALLOCATIONS = """
    DELETE FROM allocations WHERE client_id = :client_id
"""
DROP_CLIENT = """
    DELETE FROM clients WHERE id = :client_id AND NOT whole
"""


def begin(connection: sqlite3.Connection, now: int) -> int:
    """A client that nobody sees, for the parts; its id. *now*: seconds since 1970."""
    named = {"code": f"in parts {uuid.uuid4().hex}", "lease": now + LEASE_SECONDS}
    return int(connection.execute(BEGIN, named).fetchone()[0])


def hold(connection: sqlite3.Connection, client_id: int, now: int) -> None:
    """Say that somebody is at it still."""
    connection.execute(HOLD, {"client_id": client_id, "lease": now + LEASE_SECONDS})


def make_whole(connection: sqlite3.Connection, client_id: int, code: str) -> ClientRow:
    """From now on the client is there, under its code."""
    return ClientRow(
        *connection.execute(MAKE_WHOLE, {"client_id": client_id, "code": code}).fetchone()
    )


def left_over(connection: sqlite3.Connection, now: int) -> int | None:
    """A client of which parts are left that nobody is at any more."""
    row = connection.execute(LEFT_OVER, {"now": now}).fetchone()
    return row[0] if row else None


def take_away(connection: sqlite3.Connection, client_id: int, most: int) -> bool:
    """Take away the last *most* transactions of a client that never became whole; whether more is left."""
    named = {"client_id": client_id}
    last = connection.execute(LAST_SEQ, named).fetchone()[0]
    connection.execute(DROP_LINES, {**named, "after": last - most})
    connection.execute(DROP_TRANSACTIONS, {**named, "after": last - most})
    if last > most:
        return True
    connection.execute(DROP_ALLOCATIONS, named)
    connection.execute(DROP_CLIENT, named)
    return False
