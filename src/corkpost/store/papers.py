"""Papers that the practice keeps with a transaction; their bytes are files under their digest."""

import sqlite3
from datetime import datetime
from typing import NamedTuple

PAPERS = """
    SELECT number, transaction_id, name, digest, made_by, made_at
    FROM papers
    WHERE client_id = :client_id
    ORDER BY number
"""
ADD_PAPER = """
    INSERT INTO papers (client_id, number, transaction_id, name, digest, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :transaction_id, :name, :digest,
           :made_by, :made_at
    FROM papers
    WHERE client_id = :client_id
"""


class Paper(NamedTuple):
    number: int
    transaction: str
    name: str
    digest: str
    made_by: str
    made_at: str


def papers_of(connection: sqlite3.Connection, client_id: int) -> list[Paper]:
    return [Paper(*row) for row in connection.execute(PAPERS, {"client_id": client_id})]


def add_paper(
    connection: sqlite3.Connection,
    client_id: int,
    transaction: str,
    *,
    name: str,
    digest: str,
    made_by: str,
    made_at: datetime,
) -> None:
    connection.execute(
        ADD_PAPER,
        {
            "client_id": client_id,
            "transaction_id": transaction,
            "name": name,
            "digest": digest,
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )
