"""Whose the business is decides where its profit and its owners' money go (handbook, section 3)."""

from collections.abc import Mapping
from fractions import Fraction

from corkpost.core.books import Account, Books, Party
from corkpost.core.kinds import AccountRole, Entity, PartyKind
from corkpost.core.money import Minor, in_shares
from corkpost.core.refusals import BadEntry, MissingAccount, Refusal

PROFIT_ROLE: Mapping[Entity, AccountRole] = {
    Entity.SOLE_TRADER: AccountRole.CAPITAL,
    Entity.PARTNERSHIP: AccountRole.PARTNER_CURRENT,
    Entity.COMPANY: AccountRole.RETAINED_EARNINGS,
    Entity.ASSOCIATION: AccountRole.ACCUMULATED_FUND,
}


OWNER_ROLE: Mapping[Entity, tuple[AccountRole, AccountRole]] = {
    Entity.SOLE_TRADER: (AccountRole.DRAWINGS, AccountRole.CAPITAL_INTRODUCED),
    Entity.PARTNERSHIP: (AccountRole.PARTNER_CURRENT, AccountRole.PARTNER_CURRENT),
    Entity.COMPANY: (AccountRole.OWNER_LOAN, AccountRole.OWNER_LOAN),
    Entity.ASSOCIATION: (AccountRole.MEMBER_PAYABLE, AccountRole.MEMBER_PAYABLE),
}
"""Where money to an owner goes, and money from one."""
OWNERS_HAVE: Mapping[Entity, frozenset[AccountRole]] = {
    entity: frozenset((*roles, AccountRole.CAPITAL)) for entity, roles in OWNER_ROLE.items()
} | {Entity.ASSOCIATION: frozenset(OWNER_ROLE[Entity.ASSOCIATION])}
"""The owners' accounts that go with each kind of client."""


class NoOwners(Refusal):
    title = "An association has no owners"


def owner_accounts(
    books: Books, *, comes_in: bool, owner: str | None = None
) -> tuple[Account, ...]:
    """The accounts that an owner's money belongs on, those of *owner* first.

    Raises NoOwners where the money goes out of an association: that is asked about, not booked; or
    MissingAccount.
    """
    entity = books.client.entity
    if entity is Entity.ASSOCIATION and not comes_in:
        raise NoOwners(
            "Nobody may take money of an association for themselves: ask what it was for, and book "
            "it as the answer says."
        )
    role = OWNER_ROLE[entity][comes_in]
    accounts = books.with_role(role)
    if not accounts and entity is Entity.SOLE_TRADER:
        accounts = books.with_role(AccountRole.CAPITAL)
    if not accounts:
        raise MissingAccount(role, "an owner's money")
    return tuple(sorted(accounts, key=lambda account: (account.owner != owner, account.code)))


def chosen_owner_account(
    books: Books, chosen: str | None, *, comes_in: bool, owner: str | None = None
) -> Account:
    """The account of that code or, where none was chosen, the only one that it can be: *owner*'s.

    Raises BadEntry where there are several owners and nothing says whose it is.
    """
    if chosen:
        return books.account(chosen)
    accounts = owner_accounts(books, comes_in=comes_in, owner=owner)
    own = [account for account in accounts if account.owner == owner is not None]
    if len(accounts) > 1 and len(own) != 1:
        names = " or ".join(account.name for account in accounts)
        raise BadEntry([f"Choose the owner's account that it belongs on: {names}."])
    return (own or accounts)[0]


def profit_shared(books: Books, amount: Minor, purpose: str) -> dict[str, Minor]:
    """Where *amount* of profit goes, by account code: partners by share, others whole.

    The sign is kept. Raises MissingAccount, naming *purpose*, where the chart has no place for it.
    """
    role = PROFIT_ROLE[books.client.entity]
    accounts = books.with_role(role)
    if not accounts:
        raise MissingAccount(role, purpose)
    if books.client.entity is not Entity.PARTNERSHIP:
        return {accounts[0].code: amount}
    return in_shares(amount, partner_shares(books, purpose))


def partner_shares(books: Books, purpose: str) -> dict[str, Fraction]:
    """Each partner's share, by their account's code. Raises MissingAccount, naming *purpose*."""
    shares = {
        account.code: party.share
        for account in books.with_role(AccountRole.PARTNER_CURRENT)
        if (party := _partner(books, account)) and party.share
    }
    if not shares:
        raise MissingAccount("partner-current, with an owner who has a share", purpose)
    return shares


def _partner(books: Books, account: Account) -> Party | None:
    party = books.parties.get(account.owner or "")
    return party if party and party.kind is PartyKind.OWNER else None
