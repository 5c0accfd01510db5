"""Financial years, periods and who may post in them (handbook, section 2)."""

import calendar as days_of_months
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from functools import cached_property
from typing import NamedTuple

from corkpost.core.formatting import format_date
from corkpost.core.kinds import PeriodState

ONE_DAY = timedelta(days=1)
FIRST_DAY, LAST_DAY = date(1900, 1, 1), date(2999, 12, 31)
"""Days outside of these are slips of the keyboard: readers of days refuse them."""


class FinancialYear(NamedTuple):
    """A financial year, both ends included. *due* is the day its sign-off is due, where given."""

    label: str
    first_day: date
    last_day: date
    due: date | None = None


class Reach(NamedTuple):
    """The days that books have financial years for, both included."""

    first_day: date
    last_day: date

    def holds(self, day: date) -> bool:
        return self.first_day <= day <= self.last_day


class Period(NamedTuple):
    """A month of a financial year (or what a short year has of it), both ends included."""

    first_day: date
    last_day: date

    @property
    def name(self) -> str:
        return f"{self.last_day:%b}"


def month_end(year: int, month: int, day: int) -> date:
    """The day *day* of that month, or the month's last where it has fewer."""
    year, month = year + (month - 1) // 12, (month - 1) % 12 + 1
    return date(year, month, min(day, days_of_months.monthrange(year, month)[1]))


def parse_year_end(text: str) -> tuple[int, int]:
    """Month and day of `12-31`. 28 February means the last of February. Raises ValueError."""
    month, day = (int(part) for part in text.split("-"))
    return year_end_on(date(2024, month, day))


def year_end_on(day: date) -> tuple[int, int]:
    """The year-end that a year has that ended on that day: of a month's last day, its last in any year."""
    last = days_of_months.monthrange(2023, day.month)[1]
    return day.month, 31 if day.day >= last else day.day


def ends_year(day: date, year_end: tuple[int, int]) -> bool:
    """Whether a year with that end ends on the day."""
    return day == month_end(day.year, *year_end)


def year_end_text(year_end: tuple[int, int]) -> str:
    """As `parse_year_end` reads it."""
    return f"{month_end(2023, *year_end):%m-%d}"


class PostingWindow(NamedTuple):
    """Dates from *first_day* to *last_day* in which *staff* may post, though the period is held or was
    barred by somebody; up to the end of *until*. What is filed or sealed stays barred."""

    staff: str
    first_day: date
    last_day: date
    until: date
    reason: str
    made_by: str
    made_at: str

    def holds(self, day: date) -> bool:
        return self.first_day <= day <= self.last_day


@dataclass(frozen=True)
class Calendar:
    """A client's years and periods and the posting states upon them.

    Years that the books name are taken as they are; before and after them years follow from the
    year-end, so that there is always a next year to reverse into.
    """

    year_end: tuple[int, int]
    named_years: tuple[FinancialYear, ...] = ()
    filed_through: date | None = None
    sealed_through: date | None = None
    states: Mapping[date, PeriodState] = field(default_factory=dict)
    """By the first day of a period: what somebody set it to. Open where nobody did."""
    opened_through: date | None = None
    """The end of the last year that somebody opened; None where nobody opened one."""

    def year_of(self, day: date) -> FinancialYear:
        """The financial year that *day* lies in."""
        if self.named_years:
            for year in self.named_years:
                if year.first_day <= day <= year.last_day:
                    return year
            if day > self.named_years[-1].last_day:
                return self._year_after(self.named_years[-1].last_day, day)
            return self._year_before(self.named_years[0].first_day, day)
        last_day = self._year_end_on_or_after(day)
        return self._plain_year(self._year_end_before(last_day) + ONE_DAY, last_day)

    def year_labelled(self, label: str) -> FinancialYear | None:
        """The year of that label; unnamed years are labelled by the calendar year they end in."""
        for year in self.named_years:
            if year.label == label:
                return year
        if not (len(label) == 4 and label.isascii() and label.isdigit()):
            return None
        if not FIRST_DAY.year < int(label) <= LAST_DAY.year:
            return None
        year = self.year_of(month_end(int(label), *self.year_end))
        return year if year.label == label else None

    def _year_end_on_or_after(self, day: date) -> date:
        candidate = month_end(day.year, *self.year_end)
        return candidate if candidate >= day else month_end(day.year + 1, *self.year_end)

    def _year_end_before(self, last_day: date) -> date:
        return month_end(last_day.year - 1, *self.year_end)

    def _plain_year(self, first_day: date, last_day: date) -> FinancialYear:
        return FinancialYear(str(last_day.year), first_day, last_day)

    def _year_after(self, last_day: date, day: date) -> FinancialYear:
        while True:
            first_day = last_day + ONE_DAY
            last_day = self._year_end_on_or_after(first_day)
            if day <= last_day:
                return self._plain_year(first_day, last_day)

    def _year_before(self, first_day: date, day: date) -> FinancialYear:
        last_day = first_day - ONE_DAY
        while True:
            first_day = self._year_end_before(last_day) + ONE_DAY
            if day >= first_day:
                return self._plain_year(first_day, last_day)
            last_day = first_day - ONE_DAY

    def next_year(self, year: FinancialYear) -> FinancialYear:
        return self.year_of(year.last_day + ONE_DAY)

    def previous_year(self, year: FinancialYear) -> FinancialYear:
        return self.year_of(year.first_day - ONE_DAY)

    def periods(self, year: FinancialYear) -> tuple[Period, ...]:
        """The periods of *year*, earliest first: months that end on the year-end's day."""
        ends = list(self._period_ends(year))
        starts = [year.first_day, *(end + ONE_DAY for end in ends[:-1])]
        return tuple(Period(*span) for span in zip(starts, ends, strict=True))

    def _period_ends(self, year: FinancialYear) -> Iterator[date]:
        last = year.last_day
        day = 31 if (last + ONE_DAY).day == 1 else last.day
        ends = []
        month = last.month
        end = last
        while end >= year.first_day:
            ends.append(end)
            month -= 1
            end = month_end(last.year, month, day)
        return reversed(ends)

    def period_of(self, day: date) -> Period:
        return next(p for p in self.periods(self.year_of(day)) if p.first_day <= day <= p.last_day)

    @cached_property
    def barred_through(self) -> date | None:
        """The last day that filing or a seal bars; None where neither does."""
        return max((day for day in (self.filed_through, self.sealed_through) if day), default=None)

    def state_on(self, day: date) -> PeriodState:
        """Who may post on *day*. Filing and sealing bar, whatever somebody set."""
        if self.barred_through and day <= self.barred_through:
            return PeriodState.BARRED
        return self.set_state(self.period_of(day)) if self.states else PeriodState.OPEN

    def set_state(self, period: Period) -> PeriodState:
        """What somebody set the period to; open where nobody did."""
        return self.states.get(period.first_day, PeriodState.OPEN)

    def without_bars(self) -> "Calendar":
        """The calendar as it would be if nobody had barred a period: filed and sealed spans stay."""
        states = {d: s for d, s in self.states.items() if s is not PeriodState.BARRED}
        return replace(self, states=states)

    def with_window(self, window: PostingWindow) -> "Calendar":
        """The calendar as it is for who has the window: the periods that it touches are open."""
        kept = {
            first: state
            for first, state in self.states.items()
            if not (first <= window.last_day and self.period_of(first).last_day >= window.first_day)
        }
        return replace(self, states=kept)

    def why_barred(self, day: date) -> str:
        """In words, for a day that is barred."""
        if self.filed_through and day <= self.filed_through:
            return f"the year is filed through {format_date(self.filed_through)}"
        if self.sealed_through and day <= self.sealed_through:
            return f"the trial balance is signed off and sealed as at {format_date(self.sealed_through)}"
        return f"the period to {format_date(self.period_of(day).last_day)} was barred"

    def first_open_day(self, after: date) -> date:
        """The first day on or after *after* that is not barred (a held one counts as open)."""
        day = after
        if self.barred_through and day <= self.barred_through:
            day = self.barred_through + ONE_DAY
        while self.state_on(day) is PeriodState.BARRED:
            day = self.period_of(day).last_day + ONE_DAY
        return day
