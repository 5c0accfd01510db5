"""Remarks on a client's books, and marks on the worksheet's lines."""

from collections.abc import Mapping

from flask import Blueprint
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, Asked, AtDay, Day, Done, answers
from corkpost.core.marks import MarkKind
from corkpost.core.money import NotAnAmount
from corkpost.core.refusals import BadEntry
from corkpost.core.remarks import LONGEST, About, Remark
from corkpost.formats.shape import Shape
from corkpost.services import overview
from corkpost.services import remarks as service
from corkpost.services.papers import names_of_papers

bp = Blueprint("remarks", __name__)


class RemarkPaper(Shape):
    name: str
    digest: str


class AnswerToRemark(Shape):
    number: int
    text: str
    by: str
    at: str
    paper: RemarkPaper | None


class RemarkAnswer(Shape):
    """*said*: the remark itself. *about*: account, transaction, tie-out or point. *waits*: it has to be
    cleared before the sign-off. *may_clear*: by this person."""

    said: AnswerToRemark
    about: About
    name: str
    asks: bool
    waits: bool
    may_clear: bool
    cleared_by: str | None
    cleared_at: str | None
    answers: list[AnswerToRemark]


class RemarksAnswer(Shape):
    remarks: list[RemarkAnswer]


class RemarkOnBody(Asked):
    about: About
    name: str = Field(max_length=200)
    text: str = Field(max_length=LONGEST)
    asks: bool = False
    answers: int | None = None
    paper: str | None = Field(default=None, max_length=64)


class MarkBody(Asked):
    """*seen*: the figure that was looked at; none takes the mark off."""

    account: str = Field(max_length=100)
    as_at: Day
    kind: MarkKind
    seen: str | None = Field(max_length=40)


class MarkAnswer(Shape):
    """*fell*: the figure has moved since."""

    account: str
    kind: MarkKind
    by: str
    at: str
    fell: bool


class MarksAnswer(Shape):
    as_at: Day
    marks: list[MarkAnswer]


@bp.get("/clients/<client>/remarks")
@answers(RemarksAnswer, "remarks")
def show(client: str) -> RemarksAnswer:
    """Every remark with its answers, those that wait to be cleared first."""
    papers = names_of_papers(workplace(), workplace().ledger(person(), client))
    return RemarksAnswer(
        remarks=[
            RemarkAnswer(
                said=_said(thread.first, papers),
                about=thread.first.about,
                name=thread.first.name,
                asks=thread.first.asks,
                waits=thread.first.waits,
                may_clear=service.may_clear(person(), thread.first),
                cleared_by=thread.first.cleared_by,
                cleared_at=_time(thread.first),
                answers=[_said(answer, papers) for answer in thread.answers],
            )
            for thread in service.remarks(workplace(), person(), client)
        ]
    )


def _time(remark: Remark) -> str | None:
    return remark.cleared_at.isoformat() if remark.cleared_at else None


def _said(remark: Remark, papers: Mapping[str, str]) -> AnswerToRemark:
    paper = remark.paper
    return AnswerToRemark(
        number=remark.number,
        text=remark.text,
        by=remark.by,
        at=remark.at.isoformat(),
        paper=RemarkPaper(name=papers.get(paper, "paper"), digest=paper) if paper else None,
    )


@bp.post("/clients/<client>/remarks")
@answers(Done, "remarks")
def add(client: str, json: RemarkOnBody) -> Done:
    """Remark on something, or answer a remark."""
    service.remark(
        workplace(),
        person(),
        client,
        json.about,
        json.name,
        json.text,
        asks=json.asks,
        answers=json.answers,
        paper=json.paper,
    )
    return DONE


class ClearBody(Asked):
    number: int


@bp.post("/clients/<client>/remarks/cleared")
@answers(Done, "remarks")
def clear(client: str, json: ClearBody) -> Done:
    """Clear a remark."""
    service.clear(workplace(), person(), client, json.number)
    return DONE


@bp.get("/clients/<client>/marks")
@answers(MarksAnswer, "remarks")
def show_marks(client: str, query: AtDay) -> MarksAnswer:
    """The marks on the lines of the worksheet as at a day."""
    found = service.marks(workplace(), person(), client, query.at)
    return MarksAnswer(
        as_at=query.at,
        marks=[
            MarkAnswer(
                account=account,
                kind=stated.mark.kind,
                by=stated.mark.by,
                at=stated.mark.at.isoformat(),
                fell=stated.fell,
            )
            for account, rows in found.items()
            for stated in rows
        ],
    )


@bp.post("/clients/<client>/marks")
@answers(Done, "remarks")
def mark(client: str, json: MarkBody) -> Done:
    """Mark a line as prepared or reviewed at the figure that was seen, or take the mark off."""
    currency = overview.chart(workplace(), person(), client).client.currency
    try:
        seen = None if json.seen is None else currency.parse(json.seen)
    except NotAnAmount as bad:
        raise BadEntry([str(bad)]) from None
    service.mark(workplace(), person(), client, json.account, json.as_at, json.kind, seen)
    return DONE
