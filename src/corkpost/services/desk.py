"""The desk: every client that a person sees, soonest deadline first."""

import json
from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import NamedTuple

from corkpost.core.bands import Band, Move, band_of, move_of
from corkpost.core.formatting import format_date
from corkpost.core.points import PointState
from corkpost.core.refusals import BadEntry, Refusal
from corkpost.core.states import StatedPoint
from corkpost.core.tie_outs.agreeing import TieOutState, stated_tie_outs
from corkpost.core.years import sign_off_day, year_under_review
from corkpost.services.bank import agreed_in
from corkpost.services.review import at_stake, family_of, stated_points
from corkpost.services.rights import Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import desk as desk_store
from corkpost.store import practice as practice_store
from corkpost.store.approvals import proposals_of
from corkpost.store.changes import changes_of
from corkpost.store.clients import ClientRow, all_clients, archived, client_named

STEPS = ("books", "bank", "review", "tie-outs", "sign-off")
"""The steps of the path, in the order of the work."""
WEEKS_AHEAD = 10
WEEKS_BEHIND = 4


@dataclass(frozen=True)
class Summary:
    """What the desk says of a client. Days ISO, sums in minor units of *currency*.

    *path*: how far each step is done, in percent. *signed_on*: the days of its sign-offs. *families*: how
    many open points each family of checks has.
    """

    name: str
    entity: str
    currency: str
    year: str
    year_end: str
    as_at: str
    due: str | None
    at_stake: int
    open_points: int
    asked_points: int
    families: dict[str, int]
    path: dict[str, int]
    move: Move
    since: str | None
    seal: str
    signed_on: list[str]
    reopened: str
    """What was reopened, by whom and until when, in words; empty where nothing is."""


@dataclass(frozen=True)
class DeskRow:
    code: str
    summary: Summary
    band: Band
    days_left: int | None
    staff: tuple[str, ...]
    carry_on: str | None
    current: bool = True
    """Whether it says how the client stands now; else it is being brought up to date."""

    @property
    def stage(self) -> str:
        """The first step of the path that is not done; `signed` where none is left."""
        return next((step for step, done in self.summary.path.items() if done < 100), "signed")


@dataclass(frozen=True)
class Week:
    first_day: date
    due: int


@dataclass(frozen=True)
class Desk:
    """*finished*: sign-offs per week over the last four weeks, in tenths."""

    rows: tuple[DeskRow, ...]
    weeks: tuple[Week, ...]
    finished_tenths: int


def desk(workplace: Workplace, person: Person) -> Desk:
    """The desk of this person: only the clients that they see.

    Where what is kept is brought up to date behind, rows may be as they were, and say so; else all are
    as the books stand now.
    """
    connection = workplace.database.reading
    gone = archived(connection)
    clients = [
        client
        for client in all_clients(connection)
        if person.sees(client.code) and client.id not in gone
    ]
    known = _summaries(workplace, person, clients)
    names = {row.code: row.name for row in practice_store.all_staff(connection)}
    given = practice_store.staff_by_client(connection)
    places = practice_store.places_of(connection, person.code)
    rows = [
        _row(
            workplace.today,
            client.code,
            known[client.id],
            tuple(names[code] for code in given.get(client.code, [])),
            places.get(client.code),
        )
        for client in clients
    ]
    order = list(Band)
    rows.sort(key=lambda row: (order.index(row.band), row.summary.due or "9999", row.code))
    return Desk(tuple(rows), _weeks(workplace.today, rows), _finished(workplace.today, rows))


def _row(
    today: date, code: str, known: "_Known", staff: tuple[str, ...], carry_on: str | None
) -> DeskRow:
    summary = known.summary
    due = date.fromisoformat(summary.due) if summary.due else None
    days_left = (due - today).days if due else None
    band = band_of(signed=summary.seal == "signed", days_left=days_left)
    return DeskRow(code, summary, band, days_left, staff, carry_on, known.current)


class _Known(NamedTuple):
    summary: Summary
    current: bool


def _summaries(
    workplace: Workplace, person: Person, clients: Iterable[ClientRow]
) -> dict[int, _Known]:
    kept = desk_store.summaries(workplace.database.reading)
    found: dict[int, _Known] = {}
    for client in clients:
        row = kept.get(client.id)
        summary = from_json(row.content) if row else None
        current = row is not None and (row.revision, row.today) == (
            client.revision,
            workplace.today,
        )
        # What was just done in a client that somebody has open shows at once: little of it is anew.
        waits = workplace.keeps_up and not workplace.runs_at_once(client)
        if summary is None or not (current or waits):
            ledger = workplace.ledger(person, client.code)
            summary, current = summarise(workplace, ledger), True
        found[client.id] = _Known(summary, current)
    return found


def from_json(content: str) -> Summary | None:
    """The summary; None for one that was kept before the desk said what it says today."""
    fields = json.loads(content)
    if fields.keys() != Summary.__dataclass_fields__.keys():
        return None
    if tuple(fields["path"]) != STEPS:
        return None
    return Summary(**{**fields, "move": Move(fields["move"])})


class Checked(NamedTuple):
    """What the checks found in one client. *open* counts the points to decide, by level. *problem*: why
    they could not be run, if they could not."""

    client: str
    name: str
    open: dict[str, int]
    at_stake: str
    problem: str | None = None


def check_clients(
    workplace: Workplace, person: Person, clients: Sequence[str], tell: Callable[[str], None]
) -> list[Checked]:
    """Read these clients' books from the store and run every check on them again; one that can't be read
    stops no other."""
    found = []
    for number, code in enumerate(clients, 1):
        tell(f"{code}, {number} of {len(clients)}")
        try:
            found.append(_checked(workplace, person, code))
        except Refusal as refused:
            found.append(Checked(code, code, {}, "0", str(refused)))
    return found


def _checked(workplace: Workplace, person: Person, code: str) -> Checked:
    workplace.forget(workplace.ledger(person, code))
    ledger = replace(workplace.ledger(person, code), kept_points=None)
    stated = [
        stated_point
        for stated_point in stated_points(ledger)
        if stated_point.state is PointState.OPEN
    ]
    return Checked(
        code,
        ledger.books.client.name,
        dict(Counter(stated_point.point.level for stated_point in stated).most_common()),
        ledger.books.client.currency.format(at_stake(stated)),
    )


def summarise(workplace: Workplace, ledger: ClientState) -> Summary:
    """What the desk says of the client as its books stand."""
    books = ledger.books
    year = year_under_review(books, workplace.today)
    as_at = sign_off_day(books, year, workplace.today)
    stated = stated_points(ledger)
    open_points = sum(stated_point.state is PointState.OPEN for stated_point in stated)
    asked = sum(stated_point.state is PointState.ASKED for stated_point in stated)
    sealed = books.calendar.sealed_through
    signed = bool(sealed and sealed >= as_at)
    decided = len(stated) - open_points - asked
    received = books.client.books_to
    proofs = stated_tie_outs(books, as_at)
    changes = changes_of(workplace.database.reading, ledger.client.id)
    waiting = any(
        proposal.ending is None
        for proposal in proposals_of(workplace.database.reading, ledger.client.id)
    )
    return Summary(
        name=books.client.name,
        entity=books.client.entity,
        currency=books.client.currency.code,
        year=year.label,
        year_end=year.last_day.isoformat(),
        as_at=as_at.isoformat(),
        due=year.due.isoformat() if year.due else None,
        at_stake=at_stake(stated),
        open_points=open_points,
        asked_points=asked,
        families=_by_family(stated),
        path={
            "books": _percent(
                (min(received or as_at, as_at) - year.first_day).days + 1,
                (as_at - year.first_day).days + 1,
            ),
            "bank": agreed_in(books, year.first_day, as_at) or 0,
            "review": _percent(decided, len(stated)),
            "tie-outs": _percent(
                sum(proof.state is TieOutState.AGREED for proof in proofs), len(proofs)
            ),
            "sign-off": 100 if signed else 0,
        },
        move=move_of(signed=signed, waiting=waiting, open_points=open_points, asked=asked),
        since=changes[-1].made_at[:10] if changes else None,
        seal="broken" if ledger.broken_seals else ("signed" if signed else ""),
        signed_on=[seal.signed_at[:10] for seal in ledger.seals if seal.stands],
        reopened=_reopened(ledger),
    )


def _reopened(ledger: ClientState) -> str:
    """What those who signed are told: the latest sign-off that is reopened, where no later one was made."""
    if not ledger.seals:
        return ""
    last = ledger.seals[-1]
    if last.stands or last.reopening is None:
        return ""
    why = last.reopening
    until = f" until {format_date(why.until)}" if why.until else ""
    signed = " and ".join(filter(None, dict.fromkeys((last.prepared_by, last.signed_by))))
    return f"{why.made_by} reopened {format_date(last.as_at)}{until}, which {signed} signed: {why.reason}"


def _by_family(stated: Iterable[StatedPoint]) -> dict[str, int]:
    open_points = (stated_point for stated_point in stated if stated_point.state is PointState.OPEN)
    return dict(
        Counter(family_of(stated_point.point) for stated_point in open_points).most_common()
    )


def _percent(part: int, whole: int) -> int:
    return max(0, min(100, 100 * part // whole)) if whole else 100


def _weeks(today: date, rows: Iterable[DeskRow]) -> tuple[Week, ...]:
    """Sign-offs due per week from this one; what is overdue counts in this one."""
    monday = today - timedelta(days=today.weekday())
    due = [
        max(date.fromisoformat(row.summary.due), monday)
        for row in rows
        if row.summary.due and row.band is not Band.SIGNED
    ]
    firsts = [monday + timedelta(weeks=week) for week in range(WEEKS_AHEAD)]
    return tuple(Week(first, sum(0 <= (day - first).days < 7 for day in due)) for first in firsts)


def _finished(today: date, rows: Iterable[DeskRow]) -> int:
    since = today - timedelta(weeks=WEEKS_BEHIND)
    signed = [date.fromisoformat(day) for row in rows for day in row.summary.signed_on]
    return 10 * sum(since < day <= today for day in signed) // WEEKS_BEHIND


def remember_place(workplace: Workplace, person: Person, client_code: str, path: str) -> None:
    """Keep where the person is in a client, so that they carry on there."""
    person.must_see(client_code)
    if not path.startswith(f"/clients/{client_code}/"):
        raise BadEntry([f"{path} is no page of {client_code}."])
    with workplace.database.writing() as connection:
        client = client_named(connection, client_code)
        if client:
            practice_store.keep_place(connection, person.code, client.id, path, workplace.now)
