"""Papers: kept with what they prove, given out again, and those that came in and wait to be entered."""

from flask import Blueprint, Response, request
from pydantic import Field

from corkpost.api.books import FileName
from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, Asked, Done, answers
from corkpost.api.views import as_file
from corkpost.formats.shape import Shape
from corkpost.services import papers as service
from corkpost.services.papers import LARGEST_PAPER

bp = Blueprint("papers", __name__)


class IncomingPaperAnswer(Shape):
    """*used_by*: the transactions that it is kept with; none while it waits."""

    name: str
    digest: str
    by: str
    at: str
    used_by: list[str]


class IncomingAnswer(Shape):
    papers: list[IncomingPaperAnswer]


class UsePaper(Asked):
    digest: str = Field(max_length=64)
    transaction: str = Field(max_length=200)


class PaperUsed(Shape):
    """*also*: what else it is used by."""

    also: list[str]


@bp.get("/clients/<client>/incoming")
@answers(IncomingAnswer, "papers")
def listed(client: str) -> IncomingAnswer:
    """Every paper that came in, those that wait first."""
    return IncomingAnswer(
        papers=[
            IncomingPaperAnswer(
                name=row.paper.name,
                digest=row.paper.digest,
                by=row.paper.made_by,
                at=row.paper.made_at,
                used_by=list(row.used_by),
            )
            for row in service.incoming(workplace(), person(), client)
        ]
    )


@bp.post("/clients/<client>/incoming")
@answers(Done, "papers")
def take_in(client: str, query: FileName) -> Done:
    """Keep the paper that is sent until it is entered."""
    request.max_content_length = LARGEST_PAPER + 1
    content = request.get_data(cache=False)
    service.take_in_paper(workplace(), person(), client, query.name, content)
    return DONE


@bp.post("/clients/<client>/incoming/used")
@answers(PaperUsed, "papers")
def use(client: str, json: UsePaper) -> PaperUsed:
    """Keep a paper that came in with a transaction; what else it is used by is told."""
    also = service.use_paper(workplace(), person(), client, json.digest, json.transaction)
    return PaperUsed(also=list(also))


class CopyKept(Shape):
    digest: str


@bp.post("/clients/<client>/papers")
@answers(CopyKept, "papers")
def keep_copy(client: str, query: FileName) -> CopyKept:
    """Keep a copy of the paper that is sent; a proof or a remark names it by its digest."""
    request.max_content_length = LARGEST_PAPER + 1
    content = request.get_data(cache=False)
    return CopyKept(digest=service.keep_copy(workplace(), person(), client, query.name, content))


@bp.post("/clients/<client>/transactions/<transaction>/papers")
@answers(Done, "papers")
def keep_paper(client: str, transaction: str, query: FileName) -> Done:
    """Keep a copy of the file that is sent with the transaction."""
    request.max_content_length = LARGEST_PAPER + 1
    content = request.get_data(cache=False)
    service.keep_paper(workplace(), person(), client, transaction, query.name, content)
    return DONE


@bp.get("/clients/<client>/papers/<digest>")
@answers(None, "papers")
def paper(client: str, digest: str) -> Response:
    """The file of a paper or statement, to be saved: what others made is never shown as a page of ours."""
    found = service.paper(workplace(), person(), client, digest)
    return as_file(found.name, found.content, "application/octet-stream")
