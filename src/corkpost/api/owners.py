"""The owners: their accounts as statements, and what they paid from their own pocket."""

from flask import Blueprint
from pydantic import Field

from corkpost.api.review import changed
from corkpost.api.security import person, place
from corkpost.api.spec import Asked, Day, answers
from corkpost.api.views import PreviewAnswer, preview_of
from corkpost.core.books import Books
from corkpost.core.own_pocket import OwnPocket
from corkpost.core.owner_accounts import OwnerAccount
from corkpost.core.refusals import Refusal
from corkpost.formats.acts import OwnPocketFields, SharingFields
from corkpost.formats.answers import ChangeAnswer
from corkpost.formats.shape import Shape
from corkpost.services import overview
from corkpost.services import owners as service
from corkpost.services.posting import PostRequest

bp = Blueprint("owners", __name__)


class NatureAnswer(Shape):
    """*amount*: for the owner positive."""

    nature: str
    amount: str
    count: int


class BalanceOn(Shape):
    day: Day
    balance: str


class OwnerAccountAnswer(Shape):
    """Balances: what the business owes the owner positive. *can_owe*: an account on which a balance
    below nil means that the owner owes; *overdrawn_since*: the day since which they do."""

    account: str
    name: str
    role: str
    owner: str | None
    opening: str
    moved: list[NatureAnswer]
    closing: str
    line: list[BalanceOn]
    can_owe: bool
    overdrawn_since: Day | None
    lowest: BalanceOn


class OwnersAnswer(Shape):
    accounts: list[OwnerAccountAnswer]
    entity: str


class DaysBetween(Asked):
    first: Day
    last: Day


class OwnPocketBody(OwnPocketFields):
    at: Day | None = None


class SharingBody(SharingFields):
    at: Day | None = None


class SharingPost(SharingFields):
    reason: str = Field(max_length=2000)
    shown: str = Field(max_length=64)
    key: str = Field(min_length=8, max_length=64)


class SharedAnswer(Shape):
    """What one partner gets. *before*: shared already this year; *after*: their account once the rest is
    entered; all for the partner positive."""

    account: str
    name: str
    percent: str
    opening: str
    salary: str
    interest: str
    share: str
    total: str
    before: str
    after: str


class SharingAnswer(Shape):
    """*rate*: of interest, in percent a year. *preview*: what entering it would post; *refused*: why it
    can't be entered as it stands."""

    profit: str
    rate: str
    rows: list[SharedAnswer]
    preview: PreviewAnswer | None
    refused: str | None


class OwnPocketPost(OwnPocketBody):
    reason: str = Field(max_length=2000)
    shown: str = Field(max_length=64)
    key: str = Field(min_length=8, max_length=64)


@bp.get("/clients/<client>/owners")
@answers(OwnersAnswer, "owners")
def show(client: str, query: DaysBetween) -> OwnersAnswer:
    """Each owner's account as a statement between two days."""
    books, found = service.statements(place(), person(), client, query.first, query.last)
    return OwnersAnswer(
        accounts=[_account(one, books) for one in found], entity=books.client.entity
    )


def _account(one: OwnerAccount, books: Books) -> OwnerAccountAnswer:
    money = books.client.currency.format
    return OwnerAccountAnswer(
        account=one.account.code,
        name=one.account.name,
        role=one.account.role,
        owner=books.party_name(one.account.owner) if one.account.owner else None,
        opening=money(one.opening),
        moved=[
            NatureAnswer(nature=row.nature, amount=money(row.amount), count=row.entries)
            for row in one.moved
        ],
        closing=money(one.closing),
        line=[BalanceOn(day=day, balance=money(balance)) for day, balance in one.line],
        can_owe=one.can_owe,
        overdrawn_since=one.overdrawn_since,
        lowest=BalanceOn(day=one.lowest[0], balance=money(one.lowest[1])),
    )


def _paid(client: str, json: OwnPocketFields) -> OwnPocket:
    return json.paid(overview.chart(place(), person(), client).client.currency)


@bp.post("/clients/<client>/sharing/preview")
@answers(SharingAnswer, "owners")
def preview_sharing(client: str, json: SharingBody) -> SharingAnswer:
    """A partnership's profit up to a day, shared; and what entering it would post."""
    books = overview.chart(place(), person(), client)
    terms = json.terms(books.client.currency)
    found = service.shared(place(), person(), client, terms)
    shown, refused = None, None
    try:
        shown = service.preview_sharing(place(), person(), client, terms, json.at)
    except Refusal as wrong:
        refused = str(wrong)
    money = books.client.currency.format
    return SharingAnswer(
        profit=money(found.profit),
        rate=f"{float(found.rate):g}",
        rows=[
            SharedAnswer(
                account=row.account.code,
                name=books.party_name(row.account.owner),
                percent=f"{float(row.percent):g}",
                opening=money(row.opening),
                salary=money(row.salary),
                interest=money(row.interest),
                share=money(row.share),
                total=money(row.total),
                before=money(row.before),
                after=money(row.after),
            )
            for row in found.rows
        ],
        preview=preview_of(shown, books) if shown else None,
        refused=refused,
    )


@bp.post("/clients/<client>/sharing")
@answers(ChangeAnswer, "owners", status=201)
def post_sharing(client: str, json: SharingPost) -> tuple[ChangeAnswer, int]:
    """Enter the shares on the partners' accounts."""
    currency = overview.chart(place(), person(), client).client.currency
    post_request = PostRequest(json.reason, json.shown, json.key)
    posted = service.post_sharing(place(), person(), client, json.terms(currency), post_request)
    return changed(place().ledger(person(), client), posted)


@bp.post("/clients/<client>/own-pocket/preview")
@answers(PreviewAnswer, "owners")
def preview(client: str, json: OwnPocketBody) -> PreviewAnswer:
    """What recording a cost that an owner paid privately would post."""
    found = service.preview_own_pocket(place(), person(), client, _paid(client, json), json.at)
    books = place().ledger(person(), client).books
    return preview_of(found, books)


@bp.post("/clients/<client>/own-pocket")
@answers(ChangeAnswer, "owners", status=201)
def post(client: str, json: OwnPocketPost) -> tuple[ChangeAnswer, int]:
    """Record a cost that an owner paid privately, or their payment of a bill."""
    post_request = PostRequest(json.reason, json.shown, json.key)
    posted = service.post_own_pocket(place(), person(), client, _paid(client, json), post_request)
    return changed(place().ledger(person(), client), posted)
