"""Points about two sums that are each set against the other's document, in words."""

from corkpost.core.kinds import TransactionKind
from corkpost.core.matching.exchanged import Exchange
from corkpost.core.points import Check, CheckRun, Point


def exchange_point(check: Check, run: CheckRun, found: Exchange) -> Point:
    """The point that an exchange makes: one for both sums."""
    one, other = found.one, found.other
    first, second = one.papers[0], other.papers[0]
    what = "receipts" if one.posted.kind is TransactionKind.CUSTOMER_RECEIPT else "payments"
    names = [first.reference or first.id, second.reference or second.id]
    whose = " and ".join(
        dict.fromkeys(run.books.party_name(applied.party) for applied in (one, other))
    )
    return check.point(
        run.books,
        subjects={
            "money": (one.posted.id,),
            "item": (second.id,),
            "other": (other.posted.id,),
            "its item": (first.id,),
        },
        amount=max(one.amount, other.amount),
        certainty=found.certainty,
        summary=(
            f"Two {what} of {whose} are each set against the other's document: {one.posted.id} against "
            f"{names[0]} and {other.posted.id} against {names[1]}."
        ),
        short=f"{one.posted.id} and {other.posted.id}: exchanged",
        because=found.because,
    )
