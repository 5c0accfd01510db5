"""Handing in what waits for another's approval; approving it, or sending it back with a remark."""

from collections.abc import Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core.refusals import ChangedMeanwhile, NoReason, NotAllowed, Refusal, UnknownName
from corkpost.formats.acts import AnyAct, EntryAct, PointAct, act_of
from corkpost.services import acts
from corkpost.services.entries import Preview
from corkpost.services.posting import PostRequest, must_wait
from corkpost.services.rights import May, Person
from corkpost.services.staff import person_named
from corkpost.services.workplace import ClientState, Posted, Workplace
from corkpost.store import approvals as store
from corkpost.store import drafts as draft_store
from corkpost.store.approvals import Proposal
from corkpost.store.clients import raise_revision


class Handed(NamedTuple):
    """What was handed in, with what it would post now or why that is refused. *moved*: it is not what
    its maker saw. *may_not*: why this person may not approve it. *maker_gone*: in words, where its maker
    does not work on the client any more."""

    proposal: Proposal
    act: AnyAct
    preview: Preview | None
    refused: str | None
    moved: bool
    may_not: str | None
    maker_gone: str | None = None


def hand_in(
    workplace: Workplace,
    person: Person,
    client_code: str,
    act: AnyAct,
    *,
    reason: str,
    shown: str,
    draft: str | None = None,
) -> int:
    """Hand an act in for approval; its number. *draft*: dropped, since it is handed in now.

    Raises NoReason, ChangedMeanwhile where it would post another thing than was shown, what the act
    itself is refused for, or Refusal where this person may post it without asking.
    """
    person.must_be_allowed(May.POST)
    if not reason.strip():
        raise NoReason()
    found = acts.preview(workplace, person, client_code, act)
    if found.held is None:
        raise Refusal("You may post this yourself: nobody needs to approve it.")
    if found.plan.digest != shown:
        raise ChangedMeanwhile(
            "Somebody posted in these books since you looked, and what would be posted now is not "
            "what you were shown. Nothing was handed in. Look at the new preview, then hand it in."
        )
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        same = [
            proposal
            for proposal in _waiting(workplace, ledger)
            if _same(act_of(proposal.asked), act)
        ]
        if same:
            raise Refusal(f"That was handed in already, by {same[0].made_by}: it waits.")
        number = store.add_proposal(
            connection,
            ledger.client.id,
            act=act.act,
            asked=act.model_dump_json(),
            reason=reason.strip(),
            shown=shown,
            why=found.held,
            made_by=person.code,
            made_at=workplace.now,
        )
        if draft:
            draft_store.drop_draft(connection, ledger.client.id, draft)
        raise_revision(connection, ledger.client.id)
    return number


def _same(one: AnyAct, other: AnyAct) -> bool:
    """Whether both are about one thing, of which only one can be posted."""
    if isinstance(one, PointAct) and isinstance(other, PointAct):
        return one.point == other.point
    return one == other


def _waiting(workplace: Workplace, ledger: ClientState) -> list[Proposal]:
    every = store.proposals_of(workplace.database.reading, ledger.client.id)
    return [proposal for proposal in every if proposal.ending is None]


def listed(workplace: Workplace, person: Person, client_code: str) -> tuple[Proposal, ...]:
    """What waits, and what was sent back to this person and not taken up again; oldest first."""
    ledger = workplace.ledger(person, client_code)
    every = store.proposals_of(workplace.database.reading, ledger.client.id)
    return tuple(
        proposal
        for proposal in every
        if proposal.ending is None or _is_back(proposal, person, every)
    )


def _is_back(proposed: Proposal, person: Person, every: tuple[Proposal, ...]) -> bool:
    if proposed.made_by != person.code or not proposed.ending or proposed.ending.how != "sent-back":
        return False
    act = act_of(proposed.asked)
    return not any(
        later.number > proposed.number and _same(act_of(later.asked), act) for later in every
    )


def points_waiting(workplace: Workplace, ledger: ClientState) -> Mapping[str, Proposal]:
    """For each review point that somebody handed a correction of in: that."""
    found = {}
    for proposal in _waiting(workplace, ledger):
        act = act_of(proposal.asked)
        if isinstance(act, PointAct):
            found[act.point] = proposal
    return found


def approvers_of(workplace: Workplace, ledger: ClientState) -> Mapping[int, str]:
    """Who approved each change that was handed in, by the change's number."""
    every = store.proposals_of(workplace.database.reading, ledger.client.id)
    return {
        proposal.ending.change: proposal.ending.by
        for proposal in every
        if proposal.ending and proposal.ending.change is not None
    }


def handed(
    workplace: Workplace, person: Person, client_code: str, number: int, as_at: date | None = None
) -> tuple[ClientState, Handed]:
    """One proposal as it would be posted now."""
    ledger = workplace.ledger(person, client_code)
    proposal = _named(workplace, ledger, number)
    act = act_of(proposal.asked)
    preview, refused, may_not = None, None, None
    try:
        preview = acts.preview(workplace, person, client_code, act, as_at)
    except Refusal as wrong:
        refused = str(wrong)
    try:
        _refuse_approver(person, proposal)
        if preview and preview.held:
            may_not = preview.held
    except NotAllowed as wrong:
        may_not = str(wrong)
    moved = preview is not None and preview.plan.digest != proposal.shown
    gone = _maker_gone(workplace, proposal, client_code)
    return ledger, Handed(proposal, act, preview, refused, moved, may_not, gone)


def _maker_gone(workplace: Workplace, proposal: Proposal, client_code: str) -> str | None:
    """It is posted in its maker's name: who approves it is told where that one may not post here now."""
    maker = person_named(workplace, proposal.made_by)
    if maker.sees(client_code):
        return None
    return f"{maker.name} does not have this client any more: look at it as at a stranger's."


def _named(workplace: Workplace, ledger: ClientState, number: int) -> Proposal:
    for proposal in store.proposals_of(workplace.database.reading, ledger.client.id):
        if proposal.number == number:
            return proposal
    raise UnknownName("proposal", str(number))


def _refuse_approver(person: Person, proposal: Proposal) -> None:
    person.must_be_allowed(May.APPROVE)
    if proposal.made_by == person.code:
        raise NotAllowed("You handed this in yourself: somebody else approves it.")


def approve(
    workplace: Workplace,
    person: Person,
    client_code: str,
    number: int,
    *,
    shown: str,
    key: str | None = None,
) -> Posted:
    """Post what was handed in, in its maker's name; the approver is kept beside it."""
    proposal = _named(workplace, workplace.ledger(person, client_code), number)
    _refuse_approver(person, proposal)
    post_request = PostRequest(proposal.reason, shown, key, approves=proposal)
    return acts.post(workplace, person, client_code, act_of(proposal.asked), post_request)


def send_back(
    workplace: Workplace, person: Person, client_code: str, number: int, remark: str
) -> None:
    """Send it back to its maker with a remark; an entry is a draft again."""
    if not remark.strip():
        raise NoReason()
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        proposal = _named(workplace, ledger, number)
        _refuse_approver(person, proposal)
        _end(workplace, person, ledger, proposal, "sent-back", remark)
        _draft_again(workplace, ledger, proposal)
        raise_revision(connection, ledger.client.id)


def withdraw(workplace: Workplace, person: Person, client_code: str, number: int) -> None:
    """Take back what one handed in oneself; an entry is a draft again."""
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        proposal = _named(workplace, ledger, number)
        if proposal.made_by != person.code:
            raise NotAllowed("Only who handed it in takes it back. Send it back with a remark.")
        _end(workplace, person, ledger, proposal, "withdrawn", "")
        _draft_again(workplace, ledger, proposal)
        raise_revision(connection, ledger.client.id)


def _end(
    workplace: Workplace,
    person: Person,
    ledger: ClientState,
    proposal: Proposal,
    how: str,
    remark: str,
) -> None:
    must_wait(workplace, ledger, proposal.number)
    store.end_proposal(
        workplace.database.reading,
        ledger.client.id,
        proposal.number,
        how,
        remark=remark.strip(),
        change=None,
        made_by=person.code,
        made_at=workplace.now,
    )


def _draft_again(workplace: Workplace, ledger: ClientState, proposal: Proposal) -> None:
    act = act_of(proposal.asked)
    if isinstance(act, EntryAct):
        draft_store.keep_draft(
            workplace.database.reading,
            ledger.client.id,
            draft_of(proposal),
            act.entry.model_dump_json(),
            made_by=proposal.made_by,
            made_at=workplace.now,
        )


def draft_of(proposal: Proposal) -> str:
    """The draft that an entry becomes when it comes back."""
    return f"back{proposal.number}"
