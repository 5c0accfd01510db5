"""Review points: the list, the case of one, correcting it or deciding about it."""

from flask import Blueprint
from pydantic import BaseModel, Field

from corkpost.api.security import person, place
from corkpost.api.spec import DONE, AsAt, Asked, Day, Done, answers
from corkpost.api.views import PreviewAnswer, SlipAnswer, preview_answer, slip_answer
from corkpost.core.books import Books
from corkpost.core.points import Point
from corkpost.formats.answers import ChangeAnswer, PointAnswer, change_answer, point_answer
from corkpost.services import overview
from corkpost.services import review as service
from corkpost.services.posting import Deed
from corkpost.services.review import Prepared, StatedPoint
from corkpost.services.workplace import Ledger, Posted

bp = Blueprint("review", __name__)
Settings = dict[str, str]


class DecisionAnswer(BaseModel):
    """*change*: the change that corrected the point."""

    reason: str
    by: str
    at: str
    change: int | None


class PointView(PointAnswer):
    """*headline*: whose point it is. *changed*: its facts moved since somebody decided it."""

    level: str
    family: str
    headline: str
    short: str
    because: list[str]
    date: Day
    changed: bool
    decision: DecisionAnswer | None


class PointsAnswer(BaseModel):
    revision: int
    points: list[PointView]


class PreparedAnswer(BaseModel):
    """A way to go. *decides*: it posts nothing. *refused*: why it can't be taken."""

    route: str
    title: str
    settings: Settings
    decides: bool
    reason: str
    refused: str | None
    preview: PreviewAnswer | None


class CaseAnswer(BaseModel):
    revision: int
    point: PointView
    evidence: list[SlipAnswer]
    prepared: list[PreparedAnswer]


class ChosenRoute(Asked):
    route: str = Field(max_length=40)
    settings: Settings = Field(default_factory=dict, max_length=10)
    at: Day | None = None


class Correction(Asked):
    """*shown*: the digest of the preview that the person saw. *key*: posted once, however often sent."""

    route: str = Field(max_length=40)
    settings: Settings = Field(default_factory=dict, max_length=10)
    reason: str = Field(max_length=2000)
    shown: str = Field(max_length=64)
    key: str = Field(min_length=8, max_length=64)


class Decision(Asked):
    route: str = Field(max_length=40)
    reason: str = Field(max_length=2000)


class Reason(Asked):
    reason: str = Field(max_length=2000)


def _point(stated: StatedPoint, books: Books) -> PointView:
    point, decision = stated.point, stated.decision
    return PointView(
        **point_answer(point, stated.state, books).model_dump(),
        level=point.level,
        family=service.family_of(point),
        headline=_headline(point, books),
        short=point.short,
        because=list(point.because),
        date=service.day_of(point, books) or place().today,
        changed=stated.changed,
        decision=(
            DecisionAnswer(
                reason=decision.reason,
                by=decision.made_by,
                at=decision.made_at,
                change=decision.change,
            )
            if decision
            else None
        ),
    )


def _headline(point: Point, books: Books) -> str:
    if point.parties:
        return books.party_name(point.parties[0])
    if point.statement_lines:
        return books.accounts[point.accounts[0]].name
    for name in point.transactions:
        for line in books.transactions[name].lines if name in books.transactions else ():
            if books.accounts[line.account].is_profit_and_loss:
                return books.accounts[line.account].name
    return books.accounts[point.accounts[0]].name if point.accounts else "No party"


def _prepared(one: Prepared, books: Books) -> PreparedAnswer:
    plan, effect = one.plan, one.effect
    return PreparedAnswer(
        route=one.option.route,
        title=one.option.title,
        settings=dict(one.option.settings),
        decides=service.is_decision(one.option.route),
        reason=plan.proposed_reason if plan else one.option.proposed_reason,
        refused=one.refused,
        preview=preview_answer(plan, effect, one.t_accounts, books) if plan and effect else None,
    )


def changed(ledger: Ledger, posted: Posted) -> tuple[ChangeAnswer, int]:
    """The answer to a post: the change, created."""
    return change_answer(*posted[:7], ledger.books), 201


@bp.get("/clients/<client>/points")
@answers(PointsAnswer, "review")
def points(client: str) -> PointsAnswer:
    """Every point of the client, open or decided."""
    ledger = place().ledger(person(), client)
    found = service.stated_points(ledger)
    return PointsAnswer(
        revision=ledger.client.revision, points=[_point(one, ledger.books) for one in found]
    )


@bp.get("/clients/<client>/points/<point>")
@answers(CaseAnswer, "review")
def case(client: str, point: str, query: AsAt) -> CaseAnswer:
    """One point with its evidence and every route's entries and effect."""
    ledger = place().ledger(person(), client)
    found = service.case(place(), person(), client, point, as_at=query.at)
    return CaseAnswer(
        revision=ledger.client.revision,
        point=_point(found.stated, ledger.books),
        evidence=[slip_answer(ledger, posted.id) for posted in found.evidence],
        prepared=[_prepared(one, ledger.books) for one in found.prepared],
    )


@bp.post("/clients/<client>/points/<point>/preview")
@answers(PreparedAnswer, "review")
def preview(client: str, point: str, json: ChosenRoute) -> PreparedAnswer:
    """What a route with other settings would post and move."""
    books = overview.chart(place(), person(), client)
    found = service.preview(
        place(), person(), client, point, json.route, json.settings, as_at=json.at
    )
    return _prepared(found, books)


@bp.post("/clients/<client>/points/<point>/change")
@answers(ChangeAnswer, "review", status=201)
def post_change(client: str, point: str, json: Correction) -> tuple[ChangeAnswer, int]:
    """Put the point right by the route that was chosen."""
    deed = Deed(json.reason, json.shown, json.key)
    posted = service.correct(place(), person(), client, point, json.route, json.settings, deed)
    return changed(place().ledger(person(), client), posted)


@bp.post("/clients/<client>/points/<point>/decision")
@answers(Done, "review")
def decide(client: str, point: str, json: Decision) -> Done:
    """Leave the point, or ask the client: nothing is posted."""
    service.decide(place(), person(), client, point, json.route, json.reason)
    return DONE


@bp.post("/clients/<client>/points/<point>/reopening")
@answers(Done, "review")
def reopen(client: str, point: str, json: Reason) -> Done:
    """Open a point again that was left or asked."""
    service.reopen_point(place(), person(), client, point, json.reason)
    return DONE
