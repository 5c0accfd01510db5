"""Newer books of a client beside those that are there: what is new, changed and replaced."""

from collections.abc import Callable
from dataclasses import replace
from datetime import date
from typing import Any, NamedTuple

from corkpost.core import row_kinds
from corkpost.core.books import Allocation, Books, ClientFacts, Tables, Transaction


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
