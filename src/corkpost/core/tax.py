"""Tax on lines: inclusive and added amounts, and the date that it belongs to (section 2)."""

from datetime import date
from enum import StrEnum
from fractions import Fraction

from corkpost.core.books import Account, Books, Line, Tax
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.money import Minor, rounded, tax_within
from corkpost.core.periods import ONE_DAY
from corkpost.core.refusals import MissingAccount


class TaxTreatment(StrEnum):
    """What a line's amount says of its tax."""

    NONE = "none"
    INCLUDED = "included"
    ADDED = "added"


_TAXED_ROLES = (
    AccountRole.ORDINARY,
    AccountRole.SALES,
    AccountRole.COST_OF_SALES,
    AccountRole.REPAIRS,
    AccountRole.STOCK,
    AccountRole.FIXED_ASSET,
)


def tax_date(books: Books, posting_date: date) -> date:
    """The posting date or, if that period's return was filed, the first day not yet returned."""
    returned = books.returned_through
    return returned + ONE_DAY if returned and posting_date <= returned else posting_date


def with_tax_dates(books: Books, lines: tuple[Line, ...], posting_date: date) -> tuple[Line, ...]:
    """The lines as of *posting_date*: those on tax accounts say when their tax date is another."""
    due = tax_date(books, posting_date)
    shown = None if due == posting_date else due
    return tuple(line._replace(tax_date=shown if _is_tax(books, line) else None) for line in lines)


def _is_tax(books: Books, line: Line) -> bool:
    return books.accounts[line.account].role is AccountRole.TAX


def tax_account(books: Books, tax: Tax) -> str:
    """The account that this tax is booked on. Raises MissingAccount where the chart has none."""
    accounts = books.with_role(AccountRole.TAX)
    if not accounts:
        raise MissingAccount("tax", f"the tax code {tax.code}")
    return next((a for a in accounts if a.tax_code == tax.code), accounts[0]).code


def preset_code(account: Account) -> str | None:
    """The tax code that a line to the account begins with: its own.

    None for lines to bank, owner, control, wages and other accounts that no tax belongs on.
    """
    return account.tax_code if account.role in _TAXED_ROLES else None


def split(books: Books, line: Line, treatment: TaxTreatment) -> tuple[Line, ...]:
    """The line and its tax line. Where a cost's tax can't be reclaimed, it stays in the cost."""
    tax = books.taxes.get(line.tax_code or "")
    if tax is None or treatment is TaxTreatment.NONE or not tax.rate:
        return (line,)
    amount = _tax_of(line.amount, tax.rate, treatment)
    if not amount:
        return (line,)
    gross = line.amount + (amount if treatment is TaxTreatment.ADDED else 0)
    is_cost = books.accounts[line.account].type is not AccountType.INCOME
    if is_cost and not tax.recoverable:
        return (line._replace(amount=gross),)
    # The tax stands on the branch or project of what it is on, so that each balances by itself.
    on_tax = Line(
        line.number,
        tax_account(books, tax),
        amount,
        tax_code=tax.code,
        dimensions=line.dimensions,
    )
    return (line._replace(amount=gross - amount), on_tax)


def _tax_of(amount: Minor, rate: Fraction, treatment: TaxTreatment) -> Minor:
    if treatment is TaxTreatment.INCLUDED:
        return tax_within(amount, rate)
    return rounded(amount * rate / 100)
