"""What the practice sets for many clients at once, each by itself: what one refuses stops no other."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from datetime import date
from typing import NamedTuple

from corkpost.core.books import ClientFacts, Tables
from corkpost.core.client_facts import SetFacts, with_facts
from corkpost.core.formatting import format_date
from corkpost.core.keying import NotADay, keyed_day
from corkpost.core.kinds import PeriodState
from corkpost.core.periods import ONE_DAY, Calendar, Period
from corkpost.core.refusals import BadEntry, NoReason, Refusal
from corkpost.core.row_kinds import facts_set
from corkpost.services import acts, periods, staff
from corkpost.services.posting import PostRequest
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store.clients import all_clients, archived, facts_of
from corkpost.store.periods import opened_through, states_of
from corkpost.store.registers import standing_everywhere
from corkpost.store.sign_off import seals_of

CALENDAR_YEAR = Calendar((12, 31))
MOST_PERIODS = 60
"""Five years of months: nobody holds or opens more of them at once."""


class Standing(NamedTuple):
    """What the practice answers for about a client. *barred_through*, *held_through*: the last day of the
    last period that is so; *staff*: codes of who has it."""

    facts: ClientFacts
    barred_through: date | None
    held_through: date | None
    staff: tuple[str, ...]


class Outcome(NamedTuple):
    """What came of it for one client: *did*, in words, or why it was refused."""

    client: str
    did: str | None
    problem: str | None


def standing(workplace: Workplace, person: Person) -> tuple[Standing, ...]:
    """Every client that is worked on, by code. Raises NotAllowed for who does not run the practice."""
    person.must_be_allowed(May.RUN_PRACTICE)
    with workplace.database.snapshot() as connection:
        set_rows: dict[str, list[facts_set.FactSet]] = {}
        for code, row in standing_everywhere(connection, facts_set.KIND):
            set_rows.setdefault(code, []).append(row)
        given: dict[str, list[str]] = {}
        for member in staff.everybody(workplace):
            for code in member.clients:
                given.setdefault(code, []).append(member.code)
        found = []
        gone = archived(connection)
        for client in all_clients(connection):
            if client.id in gone:
                continue
            tables = Tables().with_rows(facts_set.KIND.name, tuple(set_rows.get(client.code, ())))
            facts = with_facts(facts_of(connection, client), tables)
            seals = [
                seal.as_at
                for seal in seals_of(connection, client.id, workplace.today)
                if seal.stands
            ]
            calendar = Calendar(
                year_end=facts.year_end,
                named_years=facts.years,
                filed_through=facts.filed_through,
                sealed_through=max(seals, default=None),
                states=states_of(connection, client.id),
                opened_through=opened_through(connection, client.id),
            )
            found.append(
                Standing(
                    facts,
                    _last(calendar, PeriodState.BARRED),
                    _last(calendar, PeriodState.HELD),
                    tuple(given.get(client.code, ())),
                )
            )
    return tuple(found)


def _last(calendar: Calendar, state: PeriodState) -> date | None:
    days = [
        calendar.period_of(first).last_day
        for first in calendar.states
        if calendar.state_on(first) is state
    ]
    through = calendar.barred_through if state is PeriodState.BARRED else None
    return max([*days, *([through] if through else [])], default=None)


def set_facts(
    workplace: Workplace,
    person: Person,
    clients: Sequence[str],
    facts: Mapping[str, str | None],
    reason: str,
) -> tuple[Outcome, ...]:
    """Set the same facts for each of these clients; a day in any of the short forms. Raises NotAllowed or
    NoReason."""
    person.must_be_allowed(May.RUN_PRACTICE)
    if not reason.strip():
        raise NoReason()

    def one(code: str) -> str:
        wanted = dict(facts)
        if engaged_on := wanted.get("engaged_on"):
            wanted["engaged_on"] = _day(workplace, person, code, engaged_on).isoformat()
        posted = acts.post(workplace, person, code, SetFacts(wanted), PostRequest(reason))
        return f"change {posted.number}"

    return tuple(_each(clients, one))


def set_states(
    workplace: Workplace,
    person: Person,
    clients: Sequence[str],
    through: str,
    state: PeriodState,
    reason: str,
) -> tuple[Outcome, ...]:
    """Set every period up to that day that is neither filed nor sealed, for each of these clients.

    *through*: in any of the short forms, each client's own (`pe`, `ye`). What was barred is opened only
    where that is what is asked for. Raises NotAllowed or NoReason.
    """
    person.must_be_allowed(May.RUN_PRACTICE)
    if not reason.strip():
        raise NoReason()

    def one(code: str) -> str:
        calendar = workplace.ledger(person, code).books.calendar
        last = _day(workplace, person, code, through)
        if calendar.barred_through and last <= calendar.barred_through:
            raise BadEntry([f"All of it is barred: {calendar.why_barred(last)}."])
        wanted = [
            period
            for period in _periods_to(workplace, person, code, last)
            if calendar.set_state(period) is not state
            and (state is not PeriodState.HELD or calendar.set_state(period) is PeriodState.OPEN)
        ]
        for period in wanted:
            periods.set_period(workplace, person, code, period.first_day, state, reason)
        if not wanted:
            return f"so already to {format_date(last)}"
        months = f"{len(wanted)} month{'' if len(wanted) == 1 else 's'}"
        return f"{months} to {format_date(wanted[-1].last_day)}"

    return tuple(_each(clients, one))


def _periods_to(workplace: Workplace, person: Person, code: str, through: date) -> Iterator[Period]:
    books = workplace.ledger(person, code).books
    calendar = books.calendar
    first = (
        calendar.barred_through + ONE_DAY if calendar.barred_through else books.client.books_from
    )
    period = calendar.period_of(min(first or through, through))
    for _ in range(MOST_PERIODS):
        if period.last_day > through:
            break
        yield period
        period = calendar.period_of(period.last_day + ONE_DAY)


def _day(workplace: Workplace, person: Person, code: str, text: str) -> date:
    """The day that was keyed, near today: the same for all where it is a day, by the client's own calendar
    where it is the end of a period or a year. Raises BadEntry."""
    calendar = workplace.ledger(person, code).books.calendar
    if text.strip()[:1].isdigit():
        calendar = CALENDAR_YEAR
    try:
        return keyed_day(text, calendar, workplace.today)
    except NotADay as wrong:
        raise BadEntry([f"{wrong}"]) from None


def _each(clients: Sequence[str], one: Callable[[str], str]) -> Iterator[Outcome]:
    for code in dict.fromkeys(clients):
        try:
            yield Outcome(code, one(code), None)
        except Refusal as refused:
            yield Outcome(code, None, str(refused))
