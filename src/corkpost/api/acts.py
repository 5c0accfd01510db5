"""Everything that can be posted: what it would do, posting it, and handing it in for approval."""

from flask import Blueprint
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, Day, answers
from corkpost.api.views import PreviewAnswer, preview_of
from corkpost.formats.acts import AnyAct
from corkpost.formats.answers import ChangeAnswer, change_answer
from corkpost.formats.shape import Shape
from corkpost.services import acts as service
from corkpost.services import approvals
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import ClientState, Posted

bp = Blueprint("acts", __name__)


class ActPreview(Asked):
    """*opens*: barred periods are opened for it alone. *at*: the day at whose end the effect is read."""

    act: AnyAct
    opens: bool = False
    at: Day | None = None


class ActPost(Asked):
    """*shown*: the digest of the preview that the person saw; none for an act that says by itself what
    it does. *key*: posted once, however often sent. *draft*: dropped when it is done. *hands_in*: it is
    handed in for another's approval instead of being posted."""

    act: AnyAct
    reason: str = Field(default="", max_length=2000)
    shown: str | None = Field(default=None, max_length=64)
    key: str = Field(min_length=8, max_length=64)
    opens: bool = False
    draft: str | None = Field(default=None, max_length=64)
    hands_in: bool = False


class ActAnswer(Shape):
    """*change*: what was posted. *handed_in*: the number of the proposal that waits instead."""

    change: ChangeAnswer | None = None
    handed_in: int | None = None


def changed(ledger: ClientState, posted: Posted) -> tuple[ChangeAnswer, int]:
    """The answer to a post: the change, created."""
    return change_answer(*posted[:4], ledger.books, parties=posted.parties), 201


@bp.post("/clients/<client>/acts/preview")
@answers(PreviewAnswer, "acts")
def preview(client: str, json: ActPreview) -> PreviewAnswer:
    """What the act would post and move."""
    found = service.preview(workplace(), person(), client, json.act, json.at, opens=json.opens)
    return preview_of(found, workplace().ledger(person(), client).books)


@bp.post("/clients/<client>/acts")
@answers(ActAnswer, "acts", status=201)
def post(client: str, json: ActPost) -> tuple[ActAnswer, int]:
    """Post the act, or hand it in for another's approval."""
    if json.hands_in:
        number = approvals.hand_in(
            workplace(),
            person(),
            client,
            json.act,
            reason=json.reason,
            shown=json.shown or "",
            draft=json.draft,
        )
        return ActAnswer(handed_in=number), 201
    post_request = PostRequest(json.reason, json.shown, json.key, opens=json.opens)
    posted = service.post(workplace(), person(), client, json.act, post_request, draft=json.draft)
    answer, status = changed(workplace().ledger(person(), client), posted)
    return ActAnswer(change=answer), status
