"""A witness of each row that is relied on and is in no client's chain: who altered it is found out.

Triggers write it, made here from the columns of each table, so no way of writing passes it by. A row that
was altered, added or taken away by another program shows when it is proved; a chain of witnesses that was
cut or reckoned anew shows only against its end as it was told before, kept elsewhere.
"""

import hashlib
import sqlite3
from collections.abc import Iterator
from typing import NamedTuple

GENESIS = "0" * 64

WITNESSED = frozenset(
    {
        *("decisions", "period_states", "posting_windows", "opened_years", "checklist_ticks"),
        *("seals", "seal_reopenings", "archivings", "reconciliations", "reconciliation_reopenings"),
        *(
            "proposals",
            "proposal_ends",
            "approval_rules",
            "remarks",
            "remarks_cleared",
            "line_marks",
        ),
        *("contacts", "queries", "query_wordings", "query_ends", "messages", "message_sendings"),
        *("answers", "tellings", "receipts", "receipt_issues"),
        *("papers", "incoming_papers", "paper_copies"),
        *("practice", "staff", "staff_clients", "second_factors", "tokens"),
    }
)
CHAINED = frozenset(
    {
        *("changes", "client_facts", "transactions", "lines", "allocations", "superseded"),
        *("accounts", "parties", "taxes", "kept_rows", "statements", "statement_lines"),
        *("record", "witnessed", "witness_shapes"),
    }
)
RECKONED = frozenset(
    {
        *("summaries", "kept_points"),
        *("find_amounts", "find_marks", "find_rows", "find_words"),
    }
)
"""What is reckoned from the rest, and made anew where it is missing."""
NOT_COVERED = {
    "clients": "the revision of a client",
    "drafts": "drafts",
    "jobs": "work under way",
    "posted_requests": "requests that were posted already",
    "sessions": "sessions",
    "tries": "tries to come in",
    "invitations": "invitations that are open",
    "leases": "which process does what",
    "mail_read": "which mail was read",
    "mail_begun": "which mail was begun",
    "places": "where each person was last",
    "visits": "what each person saw last",
    "readings": "what each person has read",
    "listing_answers": "answers about clients' listings",
    "listing_layouts": "names of clients' layouts",
    "column_choices": "columns chosen for a bank's files",
    "change_kinds": "lists of kinds",
    "decision_states": "lists of kinds",
    "row_kinds": "lists of kinds",
}
"""What may be altered without `verify` seeing it, by table, in words."""

ROW = "sha256({columns})"
TRIGGER = """
    CREATE TRIGGER {table}_{event}_witnessed AFTER {event} ON {table}
    BEGIN
      INSERT INTO witnessed (number, shape, key, content, digest)
      SELECT number, shape, key, content,
             sha256(number || ' ' || shape || ' ' || key || ' ' || content || ' ' || previous)
      FROM (
        SELECT COALESCE(MAX(number), 0) + 1 AS number, {key} AS key, {content} AS content,
               (SELECT id FROM witness_shapes
                WHERE of_table = '{table}' AND columns = '{columns}') AS shape,
               COALESCE((SELECT digest FROM witnessed ORDER BY number DESC LIMIT 1), '{genesis}')
                 AS previous
        FROM witnessed
      );
    END
"""
"""Changed here, it is in a store once a migration comes after: only then are the triggers made anew."""
SHAPE = """
    SELECT id FROM witness_shapes WHERE of_table = :table AND columns = :columns
"""
ADD_SHAPE = """
    INSERT INTO witness_shapes (of_table, key, columns)
    VALUES (:table, :key, :columns)
    RETURNING id
"""
ADD = """
    INSERT INTO witnessed (number, shape, key, content, digest)
    VALUES (:number, :shape, :key, :content, :digest)
"""
LAST = "SELECT number, digest FROM witnessed ORDER BY number DESC LIMIT 1"
DIGEST_AT = "SELECT digest FROM witnessed WHERE number = :number"
EVERY = "SELECT number, shape, key, content, digest FROM witnessed ORDER BY number"
SHAPES = "SELECT id, of_table, key, columns FROM witness_shapes ORDER BY id"
ROWS = "SELECT {key}, {content} FROM {table} ORDER BY 1"
SCHEMA = """
    SELECT type || ' ' || name, sql FROM sqlite_master
    WHERE sql IS NOT NULL
      AND name NOT LIKE 'sqlite!_%' ESCAPE '!'
      AND name NOT LIKE '!_litestream!_%' ESCAPE '!'
"""


class Shape(NamedTuple):
    """Which columns of a table were witnessed: those it had then."""

    id: int
    table: str
    key: tuple[str, ...]
    columns: tuple[str, ...]


def sha256(text: str) -> str:
    """As the triggers call it."""
    return hashlib.sha256(text.encode("utf-8", "surrogatepass")).hexdigest()


def install(connection: sqlite3.Connection) -> None:
    """Make the triggers for the columns that the tables have now, and witness what nobody witnessed yet."""
    of_shape = {shape.id: shape.table for shape in _shapes(connection)}
    known = {(of_shape[of], key) for _, of, key, _, _ in connection.execute(EVERY)}
    for table in sorted(WITNESSED):
        shape = _shape_now(connection, table)
        for event, row in (("insert", "NEW"), ("update", "NEW"), ("delete", "OLD")):
            connection.execute(f"DROP TRIGGER IF EXISTS {table}_{event}_witnessed")
            content = "''" if event == "delete" else ROW.format(columns=_quoted(shape.columns, row))
            connection.execute(
                TRIGGER.format(
                    table=table,
                    event=event,
                    columns=",".join(shape.columns),
                    key=_quoted(shape.key, row),
                    content=content,
                    genesis=GENESIS,
                )
            )
        _witness_the_rest(connection, shape, known)


def _shape_now(connection: sqlite3.Connection, table: str) -> Shape:
    found = connection.execute(f"PRAGMA table_info({table})").fetchall()
    columns = tuple(row[1] for row in found)
    key = tuple(row[1] for row in sorted(found, key=lambda row: row[5]) if row[5])
    named = {"table": table, "key": ",".join(key), "columns": ",".join(columns)}
    row = connection.execute(SHAPE, named).fetchone()
    row = row or connection.execute(ADD_SHAPE, named).fetchone()
    return Shape(row[0], table, key, columns)


def _quoted(columns: tuple[str, ...], row: str) -> str:
    return " || ',' || ".join(f"quote({row}.{column})" for column in columns)


def _rows(connection: sqlite3.Connection, shape: Shape) -> Iterator[tuple[str, str]]:
    """Each row's key, and what its witness must say."""
    key = _quoted(shape.key, shape.table)
    content = ROW.format(columns=_quoted(shape.columns, shape.table))
    yield from connection.execute(ROWS.format(key=key, content=content, table=shape.table))


def _witness_the_rest(
    connection: sqlite3.Connection, shape: Shape, known: set[tuple[str, str]]
) -> None:
    number, previous = head(connection)
    for key, content in _rows(connection, shape):
        if (shape.table, key) in known:
            continue
        number += 1
        previous = _link(number, shape.id, key, content, previous)
        connection.execute(
            ADD,
            {
                "number": number,
                "shape": shape.id,
                "key": key,
                "content": content,
                "digest": previous,
            },
        )


def _shapes(connection: sqlite3.Connection) -> list[Shape]:
    return [
        Shape(row[0], row[1], tuple(row[2].split(",")), tuple(row[3].split(",")))
        for row in connection.execute(SHAPES)
    ]


def _link(number: int, shape: int, key: str, content: str, previous: str) -> str:
    return sha256(f"{number} {shape} {key} {content} {previous}")


def head(connection: sqlite3.Connection) -> tuple[int, str]:
    """The number and digest of the last witness; nothing and GENESIS where there is none."""
    row = connection.execute(LAST).fetchone()
    return (row[0], row[1]) if row else (0, GENESIS)


def digest_at(connection: sqlite3.Connection, number: int) -> str | None:
    """The digest of that witness; None where there is none."""
    row = connection.execute(DIGEST_AT, {"number": number}).fetchone()
    return row[0] if row else None


def faults(connection: sqlite3.Connection) -> Iterator[str]:
    """What is not as it was witnessed, in words, with the table and the key of the row."""
    shapes = {shape.id: shape for shape in _shapes(connection)}
    said: dict[tuple[str, str], tuple[int, str]] = {}
    previous, expected = GENESIS, 1
    for number, of, key, content, digest in connection.execute(EVERY):
        if number != expected or _link(number, of, key, content, previous) != digest:
            yield f"witness {number} was altered, or one before it is gone"
            break
        said[shapes[of].table, key] = (of, content)
        previous, expected = digest, expected + 1
    for shape in shapes.values():
        found = dict(_rows(connection, shape))
        for key, content in found.items():
            of, witnessed = said.get((shape.table, key), (shape.id, ""))
            if of == shape.id and witnessed != content:
                how = "was altered" if witnessed else "is there without a witness"
                yield f"a row of {shape.table} ({key}) {how}"
        for (table, key), (of, content) in said.items():
            if table == shape.table and of == shape.id and content and key not in found:
                yield f"a row of {table} ({key}) is gone"


def schema_faults(connection: sqlite3.Connection, fresh: sqlite3.Connection) -> Iterator[str]:
    """How the store's tables, indexes and triggers differ from those of *fresh*, a new store."""
    here, there = (dict(one.execute(SCHEMA).fetchall()) for one in (connection, fresh))
    for name in sorted(there.keys() - here.keys()):
        yield f"the {name} is missing"
    for name in sorted(here.keys() - there.keys()):
        yield f"the {name} is not ours"
    for name in sorted(here.keys() & there.keys()):
        if here[name] != there[name]:
            yield f"the {name} was altered"
