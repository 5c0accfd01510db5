"""Papers that come in before they are entered."""

from flask import Blueprint, request
from pydantic import Field

from corkpost.api.books import FileName
from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, Asked, Done, answers
from corkpost.formats.shape import Shape
from corkpost.services import papers as service
from corkpost.services.entries import LARGEST_PAPER

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
