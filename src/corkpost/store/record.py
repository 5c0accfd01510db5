"""The record of what the practice's people did besides posting: only added to, each row chained."""

import hashlib
import json
import sqlite3
from collections.abc import Iterable
from datetime import datetime
from typing import NamedTuple

GENESIS = "0" * 64
LAST = "SELECT number, digest FROM record ORDER BY number DESC LIMIT 1"
ADD = """
    INSERT INTO record (number, at, kind, who, client, detail, address, previous, digest)
    VALUES (:number, :at, :kind, :who, :client, :detail, :address, :previous, :digest)
"""
LISTED = """
    SELECT number, at, kind, who, client, detail, address
    FROM record
    WHERE at >= :first AND at < :after
      AND (:words = '' OR instr(lower(kind || ' ' || who || ' ' || client || ' ' || detail), :words) > 0)
      AND number < :before
    ORDER BY number DESC
    LIMIT :most
"""
DIGEST_AT = "SELECT digest FROM record WHERE number = :number"
EVERY = """
    SELECT number, at, kind, who, client, detail, address, previous, digest
    FROM record ORDER BY number
"""


class Event(NamedTuple):
    """*who*: a person's code, or `machine`. *client*: empty where it is about none."""

    at: datetime
    kind: str
    who: str
    client: str = ""
    detail: str = ""
    address: str = ""


class RecordRow(NamedTuple):
    number: int
    at: str
    kind: str
    who: str
    client: str
    detail: str
    address: str


def add_events(connection: sqlite3.Connection, events: Iterable[Event]) -> None:
    """Add these to the record, within the caller's write transaction."""
    row = connection.execute(LAST).fetchone()
    number, previous = row or (0, GENESIS)
    for event in events:
        number += 1
        fields = [event.at.isoformat(timespec="seconds"), *event[1:]]
        digest = _digest(number, fields, previous)
        names = ("at", "kind", "who", "client", "detail", "address")
        connection.execute(
            ADD,
            {
                "number": number,
                **dict(zip(names, fields, strict=True)),
                "previous": previous,
                "digest": digest,
            },
        )
        previous = digest


def _digest(number: int, fields: list[str], previous: str) -> str:
    content = json.dumps([number, *fields, previous], ensure_ascii=False)
    return hashlib.sha256(content.encode()).hexdigest()


def listed(
    connection: sqlite3.Connection, first: str, after: str, words: str, before: int, most: int
) -> list[RecordRow]:
    """The latest rows first, of the days from *first* to before *after*, that have these *words* in them
    and a number below *before*."""
    found = connection.execute(
        LISTED,
        {
            "first": first,
            "after": after,
            "words": words.lower(),
            "before": before,
            "most": most,
        },
    )
    return [RecordRow(*row) for row in found]


def broken_at(connection: sqlite3.Connection) -> int | None:
    """The number of the first row that is not what was written, or that one is missing before; None where
    the record proves."""
    previous, expected = GENESIS, 1
    for number, *fields, was, digest in connection.execute(EVERY):
        if number != expected or was != previous or _digest(number, fields, previous) != digest:
            return int(number)
        previous, expected = digest, expected + 1
    return None


def digest_at(connection: sqlite3.Connection, number: int) -> str | None:
    """The digest of that row; None where there is none."""
    row = connection.execute(DIGEST_AT, {"number": number}).fetchone()
    return row[0] if row else None


def head(connection: sqlite3.Connection) -> tuple[int, str]:
    """The number and digest of the last row; nothing and GENESIS where there is none."""
    row = connection.execute(LAST).fetchone()
    return (row[0], row[1]) if row else (0, GENESIS)
