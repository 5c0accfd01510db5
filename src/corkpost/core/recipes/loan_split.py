"""A payment of a loan, split: interest to its cost, the rest to the loan."""

from datetime import date
from typing import Any

from corkpost.core.asks import Ask, AskKind, Choice
from corkpost.core.books import Books
from corkpost.core.entries import EntryLine
from corkpost.core.kinds import AccountRole
from corkpost.core.loans import Basis, Payment, interest, payments
from corkpost.core.money import Minor
from corkpost.core.periods import ONE_DAY, month_end
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry
from corkpost.core.row_kinds.schedules import Schedule, Step
from corkpost.core.schedules import next_schedule
from corkpost.core.trial_balance import balances_at

BASIS = Ask(
    "basis",
    AskKind.CHOICE,
    "Days of a year",
    Basis.THIRTY,
    (Choice(Basis.THIRTY, "30/360"), Choice(Basis.ACTUAL, "actual/365")),
)
COST = Ask(
    "cost", AskKind.ACCOUNT, "Cost of interest", needed=True, roles=(AccountRole.LOAN_INTEREST,)
)


def _make(books: Books, told: Told) -> Made:
    on, payment = told.day("date"), told.amount("payment")
    loan, stands = _loan_and_where(books, told)
    owed = owed_at(books, loan, on - ONE_DAY)
    rate, basis = told.maybe_percent("rate"), Basis(told.text("basis"))
    bears = told.maybe_amount("interest")
    words = books.client.currency.format_amount
    working = [f"owed before it: {words(owed)}"]
    if bears is None:
        if rate is None:
            raise BadEntry(["interest: say how much of it is interest, or the rate a year."])
        since = told.maybe_day("since") or _last_moved(books, loan, on)
        bears = interest(owed, rate, basis, since, on)
        working.append(
            f"{float(rate):g}% a year from {since:%-d %B %Y} to {on:%-d %B %Y}, {basis}: {words(bears)}"
        )
    if not 0 <= bears <= payment:
        raise BadEntry(["interest: it is no more than the payment."])
    left = owed - payment + bears
    working.append(f"interest {words(bears)}, capital {words(payment - bears)}, left {words(left)}")
    name = books.account(loan).name
    reason = f"{name}: payment of {on:%-d %B %Y} split into interest and capital."
    lines = [EntryLine(told.code("cost"), bears), EntryLine(loan, payment - bears)]
    if stands == loan:
        lines = [EntryLine(told.code("cost"), bears), EntryLine(loan, -bears)]
    else:
        lines.append(EntryLine(stands, -payment))
    if not any(line.amount for line in lines):
        return Made((), "None of it is interest, and it stands on the loan already.")
    coming: tuple[Payment, ...] = ()
    if rate is not None and left > 0:
        coming = tuple(payments(left, payment, rate, basis, on))
    rows: dict[str, tuple[Any, ...]] = {}
    if told.text("carries") == "yes" and coming:
        rows["schedules"] = (_schedule(books, told, name, coming),)
    return Made(
        (adjusting(on, reason, *lines),),
        reason,
        tuple(working),
        tuple(Step(row.day, row.amount, row.left) for row in coming),
        rows,
    )


def _loan_and_where(books: Books, told: Told) -> tuple[str, str]:
    """The loan, and the account that the payment stands on: where another account than a loan was named, it
    is that, of the only loan that there is."""
    named = told.code("account")
    loans = [account.code for account in books.with_role(AccountRole.LOAN)]
    if named in loans or len(loans) != 1:
        return named, told.maybe_code("stands_on") or named
    return loans[0], told.maybe_code("stands_on") or named


def _schedule(books: Books, told: Told, name: str, coming: tuple[Payment, ...]) -> Schedule:
    """The interest of the payments to come, each of which is booked on the loan whole."""
    steps = tuple(Step(row.day, row.interest, row.left) for row in coming if row.interest)
    return Schedule(
        next_schedule(books, RECIPE.id),
        RECIPE.id,
        f"Interest of {name}",
        told.code("cost"),
        _loan_and_where(books, told)[0],
        steps,
    )


def owed_at(books: Books, loan: str, day: date) -> Minor:
    """What is owed on the loan at the end of the day, positive."""
    return -balances_at(books, day).get(loan, 0)


def _last_moved(books: Books, loan: str, before: date) -> date:
    """The day of the last movement on the loan before that day; a month earlier where there is none."""
    days = [p.posting_date for p, _ in books.lines_on(loan) if p.posting_date < before]
    usual = month_end(before.year, before.month - 1, before.day)
    return max((day for day in days if day >= usual), default=usual)


RECIPE = Recipe(
    "loan-split",
    8,
    "Loan payment split",
    "What of a loan's payment is interest, and what pays it off; with the payments to the end.",
    (
        Ask("account", AskKind.ACCOUNT, "Loan", needed=True, roles=(AccountRole.LOAN,)),
        Ask("date", AskKind.DAY, "Paid on", needed=True),
        Ask("payment", AskKind.AMOUNT, "Payment", needed=True),
        Ask("interest", AskKind.AMOUNT, "Interest in it: by the rate unless told"),
        Ask("rate", AskKind.PERCENT, "Rate, percent a year"),
        BASIS,
        Ask("since", AskKind.DAY, "Interest runs from: the last payment unless told"),
        Ask(
            "stands_on", AskKind.ACCOUNT, "Account that the payment stands on: the loan unless told"
        ),
        COST,
        Ask(
            "carries",
            AskKind.CHOICE,
            "Interest of the payments to come",
            "no",
            (Choice("no", "is not carried on"), Choice("yes", "is offered when it is due")),
        ),
    ),
    _make,
)
