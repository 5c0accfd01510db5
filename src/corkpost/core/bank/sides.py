"""Both sides of a bank account: its lines in the books, its statement lines, what is agreed."""

import json
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from datetime import date
from functools import cached_property, lru_cache, partial
from typing import Any, NamedTuple

from corkpost.core.books import AgreementRow, Books, Line, Transaction
from corkpost.core.foreign import foreign_accounts, foreign_money
from corkpost.core.money import Currency, Minor
from corkpost.core.refusals import UnknownName
from corkpost.core.statements import Statement, StatementLine

EntryKey = tuple[str, int]
"""A transaction's id and the number of its line on the bank account."""


class Entry(NamedTuple):
    """A line in the books on a bank account. *amount*: money in positive, in the account's currency."""

    posted: Transaction
    line: Line
    abroad: Minor | None = None
    """The amount, where the account is kept in another currency than the books."""

    @property
    def key(self) -> EntryKey:
        return (self.posted.id, self.line.number)

    @property
    def amount(self) -> Minor:
        return self.line.amount if self.abroad is None else self.abroad

    @property
    def day(self) -> date:
        return self.posted.posting_date

    @property
    def reference(self) -> str | None:
        return self.posted.reference


class Group(NamedTuple):
    """An agreement: entries and statement lines with equal sums.

    *by_program*: the program agreed it as sure; else a person did, or it came with the books.
    """

    id: str
    account: str
    entries: tuple[Entry, ...]
    lines: tuple[StatementLine, ...]
    by_program: bool
    why: str
    change: int | None

    @property
    def day(self) -> date:
        """The later of its members' days: from then on it counts."""
        return max([entry.day for entry in self.entries] + [line.day for line in self.lines])


@dataclass(frozen=True)
class BankSides:
    """One bank account. *fallen*: ids of groups whose members are gone or no longer equal."""

    account: str
    entries: Mapping[EntryKey, Entry]
    statements: tuple[Statement, ...]
    groups: Mapping[str, Group]
    fallen: tuple[str, ...]

    @cached_property
    def lines(self) -> Mapping[str, StatementLine]:
        return {line.id: line for statement in self.statements for line in statement.lines}

    @cached_property
    def other_names(self) -> Mapping[str, StatementLine]:
        return _other_names(self.lines)

    @cached_property
    def ids(self) -> frozenset[str]:
        """The transactions that have a line on the account."""
        return frozenset(name for name, _ in self.entries)

    @cached_property
    def agreed_ids(self) -> frozenset[str]:
        """The transactions that have a line in an agreement."""
        return frozenset(name for name, _ in self.group_of_entry)

    @cached_property
    def group_of_entry(self) -> Mapping[EntryKey, Group]:
        return {entry.key: group for group in self.groups.values() for entry in group.entries}

    @cached_property
    def group_of_line(self) -> Mapping[str, Group]:
        return {line.id: group for group in self.groups.values() for line in group.lines}

    @cached_property
    def agreed_by_day(self) -> Mapping[date, tuple[int, int]]:
        """By day: how many statement lines it has, and how many of them are agreed."""
        found: dict[date, tuple[int, int]] = {}
        for line in self.lines.values():
            lines, agreed = found.get(line.day, (0, 0))
            found[line.day] = (lines + 1, agreed + (line.id in self.group_of_line))
        return found

    @cached_property
    def worked_out(self) -> dict[str, Any]:
        """What was worked out from these sides alone, under its name."""
        return {}

    @cached_property
    def statement_of(self) -> Mapping[int, Statement]:
        return {statement.number: statement for statement in self.statements}


def bank_sides(books: Books, account: str) -> BankSides:
    """Both sides of the account as these books have them."""
    found: dict[str, BankSides] = books.derived.setdefault("bank sides", {})
    if account not in found:
        found[account] = _sides(books, account)
    return found[account]


def statement_line(books: Books, name: str) -> StatementLine:
    """The statement line of that id, on any account. Raises UnknownName."""
    lines = books.kept.once(
        "statement lines",
        books.statements,
        lambda: {line.id: line for statement in books.statements for line in statement.lines},
    )
    try:
        return lines[name]
    except KeyError:
        raise UnknownName("statement line", name) from None


def account_of_line(books: Books, line: StatementLine) -> str:
    """The account whose statement brought the line."""
    return next(
        statement.account for statement in books.statements if statement.number == line.statement
    )


def bank_accounts(books: Books) -> tuple[str, ...]:
    """The accounts that statements came for, in the order of their codes."""
    return tuple(sorted({statement.account for statement in books.statements}))


def own_accounts(books: Books) -> tuple[str, ...]:
    """Those of them that are kept in the currency of the books: their amounts can be posted as they are."""
    abroad = foreign_accounts(books)
    return tuple(account for account in bank_accounts(books) if account not in abroad)


class _Made(NamedTuple):
    """Sides with what they were made of."""

    transactions: tuple[Transaction, ...]
    statements: tuple[Statement, ...]
    agreements: tuple[AgreementRow, ...]
    sides: BankSides


def _sides(books: Books, account: str) -> BankSides:
    of_account = books.kept.by_key(
        "agreements", books.tables.agreements, lambda row: (row.account,)
    ).get(account, ())
    transactions = books.on_account(account)
    kept = foreign_accounts(books).get(account)
    entries_of = partial(_entries_of, books, account, kept)
    own = (statement for statement in books.statements if statement.account == account)
    statements = tuple(sorted(own, key=lambda statement: statement.order))
    name = f"bank sides {account}"
    before: _Made | None = books.kept.latest(name)
    if before is not None and before[:3] == (transactions, statements, of_account):
        return before.sides
    sides = _continued(before, transactions, of_account, entries_of) if before is not None else None
    if before is None or before.statements != statements or sides is None:
        sides = _made(account, transactions, statements, of_account, entries_of)
    books.kept.put(name, _Made(transactions, statements, of_account, sides))
    return sides


EntriesOf = Callable[[Iterable[Transaction]], dict[EntryKey, Entry]]


def _entries_of(
    books: Books, account: str, kept: Currency | None, transactions: Iterable[Transaction]
) -> dict[EntryKey, Entry]:
    """*kept*: the other currency that the account is kept in; what says no sum in it, as a revaluation,
    moves nothing at the bank."""
    found = {}
    for posted in transactions:
        for line in posted.lines:
            if line.account != account:
                continue
            abroad = None
            if kept is not None:
                money = foreign_money(books, posted, line, kept)
                if money is None or money.currency != kept:
                    continue
                abroad = money.amount
            found[posted.id, line.number] = Entry(posted, line, abroad)
    return found


def _made(
    account: str,
    transactions: tuple[Transaction, ...],
    statements: tuple[Statement, ...],
    agreements: tuple[AgreementRow, ...],
    entries_of: EntriesOf,
) -> BankSides:
    entries = entries_of(transactions)
    lines = {line.id: line for statement in statements for line in statement.lines}
    names = _other_names(lines)
    groups: dict[str, Group] = {}
    fallen = []
    for name, rows in _standing_rows(agreements).items():
        group = _group(name, rows, entries, lines, names)
        if group is None:
            fallen.append(name)
        else:
            groups[name] = group
    sides = BankSides(account, entries, statements, groups, tuple(fallen))
    vars(sides).update(lines=lines, other_names=names)
    return sides


def _continued(
    before: _Made,
    transactions: tuple[Transaction, ...],
    agreements: tuple[AgreementRow, ...],
    entries_of: EntriesOf,
) -> BankSides | None:
    """The sides with more entries and agreements than *before*; None where they do not go on from it."""
    known, agreed = len(before.transactions), len(before.agreements)
    if transactions[:known] != before.transactions or agreements[:agreed] != before.agreements:
        return None
    sides = before.sides
    if sides.fallen:
        # What fell may stand again with the entries that came.
        return None
    entries = sides.entries
    if len(transactions) > known:
        entries = {**entries, **entries_of(transactions[known:])}
    groups = dict(sides.groups)
    fallen = []
    fresh: dict[str, list[AgreementRow]] = defaultdict(list)
    for row in agreements[agreed:]:
        fresh[row.group].append(row)
    for name, rows in fresh.items():
        if name in groups and not rows[0].takes_apart:
            # Members that come to a group later: rare, and read with all of it.
            return None
        groups.pop(name, None)
        standing = _standing_rows(rows).get(name)
        group = (
            _group(name, standing, entries, sides.lines, sides.other_names) if standing else None
        )
        if group is not None:
            groups[name] = group
        elif standing:
            fallen.append(name)
    made = BankSides(sides.account, entries, sides.statements, groups, tuple(fallen))
    vars(made).update(lines=sides.lines, other_names=sides.other_names)
    return made


def _other_names(lines: Mapping[str, StatementLine]) -> Mapping[str, StatementLine]:
    """The lines by what else names them: the bank's own id, and the file without its folder."""
    found = {line.bank_id: line for line in lines.values() if line.bank_id}
    return found | {line.id.rpartition("/")[2]: line for line in lines.values()}


def _standing_rows(agreements: Iterable[AgreementRow]) -> Mapping[str, list[AgreementRow]]:
    """The rows of one account's agreements that were not taken apart, by group."""
    found: dict[str, list[AgreementRow]] = defaultdict(list)
    for row in agreements:
        if row.takes_apart:
            found.pop(row.group, None)
        else:
            found[row.group].append(row)
    return found


def standing_rows(agreements: Iterable[AgreementRow]) -> tuple[AgreementRow, ...]:
    """The rows of the agreements that were not taken apart."""
    rows = list(agreements)
    apart = {(row.account, row.group) for row in rows if row.takes_apart}
    return tuple(row for row in rows if (row.account, row.group) not in apart)


def _group(
    name: str,
    rows: list[AgreementRow],
    entries: Mapping[EntryKey, Entry],
    lines: Mapping[str, StatementLine],
    by_bank_id: Mapping[str, StatementLine],
) -> Group | None:
    """The group, or None where a member is gone or the sums differ."""
    mine: list[Entry] = []
    theirs: list[StatementLine] = []
    for row in rows:
        if row.transaction is not None:
            entry = _entry(row, entries)
            if entry is None:
                return None
            mine.append(entry)
        if row.statement_line is not None:
            line = lines.get(row.statement_line) or by_bank_id.get(row.statement_line)
            if line is None:
                return None
            theirs.append(line)
    if sum(entry.amount for entry in mine) != sum(line.amount for line in theirs):
        return None
    facts = _facts(rows[0].other)
    by_program = facts.get("by") == "program"
    return Group(
        name,
        rows[0].account,
        tuple(mine),
        tuple(theirs),
        by_program,
        facts.get("why", ""),
        rows[0].change,
    )


@lru_cache(maxsize=4096)
def _facts(other: str) -> Mapping[str, Any]:
    """What a row says of its agreement: most say the same few things."""
    return json.loads(other) if other else {}


def _entry(row: AgreementRow, entries: Mapping[EntryKey, Entry]) -> Entry | None:
    if row.line is not None:
        return entries.get((row.transaction or "", row.line))
    # Some books name the transaction alone: it has one line on the account.
    mine = [entry for key, entry in entries.items() if key[0] == row.transaction]
    return mine[0] if len(mine) == 1 else None


def group_rows(
    name: str,
    account: str,
    entries: Iterable[EntryKey],
    lines: Iterable[str],
    *,
    why: str,
    by_program: bool = False,
) -> tuple[AgreementRow, ...]:
    """The rows of a new agreement."""
    facts = {"by": "program" if by_program else "person", "why": why}
    other = json.dumps(facts, ensure_ascii=False, sort_keys=True)
    return (
        *(AgreementRow(name, account, key[0], key[1], None, other) for key in entries),
        *(AgreementRow(name, account, None, None, line, other) for line in lines),
    )


def apart_row(group: Group) -> AgreementRow:
    """The row that takes the group apart."""
    return AgreementRow(group.id, group.account)
