"""What a client's bookkeeper would have recorded: documents, money and what settles what.

Books are built in any order; `finish` numbers them as they would have been keyed.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from fractions import Fraction
from random import Random

from corkpost.core.books import Allocation, Line, Transaction
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import Minor, tax_within
from corkpost.demo.wording import PLAIN, Wording

STANDARD = Fraction(23)


@dataclass(frozen=True)
class Chart:
    """The codes of the accounts that most events use."""

    bank: str
    receivables: str
    payables: str
    tax: str


@dataclass
class Style:
    """How this bookkeeper works: how ids look, when things are keyed, who keys."""

    id_format: str = "T{:04d}"
    keyed_by: str = "bookkeeper"
    slowest_days: int = 6
    wording: Wording = PLAIN


@dataclass
class Bookkeeper:
    """Collects transactions under provisional names."""

    chart: Chart
    rng: Random
    style: Style = field(default_factory=Style)
    transactions: dict[str, Transaction] = field(default_factory=dict)
    allocations: list[tuple[str, str, str, Minor, date]] = field(default_factory=list)

    def add(
        self,
        kind: Kind,
        on: date,
        lines: Iterable[tuple[str, Minor] | tuple[str, Minor, str | None]],
        *,
        party: str | None = None,
        reference: str | None = None,
        memo: str | None = None,
        source: str | None = None,
        document_date: date | None = None,
        due_days: int | None = None,
        tax_code: str | None = None,
        keyed_after: int | None = None,
        reverses: str | None = None,
    ) -> str:
        """Record a balanced event; its provisional name. A line is account, amount, party."""
        name = f"#{len(self.transactions) + 1}"
        made = []
        for number, (account, amount, *rest) in enumerate(lines, 1):
            if amount:
                code = tax_code if account != self.chart.bank and not rest else None
                made.append(Line(number, account, amount, rest[0] if rest else None, code))
        days = self.rng.randint(0, self.style.slowest_days) if keyed_after is None else keyed_after
        at = time(self.rng.randint(8, 17), self.rng.randint(0, 59), self.rng.randint(0, 59))
        paper = document_date or on
        self.transactions[name] = Transaction(
            id=name,
            kind=kind,
            posting_date=on,
            lines=tuple(made),
            document_date=document_date,
            due_date=paper + timedelta(days=due_days) if due_days is not None else None,
            entered_at=datetime.combine(on + timedelta(days=days), at),
            entered_by=self.style.keyed_by,
            reference=reference,
            party=party,
            memo=memo,
            source=source,
            reverses=reverses,
        )
        return name

    def bill(
        self,
        supplier: str,
        on: date,
        gross: Minor,
        account: str,
        *,
        reference: str | None = None,
        taxed: bool = True,
        due_days: int = 30,
        memo: str | None = None,
        keyed_after: int | None = None,
        kind: Kind = Kind.PURCHASE_BILL,
    ) -> str:
        """A supplier's bill of *gross*; with kind purchase-credit, a credit of it."""
        tax = tax_within(gross, STANDARD) if taxed else 0
        sign = 1 if kind is Kind.PURCHASE_BILL else -1
        return self.add(
            kind,
            on,
            [
                (account, sign * (gross - tax)),
                (self.chart.tax, sign * tax),
                (self.chart.payables, -sign * gross, supplier),
            ],
            party=supplier,
            reference=reference,
            memo=memo,
            source="purchases",
            document_date=on,
            due_days=due_days if sign > 0 else None,
            tax_code="S23" if taxed else None,
            keyed_after=keyed_after,
        )

    def invoice(
        self,
        customer: str,
        on: date,
        gross: Minor,
        account: str,
        *,
        reference: str | None = None,
        taxed: bool = True,
        due_days: int = 30,
        memo: str | None = None,
        keyed_after: int | None = None,
        kind: Kind = Kind.SALES_INVOICE,
    ) -> str:
        """An invoice of *gross* to a customer; with kind sales-credit, a credit of it."""
        tax = tax_within(gross, STANDARD) if taxed else 0
        sign = 1 if kind is Kind.SALES_INVOICE else -1
        return self.add(
            kind,
            on,
            [
                (self.chart.receivables, sign * gross, customer),
                (account, -sign * (gross - tax)),
                (self.chart.tax, -sign * tax),
            ],
            party=customer,
            reference=reference,
            memo=memo,
            source="sales",
            document_date=on,
            due_days=due_days if sign > 0 else None,
            tax_code="S23" if taxed else None,
            keyed_after=keyed_after,
        )

    def pay(
        self,
        supplier: str,
        on: date,
        amount: Minor,
        bills: Iterable[str] = (),
        *,
        memo: str | None = None,
        reference: str | None = None,
    ) -> str:
        """A payment to a supplier, allocated to the bills in their order."""
        name = self.add(
            Kind.SUPPLIER_PAYMENT,
            on,
            [(self.chart.payables, amount, supplier), (self.chart.bank, -amount)],
            party=supplier,
            memo=memo,
            reference=reference,
            source="bank",
        )
        self._settle(supplier, name, amount, bills, paid=True)
        return name

    def receive(
        self,
        customer: str,
        on: date,
        amount: Minor,
        invoices: Iterable[str] = (),
        *,
        memo: str | None = None,
        reference: str | None = None,
    ) -> str:
        """A receipt from a customer, allocated to the invoices in their order."""
        name = self.add(
            Kind.CUSTOMER_RECEIPT,
            on,
            [(self.chart.bank, amount), (self.chart.receivables, -amount, customer)],
            party=customer,
            memo=memo,
            reference=reference,
            source="bank",
        )
        self._settle(customer, name, amount, invoices, paid=False)
        return name

    def _settle(
        self, party: str, money: str, amount: Minor, papers: Iterable[str], *, paid: bool
    ) -> None:
        left = amount
        control = self.chart.payables if paid else self.chart.receivables
        for paper in papers:
            posted = self.transactions[paper]
            owed = abs(sum(line.amount for line in posted.lines if line.account == control))
            part = min(left, owed)
            left -= part
            if part:
                self.allocate(party, money if paid else paper, paper if paid else money, part)

    def allocate(self, party: str, debit: str, credit: str, amount: Minor) -> None:
        days = [self.transactions[name].posting_date for name in (debit, credit)]
        self.allocations.append((party, debit, credit, amount, max(days)))

    def direct_payment(
        self,
        on: date,
        gross: Minor,
        account: str,
        *,
        party: str | None = None,
        memo: str | None = None,
        reference: str | None = None,
        taxed: bool = False,
        source: str = "feed",
    ) -> str:
        """Money out of the bank coded straight to an account."""
        tax = tax_within(gross, STANDARD) if taxed else 0
        return self.add(
            Kind.DIRECT_PAYMENT,
            on,
            [(account, gross - tax), (self.chart.tax, tax), (self.chart.bank, -gross)],
            party=party,
            memo=memo,
            reference=reference,
            source=source,
            tax_code="S23" if taxed else None,
        )

    def direct_receipt(
        self,
        on: date,
        gross: Minor,
        account: str,
        *,
        party: str | None = None,
        memo: str | None = None,
        reference: str | None = None,
        taxed: bool = False,
    ) -> str:
        """Money into the bank coded straight to an account."""
        tax = tax_within(gross, STANDARD) if taxed else 0
        return self.add(
            Kind.DIRECT_RECEIPT,
            on,
            [(self.chart.bank, gross), (account, tax - gross), (self.chart.tax, -tax)],
            party=party,
            memo=memo,
            reference=reference,
            source="feed",
            tax_code="S23" if taxed else None,
        )

    def finish(self) -> tuple[tuple[Transaction, ...], tuple[Allocation, ...], Mapping[str, str]]:
        """The books under lasting ids, as they were keyed; and each provisional name's id."""
        in_order = sorted(self.transactions.values(), key=lambda t: (t.entered_at, t.posting_date))
        ids = {t.id: self.style.id_format.format(n) for n, t in enumerate(in_order, 1)}
        transactions = tuple(
            t._replace(
                id=ids[t.id],
                reverses=ids[t.reverses] if t.reverses else None,
                lines=tuple(line._replace(number=number) for number, line in enumerate(t.lines, 1)),
            )
            for t in in_order
        )
        rows = sorted(self.allocations, key=lambda row: (row[4], ids[row[1]], ids[row[2]]))
        allocations = tuple(
            Allocation(f"A{n:04d}", day, party, ids[debit], ids[credit], amount)
            for n, (party, debit, credit, amount, day) in enumerate(rows, 1)
        )
        return transactions, allocations, ids
