"""wrong-item: money set against the wrong item of the right party: it quotes another number, or the sum
is exactly another open item's; or two sums are each set against the other's item.

Keeps quiet: about part payments set against the oldest first, where they are round or come again; about a
text that quotes a paper of another sum while what the money is set against has its very sum.
"""

from collections import Counter
from collections.abc import Iterator

from corkpost.core.kinds import TransactionKind
from corkpost.core.matching.applied_money import (
    Applied,
    AppliedSide,
    Open,
    applied_sides,
)
from corkpost.core.matching.exchange_points import exchange_point
from corkpost.core.matching.exchanged import exchanges
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "wrong-item",
    family=Family.WRONG_ONE,
    routes=("move-allocation", "ask", "leave", "waive"),
    explains=("money",),
    finds="money set against the wrong item of its party",
    avoid="Set money against the document whose number it quotes.",
)
IN_PARTS = 3
ROUND = 50_00


def find(run: CheckRun) -> Iterator[Point]:
    for side in applied_sides(run):
        crossed = tuple(exchanges(run.books, side, parties=False))
        for exchange in crossed:
            yield exchange_point(CHECK, run, exchange)
        told = {row.posted.id for found in crossed for row in (found.one, found.other)}
        parts = Counter((a.party, p.id) for a in side.money if a.in_part for p in a.papers)
        # A paper that is paid in parts says so of itself; several papers that are make it a habit.
        in_parts = Counter(party for party, _ in parts)
        sums = Counter((applied.party, applied.amount) for applied in side.money)
        used: set[str] = set()
        for applied in side.doubtful:
            if applied.posted.id in told or not applied.papers:
                continue
            of_it = max((parts[applied.party, paper.id] for paper in applied.papers), default=0)
            by_parts = max(in_parts[applied.party], of_it) >= IN_PARTS
            again = sums[applied.party, applied.amount] > 1
            found = _better(side, applied, pays_in_parts=by_parts, comes_again=again)
            if found and found[0].item.transaction.id not in used:
                used.add(found[0].item.transaction.id)
                yield _point(run, applied, *found)


def _better(
    side: AppliedSide, applied: Applied, *, pays_in_parts: bool, comes_again: bool
) -> tuple[Open, float, str] | None:
    quoted = [open_ for open_ in side.quoted(applied) if open_.item.party == applied.party]
    if quoted:
        exact = [open_ for open_ in quoted if open_.left == applied.amount]
        if not exact and not applied.in_part:
            # It is to the cent what it is set against: the text is one of before.
            return None
        return (exact or quoted)[0], 0.97 if exact else 0.88, "it quotes another number"
    if not applied.in_part or (pays_in_parts and (comes_again or not applied.amount % ROUND)):
        return None
    same = [
        open_
        for open_ in side.by_sum.get(applied.amount, ())
        if open_.item.party == applied.party
        and open_.item.transaction.day <= applied.posted.posting_date
        and open_.item.transaction.id not in {paper.id for paper in applied.papers}
    ]
    if len(same) == 1:
        why = "the sum is exactly another open item's, and not that of what it is set against"
        return same[0], 0.78 if pays_in_parts else 0.85, why
    return None


def _point(run: CheckRun, applied: Applied, right: Open, certainty: float, why: str) -> Point:
    books = run.books
    paper = right.item.transaction
    wrong = ", ".join(paper.reference or paper.id for paper in applied.papers)
    what = "receipt" if applied.posted.kind is TransactionKind.CUSTOMER_RECEIPT else "payment"
    return CHECK.point(
        books,
        subjects={"money": (applied.posted.id,), "item": (paper.id,)},
        amount=min(applied.amount, right.left),
        certainty=certainty,
        summary=(
            f"A {what} of {books.party_name(applied.party)} is set against {wrong}, and it looks to be for "
            f"{paper.reference or paper.id}, which stands open."
        ),
        short=f"{applied.posted.id}: {paper.reference or paper.id}, not {wrong}",
        because=(why,),
        related=tuple(paper.id for paper in applied.papers),
    )
