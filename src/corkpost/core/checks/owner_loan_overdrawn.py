"""owner-loan-overdrawn: the account between a company and its owner stands in debit: the owner owes."""

from collections.abc import Iterator
from itertools import groupby

from corkpost.core.books import Account, Books
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, Entity
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "owner-loan-overdrawn",
    family=Family.OWNERS,
    routes=("adjust", "ask", "leave"),
    finds="an owner's loan account in debit",
    avoid="Ask before money is taken from the company for private use.",
)


def find(run: CheckRun) -> Iterator[Point]:
    if run.books.client.entity is not Entity.COMPANY:
        return
    for account in run.books.with_role(AccountRole.OWNER_LOAN):
        point = _overdrawn(run, account)
        if point:
            yield point


def _overdrawn(run: CheckRun, account: Account) -> Point | None:
    """Since when, the highest, and how much now."""
    books = run.books
    rows = sorted(
        (
            (posted.posting_date, posted.id, line.amount)
            for posted, line in books.lines_on(account.code)
            if posted.id not in books.never_was
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
    words = books.client.currency.format_amount
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
            f"{account.name} is overdrawn by {words(balance)}, since {format_date(since)}; at most by "
            f"{words(highest)} on {format_date(highest_on)}."
        ),
        short=f"{account.name}, {words(balance)}",
        because=("the owner owes the company: interest, tax or a repayment may follow from it",),
        remedy=DraftEntry(
            on=run.today,
            sides=(Side(account.code, -balance), Side("", balance)),
            title="Clear it: by a dividend, by pay, or shown apart as what the owner owes",
            reason=f"What {account.name} was overdrawn by, as it was decided.",
            asks=True,
            account=_dividends(run.books, balance),
        ),
    )


def _dividends(books: Books, amount: Minor) -> str:
    """The account that dividends are declared on, where so much was earned; empty elsewhere."""
    kept = books.with_role(AccountRole.RETAINED_EARNINGS, AccountRole.DIVIDENDS)
    earned = -sum(line.amount for account in kept for _, line in books.lines_on(account.code))
    declared = books.with_role(AccountRole.DIVIDENDS)
    return declared[0].code if declared and earned >= amount else ""
