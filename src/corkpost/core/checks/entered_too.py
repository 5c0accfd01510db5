"""entered-too: a correction of ours that the client entered too, in books that came later.

Finds: entries that arrived after a change of ours and move the same accounts, of the same parties, by the
same amounts: near in date, or quoting our number or that of the document.
Keeps quiet: what the client enters again and again, unless it quotes ours; what is answered already.
"""

from collections import defaultdict
from collections.abc import Iterator, Mapping

from corkpost.core.books import Books, PostedChange, Transaction
from corkpost.core.change import ChangeKind
from corkpost.core.evidence.references import quotes
from corkpost.core.formatting import format_date
from corkpost.core.kinds import TransactionKind
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "entered-too",
    family=Family.TWICE,
    routes=("theirs-stands", "void", "ask", "leave"),
    finds="a correction of ours that was entered too",
    avoid="What our list says is entered already, do not enter again.",
)
WITHIN_DAYS = 62
AT_ONCE_DAYS = 10
"""Where the client enters the like again and again, only what is so near may be ours."""

Moves = tuple[tuple[str, str, Minor], ...]


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    if not books.arrived:
        return
    theirs: dict[Moves, list[Transaction]] = defaultdict(list)
    for name in books.arrived:
        posted = books.transactions.get(name)
        if posted is not None and posted.change is None and not books.is_answered(name):
            theirs[_moves(books, posted)].append(posted)
    for change in books.changes:
        own = standing_entries(books, change)
        found = _found(books, change, own, theirs) if own else []
        if found:
            for posted in found:
                theirs[_moves(books, posted)].remove(posted)
            yield _point(books, change, own, found)


def standing_entries(books: Books, change: PostedChange) -> tuple[Transaction, ...]:
    """The entries of a correction or entry of ours that nobody took back; none of another change."""
    if change.kind not in (ChangeKind.CORRECTION, ChangeKind.ENTRY):
        return ()
    entries = books.of_change(change.number)
    if any(e.id in books.never_was or e.kind is TransactionKind.CLOSING for e in entries):
        return ()
    return entries


def _moves(books: Books, posted: Transaction) -> Moves:
    """What it adds to each account, on control accounts by party; in one order."""
    sums: dict[tuple[str, str], Minor] = defaultdict(int)
    for line in posted.lines:
        party = (line.party or "") if line.account in books.control_accounts else ""
        sums[line.account, party] += line.amount
    return tuple(sorted((*key, amount) for key, amount in sums.items() if amount))


def _found(
    books: Books,
    change: PostedChange,
    own: tuple[Transaction, ...],
    theirs: Mapping[Moves, list[Transaction]],
) -> list[Transaction]:
    """For each entry of the change the client's like; empty unless there is one for each."""
    found: list[Transaction] = []
    for entry in own:
        moves = _moves(books, entry)
        others = [
            posted
            for posted in theirs.get(moves, ())
            if posted not in found and books.arrived[posted.id] > change.number
        ]
        near = [p for p in others if _quotes(books, p, entry) or _may_be(books, p, entry, moves)]
        if not moves or not near:
            return []
        found.append(min(near, key=lambda posted: _rank(books, posted, entry)))
    return found


def _rank(books: Books, posted: Transaction, entry: Transaction) -> tuple[bool, int, str]:
    return (not _quotes(books, posted, entry), _days(posted, entry), posted.id)


def _may_be(books: Books, posted: Transaction, entry: Transaction, moves: Moves) -> bool:
    within = AT_ONCE_DAYS if _is_habit(books, entry, moves) else WITHIN_DAYS
    return _days(posted, entry) <= within


def _is_habit(books: Books, entry: Transaction, moves: Moves) -> bool:
    """Whether the client has the like in the books besides what arrived since."""
    account = entry.lines[0].account
    return any(
        posted.change is None and posted.id not in books.arrived and _moves(books, posted) == moves
        for posted in books.on_account(account)
    )


def _days(posted: Transaction, entry: Transaction) -> int:
    return abs((posted.posting_date - entry.posting_date).days)


def _quotes(books: Books, posted: Transaction, entry: Transaction) -> bool:
    """Whether it names our entry, or the document that ours puts right."""
    said = f"{posted.reference or ''} {posted.memo or ''}"
    about = books.transactions.get(entry.corrects or "")
    return any(quotes(said, n) for n in (entry.id, *((about.id, about.reference) if about else ())))


def _point(
    books: Books, change: PostedChange, own: tuple[Transaction, ...], found: list[Transaction]
) -> Point:
    quoted = all(_quotes(books, p, e) for p, e in zip(found, own, strict=True))
    alone = not any(_is_habit(books, e, _moves(books, e)) for e in own)
    names = " and ".join(posted.id for posted in found)
    ours = " and ".join(entry.id for entry in own)
    days = " and ".join(format_date(posted.posting_date) for posted in found)
    subjects = {"ours": tuple(e.id for e in own), "theirs": tuple(p.id for p in found)}
    if len(found) == 1:
        subjects["same"] = (found[0].id,)
    return CHECK.point(
        books,
        subjects=subjects,
        amount=sum(entry.total for entry in own),
        certainty=0.97 if quoted else 0.88 if alone else 0.72,
        summary=(
            f"{names} of {days}, which came with newer books, does what {ours} of ours does already "
            f"(change {change.number})."
        ),
        short=f"{names} and {ours}",
        because=(
            f"ours: {change.reason}",
            "the same accounts by the same amounts",
            "it quotes our entry or its document"
            if quoted
            else f"{max(_days(p, e) for p, e in zip(found, own, strict=True))} days apart",
        ),
        related=tuple(e.corrects for e in own if e.corrects and e.corrects in books.transactions),
        routes=None if len(found) == 1 else ("theirs-stands", "ask", "leave"),
    )
