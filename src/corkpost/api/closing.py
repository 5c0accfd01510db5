"""Closing a year: what it would carry, line by line; nothing is posted by looking."""

from flask import Blueprint

from corkpost.api.security import person, workplace
from corkpost.api.spec import Day, answers
from corkpost.core.closing import closing_of
from corkpost.core.kinds import Entity
from corkpost.core.owners import partner_shares
from corkpost.formats.acts import ClosingFields
from corkpost.formats.shape import Shape

bp = Blueprint("closing", __name__)


class ClosingLineAnswer(Shape):
    """*amount*: debit positive. *why*: what it is carried for."""

    account: str
    name: str
    amount: str
    why: str
    dimensions: str | None


class ClosedBy(Shape):
    transaction: str
    by: str | None
    at: str | None


class PartnerShare(Shape):
    account: str
    name: str
    percent: str


class ClosingAnswer(Shape):
    """*lines*: none where the year is closed. *before*: the closing entries that stand. *partners*: whose
    shares may be said otherwise."""

    year: str
    last_day: Day
    profit: str
    lines: list[ClosingLineAnswer]
    before: list[ClosedBy]
    is_closed: bool
    partners: list[PartnerShare]
    has_dimensions: bool


@bp.post("/clients/<client>/closing")
@answers(ClosingAnswer, "closing")
def show(client: str, json: ClosingFields) -> ClosingAnswer:
    """What closing the year would carry, and by which entries it was closed."""
    books = workplace().ledger(person(), client).books
    found = closing_of(books, json.wanted(books.client.currency))
    money = books.client.currency.format
    shares = (
        partner_shares(books, "closing the year")
        if books.client.entity is Entity.PARTNERSHIP
        else {}
    )
    whole = sum(shares.values())
    return ClosingAnswer(
        year=found.year.label,
        last_day=found.year.last_day,
        profit=money(found.profit),
        lines=[
            ClosingLineAnswer(
                account=line.account,
                name=books.accounts[line.account].name,
                amount=money(line.amount),
                why=line.why,
                dimensions=line.dimensions,
            )
            for line in found.lines
        ],
        before=[
            ClosedBy(
                transaction=posted.id,
                by=posted.entered_by,
                at=posted.entered_at.isoformat() if posted.entered_at else None,
            )
            for posted in found.before
        ],
        is_closed=found.is_closed,
        partners=[
            PartnerShare(
                account=code,
                name=books.accounts[code].name,
                percent=f"{float(share * 100 / whole):g}",
            )
            for code, share in shares.items()
        ],
        has_dimensions=bool(books.tables.dimensions),
    )
