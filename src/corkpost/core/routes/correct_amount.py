"""correct-amount: the books have the wrong sum: posts only the difference, tax in proportion.

Allocations above the right sum are undone first. The entry, its correction and the statement line are
agreed with each other.
"""

from fractions import Fraction

from corkpost.core.bank.sides import account_of_line, group_rows, statement_line
from corkpost.core.books import Allocation, Books, Line, Transaction
from corkpost.core.change import AllocationWriter, ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import dated, profit_part
from corkpost.core.kinds import EntryKind
from corkpost.core.money import Minor, in_shares
from corkpost.core.open_items import open_items
from corkpost.core.points import Point
from corkpost.core.refusals import NothingToDo
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "correct-amount",
    did="The books had another amount than the bank; the difference is put right.",
    means="Leave your own entry as it is: together with ours it comes to the right amount.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """Correct the entry to the bank's sum; not where the bank itself puts it right."""
    entry, line = _entry_of(books, point), statement_line(books, point.named("line")[0])
    if point.named("correction"):
        return ()
    words = books.client.currency.format_amount
    title = f"Correct {entry.id} to {words(line.amount)}, as the bank has it"
    return (Option(ROUTE.id, {}, title, _reason(books, point)),)


def _entry_of(books: Books, point: Point) -> Transaction:
    return books.transaction(point.named("entry")[0])


def _reason(books: Books, point: Point) -> str:
    entry, line = _entry_of(books, point), statement_line(books, point.named("line")[0])
    words = books.client.currency.format_amount
    return (
        f"{entry.id} was keyed with the wrong sum; the bank shows {words(line.amount)} "
        f"({line.words})."
    )


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Post what the entry's sum lacks, or has too much, against the bank's."""
    posted, line = _entry_of(books, point), statement_line(books, point.named("line")[0])
    if posted.id in books.corrected:
        raise NothingToDo(f"{posted.id} was put right already, by {books.corrected[posted.id]}.")
    account = account_of_line(books, line)
    own = next(x for x in posted.lines if x.account == account)
    difference = line.amount - own.amount
    lines = [own._replace(amount=difference), *_others(posted, own, difference)]
    correction = dated(books, posted, lines, profit_part(settings))
    entry = entry_of(new_entry(1), correction.posting_date, EntryKind.CORRECTING, posted)._replace(
        lines=correction.lines, memo=f"Sum of {posted.id} put right", corrects=posted.id
    )
    rows = group_rows(
        "new-g1",
        account,
        [(posted.id, own.number), (entry.id, 1)],
        [line.id],
        why="put right to the bank's sum",
    )
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=_allocations(books, posted, entry),
        agreements=rows,
        proposed_reason=_reason(books, point),
        notes=correction.notes,
        prior_parts=correction.prior_parts,
        about=(posted.id,),
    )


def _others(posted: Transaction, own: Line, difference: Minor) -> list[Line]:
    """The difference spread over the entry's other lines as its sum is, to the cent."""
    others = [x for x in posted.lines if x.number != own.number]
    whole = sum(x.amount for x in others)
    shares = {str(x.number): Fraction(x.amount, whole) for x in others}
    parts = in_shares(-difference, shares)
    return [x._replace(amount=parts[str(x.number)]) for x in others if parts[str(x.number)]]


def _allocations(books: Books, posted: Transaction, entry: Transaction) -> tuple[Allocation, ...]:
    """Where the sum was too large, what it had allocated is freed as far as it must be."""
    items = open_items(books)
    writer = AllocationWriter(books)
    own = [item for item in items.by_transaction.get(posted.id, ()) if item.party is not None]
    if not own:
        return ()
    item = own[0]
    delta = sum(x.amount for x in entry.lines if x.account == item.account)
    if delta * item.amount > 0:
        return ()
    right = abs(item.amount) - abs(delta)
    freed = writer.free_all(items, posted.id)
    writer.between(item.party or "", posted, entry, abs(delta) if item.amount > 0 else -abs(delta))
    left = max(right, 0)
    for row in freed:
        amount = min(row.amount, left)
        left -= amount
        if amount:
            sides = (row.debit_transaction, row.credit_transaction)
            debit, credit = (books.transactions[name] for name in sides)
            writer.allocate(row.party, debit, credit, amount)
    return tuple(writer.rows)
