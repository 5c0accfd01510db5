"""The values that everything speaks about: a client's books.

Rows that come by the hundred thousand are named tuples: as immutable as a frozen dataclass, and read
from the store in half the time.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from datetime import date, datetime
from fractions import Fraction
from functools import cached_property
from typing import Any, NamedTuple

from corkpost.core.kept import Kept
from corkpost.core.kinds import (
    CONTROL_ROLES,
    PROFIT_KEPT_ROLES,
    AccountRole,
    AccountType,
    Entity,
    EntryKind,
    MayChange,
    PartyKind,
    StatementFormat,
    TaxKind,
    TransactionKind,
)
from corkpost.core.money import Currency, Minor
from corkpost.core.periods import (
    FIRST_DAY,
    LAST_DAY,
    ONE_DAY,
    Calendar,
    FinancialYear,
    Reach,
    month_end,
)
from corkpost.core.refusals import UnknownName
from corkpost.core.statements import Statement

Other = str
"""Columns of a table that the format does not know, as a JSON object; empty where there are none."""


class Account(NamedTuple):
    code: str
    name: str
    type: AccountType
    role: AccountRole = AccountRole.ORDINARY
    owner: str | None = None
    tax_code: str | None = None
    expected_type: AccountType | None = None
    other: Other = ""

    @property
    def is_control(self) -> bool:
        return self.role in CONTROL_ROLES

    @property
    def is_profit_and_loss(self) -> bool:
        return self.type is AccountType.INCOME or self.type is AccountType.EXPENSE


class Party(NamedTuple):
    code: str
    name: str
    kind: PartyKind
    share: Fraction | None = None
    aliases: tuple[str, ...] = ()
    other: Other = ""


class Tax(NamedTuple):
    """A tax code. *rate* is in percent."""

    code: str
    name: str
    rate: Fraction
    kind: TaxKind
    recoverable: bool = True
    other: Other = ""


class Dimension(NamedTuple):
    dimension: str
    code: str
    name: str
    other: Other = ""


class Line(NamedTuple):
    """One side of a transaction. *amount* is never nil."""

    number: int
    account: str
    amount: Minor
    party: str | None = None
    tax_code: str | None = None
    description: str | None = None
    dimensions: str | None = None
    currency: str | None = None
    foreign_amount: str | None = None
    tax_date: date | None = None
    other: Other = ""


class Transaction(NamedTuple):
    """One balanced event. *change* is the number of the change that brought it; None: as received."""

    id: str
    kind: TransactionKind
    posting_date: date
    lines: tuple[Line, ...]
    document_date: date | None = None
    due_date: date | None = None
    entered_at: datetime | None = None
    entered_by: str | None = None
    reference: str | None = None
    party: str | None = None
    memo: str | None = None
    source: str | None = None
    currency: str | None = None
    rate: str | None = None
    reverses: str | None = None
    entry_kind: EntryKind | None = None
    corrects: str | None = None
    reason: str | None = None
    other: Other = ""
    change: int | None = None

    @property
    def day(self) -> date:
        """The day on the paper; the posting date where the paper's is not known."""
        return self.document_date or self.posting_date

    @property
    def total(self) -> Minor:
        """The sum of its debits, which is that of its credits."""
        return sum(line.amount for line in self.lines if line.amount > 0)


class Allocation(NamedTuple):
    """*amount* (positive) of a debit and a credit that settle each other, from *date* on."""

    id: str
    date: date
    party: str
    debit_transaction: str
    credit_transaction: str
    amount: Minor
    foreign_amount: str | None = None
    undoes: str | None = None
    other: Other = ""
    change: int | None = None


NOTHING_KEPT: tuple[tuple[Transaction, ...], dict[str, Transaction]] = ((), {})


class BankAccount(NamedTuple):
    account: str
    holder: str | None = None
    identifier: str | None = None
    currency: str | None = None
    other: Other = ""


class StatementFile(NamedTuple):
    """A bank statement kept with the books. *digest* finds its bytes in the file store."""

    account: str
    path: str
    format: StatementFormat
    digest: str
    other: Other = ""


class PriorBalance(NamedTuple):
    year_end: date
    account: str
    amount: Minor
    other: Other = ""


class StockItem(NamedTuple):
    date: date
    item: str
    quantity: str
    unit_cost: str
    value: Minor
    other: Other = ""


class PayrollMonth(NamedTuple):
    """The bureau's summary. Sums are None where the bureau gives none."""

    month: str
    employee_group: str | None = None
    gross: Minor | None = None
    employer_contributions: Minor | None = None
    net_pay: Minor | None = None
    income_tax: Minor | None = None
    employee_contributions: Minor | None = None
    other_deductions: Minor | None = None
    other: Other = ""


class AgreementRow(NamedTuple):
    """One member of an agreement: a line in the books or a statement line. A row with neither takes
    the group apart. *change*: what brought it; None: as received."""

    group: str
    account: str
    transaction: str | None = None
    line: int | None = None
    statement_line: str | None = None
    other: Other = ""
    change: int | None = None

    @property
    def takes_apart(self) -> bool:
        return self.transaction is None and self.statement_line is None


class Amendment(NamedTuple):
    """Words of a transaction that were put right. *change*: what brought it; None: as received."""

    transaction: str
    at: datetime
    field: str
    before: str | None
    after: str | None
    reason: str
    other: Other = ""
    change: int | None = None


class AccountAmendment(NamedTuple):
    """A field of an account that was put right. *change*: what brought it."""

    account: str
    at: datetime
    field: str
    before: str | None
    after: str | None
    reason: str
    other: Other = ""
    change: int | None = None


class PartyAmendment(NamedTuple):
    """A party that is read as another (*after*), or no longer (None). *change*: what brought it."""

    party: str
    at: datetime
    before: str | None
    after: str | None
    reason: str
    other: Other = ""
    change: int | None = None


class WrittenAs(NamedTuple):
    """The parties that were written where another is read: by transaction and place of the line, by
    transaction, by allocation. *parties*: all of them as they are written; none where none is amended."""

    parties: tuple[Party, ...] = ()
    lines: Mapping[tuple[str, int], str] = {}
    heads: Mapping[str, str] = {}
    allocations: Mapping[str, str] = {}


class Attachment(NamedTuple):
    """A paper kept with a transaction. *digest* finds its bytes in the file store."""

    transaction: str
    path: str
    name: str | None
    digest: str
    other: Other = ""


@dataclass(frozen=True)
class ClientFacts:
    """What the books say of the client, beside the tables."""

    code: str
    name: str
    entity: Entity
    currency: Currency
    year_end: tuple[int, int]
    tax_registered: bool = False
    books_from: date | None = None
    books_to: date | None = None
    filed_through: date | None = None
    filed_on: datetime | None = None
    tax_returned_through: date | None = None
    materiality: Minor | None = None
    capital_item: Minor | None = None
    years: tuple[FinancialYear, ...] = ()
    engaged_on: date | None = None
    """The day of the letter of engagement."""
    may_change: MayChange = MayChange.FREELY


@dataclass(frozen=True)
class Tables:
    """The tables of a books folder, each row once, in the order of the folder."""

    accounts: tuple[Account, ...] = ()
    parties: tuple[Party, ...] = ()
    taxes: tuple[Tax, ...] = ()
    dimensions: tuple[Dimension, ...] = ()
    transactions: tuple[Transaction, ...] = ()
    allocations: tuple[Allocation, ...] = ()
    bank_accounts: tuple[BankAccount, ...] = ()
    statements: tuple[StatementFile, ...] = ()
    prior_year: tuple[PriorBalance, ...] = ()
    stock: tuple[StockItem, ...] = ()
    payroll: tuple[PayrollMonth, ...] = ()
    agreements: tuple[AgreementRow, ...] = ()
    amendments: tuple[Amendment, ...] = ()
    attachments: tuple[Attachment, ...] = ()
    account_amendments: tuple[AccountAmendment, ...] = ()
    """Ours alone: no table of the folder, which has the accounts as they were put right."""
    party_amendments: tuple[PartyAmendment, ...] = ()
    """Ours alone, as those of the accounts."""
    written: WrittenAs = field(default_factory=WrittenAs)
    more: Mapping[str, tuple[Any, ...]] = field(default_factory=dict)
    """Rows of kinds that have no field here, by the name of their kind."""

    def of(self, kind: str) -> tuple[Any, ...]:
        """The rows of that kind."""
        rows: tuple[Any, ...] = getattr(self, kind, None) or self.more.get(kind, ())
        return rows

    def with_rows(self, kind: str, rows: tuple[Any, ...]) -> "Tables":
        """These tables with other rows of that kind."""
        if kind in type(self).__dataclass_fields__:
            fields: dict[str, Any] = {kind: rows}
            return replace(self, **fields)
        return replace(self, more={**self.more, kind: rows})


class PriorPart(NamedTuple):
    """The profit part of a correction to an earlier year. *amount*: more profit positive."""

    year: str
    amount: Minor


class PostedChange(NamedTuple):
    """What is known of a posted change besides its rows."""

    number: int
    kind: str
    by: str
    reason: str
    undoes: int | None = None
    prior_parts: tuple[PriorPart, ...] = ()
    point: str | None = None
    route: str | None = None
    made_on: date = date.min


class Names(NamedTuple):
    """Parties by code: those that are known, and those that are read as others."""

    known: Mapping[str, Party]
    gone: Mapping[str, Party]

    def of(self, code: str | None) -> str:
        """The party's name; its code where there is no such party; words where there is none."""
        if code is None:
            return "no party"
        party = self.known.get(code) or self.gone.get(code)
        return party.name if party else code


class FinishedReconciliation(NamedTuple):
    """A reconciliation that was finished and stands. *groups*: the agreements that it fixed."""

    number: int
    account: str
    statement: int
    groups: frozenset[str]


class Signed(NamedTuple):
    """A standing sign-off: its day, and the number of the last change that it rests on."""

    as_at: date
    change: int


class SetAside(NamedTuple):
    """A statement that was set aside: its number and file are taken, and nothing of it counts."""

    number: int
    path: str


@dataclass(frozen=True)
class Books:
    """A client's books as they stand: what was received and every change since."""

    client: ClientFacts
    tables: Tables
    calendar: Calendar
    changes: tuple[PostedChange, ...] = ()
    signed_income: Minor | None = None
    """Income of the last year that this practice signed, positive; None where none is known."""
    statements: tuple[Statement, ...] = ()
    finished: tuple[FinishedReconciliation, ...] = ()
    set_aside: tuple[SetAside, ...] = ()
    arrived: Mapping[str, int] = field(default_factory=dict)
    """By transaction: the number of the import that brought it as it stands; none for the first one."""
    signed: tuple[Signed, ...] = ()
    kept: Kept = field(default_factory=Kept, compare=False, repr=False)
    """What was worked out from the books that these follow, as far as it still holds."""

    def followed_by(self, **changed: Any) -> "Books":
        """These books with fields changed; what was worked out from them is handed on."""
        return replace(self, kept=self.kept.handed_on(), **changed)

    @cached_property
    def derived(self) -> dict[str, Any]:
        """What was worked out from these books, kept under its name by what worked it out."""
        return {}

    @property
    def statement_paths(self) -> set[str]:
        """The files that statements came from, those set aside too."""
        return {statement.path for statement in self.statements} | {
            set_aside.path for set_aside in self.set_aside
        }

    @property
    def next_statement(self) -> int:
        """The number of the statement that is taken in next."""
        numbers = [statement.number for statement in self.statements] + [
            set_aside.number for set_aside in self.set_aside
        ]
        return max(numbers, default=0) + 1

    @cached_property
    def accounts(self) -> Mapping[str, Account]:
        return {account.code: account for account in self.tables.accounts}

    @property
    def parties(self) -> Mapping[str, Party]:
        return self.names.known

    @cached_property
    def taxes(self) -> Mapping[str, Tax]:
        return {tax.code: tax for tax in self.tables.taxes}

    @cached_property
    def transactions(self) -> Mapping[str, Transaction]:
        rows = self.tables.transactions
        before, by_id = self.kept.latest("by id") or NOTHING_KEPT
        exchanged = self.kept.exchanged(before, rows)
        if exchanged is None:
            found = {posted.id: posted for posted in rows}
        else:
            found = {**by_id, **{new.id: new for _, new in exchanged}}
            found.update((posted.id, posted) for posted in rows[len(before) :])
        self.kept.put("by id", (rows, found))
        return found

    @cached_property
    def allocations(self) -> Mapping[str, Allocation]:
        return {allocation.id: allocation for allocation in self.tables.allocations}

    def account(self, code: str) -> Account:
        """The account of that code. Raises UnknownName."""
        try:
            return self.accounts[code]
        except KeyError:
            raise UnknownName("account", code) from None

    def transaction(self, transaction_id: str) -> Transaction:
        """The transaction of that id. Raises UnknownName."""
        try:
            return self.transactions[transaction_id]
        except KeyError:
            raise UnknownName("transaction", transaction_id) from None

    def with_role(self, *roles: AccountRole) -> tuple[Account, ...]:
        """The accounts that have one of these roles, by code."""
        found = (account for account in self.tables.accounts if account.role in roles)
        return tuple(sorted(found))

    def party_name(self, code: str | None) -> str:
        """The party's name; its code where the books have no such party; words where there is none."""
        return self.names.of(code)

    @property
    def parties_gone(self) -> Mapping[str, Party]:
        """The parties that are read as others."""
        return self.names.gone

    @cached_property
    def names(self) -> "Names":
        """The parties by their codes, apart from the books: what is kept of them holds no books."""
        here, written = self.tables.parties, self.tables.written.parties
        return self.kept.once("names", (here, written), lambda: _names(here, written))

    @cached_property
    def control_accounts(self) -> frozenset[str]:
        return frozenset(account.code for account in self.tables.accounts if account.is_control)

    @cached_property
    def undone(self) -> frozenset[int]:
        """The numbers of the changes that were taken back."""
        return frozenset(change.undoes for change in self.changes if change.undoes is not None)

    @cached_property
    def reversed_by(self) -> Mapping[str, str]:
        """For each transaction that a mirror entry takes back: the mirror's id. A mirror that a later
        change takes back in its turn takes nothing back."""
        rows = self.kept.by_key("reversing", self.tables.transactions, _is_reversing).get(True, ())
        found = {posted.reverses: posted for posted in rows if posted.reverses}
        undone = {
            posted.id
            for posted in rows
            if posted.id in found and found[posted.id].change != posted.change
        }
        return {name: mirror.id for name, mirror in found.items() if mirror.id not in undone}

    @cached_property
    def _correcting(self) -> tuple[Transaction, ...]:
        found = self.kept.by_key("correcting", self.tables.transactions, _is_correcting)
        return found.get(True, ())

    @cached_property
    def corrected(self) -> Mapping[str, str]:
        """For each transaction that a standing correction puts right: the correction's id."""
        return {
            posted.corrects: posted.id
            for posted in self._correcting
            if posted.corrects is not None and posted.id not in self.never_was
        }

    def is_answered(self, transaction_id: str) -> bool:
        """Whether a mirror or a standing correction puts it right already."""
        return transaction_id in self.reversed_by or transaction_id in self.corrected

    def is_taken_back(self, transaction_id: str) -> bool:
        """Whether a later change takes it back. The mirror of an entry that reverses by itself came
        with it, and does not."""
        mirror = self.transactions.get(self.reversed_by.get(transaction_id, ""))
        return mirror is not None and mirror.change != self.transactions[transaction_id].change

    @cached_property
    def filed_on(self) -> datetime | None:
        """When the filed years were filed: as the books say, else when the last closing entry in them
        was keyed, else six months after their end. None where nothing is filed."""
        through = self.client.filed_through
        if self.client.filed_on is not None or through is None:
            return self.client.filed_on
        closings = [
            posted.entered_at
            for posted in self.of_kinds(TransactionKind.CLOSING)
            if posted.posting_date <= through
            and posted.change is None
            and posted.entered_at is not None
        ]
        end = month_end(through.year, through.month + 6, 31)
        return max(closings, default=datetime(end.year, end.month, end.day))

    @property
    def capital_item(self) -> Minor:
        """From which sum on a thing of lasting use is an asset: as the books say, else 500.00."""
        if self.client.capital_item is not None:
            return self.client.capital_item
        return self.client.currency.parse("500")

    @cached_property
    def reach(self) -> Reach:
        """The days that there are financial years for: from the year before the first that is known to
        the one after the last, or to the last that somebody opened. All days where none is known."""
        named = self.calendar.named_years
        known = list(self._received_span)
        known += [day for day in (self.client.books_from, self.client.books_to) if day]
        known += [day for year in named for day in (year.first_day, year.last_day)]
        if not known:
            return Reach(FIRST_DAY, LAST_DAY)
        first = self.calendar.previous_year(self.calendar.year_of(min(known))).first_day
        last = self.calendar.next_year(self.calendar.year_of(max(known))).last_day
        return Reach(first, max(last, self.calendar.opened_through or last))

    @property
    def next_year(self) -> FinancialYear:
        """The financial year after the last that there is: the one that can be opened next."""
        return self.calendar.year_of(self.reach.last_day + ONE_DAY)

    @property
    def returned_through(self) -> date | None:
        """The last day of the last tax return that was filed, here or by what came with the books."""
        latest = {row.last: row.stands for row in self.tables.of("tax_returns")}
        days = [day for day, stands in latest.items() if stands]
        return max([*days, *filter(None, [self.client.tax_returned_through])], default=None)

    @cached_property
    def received_through(self) -> date | None:
        """The latest posting date among what came in; entries of ours say nothing of how far the
        client's books reach. None where nothing came in."""
        return max(self._received_span, default=None)

    @cached_property
    def _received_span(self) -> tuple[date, ...]:
        """The first and the last posting date of what came in; none where nothing did."""
        months = self.kept.by_key("received by month", self.tables.transactions, _received_month)
        ends = [months[month] for month in {min(months), max(months)}] if months else []
        days = [posted.posting_date for rows in ends for posted in rows]
        return (min(days), max(days)) if days else ()

    @cached_property
    def never_was(self) -> frozenset[str]:
        """The ids of the entries that a later change took back, and of the mirrors that did it: what
        was taken back is evidence of nothing."""
        known = self.reversed_by.keys() & self.transactions.keys()
        gone = {name for name in known if self.is_taken_back(name)}
        return frozenset(gone | {self.reversed_by[name] for name in gone})

    @cached_property
    def corrections(self) -> Mapping[str, tuple[Transaction, ...]]:
        """For each transaction that standing corrections put right: all of them, in their order."""
        found: dict[str, tuple[Transaction, ...]] = {}
        for posted in self._correcting:
            if posted.corrects is not None and posted.id not in self.never_was:
                found[posted.corrects] = (*found.get(posted.corrects, ()), posted)
        return found

    def is_void(self, transaction_id: str) -> bool:
        """Whether a standing entry is the opposite of it, or a mirror takes it back.

        What an opposite to an earlier year moves on income and cost may stand on the accounts that
        keep profit instead: those are left out of the comparison.
        """
        if transaction_id in self.reversed_by:
            return True
        correction = self.corrected.get(transaction_id)
        if correction is None:
            return False
        opposite_of = self._lasting_balances(self.transactions[correction])
        return bool(opposite_of) and self._lasting_balances(self.transactions[transaction_id]) == {
            key: -amount for key, amount in opposite_of.items()
        }

    def _lasting_balances(self, posted: Transaction) -> dict[tuple[str, str | None], Minor]:
        """What it adds to each account and party, without income, cost and where profit is kept."""
        sums: dict[tuple[str, str | None], Minor] = {}
        for line in posted.lines:
            account = self.accounts[line.account]
            if not account.is_profit_and_loss and account.role not in PROFIT_KEPT_ROLES:
                key = (line.account, line.party)
                sums[key] = sums.get(key, 0) + line.amount
        return sums

    def with_posted(
        self,
        entries: Iterable[Transaction],
        allocations: Iterable[Allocation],
        agreements: Iterable[AgreementRow] = (),
    ) -> "Books":
        """These books with more rows, as they will stand once those are posted."""
        tables = replace(
            self.tables,
            transactions=self.tables.transactions + tuple(entries),
            allocations=self.tables.allocations + tuple(allocations),
            agreements=self.tables.agreements + tuple(agreements),
        )
        return self.followed_by(tables=tables)

    def of_kinds(self, *kinds: TransactionKind) -> tuple[Transaction, ...]:
        """The transactions of these kinds, in the order of the books."""
        wanted = frozenset(kinds)
        name = f"of kinds {' '.join(sorted(wanted))}"
        found = self.kept.by_key(
            name, self.tables.transactions, lambda t: (True,) if t.kind in wanted else ()
        )
        return found.get(True, ())

    @property
    def ours(self) -> tuple[Transaction, ...]:
        """The entries that changes brought, in the order of the books."""
        found = self.kept.by_key(
            "ours", self.tables.transactions, lambda t: (t.change is not None,)
        )
        return found.get(True, ())

    def of_party(self, code: str) -> tuple[Transaction, ...]:
        """The transactions that name the party, at their head or on a line."""
        return self.kept.by_key("by party", self.tables.transactions, _parties_in).get(code, ())

    def posted_on(self, day: date) -> tuple[Transaction, ...]:
        """The transactions with that posting date, in the order of the books."""
        found = self.kept.by_key("by day", self.tables.transactions, lambda t: (t.posting_date,))
        return found.get(day, ())

    def of_change(self, number: int) -> tuple[Transaction, ...]:
        """The entries that the change brought, in their order."""
        found = self.kept.by_key("by change", self.tables.transactions, lambda t: (t.change,))
        return found.get(number, ())

    @property
    def chart(self) -> object:
        """What says what an account, a party and a tax code are: equal as long as none is put right."""
        tables = self.tables
        return (tables.accounts, tables.parties, tables.taxes)

    def rows_by(
        self,
        name: str,
        keys_of: Callable[[Transaction], Iterable[Any]],
        *kinds: TransactionKind,
        ground: object = None,
    ) -> Mapping[Any, tuple[Transaction, ...]]:
        """The transactions of these kinds (of any, where none is given) by each of their keys, kept up
        under *name*. *keys_of* may read the transaction, the `chart` and *ground*, nothing else."""
        rows = self.of_kinds(*kinds) if kinds else self.tables.transactions
        return self.kept.by_key(name, rows, keys_of, (self.chart, ground))

    def on_account(self, account: str) -> tuple[Transaction, ...]:
        """The transactions with a line on the account, in the order of the books."""
        by_account = self.kept.by_key("by account", self.tables.transactions, _accounts_in)
        return by_account.get(account, ())

    def lines_on(self, account: str) -> Iterator[tuple[Transaction, Line]]:
        """Every line on the account with its transaction, in the order of the books."""
        for posted in self.on_account(account):
            for line in posted.lines:
                if line.account == account:
                    yield posted, line


def _names(here: Iterable[Party], written: Iterable[Party]) -> Names:
    known = {party.code: party for party in here}
    return Names(known, {party.code: party for party in written if party.code not in known})


def _accounts_in(posted: Transaction) -> frozenset[str]:
    return frozenset(line.account for line in posted.lines)


def _parties_in(posted: Transaction) -> Iterable[str]:
    return {party for party in (posted.party, *(line.party for line in posted.lines)) if party}


def _received_month(posted: Transaction) -> Iterable[tuple[int, int]]:
    day = posted.posting_date
    return ((day.year, day.month),) if posted.change is None else ()


def _is_reversing(posted: Transaction) -> Iterable[bool]:
    return (True,) if posted.reverses is not None else ()


def _is_correcting(posted: Transaction) -> Iterable[bool]:
    return (True,) if posted.corrects is not None else ()


def opposite(lines: Iterable[Line]) -> tuple[Line, ...]:
    """The same lines with debit and credit exchanged."""
    return tuple(
        line._replace(amount=-line.amount, foreign_amount=_negated(line.foreign_amount))
        for line in lines
    )


def _negated(amount: str | None) -> str | None:
    if amount is None:
        return None
    return amount.removeprefix("-") if amount.startswith("-") else f"-{amount}"
