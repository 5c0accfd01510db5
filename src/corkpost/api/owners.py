"""The owners: their accounts as statements, and a partnership's profit shared."""

from flask import Blueprint

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, Day, answers
from corkpost.core.books import Books
from corkpost.core.owner_accounts import OwnerAccount
from corkpost.formats.acts import SharingFields
from corkpost.formats.shape import Shape
from corkpost.services import overview
from corkpost.services import owners as service

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
    """*rate*: of interest, in percent a year."""

    profit: str
    rate: str
    rows: list[SharedAnswer]


@bp.get("/clients/<client>/owners")
@answers(OwnersAnswer, "owners")
def show(client: str, query: DaysBetween) -> OwnersAnswer:
    """Each owner's account as a statement between two days."""
    books, found = service.statements(workplace(), person(), client, query.first, query.last)
    return OwnersAnswer(
        accounts=[_account(account, books) for account in found], entity=books.client.entity
    )


def _account(own: OwnerAccount, books: Books) -> OwnerAccountAnswer:
    money = books.client.currency.format
    return OwnerAccountAnswer(
        account=own.account.code,
        name=own.account.name,
        role=own.account.role,
        owner=books.party_name(own.account.owner) if own.account.owner else None,
        opening=money(own.opening),
        moved=[
            NatureAnswer(nature=row.nature, amount=money(row.amount), count=row.entries)
            for row in own.moved
        ],
        closing=money(own.closing),
        line=[BalanceOn(day=day, balance=money(balance)) for day, balance in own.line],
        can_owe=own.can_owe,
        overdrawn_since=own.overdrawn_since,
        lowest=BalanceOn(day=own.lowest[0], balance=money(own.lowest[1])),
    )


@bp.post("/clients/<client>/sharing")
@answers(SharingAnswer, "owners")
def shared(client: str, json: SharingFields) -> SharingAnswer:
    """A partnership's profit up to a day, shared; nothing is posted by it."""
    books = overview.chart(workplace(), person(), client)
    found = service.shared(workplace(), person(), client, json.terms(books.client.currency))
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
    )
