"""wrong-party: money set against one party where the payer's name or the number points to another; or two
sums of which each is set against the other's party.

Keeps quiet: when the payer is a known alias, or pays for the other by habit.
"""

from collections.abc import Iterator

from corkpost.core.kinds import TransactionKind
from corkpost.core.matching.applied_money import (
    Applied,
    AppliedSide,
    Open,
    applied_sides,
    names_itself,
)
from corkpost.core.matching.exchange_points import exchange_point
from corkpost.core.matching.exchanged import exchanges
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "wrong-party",
    family=Family.WRONG_ONE,
    routes=("move-allocation", "ask", "leave", "waive"),
    explains=("money",),
    finds="money set against a party that did not pay it",
    avoid="Take the customer or supplier from the statement's text, and mind names that are nearly alike.",
)
HABIT = 3
EARLY_DAYS, LATE_DAYS = 10, 200


def find(run: CheckRun) -> Iterator[Point]:
    for side in applied_sides(run):
        used: set[str] = set()
        crossed = tuple(exchanges(run.books, side, parties=True))
        for exchange in crossed:
            yield exchange_point(CHECK, run, exchange)
        told = {row.posted.id for found in crossed for row in (found.one, found.other)}
        for applied in side.doubtful:
            found = _better(run, side, applied) if applied.posted.id not in told else None
            if found and found[0].item.transaction.id not in used:
                used.add(found[0].item.transaction.id)
                yield _point(run, applied, *found)


def _better(
    run: CheckRun, side: AppliedSide, applied: Applied
) -> tuple[Open, float, tuple[str, ...]] | None:
    """The open paper of another party that the money is for, how certain, and why."""
    who = applied.who
    if who == applied.party or (who and side.pays_for[who, applied.party] >= HABIT):
        return None
    others = [open_ for open_ in side.quoted(applied) if open_.item.party != applied.party]
    exact = [open_ for open_ in others if open_.left == applied.amount]
    if len(exact) == 1:
        return exact[0], 0.97, ("it quotes the number", "the sum is that of the open item")
    if who is None:
        return None
    theirs = [
        open_
        for open_ in side.by_sum.get(applied.amount, ())
        if open_.item.party == who and _in_time(applied, open_)
    ]
    name = run.books.party_name(who)
    if theirs:
        own = names_itself(run.books, applied)
        certainty = 0.7 if own else 0.96 if len(theirs) == 1 else 0.9
        return theirs[0], certainty, (f"it names {name}", "their open item has this very sum")
    quoted = [open_ for open_ in others if open_.item.party == who]
    if quoted:
        return quoted[0], 0.9, (f"it names {name}", "it quotes their number")
    return None


def _in_time(applied: Applied, open_: Open) -> bool:
    return (
        -EARLY_DAYS <= (applied.posted.posting_date - open_.item.transaction.day).days <= LATE_DAYS
    )


def _point(
    run: CheckRun, applied: Applied, right: Open, certainty: float, because: tuple[str, ...]
) -> Point:
    books = run.books
    own = names_itself(books, applied)
    wrong, theirs = books.party_name(applied.party), books.party_name(right.item.party)
    paper = right.item.transaction
    what = "receipt" if applied.posted.kind is TransactionKind.CUSTOMER_RECEIPT else "payment"
    direction = "from" if what == "receipt" else "to"
    return CHECK.point(
        books,
        subjects={"money": (applied.posted.id,), "item": (paper.id,)},
        amount=min(applied.amount, right.left),
        certainty=certainty,
        summary=(
            f"The {what} of {applied.posted.posting_date:%-d %B %Y} "
            f"{'is set against' if applied.papers else 'stands on account of'} {wrong}, and it looks "
            f"to be {direction} {theirs}, whose {paper.reference or paper.id} stands open."
        ),
        short=f"{applied.posted.id}: {theirs}, not {wrong}",
        because=because,
        against=(f"its text bears words of {wrong}'s name too",) if own else (),
        related=tuple(paper.id for paper in applied.papers),
    )
