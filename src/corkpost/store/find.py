"""The index that Find looks in: words by their beginnings, sums as they are."""

import json
import sqlite3
from collections.abc import Iterable, Sequence
from typing import NamedTuple

from corkpost.core import row_kinds

BEHIND = """
    SELECT client.id, COALESCE(mark.transaction_seq, 0), COALESCE(mark.change_number, 0),
           (SELECT MAX(number) FROM changes WHERE client_id = client.id)
    FROM clients AS client
    LEFT JOIN find_marks AS mark ON mark.client_id = client.id
    WHERE EXISTS (SELECT 1 FROM changes
                  WHERE client_id = client.id AND number > COALESCE(mark.change_number, 0))
"""
PENDING = """
    SELECT seq, id, reference, memo, party, reason
    FROM transactions
    WHERE client_id = :client_id AND seq > :after
    ORDER BY seq
    LIMIT :most
"""
LINES_OF = """
    SELECT transaction_seq, amount, party, description
    FROM lines
    WHERE client_id = :client_id AND transaction_seq BETWEEN :first AND :last
"""
PARTIES_OF = """
    SELECT code, name, aliases, MAX(change_number) FROM parties
    WHERE client_id = :client_id
    GROUP BY code
"""
NEW_PARTIES = """
    SELECT code, name, aliases FROM parties
    WHERE client_id = :client_id AND change_number > :after
"""
NEW_ACCOUNTS = """
    SELECT code, name FROM accounts WHERE client_id = :client_id AND change_number > :after
"""
NEW_STATEMENT_LINES = """
    SELECT line.id, line.amount, line.text, line.reference, line.counterparty
    FROM statement_lines AS line
    JOIN statements AS statement
      ON statement.client_id = line.client_id AND statement.number = line.statement_number
    WHERE line.client_id = :client_id AND statement.change_number > :after
"""
NEW_WORDINGS = """
    SELECT content FROM kept_rows
    WHERE client_id = :client_id AND of_table = 'amendments' AND change_number > :after
"""
LATEST_VERSION = """
    SELECT MAX(seq) FROM transactions WHERE client_id = :client_id AND id = :id
"""
LAST_ROW = "SELECT COALESCE(MAX(id), 0) FROM find_rows"
ADD_ROW = "INSERT INTO find_rows (id, client_id, kind, key) VALUES (?, ?, ?, ?)"
ADD_WORDS = "INSERT INTO find_words (rowid, client, words) VALUES (?, ?, ?)"
ADD_AMOUNT = "INSERT OR IGNORE INTO find_amounts (client_id, amount, id) VALUES (?, ?, ?)"
SET_MARK = """
    INSERT INTO find_marks (client_id, transaction_seq, change_number)
    VALUES (:client_id, :seq, :change)
    ON CONFLICT (client_id) DO UPDATE SET transaction_seq = :seq, change_number = :change
"""
BY_AMOUNT = """
    SELECT hit.client_id, row.kind, row.key, row.id
    FROM (SELECT client_id, id FROM find_amounts
          WHERE client_id = :client_id AND amount = :amount
          ORDER BY id DESC LIMIT :most) AS hit
    JOIN find_rows AS row ON row.id = hit.id
"""
BY_WORDS = """
    SELECT row.id, row.client_id, row.kind, row.key
    FROM (SELECT rowid AS id FROM find_words WHERE find_words MATCH :match
          ORDER BY rowid DESC LIMIT :most) AS hit
    JOIN find_rows AS row ON row.id = hit.id
    ORDER BY row.id DESC
"""
OF_THESE = """
    SELECT rowid FROM find_words
    WHERE find_words MATCH :match AND rowid IN (SELECT value FROM json_each(:ids))
"""
POSTED = """
    SELECT posted.id, posted.kind, posted.posting_date, posted.reference, posted.memo, posted.party,
           (SELECT SUM(amount) FROM lines
            WHERE client_id = posted.client_id AND transaction_seq = posted.seq AND amount > 0)
    FROM current_transactions AS posted
    WHERE posted.client_id = :client_id AND posted.seq = :seq
"""
STATEMENT_LINE = """
    SELECT line.id, line.day, line.amount, line.text, statement.account, statement.number
    FROM statement_lines AS line
    JOIN statements AS statement
      ON statement.client_id = line.client_id AND statement.number = line.statement_number
    WHERE line.client_id = :client_id AND line.id = :id
"""
PARTY = """
    SELECT name, kind, MAX(change_number) FROM parties
    WHERE client_id = :client_id AND code = :code
"""
ACCOUNT = """
    SELECT name, type, MAX(change_number) FROM accounts
    WHERE client_id = :client_id AND code = :code
"""
CLIENTS = """
    SELECT client.id, client.code, facts.name, facts.currency
    FROM clients AS client
    JOIN client_facts AS facts
      ON facts.client_id = client.id
     AND facts.change_number = (SELECT MAX(change_number) FROM client_facts
                                WHERE client_id = client.id)
    ORDER BY client.code
"""
LONGEST = 1_000
"""Signs of a transaction's texts that are looked in."""


class Behind(NamedTuple):
    """A client of which the index lacks something: up to which transaction and change it is."""

    client_id: int
    transaction_seq: int
    change_number: int
    last_change: int


class Hit(NamedTuple):
    """*kind*: t, s, p, a; *key*: the transaction's seq, the statement line's id, the party, the account."""

    client_id: int
    kind: str
    key: str


class ClientHit(NamedTuple):
    id: int
    code: str
    name: str
    currency: str


class PostedHit(NamedTuple):
    id: str
    kind: str
    posting_date: str
    reference: str | None
    memo: str | None
    party: str | None
    total: int


class StatementHit(NamedTuple):
    id: str
    day: str
    amount: int
    text: str
    account: str
    statement: int


def clients(connection: sqlite3.Connection) -> list[ClientHit]:
    """Every client with its name and currency, by code."""
    return [ClientHit(*row) for row in connection.execute(CLIENTS)]


def behind(connection: sqlite3.Connection) -> list[Behind]:
    """The clients of which the index lacks something."""
    return [Behind(*row) for row in connection.execute(BEHIND)]


def index_some(
    connection: sqlite3.Connection,
    client: Behind,
    most: int,
) -> Behind | None:
    """Take the client's next transactions into the index, within the caller's write transaction, and
    with the last of them what else is new. Where it stands then; None when nothing is lacking."""
    named = {"client_id": client.client_id, "after": client.transaction_seq, "most": most}
    pending = connection.execute(PENDING, named).fetchall()
    row_id = int(connection.execute(LAST_ROW).fetchone()[0])
    names = {
        code: " ".join((name, *json.loads(aliases)))
        for code, name, aliases, _ in connection.execute(
            PARTIES_OF, {"client_id": client.client_id}
        )
    }
    adding = _Adding(client.client_id, row_id)
    if pending:
        between = {
            "client_id": client.client_id,
            "first": pending[0][0],
            "last": pending[-1][0],
        }
        of_lines: dict[int, tuple[set[int], list[str]]] = {}
        for seq, amount, party, description in connection.execute(LINES_OF, between):
            amounts, words = of_lines.setdefault(seq, (set(), []))
            amounts.add(abs(amount))
            words += [names.get(party, party or ""), description or ""]
        for seq, name, reference, memo, party, reason in pending:
            amounts, words = of_lines.get(seq, (set(), []))
            texts = [name, reference, memo, names.get(party, party or ""), reason, *words]
            adding.add("t", str(seq), texts, amounts, folds=(name, reference))
    last_seq = pending[-1][0] if pending else client.transaction_seq
    is_whole = len(pending) < most
    if is_whole:
        _add_others(connection, client, adding)
    adding.write(connection)
    change = client.last_change if is_whole else client.change_number
    connection.execute(SET_MARK, {"client_id": client.client_id, "seq": last_seq, "change": change})
    return None if is_whole else client._replace(transaction_seq=last_seq)


def _add_others(connection: sqlite3.Connection, client: Behind, adding: "_Adding") -> None:
    new = {"client_id": client.client_id, "after": client.change_number}
    for code, name, aliases in connection.execute(NEW_PARTIES, new):
        adding.add("p", code, [code, name, *json.loads(aliases)], ())
    for code, name in connection.execute(NEW_ACCOUNTS, new):
        adding.add("a", code, [code, name], ())
    for name, amount, *texts in connection.execute(NEW_STATEMENT_LINES, new):
        adding.add("s", name, texts, (abs(amount),), folds=(texts[1],))
    for (content,) in connection.execute(NEW_WORDINGS, new):
        wording = row_kinds.registry()["amendments"].row(content)
        named = {"client_id": client.client_id, "id": wording.transaction}
        row = connection.execute(LATEST_VERSION, named).fetchone()
        if row[0] is not None and wording.after:
            adding.add("t", str(row[0]), [wording.after], (), folds=(wording.after,))


class _Adding:
    """Rows of the index that are not written yet."""

    def __init__(self, client_id: int, last_id: int) -> None:
        self._client = client_id
        self._id = last_id
        self._rows: list[tuple[int, int, str, str]] = []
        self._words: list[tuple[int, str, str]] = []
        self._amounts: list[tuple[int, int, int]] = []

    def add(
        self,
        kind: str,
        key: str,
        texts: Iterable[str | None],
        amounts: Iterable[int],
        folds: Iterable[str | None] = (),
    ) -> None:
        self._id += 1
        words = " ".join(dict.fromkeys(text for text in texts if text))[:LONGEST]
        run_together = " ".join(
            "".join(sign for sign in text if sign.isalnum()) for text in folds if text
        )
        self._rows.append((self._id, self._client, kind, key))
        self._words.append((self._id, client_word(self._client), f"{words} {run_together}"))
        self._amounts += [(self._client, amount, self._id) for amount in amounts]

    def write(self, connection: sqlite3.Connection) -> None:
        connection.executemany(ADD_ROW, self._rows)
        connection.executemany(ADD_WORDS, self._words)
        connection.executemany(ADD_AMOUNT, self._amounts)


def client_word(client_id: int) -> str:
    return f"c{client_id}"


def by_words(connection: sqlite3.Connection, match: str, most: int) -> list[tuple[int, Hit]]:
    """What has these words, the newest first, with its place in the index."""
    found = connection.execute(BY_WORDS, {"match": match, "most": most})
    return [(row[0], Hit(*row[1:])) for row in found]


def by_amount(
    connection: sqlite3.Connection, client_id: int, amount: int, most: int
) -> list[tuple[int, Hit]]:
    """What has that sum in one client, the newest first, with its place in the index."""
    named = {"client_id": client_id, "amount": amount, "most": most}
    return [(row[3], Hit(*row[:3])) for row in connection.execute(BY_AMOUNT, named)]


def having_words(connection: sqlite3.Connection, match: str, ids: Sequence[int]) -> set[int]:
    """Which of these places have the words."""
    named = {"match": match, "ids": json.dumps(list(ids))}
    return {row[0] for row in connection.execute(OF_THESE, named)}


def posted(connection: sqlite3.Connection, client_id: int, seq: str) -> PostedHit | None:
    """The transaction, if that version of it stands."""
    row = connection.execute(POSTED, {"client_id": client_id, "seq": int(seq)}).fetchone()
    return PostedHit(*row) if row else None


def statement_line(
    connection: sqlite3.Connection, client_id: int, name: str
) -> StatementHit | None:
    row = connection.execute(STATEMENT_LINE, {"client_id": client_id, "id": name}).fetchone()
    return StatementHit(*row) if row else None


def party(connection: sqlite3.Connection, client_id: int, code: str) -> tuple[str, str]:
    """Its name and kind."""
    row = connection.execute(PARTY, {"client_id": client_id, "code": code}).fetchone()
    return (row[0] or code, row[1] or "")


def account(connection: sqlite3.Connection, client_id: int, code: str) -> tuple[str, str]:
    """Its name and type."""
    row = connection.execute(ACCOUNT, {"client_id": client_id, "code": code}).fetchone()
    return (row[0] or code, row[1] or "")
