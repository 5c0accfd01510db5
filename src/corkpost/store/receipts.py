"""Receipts issued to parties, and each time that one went out."""

import json
import sqlite3
from datetime import date, datetime
from typing import NamedTuple

from corkpost.core.receipts import Method, Receipt, Settles

ISSUES = """
    SELECT receipt, number, content, to_email, made_by, made_at
    FROM receipt_issues
    WHERE client_id = :client_id
    ORDER BY receipt, number
"""
NUMBER_OF = """
    SELECT number FROM receipts
    WHERE client_id = :client_id AND transaction_id = :transaction_id
"""
ADD_NUMBER = """
    INSERT INTO receipts (client_id, number, transaction_id)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :transaction_id
    FROM receipts
    WHERE client_id = :client_id
    RETURNING number
"""
ADD_ISSUE = """
    INSERT INTO receipt_issues (client_id, receipt, number, content, to_email, made_by, made_at)
    SELECT :client_id, :receipt, COALESCE(MAX(number), 0) + 1, :content, :to_email, :made_by, :made_at
    FROM receipt_issues
    WHERE client_id = :client_id AND receipt = :receipt
"""


class Issue(NamedTuple):
    """A time that a receipt went out; all but number 1 are copies."""

    number: int
    to_email: str | None
    made_by: str
    made_at: str


class Issued(NamedTuple):
    """A receipt with its number and what went out of it, oldest first."""

    number: int
    receipt: Receipt
    issues: tuple[Issue, ...]


def receipts_of(connection: sqlite3.Connection, client_id: int) -> tuple[Issued, ...]:
    """Every receipt of the client that went out, by number."""
    rows = connection.execute(ISSUES, {"client_id": client_id}).fetchall()
    first = {row[0]: _receipt(row[2]) for row in rows if row[1] == 1}
    return tuple(
        Issued(number, receipt, tuple(Issue(row[1], *row[3:]) for row in rows if row[0] == number))
        for number, receipt in first.items()
    )


def number_of(connection: sqlite3.Connection, client_id: int, transaction: str) -> int:
    """The number of that transaction's receipt: the client's next where it has none yet."""
    named = {"client_id": client_id, "transaction_id": transaction}
    row = connection.execute(NUMBER_OF, named).fetchone()
    row = row or connection.execute(ADD_NUMBER, named).fetchone()
    return int(row[0])


def add_issue(
    connection: sqlite3.Connection,
    client_id: int,
    number: int,
    receipt: Receipt,
    to_email: str | None,
    made_by: str,
    at: datetime,
) -> None:
    connection.execute(
        ADD_ISSUE,
        {
            "client_id": client_id,
            "receipt": number,
            "content": json.dumps(receipt._asdict(), default=str, ensure_ascii=False),
            "to_email": to_email,
            "made_by": made_by,
            "made_at": at.isoformat(timespec="seconds"),
        },
    )


def _receipt(content: str) -> Receipt:
    kept = json.loads(content)
    kept["received_on"] = date.fromisoformat(kept["received_on"])
    kept["method"] = Method(kept["method"])
    kept["settles"] = tuple(
        Settles(reference, date.fromisoformat(day), amount)
        for reference, day, amount in kept["settles"]
    )
    return Receipt(**kept)
