"""journal-pair-open: a journal and its reversal that both stand open on a party."""

from collections import defaultdict
from collections.abc import Iterator

from corkpost.core.kinds import TransactionKind
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItem
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "journal-pair-open",
    family=Family.ON_ACCOUNT,
    routes=("offset", "ask", "leave"),
    finds="a journal and its opposite, both open on a party",
    avoid="When you take a journal on a customer or supplier back, set the two against each other.",
)
WITHIN_DAYS = 400


def find(run: CheckRun) -> Iterator[Point]:
    sides: dict[tuple[str, str | None, Minor], tuple[list[OpenItem], list[OpenItem]]]
    sides = defaultdict(lambda: ([], []))
    for key, left in run.items.still_open.items():
        item = run.items.items[key]
        journal = item.transaction.kind is TransactionKind.JOURNAL and item.party is not None
        if left and left == item.amount and journal:
            sides[item.account, item.party, abs(left)][left < 0].append(item)
    for debits, credits in sides.values():
        for open_item in debits:
            other = min(credits, key=lambda c: _days(open_item, c), default=None)
            if other and _days(open_item, other) <= WITHIN_DAYS:
                credits.remove(other)
                yield _point(
                    run, *sorted((open_item, other), key=lambda i: i.transaction.posting_date)
                )


def _days(one: OpenItem, other: OpenItem) -> int:
    return abs((one.transaction.posting_date - other.transaction.posting_date).days)


def _point(run: CheckRun, first: OpenItem, second: OpenItem) -> Point:
    books = run.books
    one, other = first.transaction, second.transaction
    linked = one.id == other.reverses or other.id == one.reverses
    opposite = sorted((x.account, x.amount) for x in one.lines) == sorted(
        (x.account, -x.amount) for x in other.lines
    )
    return CHECK.point(
        books,
        subjects={"pair": (one.id, other.id)},
        amount=abs(first.amount),
        certainty=0.99 if linked else 0.96 if opposite else 0.8,
        summary=(
            f"{one.id} and {other.id} are opposite on the account of "
            f"{books.party_name(first.party)}, and both stand open."
        ),
        short=f"{one.id} and {other.id}",
        because=(
            "one reverses the other"
            if linked
            else "the same accounts the other way round"
            if opposite
            else "the same sum the other way round",
        ),
    )
