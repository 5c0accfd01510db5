"""Receipts in hand, and daily takings: as they were settled, and read from the till's file."""

from flask import Blueprint, request

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, Day, answers
from corkpost.formats.shape import Shape
from corkpost.services import overview
from corkpost.services import takings as service

bp = Blueprint("takings", __name__)
LARGEST_FILE = 1024 * 1024


class HeldAnswer(Shape):
    """A receipt in hand. *days*: since it was received."""

    transaction: str
    date: Day
    who: str | None
    text: str | None
    account: str
    left: str
    days: int


class InHandAnswer(Shape):
    receipts: list[HeldAnswer]
    total: str


class DaySettledAnswer(Shape):
    """*tender*: cash or card. *left*: of what was taken, not at the bank; *short*: and overdue.
    *over*: went to the bank beyond what was there."""

    transaction: str
    day: Day
    tender: str
    taken: str
    left: str
    over: str
    short: bool


class TakingsSettledAnswer(Shape):
    """*in_full*: how many tenders of days reached the bank in full."""

    days: list[DaySettledAnswer]
    in_full: int


class Between(Asked):
    first: Day
    last: Day


class TillDay(Shape):
    day: Day
    cash: str
    card: str
    returns: str
    returns_on: str
    reference: str | None


class TillAnswer(Shape):
    days: list[TillDay]


@bp.get("/clients/<client>/takings")
@answers(TakingsSettledAnswer, "takings")
def settled(client: str, query: Between) -> TakingsSettledAnswer:
    """What of the takings of these days is short, over or still to come."""
    days, in_full = service.settled(workplace(), person(), client, query.first, query.last)
    money = overview.chart(workplace(), person(), client).client.currency.format
    return TakingsSettledAnswer(
        days=[
            DaySettledAnswer(
                transaction=row.posted.id,
                day=row.posted.posting_date,
                tender=row.tender,
                taken=money(row.taken),
                left=money(row.left),
                over=money(row.over),
                short=row.short,
            )
            for row in days
        ],
        in_full=in_full,
    )


@bp.get("/clients/<client>/in-hand")
@answers(InHandAnswer, "takings")
def in_hand(client: str) -> InHandAnswer:
    """The receipts in hand, the oldest first."""
    found = service.held(workplace(), person(), client)
    books = overview.chart(workplace(), person(), client)
    money = books.client.currency.format
    return InHandAnswer(
        receipts=[
            HeldAnswer(
                transaction=receipt.posted.id,
                date=receipt.day,
                who=books.party_name(receipt.posted.party) if receipt.posted.party else None,
                text=receipt.posted.memo,
                account=books.accounts[receipt.account].name,
                left=money(receipt.left),
                days=(workplace().today - receipt.day).days,
            )
            for receipt in found
        ],
        total=money(sum(receipt.left for receipt in found)),
    )


@bp.post("/clients/<client>/takings/file")
@answers(TillAnswer, "takings")
def from_till(client: str) -> TillAnswer:
    """The days of the till's file that is sent; nothing is posted yet."""
    request.max_content_length = LARGEST_FILE
    days = service.from_till(workplace(), person(), client, request.get_data(cache=False))
    money = overview.chart(workplace(), person(), client).client.currency.format
    return TillAnswer(
        days=[
            TillDay(
                day=day.day,
                cash=money(day.cash),
                card=money(day.card),
                returns=money(day.returns) if day.returns else "",
                returns_on="card" if day.returns_on_card else "cash",
                reference=day.reference,
            )
            for day in days
        ]
    )
