"""write-off: a debt that will not be paid: Dr bad debt (net), Dr tax where relief is allowed, Cr
receivables for that customer, allocated to the invoices (handbook, worked example 9)."""

from collections.abc import Iterator
from datetime import date
from fractions import Fraction

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.change import AllocationWriter, ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import dated, profit_part
from corkpost.core.keying import keyed_amount
from corkpost.core.kinds import AccountRole, EntryKind
from corkpost.core.money import Minor, rounded
from corkpost.core.open_items import OpenItem, open_items
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "write-off",
    did="A debt that will not be paid is taken off.",
    means="Stop reminding them of it. If money comes after all, tell us before you enter it.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """With relief for the tax, where the invoices bore any, and without."""
    items = list(_items(books, point))
    if not items:
        return ()
    names = ", ".join(item.transaction.reference or item.transaction.id for item, _ in items)
    party = books.party_name(items[0][0].party)
    reason = f"{party} will not pay {names}."
    taxed = any(_tax_share(books, item, left) for item, left in items)
    ways = [("yes", f"Write off {names} of {party}, with the tax back")] if taxed else []
    ways.append(("no", f"Write off {names} of {party}" + (", no tax relief" if taxed else "")))
    return tuple(Option(ROUTE.id, {"relief": way}, title, reason) for way, title in ways)


def _items(books: Books, point: Point) -> Iterator[tuple[OpenItem, Minor]]:
    items = open_items(books)
    for name in point.named("invoice"):
        for item in items.by_transaction.get(books.transaction(name).id, ()):
            left = items.open_now[item.key]
            if left > 0 and item.party is not None:
                yield item, left


def _in_part(
    books: Books, items: list[tuple[OpenItem, Minor]], keyed: str
) -> Iterator[tuple[OpenItem, Minor]]:
    if not keyed.strip():
        yield from items
        return
    wanted = keyed_amount(keyed, books.client.currency)
    open_ = sum(left for _, left in items)
    if not 0 < wanted <= open_:
        words = books.client.currency.format_amount
        raise BadEntry([f"{words(open_)} is open: what is written off is no more than that."])
    for item, left in sorted(items, key=lambda pair: pair[0].transaction.posting_date):
        part = min(left, wanted)
        wanted -= part
        if part:
            yield item, part


def _tax_share(books: Books, item: OpenItem, left: Minor) -> list[Line]:
    """The tax in what is left of the invoice, by its own lines."""
    return [
        line._replace(amount=rounded(Fraction(-line.amount * left, item.amount)), number=0)
        for line in item.transaction.lines
        if books.accounts[line.account].role is AccountRole.TAX and line.amount
    ]


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Write the point's invoices off, `relief` yes or no, on `date` (the point's unless said); with
    `amount` so much of them alone, the oldest first. Raises BadEntry for more than is open."""
    items = list(_in_part(books, list(_items(books, point)), settings.get("amount", "")))
    if not items:
        raise NothingToDo("Nothing of it is open any more.")
    code = settings.get("account") or _bad_debt(books)
    relief = settings.get("relief", "yes") == "yes"
    lines: list[Line] = []
    for item, left in items:
        tax = _tax_share(books, item, left) if relief else []
        lines.append(Line(0, code, left - sum(line.amount for line in tax)))
        lines += tax
    lines += [Line(0, item.account, -left, party=item.party) for item, left in items]
    on = _decided_on(point, settings)
    as_of = Transaction("", items[0][0].transaction.kind, on, ())
    choice = profit_part(settings)
    correction = dated(books, as_of, lines, choice, day_is="the day of the decision")
    party = items[0][0].party
    entry = entry_of(new_entry(1), correction.posting_date, EntryKind.CORRECTING)._replace(
        lines=correction.lines, party=party, memo=f"written off, {books.party_name(party)}"
    )
    writer = AllocationWriter(books)
    for item, left in items:
        writer.between(item.party or "", item.transaction, entry, left)
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=tuple(writer.rows),
        proposed_reason=options(books, point)[0].proposed_reason,
        notes=correction.notes,
        warnings=tuple(_on_account(books, items[0][0])),
        prior_parts=correction.prior_parts,
        about=tuple(item.transaction.id for item, _ in items),
    )


def _on_account(books: Books, item: OpenItem) -> Iterator[str]:
    """Money of the customer's that would be left over, in words."""
    owed = open_items(books).open_of(item.party or "")
    left = -sum(amount for other, amount in owed if other.account == item.account and amount < 0)
    if left:
        yield (
            f"{books.party_name(item.party)} has {books.client.currency.format_amount(left)} on "
            "account: set "
            "it against what is open first, or it stays owed to them."
        )


def _bad_debt(books: Books) -> str:
    accounts = books.with_role(AccountRole.BAD_DEBT)
    if not accounts:
        raise BadEntry(["Choose the account that debts are written off to: none has that role."])
    return accounts[0].code


def _decided_on(point: Point, settings: Settings) -> date:
    text = settings.get("date") or point.hint("date")
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadEntry(["Say on which day it was decided."]) from None
