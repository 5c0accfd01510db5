"""The practice: its people, what they may, and the record."""

import csv
import io
import time
from collections.abc import Iterable
from datetime import date

from flask import Blueprint, Response
from pydantic import Field

from corkpost.api.security import must_be_confirmed, person, workplace
from corkpost.api.spec import DONE, Asked, Day, Done, answers
from corkpost.api.views import AskAnswer, as_file, asks_of
from corkpost.core.approval import ApprovalRule
from corkpost.core.cells import plain_cell
from corkpost.core.client_facts import asks_for_many
from corkpost.core.kinds import Entity, MayChange, PeriodState, Role
from corkpost.formats.shape import Shape
from corkpost.services import archive, many, record, second_factor, sessions, staff, tokens
from corkpost.services.copying import copy_state
from corkpost.services.record import Asked as AskedRecord
from corkpost.services.rights import May

bp = Blueprint("practice", __name__)


class StaffAnswer(Shape):
    """*journals*, *above*: what of theirs waits for another's approval. *sessions*: that go on."""

    code: str
    name: str
    role: Role
    clients: list[str]
    can_sign_in: bool
    has_factor: bool
    journals: bool
    above: int | None
    left_on: Day | None
    sessions: int


class CopyStateAnswer(Shape):
    """*ago*: seconds since the copy was last whole; none before it ever was."""

    to: str
    ago: int | None
    files: int
    problem: str | None


class PracticeAnswer(Shape):
    """*copies*: elsewhere, as it is worked on; none where none were asked for."""

    name: str
    copies: CopyStateAnswer | None
    second_person: bool
    second_factor: bool
    token_needed: bool
    kept_years: int
    staff: list[StaffAnswer]


class JoinBody(Asked):
    code: str = Field(max_length=12)
    name: str = Field(max_length=100)
    role: Role


class StaffBody(Asked):
    """What is left out stays as it is. *rule*: what of theirs waits."""

    role: Role | None = None
    journals: bool | None = None
    above: int | None = Field(default=None, ge=0)
    sets_rule: bool = False


class LeaveBody(Asked):
    """*to*: who takes their clients over."""

    to: str | None = Field(default=None, max_length=12)


class Invited(Shape):
    """*path*: of the page on which the person sets a password of their own, for a week."""

    path: str


class RulesBody(Asked):
    """*token_needed*: on the command line. *kept_years*: of a client that left, after its last."""

    second_person: bool
    second_factor: bool
    token_needed: bool
    kept_years: int


class RecordQuery(Asked):
    first: Day
    last: Day
    q: str = Field(default="", max_length=100)
    before: int | None = None


class RecordRowAnswer(Shape):
    number: int
    at: str
    kind: str
    who: str
    client: str
    detail: str
    address: str


class RecordAnswer(Shape):
    rows: list[RecordRowAnswer]


class ClientStandingAnswer(Shape):
    """*barred_through*, *held_through*: the last day that is so. Limits in the client's currency."""

    code: str
    name: str
    entity: Entity
    currency: str
    barred_through: Day | None
    held_through: Day | None
    filed_through: Day | None
    materiality: str | None
    capital_item: str | None
    engaged_on: Day | None
    may_change: MayChange
    staff: list[str]


class ArchivedClientAnswer(Shape):
    """*kept_until*: from the day after it can be removed; *may_go*: that day has come."""

    code: str
    name: str
    since: str
    made_by: str
    reason: str
    kept_until: Day
    may_go: bool


class ClientsAnswer(Shape):
    """*asks*: what can be set for several at once."""

    clients: list[ClientStandingAnswer]
    archived: list[ArchivedClientAnswer]
    asks: list[AskAnswer]


class ArchivingBody(Asked):
    """*archived*: read from now on and not written to; else worked on again."""

    client: str = Field(max_length=20)
    archived: bool
    reason: str = Field(max_length=500)


class RemovalBody(Asked):
    client: str = Field(max_length=20)
    reason: str = Field(max_length=500)


class FactsOfMany(Asked):
    clients: list[str] = Field(min_length=1, max_length=1_000)
    facts: dict[str, str | None] = Field(min_length=1, max_length=20)
    reason: str = Field(max_length=500)


class StatesOfMany(Asked):
    """*through*: a day as it is keyed; every period that ends by then, unless filing or a seal bars it."""

    clients: list[str] = Field(min_length=1, max_length=1_000)
    through: str = Field(max_length=40)
    state: PeriodState
    reason: str = Field(max_length=500)


class OutcomeAnswer(Shape):
    """*did*: in words; or why nothing was done for this client."""

    client: str
    did: str | None
    problem: str | None


class OutcomesAnswer(Shape):
    outcomes: list[OutcomeAnswer]


@bp.get("/practice")
@answers(PracticeAnswer, "practice")
def show() -> PracticeAnswer:
    """The people of the practice and its rules, for who runs it."""
    person().must_be_allowed(May.RUN_PRACTICE)
    practice = staff.practice(workplace())
    return PracticeAnswer(
        name=practice.name,
        copies=_copies(),
        second_person=practice.second_person,
        second_factor=practice.second_factor,
        token_needed=tokens.is_needed(workplace()),
        kept_years=archive.kept_years(workplace()),
        staff=[
            StaffAnswer(
                code=row.code,
                name=row.name,
                role=row.role,
                clients=list(row.clients),
                can_sign_in=row.can_sign_in,
                has_factor=row.has_factor,
                journals=row.rule.journals,
                above=row.rule.above,
                left_on=date.fromisoformat(row.left_on) if row.left_on else None,
                sessions=len(sessions.listed(workplace(), person(), row.code)),
            )
            for row in staff.everybody(workplace())
        ],
    )


def _copies() -> CopyStateAnswer | None:
    state = copy_state(workplace())
    if state is None:
        return None
    ago = None if state.at is None else max(0, int(time.time()) - state.at)
    return CopyStateAnswer(to=state.to, ago=ago, files=state.files, problem=state.problem)


@bp.put("/practice/rules")
@answers(Done, "practice")
def set_rules(json: RulesBody) -> Done:
    """What holds for everybody."""
    must_be_confirmed()
    practice = staff.practice(workplace())
    if json.second_person != practice.second_person:
        staff.set_second_person(workplace(), person(), json.second_person)
    if json.second_factor != practice.second_factor:
        second_factor.demand(workplace(), person(), json.second_factor)
    if json.token_needed != tokens.is_needed(workplace()):
        tokens.need(workplace(), person(), json.token_needed)
    if json.kept_years != archive.kept_years(workplace()):
        archive.set_kept_years(workplace(), person(), json.kept_years)
    person().must_be_allowed(May.RUN_PRACTICE)
    return DONE


@bp.post("/practice/staff")
@answers(Invited, "practice", status=201)
def join(json: JoinBody) -> tuple[Invited, int]:
    """Somebody joins: what they come in by the first time."""
    must_be_confirmed()
    staff.add_staff(workplace(), person(), json.code, json.name.strip(), json.role, None)
    return Invited(path=f"/invitation/{staff.invite(workplace(), person(), json.code)}"), 201


@bp.post("/practice/staff/<code>/invitation")
@answers(Invited, "practice", status=201)
def invite(code: str) -> tuple[Invited, int]:
    """Another invitation, for who lost theirs or their password."""
    must_be_confirmed()
    return Invited(path=f"/invitation/{staff.invite(workplace(), person(), code)}"), 201


@bp.put("/practice/staff/<code>")
@answers(Done, "practice")
def change(code: str, json: StaffBody) -> Done:
    """Another role, or what of theirs waits for another's approval."""
    must_be_confirmed()
    if json.role is not None:
        staff.set_role(workplace(), person(), code, json.role)
    if json.sets_rule:
        rule = ApprovalRule(journals=bool(json.journals), above=json.above)
        staff.set_approval(workplace(), person(), code, rule)
    person().must_be_allowed(May.RUN_PRACTICE)
    return DONE


@bp.post("/practice/staff/<code>/leaving")
@answers(Done, "practice")
def leave(code: str, json: LeaveBody) -> Done:
    """Somebody leaves: their sessions end, their work goes on, their name stays."""
    must_be_confirmed()
    staff.leave(workplace(), person(), code, json.to)
    return DONE


@bp.delete("/practice/staff/<code>/sessions")
@answers(Done, "practice")
def end_sessions(code: str) -> Done:
    """End every session of a person."""
    person().must_be_allowed(May.RUN_PRACTICE)
    for row in sessions.listed(workplace(), person(), code):
        sessions.end(workplace(), person(), row.id, "ended by the practice")
    return DONE


@bp.delete("/practice/staff/<code>/factor")
@answers(Done, "practice")
def drop_factor(code: str) -> Done:
    """Take the second factor of somebody away who lost their device."""
    must_be_confirmed()
    person().must_be_allowed(May.RUN_PRACTICE)
    second_factor.drop(workplace(), person(), code)
    return DONE


@bp.get("/practice/clients")
@answers(ClientsAnswer, "practice")
def show_clients() -> ClientsAnswer:
    """What the practice answers for, of every client."""
    return ClientsAnswer(
        clients=[_standing(row) for row in many.standing(workplace(), person())],
        archived=[
            ArchivedClientAnswer(**row._asdict(), may_go=workplace().today > row.kept_until)
            for row in archive.archived(workplace(), person())
        ],
        asks=asks_of(asks_for_many()),
    )


def _standing(row: many.Standing) -> ClientStandingAnswer:
    facts = row.facts
    money = facts.currency.format
    return ClientStandingAnswer(
        code=facts.code,
        name=facts.name,
        entity=facts.entity,
        currency=facts.currency.code,
        barred_through=row.barred_through,
        held_through=row.held_through,
        filed_through=facts.filed_through,
        materiality=None if facts.materiality is None else money(facts.materiality),
        capital_item=None if facts.capital_item is None else money(facts.capital_item),
        engaged_on=facts.engaged_on,
        may_change=facts.may_change,
        staff=list(row.staff),
    )


@bp.post("/practice/clients/facts")
@answers(OutcomesAnswer, "practice")
def set_facts_of_many(json: FactsOfMany) -> OutcomesAnswer:
    """Set the same facts for several clients: what came of it for each."""
    must_be_confirmed()
    return _outcomes(many.set_facts(workplace(), person(), json.clients, json.facts, json.reason))


@bp.post("/practice/clients/archiving")
@answers(Done, "practice")
def set_archived(json: ArchivingBody) -> Done:
    """Archive a client, or bring it back."""
    must_be_confirmed()
    act = archive.archive if json.archived else archive.bring_back
    act(workplace(), person(), json.client, json.reason)
    return DONE


@bp.post("/practice/clients/removal")
@answers(Done, "practice")
def remove_client(json: RemovalBody) -> Done:
    """Remove an archived client whose time is over, for good."""
    must_be_confirmed()
    archive.remove(workplace(), person(), json.client, json.reason)
    return DONE


@bp.post("/practice/clients/states")
@answers(OutcomesAnswer, "practice")
def set_states_of_many(json: StatesOfMany) -> OutcomesAnswer:
    """Open, hold or bar the months of several clients to a day: what came of it for each."""
    must_be_confirmed()
    return _outcomes(
        many.set_states(workplace(), person(), json.clients, json.through, json.state, json.reason)
    )


def _outcomes(found: Iterable[many.Outcome]) -> OutcomesAnswer:
    return OutcomesAnswer(outcomes=[OutcomeAnswer(**row._asdict()) for row in found])


@bp.get("/practice/record")
@answers(RecordAnswer, "practice")
def show_record(query: RecordQuery) -> RecordAnswer:
    """The record of some days, the latest first."""
    asked = AskedRecord(query.first, query.last, query.q, query.before)
    rows = record.listed(workplace(), person(), asked)
    return RecordAnswer(rows=[RecordRowAnswer(**row._asdict()) for row in rows])


@bp.get("/practice/record.csv")
@answers(None, "practice")
def record_table(query: RecordQuery) -> Response:
    """The same as a table, whole."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(RecordRowAnswer.model_fields)
    before = query.before
    while rows := record.listed(
        workplace(), person(), AskedRecord(query.first, query.last, query.q, before)
    ):
        writer.writerows([plain_cell(str(cell)) for cell in row] for row in rows)
        before = rows[-1].number
    content = ("\ufeff" + out.getvalue()).encode()
    record.note_later(workplace(), record.Kind.GIVEN_OUT, person().code, "the record")
    return as_file("record.csv", content, "text/csv")
