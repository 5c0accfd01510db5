"""A client's books from the store, as they stand or as a change brought them."""

import sqlite3
from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import date
from typing import Any

from corkpost.core import row_kinds
from corkpost.core.amendments import as_amended
from corkpost.core.books import (
    Allocation,
    Attachment,
    Books,
    Line,
    Signed,
    Tables,
    Transaction,
)
from corkpost.core.client_facts import with_facts
from corkpost.core.kinds import AccountType
from corkpost.core.merging import merged
from corkpost.core.periods import Calendar
from corkpost.store import rows as as_rows
from corkpost.store.changes import ChangeRow, changes_of
from corkpost.store.clients import ClientRow, facts_of
from corkpost.store.papers import papers_of
from corkpost.store.periods import opened_through, states_of
from corkpost.store.rows import Reader
from corkpost.store.sign_off import seals_of
from corkpost.store.statements import finished_of, set_aside_of, standing, statements_of
from corkpost.store.steps import in_steps

LINES = """
    SELECT transaction_seq AS seq, position, number, account, amount, party, tax_code, description,
           dimensions, currency, foreign_amount, tax_date, other
    FROM lines
    WHERE client_id = :client_id AND transaction_seq BETWEEN :first AND :last
"""
TRANSACTIONS = """
    SELECT seq, change_number, id, kind, posting_date, document_date, due_date, entered_at,
           entered_by, reference, party, memo, source, currency, rate, reverses, entry_kind,
           corrects, reason, other
    FROM current_transactions
    WHERE client_id = :client_id AND seq BETWEEN :first AND :last
"""
ALLOCATIONS = """
    SELECT seq, change_number, id, date, party, debit_transaction, credit_transaction, amount,
           foreign_amount, undoes, other
    FROM current_allocations
    WHERE client_id = :client_id AND seq BETWEEN :first AND :last
"""
ACCOUNTS = """
    SELECT code, name, type, role, owner, tax_code, expected_type, other, MAX(change_number)
    FROM accounts
    WHERE client_id = :client_id AND {which}
    GROUP BY code
    ORDER BY change_number, position
"""
PARTIES = """
    SELECT code, name, kind, share, aliases, other, MAX(change_number)
    FROM parties
    WHERE client_id = :client_id AND {which}
    GROUP BY code
    ORDER BY change_number, position
"""
TAXES = """
    SELECT code, name, rate, kind, recoverable, other, MAX(change_number)
    FROM taxes
    WHERE client_id = :client_id
    GROUP BY code
    ORDER BY change_number, position
"""
KEPT_ROWS = """
    SELECT content, MAX(change_number)
    FROM kept_rows
    WHERE client_id = :client_id AND of_table = :of_table
      AND (of_table <> 'statements' OR change_number NOT IN (
        SELECT undoes FROM changes WHERE client_id = :client_id AND undoes IS NOT NULL))
    GROUP BY key
    ORDER BY change_number, position
"""
EVERY_KEPT_ROW = """
    SELECT content, change_number
    FROM kept_rows
    WHERE client_id = :client_id AND of_table = :of_table
    ORDER BY change_number, position
"""
ARRIVED = """
    SELECT id, change_number FROM current_transactions
    WHERE client_id = :client_id AND change_number > :first
"""
PAPERS = "papers/"
"""Where papers lie that were kept here; those that came with the books have paths of their own."""
ANY = "TRUE"
RECEIVED = """change_number IN (
      SELECT number FROM changes WHERE client_id = :client_id AND kind = 'import')"""
# SQLite gives the other columns of a MAX from the row that has it: the newest of each key.


def load_books(
    connection: sqlite3.Connection, client: ClientRow, today: date, before: Books | None = None
) -> Books:
    """The client's books as they stand on *today*, within the caller's snapshot. *before*: the client's
    books as they were read last: where no change came since, only what lies beside the changes is read."""
    changes = changes_of(connection, client.id)
    received = _imports(changes)
    posted = tuple(change.posted for change in changes)
    if before is not None and before.changes == posted:
        tables = _with_papers(connection, client.id, before.tables)
    else:
        before = None
        tables = merged(as_amended(load_tables(connection, client.id, received)))
    facts = with_facts(facts_of(connection, client), tables)
    seals = [seal for seal in seals_of(connection, client.id, today) if seal.stands]
    calendar = Calendar(
        year_end=facts.year_end,
        named_years=facts.years,
        filed_through=facts.filed_through,
        sealed_through=max((seal.as_at for seal in seals), default=None),
        states=states_of(connection, client.id),
        opened_through=opened_through(connection, client.id),
    )
    whole_years = [seal for seal in seals if calendar.year_of(seal.as_at).last_day == seal.as_at]
    income = _income(tables, whole_years[-1].balances) if whole_years else None
    finished = standing(finished_of(connection, client.id))
    numbers = {change.digest: change.number for change in changes}
    signed = tuple(Signed(seal.as_at, numbers.get(seal.head, 0)) for seal in seals)
    if before is not None:
        return before.followed_by(
            client=facts,
            tables=tables,
            calendar=calendar,
            signed_income=income,
            finished=finished,
            signed=signed,
        )
    statements = statements_of(connection, client.id)
    set_aside = set_aside_of(connection, client.id)
    arrived = _arrived(connection, client.id, received)
    return Books(
        facts,
        tables,
        calendar,
        posted,
        income,
        statements,
        finished,
        set_aside,
        arrived,
        signed,
    )


def _arrived(
    connection: sqlite3.Connection, client_id: int, received: frozenset[int]
) -> Mapping[str, int]:
    """The transactions that an import after the first brought as they stand, by the import's number."""
    if len(received) < 2:
        return {}
    first = min(received)
    rows = connection.execute(ARRIVED, {"client_id": client_id, "first": first})
    return {name: number for name, number in rows if number in received}


def _with_papers(connection: sqlite3.Connection, client_id: int, tables: Tables) -> Tables:
    """The tables with the papers that are kept now; the same object where they are as they were."""
    came = tuple(paper for paper in tables.attachments if not paper.path.startswith(PAPERS))
    now = came + _papers(connection, client_id)
    return tables if now == tables.attachments else replace(tables, attachments=now)


def _papers(connection: sqlite3.Connection, client_id: int) -> tuple[Attachment, ...]:
    return tuple(
        Attachment(
            paper.transaction, f"{PAPERS}{paper.number}-{paper.name}", paper.name, paper.digest
        )
        for paper in papers_of(connection, client_id)
    )


def _imports(changes: Iterable[ChangeRow]) -> frozenset[int]:
    return frozenset(change.number for change in changes if change.kind == "import")


def load_received(connection: sqlite3.Connection, client_id: int) -> Tables:
    """The client's tables as they were received last: without our changes, amendments and papers."""
    tables = load_tables(
        connection, client_id, _imports(changes_of(connection, client_id)), which=RECEIVED
    )
    return replace(
        tables,
        **_came(tables),
        transactions=tuple(posted for posted in tables.transactions if posted.change is None),
        allocations=tuple(row for row in tables.allocations if row.change is None),
        attachments=tuple(
            paper for paper in tables.attachments if not paper.path.startswith(PAPERS)
        ),
    )


def _came(tables: Tables) -> dict[str, Any]:
    """The rows of each kind that says which change brought them, without those that ours did."""
    kinds = [kind for kind in row_kinds.registry().values() if kind.names_its_change]
    return {
        kind.name: tuple(row for row in tables.of(kind.name) if row.change is None)
        for kind in kinds
        if hasattr(tables, kind.name)
    }


def _income(tables: Tables, balances: Mapping[str, int]) -> int:
    income = {a.code for a in tables.accounts if a.type is AccountType.INCOME}
    return -sum(amount for code, amount in balances.items() if code in income)


def load_tables(
    connection: sqlite3.Connection, client_id: int, received: frozenset[int], which: str = ANY
) -> Tables:
    """The current rows as they were written; those that a change in *received* brought count as
    received. *which*: of the accounts and parties, ANY or those RECEIVED."""
    named = {"client_id": client_id}
    kept: dict[str, Any] = {}
    for name, kind in row_kinds.registry().items():
        sql = EVERY_KEPT_ROW if kind.keeps_all else KEPT_ROWS
        found = connection.execute(sql, {**named, "of_table": name}).fetchall()
        kept[name] = kind.rows(
            (content for content, _ in found), (_change(number, received) for _, number in found)
        )
    kept["attachments"] += _papers(connection, client_id)
    tables = Tables(
        accounts=tuple(
            as_rows.account_of(row)
            for row in connection.execute(ACCOUNTS.format(which=which), named)
        ),
        parties=tuple(
            as_rows.party_of(row) for row in connection.execute(PARTIES.format(which=which), named)
        ),
        taxes=tuple(as_rows.tax_of(row) for row in connection.execute(TAXES, named)),
        transactions=_transactions(connection, client_id, received),
        allocations=_allocations(connection, client_id, received),
    )
    for name, rows in kept.items():
        tables = tables.with_rows(name, rows)
    return tables


def _transactions(
    connection: sqlite3.Connection, client_id: int, received: frozenset[int]
) -> tuple[Transaction, ...]:
    read = Reader()
    lines: dict[int, list[Line]] = defaultdict(list)
    for row in in_steps(connection, LINES, "transactions", client_id):
        lines[row[0]].append(read.line(row[2:]))
    return tuple(
        read.transaction(row[2:], tuple(lines.get(row[0], ())), _change(row[1], received))
        for row in in_steps(connection, TRANSACTIONS, "transactions", client_id)
    )


def _allocations(
    connection: sqlite3.Connection, client_id: int, received: frozenset[int]
) -> tuple[Allocation, ...]:
    read = Reader()
    found = in_steps(connection, ALLOCATIONS, "allocations", client_id)
    return tuple(read.allocation(row[2:], _change(row[1], received)) for row in found)


def _change(number: int, received: Iterable[int]) -> int | None:
    return None if number in received else number


SEQUENCES = """
    SELECT id, seq FROM current_transactions WHERE client_id = :client_id
"""
ALLOCATION_SEQUENCES = """
    SELECT id, seq FROM current_allocations WHERE client_id = :client_id
"""


def sequences_of(connection: sqlite3.Connection, client_id: int) -> dict[str, Mapping[str, int]]:
    """Of the current transactions and allocations, by table and id: where they stand in the store."""
    named = {"client_id": client_id}
    return {
        "transactions": dict(connection.execute(SEQUENCES, named).fetchall()),
        "allocations": dict(connection.execute(ALLOCATION_SEQUENCES, named).fetchall()),
    }
