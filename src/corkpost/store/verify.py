"""Proving the store: reading every change's rows again and digesting them again."""

import sqlite3
from collections import defaultdict
from collections.abc import Iterator
from typing import Any, NamedTuple

from corkpost.store.changes import (
    GENESIS,
    ChangeRow,
    Content,
    changes_of,
    head_digest,
)

TRANSACTION_ROWS = """
    SELECT change_number, seq, id, kind, posting_date, document_date, due_date, entered_at,
           entered_by, reference, party, memo, source, currency, rate, reverses, entry_kind,
           corrects, reason, other
    FROM transactions
    WHERE client_id = :client_id
    ORDER BY seq
"""
LINE_ROWS = """
    SELECT posted.change_number, line.transaction_seq, line.position, line.number, line.account,
           line.amount, line.party, line.tax_code, line.description, line.dimensions,
           line.currency, line.foreign_amount, line.tax_date, line.other
    FROM lines AS line
    LEFT JOIN transactions AS posted
      ON posted.client_id = line.client_id AND posted.seq = line.transaction_seq
    WHERE line.client_id = :client_id
    ORDER BY line.transaction_seq, line.position
"""
ALLOCATION_ROWS = """
    SELECT change_number, seq, id, date, party, debit_transaction, credit_transaction, amount,
           foreign_amount, undoes, other
    FROM allocations
    WHERE client_id = :client_id
    ORDER BY seq
"""
SUPERSEDED_ROWS = """
    SELECT change_number, of_table, seq
    FROM superseded
    WHERE client_id = :client_id
    ORDER BY of_table DESC, seq
"""
ACCOUNT_ROWS = """
    SELECT change_number, code, position, name, type, role, owner, tax_code, expected_type, other
    FROM accounts
    WHERE client_id = :client_id
    ORDER BY position
"""
PARTY_ROWS = """
    SELECT change_number, code, position, name, kind, share, aliases, other
    FROM parties
    WHERE client_id = :client_id
    ORDER BY position
"""
TAX_ROWS = """
    SELECT change_number, code, position, name, rate, kind, recoverable, other
    FROM taxes
    WHERE client_id = :client_id
    ORDER BY position
"""
KEPT_ROWS = """
    SELECT change_number, of_table, key, position, content
    FROM kept_rows
    WHERE client_id = :client_id
    ORDER BY of_table, position
"""
FACT_ROWS = """
    SELECT change_number, name, entity, currency, year_end, tax_registered, books_from, books_to,
           filed_through, filed_on, tax_returned_through, materiality, capital_item, years
    FROM client_facts
    WHERE client_id = :client_id
    ORDER BY change_number
"""
STATEMENT_ROWS = """
    SELECT change_number, number, account, path, first_day, last_day, opening, closing, off_by,
           off_from, warnings
    FROM statements
    WHERE client_id = :client_id
    ORDER BY number
"""
STATEMENT_LINE_ROWS = """
    SELECT statement.change_number, line.statement_number, line.position, line.id, line.day,
           line.amount, line.text, line.reference, line.counterparty, line.bank_id, line.balance,
           line.value_day
    FROM statement_lines AS line
    JOIN statements AS statement
      ON statement.client_id = line.client_id AND statement.number = line.statement_number
    WHERE line.client_id = :client_id
    ORDER BY line.statement_number, line.position
"""
ROWS = {
    "transactions": TRANSACTION_ROWS,
    "lines": LINE_ROWS,
    "allocations": ALLOCATION_ROWS,
    "superseded": SUPERSEDED_ROWS,
    "accounts": ACCOUNT_ROWS,
    "parties": PARTY_ROWS,
    "taxes": TAX_ROWS,
    "kept": KEPT_ROWS,
    "facts": FACT_ROWS,
    "statements": STATEMENT_ROWS,
    "statement_lines": STATEMENT_LINE_ROWS,
}

_AMENDED_FIRST = ("party_amendments", "amendments", "account_amendments", "agreements")
_FIRST_KINDS = (
    "dimensions", "bank_accounts", "statements", "prior_year", "stock", "payroll", "agreements",
    "amendments", "account_amendments", "party_amendments", "attachments",
)  # fmt: skip
EARLIER_ORDER = (*_AMENDED_FIRST, *(name for name in _FIRST_KINDS if name not in _AMENDED_FIRST))
"""The order in which posted changes of older stores were digested. Each row names its table, so either
order proves the same rows."""


class Chain(NamedTuple):
    """A client's chain as it proved. *head*: the digest at its end."""

    changes: int
    transactions: int
    head: str
    faults: tuple[str, ...]


def file_faults(connection: sqlite3.Connection) -> list[str]:
    """What SQLite finds wrong with the file itself, and rows whose parents are missing."""
    found = [row[0] for row in connection.execute("PRAGMA integrity_check") if row[0] != "ok"]
    orphans = connection.execute("PRAGMA foreign_key_check").fetchall()
    return found + [
        f"a row of {row[0]} points at a row of {row[2]} that is not there" for row in orphans
    ]


def prove_chain(connection: sqlite3.Connection, client_id: int) -> Chain:
    """Digest every change of the client again and compare, link by link."""
    contents: dict[int | None, Content] = defaultdict(Content)
    for name, statement in ROWS.items():
        for row in connection.execute(statement, {"client_id": client_id}):
            getattr(contents[row[0]], name).append(tuple(row[1:]))
    changes = changes_of(connection, client_id)
    faults = list(_chain_faults(changes, contents))
    known = {change.number for change in changes}
    faults += [f"rows of a change {n} that is not there" for n in contents if n not in known]
    head = changes[-1].digest if changes else GENESIS
    return Chain(
        len(changes), sum(len(c.transactions) for c in contents.values()), head, tuple(faults)
    )


def _chain_faults(changes: list[ChangeRow], contents: dict[int | None, Content]) -> Iterator[str]:
    previous = GENESIS
    for number, change in enumerate(changes, 1):
        if change.number != number:
            yield f"change {number} is missing"
        content = contents[change.number]
        if change.content not in _digests(content):
            yield f"the rows of change {change.number} were altered"
        if change.previous != previous or _link(change) != change.digest:
            yield f"change {change.number} does not fit the chain"
        previous = change.digest


def _digests(content: Content) -> Iterator[str]:
    """The digests that prove these rows: today's, and that of older stores."""
    yield content.digest()
    if all(row[0] in _FIRST_KINDS for row in content.kept):
        yield content.digest(EARLIER_ORDER)


def _link(change: ChangeRow) -> str:
    fields: list[Any] = [
        change.kind,
        change.made_by,
        change.made_at,
        change.reason,
        change.route,
        change.point,
        change.undoes,
        change.prior_parts,
        change.idempotency_key,
    ]
    return head_digest(change.number, fields, change.content, change.previous)
