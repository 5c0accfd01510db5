"""Newer books of a client beside those that are there: what is new, changed and replaced."""

from collections.abc import Callable
from dataclasses import replace
from datetime import date
from typing import Any, NamedTuple

from corkpost.core import row_kinds
from corkpost.core.books import Account, Allocation, Books, ClientFacts, Tables, Transaction
from corkpost.core.periods import FinancialYear


class Refresh(NamedTuple):
    """What newer books bring beside what is there. *superseded*: table and id of what counts no more."""

    transactions: tuple[Transaction, ...]
    allocations: tuple[Allocation, ...]
    superseded: tuple[tuple[str, str], ...]
    new: int
    changed: int
    removed: int


def first_time(tables: Tables) -> Refresh:
    """All that the books of a new client bring."""
    return Refresh(tables.transactions, tables.allocations, (), len(tables.transactions), 0, 0)


def refreshed(books: Books, received: Tables, client: ClientFacts, tables: Tables) -> Refresh:
    """Compare by id: changed content is a new version, what is missing within the dates that the
    newer books cover is replaced, what lies outside them stays. Our own corrections, coming back under
    their ids, are known and stay as they are; so does what we amended, whether it comes back with
    our words or with the client's. *received*: what came last, where anything of ours lies over it."""
    covers = _covering(client)
    unamended = {posted.id: posted for posted in received.transactions}
    added: list[Transaction] = []
    replaced: list[tuple[str, str]] = []
    changed = removed = 0
    for posted in tables.transactions:
        old = books.transactions.get(posted.id)
        if old is None:
            added.append(posted)
        elif old.change is None and posted not in (old, unamended.get(posted.id)):
            changed += 1
            added.append(posted)
            replaced.append(("transactions", posted.id))
    here = {posted.id for posted in tables.transactions}
    for old in books.tables.transactions:
        if old.change is None and old.id not in here and covers(old.posting_date):
            removed += 1
            replaced.append(("transactions", old.id))
    allocations, freed = _allocations(books, received, tables, covers)
    new = len(added) - changed
    return Refresh(tuple(added), allocations, (*replaced, *freed), new, changed, removed)


def _covering(client: ClientFacts) -> Callable[[date], bool]:
    first, last = client.books_from, client.books_to
    return lambda day: (first is None or first <= day) and (last is None or day <= last)


def _allocations(
    books: Books, received: Tables, tables: Tables, covers: Callable[[date], bool]
) -> tuple[tuple[Allocation, ...], list[tuple[str, str]]]:
    unamended = {row.id: row for row in received.allocations}
    added, replaced = [], []
    for row in tables.allocations:
        old = books.allocations.get(row.id)
        if old is None or (old.change is None and row not in (old, unamended.get(row.id))):
            added.append(row)
            if old is not None:
                replaced.append(("allocations", row.id))
    here = {row.id for row in tables.allocations}
    for old in books.tables.allocations:
        if old.change is None and old.id not in here and covers(old.date):
            replaced.append(("allocations", old.id))
    return tuple(added), replaced


_PRACTICE_FACTS = {
    "entity": "kind of client",
    "currency": "currency",
    "year_end": "year-end",
    "tax_registered": "registration for sales tax",
    "filed_through": "day filed through",
    "filed_on": "day of filing",
    "tax_returned_through": "day returned through",
    "materiality": "materiality",
    "capital_item": "limit of an asset",
}
"""What the practice answers for: newer books may say otherwise, and change nothing of it."""


class Believed(NamedTuple):
    """Newer books as far as a file is believed. *told*: in words, what of them is not."""

    client: ClientFacts
    tables: Tables
    told: tuple[str, ...]


def believed(
    books: Books, came: ClientFacts, received: Tables, client: ClientFacts, tables: Tables
) -> Believed:
    """What newer books of a known client may say: what happened, and names. The practice's own facts, and
    the types and roles of known accounts, stay; another of them is an act with a reason (handbook,
    section 2). *came*: the facts as they came first, under those that were set since; *received*: what came
    last, where anything of ours lies over it."""
    told = []
    facts = {}
    for name, words in _PRACTICE_FACTS.items():
        ours, theirs = getattr(books.client, name), getattr(client, name)
        facts[name] = getattr(came, name)
        # Books that do not say it at all say nothing against it.
        if theirs is not None and theirs not in (ours, facts[name]):
            told.append(f"The books say another {words}: it stays as the practice has it.")
    years, odd = _years(books, client)
    told += [f"The year {label} has other days in the books: it stays as it is." for label in odd]
    accounts, strange = _accounts(books, received, tables)
    if strange:
        more = f" and {len(strange) - 5} more" if len(strange) > 5 else ""
        told.append(
            f"Type or role of {', '.join(strange[:5])}{more} is another in the books: each stays as it is "
            "until somebody puts it right under Accounts."
        )
    return Believed(
        replace(client, **facts, years=years), replace(tables, accounts=accounts), tuple(told)
    )


def _years(books: Books, client: ClientFacts) -> tuple[tuple[FinancialYear, ...], list[str]]:
    """The years that are known as they are, and those that the newer books add; labels of those that they
    have otherwise."""
    known = {year.label: year for year in books.client.years}
    odd = [
        year.label
        for year in client.years
        if (ours := known.get(year.label)) is not None and ours[:3] != year[:3]
    ]
    through = max((year.last_day for year in known.values()), default=None)
    more = [
        year
        for year in client.years
        if year.label not in known and (through is None or year.first_day > through)
    ]
    return (*known.values(), *more), odd


def _accounts(
    books: Books, received: Tables, tables: Tables
) -> tuple[tuple[Account, ...], list[str]]:
    came = {account.code: account for account in received.accounts}
    found, strange = [], []
    for account in tables.accounts:
        now = books.accounts.get(account.code)
        if now is not None:
            before = came.get(account.code, now)
            if (account.type, account.role) not in {(x.type, x.role) for x in (now, before)}:
                strange.append(account.code)
                account = account._replace(type=before.type, role=before.role)
        found.append(account)
    return tuple(found), strange


def changed_standing(old: Tables, received: Tables, new: Tables) -> Tables:
    """The rows of the other tables that are new or not as they were. An account that we put right,
    and a party, is known as it was received and as it stands."""
    old = replace(
        old,
        accounts=(*old.accounts, *received.accounts),
        parties=(*old.parties, *received.parties),
    )

    def fresh(name: str) -> tuple[Any, ...]:
        # Our own amendments come back as part of what is received: they are known.
        kind = row_kinds.registry().get(name)
        ours = kind is not None and kind.names_its_change
        known = {row._replace(change=None) if ours else row for row in old.of(name)}
        return tuple(row for row in new.of(name) if row not in known)

    changed = Tables()
    for name in ("accounts", "parties", "taxes", *row_kinds.registry()):
        changed = changed.with_rows(name, fresh(name))
    return changed
