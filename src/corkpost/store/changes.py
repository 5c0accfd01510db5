"""Changes: what is posted together, in a chain of digests per client, and never altered."""

import hashlib
import json
import sqlite3
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any, NamedTuple

from corkpost.core import row_kinds
from corkpost.core.books import (
    Account,
    Allocation,
    ClientFacts,
    Party,
    PostedChange,
    PriorPart,
    Tax,
    Transaction,
)
from corkpost.core.statements import Statement
from corkpost.store import rows as as_rows
from corkpost.store.clients import ADD_FACTS, facts_row, raise_revision
from corkpost.store.statements import line_rows, statement_row

GENESIS = "0" * 64
CHUNK = 5_000
LAST_CHANGE = """
    SELECT number, digest
    FROM changes
    WHERE client_id = :client_id
    ORDER BY number DESC
    LIMIT 1
"""
ADD_CHANGE = """
    INSERT INTO changes (
      client_id, number, kind, made_by, made_at, reason, route, point, undoes,
      prior_parts, idempotency_key, content, previous, digest)
    VALUES (
      :client_id, :number, :kind, :made_by, :made_at, :reason, :route, :point, :undoes,
      :prior_parts, :idempotency_key, :content, :previous, :digest)
"""
CHANGES = """
    SELECT number, kind, made_by, made_at, reason, route, point, undoes, prior_parts,
           idempotency_key, content, previous, digest
    FROM changes
    WHERE client_id = :client_id
    ORDER BY number
"""
PARTIES_OF_CHANGE = """
    SELECT code FROM parties WHERE client_id = :client_id AND change_number = :number ORDER BY position
"""
CHANGE_WITH_KEY = """
    SELECT number
    FROM changes
    WHERE client_id = :client_id AND idempotency_key = :idempotency_key
"""
REQUEST_OF_KEY = """
    SELECT request
    FROM posted_requests
    WHERE client_id = :client_id AND idempotency_key = :idempotency_key
"""
ADD_REQUEST = """
    INSERT INTO posted_requests (client_id, idempotency_key, request)
    VALUES (:client_id, :idempotency_key, :request)
"""
NEXT_TRANSACTION = """
    SELECT COALESCE(MAX(seq), 0) + 1 FROM transactions WHERE client_id = :client_id
"""
NEXT_ALLOCATION = """
    SELECT COALESCE(MAX(seq), 0) + 1 FROM allocations WHERE client_id = :client_id
"""
ADD_LINE = """
    INSERT INTO lines (
      client_id, transaction_seq, position, number, account, amount, party, tax_code,
      description, dimensions, currency, foreign_amount, tax_date, other)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
"""
ADD_TRANSACTION = """
    INSERT INTO transactions (
      client_id, seq, change_number, id, kind, posting_date, document_date, due_date,
      entered_at, entered_by, reference, party, memo, source, currency, rate, reverses,
      entry_kind, corrects, reason, other)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
"""
ADD_ALLOCATION = """
    INSERT INTO allocations (
      client_id, seq, change_number, id, date, party, debit_transaction,
      credit_transaction, amount, foreign_amount, undoes, other)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
"""
ADD_ACCOUNT = """
    INSERT INTO accounts (
      client_id, code, change_number, position, name, type, role, owner, tax_code,
      expected_type, other)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
"""
ADD_PARTY = """
    INSERT INTO parties (client_id, code, change_number, position, name, kind, share, aliases, other)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
"""
ADD_TAX = """
    INSERT INTO taxes (client_id, code, change_number, position, name, rate, kind, recoverable, other)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
"""
ADD_KEPT = """
    INSERT INTO kept_rows (client_id, of_table, key, change_number, position, content)
    VALUES (?, ?, ?, ?, ?, ?)
"""
ADD_STATEMENT = """
    INSERT INTO statements (
      client_id, number, change_number, account, path, first_day, last_day, opening,
      closing, off_by, off_from, warnings)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
"""
ADD_STATEMENT_LINE = """
    INSERT INTO statement_lines (
      client_id, statement_number, position, id, day, amount, text, reference,
      counterparty, bank_id, balance, value_day)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
"""
ADD_SUPERSEDED = """
    INSERT INTO superseded (client_id, of_table, seq, change_number)
    VALUES (?, ?, ?, ?)
"""

Row = tuple[Any, ...]


class ChangeHead(NamedTuple):
    """What is known of a change before it is written. *key*: posted once, however often sent."""

    kind: str
    made_by: str
    made_at: datetime
    reason: str
    route: str | None = None
    point: str | None = None
    undoes: int | None = None
    prior_parts: tuple[PriorPart, ...] = ()
    key: str | None = None


class ChangeRow(NamedTuple):
    """A change as it stands in the store."""

    number: int
    kind: str
    made_by: str
    made_at: str
    reason: str
    route: str | None
    point: str | None
    undoes: int | None
    prior_parts: str
    idempotency_key: str | None
    content: str
    previous: str
    digest: str

    @property
    def posted(self) -> PostedChange:
        parts = tuple(PriorPart(*part) for part in json.loads(self.prior_parts))
        return PostedChange(
            self.number,
            self.kind,
            self.made_by,
            self.reason,
            self.undoes,
            parts,
            self.point,
            self.route,
            date.fromisoformat(self.made_at[:10]),
        )


@dataclass
class Content:
    """The rows of a change, without client and change number, ready to be digested and written."""

    transactions: list[Row] = field(default_factory=list)
    lines: list[Row] = field(default_factory=list)
    allocations: list[Row] = field(default_factory=list)
    superseded: list[Row] = field(default_factory=list)
    accounts: list[Row] = field(default_factory=list)
    parties: list[Row] = field(default_factory=list)
    taxes: list[Row] = field(default_factory=list)
    kept: list[Row] = field(default_factory=list)
    facts: list[Row] = field(default_factory=list)
    statements: list[Row] = field(default_factory=list)
    statement_lines: list[Row] = field(default_factory=list)

    def add_transactions(self, posted: Iterable[Transaction], first_seq: int) -> None:
        for seq, transaction in enumerate(posted, first_seq):
            self.transactions.append((seq, *as_rows.transaction_row(transaction)))
            for position, line in enumerate(transaction.lines):
                self.lines.append((seq, position, *as_rows.line_row(line)))

    def add_allocations(self, allocations: Iterable[Allocation], first_seq: int) -> None:
        for seq, allocation in enumerate(allocations, first_seq):
            self.allocations.append((seq, *as_rows.allocation_row(allocation)))

    def add_accounts(self, accounts: Iterable[Account]) -> None:
        self.accounts = _keyed(accounts, as_rows.account_row)

    def add_parties(self, parties: Iterable[Party]) -> None:
        self.parties = _keyed(parties, as_rows.party_row)

    def add_taxes(self, taxes: Iterable[Tax]) -> None:
        self.taxes = _keyed(taxes, as_rows.tax_row)

    def add_kept(self, name: str, rows: Iterable[Any]) -> None:
        """Rows of one of the kinds, in their order."""
        keyed = enumerate(row_kinds.registry()[name].keyed(rows))
        self.kept += [(name, key, position, content) for position, (key, content) in keyed]

    def add_statements(self, statements: Iterable[Statement]) -> None:
        for statement in statements:
            self.statements.append(statement_row(statement))
            self.statement_lines += line_rows(statement)

    def set_facts(self, facts: ClientFacts) -> None:
        self.facts = [facts_row(facts)]

    def call_client(self, name: str) -> None:
        """Give the client another name than the one it was read under."""
        self.facts = [(name, *facts[1:]) for facts in self.facts]

    def parts(self, lines: int) -> "Iterator[Content]":
        """What comes by the ten thousand in parts of about so many lines, whole transactions in each."""
        by_seq: dict[int, list[Row]] = {}
        for row in self.lines:
            by_seq.setdefault(row[0], []).append(row)
        part = Content()
        for posted in self.transactions:
            part.transactions.append(posted)
            part.lines += by_seq.get(posted[0], [])
            if len(part.lines) >= lines:
                yield part
                part = Content()
        yield part
        for start in range(0, len(self.allocations), lines):
            yield Content(allocations=self.allocations[start : start + lines])

    def digest(self, kept_order: Sequence[str] = ()) -> str:
        """SHA-256 over every row, table by table; a table without rows leaves no trace in it.

        *kept_order*: the order of the kinds in `kept`, which says nothing and must be one: that of the
        kinds, when written and when proved.
        """
        kept_order = kept_order or tuple(row_kinds.registry())
        content = hashlib.sha256()
        kept = sorted(self.kept, key=lambda row: (kept_order.index(row[0]), row[2]))
        for name, rows in {**vars(self), "kept": kept}.items():
            if rows:
                content.update(name.encode())
            for chunk in _chunks(rows):
                content.update(json.dumps(chunk, ensure_ascii=False).encode())
        return content.hexdigest()


def _keyed(rows: Iterable[Any], row_of: Callable[[Any], Row]) -> list[Row]:
    return [(row.code, place, *row_of(row)) for place, row in enumerate(rows)]


def _chunks(rows: Sequence[Row]) -> Iterator[Sequence[Row]]:
    return (rows[start : start + CHUNK] for start in range(0, len(rows), CHUNK))


def next_transaction(connection: sqlite3.Connection, client_id: int) -> int:
    return int(connection.execute(NEXT_TRANSACTION, {"client_id": client_id}).fetchone()[0])


def next_allocation(connection: sqlite3.Connection, client_id: int) -> int:
    return int(connection.execute(NEXT_ALLOCATION, {"client_id": client_id}).fetchone()[0])


def last_change(connection: sqlite3.Connection, client_id: int) -> tuple[int, str]:
    """Number and digest of the client's last change; 0 and the chain's beginning where none is."""
    row = connection.execute(LAST_CHANGE, {"client_id": client_id}).fetchone()
    return (row[0], row[1]) if row else (0, GENESIS)


def changes_of(connection: sqlite3.Connection, client_id: int) -> list[ChangeRow]:
    return [ChangeRow(*row) for row in connection.execute(CHANGES, {"client_id": client_id})]


def change_with_key(connection: sqlite3.Connection, client_id: int, key: str) -> int | None:
    """The change that was posted with this idempotency key, if one was."""
    parameters = {"client_id": client_id, "idempotency_key": key}
    row = connection.execute(CHANGE_WITH_KEY, parameters).fetchone()
    return row[0] if row else None


def parties_of_change(connection: sqlite3.Connection, client_id: int, number: int) -> list[str]:
    """The codes of the parties that a change added."""
    rows = connection.execute(PARTIES_OF_CHANGE, {"client_id": client_id, "number": number})
    return [code for (code,) in rows]


def request_of_key(connection: sqlite3.Connection, client_id: int, key: str) -> str | None:
    """The digest of what was asked for under the key; None where none was kept."""
    parameters = {"client_id": client_id, "idempotency_key": key}
    row = connection.execute(REQUEST_OF_KEY, parameters).fetchone()
    return row[0] if row else None


def add_request(connection: sqlite3.Connection, client_id: int, key: str, request: str) -> None:
    parameters = {"client_id": client_id, "idempotency_key": key, "request": request}
    connection.execute(ADD_REQUEST, parameters)


def head_digest(number: int, head: Sequence[Any], content: str, previous: str) -> str:
    """The digest of a change: over what is known of it, its content, and the one before."""
    link = json.dumps([number, *head, content, previous], ensure_ascii=False)
    return hashlib.sha256(link.encode()).hexdigest()


def append(
    connection: sqlite3.Connection,
    client_id: int,
    head: ChangeHead,
    content: Content,
    content_digest: str | None = None,
    *,
    bulk_is_there: bool = False,
) -> int:
    """Write a change within the caller's write transaction; its number.

    *content_digest* where it was computed before the write lock was taken. *bulk_is_there*: its
    transactions, lines and allocations were written in parts.
    """
    before, previous = last_change(connection, client_id)
    number = before + 1
    digested = content_digest or content.digest()
    parts = json.dumps([list(part) for part in head.prior_parts])
    made_at = head.made_at.isoformat(timespec="seconds")
    fields = [head.kind, head.made_by, made_at, head.reason, head.route, head.point, head.undoes]
    digest = head_digest(number, [*fields, parts, head.key], digested, previous)
    connection.execute(
        ADD_CHANGE,
        {
            "client_id": client_id,
            "number": number,
            "kind": head.kind,
            "made_by": head.made_by,
            "made_at": made_at,
            "reason": head.reason,
            "route": head.route,
            "point": head.point,
            "undoes": head.undoes,
            "prior_parts": parts,
            "idempotency_key": head.key,
            "content": digested,
            "previous": previous,
            "digest": digest,
        },
    )
    if not bulk_is_there:
        write_bulk(connection, client_id, number, content)
    _write(connection, client_id, number, content)
    raise_revision(connection, client_id)
    return number


def write_bulk(connection: sqlite3.Connection, client: int, number: int, content: Content) -> None:
    """Write what comes by the ten thousand: each transaction's lines before it, in one go with it."""
    many = connection.executemany
    many(ADD_LINE, ((client, *row) for row in content.lines))
    many(ADD_TRANSACTION, ((client, row[0], number, *row[1:]) for row in content.transactions))
    many(ADD_ALLOCATION, ((client, row[0], number, *row[1:]) for row in content.allocations))


def _write(connection: sqlite3.Connection, client: int, number: int, content: Content) -> None:
    many = connection.executemany
    many(ADD_SUPERSEDED, ((client, *row, number) for row in content.superseded))
    many(ADD_ACCOUNT, ((client, row[0], number, *row[1:]) for row in content.accounts))
    many(ADD_PARTY, ((client, row[0], number, *row[1:]) for row in content.parties))
    many(ADD_TAX, ((client, row[0], number, *row[1:]) for row in content.taxes))
    many(ADD_KEPT, ((client, row[0], row[1], number, *row[2:]) for row in content.kept))
    many(ADD_STATEMENT, ((client, row[0], number, *row[1:]) for row in content.statements))
    many(ADD_STATEMENT_LINE, ((client, *row) for row in content.statement_lines))
    many(ADD_FACTS, ((client, number, *row) for row in content.facts))
