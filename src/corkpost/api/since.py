"""What others did in a client's books since a person last read them."""

from flask import Blueprint
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, Asked, Done, answers
from corkpost.formats.shape import Shape
from corkpost.services import since as service

bp = Blueprint("since", __name__)
MOST = 100


class DidAnswer(Shape):
    at: str
    by: str
    what: str
    says: str
    change: int | None


class SinceReadAnswer(Shape):
    """*last*: when the person read it last; none: never. *through*: the change that is the latest now.
    *did*: the latest of *count*."""

    last: str | None
    through: int
    did: list[DidAnswer]
    count: int


class ReadBody(Asked):
    through: int = Field(ge=0)


@bp.get("/clients/<client>/since")
@answers(SinceReadAnswer, "since")
def show(client: str) -> SinceReadAnswer:
    """What others did since this person last read the client, the latest first."""
    found = service.since_read(workplace(), person(), client)
    return SinceReadAnswer(
        last=found.last.at.isoformat() if found.last else None,
        through=found.through,
        did=[
            DidAnswer(at=d.at.isoformat(), by=d.by, what=d.what, says=d.says, change=d.change)
            for d in found.did[:MOST]
        ],
        count=len(found.did),
    )


@bp.post("/clients/<client>/since")
@answers(Done, "since")
def read(client: str, json: ReadBody) -> Done:
    """Note that this person has read the client up to a change."""
    service.read_through(workplace(), person(), client, json.through)
    return DONE
