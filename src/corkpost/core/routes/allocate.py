"""allocate: allocates what is already there, one or many to one or many. No entry is made."""

from collections.abc import Iterator

from corkpost.core.books import Books
from corkpost.core.change import AllocationWriter, ChangeKind, Plan
from corkpost.core.formatting import format_date
from corkpost.core.money import Minor, NotAnAmount
from corkpost.core.open_items import OpenItem, OpenItems, open_items
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "allocate",
    did="Money that stood on account is set against what it pays.",
    means="Nothing to enter: both show as settled now.",
)


NAMED = 4
"""More documents are counted, not named."""


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """To the items that match; where none does, to the oldest open ones."""
    names = point.named("item")
    if names:
        title = f"Allocate it to {', '.join(names)}"
        if len(names) > NAMED:
            title = f"Allocate all of it, each to what it pays: {len(names)} documents"
        return (Option("allocate", {"items": ",".join(names)}, title, _reason(point, names)),)
    oldest = _oldest(books, point)
    if not oldest:
        return ()
    title = f"Allocate it to the oldest open: {', '.join(oldest)}"
    return (Option("allocate", {"items": ",".join(oldest)}, title, _reason(point, oldest)),)


def _reason(point: Point, names: tuple[str, ...]) -> str:
    if len(names) > NAMED:
        many = len(point.named("money"))
        return f"{many} sums are for {len(names)} documents; they stood on account."
    return (
        f"{' and '.join(point.named('money'))} is for {' and '.join(names)}; it stood on account."
    )


def _oldest(books: Books, point: Point) -> tuple[str, ...]:
    items = open_items(books)
    money = _item_of(items, point.named("money")[0])
    left = abs(items.open_now[money.key])
    chosen: list[str] = []
    fitting = sorted(
        (item for item in items.items.values() if _could_take(items, item, money)),
        key=lambda item: (item.transaction.day, item.transaction.id),
    )
    for item in fitting:
        if left <= 0:
            break
        chosen.append(item.transaction.id)
        left -= abs(items.open_now[item.key])
    return tuple(chosen)


def _could_take(items: OpenItems, item: OpenItem, money: OpenItem) -> bool:
    same_list = (item.account, item.party) == (money.account, money.party)
    return same_list and items.open_now[item.key] * items.open_now[money.key] < 0


def _item_of(items: OpenItems, name: str) -> OpenItem:
    found = [item for item in items.by_transaction.get(name, ()) if item.party is not None]
    if not found:
        raise UnknownName("open item", name)
    return max(found, key=lambda item: abs(items.open_now[item.key]))


def _chosen(books: Books, text: str) -> Iterator[tuple[str, Minor | None]]:
    """The items that `T0412=100.00,T0431` names, each with its limit where one is given."""
    for part in (part.strip() for part in text.split(",")):
        name, equals, limit = part.rpartition("=")
        if not equals or part in books.transactions:
            name, limit = part, ""
        if name:
            yield name, _limit(books, name, limit) if limit else None


def _limit(books: Books, name: str, text: str) -> Minor:
    try:
        limit = books.client.currency.parse(text)
    except NotAnAmount as wrong:
        raise BadEntry([f"{name}: {wrong}."]) from None
    if limit <= 0:
        raise BadEntry([f"{name}: the sum to allocate must be above nil."])
    return limit


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Allocate the point's money to `items` (ids, commas between), in the order given.

    `T0412=100.00` allocates at most that much of it; without a sum, as much as both sides have.
    """
    limits = dict(_chosen(books, settings.get("items", "")))
    names = tuple(limits) or point.named("item") or _oldest(books, point)
    items = open_items(books)
    left = dict(items.open_now)
    writer = AllocationWriter(books)
    for money in (_item_of(items, name) for name in point.named("money")):
        for item in (_item_of(items, name) for name in names):
            part = min(abs(left[money.key]), abs(left[item.key]))
            limit = limits.get(item.transaction.id)
            if limit is not None:
                part = min(part, limit)
                limits[item.transaction.id] = limit - part
            if part and left[money.key] * left[item.key] < 0:
                signed = part if left[item.key] > 0 else -part
                writer.between(item.party or "", item.transaction, money.transaction, signed)
                left[item.key] -= signed
                left[money.key] += signed
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(),
        allocations=tuple(writer.rows),
        proposed_reason=_reason(point, names),
        notes=tuple(f"allocation dated {format_date(row.date)}" for row in writer.rows[:1]),
        about=(*point.named("money"), *names),
    )
