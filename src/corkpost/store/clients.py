"""Clients: who they are, their revision, and the facts that their books give."""

import json
import sqlite3
from datetime import date, datetime
from typing import Any, NamedTuple

from corkpost.core.books import ClientFacts
from corkpost.core.kinds import Entity
from corkpost.core.money import Currency
from corkpost.core.periods import FinancialYear
from corkpost.core.refusals import Refusal
from corkpost.store.steps import in_one_step

CLIENTS = """
    SELECT id, code, revision
    FROM clients
    WHERE whole
"""
CLIENT = """
    SELECT id, code, revision
    FROM clients
    WHERE code = :code AND whole
"""
ARCHIVED = """
    SELECT client_id FROM archivings AS latest
    WHERE archived AND number = (SELECT MAX(number) FROM archivings
                                 WHERE client_id = latest.client_id)
"""
IS_ARCHIVED = f"{ARCHIVED} AND client_id = :client_id"
ADD_CLIENT = """
    INSERT INTO clients (code) VALUES (:code)
    RETURNING id, code, revision
"""
RAISE_REVISION = """
    UPDATE clients SET revision = revision + 1 WHERE id = :client_id
"""
ADD_FACTS = """
    INSERT INTO client_facts (
      client_id, change_number, name, entity, currency, year_end, tax_registered,
      books_from, books_to, filed_through, filed_on, tax_returned_through, materiality,
      capital_item, years)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
"""
FACTS = """
    SELECT name, entity, currency, year_end, tax_registered, books_from, books_to, filed_through,
           filed_on, tax_returned_through, materiality, capital_item, years
    FROM client_facts
    WHERE client_id = :client_id
    ORDER BY change_number DESC
    LIMIT 1
"""


class ClientRow(NamedTuple):
    """*revision* is raised by whatever changes what is shown of the client."""

    id: int
    code: str
    revision: int


def all_clients(connection: sqlite3.Connection) -> list[ClientRow]:
    return sorted(
        (ClientRow(*row) for row in in_one_step(connection, CLIENTS)), key=lambda row: row.code
    )


def client_named(connection: sqlite3.Connection, code: str) -> ClientRow | None:
    row = connection.execute(CLIENT, {"code": code}).fetchone()
    return ClientRow(*row) if row else None


def add_client(connection: sqlite3.Connection, code: str) -> ClientRow:
    return ClientRow(*connection.execute(ADD_CLIENT, {"code": code}).fetchone())


def archived(connection: sqlite3.Connection) -> frozenset[int]:
    """The ids of the clients that are read and not written to."""
    return frozenset(row[0] for row in connection.execute(ARCHIVED))


class Archived(Refusal):
    """Nothing is written to a client that is archived."""

    title = "The client is archived"


def must_be_at_work(connection: sqlite3.Connection, client_id: int) -> None:
    """Raise Archived where the client is. Whatever writes to a client asks, or raises its revision."""
    if connection.execute(IS_ARCHIVED, {"client_id": client_id}).fetchone():
        raise Archived("Nothing is written to it: a partner brings it back, on the Practice page.")


def raise_revision(
    connection: sqlite3.Connection, client_id: int, *, though_archived: bool = False
) -> None:
    """Say that what is shown of the client changes: whatever writes to it says so, in its transaction.

    Raises Archived where the client is, unless it comes from outside (*though_archived*).
    """
    if not though_archived:
        must_be_at_work(connection, client_id)
    connection.execute(RAISE_REVISION, {"client_id": client_id})


def facts_row(facts: ClientFacts) -> tuple[Any, ...]:
    """The row of these facts, without client and change."""
    years = [[y.label, str(y.first_day), str(y.last_day), _text(y.due)] for y in facts.years]
    return (
        facts.name,
        facts.entity,
        facts.currency.code,
        "{}-{}".format(*facts.year_end),
        int(facts.tax_registered),
        _text(facts.books_from),
        _text(facts.books_to),
        _text(facts.filed_through),
        facts.filed_on.isoformat() if facts.filed_on else None,
        _text(facts.tax_returned_through),
        facts.materiality,
        facts.capital_item,
        json.dumps(years),
    )


def facts_of(connection: sqlite3.Connection, client: ClientRow) -> ClientFacts:
    """The newest facts of the client."""
    row = connection.execute(FACTS, {"client_id": client.id}).fetchone()
    month, day = row[3].split("-")
    return ClientFacts(
        code=client.code,
        name=row[0],
        entity=Entity(row[1]),
        currency=Currency(row[2]),
        year_end=(int(month), int(day)),
        tax_registered=bool(row[4]),
        books_from=_day(row[5]),
        books_to=_day(row[6]),
        filed_through=_day(row[7]),
        filed_on=datetime.fromisoformat(row[8]) if row[8] else None,
        tax_returned_through=_day(row[9]),
        materiality=row[10],
        capital_item=row[11],
        years=tuple(
            FinancialYear(label, date.fromisoformat(first), date.fromisoformat(last), _day(due))
            for label, first, last, due in json.loads(row[12])
        ),
    )


def _text(day: date | None) -> str | None:
    return day.isoformat() if day else None


def _day(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None
