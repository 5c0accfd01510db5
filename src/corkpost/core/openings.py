"""The balances that a year begins with, against the trial balance that was signed for the one before."""

from collections.abc import Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.kinds import PROFIT_KEPT_ROLES
from corkpost.core.money import Minor
from corkpost.core.trial_balance import Closing, balances_at


class Opening(NamedTuple):
    """An account at the end of the year before, debit positive: as it was signed, and as it is found."""

    account: str
    signed: Minor
    found: Minor

    @property
    def difference(self) -> Minor:
        return self.found - self.signed


def signed_at(books: Books, year_end: date) -> Mapping[str, Minor] | None:
    """The trial balance that was signed as at that day; None where none is known, or one that does not
    balance itself, which is no whole trial balance to go by."""
    signed = {
        row.account: row.amount for row in books.tables.prior_year if row.year_end == year_end
    }
    return signed if signed and not sum(signed.values()) else None


def opening_differences(
    books: Books, year_end: date, signed: Mapping[str, Minor]
) -> tuple[Opening, ...]:
    """Every account of the balance sheet that has a balance on either side. Where profit is kept is left
    out: what it holds depends on whether the year was closed."""
    found = balances_at(books, year_end, closing=Closing.OUT)
    rows = (
        Opening(account.code, signed.get(account.code, 0), found.get(account.code, 0))
        for account in books.tables.accounts
        if not account.is_profit_and_loss and account.role not in PROFIT_KEPT_ROLES
    )
    return tuple(row for row in rows if row.signed or row.found)
