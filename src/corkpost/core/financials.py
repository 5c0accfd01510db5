"""Financial statements: profit and loss of a span, balance sheet at a day, what moved equity, and where
money came from and went (handbook, section 9).

Amounts as people read them: income, liabilities and equity positive, costs and assets too. Closing entries
of the year looked at are left out, so that a closed year shows its profit all the same.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from datetime import date, timedelta
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.books import Account, Books, Line
from corkpost.core.kinds import (
    MONEY_ROLES,
    OWNER_ROLES,
    PASSED_THROUGH_ROLES,
    AccountRole,
    AccountType,
    TransactionKind,
)
from corkpost.core.money import Minor
from corkpost.core.periods import month_end
from corkpost.core.running_sums import account_sums
from corkpost.core.trial_balance import (
    BROUGHT_FORWARD,
    BROUGHT_FORWARD_NAME,
    Closing,
    balances_at,
    profit_of,
)

PROFIT = "profit"


class Section(StrEnum):
    INCOME = "income"
    COST_OF_SALES = "cost of sales"
    EXPENSES = "expenses"
    FIXED_ASSETS = "fixed assets"
    CURRENT_ASSETS = "current assets"
    LIABILITIES = "owed within a year"
    LOANS = "loans"
    EQUITY = "equity"


class StatementRow(NamedTuple):
    """*account*: its code; `profit` or `brought-forward` for what stands on no account. *before*: the
    same a year earlier."""

    section: Section
    account: str
    name: str
    amount: Minor
    before: Minor


class ProfitAndLoss(NamedTuple):
    first: date
    last: date
    rows: tuple[StatementRow, ...]

    def total(self, *sections: Section, before: bool = False) -> Minor:
        """The sum of these sections."""
        return _total(self.rows, sections, before=before)

    def profit(self, *, before: bool = False) -> Minor:
        costs = self.total(Section.COST_OF_SALES, Section.EXPENSES, before=before)
        return self.total(Section.INCOME, before=before) - costs

    def gross_profit(self, *, before: bool = False) -> Minor:
        costs = self.total(Section.COST_OF_SALES, before=before)
        return self.total(Section.INCOME, before=before) - costs


class BalanceSheet(NamedTuple):
    at: date
    rows: tuple[StatementRow, ...]

    def total(self, *sections: Section, before: bool = False) -> Minor:
        """The sum of these sections."""
        return _total(self.rows, sections, before=before)

    def assets(self, *, before: bool = False) -> Minor:
        return self.total(Section.FIXED_ASSETS, Section.CURRENT_ASSETS, before=before)

    def liabilities(self, *, before: bool = False) -> Minor:
        return self.total(Section.LIABILITIES, Section.LOANS, before=before)


def _total(rows: Iterable[StatementRow], sections: Sequence[Section], *, before: bool) -> Minor:
    return sum(row.before if before else row.amount for row in rows if row.section in sections)


def year_earlier(day: date) -> date:
    """The same day a year earlier; the last of a month stays the last."""
    last = day == month_end(day.year, day.month, 31)
    return month_end(day.year - 1, day.month, 31 if last else day.day)


def profit_and_loss(
    books: Books, first: date, last: date, *, dimensions: str | None = None
) -> ProfitAndLoss:
    """Income and costs by posting date, between two days, both included, across years too; beside the
    span a year earlier. *dimensions*: only what stands on these, as `site=QUAY`."""
    now = _result(books, first, last, dimensions)
    before = _result(books, year_earlier(first), year_earlier(last), dimensions)
    rows = []
    for account in _ordered(books, AccountType.INCOME, AccountType.EXPENSE):
        sign = -1 if account.type is AccountType.INCOME else 1
        amounts = sign * now.get(account.code, 0), sign * before.get(account.code, 0)
        if any(amounts):
            rows.append(StatementRow(_section_of(account), account.code, account.name, *amounts))
    rows.sort(key=lambda row: list(Section).index(row.section))
    return ProfitAndLoss(first, last, tuple(rows))


def _result(books: Books, first: date, last: date, dimensions: str | None) -> Mapping[str, Minor]:
    found: dict[str, Minor] = {}
    if dimensions is None:
        for sort, account, amount in account_sums(books, first, last):
            if not sort.closing:
                found[account] = found.get(account, 0) + amount
        return found
    for posted in books.tables.transactions:
        if first <= posted.posting_date <= last and posted.kind is not TransactionKind.CLOSING:
            for line in posted.lines:
                if line.dimensions == dimensions:
                    found[line.account] = found.get(line.account, 0) + line.amount
    return found


def balance_sheet(books: Books, at: date) -> BalanceSheet:
    """What is owned, owed and kept at the end of *at*, with the profit of its year as a row of equity;
    beside the same a year earlier."""
    now = balances_at(books, at, closing=Closing.OUT)
    before = balances_at(books, year_earlier(at), closing=Closing.OUT)
    rows = []
    types = (AccountType.ASSET, AccountType.LIABILITY, AccountType.EQUITY)
    for account in _ordered(books, *types):
        sign = 1 if account.type is AccountType.ASSET else -1
        amounts = sign * now.get(account.code, 0), sign * before.get(account.code, 0)
        if any(amounts):
            rows.append(StatementRow(_section_of(account), account.code, account.name, *amounts))
    brought = -now.get(BROUGHT_FORWARD, 0), -before.get(BROUGHT_FORWARD, 0)
    if any(brought):
        rows.append(StatementRow(Section.EQUITY, BROUGHT_FORWARD, BROUGHT_FORWARD_NAME, *brought))
    profits = profit_of(now, books), profit_of(before, books)
    if any(profits):
        rows.append(StatementRow(Section.EQUITY, PROFIT, "Profit of the year", *profits))
    rows.sort(key=lambda row: list(Section).index(row.section))
    return BalanceSheet(at, tuple(rows))


def _ordered(books: Books, *types: AccountType) -> list[Account]:
    return sorted(
        (account for account in books.tables.accounts if account.type in types),
        key=lambda account: account.code,
    )


_FIXED = (AccountRole.FIXED_ASSET, AccountRole.ACCUMULATED_DEPRECIATION)


def _section_of(account: Account) -> Section:
    if account.role is AccountRole.COST_OF_SALES:
        return Section.COST_OF_SALES
    if account.type is AccountType.LIABILITY:
        return Section.LOANS if account.role is AccountRole.LOAN else Section.LIABILITIES
    if account.type is AccountType.ASSET:
        return Section.FIXED_ASSETS if account.role in _FIXED else Section.CURRENT_ASSETS
    return {
        AccountType.INCOME: Section.INCOME,
        AccountType.EXPENSE: Section.EXPENSES,
        AccountType.EQUITY: Section.EQUITY,
    }[account.type]


class EquityMovement(NamedTuple):
    """An equity account in a span, what belongs to owners positive. The result stands on no account
    before it is closed: it moves the row `profit`."""

    account: str
    name: str
    opening: Minor
    moved: Minor
    closing: Minor


def equity_movements(books: Books, first: date, last: date) -> tuple[EquityMovement, ...]:
    """Each equity account from *first* to the end of *last*, and the result that is not closed yet."""
    before = balances_at(books, first - timedelta(days=1), closing=Closing.IN)
    now = balances_at(books, last, closing=Closing.IN)
    rows = []
    for account in _ordered(books, AccountType.EQUITY):
        opening, closing = -before.get(account.code, 0), -now.get(account.code, 0)
        if opening or closing:
            rows.append(
                EquityMovement(account.code, account.name, opening, closing - opening, closing)
            )
    opening = profit_of(before, books) - before.get(BROUGHT_FORWARD, 0)
    closing = profit_of(now, books) - now.get(BROUGHT_FORWARD, 0)
    if opening or closing:
        rows.append(
            EquityMovement(PROFIT, "Result not closed yet", opening, closing - opening, closing)
        )
    return tuple(rows)


class Source(StrEnum):
    """Where money came from, or went."""

    CUSTOMERS = "customers and other income"
    SUPPLIERS = "suppliers and other costs"
    PAYROLL = "wages and payroll taxes"
    TAX = "sales tax"
    OWNERS = "owners"
    LOANS = "lenders"
    ASSETS = "things of lasting use"
    WAITING = "in hand, clearing, not yet told"
    OTHER = "other"


class MoneyMoved(NamedTuple):
    """*came*, *went*: both positive."""

    source: Source
    came: Minor
    went: Minor


_SOURCES: Mapping[AccountRole, Source] = {
    AccountRole.RECEIVABLES: Source.CUSTOMERS,
    AccountRole.PAYABLES: Source.SUPPLIERS,
    AccountRole.PAYROLL_NET: Source.PAYROLL,
    AccountRole.PAYROLL_TAX: Source.PAYROLL,
    AccountRole.WAGES: Source.PAYROLL,
    AccountRole.DIRECTOR_PAY: Source.PAYROLL,
    AccountRole.TAX: Source.TAX,
    AccountRole.LOAN: Source.LOANS,
    AccountRole.LOAN_INTEREST: Source.LOANS,
    AccountRole.FIXED_ASSET: Source.ASSETS,
    **dict.fromkeys(OWNER_ROLES, Source.OWNERS),
    AccountRole.DIVIDENDS: Source.OWNERS,
    **dict.fromkeys(PASSED_THROUGH_ROLES, Source.WAITING),
}


def money_moved(books: Books, first: date, last: date) -> tuple[MoneyMoved, ...]:
    """Where the money on bank, cash and card accounts came from and went, read from the entries on them:
    the other side of each. Between own accounts nothing moves."""
    came: dict[Source, Minor] = {}
    went: dict[Source, Minor] = {}
    money = {account.code for account in books.with_role(*MONEY_ROLES)}
    for posted in books.tables.transactions:
        if not first <= posted.posting_date <= last:
            continue
        if all(line.account not in money for line in posted.lines):
            continue
        for line in posted.lines:
            if line.account not in money and line.amount:
                source = _source_of(books, line)
                side = came if line.amount < 0 else went
                side[source] = side.get(source, 0) + abs(line.amount)
    return tuple(
        MoneyMoved(source, came.get(source, 0), went.get(source, 0))
        for source in Source
        if source in came or source in went
    )


def _source_of(books: Books, line: Line) -> Source:
    account = books.accounts[line.account]
    if account.role in _SOURCES:
        return _SOURCES[account.role]
    if account.type is AccountType.INCOME:
        return Source.CUSTOMERS
    return Source.SUPPLIERS if account.type is AccountType.EXPENSE else Source.OTHER


class Whole(NamedTuple):
    """An amount in whole units. *bent*: it is a unit other than rounding it alone would give, so that
    the sum is that of the exact amounts."""

    units: int
    bent: bool


def whole_units(amounts: Sequence[Minor], per_unit: int) -> tuple[Whole, ...]:
    """The amounts in whole units whose sum is the rounded sum of the exact ones: each is rounded down, and
    what is left goes to those with the largest remainders. *per_unit*: minor units in one."""
    floors = [amount // per_unit for amount in amounts]
    left = _nearest(sum(amounts), per_unit) - sum(floors)
    by_rest: Callable[[int], tuple[int, int]] = lambda place: (  # noqa: E731
        -(amounts[place] % per_unit),
        place,
    )
    up = set(sorted(range(len(amounts)), key=by_rest)[:left])
    return tuple(
        Whole(floor + (place in up), floor + (place in up) != _nearest(amount, per_unit))
        for place, (floor, amount) in enumerate(zip(floors, amounts, strict=True))
    )


def _nearest(amount: Minor, per_unit: int) -> int:
    """Half away from zero."""
    sign = -1 if amount < 0 else 1
    return sign * ((2 * abs(amount) + per_unit) // (2 * per_unit))
