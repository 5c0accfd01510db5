"""Clients that leave: archived, which keeps everything and writes nothing; after their time removed."""

import time
from datetime import date
from typing import NamedTuple

from corkpost.core.formatting import format_date
from corkpost.core.periods import Calendar
from corkpost.core.refusals import BadEntry, NoReason, Refusal, UnknownName
from corkpost.services import record
from corkpost.services.record import Kind
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store import archive as store
from corkpost.store.changes import last_change
from corkpost.store.clients import ClientRow, all_clients, client_named, facts_of, raise_revision

LEAST_YEARS, MOST_YEARS = 1, 50
JUST_KEPT_SECONDS = 3600
"""A file that was kept, or kept again, since then may be on its way to another client."""


class NotYet(Refusal):
    title = "It is kept still"


class ArchivedClient(NamedTuple):
    """*kept_until*: from the day after it can be removed."""

    code: str
    name: str
    since: str
    made_by: str
    reason: str
    kept_until: date


def archived(workplace: Workplace, person: Person) -> tuple[ArchivedClient, ...]:
    """The clients that are archived, by code. Raises NotAllowed for who does not run the practice."""
    person.must_be_allowed(May.RUN_PRACTICE)
    with workplace.database.snapshot() as connection:
        how = store.archivings(connection)
        return tuple(
            ArchivedClient(
                client.code,
                facts_of(connection, client).name,
                how[client.id].made_at,
                how[client.id].made_by,
                how[client.id].reason,
                _kept_until(workplace, client),
            )
            for client in all_clients(connection)
            if client.id in how
        )


def archive(workplace: Workplace, person: Person, code: str, reason: str) -> None:
    """From now on the client is read, and nothing is written to it. Raises NotAllowed, UnknownName,
    NoReason or BadEntry."""
    _set(workplace, person, code, reason, archived=True)


def bring_back(workplace: Workplace, person: Person, code: str, reason: str) -> None:
    """The client is worked on again. Raises as `archive`."""
    _set(workplace, person, code, reason, archived=False)


def _set(workplace: Workplace, person: Person, code: str, reason: str, *, archived: bool) -> None:
    person.must_be_allowed(May.RUN_PRACTICE)
    if not reason.strip():
        raise NoReason()
    with workplace.database.writing() as connection:
        client = _client(workplace, code)
        if (client.id in store.archivings(connection)) is archived:
            raise BadEntry([f"{code} is {'archived' if archived else 'worked on'} already."])
        store.set_archived(
            connection,
            client.id,
            archived,
            reason=reason.strip(),
            made_by=person.code,
            made_at=workplace.now,
        )
        raise_revision(connection, client.id, though_archived=True)
        what = "archived" if archived else "brought back"
        record.note(workplace, Kind.CLIENT, person.code, f"{what}: {reason.strip()}", client=code)


def remove(workplace: Workplace, person: Person, code: str, reason: str) -> None:
    """Take away everything of an archived client whose time is over: its rows, and the files that no other
    client has. That it was here, and the end of its chain, stay on record; copies that were made before
    have it still. Raises NotYet, and as `archive`."""
    person.must_be_allowed(May.RUN_PRACTICE)
    if not reason.strip():
        raise NoReason()
    database = workplace.database
    database.reading.execute("PRAGMA secure_delete = ON")
    try:
        with database.writing() as connection:
            client = _client(workplace, code)
            if client.id not in store.archivings(connection):
                raise NotYet(f"{code} is worked on: archive it first.")
            until = _kept_until(workplace, client)
            if workplace.today <= until:
                raise NotYet(
                    f"{code} is kept until {format_date(until)}: it can be removed after that."
                )
            name = facts_of(connection, client).name
            head = last_change(connection, client.id)[1]
            named = store.kept_digests(connection)
            store.remove(connection, client.id)
            detail = f"removed: {name}, its chain ended in {head[:16]}; {reason.strip()}"
            record.note(workplace, Kind.CLIENT, person.code, detail, client=code)
    finally:
        database.reading.execute("PRAGMA secure_delete = OFF")
    # Files go once the rows are gone for certain; what another client took in meanwhile stays.
    with database.writing() as connection:
        for digest in named - store.kept_digests(connection):
            file = database.files / digest
            if file.exists() and time.time() - file.stat().st_mtime > JUST_KEPT_SECONDS:
                file.unlink()


def kept_years(workplace: Workplace) -> int:
    """For how many years a client is kept after its last financial year."""
    return store.kept_years(workplace.database.reading)


def set_kept_years(workplace: Workplace, person: Person, years: int) -> None:
    """Raises NotAllowed or BadEntry."""
    person.must_be_allowed(May.RUN_PRACTICE)
    if not LEAST_YEARS <= years <= MOST_YEARS:
        raise BadEntry([f"Clients are kept for {LEAST_YEARS} to {MOST_YEARS} years."])
    with workplace.database.writing() as connection:
        store.set_kept_years(connection, years)
        record.note(workplace, Kind.RULE, person.code, f"clients are kept for {years} years")


def _client(workplace: Workplace, code: str) -> ClientRow:
    found = client_named(workplace.database.reading, code)
    if found is None:
        raise UnknownName("client", code)
    return found


def _kept_until(workplace: Workplace, client: ClientRow) -> date:
    """The end of the financial year of the last posting, or of today where there is none, and the years
    that the practice keeps."""
    connection = workplace.database.reading
    facts = facts_of(connection, client)
    said = store.last_day(connection, client.id)
    last = date.fromisoformat(said) if said else workplace.today
    ends = Calendar(facts.year_end, facts.years).year_of(last).last_day
    year = ends.year + store.kept_years(connection)
    return date(year, ends.month, min(ends.day, 28) if ends.month == 2 else ends.day)
