"""Tags that tax and statutory programs know figures by, given to accounts by rules: of an account, of a
role, or of a type, the nearer one first."""

from collections.abc import Iterable
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Account, Books
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.money import Minor
from corkpost.core.seal import sealed_balances
from corkpost.core.trial_balance import BROUGHT_FORWARD


class TagRule(NamedTuple):
    """Exactly one of *account*, *role* and *type* is given."""

    tag: str
    name: str
    account: str | None = None
    role: AccountRole | None = None
    type: AccountType | None = None

    def fits(self, account: Account) -> bool:
        if self.account is not None:
            return self.account == account.code
        if self.role is not None:
            return self.role is account.role
        return self.type is account.type

    @property
    def nearness(self) -> int:
        return 0 if self.account is not None else 1 if self.role is not None else 2


class Tagged(NamedTuple):
    """An account's balance under its tag, debit positive; no rule: the empty tag."""

    account: str
    name: str
    tag: str
    tag_name: str
    amount: Minor


def tagged(books: Books, rules: Iterable[TagRule], at: date) -> tuple[Tagged, ...]:
    """The trial balance at the end of *at*, before closing entries, by tag and account."""
    by_nearness = sorted(rules, key=lambda rule: rule.nearness)
    rows = []
    for row in sealed_balances(books, at).rows:
        account = books.accounts.get(row.account)
        if account is None:
            account = Account(BROUGHT_FORWARD, row.name, AccountType.EQUITY)
        rule = next((rule for rule in by_nearness if rule.fits(account)), TagRule("", ""))
        rows.append(Tagged(row.account, row.name, rule.tag, rule.name, row.balance))
    return tuple(sorted(rows, key=lambda row: (row.tag, row.account)))
