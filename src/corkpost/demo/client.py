"""Putting a simulated business together: its chart, its facts, its years, the books folder."""

import tempfile
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta
from fractions import Fraction
from pathlib import Path

from corkpost.core.books import (
    Account,
    BankAccount,
    Books,
    ClientFacts,
    Dimension,
    Party,
    PayrollMonth,
    PriorBalance,
    StockItem,
    Tables,
    Tax,
)
from corkpost.core.kinds import AccountRole, AccountType, Entity, PartyKind, TaxKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import Currency, Minor
from corkpost.core.owners import profit_shared
from corkpost.core.periods import Calendar, FinancialYear, month_end
from corkpost.core.trial_balance import Closing, balances_at
from corkpost.demo.bank import Banked, statement_files
from corkpost.demo.bookkeeper import Bookkeeper
from corkpost.demo.habits import Customer, Supplier
from corkpost.demo.plants import Planted
from corkpost.formats.books_folder.writing import write_books

EUR = Currency("EUR")
TAXES = (
    Tax("S23", "Standard 23%", Fraction(23), TaxKind.STANDARD),
    Tax("Z0", "Zero", Fraction(0), TaxKind.ZERO),
    Tax("EX", "Exempt", Fraction(0), TaxKind.EXEMPT),
    Tax("OS", "Outside the scope", Fraction(0), TaxKind.OUTSIDE),
)


def chart_of(text: str) -> tuple[Account, ...]:
    """A chart from lines of the form `code | name | type | role | owner | tax code`."""
    accounts = []
    for line in text.strip().splitlines():
        cells = [cell.strip() for cell in line.split("|")]
        code, name, kind, role, owner, tax, *_ = [*cells, "", "", ""]
        accounts.append(
            Account(code, name, AccountType(kind), AccountRole(role), owner or None, tax or None)
        )
    return tuple(accounts)


def parties_of(
    suppliers: Iterable[Supplier], customers: Iterable[Customer], others: Iterable[Party] = ()
) -> tuple[Party, ...]:
    return (
        *(Party(s.code, s.name, PartyKind.SUPPLIER) for s in suppliers),
        *(Party(c.code, c.name, PartyKind.CUSTOMER) for c in customers),
        *others,
    )


@dataclass
class Business:
    """A simulated client, ready to be written."""

    code: str
    name: str
    entity: Entity
    year_end: tuple[int, int]
    accounts: tuple[Account, ...]
    parties: tuple[Party, ...]
    keeper: Bookkeeper
    books_from: date
    books_to: date
    filed_through: date | None = None
    filed_on: datetime | None = None
    tax_returned_through: date | None = None
    years: tuple[FinancialYear, ...] = ()
    materiality: int | None = None
    payroll: tuple[PayrollMonth, ...] = ()
    """The bureau's summaries."""
    stock: tuple[StockItem, ...] = ()
    """What was counted."""
    dimensions: tuple[Dimension, ...] = ()
    signed_apart: tuple[tuple[str, Minor], ...] = ()
    """By account: what the signed trial balance has more than the books begin with."""
    planted: Planted = field(default_factory=Planted)
    bank: Callable[[Books, date], tuple[Banked, ...]] | None = None
    """What the bank shows of the finished books up to a day, where there are statements."""

    @property
    def facts(self) -> ClientFacts:
        return ClientFacts(
            code=self.code,
            name=self.name,
            entity=self.entity,
            currency=EUR,
            year_end=self.year_end,
            tax_registered=True,
            books_from=self.books_from,
            books_to=self.books_to,
            filed_through=self.filed_through,
            filed_on=self.filed_on,
            tax_returned_through=self.tax_returned_through,
            materiality=self.materiality,
            capital_item=50_000,
            years=self.years,
        )

    def books(self) -> tuple[Books, tuple[tuple[str, frozenset[str]], ...]]:
        """The finished books, and what was planted under its lasting ids."""
        calendar = Calendar(self.year_end, self.years)
        self._pay_sales_tax()
        self._close_filed_years(calendar)
        transactions, allocations, ids = self.keeper.finish()
        tables = Tables(
            accounts=self.accounts,
            parties=self.parties,
            taxes=TAXES,
            transactions=transactions,
            allocations=allocations,
            dimensions=self.dimensions,
            payroll=self.payroll,
            stock=self.stock,
        )
        books = Books(self.facts, tables, calendar)
        prior = _prior_year(books, self.filed_through, dict(self.signed_apart))
        tables = Tables(**{**vars(tables), "prior_year": prior})
        faults = tuple(
            (check, frozenset(ids.get(name, name) for name in names))
            for check, names in self.planted.faults
        )
        return Books(self.facts, tables, calendar), faults

    def _pay_sales_tax(self) -> None:
        """What each returned quarter owed, paid from the bank 25 days after its end."""
        tax = self.keeper.chart.tax
        for year in range(self.books_from.year, self.books_to.year + 1):
            for month in (3, 6, 9, 12):
                end = month_end(year, month, 31)
                paid_on = end + timedelta(days=25)
                returned = (
                    self.tax_returned_through is not None and end <= self.tax_returned_through
                )
                if not returned or paid_on > self.books_to:
                    continue
                owed = -sum(
                    line.amount
                    for posted in self.keeper.transactions.values()
                    if posted.posting_date <= end
                    for line in posted.lines
                    if line.account == tax
                )
                if owed > 0:
                    memo = f"sales tax return to {end:%d %b %Y}"
                    self.keeper.direct_payment(paid_on, owed, tax, memo=memo)

    def _close_filed_years(self, calendar: Calendar) -> None:
        """The closing entry of each filed year, as the client's last accountant made it."""
        if self.filed_through is None:
            return
        books = Books(
            self.facts,
            Tables(
                accounts=self.accounts,
                parties=self.parties,
                transactions=tuple(self.keeper.transactions.values()),
            ),
            calendar,
        )
        sums = balances_at(books, self.filed_through)
        lines = [
            (code, -amount)
            for code, amount in sorted(sums.items())
            if code in books.accounts and books.accounts[code].is_profit_and_loss and amount
        ]
        shared = profit_shared(books, -sum(amount for _, amount in lines), "closing")
        filed_on = self.filed_on or datetime.combine(self.filed_through, datetime.min.time())
        self.keeper.add(
            Kind.CLOSING,
            self.filed_through,
            [*lines, *shared.items()],
            memo=f"Closing {self.filed_through.year}",
            source="journal",
            keyed_after=(filed_on.date() - self.filed_through).days,
        )

    def write(self, to: Path, created: datetime) -> None:
        """Write the books folder, with the bank's statement files where there are any."""
        books, _ = self.books()
        sides = self.bank(books, self.books_to) if self.bank else ()
        rows, files = statement_files(sides)
        accounts = tuple(
            BankAccount(banked.account, None, banked.habit.identifier, banked.currency.code)
            for banked in sides
        )
        tables = replace(books.tables, statements=rows, bank_accounts=accounts)
        with tempfile.TemporaryDirectory() as folder:
            for number, content in enumerate(files.values()):
                (Path(folder) / str(number)).write_bytes(content)
            where = {path: Path(folder) / str(number) for number, path in enumerate(files)}
            write_books(books.client, tables, to, created=created, file_of=where.__getitem__)


def _prior_year(
    books: Books, year_end: date | None, apart: Mapping[str, Minor]
) -> tuple[PriorBalance, ...]:
    if year_end is None:
        return ()
    sums = balances_at(books, year_end, closing=Closing.OUT)
    return tuple(
        PriorBalance(year_end, code, amount)
        for code in sorted({*sums, *apart})
        if (amount := sums.get(code, 0) + apart.get(code, 0)) and code in books.accounts
    )
