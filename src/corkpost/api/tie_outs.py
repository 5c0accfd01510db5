"""Tie-outs: every proof of the trial balance as at a day."""

from flask import Blueprint

from corkpost.api.security import person, workplace
from corkpost.api.spec import AtDay, Day, answers
from corkpost.formats.shape import Shape
from corkpost.formats.tie_outs import TieOutAnswer, tie_out_answer
from corkpost.services import tie_outs as service

bp = Blueprint("tie_outs", __name__)


class TieOutsAnswer(Shape):
    as_at: Day
    tie_outs: list[TieOutAnswer]


@bp.get("/clients/<client>/tie-outs")
@answers(TieOutsAnswer, "tie-outs")
def show(client: str, query: AtDay) -> TieOutsAnswer:
    """Each proof with both figures, what they consist of, and where it stands."""
    books, rows = service.tie_outs(workplace(), person(), client, query.at)
    return TieOutsAnswer(
        as_at=query.at,
        tie_outs=[tie_out_answer(row.stated, row.at, books) for row in rows],
    )
