"""What clients send: files are laid in a person's tray, read, and taken in with what was answered."""

from flask import Blueprint, request
from pydantic import Field

from corkpost.api.books import JobStarted
from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, answers
from corkpost.core.kinds import Entity
from corkpost.formats.shape import Shape
from corkpost.services import jobs, tray
from corkpost.services.listing_job import ListingsAsked

bp = Blueprint("listings", __name__)


class NamedFile(Asked):
    name: str = Field(min_length=1, max_length=200)


class FileKept(Shape):
    """*file*: the name by which it is taken in."""

    file: str


class NewClientBody(Asked):
    name: str = Field(min_length=1, max_length=120)
    entity: Entity
    year_end: str = Field(max_length=5)
    currency: str = Field(min_length=3, max_length=3)


class ListingsBody(Asked):
    """*client*: none while it is not known whose they are. *new*: of a client that is not here yet.
    *answers*: by the question's id. *take*: take it in; else say what would come."""

    client: str | None = Field(default=None, max_length=20, pattern=r"^[A-Za-z0-9-]+$")
    files: list[str] = Field(min_length=1, max_length=tray.MOST)
    new: NewClientBody | None = None
    answers: dict[str, str] = Field(default={}, max_length=200)
    take: bool = False


@bp.post("/listings/files")
@answers(FileKept, "listings", status=201)
def keep_file(query: NamedFile) -> tuple[FileKept, int]:
    """Lay a file, sent as it is, in one's tray."""
    request.max_content_length = tray.LARGEST + 1
    return FileKept(file=tray.keep(workplace(), person(), query.name, request.stream)), 201


@bp.post("/listings")
@answers(JobStarted, "listings", status=202)
def take_in(json: ListingsBody) -> tuple[JobStarted, int]:
    """Read files of one's tray as a client's books, or take them in: a job that tells its progress."""
    asked = ListingsAsked(**json.model_dump())
    return JobStarted(job=jobs.start_listings(workplace(), person(), asked)), 202
