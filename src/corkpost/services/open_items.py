"""Open items as the page shows them: ages by party, and one party's threads."""

from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor
from corkpost.core.open_items import BUCKETS, AgedParty, aged, bucket_of
from corkpost.core.refusals import UnknownName
from corkpost.core.threads import Threads, threads_of
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace

__all__ = ["BUCKETS", "PartyRow", "ages", "threads"]


class PartyRow(NamedTuple):
    """*ages*: debts by age, in the order of BUCKETS, positive. *loose*: money and credits on account,
    positive. *total* is what the ages come to less that.
    """

    party: str | None
    total: Minor
    ages: tuple[Minor, ...]
    loose: Minor
    oldest_days: int


def ages(
    workplace: Workplace, person: Person, client_code: str, role: AccountRole, as_at: date
) -> tuple[Books, tuple[PartyRow, ...]]:
    """The parties with anything open at the end of *as_at*, the largest debts first."""
    books = workplace.ledger(person, client_code).books
    sign = 1 if role is AccountRole.RECEIVABLES else -1
    rows = [_row(aged_party, sign) for aged_party in aged(books, role, as_at)]
    rows.sort(key=lambda row: (-abs(row.total), row.party or ""))
    return books, tuple(rows)


def _row(aged_party: AgedParty, sign: int) -> PartyRow:
    owed = dict.fromkeys(BUCKETS, 0)
    loose = oldest = 0
    for item in aged_party.items:
        if item.open * sign < 0:
            loose += abs(item.open)
        else:
            owed[bucket_of(item.days_past_due)] += item.open * sign
            oldest = max(oldest, item.days_past_due)
    return PartyRow(aged_party.party, aged_party.total * sign, tuple(owed.values()), loose, oldest)


def threads(
    workplace: Workplace,
    person: Person,
    client_code: str,
    role: AccountRole,
    party: str | None,
    as_at: date,
    *,
    everything: bool = False,
) -> tuple[Books, Threads]:
    """One party's items and what settles what. Raises UnknownName for a party that is not there."""
    books = workplace.ledger(person, client_code).books
    if party is not None and party not in books.parties:
        raise UnknownName("party", party)
    return books, threads_of(books, role, party, as_at, everything=everything)
