"""Lists of open items, and aged lists: what is open of each document, by party."""

from datetime import date

from corkpost.core.intake.raw import OpenItem, PartyRow, Proof, Where
from corkpost.core.kinds import PartyKind
from corkpost.core.money import Currency, Minor
from corkpost.formats.listings.headings import Heading
from corkpost.formats.listings.ledger import (
    LedgerReader,
    Manner,
    PassedOver,
    Unplaced,
    split_account,
)
from corkpost.formats.listings.sheets import Row, Sheet
from corkpost.formats.listings.words import begins_as

KINDS = {"receivables": PartyKind.CUSTOMER, "payables": PartyKind.SUPPLIER}
SIGNS = {"receivables": 1, "payables": -1}


class ItemReader(LedgerReader):
    """Reads the open items of one side. *side*: `receivables`, whose bills are debits, or `payables`."""

    def __init__(
        self,
        sheet: Sheet,
        heading: Heading,
        manner: Manner,
        currency: Currency,
        as_at: date,
        side: str,
    ) -> None:
        super().__init__(sheet, heading, manner, currency)
        self._as_at, self._side = as_at, side
        self._party: tuple[str, str] = ("", "")
        self._sum = self._since = 0

    def _take(self, row: Row) -> None:
        if self._is_empty(row):
            return
        label = self._label(row)
        amount = self._open(row)
        day = self._day(row, "day")
        if label and (begins_as(label, "total") or begins_as(label, "carried")) and day is None:
            if amount is not None:
                ours = amount if amount in (self._sum, self._since) else self._sum
                where = Where(self._sheet.says, row.line)
                self.raw.proofs.append(Proof(f"“{label}”", ours, amount, where))
                self._since = 0
            self.passed.append(PassedOver(row.line, "a total"))
            return
        said = self._text(row, "party"), self._text(row, "party_name")
        if amount is None:
            if label and day is None:
                code, name = split_account(" ".join(row.texts[:2]))
                self._party = (code, name)
            self.passed.append(PassedOver(row.line, "the name of a party"))
            return
        if any(said):
            self._party = _party_of(*said)
        if not self._party[0]:
            self.unplaced.append(Unplaced(row.line, "an amount and nobody's name"))
            return
        self._sum += amount
        self._since += amount
        self.used += 1
        if not amount:
            return
        code, name = self._party
        self.raw.parties.setdefault(code, PartyRow(code, name, KINDS[self._side]))
        self.raw.items.append(
            OpenItem(
                Where(self._sheet.says, row.line),
                self._as_at,
                amount * SIGNS[self._side],
                code,
                name,
                self._text(row, "reference") or self._text(row, "number"),
                day,
                self._day(row, "due"),
                self._side,
            )
        )

    def _end_block(self) -> None:
        return

    def _open(self, row: Row) -> Minor | None:
        """What is open, as the list says it: bills of its side are positive."""
        columns = self._heading.columns
        for role in ("open", "closing", "balance", "amount"):
            if role in columns:
                found = self._minor(self._cell(row, role))
                if found is None:
                    return None
                return -found[0] if self.manner.turned else found[0]
        if "debit" in columns and "credit" in columns:
            net = self._amounts(row)
            return None if net is None else net * SIGNS[self._side]
        return None


def _party_of(code: str, name: str) -> tuple[str, str]:
    if code and name:
        return code, name
    return split_account(code or name)
