"""Rows of a register over all clients, without their books."""

import sqlite3
from collections.abc import Iterator

from corkpost.core.row_kinds import Row, RowKind

ROWS = """
    SELECT clients.code, kept.key, kept.content
    FROM kept_rows AS kept JOIN clients ON clients.id = kept.client_id
    WHERE kept.of_table = ?
    ORDER BY clients.code, kept.change_number, kept.position
"""


def standing_everywhere(connection: sqlite3.Connection, kind: RowKind) -> Iterator[tuple[str, Row]]:
    """Each row that stands, with its client's code."""
    latest: dict[tuple[str, str], Row] = {}
    for client, key, content in connection.execute(ROWS, (kind.name,)):
        latest[client, key] = kind.row(content)
    yield from ((client, row) for (client, _), row in latest.items() if row.stands)
