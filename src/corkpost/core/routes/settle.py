"""settle: moves money coded straight to cost or income to the control account with its party, gives
back the tax on it, and allocates it to the open item(s)."""

from corkpost.core.books import Allocation, Books, Line, Transaction, opposite
from corkpost.core.change import AllocationWriter, ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import dated, profit_part
from corkpost.core.kinds import MONEY_ROLES, EntryKind
from corkpost.core.open_items import OpenItem, OpenItems, open_items
from corkpost.core.points import Point
from corkpost.core.refusals import NothingToDo, UnknownName
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "settle",
    did=(
        "A payment or receipt had been booked straight to cost or income though its document "
        "was open: it settles the document now."
    ),
    means="Leave both as they are; the document is settled, and it counts once.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    names = _papers(point)
    party = books.party_name(_party(books.transactions[names[0]]))
    what = "the bill" if point.named("bill") else "the invoice"
    many = what if len(names) == 1 else f"{what}s"
    settings = {"items": ",".join(names)}
    title = f"Settle {many} with it: {', '.join(names)}"
    return (Option("settle", settings, title, _reason(books, point, names, party)),)


def _papers(point: Point) -> tuple[str, ...]:
    return point.named("bill") + point.named("invoice")


def _money(point: Point) -> str:
    return (point.named("payment") + point.named("receipt"))[0]


def _party(paper: Transaction) -> str | None:
    """Whose open item the paper is. Looked up for every point of a list: open items are not."""
    return next((line.party for line in paper.lines if line.party), paper.party)


def _reason(books: Books, point: Point, names: tuple[str, ...], party: str) -> str:
    money = _money(point)
    references = " and ".join(books.transactions[name].reference or name for name in names)
    what = "cost" if point.named("bill") else "income"
    return (
        f"{money} settles {references} of {party}; it had been coded to {what}, "
        f"so that the {what} was counted twice."
    )


def _items(books: Books, items: OpenItems, names: tuple[str, ...]) -> list[OpenItem]:
    found = []
    for name in names:
        books.transaction(name)
        mine = items.by_transaction.get(name, ())
        found += [item for item in mine if item.party is not None]
    return found


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Settle the open `items` (ids, commas between; the point's unless said) with the money."""
    named = settings.get("items")
    names = tuple(name.strip() for name in named.split(",")) if named else _papers(point)
    items = open_items(books)
    papers = _items(books, items, names)
    if not papers:
        raise UnknownName("open item", ", ".join(names))
    if len({(item.account, item.party) for item in papers}) > 1:
        raise UnknownName("single party that owns all of", ", ".join(names))
    money = books.transaction(_money(point))
    if money.id in books.corrected:
        raise NothingToDo(f"{money.id} was put right already, by {books.corrected[money.id]}.")
    account, party = papers[0].account, papers[0].party or ""
    coded = [line for line in money.lines if books.accounts[line.account].role not in MONEY_ROLES]
    on_control = Line(0, account, sum(line.amount for line in coded), party=party)
    choice = profit_part(settings)
    correction = dated(books, money, (on_control, *opposite(coded)), choice)
    entry = entry_of(new_entry(1), correction.posting_date, EntryKind.CORRECTING, money)._replace(
        lines=correction.lines,
        party=party,
        memo=f"{money.id} settles {', '.join(names)}",
        corrects=money.id,
    )
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=_allocations(books, items, entry, papers, on_control.amount),
        proposed_reason=_reason(books, point, names, books.party_name(party)),
        notes=correction.notes,
        prior_parts=correction.prior_parts,
        about=(money.id, *names),
    )


def _allocations(
    books: Books, items: OpenItems, entry: Transaction, papers: list[OpenItem], amount: int
) -> tuple[Allocation, ...]:
    """What the money settles, after the credits among the *papers* have settled what they can."""
    writer = AllocationWriter(books)
    left = {item.key: abs(items.open_now[item.key]) for item in papers}
    owed = [item for item in papers if (item.amount > 0) != (amount > 0)]
    credits = [item for item in papers if (item.amount > 0) == (amount > 0)]
    money = abs(amount)
    for item in owed:
        for credit in credits:
            part = min(left[credit.key], left[item.key])
            left[credit.key] -= part
            left[item.key] -= part
            if part:
                signed = part if item.amount > 0 else -part
                writer.between(item.party or "", item.transaction, credit.transaction, signed)
        part = min(money, left[item.key])
        money -= part
        if part:
            writer.between(
                item.party or "", item.transaction, entry, part if item.amount > 0 else -part
            )
    return tuple(writer.rows)
