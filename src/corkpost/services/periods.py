"""Posting states of periods."""

from datetime import date, timedelta
from typing import NamedTuple

from corkpost.core.change import refuse_out_of_reach
from corkpost.core.kinds import PeriodState, Role
from corkpost.core.periods import FinancialYear, Period, PostingWindow
from corkpost.core.refusals import BadEntry, BarredDate, NoReason, NotAllowed, UnknownName
from corkpost.services import staff
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store import periods as period_store
from corkpost.store.clients import raise_revision


def set_period(
    workplace: Workplace,
    person: Person,
    client_code: str,
    day: date,
    state: PeriodState,
    reason: str,
) -> Period:
    """Set who may post in the period of *day*; that period. A reason is needed.

    What was barred by hand only a partner opens again. What is filed or sealed stays barred: raises
    BarredDate; or NoYear for a day that the books have no year for.
    """
    person.must_be_allowed(May.SET_PERIODS)
    if not reason.strip():
        raise NoReason()
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        calendar = ledger.books.calendar
        refuse_out_of_reach(ledger.books, day)
        period = calendar.period_of(day)
        through = calendar.barred_through
        if through and period.first_day <= through and state is not PeriodState.BARRED:
            raise BarredDate(day, calendar.why_barred(day), calendar.first_open_day(day))
        was_barred = calendar.set_state(period) is PeriodState.BARRED
        if was_barred and person.role is not Role.PARTNER:
            raise NotAllowed("Only a partner reopens a barred period. Ask a partner to do it.")
        period_store.set_state(
            connection,
            ledger.client.id,
            period.first_day,
            state,
            reason=reason.strip(),
            made_by=person.code,
            made_at=workplace.now,
        )
        raise_revision(connection, ledger.client.id)
    return period


def open_year(workplace: Workplace, person: Person, client_code: str, label: str) -> FinancialYear:
    """Open the financial year of that label, which must be the next one. Raises UnknownName."""
    person.must_be_allowed(May.SET_PERIODS)
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        year = ledger.books.next_year
        if year.label != label:
            raise UnknownName("year to open next", label)
        period_store.add_year(
            connection, ledger.client.id, year.last_day, made_by=person.code, made_at=workplace.now
        )
        raise_revision(connection, ledger.client.id)
    return year


LONGEST_WINDOW = timedelta(days=366)


def grant_window(
    workplace: Workplace, person: Person, client_code: str, window: PostingWindow
) -> PostingWindow:
    """Let one person post from one day to another, until a day; only a partner where what is in it was
    barred. Raises BadEntry, NoReason, NotAllowed or UnknownName."""
    person.must_be_allowed(May.SET_PERIODS)
    if not window.reason.strip():
        raise NoReason()
    faults = []
    if window.last_day < window.first_day:
        faults.append("The last day of the window comes before its first.")
    if not workplace.today <= window.until <= workplace.today + LONGEST_WINDOW:
        faults.append("It may be used until today or a later day, a year from now at most.")
    if faults:
        raise BadEntry(faults)
    granted = window._replace(
        reason=window.reason.strip(),
        made_by=person.code,
        made_at=workplace.now.isoformat(timespec="seconds"),
    )
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        staff.person_named(workplace, window.staff).must_see(client_code)
        refuse_out_of_reach(ledger.books, window.first_day)
        refuse_out_of_reach(ledger.books, window.last_day)
        calendar = ledger.books.calendar
        barred = any(
            state is PeriodState.BARRED
            and first <= window.last_day
            and calendar.period_of(first).last_day >= window.first_day
            for first, state in calendar.states.items()
        )
        if barred and person.role is not Role.PARTNER:
            raise NotAllowed("Only a partner opens what was barred. Ask a partner to do it.")
        period_store.add_window(connection, ledger.client.id, granted)
        raise_revision(connection, ledger.client.id)
    return granted


class PostingRules(NamedTuple):
    """*history*: the latest first. *staff*: who sees the client."""

    windows: tuple[PostingWindow, ...]
    history: tuple[period_store.StateSet, ...]
    staff: tuple[str, ...]


def posting_rules(workplace: Workplace, person: Person, client_code: str) -> PostingRules:
    """Who may post where others may not, and what was held or barred by whom, when and why."""
    ledger = workplace.ledger(person, client_code)
    history = period_store.history_of(workplace.database.reading, ledger.client.id)
    everybody = (row.code for row in staff.everybody(workplace))
    seeing = tuple(
        code for code in everybody if staff.person_named(workplace, code).sees(client_code)
    )
    return PostingRules(ledger.windows, tuple(reversed(history)), seeing)
