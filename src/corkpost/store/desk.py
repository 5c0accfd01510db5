"""What the desk says of each client, kept while neither the client nor the day has moved."""

import sqlite3
from datetime import date
from typing import NamedTuple

from corkpost.store.steps import in_one_step

SUMMARIES = """
    SELECT client_id, revision, today, content FROM summaries
"""
KEEP_SUMMARY = """
    INSERT INTO summaries (client_id, revision, today, content)
    VALUES (:client_id, :revision, :today, :content)
    ON CONFLICT (client_id)
    DO UPDATE SET revision = :revision, today = :today, content = :content
"""


class Summary(NamedTuple):
    revision: int
    today: date
    content: str


def summaries(connection: sqlite3.Connection) -> dict[int, Summary]:
    """By client."""
    return {
        client: Summary(revision, date.fromisoformat(today), content)
        for client, revision, today, content in in_one_step(connection, SUMMARIES)
    }


def keep_summary(connection: sqlite3.Connection, client_id: int, summary: Summary) -> None:
    parameters = {**summary._asdict(), "client_id": client_id, "today": summary.today.isoformat()}
    connection.execute(KEEP_SUMMARY, parameters)
