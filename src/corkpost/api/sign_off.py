"""Sign-off: what it needs, signing, reopening, and who may post in a period."""

from collections.abc import Iterable
from datetime import date

from flask import Blueprint, Response
from pydantic import Field

from corkpost.api.security import must_be_confirmed, person, workplace
from corkpost.api.spec import DONE, Asked, AtDay, Day, Done, answers
from corkpost.api.views import SealAnswer, as_file, seal_answer
from corkpost.core.books import Books
from corkpost.core.kinds import PeriodState
from corkpost.core.periods import PostingWindow
from corkpost.core.refusals import BadEntry
from corkpost.core.trial_balance import digest_of
from corkpost.formats.answers import account_name
from corkpost.formats.shape import Shape
from corkpost.services import pack as packs
from corkpost.services import periods
from corkpost.services import sign_off as service
from corkpost.services.sign_off import About, Readiness, SealState, Waived
from corkpost.services.unposted import Unposted, unposted

bp = Blueprint("sign_off", __name__)
MOST_ROWS = 30


class ConditionAnswer(Shape):
    name: str
    met: bool
    says: str
    leads_to: str


class SealMovedAnswer(Shape):
    account: str
    name: str
    signed: str
    now: str
    change: str


class SealDifferingAnswer(Shape):
    """An entry, allocation or agreement that is not what was signed. *before*, *now*: its rows; none
    where it was not there, or is gone."""

    kind: str
    name: str
    before: list[str]
    now: list[str]


class SealStateAnswer(Shape):
    """*moved*: for a broken seal, the accounts that are not what was signed. *rows*: the first of
    *differing* entries, allocations and agreements."""

    seal: SealAnswer
    moved: list[SealMovedAnswer]
    rows: list[SealDifferingAnswer]
    differing: int


class ChecklistItemAnswer(Shape):
    """Something to see to that no figure proves. *by*, *at*: who did; none where nobody did."""

    item: str
    says: str
    by: str | None
    at: str | None


class TickBody(Asked):
    as_at: Day
    item: str = Field(max_length=100)
    done: bool


class ComingAnswer(Shape):
    """An entry that stands after the day: what the next span begins with."""

    id: str
    date: Day
    reason: str | None
    total: str


class DifferenceAnswer(Shape):
    """*profit*, *net_assets*: what correcting it would add; none where no correction is worked out."""

    point: str
    what: str
    amount: str
    profit: str | None
    net_assets: str | None
    reason: str
    by: str


class UnadjustedAnswer(Shape):
    """The schedule of unadjusted differences. *gross* stands against *materiality*."""

    rows: list[DifferenceAnswer]
    gross: str
    profit: str
    net_assets: str
    materiality: str


class UnpostedAnswer(Shape):
    """A draft, or what waits for approval. *name*: of its page under the entries. *profit*, *tax* and
    *net_assets*: what posting it would add; none where it is not whole or refused as it stands."""

    name: str
    what: str
    reason: str
    by: str
    profit: str | None
    tax: str | None
    net_assets: str | None


class SignOffAnswer(Shape):
    """*may_not*: why this person may not sign, if so. *sealed*: this day is signed already. *digest*: of
    the trial balance that is shown. *new_year*: what the next year begins with, and what it still wants."""

    as_at: Day
    digest: str
    ready: bool
    conditions: list[ConditionAnswer]
    may_not: str | None
    sealed: bool
    debits: str
    credits: str
    profit: str
    corrections: int
    preparer: str | None
    coming: list[ComingAnswer]
    new_year: list[ConditionAnswer]
    unadjusted: UnadjustedAnswer
    unposted: list[UnpostedAnswer]
    seals: list[SealStateAnswer]
    checklist: list[ChecklistItemAnswer]


class SignBody(Asked):
    """*shown*: the digest of the trial balance that was seen. *override_reason*: a partner signs over what
    is missing; it prints."""

    at: Day
    shown: str = Field(max_length=64)
    password: str = Field(max_length=400)
    override_reason: str | None = Field(default=None, max_length=2000)


class ReopenBody(Asked):
    """*first_day*: every sign-off that covers it or a later day is reopened. *until*: the last day that it
    stays open; two weeks unless said."""

    first_day: Day
    reason: str = Field(max_length=2000)
    until: Day | None = None


class YearBody(Asked):
    label: str = Field(max_length=40)


class YearOpened(Shape):
    label: str
    first_day: Day
    last_day: Day


class PeriodBody(Asked):
    state: PeriodState
    reason: str = Field(max_length=2000)


class PeriodSet(Shape):
    first_day: Day
    last_day: Day
    state: str


@bp.get("/clients/<client>/sign-off")
@answers(SignOffAnswer, "sign-off")
def show(client: str, query: AtDay) -> SignOffAnswer:
    """What the sign-off as at a day needs, what it is about, and the seals so far."""
    found = service.readiness(workplace(), person(), client, query.at)
    about = service.about(workplace(), person(), client, query.at)
    waived = service.waived(workplace(), person(), client, query.at)
    _, waiting = unposted(workplace(), person(), client, query.at)
    return _sign_off(found, about, waived, waiting)


def _unadjusted(waived: Waived) -> UnadjustedAnswer:
    money = waived.books.client.currency.format
    schedule = waived.schedule
    rows = []
    for row in schedule.rows:
        decision = waived.decisions[row.point.id]
        rows.append(
            DifferenceAnswer(
                point=row.point.id,
                what=row.point.summary,
                amount=money(row.point.amount),
                profit=None if row.profit is None else money(row.profit),
                net_assets=None if row.net_assets is None else money(row.net_assets),
                reason=decision.reason,
                by=decision.made_by,
            )
        )
    return UnadjustedAnswer(
        rows=rows,
        gross=money(schedule.gross),
        profit=money(schedule.profit),
        net_assets=money(schedule.net_assets),
        materiality=money(schedule.materiality),
    )


def _unposted(draft: Unposted, books: Books) -> UnpostedAnswer:
    money, worth = books.client.currency.format, draft.worth
    return UnpostedAnswer(
        name=draft.name,
        what=draft.what,
        reason=draft.reason,
        by=draft.by,
        profit=money(worth.profit) if worth else None,
        tax=money(worth.tax) if worth else None,
        net_assets=money(worth.net_assets) if worth else None,
    )


def _sign_off(
    found: Readiness, about: About, waived: Waived, waiting: Iterable[Unposted]
) -> SignOffAnswer:
    books = about.ledger.books
    money = books.client.currency.format
    return SignOffAnswer(
        as_at=found.as_at,
        digest=digest_of(about.balance),
        ready=found.ready,
        conditions=[ConditionAnswer(**condition._asdict()) for condition in found.conditions],
        may_not=found.may_not,
        sealed=about.sealed,
        debits=money(about.balance.debits),
        credits=money(-about.balance.credits),
        profit=money(about.profit),
        corrections=about.changes,
        preparer=about.preparer,
        coming=[
            ComingAnswer(
                id=posted.id,
                date=posted.posting_date,
                reason=posted.reason,
                total=money(posted.total),
            )
            for posted in about.coming
        ],
        new_year=[ConditionAnswer(**condition._asdict()) for condition in about.new_year],
        unadjusted=_unadjusted(waived),
        unposted=[_unposted(unposted, books) for unposted in waiting],
        seals=[_seal(books, state) for state in service.seal_states(workplace(), about.ledger)],
        checklist=[
            ChecklistItemAnswer(
                item=stated.item.id,
                says=stated.item.says,
                by=stated.tick.by if stated.tick else None,
                at=stated.tick.at.isoformat() if stated.tick else None,
            )
            for stated in service.checklist(workplace(), person(), books.client.code, found.as_at)
        ],
    )


def _seal(books: Books, state: SealState) -> SealStateAnswer:
    money = books.client.currency.format
    return SealStateAnswer(
        seal=seal_answer(state.seal, broken=state.broken),
        moved=[
            SealMovedAnswer(
                account=row.account,
                name=account_name(books, row.account),
                signed=money(row.signed),
                now=money(row.now),
                change=money(row.now - row.signed),
            )
            for row in state.moved
        ],
        rows=[
            SealDifferingAnswer(
                kind=row.kind, name=row.name, before=list(row.before), now=list(row.now)
            )
            for row in state.rows[:MOST_ROWS]
        ],
        differing=len(state.rows),
    )


@bp.post("/clients/<client>/sign-off")
@answers(SealAnswer, "sign-off", status=201)
def sign(client: str, json: SignBody) -> tuple[SealAnswer, int]:
    """Sign the trial balance as at the end of a period, with one's password again."""
    seal = service.sign_off(
        workplace(),
        person(),
        client,
        json.at,
        json.password,
        override_reason=json.override_reason,
        shown=json.shown,
    )
    return seal_answer(seal, broken=False), 201


@bp.post("/clients/<client>/checklist")
@answers(Done, "sign-off")
def tick(client: str, json: TickBody) -> Done:
    """Say that something on the checklist was seen to, or take that back."""
    service.tick(workplace(), person(), client, json.as_at, json.item, done=json.done)
    return DONE


@bp.post("/clients/<client>/reopening")
@answers(Done, "sign-off")
def reopen(client: str, json: ReopenBody) -> Done:
    """Reopen what was signed off."""
    must_be_confirmed()
    service.reopen(workplace(), person(), client, json.first_day, json.reason, json.until)
    return DONE


@bp.put("/clients/<client>/periods/<day>")
@answers(PeriodSet, "sign-off")
def set_period(client: str, day: str, json: PeriodBody) -> PeriodSet:
    """Set who may post in the period of a day. What was barred is opened by who says their password."""
    books = workplace().ledger(person(), client).books
    if books.calendar.state_on(_day(day)) is PeriodState.BARRED:
        must_be_confirmed()
    period = periods.set_period(workplace(), person(), client, _day(day), json.state, json.reason)
    return PeriodSet(first_day=period.first_day, last_day=period.last_day, state=json.state)


class WindowBody(Asked):
    """*until*: the last day on which it may be used."""

    staff: str = Field(max_length=20)
    first_day: Day
    last_day: Day
    until: Day
    reason: str = Field(max_length=2000)


class WindowAnswer(Shape):
    staff: str
    first_day: Day
    last_day: Day
    until: Day
    reason: str
    made_by: str
    made_at: str


class StateSetAnswer(Shape):
    """What a period was set to, by whom, when and why."""

    first_day: Day
    state: str
    reason: str
    made_by: str
    made_at: str


class PostingAnswer(Shape):
    """*windows*: that may be used now. *history*: of every period, the latest first. *staff*: who may be
    given a window."""

    windows: list[WindowAnswer]
    history: list[StateSetAnswer]
    staff: list[str]


@bp.get("/clients/<client>/posting")
@answers(PostingAnswer, "sign-off")
def posting(client: str) -> PostingAnswer:
    """Who may post where others may not, and what was held or barred by whom."""
    found = periods.posting_rules(workplace(), person(), client)
    return PostingAnswer(
        windows=[WindowAnswer(**window._asdict()) for window in found.windows],
        history=[
            StateSetAnswer(**{**row._asdict(), "state": row.state.value}) for row in found.history
        ],
        staff=list(found.staff),
    )


@bp.post("/clients/<client>/windows")
@answers(WindowAnswer, "sign-off", status=201)
def grant_window(client: str, json: WindowBody) -> tuple[WindowAnswer, int]:
    """Let one person post where others may not, until a day."""
    window = PostingWindow(**json.model_dump(), made_by="", made_at="")
    granted = periods.grant_window(workplace(), person(), client, window)
    return WindowAnswer(**granted._asdict()), 201


@bp.post("/clients/<client>/years")
@answers(YearOpened, "sign-off", status=201)
def open_year(client: str, json: YearBody) -> tuple[YearOpened, int]:
    """Open the next financial year, so that entries may be dated in it."""
    year = periods.open_year(workplace(), person(), client, json.label)
    return YearOpened(label=year.label, first_day=year.first_day, last_day=year.last_day), 201


@bp.get("/clients/<client>/pack.zip")
@answers(None, "sign-off")
def pack(client: str, query: AtDay) -> Response:
    """The client's finished work as at a day: PDF, workbook, JSON and CSV in one zip."""
    content = packs.zipped(packs.pack_of(workplace(), person(), client, query.at))
    return as_file(f"{client} {query.at}.zip", content, "application/zip")


def _day(text: str) -> Day:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadEntry([f"{text!r} is no day: write 2026-03-31."]) from None
