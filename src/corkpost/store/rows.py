"""How the values of the books become rows, and rows become values again.

The same rows are written, digested for the chain, and read again to prove it.
"""

import json
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum
from fractions import Fraction
from typing import Any

from corkpost.core import books as values
from corkpost.core.books import (
    Account,
    Allocation,
    Line,
    Party,
    Tax,
    Transaction,
)
from corkpost.core.kinds import (
    AccountRole,
    AccountType,
    EntryKind,
    PartyKind,
    StatementFormat,
    TaxKind,
    TransactionKind,
)

Row = tuple[Any, ...]


def transaction_row(posted: Transaction) -> Row:
    """Its header, without client, seq and change."""
    return (
        posted.id,
        posted.kind,
        posted.posting_date.isoformat(),
        posted.document_date.isoformat() if posted.document_date else None,
        posted.due_date.isoformat() if posted.due_date else None,
        posted.entered_at.isoformat() if posted.entered_at else None,
        *posted[7:19],
    )


def line_row(line: Line) -> Row:
    """The line, without client, transaction and position."""
    return (*line[:9], line.tax_date.isoformat() if line.tax_date else None, line.other)


def allocation_row(row: Allocation) -> Row:
    """The allocation, without client, seq and change."""
    return (row.id, row.date.isoformat(), *row[2:9])


class Reader:
    """Rows to values. Dates and kinds are kept by their text: they come many thousand times."""

    def __init__(self) -> None:
        self._days: dict[str, date] = {}

    def day(self, text: str) -> date:
        found = self._days.get(text)
        if found is None:
            found = self._days[text] = date.fromisoformat(text)
        return found

    def maybe_day(self, text: str | None) -> date | None:
        return None if text is None else self.day(text)

    def line(self, row: Row) -> Line:
        """From number, account, amount, ... to other."""
        if row[9] is None:
            return Line._make(row)
        return Line._make((*row[:9], self.day(row[9]), row[10]))

    def transaction(self, row: Row, lines: tuple[Line, ...], change: int | None) -> Transaction:
        """From id to other; *change* None for what was received."""
        return Transaction._make(
            (
                row[0],
                KINDS[row[1]],
                self.day(row[2]),
                lines,
                self.maybe_day(row[3]),
                self.maybe_day(row[4]),
                datetime.fromisoformat(row[5]) if row[5] else None,
                *row[6:14],
                EntryKind(row[14]) if row[14] else None,
                *row[15:18],
                change,
            )
        )

    def allocation(self, row: Row, change: int | None) -> Allocation:
        return Allocation._make((row[0], self.day(row[1]), *row[2:9], change))


KINDS: Mapping[str, TransactionKind] = {kind.value: kind for kind in TransactionKind}


def account_row(account: Account) -> Row:
    return tuple(account)[1:]


def account_of(row: Row) -> Account:
    expected = AccountType(row[6]) if row[6] else None
    return Account(
        row[0], row[1], AccountType(row[2]), AccountRole(row[3]), row[4], row[5], expected, row[7]
    )


def party_row(party: Party) -> Row:
    share = str(party.share) if party.share is not None else None
    return (party.name, party.kind, share, json.dumps(party.aliases), party.other)


def party_of(row: Row) -> Party:
    share = Fraction(row[3]) if row[3] is not None else None
    return Party(row[0], row[1], PartyKind(row[2]), share, tuple(json.loads(row[4])), row[5])


def tax_row(tax: Tax) -> Row:
    return (tax.name, str(tax.rate), tax.kind, int(tax.recoverable), tax.other)


def tax_of(row: Row) -> Tax:
    return Tax(row[0], row[1], Fraction(row[2]), TaxKind(row[3]), bool(row[4]), row[5])


@dataclass(frozen=True)
class KeptTable:
    """A table that is kept as JSON under a key. *readers*: for the fields that are not plain."""

    make: Callable[[Any], Any]
    key: Callable[[Any], Any]
    readers: Mapping[int, Callable[[str], Any]]


KEPT: Mapping[str, KeptTable] = {
    "dimensions": KeptTable(values.Dimension._make, lambda r: [r.dimension, r.code], {}),
    "bank_accounts": KeptTable(values.BankAccount._make, lambda r: [r.account], {}),
    "statements": KeptTable(
        values.StatementFile._make, lambda r: [r.account, r.path], {2: StatementFormat}
    ),
    "prior_year": KeptTable(
        values.PriorBalance._make, lambda r: [r.year_end, r.account], {0: date.fromisoformat}
    ),
    "stock": KeptTable(values.StockItem._make, lambda r: [r.date, r.item], {0: date.fromisoformat}),
    "payroll": KeptTable(values.PayrollMonth._make, lambda r: [r.month, r.employee_group], {}),
    "agreements": KeptTable(lambda cells: values.AgreementRow(*cells), lambda r: list(r[:5]), {}),
    "amendments": KeptTable(
        lambda cells: values.Amendment(*cells), lambda r: list(r[:5]), {1: datetime.fromisoformat}
    ),
    "account_amendments": KeptTable(
        lambda cells: values.AccountAmendment(*cells),
        lambda r: list(r[:5]),
        {1: datetime.fromisoformat},
    ),
    "party_amendments": KeptTable(
        lambda cells: values.PartyAmendment(*cells),
        lambda r: list(r[:4]),
        {1: datetime.fromisoformat},
    ),
    "attachments": KeptTable(values.Attachment._make, lambda r: list(r[:2]), {}),
}


def kept_rows(name: str, rows: Iterable[Any]) -> list[tuple[str, str]]:
    """Key and content of each row. Rows that are the same to the letter get keys of their own."""
    table = KEPT[name]
    seen: dict[str, int] = {}
    found = []
    for row in rows:
        key = json.dumps(table.key(row), default=_plain, ensure_ascii=False)
        seen[key] = seen.get(key, 0) + 1
        if seen[key] > 1:
            key = f"{key} {seen[key]}"
        cells = [value for column, value in row._asdict().items() if column != "change"]
        found.append((key, json.dumps(cells, default=_plain, ensure_ascii=False)))
    return found


def kept_value(name: str, content: str) -> Any:
    table = KEPT[name]
    cells = json.loads(content)
    for place, read in table.readers.items():
        cells[place] = read(cells[place])
    return table.make(cells)


def _plain(value: object) -> str:
    if isinstance(value, date | StrEnum):
        return value.value if isinstance(value, StrEnum) else value.isoformat()
    raise TypeError(f"{value!r} has no row")
