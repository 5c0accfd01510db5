"""Writes a client's year as a standard audit file, in the order of the OECD's structure.

The client's own transactions stand as they are; our entries are a journal of their own. What the structure
has no place for (roles, owners, due dates, agreements) is not in it; docs/formats/audit-file.md lists it.
"""

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from datetime import date
from pathlib import Path
from typing import Any

from lxml import etree

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import AccountType, PartyKind
from corkpost.core.money import Minor, rounded
from corkpost.core.periods import ONE_DAY, FinancialYear, year_end_text

NAMESPACE = "urn:OECD:StandardAuditFile-Taxation/2.00"
ACCOUNT_TYPES: Mapping[AccountType, str] = {
    AccountType.ASSET: "Asset",
    AccountType.LIABILITY: "Liability",
    AccountType.INCOME: "Sale",
    AccountType.EXPENSE: "Expense",
    AccountType.EQUITY: "Other",
}
OURS = "ADJ"
UNKNOWN = "NA"
"""What the structure asks for and the books do not know."""
LONGEST_TEXT = 256
JOURNALS = {"": "Books as received", OURS: "Accountant's entries"}

Balances = dict[tuple[str, str | None], Minor]
"""By account and, on control accounts, party."""


def write_audit_file(books: Books, year: FinancialYear, to: Path, *, created: date) -> None:
    """Write the *year* of the books, streamed, into the file *to*."""
    posted = [
        entry
        for entry in books.tables.transactions
        if year.first_day <= entry.posting_date <= year.last_day
    ]
    with etree.xmlfile(str(to), encoding="UTF-8") as file:
        file.write_declaration()
        writer = _Writer(file, books, year, posted)
        with file.element("AuditFile", nsmap={None: NAMESPACE}):
            writer.header(created)
            writer.master_files()
            writer.entries()
            writer.payments()


class _Writer:
    def __init__(
        self, file: Any, books: Books, year: FinancialYear, posted: list[Transaction]
    ) -> None:
        self._file = file
        self._books = books
        self._year = year
        self._posted = posted
        self._money = books.client.currency.format
        self._ends = [period.last_day for period in books.calendar.periods(year)]

    @contextmanager
    def _within(self, name: str) -> Iterator[None]:
        with self._file.element(name):
            yield

    def _text(self, name: str, value: object) -> None:
        """An element with that text; none where there is none."""
        if value is None or value == "":
            return
        with self._file.element(name):
            self._file.write(_tidy(str(value)))

    def _amount(self, name: str, amount: Minor, line: Line | None = None) -> None:
        with self._within(name):
            self._text("Amount", self._money(amount))
            if line is not None and line.currency and line.foreign_amount:
                self._text("CurrencyCode", line.currency)
                self._text("CurrencyAmount", line.foreign_amount.removeprefix("-"))

    def header(self, created: date) -> None:
        client = self._books.client
        with self._within("Header"):
            self._text("AuditFileVersion", "2.00")
            self._text("AuditFileCountry", "ZZ")
            self._text("AuditFileDateCreated", created)
            self._text("SoftwareCompanyName", "Cork Post")
            self._text("SoftwareID", "Cork Post")
            self._text("SoftwareVersion", "1")
            with self._within("Company"):
                self._text("RegistrationNumber", client.code)
                self._text("Name", client.name)
                self._address()
                with self._within("Contact"), self._within("ContactPerson"):
                    self._text("FirstName", UNKNOWN)
                    self._text("LastName", UNKNOWN)
            self._text("DefaultCurrencyCode", client.currency.code)
            with self._within("SelectionCriteria"):
                self._text("SelectionStartDate", self._year.first_day)
                self._text("SelectionEndDate", self._year.last_day)
            taxed = "yes" if client.tax_registered else "no"
            facts = (
                f"entity={client.entity}; year-end={year_end_text(client.year_end)};"
                f" tax-registered={taxed}"
            )
            self._text("HeaderComment", facts)
            self._text("TaxAccountingBasis", "A")

    def _address(self) -> None:
        with self._within("Address"):
            self._text("City", UNKNOWN)
            self._text("PostalCode", UNKNOWN)

    def master_files(self) -> None:
        first, last = self._year.first_day, self._year.last_day
        opening = self._balances(first - ONE_DAY)
        closing = self._balances(last)
        before, after = _by_account(opening), _by_account(closing)
        with self._within("MasterFiles"):
            with self._within("GeneralLedgerAccounts"):
                for account in self._books.tables.accounts:
                    with self._within("Account"):
                        self._text("AccountID", account.code)
                        self._text("AccountDescription", account.name)
                        self._text("AccountType", ACCOUNT_TYPES[account.type])
                        self._sides(before.get(account.code, 0), after.get(account.code, 0))
            self._parties("Customer", AccountType.ASSET, opening, closing)
            self._parties("Supplier", AccountType.LIABILITY, opening, closing)
            self._taxes()

    def _balances(self, at: date) -> Balances:
        """What every account holds at the end of *at*, income and expense of earlier years too."""
        sums: Balances = defaultdict(int)
        control = self._books.control_accounts
        for posted in self._books.tables.transactions:
            if posted.posting_date <= at:
                for line in posted.lines:
                    party = line.party if line.account in control else None
                    sums[line.account, party] += line.amount
        return sums

    def _sides(self, opening: Minor, closing: Minor) -> None:
        for name, amount in (("Opening", opening), ("Closing", closing)):
            side = "Credit" if amount < 0 else "Debit"
            self._text(f"{name}{side}Balance", self._money(abs(amount)))

    def _parties(self, what: str, kind: AccountType, opening: Balances, closing: Balances) -> None:
        rows = list(self._party_rows(kind, opening, closing))
        if not rows:
            return
        with self._within(f"{what}s"):
            for code, account in rows:
                with self._within(what):
                    self._text("Name", self._books.parties[code].name)
                    self._address()
                    self._text(f"{what}ID", code)
                    self._text("AccountID", account)
                    key = (account or "", code)
                    self._sides(opening.get(key, 0), closing.get(key, 0))

    def _party_rows(
        self, kind: AccountType, opening: Balances, closing: Balances
    ) -> Iterator[tuple[str, str | None]]:
        """Each party with its control account of that kind, as customer or as supplier."""
        books = self._books
        control = sorted(c for c in books.control_accounts if books.accounts[c].type is kind)
        held = {party: account for account, party in (*opening, *closing) if account in control}
        for party in books.tables.parties:
            own = is_customer(party.kind) is (kind is AccountType.ASSET)
            if own or party.code in held:
                yield party.code, held.get(party.code) or (control[0] if control else None)

    def _taxes(self) -> None:
        if not self._books.tables.taxes:
            return
        with self._within("TaxTable"):
            for tax in self._books.tables.taxes:
                with self._within("TaxTableEntry"):
                    self._text("TaxType", "VAT")
                    self._text("Description", tax.name)
                    with self._within("TaxCodeDetails"):
                        self._text("TaxCode", tax.code)
                        self._text("Description", tax.kind)
                        self._text("TaxPercentage", format(float(tax.rate), "g"))
                        self._text("Country", "ZZ")

    def entries(self) -> None:
        total = sum(entry.total for entry in self._posted)
        ours = [entry for entry in self._posted if entry.change is not None]
        theirs = [entry for entry in self._posted if entry.change is None]
        with self._within("GeneralLedgerEntries"):
            self._text("NumberOfEntries", len(self._posted))
            self._text("TotalDebit", self._money(total))
            self._text("TotalCredit", self._money(total))
            by_source: dict[str, list[Transaction]] = defaultdict(list)
            for entry in theirs:
                by_source[entry.source or "GL"].append(entry)
            for name, rows in sorted(by_source.items()):
                self._journal(name, JOURNALS[""], rows)
            if ours:
                self._journal(OURS, JOURNALS[OURS], ours)

    def _journal(self, name: str, says: str, rows: Iterable[Transaction]) -> None:
        with self._within("Journal"):
            self._text("JournalID", name)
            self._text("Description", says)
            self._text("Type", name[:9])
            for entry in rows:
                self._transaction(entry)

    def _transaction(self, entry: Transaction) -> None:
        number = bisect_left(self._ends, entry.posting_date) + 1
        says = entry.memo or (entry.reason or "").strip() or entry.kind.value
        with self._within("Transaction"):
            self._text("TransactionID", entry.id)
            self._text("Period", number)
            self._text("PeriodYear", self._year.last_day.year)
            self._text("TransactionDate", entry.day)
            self._text("SourceID", entry.entered_by)
            self._text("TransactionType", transaction_type(entry))
            self._text("Description", says)
            keyed = entry.entered_at.date() if entry.entered_at else entry.posting_date
            self._text("SystemEntryDate", keyed)
            self._text("GLPostingDate", entry.posting_date)
            self._party(entry.party)
            for place, line in enumerate(entry.lines, 1):
                self._line(entry, line, place, says)

    def _party(self, code: str | None, account: str | None = None) -> None:
        if code is None or code not in self._books.parties:
            return
        customer = is_customer(self._books.parties[code].kind)
        if account in self._books.control_accounts:
            customer = self._books.accounts[account or ""].type is AccountType.ASSET
        self._text("CustomerID" if customer else "SupplierID", code)

    def _line(self, entry: Transaction, line: Line, place: int, says: str) -> None:
        with self._within("Line"):
            self._text("RecordID", place)
            self._text("AccountID", line.account)
            for part in (line.dimensions or "").split(";"):
                kind, _, code = part.partition("=")
                if code:
                    with self._within("Analysis"):
                        self._text("AnalysisType", kind)
                        self._text("AnalysisID", code)
            self._text("ValueDate", line.tax_date)
            self._text("SourceDocumentID", entry.corrects or entry.reference)
            self._party(line.party, line.account)
            self._text("Description", line.description or says)
            self._amount(
                "DebitAmount" if line.amount > 0 else "CreditAmount", abs(line.amount), line
            )
            if line.tax_code and line.tax_code in self._books.taxes:
                self._tax(line)

    def _tax(self, line: Line) -> None:
        tax = self._books.taxes[line.tax_code or ""]
        with self._within("TaxInformation"):
            self._text("TaxType", "VAT")
            self._text("TaxCode", tax.code)
            self._text("TaxPercentage", format(float(tax.rate), "g"))
            self._amount("TaxAmount", rounded(abs(line.amount) * tax.rate / 100))

    def payments(self) -> None:
        """What settles what, among the year's transactions: each standing allocation as a payment."""
        inside = {entry.id for entry in self._posted}
        undone = {row.undoes for row in self._books.tables.allocations}
        rows = [
            row
            for row in self._books.tables.allocations
            if row.undoes is None
            and row.id not in undone
            and {row.debit_transaction, row.credit_transaction} <= inside
        ]
        if not rows:
            return
        total = self._money(sum(row.amount for row in rows))
        with self._within("SourceDocuments"), self._within("Payments"):
            self._text("NumberOfEntries", len(rows))
            self._text("TotalDebit", total)
            self._text("TotalCredit", total)
            for row in rows:
                with self._within("Payment"):
                    self._text("PaymentRefNo", row.id)
                    self._text("TransactionID", row.debit_transaction)
                    self._text("TransactionDate", row.date)
                    self._text("PaymentMethod", "other")
                    self._text("Description", "settled")
                    with self._within("Line"):
                        self._text("SourceDocumentID", row.credit_transaction)
                        self._party(row.party, self._control_of(row.debit_transaction, row.party))
                        self._text("DebitCreditIndicator", "D")
                        self._amount("PaymentLineAmount", row.amount)
                    with self._within("DocumentTotals"):
                        self._text("NetTotal", self._money(row.amount))
                        self._text("GrossTotal", self._money(row.amount))

    def _control_of(self, transaction: str, party: str) -> str | None:
        lines = self._books.transactions[transaction].lines
        control = self._books.control_accounts
        return next((x.account for x in lines if x.party == party and x.account in control), None)


def transaction_type(entry: Transaction) -> str:
    """Its kind, with the kind of entry where it is one of ours: `journal/correcting`."""
    return f"{entry.kind}/{entry.entry_kind}" if entry.entry_kind else entry.kind.value


def is_customer(kind: PartyKind) -> bool:
    return kind is PartyKind.CUSTOMER


def _by_account(sums: Balances) -> Mapping[str, Minor]:
    found: dict[str, Minor] = defaultdict(int)
    for (account, _), amount in sums.items():
        found[account] += amount
    return found


def _tidy(text: str) -> str:
    """Without what XML forbids, and no longer than the structure allows."""
    kept = "".join(sign for sign in text if sign >= " " or sign in "\t\n\r")
    return kept[:LONGEST_TEXT]
