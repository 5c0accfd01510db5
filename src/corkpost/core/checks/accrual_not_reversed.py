"""accrual-not-reversed: an accrual, prepayment or deferral with no reversal in the next period.

Keeps quiet: about those meant to stand, which are released in parts, were raised more than once alike, or
say that they are for years.
"""

from collections.abc import Iterator
from datetime import timedelta

from corkpost.core.books import Account, Line, Transaction
from corkpost.core.evidence.provisions import stands_for_years
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.matching.accruals import NEXT_PERIOD, Accrued, pairs_of
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "accrual-not-reversed",
    family=Family.PERIODS,
    routes=("adjust", "ask", "leave", "waive"),
    finds="accruals and prepayments that nothing took back",
    avoid=(
        "An entry made at a month's end for what is not billed yet is taken back at the start"
        " of the next month."
    ),
    assumes=True,
)


PAPERS = (TransactionKind.PURCHASE_BILL, TransactionKind.DIRECT_PAYMENT)


def find(run: CheckRun) -> Iterator[Point]:
    for accrued in pairs_of(run.books).standing:
        over = accrued.posted.change is None and run.today - accrued.day > NEXT_PERIOD
        if over and not _is_for_years(run, accrued):
            yield _point(run, accrued)
    yield from _brought_forward(run)


def _brought_forward(run: CheckRun) -> Iterator[Point]:
    """What was accrued at the beginning and stands whole, where its paper came and went to a cost once
    more."""
    books = run.books
    for account in books.with_role(AccountRole.ACCRUAL):
        rows = [(posted, line) for posted, line in books.lines_on(account.code)]
        opened = [row for row in rows if row[0].kind is TransactionKind.OPENING]
        if len(opened) != 1 or opened[0][1].amount >= 0:
            continue
        ((opening, line),) = opened
        until = opening.posting_date + NEXT_PERIOD
        released = any(
            other.amount > 0 for posted, other in rows if posted.id not in books.never_was
        )
        if released or run.today <= until:
            continue
        came = [
            (posted, cost)
            for posted in books.of_kinds(*PAPERS)
            if opening.posting_date <= posted.posting_date <= until
            and not books.is_answered(posted.id)
            for cost in posted.lines
            if cost.amount == -line.amount and books.accounts[cost.account].is_profit_and_loss
        ]
        if len(came) == 1:
            yield _came_again(run, account, opening, *came[0])


def _came_again(
    run: CheckRun, account: Account, opening: Transaction, paper: Transaction, cost: Line
) -> Point:
    books = run.books
    words = books.client.currency.format_amount(cost.amount)
    name = books.accounts[cost.account].name
    return CHECK.point(
        books,
        subjects={"held": (opening.id,), "paper": (paper.id,)},
        account=account.code,
        amount=cost.amount,
        certainty=0.88,
        summary=(
            f"{words} stood accrued on {account.name} at the beginning and was never taken back; "
            f"{paper.reference or paper.id} of {format_date(paper.posting_date)} put the same sum on "
            f"{name}."
        ),
        short=f"{account.name}, {words} brought forward",
        because=("nothing has taken it back", "a paper of exactly that sum came within two months"),
        remedy=DraftEntry(
            on=paper.posting_date,
            sides=(Side(account.code, cost.amount), Side(cost.account, -cost.amount)),
            title=f"Take it back against {name}",
            reason=f"Accrued at the beginning; {paper.reference or paper.id} came for it.",
            answers=paper.id,
        ),
    )


def _is_for_years(run: CheckRun, accrued: Accrued) -> bool:
    year_ends = run.books.calendar.year_of(accrued.day).last_day
    name = run.books.accounts[accrued.holding].name
    return stands_for_years(accrued.posted.memo or "", name, accrued.day, year_ends)


def _point(run: CheckRun, accrued: Accrued) -> Point:
    books = run.books
    period = books.calendar.period_of(accrued.day)
    first_day = period.last_day + timedelta(days=1)
    holding, result = books.accounts[accrued.holding], books.accounts[accrued.result]
    words = books.client.currency.format_amount
    return CHECK.point(
        books,
        subjects={"held": (accrued.posted.id,)},
        amount=abs(accrued.amount),
        certainty=0.88,
        summary=(
            f"{accrued.posted.memo or accrued.posted.id}: {words(abs(accrued.amount))} went to "
            f"{holding.name} on {format_date(accrued.day)}, and nothing took it back in the next period."
        ),
        short=f"{accrued.posted.memo or accrued.posted.id}",
        because=(f"no entry on {holding.name} within two months goes the other way",),
        remedy=DraftEntry(
            on=first_day,
            sides=(Side(accrued.holding, -accrued.amount), Side(accrued.result, accrued.amount)),
            title=f"Reverse it on {format_date(books.calendar.first_open_day(first_day))}",
            reason=f"{accrued.posted.id} ({result.name}) reversed at the start of the next period.",
            answers=accrued.posted.id,
        ),
    )
