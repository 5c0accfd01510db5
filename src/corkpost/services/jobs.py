"""Long work that tells its progress and survives a restart: taking in books, asking the bank."""

import contextlib
import json
import logging
import threading
import time
import uuid
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import IO, Any, NamedTuple

from corkpost.core.refusals import Refusal, UnknownName
from corkpost.formats.books_folder.faults import MOST_LISTED, FaultyBooks
from corkpost.formats.newer_books import NewerBooksAnswer
from corkpost.services import tray
from corkpost.services.books import (
    Coming,
    WaitsForAnother,
    look_or_take_in,
    may_bring,
    newer_books_answer,
    take_in,
)
from corkpost.services.desk import check_clients
from corkpost.services.feeds import NoBank, take_in_from_bank
from corkpost.services.jobs_apart import TookTooMuch, do_apart
from corkpost.services.leases import Lease
from corkpost.services.listing_job import ListingsAsked, take_in_listings
from corkpost.services.rights import May, Person
from corkpost.services.staff import person_named
from corkpost.services.workplace import Workplace
from corkpost.store import jobs as job_store
from corkpost.store.database import Busy

LEASE_SECONDS = 30
MOST_WAITING = 8
"""So many jobs of one person wait: more would keep everybody else's waiting."""
RENEWED_EVERY = 10
LARGEST_UPLOAD = 512 * 1024 * 1024
PIECE = 1024 * 1024
KEPT_SECONDS = 14 * 24 * 3600
"""How long a file is kept that was looked at only: it may wait for another's word."""

Tell = Callable[[str], None]


class Job(NamedTuple):
    """*state*: queued, running, done, refused or failed. *result*: what it answered, or the problem."""

    id: str
    state: str
    progress: str
    result: dict[str, Any] | None


def start_take_in(
    workplace: Workplace, person: Person, name: str, content: IO[bytes], only: str | None = None
) -> str:
    """Keep an uploaded zip of books and queue taking it in; the job's id. *only*: the client whose
    books they have to be."""
    person.must_be_allowed(May.TAKE_IN)
    if only is not None:
        workplace.ledger(person, only)
    job_id = uuid.uuid4().hex
    kept = _upload(workplace, job_id)
    kept.parent.mkdir(parents=True, exist_ok=True)
    _clear_uploads(workplace)
    size = 0
    try:
        with kept.open("wb") as file:
            while piece := content.read(PIECE):
                size += len(piece)
                if size > LARGEST_UPLOAD:
                    raise Refusal("The file is over 512 MB. Take it in by the command line.")
                file.write(piece)
        if not size:
            raise Refusal("The file is empty. Choose the books folder as a .zip.")
    except BaseException:
        kept.unlink(missing_ok=True)
        raise
    return _queued(workplace, person, "take-in", {"name": name, "only": only}, job_id)


def _upload(workplace: Workplace, job_id: str) -> Path:
    return workplace.database.folder / "uploads" / f"{job_id}.zip"


def job(workplace: Workplace, person: Person, job_id: str) -> Job:
    """One's own job. Raises UnknownName for another's."""
    row = job_store.job_named(workplace.database.reading, job_id)
    if row is None or row.made_by != person.code:
        raise UnknownName("job", job_id)
    return Job(row.id, row.state, row.progress, json.loads(row.result))


def _take_in(
    workplace: Workplace, person: Person, row: job_store.JobRow, tell: Tell
) -> dict[str, Any]:
    asked = json.loads(row.request)
    bring = take_in if asked.get("seen") else look_or_take_in
    found = bring(workplace, person, _upload(workplace, row.id), tell, asked["only"], asked["name"])
    if isinstance(found, Coming):
        return {"coming": newer_books_answer(found).model_dump()}
    return {"taken_in": {**found._asdict(), "warnings": list(found.warnings)}}


class WaitingBooks(NamedTuple):
    """Newer books that somebody looked at and that were not taken in. *coming*: what they would bring."""

    job: str
    name: str
    by: str
    at: str
    coming: NewerBooksAnswer


def waiting_books(
    workplace: Workplace, person: Person, client_code: str
) -> tuple[WaitingBooks, ...]:
    """The books of a client that wait for another's word, the latest first."""
    workplace.ledger(person, client_code)
    found = []
    for row in job_store.looked_at(workplace.database.reading, client_code):
        coming = NewerBooksAnswer(**json.loads(row.result)["coming"])
        if coming.waits_for and _upload(workplace, row.id).exists():
            name = str(json.loads(row.request)["name"])
            found.append(WaitingBooks(row.id, name, row.made_by, row.made_at, coming))
    return tuple(found)


def take_in_seen(workplace: Workplace, person: Person, job_id: str) -> str:
    """Queue taking in the books that a job of one's own, or that waits for one's word, only looked at; the
    new job's id. Raises UnknownName, WaitsForAnother, or Refusal where the file is not kept any more."""
    row = job_store.job_named(workplace.database.reading, job_id)
    result = (json.loads(row.result) if row and row.state == "done" else None) or {}
    if row is None or "coming" not in result:
        raise UnknownName("books that were looked at", job_id)
    coming = NewerBooksAnswer(**result["coming"])
    if row.made_by != person.code and not (coming.waits_for and person.sees(coming.client)):
        raise UnknownName("books that were looked at", job_id)
    if not may_bring(person, coming.waits_for):
        raise WaitsForAnother(
            f"They move finished months: a {coming.waits_for} takes them in, on the client's Books page."
        )
    kept, new_id = _upload(workplace, job_id), uuid.uuid4().hex
    try:
        kept.rename(_upload(workplace, new_id))
    except FileNotFoundError:
        raise Refusal("The file is not kept any more. Choose it again.") from None
    asked = json.loads(row.request)
    return _queued(workplace, person, "take-in", {**asked, "seen": True}, new_id)


def _clear_uploads(workplace: Workplace) -> None:
    """Take away files that were looked at and never taken in."""
    oldest = time.time() - KEPT_SECONDS
    for kept in (workplace.database.folder / "uploads").glob("*.zip"):
        with contextlib.suppress(FileNotFoundError):
            if kept.stat().st_mtime < oldest:
                kept.unlink()


def start_statements(workplace: Workplace, person: Person, clients: Sequence[str]) -> str:
    """Queue asking the bank for these clients' statements; the job's id. Raises UnknownName for a
    client that is not the person's, and NoBank."""
    person.must_be_allowed(May.TAKE_IN)
    for code in clients:
        workplace.ledger(person, code)
    if workplace.bank_address is None:
        raise NoBank("This practice has no bank to ask. Take the bank's files in on the Bank page.")
    return _queued(workplace, person, "statements", {"clients": list(clients)})


def start_checks(workplace: Workplace, person: Person, clients: Sequence[str]) -> str:
    """Queue running the checks of these clients; the job's id. Raises UnknownName for a client that is
    not the person's."""
    for code in clients:
        workplace.ledger(person, code)
    return _queued(workplace, person, "checks", {"clients": list(clients)})


def _queued(
    workplace: Workplace,
    person: Person,
    kind: str,
    request: dict[str, Any],
    job_id: str | None = None,
) -> str:
    job_id = job_id or uuid.uuid4().hex
    with workplace.database.writing() as connection:
        if job_store.waiting_of(connection, person.code) >= MOST_WAITING:
            raise Refusal(
                f"{MOST_WAITING} pieces of your work are under way. Wait until one of them is done."
            )
        job_store.add_job(
            connection,
            job_id,
            kind,
            json.dumps(request),
            made_by=person.code,
            made_at=workplace.now,
        )
    return job_id


def _statements(
    workplace: Workplace, person: Person, row: job_store.JobRow, tell: Tell
) -> dict[str, Any]:
    clients = json.loads(row.request)["clients"]
    return {
        "statements": [
            {
                "client": fed.client,
                "name": fed.name,
                "new": sum(taken.new for taken in fed.taken),
                "already": sum(taken.already for taken in fed.taken),
                "warnings": [warning for taken in fed.taken for warning in taken.warnings],
                "settled": [words for taken in fed.taken for words in taken.settled],
                "problem": fed.problem,
            }
            for fed in take_in_from_bank(workplace, person, clients, tell)
        ]
    }


def _checks(
    workplace: Workplace, person: Person, row: job_store.JobRow, tell: Tell
) -> dict[str, Any]:
    clients = json.loads(row.request)["clients"]
    return {
        "checks": [checked._asdict() for checked in check_clients(workplace, person, clients, tell)]
    }


def start_listings(workplace: Workplace, person: Person, asked: ListingsAsked) -> str:
    """Queue reading what a client sent, or taking it in; the job's id. Raises UnknownName for a client that
    is not this person's, or a file that is not kept."""
    person.must_be_allowed(May.TAKE_IN)
    tray.files(workplace, person, asked.files)
    return _queued(workplace, person, "listings", asked.model_dump(mode="json"))


def _listings(
    workplace: Workplace, person: Person, row: job_store.JobRow, tell: Tell
) -> dict[str, Any]:
    asked = ListingsAsked(**json.loads(row.request))
    return {"listings": take_in_listings(workplace, person, asked, tell).model_dump(mode="json")}


KINDS: Mapping[str, Callable[[Workplace, Person, job_store.JobRow, Tell], dict[str, Any]]] = {
    "take-in": _take_in,
    "statements": _statements,
    "checks": _checks,
    "listings": _listings,
}


APART = frozenset({"take-in", "listings"})
"""What reads files of others: done in a process of its own where the practice is served."""


def run_next(workplace: Workplace, *, apart: bool = False, at_work: set[str] | None = None) -> bool:
    """Claim the next job and do it; whether there was one. *apart*: what reads files of others in a process
    of its own. *at_work*: where the job stands while it is done."""
    now = int(time.time())
    if not job_store.any_waits(workplace.database.reading, now):
        return False
    with workplace.database.writing() as connection:
        row = job_store.claim(connection, now, now + LEASE_SECONDS)
    if row is None:
        return False
    at_work = set() if at_work is None else at_work
    at_work.add(row.id)
    try:
        if apart and row.kind in APART:
            _perform_apart(workplace, row)
        else:
            perform(workplace, row)
    finally:
        at_work.discard(row.id)
    return True


def _perform_apart(workplace: Workplace, row: job_store.JobRow) -> None:
    try:
        do_apart(workplace, row.id)
    except TookTooMuch as refused:
        with workplace.database.writing() as connection:
            job_store.finish(connection, row.id, "refused", json.dumps(_problem(refused)))
        _upload(workplace, row.id).unlink(missing_ok=True)


def perform(workplace: Workplace, row: job_store.JobRow) -> None:
    """Do a claimed job, and write what came of it."""

    def tell(progress: str) -> None:
        with workplace.database.writing() as connection:
            job_store.tell(connection, row.id, progress, int(time.time()) + LEASE_SECONDS)

    state, result = "failed", {"detail": "Something went wrong here, and nothing was taken in."}
    try:
        result = KINDS[row.kind](workplace, person_named(workplace, row.made_by), row, tell)
        state = "done"
    except Refusal as refused:
        state, result = "refused", _problem(refused)
    except Exception:
        logging.getLogger("corkpost").exception("job %s failed", row.id)
    with workplace.database.writing() as connection:
        job_store.finish(connection, row.id, state, json.dumps(result))
    if "coming" not in result:
        _upload(workplace, row.id).unlink(missing_ok=True)


def _problem(refused: Refusal) -> dict[str, Any]:
    problem: dict[str, Any] = {"title": refused.title, "detail": str(refused), "faults": []}
    if isinstance(refused, FaultyBooks):
        problem["detail"] = f"Nothing was taken in. {_counted(refused.count)} found."
        problem["faults"] = list(refused.faults)
    return problem


def _counted(faults: int) -> str:
    listed = f", the first {MOST_LISTED} of them here," if faults > MOST_LISTED else ""
    return f"{faults} fault{'s' if faults > 1 else ''}{listed} {'were' if faults > 1 else 'was'}"


class Worker:
    """A thread that does the jobs of a workplace, one after the other, and one that says that it is at it:
    a job whose worker is gone is taken up by another soon."""

    def __init__(
        self, workplace: Workplace, every_seconds: float = 0.3, *, apart: bool = False
    ) -> None:
        self._workplace = workplace
        self._apart = apart
        self._lease = Lease(workplace, "jobs")
        self._every = every_seconds
        self._stop = threading.Event()
        self._at_work: set[str] = set()
        self._threads = [
            threading.Thread(target=target, name=name, daemon=True)
            for target, name in ((self._work, "jobs"), (self._renew, "jobs at work"))
        ]

    def start(self) -> None:
        for thread in self._threads:
            thread.start()

    def stop(self) -> None:
        self._stop.set()
        for thread in self._threads:
            thread.join(timeout=10)
        self._lease.release()

    def _renew(self) -> None:
        while not self._stop.wait(RENEWED_EVERY):
            for job_id in tuple(self._at_work):
                # A store that is busy for a moment is asked again the next time.
                with contextlib.suppress(Busy), self._workplace.database.writing() as there:
                    job_store.renew(there, job_id, int(time.time()) + LEASE_SECONDS)

    def _work(self) -> None:
        while not self._stop.is_set():
            try:
                busy = self._lease.is_held() and run_next(
                    self._workplace, apart=self._apart, at_work=self._at_work
                )
            except Exception:
                # A store that is busy or gone for a moment must not end the thread.
                logging.getLogger("corkpost").exception("looking for jobs failed")
                busy = False
            if not busy:
                self._stop.wait(self._every)
