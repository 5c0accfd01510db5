"""owner-loan-overdrawn: the account between a company and its owner stands in debit: the owner owes."""

from collections.abc import Iterator
from itertools import groupby

from corkpost.core.books import Account
from corkpost.core.kinds import AccountRole, Entity
from corkpost.core.points import Check, Family, Look, Point
from corkpost.core.refusals import said

CHECK = Check(
    "owner-loan-overdrawn",
    family=Family.OWNERS,
    routes=("adjust", "ask", "leave"),
    finds="an owner's loan account in debit",
    avoid="Ask before money is taken from the company for private use.",
)


def find(look: Look) -> Iterator[Point]:
    if look.books.client.entity is not Entity.COMPANY:
        return
    for account in look.books.with_role(AccountRole.OWNER_LOAN):
        point = _overdrawn(look, account)
        if point:
            yield point


def _overdrawn(look: Look, account: Account) -> Point | None:
    """Since when, the highest, and how much now."""
    books = look.books
    rows = sorted(
        (
            (posted.posting_date, posted.id, line.amount)
            for posted, line in books.lines_on(account.code)
        ),
    )
    balance = highest = 0
    since = highest_on = None
    for day, of_day in groupby(rows, key=lambda row: row[0]):
        before = balance
        balance += sum(amount for _, _, amount in of_day)
        if balance > 0 >= before:
            since, highest = day, 0
        if balance > highest:
            highest, highest_on = balance, day
    if balance <= 0 or since is None or highest_on is None:
        return None
    words = books.client.currency.words
    largest = max((row for row in rows if row[0] >= since), key=lambda row: row[2])
    return CHECK.point(
        books,
        subjects={},
        about={"account": (account.code,)},
        account=account.code,
        related=(largest[1],),
        amount=balance,
        certainty=0.97,
        summary=(
            f"{account.name} is overdrawn by {words(balance)}, since {said(since)}; at most by "
            f"{words(highest)} on {said(highest_on)}."
        ),
        short=f"{account.name}, {words(balance)}",
        because=("the owner owes the company: interest, tax or a repayment may follow from it",),
    )
