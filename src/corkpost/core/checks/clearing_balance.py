"""clearing-balance: what is left on clearing and suspense accounts, item by item after pairing.

Keeps quiet: about what was put there within the last 14 days, which may still clear by itself.
"""

from collections.abc import Iterator
from datetime import date, timedelta

from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import AccountRole
from corkpost.core.matching.sums import MOST_CANDIDATES, exact_sets
from corkpost.core.money import Minor
from corkpost.core.points import Check, Family, Look, Point
from corkpost.core.refusals import said

CHECK = Check(
    "clearing-balance",
    family=Family.BANK,
    routes=("reclassify", "ask", "leave"),
    finds="what is left on clearing and suspense accounts",
)
CLEARS_WITHIN = timedelta(days=14)


def find(look: Look) -> Iterator[Point]:
    until = max((t.posting_date for t in look.books.tables.transactions), default=look.today)
    for account in look.books.with_role(AccountRole.CLEARING, AccountRole.SUSPENSE):
        for posted, amount in left_after_pairing(look.books, account.code):
            if until - posted.posting_date > CLEARS_WITHIN:
                yield _point(look, account.code, posted, amount, until)


def left_after_pairing(books: Books, account: str) -> list[tuple[Transaction, Minor]]:
    """The transactions on the account that no others make nil: one by one first, then exact sets."""
    sums: dict[str, Minor] = {}
    for posted, line in books.lines_on(account):
        sums[posted.id] = sums.get(posted.id, 0) + line.amount
    rows = [(books.transactions[name], amount) for name, amount in sums.items() if amount]
    rows.sort(key=lambda row: (row[0].posting_date, row[0].id))
    left = list(rows)
    for row in rows:
        if row in left:
            pair = next((other for other in left if other[1] == -row[1]), None)
            if pair:
                left.remove(row)
                left.remove(pair)
    for row in list(left):
        if row not in left:
            continue
        sign = 1 if row[1] > 0 else -1
        field = [other for other in left if other[1] * sign < 0][:MOST_CANDIDATES]
        sets = exact_sets([abs(other[1]) for other in field], abs(row[1]), most=1).sets
        if sets:
            for gone in (row, *(field[place] for place in sets[0])):
                left.remove(gone)
    return left


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
