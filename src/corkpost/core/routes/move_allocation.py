"""move-allocation: undoes a wrong allocation, moves the money to the right party where needed, and
allocates it to the right item; dated by the rule for allocations. Two that were exchanged go each to the
other's item."""

from corkpost.core.books import Allocation, Books, Line, Transaction
from corkpost.core.change import (
    AllocationWriter,
    ChangeKind,
    Plan,
    allocation_date,
    entry_of,
    new_entry,
)
from corkpost.core.formatting import format_date
from corkpost.core.kinds import EntryKind
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItem, open_items
from corkpost.core.points import Point
from corkpost.core.refusals import NothingToDo, UnknownName
from corkpost.core.routes import Option, Route, Settings
from corkpost.core.tax import with_tax_dates

ROUTE = Route(
    "move-allocation",
    did="Money stood against the wrong party or document and is set against the right one.",
    means="Nothing to enter: look under the right name for what is still owed.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    (money,) = point.named("money")
    names = point.named("item")
    if not names:
        return ()
    if point.named("other"):
        title = "Set each against the document that it is for"
        return (Option(ROUTE.id, {}, title, _exchange_reason(point)),)
    shown = ", ".join(books.transaction(name).reference or name for name in names)
    party = books.party_name(_item_of(books, names[0]).party)
    title = f"Set {money} against {shown} of {party}"
    settings = {"items": ",".join(names)}
    return (Option(ROUTE.id, settings, title, _reason(books, money, shown, party)),)


def _reason(books: Books, money: str, shown: str, party: str) -> str:
    return f"{money} pays {shown} of {party}; it had been set against another."


def _exchange_reason(point: Point) -> str:
    (money,), (other,) = point.named("money"), point.named("other")
    return f"{money} and {other} had each been set against the other's document."


def _item_of(books: Books, name: str) -> OpenItem:
    items = open_items(books).by_transaction.get(books.transaction(name).id, ())
    named = [item for item in items if item.party is not None]
    if not named:
        raise UnknownName("open item", name)
    return max(named, key=lambda item: abs(item.amount))


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Set the point's money against `items` (ids, commas between; the point's unless said), freeing
    what it was set against; or only `free` allocations of it (ids), which then stand on account."""
    (name,) = point.named("money")
    if settings.get("free"):
        return _freed(books, name, settings["free"].split(","))
    if point.named("other") and not settings.get("items"):
        return _exchanged(books, point)
    targets = _targets(books, settings.get("items") or ",".join(point.named("item")))
    money = _item_of(books, name)
    posted, to = money.transaction, targets[0]
    items = open_items(books)
    own = {target.transaction.id for target in targets}
    writer = AllocationWriter(books)
    for row in items.standing_on(name):
        if not {row.debit_transaction, row.credit_transaction} & own:
            writer.free(row)
    if money.amount * to.amount > 0:
        raise NothingToDo(f"{name} and {to.transaction.id} stand on the same side.")
    moved = _moved_by(books, name)
    if moved:
        raise NothingToDo(
            f"{name} was taken to its party already, by {moved}. Take that back first."
        )
    entry = None
    source = posted
    if (money.account, money.party) != (to.account, to.party):
        entry = _to_party(books, money, targets)
        source = entry
        writer.between(money.party or "", posted, entry, money.amount)
    left = abs(money.amount)
    for target in targets:
        part = min(left, abs(items.open_now[target.key]))
        left -= part
        if part:
            signed = part if target.amount > 0 else -part
            writer.between(target.party or "", target.transaction, source, signed)
    shown = ", ".join(
        open_item.transaction.reference or open_item.transaction.id for open_item in targets
    )
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,) if entry else (),
        allocations=tuple(writer.rows),
        proposed_reason=_reason(books, name, shown, books.party_name(to.party)),
        notes=_notes(
            books, [posted, *(open_item.transaction for open_item in targets)], writer.rows
        ),
        about=(name, *(target.transaction.id for target in targets)),
    )


def _moved_by(books: Books, name: str) -> str | None:
    """Our entry that took the money to another party, and stands against it."""
    return next(
        (
            side
            for row in open_items(books).standing_on(name)
            for side in (row.debit_transaction, row.credit_transaction)
            if books.transaction(side).change is not None
            and books.transaction(side).corrects == name
        ),
        None,
    )


def _targets(books: Books, wanted: str) -> list[OpenItem]:
    targets = [_item_of(books, part.strip()) for part in wanted.split(",") if part.strip()]
    if not targets:
        raise UnknownName("open item", wanted)
    if len({(item.account, item.party) for item in targets}) > 1:
        raise UnknownName("single party that owns all of", wanted)
    return targets


def _exchanged(books: Books, point: Point) -> Plan:
    """Each of two sums against the other's item. Raises UnknownName where one of them is gone."""
    pairs = [
        (_item_of(books, point.named(money)[0]), _item_of(books, point.named(item)[0]))
        for money, item in (("money", "item"), ("other", "its item"))
    ]
    writer, entries = AllocationWriter(books), list[Transaction]()
    standing = open_items(books).standing_on
    names = {side.transaction.id for pair in pairs for side in pair}
    # What stands already as it should is left alone.
    crossed = [
        {money.transaction.id, item.transaction.id}
        for (money, _), (_, item) in zip(pairs, reversed(pairs), strict=True)
    ]
    freed = [
        row
        for money, _ in pairs
        for row in standing(money.transaction.id)
        if {row.debit_transaction, row.credit_transaction} in crossed
    ]
    if not freed:
        raise NothingToDo("They are not set against each other's documents any more.")
    for row in freed:
        writer.free(row)
    for money, to in pairs:
        source = money.transaction
        if (money.account, money.party) != (to.account, to.party):
            source = _to_party(books, money, [to], len(entries) + 1)
            entries.append(source)
            writer.between(money.party or "", money.transaction, source, money.amount)
        open_now = abs(open_items(books).open_now[to.key]) + _of(freed, to)
        part = min(abs(money.amount), open_now)
        writer.between(to.party or "", to.transaction, source, part if to.amount > 0 else -part)
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=tuple(entries),
        allocations=tuple(writer.rows),
        proposed_reason=_exchange_reason(point),
        notes=_notes(books, [side.transaction for pair in pairs for side in pair], writer.rows),
        about=tuple(sorted(names)),
    )


def _of(rows: list[Allocation], item: OpenItem) -> Minor:
    name = item.transaction.id
    return sum(x.amount for x in rows if name in (x.debit_transaction, x.credit_transaction))


def _freed(books: Books, name: str, rows: list[str]) -> Plan:
    standing = {row.id: row for row in open_items(books).standing_on(books.transaction(name).id)}
    writer = AllocationWriter(books)
    for row in rows:
        if row not in standing:
            raise UnknownName("allocation that stands", row)
        writer.free(standing[row])
    freed = {standing[row].debit_transaction for row in rows} | {
        standing[row].credit_transaction for row in rows
    }
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(),
        allocations=tuple(writer.rows),
        proposed_reason=f"{name} does not settle {', '.join(sorted(freed - {name}))}.",
        about=tuple(sorted(freed)),
    )


def _to_party(
    books: Books, money: OpenItem, targets: list[OpenItem], number: int = 1
) -> Transaction:
    """The money taken from one party's account and put on the other's; no account moves."""
    posted, to = money.transaction, targets[0]
    days = (posted.posting_date, *(target.transaction.posting_date for target in targets))
    on = allocation_date(books, *days)
    lines = (
        Line(1, money.account, -money.amount, party=money.party),
        Line(2, to.account, money.amount, party=to.party),
    )
    entry = entry_of(new_entry(number), on, EntryKind.CORRECTING, posted)
    return entry._replace(
        lines=with_tax_dates(books, lines, on),
        party=to.party,
        memo=f"{posted.id} is of {books.party_name(to.party)}",
        corrects=posted.id,
    )


def _notes(books: Books, sides: list[Transaction], rows: list[Allocation]) -> tuple[str, ...]:
    """On which day it is, and why: the later of the items' days, or the first open one."""
    if not rows:
        return ()
    later, on = max(side.posting_date for side in sides), max(row.date for row in rows)
    why = "the later of the two" if on == later else "the first open day after both"
    return (f"dated {format_date(on)}, {why}",)
