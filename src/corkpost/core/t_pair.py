"""The T pair: the accounts that a plan touches, as booked and as they will stand."""

from collections.abc import Iterable, Iterator, Sequence
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.change import Plan
from corkpost.core.money import Minor
from corkpost.core.open_items import open_items
from corkpost.core.trial_balance import balances, balances_at

MOST_ACCOUNTS = 8
Key = tuple[str, str | None]
"""An account and, on a control account, the party."""


class TLine(NamedTuple):
    """One line in a T-account, debit positive. *transaction*: where it comes from."""

    transaction: str
    amount: Minor


class TAccount(NamedTuple):
    """An account on the date of an entry. *coming* are the lines that the plan brings.

    A correction is set against *booked*, the lines that it answers, and the balances are sums of
    the lines shown. An entry that answers nothing is set against *before*, the account's balance.
    """

    account: str
    party: str | None
    on: date | None
    before: Minor
    booked: tuple[TLine, ...]
    coming: tuple[TLine, ...]

    @property
    def balance_booked(self) -> Minor:
        return self.before + sum(line.amount for line in self.booked)

    @property
    def balance_after(self) -> Minor:
        return self.balance_booked + sum(line.amount for line in self.coming)


def t_accounts(plan: Plan, books: Books) -> tuple[TAccount, ...]:
    """The T-accounts of the plan by date, control accounts first and by party."""
    related = _related(plan, books)
    if not plan.entries:
        found = list(_allocated(related, books))
    elif plan.about:
        found = list(_corrected(plan.entries, related, books))
    else:
        found = list(_entered(plan.entries, books))
    return tuple(found[:MOST_ACCOUNTS])


def _allocated(related: Sequence[Transaction], books: Books) -> Iterator[TAccount]:
    """Only allocations: the control accounts that they settle on."""
    for key in _keys(related, books):
        if key[1] is not None:
            yield TAccount(*key, None, 0, _lines(related, key, books), ())


def _corrected(
    entries: Sequence[Transaction], related: Sequence[Transaction], books: Books
) -> Iterator[TAccount]:
    for key in _keys(entries, books):
        booked, coming = _lines(related, key, books), _lines(entries, key, books)
        yield TAccount(*key, None, 0, booked, coming)


def _entered(entries: Sequence[Transaction], books: Books) -> Iterator[TAccount]:
    for on in sorted({entry.posting_date for entry in entries}):
        of_day = [entry for entry in entries if entry.posting_date == on]
        earlier = [entry for entry in entries if entry.posting_date < on]
        before, since = balances_at(books, on), balances(earlier, books, on)
        for account in dict.fromkeys(key[0] for key in _keys(of_day, books)):
            coming = tuple(
                TLine(entry.id, line.amount)
                for entry in of_day
                for line in entry.lines
                if line.account == account
            )
            balance = before.get(account, 0) + since.get(account, 0)
            yield TAccount(account, None, on, balance, (), coming)


def _related(plan: Plan, books: Books) -> list[Transaction]:
    """What the plan is about, and what is allocated to it."""
    items = open_items(books)
    names = dict.fromkeys(plan.about)
    for about in plan.about:
        for row in items.standing_on(about):
            names |= dict.fromkeys((row.debit_transaction, row.credit_transaction))
    return [books.transactions[name] for name in names if name in books.transactions]


def _key(line: Line, books: Books) -> Key:
    control = line.account in books.control_accounts
    return (line.account, line.party if control else None)


def _keys(transactions: Iterable[Transaction], books: Books) -> list[Key]:
    keys = dict.fromkeys(_key(line, books) for posted in transactions for line in posted.lines)
    return sorted(keys, key=lambda key: key[0] not in books.control_accounts)


def _lines(transactions: Iterable[Transaction], key: Key, books: Books) -> tuple[TLine, ...]:
    return tuple(
        TLine(posted.id, line.amount)
        for posted in transactions
        for line in posted.lines
        if _key(line, books) == key
    )
