"""void: the exact opposite entry of a duplicate, allocated against it.

What the duplicate had allocated is freed first and offered to the one that stays.
"""

from collections.abc import Iterable

from corkpost.core.books import Allocation, Books, Transaction, opposite
from corkpost.core.change import AllocationWriter, ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import Dated, dated, profit_part
from corkpost.core.formatting import format_date
from corkpost.core.kinds import EntryKind
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.open_items import OpenItems, open_items
from corkpost.core.points import Point
from corkpost.core.refusals import NothingToDo, UnknownName
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "void",
    did="What was entered twice is taken out once.",
    means="Leave the second one where it is and do not pay it: our entry stands against it.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """Void the one that is not allocated (or was keyed later); or the other one."""
    items = open_items(books)
    twins = sorted(point.named("same"), key=lambda name: _rank(books, items, name))
    return tuple(_option(books, twin, twins) for twin in reversed(twins))


def _rank(books: Books, items: OpenItems, name: str) -> tuple[bool, bool, bool, str, str]:
    """The first is kept: the one at the bank, else the allocated, else with a paper, else keyed
    first, else the lower id."""
    papers = {paper.transaction for paper in books.tables.attachments}
    entered = books.transaction(name).entered_at
    keyed = entered.isoformat() if entered else "9999"
    twins = {twin.posted.id for look in bank_looks(books) for twin, _ in look.twins}
    return (name in twins, not items.standing_on(name), name not in papers, keyed, name)


def _option(books: Books, twin: str, twins: list[str]) -> Option:
    posted = books.transaction(twin)
    title = f"Void {twin}, of {format_date(posted.day)}"
    kept = _other(twins, twin)
    if open_items(books).standing_on(twin):
        title += f"; what it settles moves to {kept}" if kept else "; what it settles opens again"
    return Option("void", {"transaction": twin}, title, _reason(books, twin, kept))


def _other(twins: Iterable[str], twin: str) -> str | None:
    """The one that stays; None where a document is voided that stands for itself."""
    return next((name for name in twins if name != twin), None)


def _reason(books: Books, twin: str, kept: str | None) -> str:
    if kept is None:
        return ""
    second, first = books.transaction(twin), books.transaction(kept)
    return (
        f"{kept} ({first.reference or 'no number'}) was entered a second time as {twin} "
        f"({second.reference or 'no number'}); there is one document."
    )


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Void one of the point's two documents: `transaction`, the recommended one unless said."""
    twins = point.named("same")
    twin = settings.get("transaction") or options(books, point)[0].settings["transaction"]
    if twin not in twins:
        raise UnknownName("document in this point", twin)
    if books.is_void(twin):
        raise NothingToDo(f"{twin} is void already.")
    kept = _other(twins, twin)
    voided = books.transactions[twin]
    choice = profit_part(settings)
    correction = dated(books, voided, opposite(voided.lines), choice)
    entry = _entry(voided, correction)
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=_allocations(books, voided, entry, kept),
        proposed_reason=_reason(books, twin, kept),
        notes=correction.notes,
        prior_parts=correction.prior_parts,
        about=(kept, twin) if kept else (twin,),
    )


def _entry(voided: Transaction, correction: Dated) -> Transaction:
    entry = entry_of(new_entry(1), correction.posting_date, EntryKind.CORRECTING, voided)
    return entry._replace(lines=correction.lines, memo=f"Void of {voided.id}", corrects=voided.id)


def _allocations(
    books: Books, voided: Transaction, entry: Transaction, kept: str | None
) -> tuple[Allocation, ...]:
    writer = AllocationWriter(books)
    items = open_items(books)
    freed = writer.free_all(items, voided.id)
    writer.settle_each_other(voided, entry)
    if kept is None:
        return tuple(writer.rows)
    left = sum(abs(items.open_now[item.key]) for item in items.by_transaction.get(kept, ()))
    for row in freed:
        amount = min(row.amount, left)
        left -= amount
        if amount:
            names = (row.debit_transaction, row.credit_transaction)
            debit, credit = (books.transactions[kept if n == voided.id else n] for n in names)
            writer.allocate(row.party, debit, credit, amount)
    return tuple(writer.rows)
