"""Lists of open items, and aged lists: what is open of each document, by party."""

from datetime import date
from functools import cached_property

from corkpost.core.intake.raw import OpenItem, PartyRow, Proof, Raw, Where
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
from corkpost.formats.listings.sheets import Row, Sheet, column_of
from corkpost.formats.listings.words import begins_as, sides_of

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
        place = heading.columns.get("side")
        body = sheet.rows[heading.last + 1 :]
        self._sides = (
            sides_of(str(cell) for cell in column_of(body, place) if cell)
            if place is not None
            else {}
        )

    def _take(self, row: Row) -> None:
        if self._is_empty(row):
            return
        label = self._label(row)
        amount = self._open(row)
        day = self._day(row, "day")
        if label and (begins_as(label, "total") or begins_as(label, "carried")) and day is None:
            if amount is None:
                found = self._minor(self._cell(row, "balance"))
                amount = found[0] if found else None
            if amount is not None:
                ours = amount if amount in (self._sum, self._since) else self._sum
                where = Where(self._sheet.says, row.line)
                self.raw.proofs.append(Proof(f"“{label}”", ours, amount, where))
                self._since = 0
            self.passed.append(PassedOver(row.line, "a total"))
            return
        said = self._said_party(row)
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
        side = self._sides.get(self._text(row, "side"), self._side)
        self.raw.parties.setdefault(code, PartyRow(code, name, KINDS[side]))
        self.raw.items.append(
            OpenItem(
                Where(self._sheet.says, row.line),
                self._as_at,
                amount * (1 if self._is_signed else SIGNS[side]),
                code,
                name,
                self._text(row, "reference") or self._text(row, "number"),
                day,
                self._day(row, "due"),
                side,
            )
        )

    def read(self) -> Raw:
        self._begin_above()
        return super().read()

    @cached_property
    def _is_signed(self) -> bool:
        """Whether, of a list of both sides, what is owed to suppliers mostly has a minus."""
        owed = [
            amount
            for row in self._sheet.rows[self._heading.last + 1 :]
            if self._sides.get(self._text(row, "side")) == "payables"
            and (amount := self._open(row)) is not None
        ]
        return sum(amount < 0 for amount in owed) * 2 > len(owed)

    @cached_property
    def _runs(self) -> bool:
        """Whether the balance is what each party owes up to the row, and not what is open of it."""
        if not self._has_sides or "balance" not in self._places:
            return False
        held, party, more = 0, ("", ""), 0
        for row in self._sheet.rows[self._heading.last + 1 :]:
            net, balance = self._amounts(row), self._minor(self._cell(row, "balance"))
            if net is None or balance is None:
                continue
            if (said := self._said_party(row)) != party:
                held, party = 0, said
            held += net
            if abs(balance[0]) != abs(held):
                return False
            more += held != net
        return more > 0

    def _said_party(self, row: Row) -> tuple[str, str]:
        """Code and name of a row's party: in a list of what is owed each has an account."""
        roles = ("party", "party_name")
        if not set(roles) & self._places.keys():
            roles = ("account", "account_name")
        return self._text(row, roles[0]), self._text(row, roles[1])

    def _begin_above(self) -> None:
        """Where each party has the heading once more, the first stands above its heading."""
        above = [row for row in self._sheet.rows[: self._heading.first] if row.texts]
        below = self._sheet.rows[self._heading.last + 1 :]
        if above and any(map(self._heading.repeated, below)):
            self._party = split_account(" ".join(above[-1].texts[:2]))

    def _end_block(self) -> None:
        return

    def _open(self, row: Row) -> Minor | None:
        """What is open, as the list says it: bills of its side are positive."""
        columns = self._heading.columns
        for role in ("open", "closing", "balance", "amount"):
            if role in columns and not (role == "balance" and self._runs):
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
