"""Tie-outs: every proof of the trial balance as at a day."""

from flask import Blueprint, request

from corkpost.api.books import FileName
from corkpost.api.security import person, workplace
from corkpost.api.spec import AtDay, Day, answers
from corkpost.formats.shape import Shape
from corkpost.formats.tie_outs import TieOutAnswer, tie_out_answer
from corkpost.services import tie_outs as service
from corkpost.services.entries import LARGEST_PAPER

bp = Blueprint("tie_outs", __name__)


class TieOutsAnswer(Shape):
    as_at: Day
    tie_outs: list[TieOutAnswer]


class PaperKept(Shape):
    digest: str


@bp.get("/clients/<client>/tie-outs")
@answers(TieOutsAnswer, "tie-outs")
def show(client: str, query: AtDay) -> TieOutsAnswer:
    """Each proof with both figures, what they consist of, and where it stands."""
    books, rows = service.tie_outs(workplace(), person(), client, query.at)
    return TieOutsAnswer(
        as_at=query.at,
        tie_outs=[tie_out_answer(row.stated, row.at, books) for row in rows],
    )


@bp.post("/clients/<client>/tie-outs/paper")
@answers(PaperKept, "tie-outs")
def keep_paper(client: str, query: FileName) -> PaperKept:
    """Keep a copy of the paper that is sent; agreeing a proof names it by its digest."""
    request.max_content_length = LARGEST_PAPER + 1
    content = request.get_data(cache=False)
    return PaperKept(digest=service.keep_paper(workplace(), person(), client, query.name, content))
