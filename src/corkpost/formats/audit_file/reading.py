"""Reads a standard audit file into books, leniently: by local names, in any order, lines in either way.

What does not add up is told and not repaired: counts and totals, closing balances, dates outside the span.
"""

import re
from collections import defaultdict
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from datetime import date, datetime, time
from fractions import Fraction
from pathlib import Path
from types import MappingProxyType
from typing import Any

from lxml import etree

from corkpost.core.books import (
    Account,
    Allocation,
    Books,
    ClientFacts,
    Line,
    Party,
    Tables,
    Tax,
    Transaction,
)
from corkpost.core.kinds import (
    AccountRole,
    AccountType,
    Entity,
    EntryKind,
    PartyKind,
    TaxKind,
    TransactionKind,
)
from corkpost.core.money import Currency, Minor, NotAnAmount
from corkpost.core.periods import ONE_DAY, parse_year_end, year_end_on
from corkpost.formats.audit_file.writing import ACCOUNT_TYPES
from corkpost.formats.books_folder.archive import UnreadableBooks
from corkpost.formats.books_folder.checking import Places, check_tables
from corkpost.formats.books_folder.columns import DAY, PERCENT, BadCell
from corkpost.formats.books_folder.faults import Faults
from corkpost.formats.books_folder.reading import BooksFolder, EarlierBooks

TYPES = {name.casefold(): kind for kind, name in ACCOUNT_TYPES.items()}
TYPES |= {
    "income": AccountType.INCOME,
    "equity": AccountType.EQUITY,
    "liabilities": AccountType.LIABILITY,
}
CURRENCY = re.compile("[A-Z]{3}")
LONGEST_CODE = 20
HANDLED = ("Header", "Account", "Customer", "Supplier", "TaxTableEntry", "Transaction", "Payment")
TABLES_READ = ("accounts", "parties", "taxes", "transactions", "lines", "allocations")
OTHERS = ("dimensions", "bank_accounts", "statements", "prior_year", "stock", "payroll",
          "agreements", "amendments", "attachments")  # fmt: skip


def looks_like_one(content: bytes) -> bool:
    """Whether a file that begins so is a standard audit file."""
    return b"AuditFile" in content[:2000] and content.lstrip(b"\xef\xbb\xbf \r\n\t")[:1] == b"<"


def read_audit_file(
    path: Path, earlier: EarlierBooks = lambda _code: None, only: str | None = None
) -> BooksFolder:
    """The books in the file. *only*: the client whose books they are taken to be, where the file does not
    say a code. Raises FaultyBooks with every fault, or UnreadableBooks where nothing can be looked at."""
    found = _Found(path.name)
    try:
        with path.open("rb") as file:
            for _, node in etree.iterparse(
                file, events=("end",), resolve_entities=False, no_network=True, load_dtd=False
            ):
                name = _local(node)
                if name in HANDLED:
                    found.take(name, node)
                    node.clear()
    except etree.XMLSyntaxError as error:
        raise UnreadableBooks(f"This is no whole XML file: {error}.") from None
    return found.books(earlier, only)


@dataclass
class _Found:
    """What was read so far. *closings*: the balances that the file says there are at the end."""

    file: str
    faults: Faults = field(default_factory=Faults)
    warnings: list[str] = field(default_factory=list)
    header: Mapping[str, str] = field(default_factory=dict)
    accounts: dict[str, Account] = field(default_factory=dict)
    parties: dict[str, Party] = field(default_factory=dict)
    taxes: list[Tax] = field(default_factory=list)
    transactions: list[Transaction] = field(default_factory=list)
    payments: list[tuple[Any, ...]] = field(default_factory=list)
    control: dict[str, AccountRole] = field(default_factory=dict)
    openings: dict[tuple[str, str | None], Minor] = field(default_factory=lambda: defaultdict(int))
    closings: dict[str, Minor] = field(default_factory=dict)
    lines: dict[str, list[int]] = field(default_factory=lambda: defaultdict(list))

    @property
    def currency(self) -> Currency:
        return Currency(self.header.get("currency") or "EUR")

    def take(self, name: str, node: Any) -> None:
        readers: Mapping[str, Callable[[Any], None]] = {
            "Header": self._header,
            "Account": self._account,
            "Customer": lambda n: self._party(n, PartyKind.CUSTOMER, AccountRole.RECEIVABLES),
            "Supplier": lambda n: self._party(n, PartyKind.SUPPLIER, AccountRole.PAYABLES),
            "TaxTableEntry": self._tax,
            "Transaction": self._transaction,
            "Payment": self._payment,
        }
        if node.getroottree().docinfo.doctype:
            raise UnreadableBooks("The file declares a document type, which no audit file needs.")
        readers[name](node)

    def _wrong(self, node: Any, what: str) -> None:
        self.faults.add(self.file, node.sourceline or 1, _local(node), what)

    def _header(self, node: Any) -> None:
        company = _child(node, "Company")
        says = _text(node, "HeaderComment") or ""
        facts = dict(part.strip().partition("=")[::2] for part in says.split(";") if "=" in part)
        where = company if company is not None else node
        span = _child(node, "SelectionCriteria")
        span = span if span is not None else node
        self.header = {
            "code": _text(where, "RegistrationNumber") or _text(where, "CompanyID") or "",
            "name": _text(where, "Name") or _text(where, "CompanyName") or "",
            "currency": _text(node, "DefaultCurrencyCode") or _text(node, "CurrencyCode") or "",
            "first": _text(span, "SelectionStartDate") or _text(span, "StartDate") or "",
            "last": _text(span, "SelectionEndDate") or _text(span, "EndDate") or "",
            **{f"our {name}": value for name, value in facts.items()},
        }

    def _account(self, node: Any) -> None:
        code = _text(node, "AccountID")
        if code is None:
            self._wrong(node, "AccountID is missing")
            return
        kind = TYPES.get((_text(node, "AccountType") or "").casefold())
        if kind is None:
            kind = AccountType.ASSET
            self.warnings.append(
                f"{code}: its type is {_text(node, 'AccountType')!r}: taken as an asset."
            )
        name = _text(node, "AccountDescription") or code
        self.accounts[code] = Account(code, name, kind, expected_type=None)
        opening, closing = self._sides(node, "Opening"), self._sides(node, "Closing")
        if opening is not None:
            self.openings[code, None] += opening
        if closing is not None:
            self.closings[code] = closing

    def _sides(self, node: Any, which: str) -> Minor | None:
        """Debit less credit; None where neither is said."""
        debit = self._money(node, _text(node, f"{which}DebitBalance"))
        credit = self._money(node, _text(node, f"{which}CreditBalance"))
        return None if debit is None and credit is None else (debit or 0) - (credit or 0)

    def _money(self, node: Any, text: str | None) -> Minor | None:
        if text is None:
            return None
        try:
            return self.currency.parse(text)
        except NotAnAmount as bad:
            self._wrong(node, str(bad))
            return None

    def _party(self, node: Any, kind: PartyKind, role: AccountRole) -> None:
        code = _text(node, "CustomerID") or _text(node, "SupplierID")
        if code is None:
            self._wrong(node, "its ID is missing")
            return
        name = _text(node, "Name") or _text(node, "CompanyName") or code
        self.parties.setdefault(code, Party(code, name, kind))
        account = _text(node, "AccountID")
        if account:
            self.control.setdefault(account, role)
            opening = self._sides(node, "Opening")
            if opening:
                self.openings[account, code] += opening
                self.openings[account, None] -= opening

    def _tax(self, node: Any) -> None:
        for details in _children(node, "TaxCodeDetails") or [node]:
            code = _text(details, "TaxCode")
            percent = _text(details, "TaxPercentage")
            if code is None or percent is None:
                continue
            try:
                rate = PERCENT.read(percent)
            except BadCell as bad:
                self._wrong(details, f"TaxPercentage: {bad}")
                continue
            said = _text(details, "Description") or ""
            kind = TaxKind(said) if said in set(TaxKind) else _tax_kind(rate)
            self.taxes.append(Tax(code, _text(node, "Description") or code, rate, kind))

    def _transaction(self, node: Any) -> None:
        name = _text(node, "TransactionID")
        day = self._day(node, "GLPostingDate") or self._day(node, "TransactionDate")
        if name is None or day is None:
            self._wrong(node, "TransactionID and GLPostingDate are needed")
            return
        kind, entry_kind = _kinds(_text(node, "TransactionType"))
        document = self._day(node, "TransactionDate")
        keyed = self._day(node, "SystemEntryDate")
        says = _text(node, "Description") or ""
        lines = tuple(self._lines(node, says))
        if not lines:
            self._wrong(node, f"{name} has no lines")
            return
        references = [_text(line, "SourceDocumentID") for line in _line_nodes(node)]
        journal = node.getparent()
        source = _text(journal, "JournalID") if journal is not None else None
        shown = None if says == kind.value else says
        self.lines["transactions"].append(node.sourceline or 1)
        self.lines["lines"] += [line.sourceline or 1 for line in _line_nodes(node)]
        self.transactions.append(
            Transaction(
                id=name,
                kind=kind,
                posting_date=day,
                lines=lines,
                document_date=document if document != day else None,
                entered_at=datetime.combine(keyed, time()) if keyed else None,
                entered_by=_text(node, "SourceID"),
                reference=next((text for text in references if text), None),
                party=_text(node, "CustomerID") or _text(node, "SupplierID"),
                memo=shown,
                source=source,
                entry_kind=entry_kind,
                reason=shown if entry_kind else None,
            )
        )

    def _lines(self, node: Any, says: str) -> Iterator[Line]:
        for number, line in enumerate(_line_nodes(node), 1):
            account = _text(line, "AccountID")
            debit, credit = self._side(line, "DebitAmount"), self._side(line, "CreditAmount")
            amount = (debit or 0) - (credit or 0)
            if account is None or (debit is None and credit is None):
                self._wrong(line, "AccountID and one of DebitAmount and CreditAmount are needed")
                continue
            if not amount:
                continue
            side = _child(line, "DebitAmount" if debit is not None else "CreditAmount")
            foreign = _text(side, "CurrencyAmount")
            tax = _child(line, "TaxInformation")
            said = _text(line, "Description")
            yield Line(
                number=number,
                account=account,
                amount=amount,
                party=_text(line, "CustomerID") or _text(line, "SupplierID"),
                tax_code=_text(tax, "TaxCode") if tax is not None else None,
                description=said if said and said != says else None,
                dimensions=_dimensions(line),
                currency=_text(side, "CurrencyCode"),
                foreign_amount=f"-{foreign}" if foreign and amount < 0 else foreign,
                tax_date=self._day(line, "ValueDate"),
            )

    def _side(self, node: Any, name: str) -> Minor | None:
        side = _child(node, name)
        if side is None:
            return None
        return self._money(node, _text(side, "Amount") or (side.text or "").strip() or None)

    def _day(self, node: Any, name: str) -> date | None:
        text = _text(node, name)
        if text is None:
            return None
        try:
            found: date = DAY.read(text[:10])
        except BadCell as bad:
            self._wrong(node, f"{name}: {bad}")
            return None
        return found

    def _payment(self, node: Any) -> None:
        name, mine = _text(node, "PaymentRefNo"), _text(node, "TransactionID")
        day = self._day(node, "TransactionDate")
        if not (name and mine and day):
            return
        for line in _children(node, "Line"):
            theirs = _text(line, "SourceDocumentID") or _text(
                _child(line, "SourceDocumentID"), "OriginatingON"
            )
            party = _text(line, "CustomerID") or _text(line, "SupplierID")
            amount = self._side(line, "PaymentLineAmount")
            if theirs and amount:
                self.payments.append((name, day, party, mine, theirs, abs(amount), node.sourceline))

    def books(self, earlier: EarlierBooks, only: str | None) -> BooksFolder:
        """The books as they are taken in. Faults are told all at once."""
        code = self._code(only)
        known = earlier(code)
        client = self._client(code, known)
        self.faults.refuse_any()
        opening = self._opening(client, known)
        tables = Tables(
            accounts=tuple(self._as_known(row, known) for row in self.accounts.values()),
            parties=tuple(_party_as_known(row, known) for row in self.parties.values()),
            taxes=tuple(self.taxes),
            transactions=(
                *opening,
                *(_transaction_as_known(row, known) for row in self.transactions),
            ),
        )
        allocations = (*self._allocations(tables), *_beyond_the_file(tables, known))
        tables = replace(tables, allocations=allocations)
        self._report(client)
        check_tables(client, tables, self._places(len(opening), tables), self.faults, known)
        self.faults.refuse_any()
        return BooksFolder(
            client, tables, MappingProxyType({}), tuple(self.warnings), MappingProxyType({})
        )

    def _code(self, only: str | None) -> str:
        """Whose books they are: as we wrote it, else whose they are taken to be, else made of what the
        file calls the company."""
        if not self.header:
            raise UnreadableBooks("There is no Header in this file: it is no standard audit file.")
        ours = "our entity" in self.header
        return (None if ours else only) or _code_of(self.header)

    def _client(self, code: str, known: Books | None) -> ClientFacts:
        header = self.header
        first, last = _maybe_day(header["first"]), _maybe_day(header["last"])
        if first is None or last is None or last < first:
            raise UnreadableBooks("The Header says no span: SelectionStartDate, SelectionEndDate.")
        if not CURRENCY.fullmatch(self.currency.code):
            raise UnreadableBooks(f"{self.currency.code!r} is no currency: three capitals are one.")
        if known is not None:
            self._compare(known.client)
            return replace(known.client, books_from=first, books_to=last)
        entity, year_end = header.get("our entity", ""), header.get("our year-end", "")
        if not entity:
            self.warnings.append(
                "The file does not say what kind of client it is: taken as a company."
            )
        return ClientFacts(
            code=code,
            name=header["name"] or code,
            entity=Entity(entity) if entity in set(Entity) else Entity.COMPANY,
            currency=self.currency,
            year_end=_year_end(year_end) or year_end_on(last),
            tax_registered=header.get("our tax-registered", "yes" if self.taxes else "no") == "yes",
            books_from=first,
            books_to=last,
        )

    def _compare(self, client: ClientFacts) -> None:
        """Whether it may be the client's file: refused in another currency, told under another name."""
        if client.currency != self.currency:
            raise UnreadableBooks(
                f"The file is in {self.currency.code}, and the books of {client.code} are in "
                f"{client.currency.code}."
            )
        name = self.header["name"]
        if name.casefold() != client.name.casefold():
            self.warnings.insert(
                0,
                f"The file is of {name!r}, and these are the books of {client.name!r}: is it theirs?",
            )

    def _opening(self, client: ClientFacts, known: Books | None) -> tuple[Transaction, ...]:
        """The opening balances as one transaction on the day before, open items by party; none where the
        books of earlier years are there, or where they do not balance, which is told."""
        day = (client.books_from or date.min) - ONE_DAY
        if known and any(row.posting_date <= day for row in known.tables.transactions):
            return ()
        rows = [(key, amount) for key, amount in sorted(self.openings.items(), key=str) if amount]
        out = sum(amount for _, amount in rows)
        if out:
            shown = self.currency.format_amount(out)
            self.warnings.append(f"The opening balances are out by {shown}: they were left out.")
        if out or not rows:
            return ()
        lines = tuple(
            Line(number, account, amount, party)
            for number, ((account, party), amount) in enumerate(rows, 1)
        )
        return (Transaction(f"opening-{day}", TransactionKind.OPENING, day, lines),)

    def _as_known(self, row: Account, known: Books | None) -> Account:
        """With what the file has no place for: as it stands, or what the parties' accounts say."""
        old = known.accounts.get(row.code) if known else None
        if old is not None:
            return old._replace(name=row.name, type=row.type)
        return row._replace(role=self.control.get(row.code, AccountRole.ORDINARY))

    def _allocations(self, tables: Tables) -> Iterator[Allocation]:
        """What settles what, as far as both sides are in the file."""
        by_id = {row.id: row for row in tables.transactions}
        by_reference = {(row.party, row.reference): row.id for row in tables.transactions}
        for number, (name, day, party, mine, theirs, amount, line) in enumerate(self.payments):
            other = theirs if theirs in by_id else by_reference.get((party, theirs))
            if mine not in by_id or other is None or party is None:
                self.warnings.append(f"payment {name} settles {theirs}, which is not in the file.")
                continue
            debit, credit = (mine, other) if _is_debit(by_id[mine], party) else (other, mine)
            repeated = any(row[0] == name for row in self.payments[:number])
            self.lines["allocations"].append(line or 1)
            yield Allocation(
                f"{name}-{number}" if repeated else name, day, party, debit, credit, amount
            )

    def _report(self, client: ClientFacts) -> None:
        """What does not add up, told and left as it is."""
        held: dict[str, Minor] = defaultdict(int)
        for (account, _), amount in self.openings.items():
            held[account] += amount
        for posted in self.transactions:
            for line in posted.lines:
                held[line.account] += line.amount
        words = client.currency.format_amount
        for account, closing in self.closings.items():
            if held[account] != closing:
                self.warnings.append(
                    f"{account}: opening and movements come to {words(held[account])}; the file says that "
                    f"it closes at {words(closing)}."
                )
        first, last = client.books_from, client.books_to
        for posted in self.transactions:
            if first and last and not first <= posted.posting_date <= last:
                self.warnings.append(
                    f"{posted.id} of {posted.posting_date} lies outside the file's span."
                )

    def _places(self, openings: int, tables: Tables) -> Places:
        lines = {name: list(self.lines[name]) for name in TABLES_READ}
        lines["accounts"] = [1] * len(tables.accounts)
        lines["parties"] = [1] * len(tables.parties)
        lines["taxes"] = [1] * len(tables.taxes)
        lines["transactions"] = [1] * openings + lines["transactions"]
        lines |= {name: [] for name in OTHERS}
        return Places(
            files=dict.fromkeys((*TABLES_READ, *OTHERS), self.file),
            lines=lines,
            lines_of=lambda: {
                row.id: [line] * len(row.lines)
                for row, line in zip(tables.transactions, lines["transactions"], strict=True)
            },
            spoiled=defaultdict(set),
            on_transactions=(),
        )


def _local(node: Any) -> str:
    return etree.QName(node).localname if isinstance(node.tag, str) else ""


def _children(node: Any, name: str) -> list[Any]:
    return [child for child in node if _local(child) == name] if node is not None else []


def _child(node: Any, name: str) -> Any:
    return next(iter(_children(node, name)), None)


def _text(node: Any, name: str) -> str | None:
    found = _child(node, name)
    return ((found.text or "").strip() or None) if found is not None else None


def _line_nodes(node: Any) -> list[Any]:
    """The lines of a transaction, whichever way they are written."""
    rows = [child for child in node if _local(child) in ("Line", "TransactionLine")]
    for held in _children(node, "Lines"):
        rows += [child for child in held if _local(child) in ("DebitLine", "CreditLine", "Line")]
    return rows


def _dimensions(line: Any) -> str | None:
    pairs = [
        f"{_text(part, 'AnalysisType')}={_text(part, 'AnalysisID')}"
        for part in _children(line, "Analysis")
    ]
    return ";".join(pairs) or None


def _kinds(text: str | None) -> tuple[TransactionKind, EntryKind | None]:
    kind, _, entry = (text or "").partition("/")
    return (
        TransactionKind(kind) if kind in set(TransactionKind) else TransactionKind.JOURNAL,
        EntryKind(entry) if entry in set(EntryKind) else None,
    )


def _tax_kind(rate: Fraction) -> TaxKind:
    return TaxKind.STANDARD if rate else TaxKind.ZERO


def _maybe_day(text: str) -> date | None:
    try:
        found: date = DAY.read(text[:10])
    except BadCell:
        return None
    return found


def _year_end(text: str) -> tuple[int, int] | None:
    try:
        return parse_year_end(text)
    except ValueError:
        return None


def _code_of(header: Mapping[str, str]) -> str:
    """A client's code from the file's registration number, else from its name."""
    given = header["code"] or "".join(sign for sign in header["name"].upper() if sign.isalnum())[:8]
    kept = "".join(sign for sign in given if sign.isascii() and (sign.isalnum() or sign == "-"))
    return kept[:LONGEST_CODE] or "CLIENT"


def _is_debit(posted: Transaction, party: str) -> bool:
    return sum(line.amount for line in posted.lines if line.party == party) > 0


def _transaction_as_known(row: Transaction, known: Books | None) -> Transaction:
    """With what the file has no place for, where all that it says is as it was."""
    old = known.transactions.get(row.id) if known else None
    return old if old is not None and _carried(old) == _carried(row) else row


def _carried(row: Transaction) -> tuple[object, ...]:
    """What the file says of a transaction."""
    lines = [(x.account, x.amount, x.party, x.tax_code, x.dimensions) for x in row.lines]
    return (row.kind, row.posting_date, row.day, row.corrects or row.reference, row.party, lines)


def _beyond_the_file(tables: Tables, known: Books | None) -> Iterator[Allocation]:
    """What settles the file's transactions with others, or was freed again: it has no place for these, and
    so does not say that they are gone."""
    if known is None:
        return
    inside = {row.id for row in tables.transactions}
    undone = {row.undoes for row in known.tables.allocations}
    for row in known.tables.allocations:
        if row.change is None:
            both = {row.debit_transaction, row.credit_transaction} <= inside
            if not both or row.undoes is not None or row.id in undone:
                yield row


def _party_as_known(row: Party, known: Books | None) -> Party:
    old = known.parties.get(row.code) if known else None
    return old._replace(name=row.name) if old else row
