"""The schedule of unadjusted differences: what was waived, and what it would have moved (section 9)."""

from collections.abc import Iterable
from datetime import date
from typing import NamedTuple

from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.dating import materiality
from corkpost.core.kinds import AccountType
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
    moved = balances(plan.entries, books, as_at)
    net = sum(
        amount
        for code, amount in moved.items()
        if code in books.accounts
        and books.accounts[code].type in (AccountType.ASSET, AccountType.LIABILITY)
    )
    return Difference(point, profit_of(moved, books), net)


def _recommended(books: Books, point: Point) -> Plan | None:
    """What the first way that posts would post; None where none can be taken as it is."""
    for option in options_for(books, point):
        try:
            return ready(plan_route(books, point, option.route, option.settings), books)
        except Refusal:
            continue
    return None
