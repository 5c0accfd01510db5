"""Sums that are carried on by steps, and which of those are due."""

import calendar as days_of_months
from collections.abc import Iterator
from datetime import date
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.money import Minor, rounded
from corkpost.core.periods import month_end
from corkpost.core.row_kinds import schedule_steps, schedules, standing
from corkpost.core.row_kinds.schedules import Schedule, Step


class Due(NamedTuple):
    """A step that is not posted yet."""

    schedule: Schedule
    step: Step


def schedules_of(books: Books) -> tuple[Schedule, ...]:
    """Every schedule that stands, in the order in which they were made."""
    return tuple(standing(schedules.KIND, books))


def next_schedule(books: Books, recipe: str) -> str:
    """The name of the schedule that is made next."""
    return f"{recipe}-{len(books.tables.of(schedules.KIND.name)) + 1}"


def due(books: Books, until: date) -> Iterator[Due]:
    """The steps up to the end of *until* that are not posted, by schedule and day. What repeats an entry
    that was taken back is not due."""
    posted = {(row.schedule, row.day) for row in standing(schedule_steps.KIND, books)}
    for schedule in schedules_of(books):
        if schedule.copies in books.never_was:
            continue
        for step in schedule.steps:
            if step.day <= until and (schedule.schedule, step.day) not in posted:
                yield Due(schedule, step)


class Spread(NamedTuple):
    """A sum over days from *first* to *last*, both included. *by_days*: each day bears the same; else each
    month, of which the first counts whole."""

    amount: Minor
    first: date
    last: date
    by_days: bool

    def until(self, day: date) -> Minor:
        """The part of the days up to the end of *day*. Parts are taken off a running total, so that they
        add up exactly."""
        if day < self.first:
            return 0
        if day >= self.last:
            return self.amount
        return rounded(self.amount * Fraction(self._passed(day), self.whole()))

    def steps(self, set_aside: date) -> tuple[Step, ...]:
        """A part each month's end, none of them before it was *set_aside*."""
        found: dict[date, Minor] = {}
        before, end = 0, month_end(self.first.year, self.first.month, 31)
        while before < self.amount:
            done = self.until(end)
            if done > before:
                day = max(end, set_aside)
                found[day] = found.get(day, 0) + done - before
            before, end = done, month_end(end.year, end.month + 1, 31)
        left, steps = self.amount, []
        for day, amount in found.items():
            left -= amount
            steps.append(Step(day, amount, left))
        return tuple(steps)

    def _passed(self, day: date) -> int:
        if self.by_days:
            return (day - self.first).days + 1
        ended = day.day == days_of_months.monthrange(day.year, day.month)[1]
        months = (day.year - self.first.year) * 12 + day.month - self.first.month + ended
        return min(months, self.whole())

    def whole(self) -> int:
        """The days, or the months, that it is over."""
        if self.by_days:
            return (self.last - self.first).days + 1
        months = (self.last.year - self.first.year) * 12 + self.last.month - self.first.month
        # From the 15th of March to the 14th of another is a whole number of months: the last is not begun.
        return max(1, months + (self.last.day >= self.first.day))
