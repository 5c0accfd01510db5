"""doubtful-debt: an invoice 180 days overdue with no movement.

Keeps quiet: about a customer who pays it off in parts, and where another check says why it is open.
"""

from collections import defaultdict
from collections.abc import Iterator
from datetime import date, timedelta

from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, PartyKind, TransactionKind
from corkpost.core.open_items import OpenItem, Settlement
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "doubtful-debt",
    family=Family.ON_ACCOUNT,
    routes=("write-off", "ask", "leave"),
    after=(
        "wrong-party",
        "wrong-item",
        "invoice-received-direct",
        "unallocated",
        "duplicate-document",
    ),
    finds="an invoice long overdue that nothing moves",
    avoid="Tell us when a customer disputes an invoice or goes quiet.",
)
OVERDUE = timedelta(days=180)
GOOD_PART = 2
"""Money of half an invoice or more may be for it."""


def find(run: CheckRun) -> Iterator[Point]:
    accounts = {account.code for account in run.books.with_role(AccountRole.RECEIVABLES)}
    # What these say of an invoice is why it stands open: it was paid, or is none.
    paid = {name for point in run.found_before(CHECK) for name in point.transactions}
    # Money that lies unmatched on the customer's account may be for it: that is told first.
    unmatched: dict[str, list[Point]] = defaultdict(list)
    for point in run.found_before(CHECK, "unallocated"):
        for party in point.parties if not point.named("item") else ():
            unmatched[party].append(point)
    for item, left in run.items.open_on(accounts):
        if left <= 0 or item.party is None or item.transaction.id in paid:
            continue
        if any(_may_be_for(run, point, item, left) for point in unmatched.get(item.party, ())):
            continue
        kind = item.transaction.kind
        if kind not in (TransactionKind.SALES_INVOICE, TransactionKind.OPENING):
            continue
        if _is_nobodys(run, item):
            continue
        if run.today - item.due_date >= OVERDUE and not _moves(run, item):
            yield _point(run, item, left)


def _may_be_for(run: CheckRun, unmatched: Point, item: OpenItem, left: int) -> bool:
    """Whether money that lies on the customer's account came after the invoice and is a good part of it: a
    small sum, or one of before, is for something else."""
    days = [
        run.books.transactions[name].posting_date
        for name in unmatched.transactions
        if name in run.books.transactions
    ]
    after = any(day >= item.transaction.posting_date for day in days)
    return after and unmatched.amount * GOOD_PART >= left


def _is_nobodys(run: CheckRun, item: OpenItem) -> bool:
    """Whether it is what all customers owed together, as a trial balance says it: no debt of anybody's."""
    party = run.books.parties.get(item.party or "")
    return (
        item.transaction.kind is TransactionKind.OPENING
        and party is not None
        and party.kind is PartyKind.OTHER
    )


def _moves(run: CheckRun, item: OpenItem) -> bool:
    """Whether anything was set against it within that time."""
    since: date = run.today - OVERDUE
    return any(
        settlement.since >= since
        if settlement.until is None
        else _freed_by_us_since(run, settlement, since)
        for settlement in run.items.by_item.get(item.key, ())
    )


def _freed_by_us_since(run: CheckRun, settlement: Settlement, since: date) -> bool:
    """Whether a correction of ours opened again what came in as paid: nobody asked for it until then."""
    books = run.books
    if settlement.allocation.change is not None:
        return False
    undoing = [row for row in books.tables.allocations if row.undoes == settlement.allocation.id]
    made_on = {change.number: change.made_on for change in books.changes}
    return any(row.change is not None and made_on[row.change] >= since for row in undoing)


def _point(run: CheckRun, item: OpenItem, left: int) -> Point:
    books = run.books
    posted = item.transaction
    days = (run.today - item.due_date).days
    return CHECK.point(
        books,
        subjects={"invoice": (posted.id,)},
        amount=left,
        certainty=0.9,
        summary=(
            f"{posted.reference or posted.id} of {books.party_name(item.party)} was due on "
            f"{format_date(item.due_date)}, {days} days ago, and nothing moves it."
        ),
        short=f"{posted.reference or posted.id}, {days} days overdue",
        because=("over 180 days overdue", "nothing was set against it in that time"),
        hints={"date": run.today.isoformat()},
    )
