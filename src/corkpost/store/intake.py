"""What each change brought, counted: the record of what was taken in."""

import sqlite3
from typing import NamedTuple

TRANSACTIONS = """
    SELECT change_number, COUNT(*)
    FROM transactions
    WHERE client_id = :client_id
    GROUP BY change_number
"""
# A row that newer books replaced comes again under its id with the same change; one that they no
# longer have does not.
SUPERSEDED = """
    SELECT mark.change_number,
           SUM(EXISTS (
             SELECT 1 FROM transactions AS newer
             WHERE newer.client_id = old.client_id AND newer.id = old.id
               AND newer.change_number = mark.change_number)),
           COUNT(*)
    FROM superseded AS mark
    JOIN transactions AS old ON old.client_id = mark.client_id AND old.seq = mark.seq
    WHERE mark.client_id = :client_id AND mark.of_table = 'transactions'
    GROUP BY mark.change_number
"""
STATEMENTS = """
    SELECT statement.change_number, statement.account, MIN(statement.first_day),
           MAX(statement.last_day), COUNT(line.id)
    FROM statements AS statement
    LEFT JOIN statement_lines AS line
      ON line.client_id = statement.client_id AND line.statement_number = statement.number
    WHERE statement.client_id = :client_id
    GROUP BY statement.change_number, statement.account
    ORDER BY statement.change_number, statement.account
"""


class StatementBrought(NamedTuple):
    """Of one account. *lines* are those that were new."""

    account: str
    first_day: str
    last_day: str
    lines: int


class Brought(NamedTuple):
    """What a change brought, in transactions, and statements."""

    new: int
    changed: int
    removed: int
    statements: tuple[StatementBrought, ...]


def brought(connection: sqlite3.Connection, client_id: int) -> dict[int, Brought]:
    """By change: how many transactions were new, changed and removed, and the statements."""
    named = {"client_id": client_id}
    counts = dict(connection.execute(TRANSACTIONS, named).fetchall())
    marks = {row[0]: row[1:] for row in connection.execute(SUPERSEDED, named)}
    statements: dict[int, list[StatementBrought]] = {}
    for row in connection.execute(STATEMENTS, named):
        statements.setdefault(row[0], []).append(StatementBrought(*row[1:]))
    found = {}
    for number in counts.keys() | marks.keys() | statements.keys():
        changed, marked = marks.get(number, (0, 0))
        found[number] = Brought(
            new=counts.get(number, 0) - changed,
            changed=changed,
            removed=marked - changed,
            statements=tuple(statements.get(number, ())),
        )
    return found
