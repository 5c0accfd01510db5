"""Open items: parties with their ages beside the control account, and one party's threads."""

from flask import Blueprint

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, Day, answers
from corkpost.core.books import Books
from corkpost.core.kinds import AccountRole
from corkpost.core.refusals import UnknownName
from corkpost.core.threads import End, Threads
from corkpost.formats.answers import ControlAnswer, control_answer
from corkpost.formats.shape import Shape
from corkpost.services import open_items as service
from corkpost.services import overview

bp = Blueprint("open_items", __name__)


class PartyAges(Shape):
    """What is owed is positive. *ages*: by age, in the order of the heads. *loose*: money on account."""

    party: str | None
    name: str
    total: str
    ages: list[str]
    loose: str
    oldest_days: int


class OpenItemsAnswer(Shape):
    """*proof*: the control account against what parties hold, as at the day; what is owed is positive."""

    at: Day
    heads: list[str]
    proof: ControlAnswer
    ages: list[str]
    loose: str
    parties: list[PartyAges]


class EndAnswer(Shape):
    """*left*: what is open of it, without sign. *days*: past due, or on account, where it is open."""

    transaction: str
    kind: str
    date: Day
    due: Day
    reference: str | None
    text: str | None
    amount: str
    left: str
    days: int
    ours: bool


class ThreadAnswer(Shape):
    allocation: str
    date: Day
    debit: str
    credit: str
    amount: str


class ThreadsAnswer(Shape):
    """*settled*: how many settled items are left out. *balance*: debit positive."""

    party: str | None
    name: str
    balance: str
    debits: list[EndAnswer]
    credits: list[EndAnswer]
    threads: list[ThreadAnswer]
    settled: int


class AsOf(Asked):
    at: Day


class ThreadsQuery(Asked):
    """*party*: none asks for what bears no party."""

    at: Day
    party: str | None = None
    everything: bool = False


def _role(which: str) -> AccountRole:
    if which not in (AccountRole.RECEIVABLES, AccountRole.PAYABLES):
        raise UnknownName("list of open items", which)
    return AccountRole(which)


@bp.get("/clients/<client>/open-items/<which>")
@answers(OpenItemsAnswer, "open items")
def listed(client: str, which: str, query: AsOf) -> OpenItemsAnswer:
    """The parties with what is open by age, and the control account beside them."""
    role = _role(which)
    sign = 1 if role is AccountRole.RECEIVABLES else -1
    books, found = service.ages(workplace(), person(), client, role, query.at)
    money = books.client.currency.format
    return OpenItemsAnswer(
        at=query.at,
        heads=list(service.BUCKETS),
        proof=control_answer(overview.proof_of_control(books, role, query.at), books, sign),
        ages=[money(sum(row.ages[n] for row in found)) for n in range(len(service.BUCKETS))],
        loose=money(sum(row.loose for row in found)),
        parties=[
            PartyAges.model_construct(
                party=row.party,
                name=books.party_name(row.party),
                total=money(row.total),
                ages=[money(amount) for amount in row.ages],
                loose=money(row.loose),
                oldest_days=row.oldest_days,
            )
            for row in found
        ],
    )


@bp.get("/clients/<client>/threads/<which>")
@answers(ThreadsAnswer, "open items")
def threads(client: str, which: str, query: ThreadsQuery) -> ThreadsAnswer:
    """One party's debits and credits and what settles what."""
    books, found = service.threads(
        workplace(),
        person(),
        client,
        _role(which),
        query.party,
        query.at,
        everything=query.everything,
    )
    return _threads(found, books, query)


def _threads(found: Threads, books: Books, query: ThreadsQuery) -> ThreadsAnswer:
    money = books.client.currency.format
    return ThreadsAnswer(
        party=query.party,
        name=books.party_name(query.party),
        balance=money(sum(end.left for end in (*found.debits, *found.credits))),
        debits=[_end(end, books, query.at) for end in found.debits],
        credits=[_end(end, books, query.at) for end in found.credits],
        threads=[
            ThreadAnswer(
                allocation=row.id,
                date=row.date,
                debit=row.debit_transaction,
                credit=row.credit_transaction,
                amount=money(row.amount),
            )
            for row in found.allocations
        ],
        settled=found.settled,
    )


def _end(end: End, books: Books, at: Day) -> EndAnswer:
    posted, money = end.item.transaction, books.client.currency.format
    return EndAnswer(
        transaction=posted.id,
        kind=posted.kind,
        date=posted.posting_date,
        due=end.item.due_date,
        reference=posted.reference,
        text=posted.memo,
        amount=money(abs(end.item.amount)),
        left=money(abs(end.left)),
        days=(at - end.item.due_date).days,
        ours=posted.change is not None,
    )
