"""What kind of event an entry is: by the roles of its accounts, and by what its journal is called."""

from collections.abc import Callable, Mapping
from datetime import date

from corkpost.core.intake.chart import Kind
from corkpost.core.intake.entries import Entry
from corkpost.core.kinds import (
    CONTROL_ROLES,
    MONEY_ROLES,
    PASSED_THROUGH_ROLES,
    PROFIT_AND_LOSS,
    AccountRole,
    AccountType,
    TransactionKind,
)
from corkpost.core.periods import ends_year

LEAST_CLOSED = 3
"""So many accounts of income and cost are emptied by an entry that closes a year."""
CLOSES = frozenset({*PROFIT_AND_LOSS, AccountType.EQUITY})
WAGES = frozenset({AccountRole.WAGES, AccountRole.DIRECTOR_PAY, AccountRole.EMPLOYER_CONTRIBUTIONS})


ByJournal = Callable[[str], TransactionKind | None]
"""What entries of a journal of that name are, where the name says it."""


def kind_of(
    entry: Entry, chart: Mapping[str, Kind], year_end: tuple[int, int], by_journal: ByJournal
) -> TransactionKind:
    """The kind of an entry (handbook, section 3). What its journal is called counts where its accounts
    allow it."""
    sums: dict[AccountRole, int] = {}
    for row in entry.rows:
        role = chart[row.account].role
        sums[role] = sums.get(role, 0) + row.amount
    money = sum(amount for role, amount in sums.items() if role in MONEY_ROLES)
    if any(row.is_opening for row in entry.rows):
        return TransactionKind.OPENING
    if _closes(entry, chart, year_end):
        return TransactionKind.CLOSING
    said = _said(entry, chart, sums, by_journal)
    if said is not None:
        return said
    controls = sums.keys() & CONTROL_ROLES
    if controls == {AccountRole.RECEIVABLES}:
        return _of_customer(sums, money)
    if controls == {AccountRole.PAYABLES}:
        return _of_supplier(sums, money)
    if controls:
        return TransactionKind.JOURNAL
    return _of_nobody(entry, chart, sums, money)


def _said(
    entry: Entry,
    chart: Mapping[str, Kind],
    sums: Mapping[AccountRole, int],
    by_journal: ByJournal,
) -> TransactionKind | None:
    """What its journal says that it is, if it can be that."""
    said = by_journal(entry.rows[0].journal)
    if said is None:
        return None
    types = {chart[row.account].type for row in entry.rows}
    on_control = sums.keys() & CONTROL_ROLES
    paid = sums.keys() & MONEY_ROLES
    allowed = {
        TransactionKind.OPENING: not types & PROFIT_AND_LOSS,
        TransactionKind.CLOSING: AccountType.EQUITY in types and types <= CLOSES,
        # The journal of wages may hold what was paid, too.
        TransactionKind.PAYROLL: AccountType.EXPENSE in types and not on_control and not paid,
        TransactionKind.TAKINGS: AccountType.INCOME in types and not on_control,
        # A correction beside the documents; who keys bills there numbers them.
        TransactionKind.JOURNAL: not paid and not any(row.reference for row in entry.rows),
    }
    return said if allowed.get(said, False) else None


def _of_nobody(
    entry: Entry, chart: Mapping[str, Kind], sums: Mapping[AccountRole, int], money: int
) -> TransactionKind:
    """An entry that is on no control account."""
    if sums.keys() & WAGES and len(entry.rows) > 2 and AccountRole.TAX not in sums:
        return TransactionKind.PAYROLL
    moved = [row for row in entry.rows if chart[row.account].role in MONEY_ROLES]
    if not moved:
        return TransactionKind.JOURNAL
    others = [row for row in entry.rows if chart[row.account].role not in MONEY_ROLES]
    if not others:
        return TransactionKind.TRANSFER
    if all(chart[row.account].role in PASSED_THROUGH_ROLES for row in others) and money > 0:
        return TransactionKind.BANKING
    return TransactionKind.DIRECT_RECEIPT if money > 0 else TransactionKind.DIRECT_PAYMENT


def _of_customer(sums: Mapping[AccountRole, int], money: int) -> TransactionKind:
    if money:
        return TransactionKind.CUSTOMER_RECEIPT if money > 0 else TransactionKind.CUSTOMER_REFUND
    if sums.keys() & PASSED_THROUGH_ROLES:
        return TransactionKind.CUSTOMER_RECEIPT
    if AccountRole.BAD_DEBT in sums or not sums[AccountRole.RECEIVABLES]:
        return TransactionKind.JOURNAL
    owed = sums[AccountRole.RECEIVABLES] > 0
    return TransactionKind.SALES_INVOICE if owed else TransactionKind.SALES_CREDIT


def _of_supplier(sums: Mapping[AccountRole, int], money: int) -> TransactionKind:
    if money:
        return TransactionKind.SUPPLIER_PAYMENT if money < 0 else TransactionKind.SUPPLIER_REFUND
    if not sums[AccountRole.PAYABLES]:
        return TransactionKind.JOURNAL
    owed = sums[AccountRole.PAYABLES] < 0
    return TransactionKind.PURCHASE_BILL if owed else TransactionKind.PURCHASE_CREDIT


def _closes(entry: Entry, chart: Mapping[str, Kind], year_end: tuple[int, int]) -> bool:
    """Whether it empties income and costs into equity on the last day of a year."""
    day: date = entry.rows[0].day
    if not ends_year(day, year_end):
        return False
    types = [chart[row.account].type for row in entry.rows]
    closed = sum(kind in PROFIT_AND_LOSS for kind in types)
    return (
        closed >= LEAST_CLOSED
        and AccountType.EQUITY in types
        and all(kind in PROFIT_AND_LOSS or kind is AccountType.EQUITY for kind in types)
    )
