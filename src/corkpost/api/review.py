"""Review points: the list, the case of one, correcting it or deciding about it."""

from collections.abc import Mapping

from flask import Blueprint
from pydantic import Field

from corkpost.api.queries import QueryAnswer, query_answer
from corkpost.api.security import person, place
from corkpost.api.spec import DONE, AsAt, Asked, Day, Done, Nothing, answers
from corkpost.api.views import PreviewAnswer, SlipAnswer, period_name, preview_of, slip_answer
from corkpost.core.books import Books
from corkpost.core.points import Point
from corkpost.core.states import StatedPoint
from corkpost.core.usual import Usual
from corkpost.formats.answers import ChangeAnswer, PointAnswer, change_answer, point_answer
from corkpost.formats.shape import Shape
from corkpost.services import overview, visits
from corkpost.services import review as service
from corkpost.services.approvals import points_waiting
from corkpost.services.entries import Preview
from corkpost.services.posting import PostRequest
from corkpost.services.review import Prepared
from corkpost.services.workplace import ClientState, Posted
from corkpost.store.approvals import Proposal

bp = Blueprint("review", __name__)
Settings = dict[str, str]


class DecisionAnswer(Shape):
    """*change*: the change that corrected the point."""

    reason: str
    by: str
    at: str
    change: int | None


class PointView(PointAnswer):
    """*headline*: whose point it is. *changed*: its facts moved since somebody decided it. *query*: what
    the client was asked about it last. *handed_in*: a correction of it that waits for approval."""

    level: str
    family: str
    headline: str
    short: str
    because: list[str]
    date: Day
    changed: bool
    decision: DecisionAnswer | None
    query: QueryAnswer | None
    handed_in: int | None


class PointsAnswer(Shape):
    revision: int
    points: list[PointView]


class PreparedAnswer(Shape):
    """A way to go. *decides*: it posts nothing. *refused*: why it can't be taken."""

    route: str
    title: str
    settings: Settings
    decides: bool
    reason: str
    refused: str | None
    preview: PreviewAnswer | None


class UsualRowAnswer(Shape):
    transaction: str
    date: Day
    reference: str | None
    account: str | None
    amount: str


class UsualAnswer(Shape):
    """What its party, or its payee, usually is in these books."""

    name: str
    party: str | None
    says: list[str]
    rows: list[UsualRowAnswer]


class CaseAnswer(Shape):
    """*changes*: what is otherwise than when it was decided."""

    revision: int
    point: PointView
    changes: list[str]
    usual: UsualAnswer | None
    evidence: list[SlipAnswer]
    prepared: list[PreparedAnswer]
    openable: list[str]


class ChosenRoute(Asked):
    route: str = Field(max_length=40)
    settings: Settings = Field(default_factory=dict, max_length=10)
    opens: bool = False
    at: Day | None = None


class Correction(Asked):
    """*shown*: the digest of the preview that the person saw. *key*: posted once, however often sent.
    *opens*: barred periods are opened for it alone."""

    route: str = Field(max_length=40)
    settings: Settings = Field(default_factory=dict, max_length=10)
    opens: bool = False
    reason: str = Field(max_length=2000)
    shown: str = Field(max_length=64)
    key: str = Field(min_length=8, max_length=64)


class TogetherBody(Asked):
    points: list[str] = Field(min_length=1, max_length=500)
    at: Day | None = None


class TogetherPost(Asked):
    points: list[str] = Field(min_length=1, max_length=500)
    reason: str = Field(max_length=2000)
    shown: str = Field(max_length=64)
    key: str = Field(min_length=8, max_length=64)


class TogetherRow(Shape):
    """A point by its recommended route; *refused*: why it can't go with the others."""

    point: str
    title: str
    reason: str
    refused: str | None


class TogetherAnswer(Shape):
    """*preview*: the one effect of all that are not refused."""

    rows: list[TogetherRow]
    preview: PreviewAnswer | None


class Decision(Asked):
    """*back_on*: of a question, the day on which the point comes back without an answer."""

    route: str = Field(max_length=40)
    reason: str = Field(max_length=2000)
    back_on: Day | None = None


class Reason(Asked):
    reason: str = Field(max_length=2000)


def _point(
    stated: StatedPoint, books: Books, waiting: Mapping[str, Proposal] | None = None
) -> PointView:
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
        query=query_answer(stated.query, books) if stated.query else None,
        handed_in=proposal.number if (proposal := (waiting or {}).get(point.id)) else None,
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
    plan, shown = one.plan, None
    if plan and one.effect:
        shown = preview_of(Preview(plan, one.effect, one.t_accounts, one.held, one.opens), books)
    return PreparedAnswer(
        route=one.option.route,
        title=one.option.title,
        settings=dict(one.option.settings),
        decides=service.is_decision(one.option.route),
        reason=plan.proposed_reason if plan else one.option.proposed_reason,
        refused=one.refused,
        preview=shown,
    )


def _usual(usual: Usual, books: Books) -> UsualAnswer:
    return UsualAnswer(
        name=usual.name,
        party=usual.party,
        says=list(usual.says),
        rows=[
            UsualRowAnswer(
                transaction=row.transaction.id,
                date=row.transaction.posting_date,
                reference=row.transaction.reference,
                account=books.accounts[row.account].name if row.account else None,
                amount=books.client.currency.format(row.amount),
            )
            for row in usual.rows
        ],
    )


def changed(ledger: ClientState, posted: Posted) -> tuple[ChangeAnswer, int]:
    """The answer to a post: the change, created."""
    return change_answer(*posted[:4], ledger.books), 201


@bp.get("/clients/<client>/points")
@answers(PointsAnswer, "review")
def points(client: str) -> PointsAnswer:
    """Every point of the client, open or decided."""
    ledger = place().ledger(person(), client)
    found = service.stated_points(ledger)
    waiting = points_waiting(place(), ledger)
    return PointsAnswer(
        revision=ledger.client.revision,
        points=[_point(one, ledger.books, waiting) for one in found],
    )


class SinceAnswer(Shape):
    """*at*: when the person was last here; none on the first visit. Points by id."""

    at: str | None
    new: list[str]
    changed: list[str]
    decided: list[str]
    gone: int


@bp.post("/clients/<client>/points/visit")
@answers(SinceAnswer, "review")
def visit(client: str, json: Nothing) -> SinceAnswer:
    """Look at the points; what changed since this person was last here."""
    found = visits.visit(place(), person(), client)
    return SinceAnswer(
        at=found.at.isoformat() if found.at else None,
        new=list(found.new),
        changed=list(found.changed),
        decided=list(found.decided),
        gone=found.gone,
    )


@bp.get("/clients/<client>/points/<point>")
@answers(CaseAnswer, "review")
def case(client: str, point: str, query: AsAt) -> CaseAnswer:
    """One point with its evidence and every route's entries and effect."""
    ledger = place().ledger(person(), client)
    found = service.case(place(), person(), client, point, as_at=query.at)
    return CaseAnswer(
        revision=ledger.client.revision,
        point=_point(found.stated, ledger.books, points_waiting(place(), ledger)),
        changes=list(found.changes),
        usual=_usual(found.usual, ledger.books) if found.usual else None,
        evidence=[slip_answer(ledger, posted.id) for posted in found.evidence],
        prepared=[_prepared(one, ledger.books) for one in found.prepared],
        openable=[period_name(period) for period in found.openable],
    )


@bp.post("/clients/<client>/points/<point>/preview")
@answers(PreparedAnswer, "review")
def preview(client: str, point: str, json: ChosenRoute) -> PreparedAnswer:
    """What a route with other settings would post and move."""
    books = overview.chart(place(), person(), client)
    found = service.preview(
        place(),
        person(),
        client,
        point,
        json.route,
        json.settings,
        as_at=json.at,
        opens=json.opens,
    )
    return _prepared(found, books)


@bp.post("/clients/<client>/points/<point>/change")
@answers(ChangeAnswer, "review", status=201)
def post_change(client: str, point: str, json: Correction) -> tuple[ChangeAnswer, int]:
    """Put the point right by the route that was chosen."""
    post_request = PostRequest(json.reason, json.shown, json.key, opens=json.opens)
    posted = service.correct(
        place(), person(), client, point, json.route, json.settings, post_request
    )
    return changed(place().ledger(person(), client), posted)


@bp.post("/clients/<client>/points-together/preview")
@answers(TogetherAnswer, "review")
def preview_together(client: str, json: TogetherBody) -> TogetherAnswer:
    """What the recommended routes of several points of one kind would post and move, all at once."""
    found = service.preview_together(place(), person(), client, json.points, json.at)
    books = overview.chart(place(), person(), client)
    return TogetherAnswer(
        rows=[
            TogetherRow(
                point=one.point.id, title=one.option.title, reason=one.reason, refused=one.refused
            )
            for one in found.taken
        ],
        preview=preview_of(found.preview, books) if found.preview else None,
    )


@bp.post("/clients/<client>/points-together")
@answers(ChangeAnswer, "review", status=201)
def post_together(client: str, json: TogetherPost) -> tuple[ChangeAnswer, int]:
    """Put several points of one kind right by one change."""
    post_request = PostRequest(json.reason, json.shown, json.key)
    posted = service.correct_together(place(), person(), client, json.points, post_request)
    return changed(place().ledger(person(), client), posted)


@bp.post("/clients/<client>/points/<point>/decision")
@answers(Done, "review")
def decide(client: str, point: str, json: Decision) -> Done:
    """Leave or waive the point, or ask the client: nothing is posted."""
    service.decide(place(), person(), client, point, json.route, json.reason, json.back_on)
    return DONE


@bp.post("/clients/<client>/points/<point>/reopening")
@answers(Done, "review")
def reopen(client: str, point: str, json: Reason) -> Done:
    """Open a point again that was left or asked."""
    service.reopen_point(place(), person(), client, point, json.reason)
    return DONE
