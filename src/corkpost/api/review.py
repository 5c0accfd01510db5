"""Review points: the list, the case of one, correcting it or deciding about it."""

from collections.abc import Mapping

from flask import Blueprint
from pydantic import Field

from corkpost.api.queries import QueryAnswer, query_answer
from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, AsAt, Asked, Day, Done, Nothing, answers
from corkpost.api.views import (
    AskAnswer,
    PreviewAnswer,
    SlipAnswer,
    asks_of,
    period_name,
    preview_of,
    slip_answer,
)
from corkpost.core.books import Books
from corkpost.core.evidence.account_kind import TAKEN_FOR
from corkpost.core.points import Point
from corkpost.core.routes import route_named
from corkpost.core.states import StatedPoint
from corkpost.core.usual import Usual
from corkpost.formats.answers import PointAnswer, point_answer
from corkpost.formats.shape import Shape
from corkpost.services import review as service
from corkpost.services import visits
from corkpost.services.approvals import points_waiting
from corkpost.services.review import Prepared
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
    the client was asked about it last. *handed_in*: a correction of it that waits for approval.
    *proposed*: a preparer left or waived it, and a reviewer's word is waited for. *taken_for*: the accounts
    whose role it only guesses. *because*, *against*: what speaks for it, and against it; *consequences*:
    what is so because of it, or was told otherwise of the same entries."""

    level: str
    family: str
    headline: str
    short: str
    because: list[str]
    against: list[str]
    consequences: list[str]
    taken_for: list[str]
    date: Day
    changed: bool
    decision: DecisionAnswer | None
    query: QueryAnswer | None
    handed_in: int | None
    proposed: bool


class PointsAnswer(Shape):
    revision: int
    points: list[PointView]


class PreparedAnswer(Shape):
    """A way to go. *decides*: it posts nothing, and *does* says what comes of it; *done*, what came of
    it. *deed*: on the button. *why*, *why_asks*: what its reason is called. *refused*: why it can't be
    taken."""

    route: str
    title: str
    settings: Settings
    asks: list[AskAnswer]
    deed: str
    why: str
    why_asks: str
    decides: bool
    does: str
    done: str
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


class TogetherBody(Asked):
    points: list[str] = Field(min_length=1, max_length=500)


class TogetherRow(Shape):
    """A point by its recommended route; *refused*: why it can't go with the others."""

    point: str
    title: str
    reason: str
    refused: str | None


class TogetherAnswer(Shape):
    rows: list[TogetherRow]


class Decision(Asked):
    """*back_on*: of a question, the day on which the point comes back without an answer."""

    route: str = Field(max_length=40)
    reason: str = Field(max_length=2000)
    back_on: Day | None = None


class Reason(Asked):
    reason: str = Field(max_length=2000)


def _point(
    stated: StatedPoint, books: Books, waiting: Mapping[str, Proposal], preparers: frozenset[str]
) -> PointView:
    point, decision = stated.point, stated.decision
    return PointView(
        **point_answer(point, stated.state, books).model_dump(),
        level=point.level,
        family=service.family_of(point),
        headline=_headline(point, books),
        short=point.short,
        because=list(point.because),
        against=list(point.against),
        consequences=list(point.consequences),
        taken_for=point.hint(TAKEN_FOR).split(),
        date=service.day_of(point, books) or workplace().today,
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
        proposed=service.is_proposed(stated, preparers),
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


def _prepared(way: Prepared, books: Books) -> PreparedAnswer:
    route = route_named(way.option.route).route
    return PreparedAnswer(
        route=route.id,
        title=way.option.title,
        settings=dict(way.option.settings),
        asks=asks_of(way.option.asks),
        deed=route.deed,
        why=route.why,
        why_asks=route.why_asks,
        decides=route.decides is not None,
        does=route.does,
        done=route.done,
        reason=way.reason,
        refused=way.refused,
        preview=preview_of(way.preview, books) if way.preview else None,
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


@bp.get("/clients/<client>/points")
@answers(PointsAnswer, "review")
def points(client: str) -> PointsAnswer:
    """Every point of the client, open or decided."""
    ledger = workplace().ledger(person(), client)
    found = service.stated_points(ledger)
    waiting = points_waiting(workplace(), ledger)
    preparers = service.preparers_of(workplace())
    return PointsAnswer(
        revision=ledger.client.revision,
        points=[_point(stated, ledger.books, waiting, preparers) for stated in found],
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
    found = visits.visit(workplace(), person(), client)
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
    ledger = workplace().ledger(person(), client)
    found = service.case(workplace(), person(), client, point, as_at=query.at)
    return CaseAnswer(
        revision=ledger.client.revision,
        point=_point(
            found.stated,
            ledger.books,
            points_waiting(workplace(), ledger),
            service.preparers_of(workplace()),
        ),
        changes=list(found.changes),
        usual=_usual(found.usual, ledger.books) if found.usual else None,
        evidence=[slip_answer(ledger, posted.id) for posted in found.evidence],
        prepared=[_prepared(prepared, ledger.books) for prepared in found.prepared],
        openable=[period_name(period) for period in found.openable],
    )


@bp.post("/clients/<client>/points-together")
@answers(TogetherAnswer, "review")
def together(client: str, json: TogetherBody) -> TogetherAnswer:
    """What putting several points of one kind right together would make of each."""
    return TogetherAnswer(
        rows=[
            TogetherRow(
                point=point.point.id,
                title=point.option.title,
                reason=point.reason,
                refused=point.refused,
            )
            for point in service.together_of(workplace(), person(), client, json.points)
        ],
    )


@bp.post("/clients/<client>/points/<point>/decision")
@answers(Done, "review")
def decide(client: str, point: str, json: Decision) -> Done:
    """Leave or waive the point, or ask the client: nothing is posted."""
    service.decide(workplace(), person(), client, point, json.route, json.reason, json.back_on)
    return DONE


@bp.post("/clients/<client>/points/<point>/reopening")
@answers(Done, "review")
def reopen(client: str, point: str, json: Reason) -> Done:
    """Open a point again that was left or asked."""
    service.reopen_point(workplace(), person(), client, point, json.reason)
    return DONE


@bp.post("/clients/<client>/points/<point>/confirmation")
@answers(Done, "review")
def confirm(client: str, point: str, json: Nothing) -> Done:
    """Confirm what a preparer decided about a sure point."""
    service.confirm_point(workplace(), person(), client, point)
    return DONE
