"""offset: settles a pair of journals of one party with each other; or, for a customer who is also a
supplier, posts Dr payables, Cr receivables for the smaller balance and allocates each side."""

from typing import NamedTuple

from corkpost.core.books import Books, Line
from corkpost.core.change import (
    AllocationWriter,
    ChangeKind,
    Plan,
    allocation_date,
    entry_of,
    new_entry,
)
from corkpost.core.evidence.names import words_of
from corkpost.core.kinds import AccountRole, EntryKind
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItem, open_items
from corkpost.core.points import Point
from corkpost.core.refusals import NothingToDo
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "offset",
    did="Two items that cancel each other are set against each other.",
    means="Nothing to enter: neither of them is owed any more.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    if point.named("pair"):
        one, other = point.named("pair")
        reason = f"{one} and {other} are opposite and settle each other."
        return (Option(ROUTE.id, {}, f"Settle {one} with {other}", reason),)
    if point.named("party"):
        name = books.party_name(point.named("party")[0])
        title = f"Set what {name} owes against what is owed to them"
        return (
            Option(ROUTE.id, {}, title, f"{name} is customer and supplier: set off as agreed."),
        )
    return ()


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Settle the pair, or set the party's two accounts off. Raises NothingToDo."""
    reason = options(books, point)[0].proposed_reason
    if point.named("pair"):
        return _pair(books, point, reason)
    return _both_accounts(books, point.named("party")[0], reason)


def _pair(books: Books, point: Point, reason: str) -> Plan:
    items = open_items(books)
    names = point.named("pair")
    writer = AllocationWriter(books)
    one, other = (items.by_transaction.get(name, ()) for name in names)
    for mine in one:
        for theirs in other:
            left, right = items.open_now[mine.key], items.open_now[theirs.key]
            if mine.key[1:] == theirs.key[1:] and left * right < 0:
                part = min(abs(left), abs(right))
                signed = part if left > 0 else -part
                writer.between(mine.party or "", mine.transaction, theirs.transaction, signed)
    if not writer.rows:
        raise NothingToDo(f"{' and '.join(names)} are not both open any more.")
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(),
        allocations=tuple(writer.rows),
        proposed_reason=reason,
        about=names,
    )


class BothSides(NamedTuple):
    """Who owes and is owed: one party, or two of one name. *amount*: what can be set off."""

    customer: str
    supplier: str
    amount: Minor


def both_sides(books: Books, party: str) -> BothSides | None:
    """The party as customer and as supplier, where both have something open; its namesake of the other
    kind where it stands on one side alone. None where there is nothing to set off."""
    namesakes = [party]
    if party in books.parties:
        words = words_of(books.parties[party].name)
        namesakes += [
            other.code
            for other in books.tables.parties
            if other.code != party and words and words_of(other.name) == words
        ]
    for other in namesakes:
        for customer, supplier in dict.fromkeys(((party, other), (other, party))):
            owed = _sum(_open_on(books, customer, AccountRole.RECEIVABLES, 1))
            owing = _sum(_open_on(books, supplier, AccountRole.PAYABLES, -1))
            if owed and owing:
                return BothSides(customer, supplier, min(owed, owing))
    return None


def _both_accounts(books: Books, party: str, reason: str) -> Plan:
    sides = both_sides(books, party)
    if sides is None:
        raise NothingToDo(f"{books.party_name(party)} does not stand on both sides.")
    owed_to_us = _open_on(books, sides.customer, AccountRole.RECEIVABLES, 1)
    owed_by_us = _open_on(books, sides.supplier, AccountRole.PAYABLES, -1)
    amount = sides.amount
    papers = [item for item, _ in (*owed_to_us, *owed_by_us)]
    on = allocation_date(books, *(item.transaction.posting_date for item in papers))
    entry = entry_of(new_entry(1), on, EntryKind.CORRECTING)._replace(
        lines=(
            Line(1, owed_by_us[0][0].account, amount, party=sides.supplier),
            Line(2, owed_to_us[0][0].account, -amount, party=sides.customer),
        ),
        party=party,
        memo=f"set off, {books.party_name(party)}",
    )
    writer = AllocationWriter(books)
    for whose, side in ((sides.customer, owed_to_us), (sides.supplier, owed_by_us)):
        left = amount
        for item, open_ in side:
            part = min(left, open_)
            left -= part
            if part:
                signed = part if item.amount > 0 else -part
                writer.between(whose, item.transaction, entry, signed)
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=tuple(writer.rows),
        proposed_reason=reason,
        about=tuple(item.transaction.id for item in papers),
    )


def _open_on(
    books: Books, party: str, role: AccountRole, sign: int
) -> list[tuple[OpenItem, Minor]]:
    accounts = {account.code for account in books.with_role(role)}
    return [
        (item, abs(left))
        for item, left in open_items(books).open_of(party)
        if item.account in accounts and left * sign > 0
    ]


def _sum(side: list[tuple[OpenItem, Minor]]) -> Minor:
    return sum(left for _, left in side)
