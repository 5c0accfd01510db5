"""Every posting: the list, one with all that hangs on it, correcting what was picked, papers."""

from collections.abc import Mapping

from flask import Blueprint
from pydantic import Field

from corkpost.api.bookkeeper import ExplainedAnswer, explained_answer
from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, Day, answers
from corkpost.api.views import (
    AskAnswer,
    SlipAnswer,
    asks_of,
    period_name,
    slip_answer,
)
from corkpost.core.books import Books, Transaction
from corkpost.core.journal_signs import journal_signs
from corkpost.core.kinds import TransactionKind
from corkpost.core.open_items import OpenItem
from corkpost.core.receipts import brings_money_in
from corkpost.formats.answers import (
    AllocationAnswer,
    AmendingAnswer,
    allocation_answer,
    amending_answer,
)
from corkpost.formats.shape import Shape
from corkpost.services import overview
from corkpost.services import transactions as service
from corkpost.services.approvals import approvers_of
from corkpost.services.bookkeeper import in_plain_words
from corkpost.services.transactions import Amended, Detail, Settled, Wanted
from corkpost.services.workplace import ClientState

bp = Blueprint("transactions", __name__)
MOST_LISTED = 5_000


class WantedQuery(Asked):
    """*ours*: entries that the practice posted (true) or what was received (false). *signs*: only journals
    with something unusual about them."""

    first: Day | None = None
    last: Day | None = None
    kind: TransactionKind | None = None
    account: str | None = Field(default=None, max_length=100)
    party: str | None = Field(default=None, max_length=100)
    ours: bool | None = None
    q: str = Field(default="", max_length=200)
    signs: bool = False


class PostingRow(Shape):
    """*taken_back*: a later entry takes it back or corrects it. *reverses_on*: the day of the mirror
    that came with it. *signs*: what is unusual about a journal."""

    id: str
    date: Day
    kind: str
    entry_kind: str | None
    reference: str | None
    party: str | None
    party_name: str | None
    memo: str | None
    reason: str | None
    by: str | None
    total: str
    change: int | None
    taken_back: bool
    reverses_on: Day | None
    signs: list[str]


class PostingsAnswer(Shape):
    """*count* and *debits* are of everything that is wanted, *rows* the latest of it."""

    count: int
    debits: str
    rows: list[PostingRow]


class SettledAnswer(Shape):
    """An allocation seen from one side: *other* is the transaction on the other."""

    allocation: AllocationAnswer
    other: str
    other_reference: str | None
    other_date: Day | None
    stands: bool


class OpenAnswer(Shape):
    account: str
    party: str | None
    party_name: str | None
    amount: str
    open: str


class WayAnswer(Shape):
    """A route that may be picked for it. *beside_items*: it is offered beside an open item too.
    *when_said*: there is nothing to be seen of it before something is said."""

    route: str
    title: str
    short: str
    asks: list[AskAnswer]
    beside_items: bool
    when_said: bool


class PointMention(Shape):
    id: str
    summary: str


class BroughtBy(Shape):
    """The change that an entry of ours came with."""

    number: int
    by: str
    at: str
    reason: str
    route: str | None
    undone: bool
    can_take_back: bool
    approved_by: str | None


class AmendedAnswer(AmendingAnswer):
    """*change*: the one of ours that made it; none where it came with the books."""

    at: str
    by: str | None
    reason: str
    change: int | None
    undone: bool
    can_take_back: bool


class DetailAnswer(Shape):
    """A transaction with its links both ways. *state*: who may post in its period. *brings_money*:
    a receipt can be given for it. *plain*: an entry of ours as its bookkeeper would be told."""

    slip: SlipAnswer
    state: str
    settled: list[SettledAnswer]
    open: list[OpenAnswer]
    corrected_by: str | None
    reversed_by: str | None
    points: list[PointMention]
    brought_by: BroughtBy | None
    amendments: list[AmendedAnswer]
    by_hand: list[WayAnswer]
    brings_money: bool
    plain: ExplainedAnswer | None
    openable: list[str]


def _row(posted: Transaction, books: Books) -> PostingRow:
    mirror = books.transactions.get(books.reversed_by.get(posted.id, ""))
    taken_back = books.is_taken_back(posted.id)
    return PostingRow.model_construct(
        id=posted.id,
        date=posted.posting_date,
        kind=posted.kind,
        entry_kind=posted.entry_kind,
        reference=posted.reference,
        party=posted.party,
        party_name=books.party_name(posted.party) if posted.party else None,
        memo=posted.memo,
        reason=posted.reason,
        by=posted.entered_by,
        total=books.client.currency.format(posted.total),
        change=posted.change,
        taken_back=taken_back or posted.id in books.corrected,
        reverses_on=mirror.posting_date if mirror and not taken_back else None,
        signs=list(journal_signs(books).get(posted.id, ())),
    )


@bp.get("/clients/<client>/transactions")
@answers(PostingsAnswer, "transactions")
def listed(client: str, query: WantedQuery) -> PostingsAnswer:
    """The postings that are wanted, the latest first."""
    wanted = Wanted(
        query.first,
        query.last,
        query.kind,
        query.account,
        query.party,
        query.ours,
        query.q,
        query.signs,
    )
    books = overview.chart(workplace(), person(), client)
    found = service.listed(workplace(), person(), client, wanted)
    return PostingsAnswer(
        count=len(found.transactions),
        debits=books.client.currency.format(found.debits),
        rows=[_row(posted, books) for posted in found.transactions[:MOST_LISTED]],
    )


@bp.get("/clients/<client>/transactions/<transaction>")
@answers(DetailAnswer, "transactions")
def show(client: str, transaction: str) -> DetailAnswer:
    """One transaction: its double entry, what it settles, what corrects it, its papers."""
    return _detail(*service.detail(workplace(), person(), client, transaction))


def _detail(ledger: ClientState, found: Detail) -> DetailAnswer:
    books, name = ledger.books, found.posted.id
    plain = in_plain_words(ledger, found.change.number) if found.change else None
    return DetailAnswer(
        slip=slip_answer(ledger, name),
        state=found.state,
        settled=[_settled(row, name, books) for row in found.settled],
        open=[_open(item, left, books) for item, left in found.open],
        corrected_by=found.corrected_by,
        reversed_by=found.reversed_by,
        points=[PointMention(id=point.id, summary=point.summary) for point in found.points],
        brought_by=_brought_by(found, approvers_of(workplace(), ledger)),
        amendments=[_amended(row) for row in found.amendments],
        by_hand=[
            WayAnswer(**{**way._asdict(), "asks": asks_of(way.asks)}) for way in found.by_hand
        ],
        brings_money=brings_money_in(books, found.posted),
        plain=explained_answer(plain, set()) if plain else None,
        openable=[period_name(period) for period in found.openable],
    )


def _amended(row: Amended) -> AmendedAnswer:
    return AmendedAnswer(
        **amending_answer(row.amendment).model_dump(),
        at=row.amendment.at.isoformat(),
        by=row.change.made_by if row.change else None,
        reason=row.amendment.reason,
        change=row.amendment.change,
        undone=row.undone,
        can_take_back=row.can_take_back,
    )


def _settled(row: Settled, name: str, books: Books) -> SettledAnswer:
    sides = (row.allocation.debit_transaction, row.allocation.credit_transaction)
    return SettledAnswer(
        allocation=allocation_answer(row.allocation, books),
        other=sides[1] if sides[0] == name else sides[0],
        other_reference=row.other.reference if row.other else None,
        other_date=row.other.posting_date if row.other else None,
        stands=row.stands,
    )


def _open(item: OpenItem, left: int, books: Books) -> OpenAnswer:
    money = books.client.currency.format
    return OpenAnswer(
        account=item.account,
        party=item.party,
        party_name=books.party_name(item.party) if item.party else None,
        amount=money(item.amount),
        open=money(left),
    )


def _brought_by(found: Detail, approvers: Mapping[int, str]) -> BroughtBy | None:
    change = found.change
    return change and BroughtBy(
        number=change.number,
        by=change.made_by,
        at=change.made_at,
        reason=change.reason,
        route=change.route,
        undone=found.undone,
        can_take_back=found.can_take_back,
        approved_by=approvers.get(change.number),
    )
