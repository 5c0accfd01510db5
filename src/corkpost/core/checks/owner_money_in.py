"""owner-money-in: an owner's money booked as income or as a customer's receipt."""

from collections.abc import Iterator

from corkpost.core.books import Transaction
from corkpost.core.kinds import PartyKind, TransactionKind
from corkpost.core.matching.names import PartyFinder
from corkpost.core.matching.private_words import (
    REGULAR,
    coded_money,
    owner_named,
    private_words,
    said_business,
    telling,
    text_of,
)
from corkpost.core.points import Check, Family, Look, Point

CHECK = Check(
    "owner-money-in",
    family=Family.OWNERS,
    routes=("to-owner", "ask", "leave", "waive"),
    finds="an owner's own money among the income",
    avoid="Money that the owner puts in is no income: it goes to the owner's account.",
)


def find(look: Look) -> Iterator[Point]:
    books = look.books
    learned, business = private_words(books), said_business(look)
    customers = PartyFinder(books.tables.parties, frozenset({PartyKind.CUSTOMER}))
    for posted in coded_money(books, TransactionKind.DIRECT_RECEIPT):
        text = text_of(books, posted)
        own = books.parties.get(posted.party or "")
        owner = own if own and own.kind is PartyKind.OWNER else owner_named(books, text)
        if owner:
            yield _point(look, posted, 0.92, f"it names {owner.name}, an owner", owner.code)
        elif posted.id not in look.business and telling(text) in business:
            continue
        elif own is None and customers.named_in(text) is None:
            if learned.texts[telling(text)] >= REGULAR:
                continue
            words = learned.learned(text)
            if words:
                said = " and ".join(word.capitalize() for word in words)
                yield _point(look, posted, 0.85, f"{said} was the owner's before", "")
    for posted in books.tables.transactions:
        gone = books.is_answered(posted.id)
        if posted.kind is TransactionKind.CUSTOMER_RECEIPT and posted.change is None and not gone:
            owner = owner_named(books, text_of(books, posted))
            customer = books.party_name(posted.party)
            if owner and owner.name != customer:
                why = f"it names {owner.name}, an owner, and not {customer}"
                yield _point(look, posted, 0.85, why, owner.code)


def _point(look: Look, posted: Transaction, certainty: float, why: str, owner: str) -> Point:
    books = look.books
    receipt = posted.kind is TransactionKind.CUSTOMER_RECEIPT
    booked = f"a receipt of {books.party_name(posted.party)}" if receipt else "income"
    return CHECK.point(
        books,
        subjects={"owner": (posted.id,)},
        amount=posted.total,
        certainty=certainty,
        summary=(
            f"{posted.memo or posted.id} of {posted.posting_date:%-d %B %Y} was booked as {booked} and "
            "looks to be the owner's own money."
        ),
        short=f"{posted.memo or posted.id}",
        because=(why,),
        hints={"owner": owner},
    )
