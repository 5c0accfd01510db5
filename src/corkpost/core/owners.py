"""Whose the business is decides where its profit and its owners' money go (handbook, section 3)."""

from collections.abc import Mapping

from corkpost.core.books import Account, Books, Party
from corkpost.core.kinds import AccountRole, Entity, PartyKind
from corkpost.core.money import Minor, in_shares
from corkpost.core.refusals import MissingAccount

PROFIT_ROLE: Mapping[Entity, AccountRole] = {
    Entity.SOLE_TRADER: AccountRole.CAPITAL,
    Entity.PARTNERSHIP: AccountRole.PARTNER_CURRENT,
    Entity.COMPANY: AccountRole.RETAINED_EARNINGS,
    Entity.ASSOCIATION: AccountRole.ACCUMULATED_FUND,
}


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
    shares = {
        account.code: party.share
        for account in accounts
        if (party := _partner(books, account)) and party.share
    }
    if not shares:
        raise MissingAccount("partner-current, with an owner who has a share", purpose)
    return in_shares(amount, shares)


def _partner(books: Books, account: Account) -> Party | None:
    party = books.parties.get(account.owner or "")
    return party if party and party.kind is PartyKind.OWNER else None
