"""Posting states of periods."""

from datetime import date

from corkpost.core.change import refuse_out_of_reach
from corkpost.core.kinds import PeriodState, Role
from corkpost.core.periods import FinancialYear, Period
from corkpost.core.refusals import BarredDate, NoReason, NotAllowed, UnknownName
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
