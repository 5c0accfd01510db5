"""Receipts for money that came in: as it would be, as it was issued, its file."""

from flask import Blueprint, Response
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, Day, answers
from corkpost.api.views import as_file
from corkpost.core.money import Currency
from corkpost.core.receipts import Method, Receipt
from corkpost.formats.shape import Shape
from corkpost.services import receipts as service
from corkpost.services.receipts import Standing

bp = Blueprint("receipts", __name__)


class SettlesAnswer(Shape):
    reference: str
    day: Day
    amount: str


class ReceiptAnswer(Shape):
    received_on: Day
    party: str
    amount: str
    method: str
    reference: str | None
    settles: list[SettlesAnswer]
    on_account: str


class IssueAnswer(Shape):
    """A time that it went out; all but number 1 are copies. *to_email*: none for a file."""

    number: int
    to_email: str | None
    by: str
    at: str


class ReceiptStanding(Shape):
    """*receipt*: as issued or, where nothing was, as it would be. *number*: none until it is issued.
    *differs*: what was issued is not what it would say today."""

    number: int | None
    issuer: str
    receipt: ReceiptAnswer
    issues: list[IssueAnswer]
    differs: bool
    last_to: str | None
    may_send: bool
    methods: list[str]


class ReceiptQuery(Asked):
    method: Method | None = None


class IssueBody(Asked):
    """*to*: the address that it is sent to; none for a file to hand over."""

    method: Method | None = None
    to: str | None = Field(default=None, max_length=200)


class IssuedAnswer(Shape):
    number: int
    issue: int


@bp.get("/clients/<client>/transactions/<transaction>/receipt")
@answers(ReceiptStanding, "receipts")
def standing(client: str, transaction: str, query: ReceiptQuery) -> ReceiptStanding:
    """The receipt of a transaction that brought money in."""
    ledger, found = service.standing(workplace(), person(), client, transaction, query.method)
    return _standing(found, ledger.books.client.name, ledger.books.client.currency)


def _standing(found: Standing, issuer: str, currency: Currency) -> ReceiptStanding:
    issued = found.issued
    return ReceiptStanding(
        number=issued.number if issued else None,
        issuer=issuer,
        receipt=_receipt(found.receipt, currency),
        issues=[
            IssueAnswer(number=i.number, to_email=i.to_email, by=i.made_by, at=i.made_at)
            for i in (issued.issues if issued else ())
        ],
        differs=found.now is not None,
        last_to=found.last_to,
        may_send=workplace().mail is not None,
        methods=list(Method),
    )


def _receipt(receipt: Receipt, currency: Currency) -> ReceiptAnswer:
    money = currency.format
    return ReceiptAnswer(
        received_on=receipt.received_on,
        party=receipt.party,
        amount=money(receipt.amount),
        method=receipt.method,
        reference=receipt.reference,
        settles=[
            SettlesAnswer(reference=part.reference, day=part.day, amount=money(part.amount))
            for part in receipt.settles
        ],
        on_account=money(receipt.on_account),
    )


@bp.post("/clients/<client>/transactions/<transaction>/receipt")
@answers(IssuedAnswer, "receipts")
def issue(client: str, transaction: str, json: IssueBody) -> IssuedAnswer:
    """Give it out: the first time the receipt, later copies of it."""
    issued = service.issue(
        workplace(), person(), client, transaction, method=json.method, to=json.to
    )
    return IssuedAnswer(number=issued.number, issue=len(issued.issues))


@bp.get("/clients/<client>/receipts/<int:number>/<int:issue>")
@answers(None, "receipts")
def paper(client: str, number: int, issue: int) -> Response:
    """What went out, as a PDF."""
    name, content = service.paper(workplace(), person(), client, number, issue)
    return as_file(name, content, "application/pdf")
