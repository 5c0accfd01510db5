"""What every proof begins with: accounts by their role and what stands on them."""

from collections.abc import Iterable
from datetime import date

from corkpost.core.books import Account, Books
from corkpost.core.money import Minor
from corkpost.core.running_sums import account_sums
from corkpost.core.tie_outs.tie_out import Part, account_part


def balances_of(books: Books, codes: Iterable[str], as_at: date) -> dict[str, Minor]:
    """The balance of each of these accounts at the end of *as_at*, closing entries in."""
    found = dict.fromkeys(codes, 0)
    for _, account, amount in account_sums(books, None, as_at):
        if account in found:
            found[account] += amount
    return found


def is_used(books: Books, account: Account, as_at: date) -> bool:
    """Whether anything was ever booked on it by then."""
    return any(posted.posting_date <= as_at for posted, _ in books.lines_on(account.code))


def parts_of(books: Books, balances: dict[str, Minor]) -> tuple[Part, ...]:
    """The accounts with a balance, as parts."""
    return tuple(
        account_part(code, books.accounts[code].name, balance)
        for code, balance in balances.items()
        if balance
    )
