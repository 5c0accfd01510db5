"""What was answered about a client's listings, by layout."""

import sqlite3
from collections.abc import Mapping
from typing import NamedTuple

ANSWERS = "SELECT layout, answer FROM listing_answers WHERE client_id = :client_id"
KEEP = """
    INSERT INTO listing_answers (client_id, layout, answer, made_by, made_at)
    VALUES (:client_id, :layout, :answer, :made_by, :made_at)
    ON CONFLICT (client_id, layout)
    DO UPDATE SET answer = :answer, made_by = :made_by, made_at = :made_at
    WHERE answer <> :answer
"""


OF_OTHERS = """
    SELECT answer.layout, answer.answer, client.code
    FROM listing_answers AS answer
    JOIN clients AS client ON client.id = answer.client_id
    WHERE client.code <> :code
    ORDER BY answer.made_at
"""
ALL_OF = """
    SELECT layout, answer, made_by, made_at
    FROM listing_answers
    WHERE client_id = :client_id
    ORDER BY layout
"""
FORGET = "DELETE FROM listing_answers WHERE client_id = :client_id AND layout = :layout"
LAYOUTS = "SELECT layout, name FROM listing_layouts WHERE client_id = :client_id"
NAME = """
    INSERT INTO listing_layouts (client_id, layout, name) VALUES (:client_id, :layout, :name)
    ON CONFLICT (client_id, layout) DO UPDATE SET name = :name
"""


class KeptAnswer(NamedTuple):
    """*layout*: what was asked, and the names of the columns, apart by a colon."""

    layout: str
    answer: str
    by: str
    at: str


def kept_answers(connection: sqlite3.Connection, client_id: int) -> list[KeptAnswer]:
    """All that is kept for a client, with who said it and when."""
    found = connection.execute(ALL_OF, {"client_id": client_id}).fetchall()
    return [KeptAnswer(*row) for row in found]


def answers_of_others(connection: sqlite3.Connection, code: str) -> list[tuple[str, str, str]]:
    """Layout, answer and client of what was answered for other clients, the latest last."""
    return connection.execute(OF_OTHERS, {"code": code}).fetchall()


def forget(connection: sqlite3.Connection, client_id: int, layout: str) -> int:
    """Forget one answer, by what was asked and the layout; how many that were."""
    return connection.execute(FORGET, {"client_id": client_id, "layout": layout}).rowcount


def layout_names(connection: sqlite3.Connection, client_id: int) -> dict[str, str]:
    """What layouts are called, by the names of their columns."""
    return dict(connection.execute(LAYOUTS, {"client_id": client_id}).fetchall())


def name_layout(connection: sqlite3.Connection, client_id: int, layout: str, name: str) -> None:
    connection.execute(NAME, {"client_id": client_id, "layout": layout, "name": name})


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
