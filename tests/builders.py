"""Small books, made in a line: `books_with(bill("RW-0117", on="2026-04-03", fuel="200.00"))`."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date, datetime, timedelta
from fractions import Fraction
from itertools import count
from typing import Any

from corkpost.core import row_kinds
from corkpost.core.amendments import with_amendments, with_chart
from corkpost.core.books import (
    Account,
    AccountAmendment,
    Allocation,
    Amendment,
    Books,
    ClientFacts,
    Line,
    Party,
    PartyAmendment,
    PostedChange,
    PriorBalance,
    Tables,
    Tax,
    Transaction,
)
from corkpost.core.change import Plan
from corkpost.core.kinds import (
    AccountRole,
    AccountType,
    Entity,
    EntryKind,
    PartyKind,
    PeriodState,
    TaxKind,
)
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.merging import with_merges
from corkpost.core.periods import Calendar, FinancialYear, Period
from corkpost.core.row_kinds import Posting
from corkpost.core.statements import Statement, StatementLine
from tests.notation import EUR, eur, lines_of

ACCOUNTS = tuple(
    Account(code, name, AccountType(kind), AccountRole(role), owner)
    for code, name, kind, role, owner in (
        ("0100", "boats", "asset", "fixed-asset", None),
        ("1100", "receivables", "asset", "receivables", None),
        ("1200", "bank", "asset", "bank", None),
        ("1500", "stock", "asset", "stock", None),
        ("1205", "savings", "asset", "bank", None),
        ("1250", "in hand", "asset", "unbanked", None),
        ("1260", "card takings", "asset", "card-clearing", None),
        ("1290", "clearing", "asset", "clearing", None),
        ("2100", "payables", "liability", "payables", None),
        ("2200", "tax", "liability", "tax", None),
        ("2210", "accruals", "liability", "accrual", None),
        ("2250", "net pay owed", "liability", "payroll-net", None),
        ("2260", "payroll tax", "liability", "payroll-tax", None),
        ("2400", "loan", "liability", "loan", None),
        ("2300", "deferred income", "liability", "deferred-income", None),
        ("3000", "capital", "equity", "capital", "O1"),
        ("3200", "drawings", "equity", "drawings", "O1"),
        ("3300", "current account Fennel", "equity", "partner-current", "O1"),
        ("3310", "current account Thorn", "equity", "partner-current", "O2"),
        ("3400", "retained earnings", "equity", "retained-earnings", None),
        ("4000", "sales", "income", "sales", None),
        ("4090", "other income", "income", "", None),
        ("5200", "fuel", "expense", "", None),
        ("5310", "electricity", "expense", "", None),
        ("5400", "wages", "expense", "wages", None),
        ("5410", "contributions", "expense", "employer-contributions", None),
        ("6300", "loan interest", "expense", "loan-interest", None),
        ("6100", "office", "expense", "", None),
        ("6310", "charges", "expense", "bank-charges", None),
    )
)
PARTIES = (
    Party("S1", "Reedwharf", PartyKind.SUPPLIER),
    Party("S2", "Kittiwake Signs", PartyKind.SUPPLIER, aliases=("KTW Signs",)),
    Party("S3", "Tern Print Ltd", PartyKind.SUPPLIER),
    Party("C1", "Harbour School", PartyKind.CUSTOMER),
    Party("C2", "Averin Scouts", PartyKind.CUSTOMER),
    Party("O1", "Bea Fennel", PartyKind.OWNER, share=Fraction(60)),
    Party("O2", "Ruth Thorn", PartyKind.OWNER, share=Fraction(40)),
)
TAXES = (
    Tax("S23", "Standard 23%", Fraction(23), TaxKind.STANDARD),
    Tax("N23", "23%, not reclaimed", Fraction(23), TaxKind.STANDARD, recoverable=False),
    Tax("Z0", "Zero", Fraction(0), TaxKind.ZERO),
)
CODES = {account.name: account.code for account in ACCOUNTS}
PARTY_CODES = {party.name: party.code for party in PARTIES}
TODAY = date(2026, 11, 16)
NOW = datetime(2026, 11, 16, 12)
_numbers = count(1)


def day(text: str | date) -> date:
    return date.fromisoformat(text) if isinstance(text, str) else text


def posted(
    text: str, on: str | date, kind: Kind = Kind.JOURNAL, *, id: str | None = None, **more: Any
) -> Transaction:
    """A transaction from its entry: `Dr fuel 10.00, Cr bank 10.00`. Keyed the day after."""
    when = day(on)
    party = more.pop("party", None)
    keyed = more.pop("keyed", None)
    entered_at = datetime.fromisoformat(keyed) if keyed else datetime(*when.timetuple()[:3], 9)
    return Transaction(
        id=id or f"T{next(_numbers):05d}",
        kind=kind,
        posting_date=when,
        lines=lines_of(text, CODES, PARTY_CODES),
        party=PARTY_CODES[party] if party else None,
        entered_at=entered_at + (timedelta() if keyed else timedelta(days=1)),
        **more,
    )


def bill(
    reference: str | None, on: str, party: str = "Reedwharf", *, id: str | None = None,
    kind: Kind = Kind.PURCHASE_BILL, keyed: str | None = None, **accounts: str,
) -> Transaction:  # fmt: skip
    """A bill: `bill("RW-0117", on="2026-04-03", fuel="200.00", tax="46.00")`."""
    return _paper(reference, on, party, "payables", -1, id, kind, keyed, accounts)


def invoice(
    reference: str | None, on: str, party: str = "Harbour School", *, id: str | None = None,
    kind: Kind = Kind.SALES_INVOICE, keyed: str | None = None, **accounts: str,
) -> Transaction:  # fmt: skip
    """An invoice: `invoice("SK-1", on="2026-05-01", sales="100.00", tax="23.00")`."""
    return _paper(reference, on, party, "receivables", 1, id, kind, keyed, accounts)


def _paper(
    reference: str | None, on: str, party: str, control: str, sign: int, id: str | None,
    kind: Kind, keyed: str | None, accounts: dict[str, str],
) -> Transaction:  # fmt: skip
    total = sum(eur(amount) for amount in accounts.values())
    names = {name: name.replace("_", " ") for name in accounts}
    other = "Cr" if sign > 0 else "Dr"
    own = "Dr" if sign > 0 else "Cr"
    if total < 0:
        own, other = other, own
    sides = [f"{other} {names[n]} {amount.lstrip('-')}" for n, amount in accounts.items()]
    text = ", ".join([*sides, f"{own} {control} ({party}) {EUR.format(abs(total))}"])
    return posted(
        text, on, kind, id=id, reference=reference, party=party, document_date=day(on), keyed=keyed
    )


def direct_payment(
    on: str,
    *,
    party: str | None = None,
    memo: str | None = None,
    id: str | None = None,
    **accounts: str,
) -> Transaction:
    """A bank payment coded straight: `direct_payment("2026-03-08", office="318.57")`."""
    total = EUR.format(sum(eur(amount) for amount in accounts.values()))
    text = ", ".join([f"Dr {name} {amount}" for name, amount in accounts.items()])
    return posted(
        f"{text}, Cr bank {total}", on, Kind.DIRECT_PAYMENT, id=id, party=party, memo=memo
    )


def direct_receipt(
    on: str,
    *,
    party: str | None = None,
    memo: str | None = None,
    id: str | None = None,
    **accounts: str,
) -> Transaction:
    """Money coded straight: `direct_receipt("2026-03-08", sales="318.57")`."""
    total = EUR.format(sum(eur(amount) for amount in accounts.values()))
    sides = [f"Cr {name.replace('_', ' ')} {amount}" for name, amount in accounts.items()]
    text = ", ".join([f"Dr bank {total}", *sides])
    return posted(text, on, Kind.DIRECT_RECEIPT, id=id, party=party, memo=memo)


def payment(
    on: str,
    amount: str,
    party: str = "Reedwharf",
    *,
    id: str | None = None,
    memo: str | None = None,
) -> Transaction:
    """A payment to a supplier on its account."""
    text = f"Dr payables ({party}) {amount}, Cr bank {amount}"
    return posted(text, on, Kind.SUPPLIER_PAYMENT, id=id, party=party, memo=memo)


def receipt(
    on: str,
    amount: str,
    party: str = "Harbour School",
    *,
    id: str | None = None,
    memo: str | None = None,
) -> Transaction:
    """A receipt from a customer on their account."""
    text = f"Dr bank {amount}, Cr receivables ({party}) {amount}"
    return posted(text, on, Kind.CUSTOMER_RECEIPT, id=id, party=party, memo=memo)


def allocated(
    debit: Transaction, credit: Transaction, amount: str, *, on: str | None = None
) -> Allocation:
    """*amount* of the two settles each other, from the later one's date unless said."""
    party = next(line.party for line in debit.lines if line.party) or ""
    when = day(on) if on else max(debit.posting_date, credit.posting_date)
    return Allocation(f"L{next(_numbers)}", when, party, debit.id, credit.id, eur(amount))


YEARS = (
    FinancialYear("2025", date(2025, 1, 1), date(2025, 12, 31)),
    FinancialYear("2026", date(2026, 1, 1), date(2026, 12, 31)),
)


def books_with(
    *transactions: Transaction,
    allocations: Iterable[Allocation] = (),
    entity: Entity = Entity.SOLE_TRADER,
    year_end: tuple[int, int] = (12, 31),
    filed_through: str | None = None,
    sealed_through: str | None = None,
    returned_through: str | None = None,
    materiality: str | None = None,
    states: dict[str, PeriodState] | None = None,
    prior_year: Iterable[PriorBalance] = (),
    **tables: Any,
) -> Books:
    """Books of these transactions in the small chart above, a calendar year unless said."""
    filed = day(filed_through) if filed_through else None
    calendar = Calendar(
        year_end,
        filed_through=filed,
        sealed_through=day(sealed_through) if sealed_through else None,
        states={day(first): state for first, state in (states or {}).items()},
    )
    facts = ClientFacts(
        code="TEST",
        name="Test Client",
        entity=entity,
        currency=EUR,
        year_end=year_end,
        filed_through=filed,
        tax_returned_through=day(returned_through) if returned_through else None,
        materiality=eur(materiality) if materiality else None,
    )
    return Books(
        facts,
        Tables(
            **{
                "accounts": ACCOUNTS,
                "parties": PARTIES,
                "taxes": TAXES,
                "transactions": transactions,
                "allocations": tuple(allocations),
                "prior_year": tuple(prior_year),
                **tables,
            }
        ),
        calendar,
    )


def after(books: Books, plan: Plan, number: int | None = None, by: str = "IO") -> Books:
    """The books once the plan is posted as change *number*, the next one unless said, under lasting ids."""
    if number is None:
        number = max((change.number for change in books.changes), default=0) + 1
    names = {entry.id: f"E{number}-{place}" for place, entry in enumerate(plan.entries, 1)}

    def named(name: str | None) -> str | None:
        return names.get(name, name) if name else None

    entries = [
        entry._replace(id=names[entry.id], reverses=named(entry.reverses), change=number)
        for entry in plan.entries
    ]
    allocations = [
        row._replace(
            id=f"E{number}-a{place}",
            debit_transaction=named(row.debit_transaction) or "",
            credit_transaction=named(row.credit_transaction) or "",
            change=number,
        )
        for place, row in enumerate(plan.allocations, 1)
    ]
    amendments = tuple(
        Amendment(row.transaction, NOW, row.field, row.before, row.after, "why", change=number)
        for row in plan.amendments
    )
    agreements = tuple(
        row._replace(
            group=row.group.replace("new-", f"G{number}-"),
            transaction=named(row.transaction),
            change=number,
        )
        for row in plan.agreements
    )
    grown = with_amendments(books.with_posted(entries, allocations, agreements), amendments)
    chart = tuple(
        AccountAmendment(row.account, NOW, row.field, row.before, row.after, "why", change=number)
        for row in plan.chart
    )
    grown = with_chart(grown, chart, plan.accounts, plan.parties)
    merges = tuple(
        PartyAmendment(row.party, NOW, row.before, row.after, "why", change=number)
        for row in plan.parties_amended
    )
    grown = with_merges(grown, merges)
    for name, rows in plan.more.items():
        kind = row_kinds.registry()[name]
        posting = Posting(NOW, "why", names)
        placed = tuple(kind.posted(row, posting)._replace(change=number) for row in rows)
        grown = kind.laid_over(grown, placed)
    change = PostedChange(
        number, plan.kind, by, plan.proposed_reason or "why", plan.undoes, plan.prior_parts,
        route=plan.route, made_on=TODAY,
    )  # fmt: skip
    return grown.followed_by(changes=(*books.changes, change))


def bank_line(
    on: str,
    amount: str,
    text: str = "",
    *,
    reference: str | None = None,
    bank_id: str | None = None,
) -> StatementLine:
    """A statement line; `with_statement` gives it its place."""
    return StatementLine("", 0, day(on), eur(amount), text, reference, bank_id=bank_id)


def with_statement(
    books: Books,
    *lines: StatementLine,
    opening: str = "0.00",
    first: str = "2026-01-01",
    last: str = "2026-12-31",
    closing: str | None = None,
    account: str = CODES["bank"],
) -> Books:
    """The books with a statement of a bank account; it adds up unless *closing* says otherwise."""
    number = len(books.statements) + 1
    path = f"s{number}.csv"
    placed = tuple(
        line._replace(id=f"{path}#{place}", statement=number) for place, line in enumerate(lines, 1)
    )
    total = eur(opening) + sum(line.amount for line in placed)
    statement = Statement(
        number, account, path, day(first), day(last), eur(opening),
        eur(closing) if closing else total, 0, None, (), placed,
    )  # fmt: skip
    return replace(books, statements=(*books.statements, statement))


def period(books: Books, on: str) -> Period:
    return books.calendar.period_of(day(on))


def line(account: str, amount: str, party: str | None = None) -> Line:
    """One line by names: debit positive."""
    code = PARTY_CODES[party] if party else None
    return Line(1, CODES[account], eur(amount), party=code)


ADJUSTING = EntryKind.ADJUSTING
