"""Two parties that are one: what making them one moves, and doing it."""

from flask import Blueprint
from pydantic import Field

from corkpost.api.review import changed
from corkpost.api.security import person, place
from corkpost.api.spec import Asked, Day, answers
from corkpost.api.views import PreviewAnswer, preview_of
from corkpost.formats.answers import ChangeAnswer
from corkpost.services import merging as service
from corkpost.services.posting import PostRequest

bp = Blueprint("merging", __name__)


class Merging(Asked):
    """*other*: the party whose name goes."""

    other: str = Field(max_length=100)
    at: Day | None = None


class MergingPost(Asked):
    other: str = Field(max_length=100)
    reason: str = Field(max_length=2000)
    shown: str = Field(max_length=64)
    key: str = Field(min_length=8, max_length=64)


@bp.post("/clients/<client>/parties/<party>/merging/preview")
@answers(PreviewAnswer, "merging")
def preview(client: str, party: str, json: Merging) -> PreviewAnswer:
    """What reading the other party as this one would move."""
    found = service.preview_merge(place(), person(), client, party, json.other, json.at)
    books = place().ledger(person(), client).books
    return preview_of(found, books)


@bp.post("/clients/<client>/parties/<party>/merging")
@answers(ChangeAnswer, "merging", status=201)
def merge(client: str, party: str, json: MergingPost) -> tuple[ChangeAnswer, int]:
    """Read the other party as this one, with a reason."""
    post_request = PostRequest(json.reason, json.shown, json.key)
    posted = service.merge(place(), person(), client, party, json.other, post_request)
    return changed(place().ledger(person(), client), posted)
