"""payroll-not-cleared: net pay or payroll taxes owed that were never paid, or paid and coded elsewhere.

Keeps quiet: while they are not due by the client's own habit.
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from datetime import timedelta
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.formatting import format_date
from corkpost.core.kinds import MONEY_ROLES, AccountRole, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import Moving, Side

CHECK = Check(
    "payroll-not-cleared",
    family=Family.PROOF,
    routes=("reclassify", "ask", "leave", "waive"),
    explains=("payment",),
    follows=("payroll-disagrees",),
    finds="wages or payroll taxes that stand owed beside the payment that cleared them",
    avoid=(
        "Wages and payroll taxes that leave the bank go to the account on which they stand "
        "owed, not to wages again."
    ),
    assumes=True,
)
DUE = {AccountRole.PAYROLL_NET: 20, AccountRole.PAYROLL_TAX: 95}
"""Days after the journal, where the client's habit is not known."""
GRACE = 15
EARLY = 5


class _Owed(NamedTuple):
    posted: Transaction
    amount: Minor


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    known_until = min(run.today, books.received_through or run.today)
    taken: set[str] = set()
    for account in books.with_role(*DUE):
        owed, lags = _uncleared(books, account.code)
        # What an entry of ours brings to the bureau's figure could not be paid before it was known.
        owed = [wages for wages in owed if wages.posted.change is None]
        usual = max(lags[-12:]) if len(lags) >= 3 else DUE[account.role]
        for wages in owed:
            if wages.posted.posting_date + timedelta(days=usual + GRACE) > known_until:
                continue
            payment = _paid_elsewhere(books, wages, usual, taken)
            if payment is not None:
                taken.add(payment.id)
            yield _point(run, account.code, wages, payment)


def _uncleared(books: Books, account: str) -> tuple[list[_Owed], list[int]]:
    """What is left owed of each journal, and after how many days the others were cleared.

    Equal sums first, those of a line and of a whole journal, then the oldest: a payment of several months'
    taxes clears them in their order.
    """
    rows = [row for row in books.lines_on(account) if row[0].id not in books.never_was]
    rows.sort(key=lambda row: row[0].posting_date)
    credits = [_Owed(posted, -line.amount) for posted, line in rows if line.amount < 0]
    debits = [_Owed(posted, line.amount) for posted, line in rows if line.amount > 0]
    left = [owed.amount for owed in credits]
    lags, rest = _paid_in_one(credits, left, debits)
    credits, left = _by_journal(credits, left)
    more, rest = _paid_in_one(credits, left, rest)
    lags += more + _paid_in_turn(credits, left, rest)
    return [owed._replace(amount=x) for owed, x in zip(credits, left, strict=True) if x], lags


def _by_journal(credits: list[_Owed], left: list[Minor]) -> tuple[list[_Owed], list[Minor]]:
    """What several lines of one journal leave owed, as one."""
    sums: dict[str, _Owed] = {}
    for owed, amount in zip(credits, left, strict=True):
        if amount:
            before = sums.get(owed.posted.id, owed._replace(amount=0))
            sums[owed.posted.id] = before._replace(amount=before.amount + amount)
    return list(sums.values()), [owed.amount for owed in sums.values()]


def _paid_in_one(
    credits: list[_Owed], left: list[Minor], debits: Iterable[_Owed]
) -> tuple[list[int], list[_Owed]]:
    """After how many days a payment of the very sum came, and the payments that are of none. What is
    paid goes from *left*, of each journal what is still owed."""
    by_sum: dict[Minor, list[int]] = defaultdict(list)
    for place, owed in enumerate(credits):
        by_sum[owed.amount].append(place)
    lags: list[int] = []
    rest: list[_Owed] = []
    for money in debits:
        same = [p for p in by_sum[money.amount] if left[p] == money.amount]
        within = [p for p in same if -EARLY <= _days(credits[p], money) <= max(DUE.values())]
        if not within:
            rest.append(money)
            continue
        nearest = min(within, key=lambda p: abs(_days(credits[p], money)))
        lags.append(max(0, _days(credits[nearest], money)))
        left[nearest] = 0
    return lags, rest


def _paid_in_turn(credits: list[_Owed], left: list[Minor], rest: Iterable[_Owed]) -> list[int]:
    """The same for the other payments: the oldest that is still owed first."""
    lags: list[int] = []
    for money in rest:
        amount = money.amount
        for place in _in_turn(credits, left, money):
            owed = credits[place]
            if amount <= 0:
                break
            used = min(amount, left[place])
            if used:
                left[place] -= used
                amount -= used
                lags.append(max(0, _days(owed, money)))
    return lags


def _in_turn(credits: list[_Owed], left: list[Minor], money: _Owed) -> list[int]:
    """The oldest first; before it what is owed of the last weeks, the latest first, as far as the payment
    covers it: with a correction of ours to the same journal."""
    due = [p for p, x in enumerate(credits) if _days(x, money) >= -_SLACK.days and left[p]]
    near: list[int] = []
    rest = money.amount
    for place in reversed(due):
        if 0 <= _days(credits[place], money) <= _SLACK.days and left[place] <= rest:
            near.append(place)
            rest -= left[place]
    return [*near, *(place for place in due if place not in near)]


_SLACK = timedelta(days=40)
"""Wages may leave the bank before their journal's day."""


def _days(owed: _Owed, money: _Owed) -> int:
    return (money.posted.posting_date - owed.posted.posting_date).days


def _paid_elsewhere(books: Books, owed: _Owed, usual: int, taken: set[str]) -> Transaction | None:
    """A payment of that sum, about when it is due, that was coded to a cost."""
    first = owed.posted.posting_date - timedelta(days=EARLY)
    last = owed.posted.posting_date + timedelta(days=usual + 2 * GRACE)
    found = [
        posted
        for posted in _payments(books).get(owed.amount, ())
        if first <= posted.posting_date <= last
        and posted.id not in taken
        and not books.is_answered(posted.id)
    ]
    return min(
        found, key=lambda posted: abs((posted.posting_date - owed.posted.posting_date).days),
        default=None,
    )  # fmt: skip


def _payments(books: Books) -> Mapping[Minor, tuple[Transaction, ...]]:
    """Payments from a bank to one cost, without tax or party, by sum."""
    return books.rows_by(
        "payments to one cost", lambda posted: _sum(books, posted), TransactionKind.DIRECT_PAYMENT
    )


def _sum(books: Books, posted: Transaction) -> Iterator[Minor]:
    other = [x for x in posted.lines if books.accounts[x.account].role not in MONEY_ROLES]
    plain = len(posted.lines) == 2 and len(other) == 1
    if plain and books.accounts[other[0].account].is_profit_and_loss:
        yield other[0].amount


def _point(run: CheckRun, account: str, owed: _Owed, payment: Transaction | None) -> Point:
    books = run.books
    words = books.client.currency.format_amount
    name = books.accounts[account].name
    of = f"{words(owed.amount)} of {name} from {format_date(owed.posted.posting_date)}"
    if payment is None:
        return CHECK.point(
            books,
            subjects={"owed": (owed.posted.id,)},
            about={"account": (account,)},
            account=account,
            amount=owed.amount,
            certainty=0.72,
            summary=f"{of} stands owed and no payment of that sum is in the books.",
            short=f"{name}, {owed.posted.posting_date:%B %Y}",
            because=("the others were paid by then",),
            routes=("ask", "leave", "waive"),
        )
    (line,) = [x for x in payment.lines if books.accounts[x.account].is_profit_and_loss]
    coded = books.accounts[line.account].name
    return CHECK.point(
        books,
        subjects={"payment": (payment.id,), "owed": (owed.posted.id,)},
        about={"account": (account,)},
        account=account,
        amount=owed.amount,
        certainty=0.93,
        summary=(
            f"{of} stands owed; {words(line.amount)} was paid on {format_date(payment.posting_date)} and "
            f"coded to {coded}: the cost is counted twice."
        ),
        short=f"{name}, {owed.posted.posting_date:%B %Y}",
        because=("the very sum that is owed", "paid about when it is due"),
        remedy=Moving(
            sides=(
                Side(account, line.amount),
                Side(line.account, -line.amount, None, line.tax_code, line.dimensions),
            ),
            title=f"Move it to {name}",
            reason=f"{payment.id} paid {name} of {owed.posted.posting_date:%B %Y}.",
        ),
    )
