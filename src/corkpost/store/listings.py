"""What was answered about a client's listings, by layout."""

import sqlite3
from collections.abc import Mapping

ANSWERS = "SELECT layout, answer FROM listing_answers WHERE client_id = :client_id"
KEEP = """
    INSERT INTO listing_answers (client_id, layout, answer, made_by, made_at)
    VALUES (:client_id, :layout, :answer, :made_by, :made_at)
    ON CONFLICT (client_id, layout)
    DO UPDATE SET answer = :answer, made_by = :made_by, made_at = :made_at
    WHERE answer <> :answer
"""


def answers_of(connection: sqlite3.Connection, client_id: int) -> dict[str, str]:
    """All that is kept, by what was asked and the layout."""
    return dict(connection.execute(ANSWERS, {"client_id": client_id}).fetchall())


def keep_answers(
    connection: sqlite3.Connection,
    client_id: int,
    answers: Mapping[str, str],
    made_by: str,
    made_at: str,
) -> None:
    for layout, answer in answers.items():
        connection.execute(
            KEEP,
            {
                "client_id": client_id,
                "layout": layout,
                "answer": answer,
                "made_by": made_by,
                "made_at": made_at,
            },
        )
