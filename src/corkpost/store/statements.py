"""Bank statements, their lines, and the reconciliations that were finished."""

import json
import sqlite3
from collections import defaultdict
from collections.abc import Iterable
from datetime import date, datetime
from operator import itemgetter
from typing import Any, NamedTuple

from corkpost.core.books import FinishedReconciliation, SetAside
from corkpost.core.statements import Statement, StatementLine
from corkpost.store.steps import in_one_step

STATEMENTS = """
    SELECT number, account, path, first_day, last_day, opening, closing, off_by, off_from, warnings
    FROM statements
    WHERE client_id = :client_id AND change_number NOT IN ({set_aside})
    ORDER BY number
"""
SET_ASIDE = """
    SELECT number, path
    FROM statements
    WHERE client_id = :client_id AND change_number IN ({set_aside})
    ORDER BY number
"""
BROUGHT_BY = """
    SELECT number FROM statements WHERE client_id = :client_id AND change_number = :change
"""
UNDONE = "SELECT undoes FROM changes WHERE client_id = :client_id AND undoes IS NOT NULL"
LINES = """
    SELECT id, statement_number, day, amount, text, reference, counterparty, bank_id, balance,
           value_day, position
    FROM statement_lines
    WHERE client_id = :client_id
"""
FINISHED = """
    SELECT done.number, done.account, done.statement_number, done.content, done.made_by,
           done.made_at, reopening.reason, reopening.made_by, reopening.made_at
    FROM reconciliations AS done
    LEFT JOIN reconciliation_reopenings AS reopening
      ON reopening.client_id = done.client_id
     AND reopening.reconciliation_number = done.number
    WHERE done.client_id = :client_id
    ORDER BY done.number
"""
ADD_FINISHED = """
    INSERT INTO reconciliations (client_id, number, account, statement_number, content, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :account, :statement, :content, :made_by,
           :made_at
    FROM reconciliations
    WHERE client_id = :client_id
"""
ADD_REOPENING = """
    INSERT INTO reconciliation_reopenings (client_id, reconciliation_number, reason, made_by, made_at)
    VALUES (:client_id, :number, :reason, :made_by, :made_at)
"""
COLUMN_CHOICE = """
    SELECT columns
    FROM column_choices
    WHERE client_id = :client_id AND account = :account AND heading = :heading
"""
KEEP_COLUMN_CHOICE = """
    INSERT INTO column_choices (client_id, account, heading, columns)
    VALUES (:client_id, :account, :heading, :columns)
    ON CONFLICT (client_id, account, heading) DO UPDATE SET columns = :columns
"""

Row = tuple[Any, ...]


def statement_row(statement: Statement) -> Row:
    """The statement, without client and change."""
    return (
        statement.number,
        statement.account,
        statement.path,
        statement.first_day.isoformat(),
        statement.last_day.isoformat(),
        statement.opening,
        statement.closing,
        statement.off_by,
        statement.off_from,
        json.dumps(statement.warnings, ensure_ascii=False),
    )


def line_rows(statement: Statement) -> list[Row]:
    """Its lines, without client."""
    return [
        (
            statement.number,
            position,
            line.id,
            line.day.isoformat(),
            line.amount,
            line.text,
            line.reference,
            line.counterparty,
            line.bank_id,
            line.balance,
            line.value_day.isoformat() if line.value_day else None,
        )
        for position, line in enumerate(statement.lines)
    ]


def statements_of(connection: sqlite3.Connection, client_id: int) -> tuple[Statement, ...]:
    """Every statement of the client that was not set aside, with its lines, as they came."""
    named = {"client_id": client_id}
    lines: dict[int, list[StatementLine]] = defaultdict(list)
    for row in sorted(in_one_step(connection, LINES, named), key=itemgetter(1, 10)):
        value_day = date.fromisoformat(row[9]) if row[9] else None
        cells: Row = (row[0], row[1], date.fromisoformat(row[2]), *row[3:9], value_day)
        line = StatementLine(*cells)
        lines[row[1]].append(line)
    found = []
    for row in connection.execute(STATEMENTS.format(set_aside=UNDONE), named):
        first_day, last_day = date.fromisoformat(row[3]), date.fromisoformat(row[4])
        warnings, own = tuple(json.loads(row[9])), tuple(lines[row[0]])
        fields: Row = (*row[:3], first_day, last_day, *row[5:9], warnings, own)
        found.append(Statement(*fields))
    return tuple(found)


def set_aside_of(connection: sqlite3.Connection, client_id: int) -> tuple[SetAside, ...]:
    """The statements of the client that were set aside."""
    found = connection.execute(SET_ASIDE.format(set_aside=UNDONE), {"client_id": client_id})
    return tuple(SetAside(*row) for row in found)


def brought_by(connection: sqlite3.Connection, client_id: int, change: int) -> frozenset[int]:
    """The numbers of the statements that a change brought."""
    named = {"client_id": client_id, "change": change}
    return frozenset(row[0] for row in connection.execute(BROUGHT_BY, named))


class FinishedRow(NamedTuple):
    """A finished reconciliation as it was fixed. *content*: the answer that was shown, as JSON."""

    number: int
    account: str
    statement: int
    content: str
    made_by: str
    made_at: str
    reopened_why: str | None
    reopened_by: str | None
    reopened_at: str | None

    @property
    def stands(self) -> bool:
        return self.reopened_by is None


def finished_of(connection: sqlite3.Connection, client_id: int) -> list[FinishedRow]:
    """Every reconciliation that was ever finished, oldest first."""
    return [FinishedRow(*row) for row in connection.execute(FINISHED, {"client_id": client_id})]


def standing(rows: Iterable[FinishedRow]) -> tuple[FinishedReconciliation, ...]:
    """What of them still fixes its agreements."""
    return tuple(
        FinishedReconciliation(
            row.number, row.account, row.statement, frozenset(json.loads(row.content)["groups"])
        )
        for row in rows
        if row.stands
    )


def add_finished(
    connection: sqlite3.Connection,
    client_id: int,
    *,
    account: str,
    statement: int,
    content: str,
    made_by: str,
    made_at: datetime,
) -> None:
    connection.execute(
        ADD_FINISHED,
        {
            "client_id": client_id,
            "account": account,
            "statement": statement,
            "content": content,
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )


def add_reopening(
    connection: sqlite3.Connection,
    client_id: int,
    *,
    number: int,
    reason: str,
    made_by: str,
    made_at: datetime,
) -> None:
    connection.execute(
        ADD_REOPENING,
        {
            "client_id": client_id,
            "number": number,
            "reason": reason,
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )


def column_choice(
    connection: sqlite3.Connection, client_id: int, account: str, heading: str
) -> str | None:
    """What was answered last about files with that heading."""
    named = {"client_id": client_id, "account": account, "heading": heading}
    row = connection.execute(COLUMN_CHOICE, named).fetchone()
    return row[0] if row else None


def keep_column_choice(
    connection: sqlite3.Connection, client_id: int, account: str, heading: str, columns: str
) -> None:
    named = {"client_id": client_id, "account": account, "heading": heading, "columns": columns}
    connection.execute(KEEP_COLUMN_CHOICE, named)
