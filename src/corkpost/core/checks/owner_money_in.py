"""owner-money-in: an owner's money booked as income or as a customer's receipt."""

from collections.abc import Iterator

from corkpost.core.books import Books, Transaction
from corkpost.core.evidence.private_words import (
    REGULAR,
    coded_money,
    owner_named,
    private_words,
    said_business,
)
from corkpost.core.evidence.said import said_of, statement_words
from corkpost.core.evidence.who import finder_for
from corkpost.core.kinds import PartyKind, TransactionKind
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "owner-money-in",
    family=Family.OWNERS,
    routes=("to-owner", "ask", "leave", "waive"),
    explains=("owner",),
    finds="an owner's own money among the income",
    avoid="Money that the owner puts in is no income: it goes to the owner's account.",
)


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    learned, business = private_words(books), said_business(run)
    customers = finder_for(books, PartyKind.CUSTOMER)
    for coded in coded_money(books, TransactionKind.DIRECT_RECEIPT):
        if coded.owner:
            for posted in coded.rows:
                why = f"it names {coded.owner.name}, an owner"
                yield _point(run, posted, 0.92, why, coded.owner.code)
        elif not coded.has_party and learned.texts[coded.words] < REGULAR:
            words = learned.learned(coded.words)
            said = " and ".join(word.capitalize() for word in words)
            for posted in coded.rows if words else ():
                is_business = posted.id not in run.business and coded.words in business
                if not is_business and customers.named_in(said_of(books, posted)) is None:
                    yield _point(run, posted, 0.85, f"{said} was the owner's before", "")
    rows = books.rows_by(
        "receipts that name an owner",
        lambda posted: _owners_in(books, posted),
        TransactionKind.CUSTOMER_RECEIPT,
        ground=statement_words(books),
    )
    for code, receipts in rows.items():
        owner = books.parties[code]
        for posted in receipts:
            customer = books.party_name(posted.party)
            if owner.name != customer and not books.is_answered(posted.id):
                why = f"it names {owner.name}, an owner, and not {customer}"
                yield _point(run, posted, 0.85, why, owner.code)


def _owners_in(books: Books, posted: Transaction) -> Iterator[str]:
    owner = owner_named(books, said_of(books, posted))
    if owner is not None and posted.change is None:
        yield owner.code


def _point(run: CheckRun, posted: Transaction, certainty: float, why: str, owner: str) -> Point:
    books = run.books
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
