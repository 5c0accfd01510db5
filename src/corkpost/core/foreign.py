"""What stands in another currency than the books: lines, accounts and what they come to."""

from collections.abc import Mapping
from fractions import Fraction

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import TransactionKind
from corkpost.core.money import Currency, Money, rounded


def foreign_accounts(books: Books) -> Mapping[str, Currency]:
    """The bank accounts that are kept in another currency than the books, with that currency."""
    own = books.client.currency.code
    return {
        row.account: Currency(row.currency)
        for row in books.tables.bank_accounts
        if row.currency and row.currency != own
    }


def currency_of_account(books: Books, account: str) -> Currency:
    """The currency that the account's statements are in: the books' own unless it is kept in another."""
    return foreign_accounts(books).get(account, books.client.currency)


def foreign_money(
    books: Books, posted: Transaction, line: Line, kept: Currency | None = None
) -> Money | None:
    """What a line is in another currency, that of its account (*kept*) where it does not say; debit
    positive. None where it is in the books' own, or says no sum."""
    code = line.currency or posted.currency or (kept.code if kept else None)
    if not code or code == books.client.currency.code or not line.foreign_amount:
        return None
    currency = Currency(code)
    return Money(rounded(Fraction(line.foreign_amount) * 10**currency.places), currency)


def about_account(books: Books, account: str) -> str | None:
    """In words: what an account in another currency counts, and what it leaves out; None for others."""
    kept = foreign_accounts(books).get(account)
    if kept is None:
        return None
    says = (
        f"Kept in {kept.code}: the amounts here are in {kept.code}. What the books lack is written as an "
        f"entry, its amount with the code: {kept.code} 18.00."
    )
    silent = without_foreign(books, account)
    if silent:
        more = f" and {len(silent) - 3} more" if len(silent) > 3 else ""
        says += f" {', '.join(silent[:3])}{more} say no sum in it, and are not counted."
    return says


def without_foreign(books: Books, account: str) -> tuple[str, ...]:
    """The transactions on an account kept in another currency that say no sum in it, and may move it:
    revaluations do not."""
    kept = foreign_accounts(books).get(account)
    return tuple(
        dict.fromkeys(
            posted.id
            for posted, line in books.lines_on(account)
            if foreign_money(books, posted, line, kept) is None
            and posted.kind is not TransactionKind.REVALUATION
            and posted.id not in books.never_was
        )
    )
