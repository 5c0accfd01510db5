"""owner-spending: an owner's private spending coded to a cost of the business.

Finds payments that name the owner, cash machine withdrawals, and payees and words that are private for
this client, learned from its own owner entries.
Keeps quiet: when the payee is a regular supplier of the business.
"""

from collections.abc import Iterator

from corkpost.core.books import Transaction
from corkpost.core.kinds import Entity, TransactionKind
from corkpost.core.matching.private_words import (
    REGULAR,
    coded_money,
    private_words,
    said_business,
)
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "owner-spending",
    family=Family.OWNERS,
    routes=("to-owner", "ask", "leave", "waive"),
    finds="private spending among the costs",
    avoid="Private spending goes to the owner's account, without tax, whichever card paid for it.",
)


ASKED = ("ask", "leave", "waive")


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    learned, business = private_words(books), said_business(run)
    for coded in coded_money(books, TransactionKind.DIRECT_PAYMENT):
        if coded.owner:
            for posted in coded.rows:
                why = f"it names {coded.owner.name}, an owner"
                yield _point(run, posted, 0.9, why, coded.owner.code)
            continue
        if coded.has_party:
            continue
        regular = learned.texts[coded.words] >= REGULAR
        words = () if regular else learned.learned(coded.words)
        said = " and ".join(word.capitalize() for word in words)
        certainty = 0.92 if len(words) > 1 else 0.85
        for posted in coded.rows if words or coded.cash_machine else ():
            if posted.id not in run.business and coded.words in business:
                continue
            if coded.cash_machine:
                yield _point(run, posted, 0.85, "cash drawn at a machine, coded to a cost", "")
            else:
                yield _point(run, posted, certainty, f"{said} went to the owner before", "")


def _point(run: CheckRun, posted: Transaction, certainty: float, why: str, owner: str) -> Point:
    books = run.books
    coded = next(x for x in posted.lines if books.accounts[x.account].is_profit_and_loss)
    total = abs(sum(x.amount for x in posted.lines if x.amount > 0))
    return CHECK.point(
        books,
        subjects={"owner": (posted.id,)},
        amount=total,
        certainty=certainty,
        summary=(
            f"{posted.memo or posted.id} of {posted.posting_date:%-d %B %Y} was coded to "
            f"{books.accounts[coded.account].name} and looks private."
        ),
        short=f"{posted.memo or posted.id}",
        because=(why,),
        # Nobody may take money of an association: what it was is asked for.
        routes=ASKED if books.client.entity is Entity.ASSOCIATION else None,
        hints={"owner": owner},
    )
