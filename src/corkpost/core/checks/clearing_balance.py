"""clearing-balance: what is left on clearing and suspense accounts, item by item after pairing.

A pay-out that is short of what it is for by the payer's usual fee is one point: the fee is missing
(handbook, worked example 19). Keeps quiet: about what was put there within the last 14 days, which may
still clear by itself.
"""

from collections.abc import Iterator
from datetime import date, timedelta
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.formatting import format_date
from corkpost.core.kinds import MONEY_ROLES, AccountRole
from corkpost.core.matching.clearing import left_after_pairing
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "clearing-balance",
    family=Family.BANK,
    routes=("reclassify", "ask", "leave"),
    follows=("transfer-miscoded", "control-without-party"),
    finds="what is left on clearing and suspense accounts",
    avoid="Whatever goes onto a clearing account must leave it again: look at it at the end of the month.",
    assumes=True,
)
PASSED_THROUGH = (AccountRole.CLEARING, AccountRole.SUSPENSE, AccountRole.CARD_CLEARING)
CLEARS_WITHIN = timedelta(days=14)
PASSING = frozenset({*MONEY_ROLES, AccountRole.CLEARING, AccountRole.CARD_CLEARING})
PAID_OUT_WITHIN = timedelta(days=45)
USUAL_FEES = 3
"""Fees of earlier pay-outs, from which on their share of the gross is a habit."""
NEARLY = Fraction(2, 100)


class _Left(NamedTuple):
    posted: Transaction
    amount: Minor


class _FeeHabit(NamedTuple):
    """*share*: of the gross that passed through."""

    account: str
    share: Fraction


class _Short(NamedTuple):
    """A pay-out and the gross that it is for; *fee* is what lies between them, positive."""

    gross: _Left
    net: _Left
    habit: _FeeHabit

    @property
    def fee(self) -> Minor:
        return self.gross.amount + self.net.amount


def find(run: CheckRun) -> Iterator[Point]:
    until = run.books.received_through or run.today
    for account in run.books.with_role(*PASSED_THROUGH):
        left = [_Left(*row) for row in left_after_pairing(run.books, account.code)]
        left = [
            remainder for remainder in left if until - remainder.posted.posting_date > CLEARS_WITHIN
        ]
        for short in _without_fee(run.books, account.code, left):
            left = [remainder for remainder in left if remainder not in (short.gross, short.net)]
            yield _fee_point(run, account.code, short)
        # Of a shop's card takings what else is left is told day by day, as takings.
        for remainder in left if account.role is not AccountRole.CARD_CLEARING else ():
            yield _point(run, account.code, remainder.posted, remainder.amount, until)


def _without_fee(books: Books, account: str, left: list[_Left]) -> Iterator[_Short]:
    habit = _fee_habit(
        books, account, sum(remainder.amount for remainder in left if remainder.amount > 0)
    )
    if habit is None:
        return
    used: set[str] = set()
    for gross in (remainder for remainder in left if remainder.amount > 0):
        for net in (
            remainder
            for remainder in left
            if remainder.amount < 0 and remainder.posted.id not in used
        ):
            short = _Short(gross, net, habit)
            near = abs(net.posted.posting_date - gross.posted.posting_date) <= PAID_OUT_WITHIN
            usual = abs(Fraction(short.fee, gross.amount) - habit.share) <= NEARLY
            if near and short.fee > 0 and usual:
                used.add(net.posted.id)
                yield short
                break


def _fee_habit(books: Books, account: str, left: Minor) -> _FeeHabit | None:
    """The cost account and the share of the fees that were kept back before; None where too few were.

    *left*: the gross of which nothing is known yet.
    """
    gross = -left
    fees: dict[str, list[Minor]] = {}
    for posted, line in books.lines_on(account):
        if line.amount > 0:
            gross += line.amount
            continue
        costs = [x for x in posted.lines if books.accounts[x.account].is_profit_and_loss]
        if len(costs) == 1 and costs[0].amount > 0:
            kept_back = [x for x in posted.lines if books.accounts[x.account].role not in PASSING]
            fees.setdefault(costs[0].account, []).append(sum(x.amount for x in kept_back))
    if not fees or gross <= 0:
        return None
    usual, amounts = max(fees.items(), key=lambda pair: (len(pair[1]), pair[0]))
    return _FeeHabit(usual, Fraction(sum(amounts), gross)) if len(amounts) >= USUAL_FEES else None


def _fee_point(run: CheckRun, account: str, short: _Short) -> Point:
    books = run.books
    words = books.client.currency.format_amount
    cost, name = books.accounts[short.habit.account].name, books.accounts[account].name
    paid = short.net.posted
    return CHECK.point(
        books,
        subjects={"gross": (short.gross.posted.id,), "net": (paid.id,)},
        account=account,
        amount=short.fee,
        certainty=0.93,
        summary=(
            f"{words(-short.net.amount)} was paid out on {format_date(paid.posting_date)} for "
            f"{words(short.gross.amount)}: the fee of {words(short.fee)} is not in the books."
        ),
        short=f"{name}, a fee of {words(short.fee)}",
        because=(f"such pay-outs are net of a fee, on {cost}", "of just that share"),
        routes=("adjust", "ask", "leave"),
        remedy=DraftEntry(
            on=paid.posting_date,
            sides=(Side(short.habit.account, short.fee), Side(account, -short.fee)),
            title=f"Post the fee of {words(short.fee)} to {cost}",
            reason=f"Fee kept back from {paid.id}; {name} is nil for it.",
        ),
    )


def _point(run: CheckRun, account: str, posted: Transaction, amount: Minor, until: date) -> Point:
    words = run.books.client.currency.format_amount(amount)
    name = run.books.accounts[account].name
    days = (until - posted.posting_date).days
    return CHECK.point(
        run.books,
        subjects={"left": (posted.id,)},
        account=account,
        amount=amount,
        certainty=0.9,
        summary=(
            f"{words} of {posted.id} is left on {name} since {format_date(posted.posting_date)}: "
            "nothing that came after it clears it."
        ),
        short=f"{days} days on {name}",
        because=("no entry or set of entries on the account makes it nil",),
    )
