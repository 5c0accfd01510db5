"""Many rows in one step. For each step of a query the interpreter is given up, and where many work at once
every single row would wait to have it back."""

import json
import sqlite3
from collections.abc import Iterator, Mapping
from operator import itemgetter
from typing import Any

LAST_SEQ = "SELECT COALESCE(MAX(seq), 0) FROM {table} WHERE client_id = :client_id"
AT_ONCE = 2_000
"""So many transactions or allocations are read in one step."""
WHOLE = "SELECT json_group_array(json_array({columns})) FROM ({sql})"


def in_one_step(
    connection: sqlite3.Connection, sql: str, named: Mapping[str, Any] | None = None
) -> list[list[Any]]:
    """All rows of a query of texts and whole numbers, in any order."""
    found = connection.execute(f"{sql} LIMIT 0", named or {}).description
    whole = WHOLE.format(columns=", ".join(column[0] for column in found), sql=sql)
    rows: list[list[Any]] = json.loads(connection.execute(whole, named or {}).fetchone()[0])
    return rows


def in_steps(
    connection: sqlite3.Connection, sql: str, table: str, client_id: int
) -> Iterator[list[Any]]:
    """The rows of a query between `:first` and `:last` of a client's table, in the order of their first two
    columns, the first of which is the seq."""
    named = {"client_id": client_id}
    (last,) = connection.execute(LAST_SEQ.format(table=table), named).fetchone()
    for first in range(0, last + 1, AT_ONCE):
        rows = in_one_step(connection, sql, {**named, "first": first, "last": first + AT_ONCE - 1})
        rows.sort(key=itemgetter(0, 1))
        yield from rows
