"""Taking books in and giving them out."""

import tempfile
import zipfile
from pathlib import Path

from flask import Blueprint, Response, request
from pydantic import Field

from corkpost.api.security import must_be_confirmed, person, workplace
from corkpost.api.spec import Asked, answers
from corkpost.api.views import as_file
from corkpost.formats.listings.answers import ListingsAnswer
from corkpost.formats.newer_books import NewerBooksAnswer
from corkpost.formats.shape import Shape
from corkpost.services import books as service
from corkpost.services import handover, jobs

bp = Blueprint("books", __name__)


class FileName(Asked):
    name: str = Field(default="books.zip", max_length=200)


class Received(Asked):
    as_received: bool = False


class JobStarted(Shape):
    job: str


class TakenInAnswer(Shape):
    client: str
    transactions: int
    lines: int
    new: int
    changed: int
    removed: int
    warnings: list[str]


class ClientFedAnswer(Shape):
    """What the bank brought for one client. *problem*: what went wrong with it, if anything."""

    client: str
    name: str
    new: int
    already: int
    warnings: list[str]
    settled: list[str]
    problem: str | None


class ClientCheckedAnswer(Shape):
    """*open*: how many points are to be decided, by level. *problem*: why it could not be checked."""

    client: str
    name: str
    open: dict[str, int]
    at_stake: str
    problem: str | None


class OfClients(Asked):
    clients: list[str] = Field(min_length=1, max_length=2_000)


class Looked(Asked):
    job: str = Field(max_length=100)


class JobProblem(Shape):
    title: str
    detail: str
    faults: list[str]


class JobAnswer(Shape):
    """*state*: queued, running, done, refused or failed. *coming*: what newer books would bring, which
    wait to be taken in."""

    id: str
    state: str
    progress: str
    taken_in: TakenInAnswer | None
    coming: NewerBooksAnswer | None
    statements: list[ClientFedAnswer] | None
    listings: ListingsAnswer | None
    checks: list[ClientCheckedAnswer] | None
    problem: JobProblem | None


@bp.post("/books")
@answers(JobStarted, "books", status=202)
def take_in(query: FileName) -> tuple[JobStarted, int]:
    """Take in a zip of books, sent as it is: a job that tells its progress."""
    request.max_content_length = jobs.LARGEST_UPLOAD + 1
    job_id = jobs.start_take_in(workplace(), person(), query.name, request.stream)
    return JobStarted(job=job_id), 202


@bp.post("/statements")
@answers(JobStarted, "books", status=202)
def ask_bank(json: OfClients) -> tuple[JobStarted, int]:
    """Ask the bank for the statements of these clients: a job that tells its progress."""
    return JobStarted(job=jobs.start_statements(workplace(), person(), json.clients)), 202


@bp.post("/checks")
@answers(JobStarted, "books", status=202)
def run_checks(json: OfClients) -> tuple[JobStarted, int]:
    """Run every check on these clients' books: a job that tells its progress."""
    return JobStarted(job=jobs.start_checks(workplace(), person(), json.clients)), 202


@bp.get("/jobs/<job>")
@answers(JobAnswer, "books")
def job(job: str) -> JobAnswer:
    """How far a job of one's own is, and what came of it."""
    found = jobs.job(workplace(), person(), job)
    done = found.result if found.state == "done" else None
    return JobAnswer(
        id=found.id,
        state=found.state,
        progress=found.progress,
        taken_in=TakenInAnswer(**done["taken_in"]) if done and "taken_in" in done else None,
        coming=NewerBooksAnswer(**done["coming"]) if done and "coming" in done else None,
        checks=(
            [ClientCheckedAnswer(**fields) for fields in done["checks"]]
            if done and "checks" in done
            else None
        ),
        listings=ListingsAnswer(**done["listings"]) if done and "listings" in done else None,
        statements=(
            [ClientFedAnswer(**fields) for fields in done["statements"]]
            if done and "statements" in done
            else None
        ),
        problem=(
            JobProblem(**{"title": "It went wrong", "faults": [], **found.result})
            if found.result and found.state in ("refused", "failed")
            else None
        ),
    )


@bp.post("/books/seen")
@answers(JobStarted, "books", status=202)
def take_in_seen(json: Looked) -> tuple[JobStarted, int]:
    """Take in the newer books that a job of one's own looked at: a job that tells its progress."""
    return JobStarted(job=jobs.take_in_seen(workplace(), person(), json.job)), 202


class OfYear(Asked):
    year: str = Field(max_length=40)


@bp.get("/clients/<client>/audit-file.xml")
@answers(None, "books")
def audit_file(client: str, query: OfYear) -> Response:
    """A year of the client's books as a standard audit file."""
    with tempfile.TemporaryDirectory() as folder:
        made = Path(folder) / "audit-file.xml"
        service.give_out_audit_file(workplace(), person(), client, query.year, made)
        content = made.read_bytes()
    return as_file(f"{client} audit file {query.year}.xml", content, "application/xml")


@bp.get("/clients/<client>/everything.zip")
@answers(None, "books")
def everything(client: str) -> Response:
    """All that the practice has of a client, with a readable index: lists as CSV and a workbook, papers."""
    must_be_confirmed()
    content = handover.hand_over(workplace(), person(), client)
    return as_file(f"{client} everything.zip", content, "application/zip")


@bp.get("/clients/<client>/books.zip")
@answers(None, "books")
def give_out(client: str, query: Received) -> Response:
    """The client's books as a zip: with all corrections, or as received."""
    must_be_confirmed()
    with tempfile.TemporaryDirectory() as folder:
        to = Path(folder) / "books"
        service.give_out(workplace(), person(), client, to, as_received=query.as_received)
        made = Path(folder) / "books.zip"
        with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
            for file in sorted(to.rglob("*")):
                if file.is_file():
                    archive.write(file, file.relative_to(to))
        content = made.read_bytes()
    return as_file(f"{client} books.zip", content, "application/zip")
