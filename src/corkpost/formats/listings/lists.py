"""Charts of accounts and lists of parties."""

from corkpost.core.chart.trade_words import plain, type_said
from corkpost.core.intake.raw import AccountRow, PartyRow
from corkpost.core.kinds import PartyKind
from corkpost.formats.listings.ledger import LedgerReader, PassedOver, split_account
from corkpost.formats.listings.sheets import Row
from corkpost.formats.listings.words import side_in

PARTY_KINDS = {"receivables": PartyKind.CUSTOMER, "payables": PartyKind.SUPPLIER}


class ChartReader(LedgerReader):
    """Reads a list of accounts: codes, names, types where it says them, by a column or by headings."""

    _section = ""

    def _take(self, row: Row) -> None:
        if self._is_empty(row):
            return
        texts = row.texts
        code = self._named(row, "account") if self._text(row, "account") else ""
        if not code:
            self._section = texts[0] if type_said(texts[0]) else self._section
            self.passed.append(PassedOver(row.line, "no account"))
            return
        said = type_said(self._text(row, "type")) or type_said(self._text(row, "journal"))
        said = said or type_said(self._text(row, "kind")) or type_said(self._section)
        self.raw.add_account(AccountRow(code, self.raw.accounts[code].name, said))
        self.used += 1


class PartyReader(LedgerReader):
    """Reads a list of parties. The side of the whole list is told by what stands over it."""

    side: str | None = None

    def _take(self, row: Row) -> None:
        if self._is_empty(row):
            return
        code = self._text(row, "party") or self._text(row, "account") or self._text(row, "number")
        name = self._text(row, "party_name") or self._text(row, "account_name")
        if not code and not name:
            self.passed.append(PassedOver(row.line, "no party"))
            return
        if not (code and name):
            code, name = split_account(code or name)
        said = self._text(row, "kind") or self._text(row, "type") or self._text(row, "journal")
        kind = PartyKind(plain(said)) if plain(said) in set(PartyKind) else None
        kind = kind or PARTY_KINDS.get(side_in([said]) or self.side or "")
        self.raw.parties.setdefault(code, PartyRow(code, name, kind))
        self.used += 1
