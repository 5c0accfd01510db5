"""What a person sees to before a trial balance is signed, by kind of client: what no figure proves."""

from collections.abc import Iterable, Mapping
from datetime import date, datetime
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.kinds import Entity
from corkpost.core.refusals import UnknownName


class Item(NamedTuple):
    """*entities*: the kinds of client that it is for; all where none is named. *year_end*: only where a
    whole year is signed. *taxed*: only for clients with sales tax."""

    id: str
    says: str
    entities: frozenset[Entity] = frozenset()
    year_end: bool = False
    taxed: bool = False


class Tick(NamedTuple):
    """*done*: it was seen to; False takes that back."""

    item: str
    as_at: date
    done: bool
    by: str
    at: datetime


class StatedItem(NamedTuple):
    """*tick*: who saw to it and when; None where nobody did."""

    item: Item
    tick: Tick | None


ITEMS = (
    Item("letter", "A letter of engagement is in force, and covers what was posted"),
    Item(
        "accounts", "The client was asked whether every bank, card and loan account is in the books"
    ),
    Item(
        "estimates",
        "Accruals, doubtful debts and other estimates were gone through with the client",
    ),
    Item("returns", "The tax returns of the span say what the books say", taxed=True),
    Item(
        "private",
        "Private shares of costs (car, phone, rooms) are agreed with the owner",
        frozenset({Entity.SOLE_TRADER}),
    ),
    Item(
        "agreement",
        "Shares, salaries and interest are those of the partners' agreement",
        frozenset({Entity.PARTNERSHIP}),
    ),
    Item(
        "loans",
        "Terms and papers of the directors' loans were seen",
        frozenset({Entity.COMPANY}),
    ),
    Item(
        "dividends",
        "Dividends of the year were declared on paper, and profit covers them",
        frozenset({Entity.COMPANY}),
        year_end=True,
    ),
    Item(
        "purposes",
        "Grants and collections went to what they were given for",
        frozenset({Entity.ASSOCIATION}),
    ),
    Item(
        "next-year",
        "Tax rates, thresholds and materiality of the next year are set, and what takes itself back on its "
        "first day was seen",
        year_end=True,
    ),
    Item(
        "after",
        "The client was asked what happened since: bills that came late, debts that failed, claims",
        year_end=True,
    ),
)


def checklist(books: Books, as_at: date) -> tuple[Item, ...]:
    """What there is to see to for this client as at that day."""
    whole_year = books.calendar.year_of(as_at).last_day == as_at
    return tuple(
        item
        for item in ITEMS
        if (not item.entities or books.client.entity in item.entities)
        and (whole_year or not item.year_end)
        and (books.client.tax_registered or not item.taxed)
    )


def stated_items(books: Books, as_at: date, ticks: Iterable[Tick]) -> tuple[StatedItem, ...]:
    """The checklist with who saw to what. *ticks*: all of the client, the latest last."""
    latest: Mapping[str, Tick] = {tick.item: tick for tick in ticks if tick.as_at == as_at}
    found = ((item, latest.get(item.id)) for item in checklist(books, as_at))
    return tuple(StatedItem(item, tick if tick and tick.done else None) for item, tick in found)


def item_named(books: Books, as_at: date, name: str) -> Item:
    """Raises UnknownName for what is not on this client's list."""
    for item in checklist(books, as_at):
        if item.id == name:
            return item
    raise UnknownName("item of the checklist", name)
