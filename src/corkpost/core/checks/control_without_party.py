"""control-without-party: lines on a control account with no party, journals above all: the control
account moves and nobody's list does. An account that is kept without parties is one point."""

from collections import defaultdict
from collections.abc import Iterator, Sequence

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.evidence.who import finder_for
from corkpost.core.kinds import PartyKind, TransactionKind
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import Moving, Side

CHECK = Check(
    "control-without-party",
    family=Family.PROOF,
    routes=("reclassify", "ask", "leave"),
    finds="entries on a control account that name nobody",
    avoid="Name the customer or supplier on every line of their account.",
)

MANY = 20
"""So many entries, and most of an account's, are its way of being kept."""


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    finder = finder_for(books, PartyKind.CUSTOMER, PartyKind.SUPPLIER)
    bare = books.rows_by("control lines of nobody", lambda t: (True,) if _bare(books, t) else ())
    live = [posted for posted in bare.get(True, ()) if not books.is_answered(posted.id)]
    by_account: dict[str, list[Transaction]] = defaultdict(list)
    for posted in live:
        by_account[_bare(books, posted)[0].account].append(posted)
    for code, rows in by_account.items():
        if len(rows) >= MANY and 2 * len(rows) > len(books.on_account(code)):
            yield _kept_without(run, code, rows)
            continue
        for posted in rows:
            line = _bare(books, posted)[0]
            named = posted.party or finder.named_in(f"{posted.memo} {line.description}")
            yield _point(run, posted, line, named)


def _kept_without(run: CheckRun, code: str, rows: Sequence[Transaction]) -> Point:
    books = run.books
    name = books.accounts[code].name
    return CHECK.on_account(
        books,
        code,
        rows,
        amount=sum(
            abs(line.amount) for row in rows for line in _bare(books, row) if line.account == code
        ),
        certainty=0.97,
        summary=(
            f"{name} is kept without parties: {len(rows)} of its entries name nobody, so that no list says "
            "who owes what."
        ),
        short=f"{name}, {len(rows)} entries",
        because=("most of what stands on it names nobody",),
        routes=("ask", "leave"),
    )


def _bare(books: Books, posted: Transaction) -> list[Line]:
    """Its lines on control accounts that name nobody."""
    if posted.change is not None or posted.kind is TransactionKind.CLOSING:
        return []
    control = books.control_accounts
    return [line for line in posted.lines if line.party is None and line.account in control]


def _point(run: CheckRun, posted: Transaction, line: Line, named: str | None) -> Point:
    books = run.books
    account = books.accounts[line.account]
    why = f"it speaks of {books.party_name(named)}" if named else "nothing in it says whose it is"
    sides = (
        Side(line.account, -line.amount, dimensions=line.dimensions),
        Side("", line.amount, named, dimensions=line.dimensions),
    )
    return CHECK.point(
        books,
        subjects={"bare": (posted.id,)},
        amount=abs(line.amount),
        certainty=0.97,
        summary=(
            f"{posted.memo or posted.id} of {posted.posting_date:%-d %B %Y} stands on {account.name} "
            "without a party: it is in the account and on nobody's list."
        ),
        short=f"{posted.memo or posted.id}",
        because=(why,),
        remedy=Moving(
            sides=sides,
            title=f"Give it to {books.party_name(named)}" if named else "Give it a party",
            reason=f"{posted.id} belongs to {books.party_name(named)}." if named else "",
            account=line.account,
            leaves=line.account,
        ),
    )
