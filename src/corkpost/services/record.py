"""What goes on record besides changes of books: who came in, what was opened and given out, who set what.

What is only looked at is noted a moment later, by a thread that nobody waits for: a page that is read never
waits for the store.
"""

from collections.abc import Iterator
from datetime import date, timedelta
from enum import StrEnum
from typing import NamedTuple

from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store import record as store
from corkpost.store.record import Event, RecordRow

MOST = 200
MACHINE = "machine"


class Kind(StrEnum):
    SIGNED_IN = "signed in"
    REFUSED = "refused at the door"
    SIGNED_OUT = "signed out"
    SESSION_ENDED = "session ended"
    OPENED = "client opened"
    GIVEN_OUT = "given out"
    PAPER = "paper seen"
    STAFF = "staff changed"
    RULE = "rule changed"
    CLIENT = "client archived or removed"
    PASSWORD = "password or factor changed"
    BACKUP = "backup"
    COMMAND = "command"


def note(
    workplace: Workplace,
    kind: Kind,
    who: str,
    detail: str = "",
    *,
    client: str = "",
    address: str = "",
) -> None:
    """Put it on record, within the caller's write transaction where there is one."""
    event = Event(workplace.now, kind, who, client, detail[:500], address)
    if workplace.database.reading.in_transaction:
        store.add_events(workplace.database.reading, [event])
        return
    with workplace.database.writing() as connection:
        store.add_events(connection, [event])


def note_later(
    workplace: Workplace,
    kind: Kind,
    who: str,
    detail: str = "",
    *,
    client: str = "",
    address: str = "",
) -> None:
    """Put on record what was looked at, a moment later."""
    workplace.seen.append(Event(workplace.now, kind, who, client, detail[:500], address))


def write_seen(workplace: Workplace) -> None:
    """Write what was noted to be written later."""
    waiting = list(_taken(workplace))
    if waiting:
        with workplace.database.writing() as connection:
            store.add_events(connection, waiting)


def _taken(workplace: Workplace) -> Iterator[Event]:
    while workplace.seen:
        yield workplace.seen.popleft()


class Asked(NamedTuple):
    """*words*: that are in it; *before*: rows of lower numbers."""

    first: date
    last: date
    words: str = ""
    before: int | None = None


def listed(workplace: Workplace, person: Person, asked: Asked) -> list[RecordRow]:
    """The record, the latest first, at most MOST rows. Raises NotAllowed for who does not run the
    practice."""
    person.must_be_allowed(May.RUN_PRACTICE)
    write_seen(workplace)
    return store.listed(
        workplace.database.reading,
        asked.first.isoformat(),
        (asked.last + timedelta(days=1)).isoformat(),
        asked.words.strip(),
        asked.before or 2**62,
        MOST,
    )
