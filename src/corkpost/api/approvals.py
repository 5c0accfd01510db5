"""What waits for approval: approving it, sending it back, taking it back."""

from flask import Blueprint
from pydantic import Field

from corkpost.api.acts import changed
from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, AsAt, Asked, Done, Nothing, answers
from corkpost.api.views import PreviewAnswer, preview_of
from corkpost.formats.acts import AnyAct, ByHandAct, EntryAct, PointAct, act_of
from corkpost.formats.answers import ChangeAnswer
from corkpost.formats.shape import Shape
from corkpost.services import approvals as service
from corkpost.services import review
from corkpost.services.approvals import Handed
from corkpost.services.rights import May
from corkpost.services.workplace import ClientState
from corkpost.store.approvals import Proposal

bp = Blueprint("approvals", __name__)


class ProposalRow(Shape):
    """*state*: waiting, or sent-back to this person with *remark*. *point*, *transaction*: what it is
    about, where it is about one; *draft*: what an entry is kept as since it came back."""

    number: int
    act: str
    what: str
    reason: str
    why: str
    by: str
    at: str
    state: str
    remark: str | None
    back_from: str | None
    point: str | None
    transaction: str | None
    draft: str | None


class ProposalsAnswer(Shape):
    """*may_approve*: this person may approve what others handed in."""

    proposals: list[ProposalRow]
    may_approve: bool


class ProposalAnswer(Shape):
    """*preview*: what it would post now; *refused*: why it can't be any more. *moved*: it is not what
    its maker saw. *may_not*: why this person may not approve it. *maker_gone*: that its maker does not have
    the client any more, in words."""

    proposal: ProposalRow
    preview: PreviewAnswer | None
    refused: str | None
    moved: bool
    may_not: str | None
    maker_gone: str | None


class ApproveBody(Asked):
    shown: str = Field(max_length=64)
    key: str = Field(min_length=8, max_length=64)


class RemarkBody(Asked):
    remark: str = Field(max_length=2000)


@bp.get("/clients/<client>/proposals")
@answers(ProposalsAnswer, "approvals")
def listed(client: str) -> ProposalsAnswer:
    """What waits for approval, and what came back to this person."""
    found = service.listed(workplace(), person(), client)
    ledger = workplace().ledger(person(), client)
    return ProposalsAnswer(
        proposals=[_row(proposal, ledger) for proposal in found],
        may_approve=person().may(May.APPROVE),
    )


def _row(proposed: Proposal, ledger: ClientState) -> ProposalRow:
    act = act_of(proposed.asked)
    back = proposed.ending if proposed.ending and proposed.ending.how == "sent-back" else None
    return ProposalRow(
        number=proposed.number,
        act=proposed.act,
        what=_what(act, ledger),
        reason=proposed.reason,
        why=proposed.why,
        by=proposed.made_by,
        at=proposed.made_at,
        state=proposed.ending.how if proposed.ending else "waiting",
        remark=back.remark if back else None,
        back_from=back.by if back else None,
        point=act.point if isinstance(act, PointAct) else None,
        transaction=act.transaction if isinstance(act, ByHandAct) else None,
        draft=service.draft_of(proposed) if back and isinstance(act, EntryAct) else None,
    )


def _what(act: AnyAct, ledger: ClientState) -> str:
    """What it is about, in words that fit a list."""
    if isinstance(act, PointAct):
        known = (
            stated.point for stated in review.stated_points(ledger) if stated.point.id == act.point
        )
        point = next(known, None)
        return point.summary if point else f"{act.route} for a point that is gone"
    if isinstance(act, ByHandAct):
        return f"{act.route.replace('-', ' ')} {act.transaction}"
    if isinstance(act, EntryAct):
        return f"{act.entry.kind.value} entry"
    if act.act == "undo":
        return f"change {act.number} taken back"
    return act.says


@bp.get("/clients/<client>/proposals/<int:number>")
@answers(ProposalAnswer, "approvals")
def show(client: str, number: int, query: AsAt) -> ProposalAnswer:
    """One proposal as it would be posted now."""
    return _answer(*service.handed(workplace(), person(), client, number, query.at))


def _answer(ledger: ClientState, found: Handed) -> ProposalAnswer:
    return ProposalAnswer(
        proposal=_row(found.proposal, ledger),
        preview=preview_of(found.preview, ledger.books) if found.preview else None,
        refused=found.refused,
        moved=found.moved,
        may_not=found.may_not,
        maker_gone=found.maker_gone,
    )


@bp.post("/clients/<client>/proposals/<int:number>/approval")
@answers(ChangeAnswer, "approvals", status=201)
def approve(client: str, number: int, json: ApproveBody) -> tuple[ChangeAnswer, int]:
    """Post it, in its maker's name."""
    posted = service.approve(workplace(), person(), client, number, shown=json.shown, key=json.key)
    return changed(workplace().ledger(person(), client), posted)


@bp.post("/clients/<client>/proposals/<int:number>/return")
@answers(Done, "approvals")
def send_back(client: str, number: int, json: RemarkBody) -> Done:
    """Send it back to its maker with a remark."""
    service.send_back(workplace(), person(), client, number, json.remark)
    return DONE


@bp.post("/clients/<client>/proposals/<int:number>/withdrawal")
@answers(Done, "approvals")
def withdraw(client: str, number: int, json: Nothing) -> Done:
    """Take back what one handed in oneself."""
    service.withdraw(workplace(), person(), client, number)
    return DONE
