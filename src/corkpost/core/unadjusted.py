"""The schedule of unadjusted differences: what was waived, and what it would have moved (section 9)."""

from collections.abc import Iterable
from datetime import date
from typing import NamedTuple

from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.dating import materiality
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.money import Minor
from corkpost.core.points import Point
from corkpost.core.refusals import Refusal
from corkpost.core.routes import options_for, plan_route
from corkpost.core.trial_balance import balances, profit_of


class Difference(NamedTuple):
    """One that was waived. *profit*, *net_assets*: what correcting it would add to them by the day; None
    where no correction is worked out."""

    point: Point
    profit: Minor | None
    net_assets: Minor | None


class Worth(NamedTuple):
    """What a plan adds by a day. *tax*: to reclaim positive."""

    profit: Minor
    tax: Minor
    net_assets: Minor


class Schedule(NamedTuple):
    """*gross*: the amounts without their signs, which stand against *materiality*.

    *profit*, *net_assets*: the sums of what is known.
    """

    rows: tuple[Difference, ...]
    gross: Minor
    profit: Minor
    net_assets: Minor
    materiality: Minor


def unadjusted(books: Books, waived: Iterable[Point], as_at: date) -> Schedule:
    """The differences that were waived, the largest first, with what they come to by *as_at*."""
    points = sorted(waived, key=lambda point: (-point.amount, point.id))
    rows = tuple(_difference(books, point, as_at) for point in points)
    return Schedule(
        rows,
        sum(row.point.amount for row in rows),
        sum(row.profit or 0 for row in rows),
        sum(row.net_assets or 0 for row in rows),
        materiality(books),
    )


def _difference(books: Books, point: Point, as_at: date) -> Difference:
    plan = _recommended(books, point)
    if plan is None:
        return Difference(point, None, None)
    worth = worth_of(plan, books, as_at)
    return Difference(point, worth.profit, worth.net_assets)


def worth_of(plan: Plan, books: Books, as_at: date) -> Worth:
    """What posting the plan would add by the end of *as_at*: to profit, to tax (to reclaim positive) and
    to net assets."""
    moved = balances(plan.entries, books, as_at)
    accounts = {code: books.accounts[code] for code in moved if code in books.accounts}
    return Worth(
        profit_of(moved, books),
        sum(moved[code] for code, account in accounts.items() if account.role is AccountRole.TAX),
        sum(
            moved[code]
            for code, account in accounts.items()
            if account.type in (AccountType.ASSET, AccountType.LIABILITY)
        ),
    )


def _recommended(books: Books, point: Point) -> Plan | None:
    """What the first way that posts would post; None where none can be taken as it is."""
    for option in options_for(books, point):
        try:
            return ready(plan_route(books, point, option.route, option.settings), books)
        except Refusal:
            continue
    return None
