"""Papers that the practice keeps; their bytes are files under their digest."""

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
COPIES = """
    SELECT digest, name
    FROM paper_copies
    WHERE client_id = :client_id
"""
ADD_COPY = """
    INSERT INTO paper_copies (client_id, digest, name, made_by, made_at)
    VALUES (:client_id, :digest, :name, :made_by, :made_at)
    ON CONFLICT DO NOTHING
"""
INCOMING = """
    SELECT number, name, digest, made_by, made_at
    FROM incoming_papers
    WHERE client_id = :client_id
    ORDER BY number
"""
ADD_INCOMING = """
    INSERT INTO incoming_papers (client_id, number, name, digest, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :name, :digest, :made_by, :made_at
    FROM incoming_papers
    WHERE client_id = :client_id
"""


class IncomingPaper(NamedTuple):
    number: int
    name: str
    digest: str
    made_by: str
    made_at: str


class PaperCopy(NamedTuple):
    digest: str
    name: str


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


def copies_of(connection: sqlite3.Connection, client_id: int) -> list[PaperCopy]:
    """The papers that are kept with a proof or a remark."""
    return [PaperCopy(*row) for row in connection.execute(COPIES, {"client_id": client_id})]


def add_copy(
    connection: sqlite3.Connection,
    client_id: int,
    *,
    name: str,
    digest: str,
    made_by: str,
    made_at: datetime,
) -> None:
    """Kept once, under the name that it came with first."""
    fields = {"name": name, "digest": digest, "made_by": made_by}
    at = made_at.isoformat(timespec="seconds")
    connection.execute(ADD_COPY, {"client_id": client_id, **fields, "made_at": at})


def incoming_of(connection: sqlite3.Connection, client_id: int) -> list[IncomingPaper]:
    """Every paper that came in, whether it was used or not."""
    rows = connection.execute(INCOMING, {"client_id": client_id})
    return [IncomingPaper(*row) for row in rows]


def add_incoming(
    connection: sqlite3.Connection,
    client_id: int,
    *,
    name: str,
    digest: str,
    made_by: str,
    made_at: datetime,
) -> None:
    fields = {"name": name, "digest": digest, "made_by": made_by}
    at = made_at.isoformat(timespec="seconds")
    connection.execute(ADD_INCOMING, {"client_id": client_id, **fields, "made_at": at})
