"""How the values of the books become rows, and rows become values again.

The same rows are written, digested for the chain, and read again to prove it.
"""

import json
from collections.abc import Mapping, Sequence
from datetime import date, datetime
from fractions import Fraction
from typing import Any

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
        posted.entered_by,
        posted.reference,
        posted.party,
        posted.memo,
        posted.source,
        posted.currency,
        posted.rate,
        posted.reverses,
        posted.entry_kind,
        posted.corrects,
        posted.reason,
        posted.other,
    )


def line_row(line: Line) -> Row:
    """The line, without client, transaction and position."""
    return (
        line.number,
        line.account,
        line.amount,
        line.party,
        line.tax_code,
        line.description,
        line.dimensions,
        line.currency,
        line.foreign_amount,
        line.tax_date.isoformat() if line.tax_date else None,
        line.other,
    )


def allocation_row(row: Allocation) -> Row:
    """The allocation, without client, seq and change."""
    return (
        row.id,
        row.date.isoformat(),
        row.party,
        row.debit_transaction,
        row.credit_transaction,
        row.amount,
        row.foreign_amount,
        row.undoes,
        row.other,
    )


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

    def line(self, row: Sequence[Any]) -> Line:
        """From number, account, amount, ... to other."""
        if row[9] is None:
            return Line(*row)
        cells: Row = (*row[:9], self.day(row[9]), row[10])
        return Line(*cells)

    def transaction(
        self, row: Sequence[Any], lines: tuple[Line, ...], change: int | None
    ) -> Transaction:
        """From id to other; *change* None for what was received."""
        cells: Row = (
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
        return Transaction(*cells)

    def allocation(self, row: Sequence[Any], change: int | None) -> Allocation:
        cells: Row = (row[0], self.day(row[1]), *row[2:9], change)
        return Allocation(*cells)


KINDS: Mapping[str, TransactionKind] = {kind.value: kind for kind in TransactionKind}


def account_row(account: Account) -> Row:
    return (
        account.name,
        account.type,
        account.role,
        account.owner,
        account.tax_code,
        account.expected_type,
        account.other,
    )


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
