"""A loan's interest by days, and its payments to the end (handbook, section 8)."""

from collections.abc import Iterator
from datetime import date
from enum import StrEnum
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.money import Minor, rounded
from corkpost.core.periods import month_end
from corkpost.core.refusals import BadEntry

MOST_PAYMENTS = 720


class Basis(StrEnum):
    """How days make a year: each month thirty of 360, or the days that there were of 365."""

    THIRTY = "30/360"
    ACTUAL = "actual/365"


def year_part(basis: Basis, since: date, to: date) -> Fraction:
    """The part of a year from *since* to *to*; the first day does not count, the last does."""
    if basis is Basis.ACTUAL:
        return Fraction((to - since).days, 365)
    months = (to.year - since.year) * 12 + to.month - since.month
    # From one payment to the next is a month, whatever the days that February lacks.
    on = month_end(since.year, since.month + months, since.day)
    if to == on or since == month_end(to.year, to.month - months, to.day):
        return Fraction(months, 12)
    return Fraction(months * 30 + min(to.day, 30) - min(since.day, 30), 360)


def interest(owed: Minor, rate: Fraction, basis: Basis, since: date, to: date) -> Minor:
    """On *owed*, which is positive; *rate* in percent a year."""
    return rounded(owed * rate / 100 * year_part(basis, since, to))


class Payment(NamedTuple):
    """*amount*, of which *interest*; *left*: owed after it."""

    day: date
    amount: Minor
    interest: Minor
    left: Minor


def payments(
    owed: Minor, payment: Minor, rate: Fraction, basis: Basis, paid: date
) -> Iterator[Payment]:
    """The monthly payments after the one of *paid*, until nothing is owed; the last is what is left.

    Raises BadEntry where a payment does not even bear the interest.
    """
    since, months = paid, 0
    while owed > 0:
        months += 1
        day = month_end(paid.year, paid.month + months, paid.day)
        bears = interest(owed, rate, basis, since, day)
        if payment <= bears or months > MOST_PAYMENTS:
            raise BadEntry(
                ["payment: it never pays the loan off, for the interest is as much as that."]
            )
        amount = min(payment, owed + bears)
        owed += bears - amount
        yield Payment(day, amount, bears, owed)
        since = day


def level_payment(owed: Minor, rate: Fraction, months: int) -> Minor:
    """What is paid each month so that *owed* is paid off in so many, the interest in it."""
    by_month = rate / 1200
    if not by_month:
        return rounded(Fraction(owed, months))
    return rounded(owed * by_month / (1 - (1 + by_month) ** -months))
