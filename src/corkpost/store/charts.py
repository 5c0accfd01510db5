"""The charts of all of a practice's clients, without their books."""

import json
import sqlite3
from collections.abc import Iterator
from typing import NamedTuple

ACCOUNTS = """
    SELECT clients.code, accounts.code, accounts.name, type, role, other, MAX(change_number)
    FROM accounts JOIN clients ON clients.id = accounts.client_id
    WHERE clients.whole
    GROUP BY accounts.client_id, accounts.code
"""
AMENDMENTS = """
    SELECT clients.code, kept.content
    FROM kept_rows AS kept JOIN clients ON clients.id = kept.client_id
    WHERE kept.of_table = 'account_amendments' AND clients.whole
    ORDER BY kept.change_number, kept.position
"""


class AccountSeen(NamedTuple):
    """An account of *client*, as it stands. *guessed*: nobody has said or confirmed what it is."""

    client: str
    name: str
    type: str
    role: str
    guessed: bool


def accounts_everywhere(connection: sqlite3.Connection) -> Iterator[AccountSeen]:
    """Each account of each client, with what was put right of it."""
    said: dict[tuple[str, str], dict[str, str]] = {}
    for client, content in connection.execute(AMENDMENTS):
        row = json.loads(content)
        said.setdefault((client, row["account"]), {})[row["field"]] = row["after"] or ""
    for client, code, name, type_, role, other, _ in connection.execute(ACCOUNTS):
        now = said.get((client, code), {})
        yield AccountSeen(
            client,
            now.get("name", name),
            now.get("type", type_),
            now.get("role", role),
            '"guessed"' in other and "role" not in now,
        )
