"""What others did in a client's books since a person last read them: changes, decisions, remarks."""

from collections.abc import Iterator
from datetime import datetime
from typing import NamedTuple

from corkpost.core.states import point_of
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import readings as store
from corkpost.store.changes import changes_of, last_change
from corkpost.store.readings import LastRead
from corkpost.store.remarks import remarks_of

WORDS = {
    "import": "books taken in",
    "statement": "statement taken in",
    "correction": "correction",
    "entry": "entry",
    "undo": "taken back",
    "agreement": "agreed",
}
BY_ROUTE = {"agree-tie-out": "tie-out agreed", "close-year": "year closed"}


class Did(NamedTuple):
    """Something that somebody did. *change*: its number, where it is one."""

    at: datetime
    by: str
    what: str
    says: str
    change: int | None = None


class SinceRead(NamedTuple):
    """*last*: when the person read it last; None: never. *through*: the change that is the latest now."""

    last: LastRead | None
    through: int
    did: tuple[Did, ...]


def since_read(workplace: Workplace, person: Person, client_code: str) -> SinceRead:
    """What others did since this person last read the client, the latest first."""
    ledger = workplace.ledger(person, client_code)
    connection = workplace.database.reading
    last = store.last_read(connection, ledger.client.id, person.code)
    did = [
        row
        for row in (*_changes(workplace, ledger, last), *_others(workplace, ledger, last))
        if row.by != person.code
    ]
    did.sort(key=lambda row: (row.at, row.change or 0), reverse=True)
    return SinceRead(last, last_change(connection, ledger.client.id)[0], tuple(did))


def _changes(workplace: Workplace, ledger: ClientState, last: LastRead | None) -> Iterator[Did]:
    for row in changes_of(workplace.database.reading, ledger.client.id):
        if row.number > (last.change if last else 0):
            at = datetime.fromisoformat(row.made_at)
            what = BY_ROUTE.get(row.route or "") or WORDS.get(row.kind, row.kind)
            yield Did(at, row.made_by, what, row.reason, row.number)


def _others(workplace: Workplace, ledger: ClientState, last: LastRead | None) -> Iterator[Did]:
    for decision in ledger.decisions.values():
        if decision.change is None:
            says = f"{point_of(decision.seen).short}: {decision.reason}"
            at = datetime.fromisoformat(str(decision.made_at))
            if last is None or at > last.at:
                yield Did(at, decision.made_by, decision.state.value, says)
    for remark in remarks_of(workplace.database.reading, ledger.client.id):
        if last is None or remark.at > last.at:
            what = "answer" if remark.answers else "remark"
            yield Did(remark.at, remark.by, what, f"{remark.about} {remark.name}: {remark.text}")


def read_through(workplace: Workplace, person: Person, client_code: str, change: int) -> None:
    """Note that the person has read the client up to that change, which is what they were shown."""
    person.must_be_allowed(May.READ)
    ledger = workplace.ledger(person, client_code)
    with workplace.database.writing() as connection:
        latest = last_change(connection, ledger.client.id)[0]
        read = LastRead(min(change, latest), workplace.now)
        store.add_reading(connection, ledger.client.id, person.code, read)
