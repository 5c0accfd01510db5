"""clearing-balance: what is left on clearing and suspense accounts, item by item after pairing.

Keeps quiet: about what was put there within the last 14 days, which may still clear by itself.
"""

from collections.abc import Iterator
from datetime import date, timedelta

from corkpost.core.books import Transaction
from corkpost.core.kinds import AccountRole
from corkpost.core.matching.clearing import left_after_pairing
from corkpost.core.money import Minor
from corkpost.core.points import Check, Family, Look, Point
from corkpost.core.refusals import said

CHECK = Check(
    "clearing-balance",
    family=Family.BANK,
    routes=("reclassify", "ask", "leave"),
    finds="what is left on clearing and suspense accounts",
    avoid="Whatever goes onto a clearing account must leave it again: look at it at the end of the month.",
)
CLEARS_WITHIN = timedelta(days=14)


def find(look: Look) -> Iterator[Point]:
    until = max((t.posting_date for t in look.books.tables.transactions), default=look.today)
    for account in look.books.with_role(AccountRole.CLEARING, AccountRole.SUSPENSE):
        for posted, amount in left_after_pairing(look.books, account.code):
            if until - posted.posting_date > CLEARS_WITHIN:
                yield _point(look, account.code, posted, amount, until)


def _point(look: Look, account: str, posted: Transaction, amount: Minor, until: date) -> Point:
    words = look.books.client.currency.words(amount)
    name = look.books.accounts[account].name
    days = (until - posted.posting_date).days
    return CHECK.point(
        look.books,
        subjects={"left": (posted.id,)},
        account=account,
        amount=amount,
        certainty=0.9,
        summary=(
            f"{words} of {posted.id} is left on {name} since {said(posted.posting_date)}: "
            "nothing that came after it clears it."
        ),
        short=f"{days} days on {name}",
        because=("no entry or set of entries on the account makes it nil",),
    )
