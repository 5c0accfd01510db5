"""Tax by code for a return, and which returns were filed (handbook, section 2).

What is corrected in a span that was returned belongs to the first day that was not: its tax lines say so,
and the next return collects them.
"""

from collections import defaultdict
from collections.abc import Iterator
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.formatting import format_date
from corkpost.core.kinds import (
    MONEY_ROLES,
    PASSED_THROUGH_ROLES,
    AccountRole,
    AccountType,
    TransactionKind,
)
from corkpost.core.money import Minor
from corkpost.core.periods import ONE_DAY
from corkpost.core.plan_rules import UNTAXED_ROLES
from corkpost.core.refusals import BadEntry
from corkpost.core.row_kinds import standing, tax_returns
from corkpost.core.row_kinds.tax_returns import TaxReturn
from corkpost.core.row_kinds.tax_schemes import Scheme, TaxScheme
from corkpost.core.tax_schemes import flat_tax, scheme_on, unsettled_tax


class CodeSums(NamedTuple):
    """One tax code in a return. Sales positive as people read them, purchases too; credits take off."""

    code: str
    sales: Minor
    tax_on_sales: Minor
    purchases: Minor
    tax_on_purchases: Minor


class Collected(NamedTuple):
    """An entry dated before the span whose tax belongs to it. *tax*: what is owed more by it, positive."""

    transaction: Transaction
    tax: Minor


class TaxSummary(NamedTuple):
    """*late*: of earlier days, counted here because their own return was filed. *due*: to be paid,
    positive; to come back, below nil. *on_account*: what the tax accounts moved by, payments to the
    authority left out, debit positive: the opposite of *due*, unless something there has no code. By
    payment, all of it is what was settled in the span. *flat_sales*: with their tax, for a flat rate."""

    first: date
    last: date
    codes: tuple[CodeSums, ...]
    late: tuple[Collected, ...]
    filed: TaxReturn | None
    on_account: Minor
    scheme: TaxScheme
    flat_sales: Minor = 0

    @property
    def due(self) -> Minor:
        if self.scheme.rate is not None:
            return flat_tax(self.scheme.rate, self.flat_sales)
        return sum(row.tax_on_sales - row.tax_on_purchases for row in self.codes)


class FileReturn(NamedTuple):
    first: date
    last: date
    filed_on: date


def returns_of(books: Books) -> tuple[TaxReturn, ...]:
    """The returns that were filed here, by their spans."""
    return tuple(sorted(standing(tax_returns.KIND, books)))


def tax_summary(books: Books, first: date, last: date) -> TaxSummary:
    """Tax by code of what belongs to the span, by tax date; by payment, of what was settled in it."""
    scheme = scheme_on(books, last)
    sums: dict[str, list[Minor]] = defaultdict(lambda: [0, 0, 0, 0])
    late: dict[str, Minor] = defaultdict(int)
    on_account = 0
    for posted in books.tables.transactions:
        belongs = _tax_day(posted)
        if not first <= belongs <= last:
            continue
        on_account += _on_account(books, posted)
        counted = list(_counted(books, posted))
        if scheme.scheme is Scheme.FLAT and all(place in (1, 3) for _, place, _ in counted):
            # What was kept of the tax is no tax on anything.
            continue
        for line, place, amount in counted:
            sums[line.tax_code or ""][place] += amount
            if place in (1, 3) and posted.posting_date < first:
                late[posted.id] -= line.amount
    if scheme.scheme is Scheme.PAID:
        on_account += _shift(books, sums, last, -1) + _shift(books, sums, first - ONE_DAY, 1)
    sales = sum(row[0] + row[1] for row in sums.values())
    return TaxSummary(
        first,
        last,
        tuple(CodeSums(code, *sums[code]) for code in sorted(sums)),
        tuple(Collected(books.transactions[name], tax) for name, tax in late.items()),
        next((row for row in returns_of(books) if row.first <= first and last <= row.last), None),
        on_account,
        scheme,
        sales if scheme.scheme is Scheme.FLAT else 0,
    )


def _shift(books: Books, sums: dict[str, list[Minor]], day: date, sign: int) -> Minor:
    """Take (or with *sign* 1 add) what was not settled at the end of the day; what the tax accounts move
    by."""
    moved = 0
    for posted, part in unsettled_tax(books, day):
        if _tax_day(posted) > day:
            continue
        for line, place, amount in _counted(books, posted):
            if line.number == part.number:
                share = part.amount if amount == line.amount else -part.amount
                sums[line.tax_code or ""][place] += sign * share
        if books.accounts[part.account].role is AccountRole.TAX:
            moved += sign * part.amount
    return moved


def _on_account(books: Books, posted: Transaction) -> Minor:
    """What it puts on the tax accounts, but for what was brought forward, paid or came back."""
    if posted.kind in (TransactionKind.OPENING, TransactionKind.CLOSING):
        return 0
    pays = any(books.accounts[line.account].role in MONEY_ROLES for line in posted.lines)
    return sum(
        line.amount
        for line in posted.lines
        if books.accounts[line.account].role is AccountRole.TAX and (line.tax_code or not pays)
    )


def _tax_day(posted: Transaction) -> date:
    """The day that its tax belongs to."""
    return next((line.tax_date for line in posted.lines if line.tax_date), posted.posting_date)


def _counted(books: Books, posted: Transaction) -> Iterator[tuple[Line, int, Minor]]:
    """Each line that a return counts, with its place in `CodeSums` and its amount there."""
    sells = any(
        books.accounts[line.account].type is AccountType.INCOME
        for line in posted.lines
        if line.tax_code
    )
    for line in posted.lines:
        role = books.accounts[line.account].role
        # A till's entry may bear its code on the money too: only what was sold or bought counts.
        if not line.tax_code or role in UNTAXED_ROLES | PASSED_THROUGH_ROLES:
            continue
        is_tax = books.accounts[line.account].role is AccountRole.TAX
        place = (0 if sells else 2) + is_tax
        yield line, place, -line.amount if sells else line.amount


def plan_file_return(books: Books, act: FileReturn) -> Plan:
    """Raises BadEntry where the span does not go on from the last return that was filed."""
    through = books.returned_through
    faults = []
    if act.last < act.first:
        faults.append("The last day of the return comes before its first.")
    if act.filed_on <= act.last:
        faults.append("A return is filed after its last day.")
    if through and act.first != through + ONE_DAY:
        faults.append(
            f"The last return went through {format_date(through)}: this one begins on "
            f"{format_date(through + ONE_DAY)}."
        )
    if faults:
        raise BadEntry(faults)
    row = TaxReturn(act.first, act.last, act.filed_on)
    return Plan(
        kind=ChangeKind.ENTRY,
        route="file-return",
        entries=(),
        allocations=(),
        more={"tax_returns": (row,)},
        proposed_reason=f"Tax return {format_date(act.first)} to {format_date(act.last)} filed.",
        notes=("what is corrected in these days from now on belongs to the next return",),
    )
