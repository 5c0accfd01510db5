"""The file of tags: `account,role,type,tag,name`, each row with exactly one of the first three."""

import csv
import io

from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.refusals import BadEntry
from corkpost.core.tags import TagRule

HEADING = ["account", "role", "type", "tag", "name"]


def read_tags(text: str, file: str) -> tuple[TagRule, ...]:
    """The rules in the file's text. Raises BadEntry with every fault and its line."""
    rows = list(csv.reader(io.StringIO(text.removeprefix("\ufeff"))))
    if not rows or [cell.strip() for cell in rows[0]] != HEADING:
        raise BadEntry([f"{file}:1: the heading has to be {','.join(HEADING)}"])
    rules: list[TagRule] = []
    faults: list[str] = []
    for line, row in enumerate(rows[1:], 2):
        if not any(row):
            continue
        fault = _fault(row)
        if fault:
            faults.append(f"{file}:{line}: {fault}")
            continue
        account, role, kind, tag, name = (cell.strip() for cell in row)
        rules.append(
            TagRule(
                tag,
                name,
                account or None,
                AccountRole(role) if role else None,
                AccountType(kind) if kind else None,
            )
        )
    if faults:
        raise BadEntry(faults)
    return tuple(rules)


def _fault(row: list[str]) -> str | None:
    if len(row) != len(HEADING):
        return f"{len(row)} cells, and {len(HEADING)} are needed"
    account, role, kind, tag, _ = (cell.strip() for cell in row)
    if sum(map(bool, (account, role, kind))) != 1:
        return "exactly one of account, role and type is needed"
    if role and role not in set(AccountRole):
        return f"{role!r} is no role of an account"
    if kind and kind not in set(AccountType):
        return f"{kind!r} is no type of an account"
    return None if tag else "the tag is missing"
