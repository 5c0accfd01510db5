"""How much of an asset should be written off by a day, by its method (handbook, section 8).

Reckoned from the beginning each time, so that parts posted month by month add up exactly to the whole.
"""

import calendar as days_of_months
from collections.abc import Iterator, Sequence
from datetime import date
from enum import StrEnum
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.money import Minor, rounded
from corkpost.core.periods import ONE_DAY, Calendar, month_end
from corkpost.core.row_kinds.assets import FixedAsset


class Method(StrEnum):
    STRAIGHT_LINE = "straight-line"
    REDUCING_BALANCE = "reducing-balance"
    UNITS = "units"
    NONE = "none"


class Added(NamedTuple):
    """More of cost or value from that day on; less where it is below nil."""

    day: date
    amount: Minor


def written_off(
    asset: FixedAsset,
    as_at: date,
    calendar: Calendar,
    added: Sequence[Added] = (),
    units: Fraction = Fraction(0),
) -> Minor:
    """What should be written off by the end of *as_at*, positive. *units*: used up to then.

    The first month counts whole; a later one when it has ended. By days, both ends count.
    """
    if as_at < asset.bought:
        return 0
    added = sorted(row for row in added if row.day <= as_at)
    match Method(asset.method):
        case Method.NONE:
            return 0
        case Method.UNITS:
            base = asset.cost + sum(row.amount for row in added) - asset.residual
            share = min(Fraction(1), units / (asset.life or 1))
            return rounded(base * share)
        case Method.REDUCING_BALANCE:
            return _reducing(asset, as_at, calendar, added)
        case Method.STRAIGHT_LINE:
            return _straight(asset, as_at, added)


def _straight(asset: FixedAsset, as_at: date, added: Sequence[Added]) -> Minor:
    """The depreciable sum over its life; what is added is spread over what is left of that."""
    total = _life(asset)
    cost, done, since, passed = asset.cost, 0, asset.bought, Fraction(0)
    for row in added:
        done += _share(
            cost - asset.residual - done, asset, since, row.day - ONE_DAY, total - passed
        )
        passed += _elapsed(asset, since, row.day - ONE_DAY, first=since == asset.bought)
        cost, since = cost + row.amount, row.day
    return done + _share(
        cost - asset.residual - done,
        asset,
        since,
        as_at,
        total - passed,
        first=since == asset.bought,
    )


def _share(
    left: Minor, asset: FixedAsset, since: date, to: date, life: Fraction, *, first: bool = True
) -> Minor:
    if to < since:
        return 0
    if life <= 0:
        return left
    return rounded(left * min(Fraction(1), _elapsed(asset, since, to, first=first) / life))


def _life(asset: FixedAsset) -> Fraction:
    """Its life in the parts that its years are counted in: months, or days."""
    years = asset.life or (Fraction(100) / asset.rate if asset.rate else Fraction(1))
    if asset.part == "month":
        return years * 12
    end = _years_on(asset.bought, int(years))
    return Fraction((end - asset.bought).days) + (years - int(years)) * 365


def _years_on(day: date, years: int) -> date:
    return month_end(day.year + years, day.month, day.day)


def _elapsed(asset: FixedAsset, since: date, to: date, *, first: bool = True) -> Fraction:
    """The months, or days, from *since* to the end of *to*. *first*: the month of *since* counts whole;
    else it counts from the next on where it is not begun with."""
    if to < since:
        return Fraction(0)
    if asset.part == "day":
        return Fraction((to - since).days + 1)
    ended = to.day == days_of_months.monthrange(to.year, to.month)[1]
    months = (to.year - since.year) * 12 + to.month - since.month + ended
    return Fraction(months if first or since.day == 1 else max(0, months))


def _reducing(asset: FixedAsset, as_at: date, calendar: Calendar, added: Sequence[Added]) -> Minor:
    """A percentage a year of what is left at its beginning, never below the residual value."""
    rate = (asset.rate or Fraction(0)) / 100
    left, done, day = asset.cost, 0, asset.bought
    while day <= as_at:
        year = calendar.year_of(day)
        to = min(year.last_day, as_at)
        off = left * rate * _of_year(asset, day, to)
        for row in added:
            if day <= row.day <= to or (day == asset.bought and row.day < day):
                off += row.amount * rate * _of_year(asset, max(row.day, day), to)
        amount = rounded(off)
        left += sum(row.amount for row in added if day <= row.day <= to)
        amount = max(0, min(amount, left - asset.residual))
        left -= amount
        done += amount
        day = year.last_day + ONE_DAY
    return done


def _of_year(asset: FixedAsset, since: date, to: date) -> Fraction:
    elapsed = _elapsed(asset, since, to)
    return elapsed / 12 if asset.part == "month" else min(Fraction(1), elapsed / 365)


class YearOfAsset(NamedTuple):
    """*label* of the financial year; *amount* written off in it; *left* at its end."""

    label: str
    last_day: date
    amount: Minor
    left: Minor


def years_of(
    asset: FixedAsset, calendar: Calendar, added: Sequence[Added] = (), most: int = 120
) -> Iterator[YearOfAsset]:
    """What each financial year writes off, until nothing is left to, or *most* years have passed. None for
    what is written off by units or not at all."""
    if Method(asset.method) in (Method.NONE, Method.UNITS):
        return
    before, day = 0, asset.bought
    for _ in range(most):
        year = calendar.year_of(day)
        done = written_off(asset, year.last_day, calendar, added)
        cost = asset.cost + sum(row.amount for row in added if row.day <= year.last_day)
        yield YearOfAsset(year.label, year.last_day, done - before, cost - done)
        spent = done == before and day > asset.bought and asset.method == Method.REDUCING_BALANCE
        if done >= cost - asset.residual or spent:
            return
        before, day = done, year.last_day + ONE_DAY
