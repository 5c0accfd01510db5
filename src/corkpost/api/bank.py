"""The bank: statements in, both sides of an account, agreeing, finishing and reopening."""

import json

from flask import Blueprint, request
from pydantic import Field, ValidationError

from corkpost.api.problems import BadRequestBody
from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, Asked, Day, Done, answers
from corkpost.core.bank import spine
from corkpost.core.bank.sides import Entry
from corkpost.core.books import Books
from corkpost.core.foreign import currency_of_account
from corkpost.core.points import Level
from corkpost.formats.answers import StatementLineAnswer, statement_line_answer
from corkpost.formats.shape import Shape
from corkpost.formats.statements.csv_table import SAMPLE, Columns, Layout, NeedsColumns
from corkpost.formats.statements.reading import LARGEST_STATEMENT
from corkpost.services import bank as service
from corkpost.services import statements as statement_service
from corkpost.services.bank import AccountState, BankState
from corkpost.services.statements import StatementIntake
from corkpost.store.statements import FinishedRow

bp = Blueprint("bank", __name__)


class FinishedAnswer(Shape):
    by: str
    at: str


class StatementListed(Shape):
    """A statement of the list. *unagreed*: how many of its lines are not agreed."""

    number: int
    first_day: Day
    last_day: Day
    lines: int
    unagreed: int
    finished: FinishedAnswer | None


class BankAccountAnswer(Shape):
    """*note*: of one in another currency, what it counts. *currency*: that its amounts are in."""

    account: str
    name: str
    note: str | None
    currency: str
    statements: list[StatementListed]


class BankAnswer(Shape):
    accounts: list[BankAccountAnswer]


class EntrySide(Shape):
    """A line in the books on the account, money in positive."""

    transaction: str
    line: int
    date: Day
    who: str | None
    text: str | None
    reference: str | None
    amount: str
    ours: bool


class SpineRow(Shape):
    """What stands on one height of the spine.

    *kind*: `agreed`, `proposed`, `differs` (the same but for a slip), `entry` or `line` alone.
    *group*: of what is agreed. *point*: the review point that puts it right.
    """

    kind: str
    day: Day
    entries: list[EntrySide]
    lines: list[StatementLineAnswer]
    group: str | None
    by_program: bool
    level: str | None
    why: list[str]
    point: str | None
    summary: str | None


class SumAnswer(Shape):
    """*should_be* = ledger + not_presented - not_credited + booked_later. *difference* = closing -
    should_be; none where the statement gives no closing balance."""

    ledger: str
    not_presented: str
    presented_count: int
    not_credited: str
    credited_count: int
    booked_later: str
    should_be: str
    closing: str | None
    difference: str | None


class HistoryAnswer(Shape):
    """A finishing of this statement, and its reopening where it was."""

    number: int
    by: str
    at: str
    reopened_by: str | None
    reopened_at: str | None
    reopened_why: str | None


class ReconciliationAnswer(Shape):
    """One statement. *off_by*: what its own lines miss its closing balance by. *start_off_by*: what
    the first opening balance and the books differ by. *sure*: proposals that may be agreed at once.
    *moved_since*: it is finished, and the books would now come to another list."""

    account: str
    name: str
    statement: int
    first_day: Day
    last_day: Day
    opening: str | None
    warnings: list[str]
    sum: SumAnswer
    start_off_by: str
    rows: list[SpineRow]
    carried_in: int
    agreed: int
    unagreed: int
    sure: int
    likely: int
    finished: bool
    moved_since: bool
    hindrances: list[str]
    history: list[HistoryAnswer]


class TakenAnswer(Shape):
    """*lines* of the file, *already* of them known before. *settled*: what was expected and came."""

    account: str
    lines: int
    already: int
    opening: str | None
    closing: str | None
    first_day: Day
    last_day: Day
    warnings: list[str]
    settled: list[str]


class ColumnsModel(Shape):
    """Which column of a CSV is what, from 0."""

    day: int = Field(ge=0, le=200)
    text: list[int] = Field(max_length=20)
    day_order: str = Field(pattern="^(ymd|dmy|mdy)$")
    amount: int | None
    money_in: int | None
    money_out: int | None
    reference: int | None
    balance: int | None
    bank_id: int | None
    value_day: int | None
    counterparty: int | None
    turned: bool
    side: int | None


class AskedColumns(Shape):
    """A CSV whose columns have to be said: its heading, some rows, what was guessed."""

    heading: list[str]
    rows: list[list[str]]
    guessed: ColumnsModel | None


class StatementTaken(Shape):
    """*asks*: nothing was taken in; say which column is what and send the file again."""

    taken: list[TakenAnswer]
    asks: AskedColumns | None


class StatementFileQuery(Asked):
    """*columns*: a ColumnsModel as JSON, where a CSV needs it. *sure*: it is of that account, whatever
    speaks against it."""

    name: str = Field(default="statement", min_length=1, max_length=200)
    account: str | None = Field(default=None, max_length=100)
    columns: str | None = Field(default=None, max_length=1000)
    sure: bool = False


class OfStatement(Asked):
    statement: int | None = None


class FinishBody(Asked):
    statement: int


class ReopenReconciliation(Asked):
    statement: int
    reason: str = Field(max_length=2000)


@bp.get("/clients/<client>/bank")
@answers(BankAnswer, "bank")
def accounts(client: str) -> BankAnswer:
    """The bank accounts with their statements, oldest first."""
    found = service.accounts(workplace(), person(), client)
    return BankAnswer(accounts=[_account(account) for account in found])


def _account(own: AccountState) -> BankAccountAnswer:
    return BankAccountAnswer(
        account=own.account.code,
        name=own.account.name,
        note=own.note,
        currency=own.currency.code,
        statements=[
            StatementListed(
                number=row.statement.number,
                first_day=row.statement.first_day,
                last_day=row.statement.last_day,
                lines=len(row.statement.lines),
                unagreed=row.unagreed,
                finished=FinishedAnswer(by=row.finished.made_by, at=row.finished.made_at)
                if row.finished
                else None,
            )
            for row in own.statements
        ],
    )


@bp.get("/clients/<client>/bank/<account>")
@answers(ReconciliationAnswer, "bank")
def reconciliation(client: str, account: str, query: OfStatement) -> ReconciliationAnswer:
    """Both sides of a statement; of the first that is not finished unless one is named."""
    return _reconciliation(service.state(workplace(), person(), client, account, query.statement))


def _reconciliation(found: BankState) -> ReconciliationAnswer:
    books, look = found.ledger.books, found.look
    state = look.state
    money = currency_of_account(books, look.account).format
    rows = [_row(row, found) for row in spine.spine_of(found.look)]
    return ReconciliationAnswer(
        account=look.account,
        name=books.account(look.account).name,
        statement=state.statement.number,
        first_day=state.statement.first_day,
        last_day=state.statement.last_day,
        opening=None if state.statement.opening is None else money(state.statement.opening),
        warnings=[*state.statement.warnings, *_fallen(len(look.sides.fallen))],
        sum=SumAnswer(
            ledger=money(state.ledger),
            not_presented=money(state.not_presented),
            presented_count=sum(entry.amount < 0 for entry in state.outstanding),
            not_credited=money(state.not_credited),
            credited_count=sum(entry.amount > 0 for entry in state.outstanding),
            booked_later=money(state.booked_later),
            should_be=money(state.should_be),
            closing=None if state.closing is None else money(state.closing),
            difference=None if state.difference is None else money(state.difference),
        ),
        start_off_by=money(state.start.off_by),
        rows=rows,
        carried_in=len(state.carried_in),
        agreed=sum(len(group.lines) for group in state.groups),
        unagreed=len(state.unmatched) + len(state.carried_in),
        sure=sum(proposal.level is Level.SURE for proposal in look.proposals),
        likely=sum(proposal.level is Level.LIKELY for proposal in look.proposals),
        finished=found.standing is not None,
        moved_since=service.moved_since(found),
        hindrances=list(found.hindrances),
        history=[_history(row) for row in found.finished],
    )


def _fallen(count: int) -> list[str]:
    if not count:
        return []
    do = (
        "1 agreement of this account does"
        if count == 1
        else f"{count} agreements of this account do"
    )
    return [f"{do} not stand: what it ties was changed, is gone, or was never taken in."]


def _history(row: FinishedRow) -> HistoryAnswer:
    return HistoryAnswer(
        number=row.number,
        by=row.made_by,
        at=row.made_at,
        reopened_by=row.reopened_by,
        reopened_at=row.reopened_at,
        reopened_why=row.reopened_why,
    )


def _row(row: spine.SpineRow, found: BankState) -> SpineRow:
    """*point*: the review point about it, which only what is not agreed can have."""
    books = found.ledger.books
    names = [line.id for line in row.lines] + [entry.posted.id for entry in row.entries]
    about = (found.points[name] for name in names if name in found.points)
    stated = None if row.kind is spine.RowKind.AGREED else next(about, None)
    return SpineRow(
        kind=row.kind,
        day=row.day,
        entries=[_entry(entry, books) for entry in row.entries],
        lines=[statement_line_answer(line, books) for line in row.lines],
        group=row.group,
        by_program=row.by_program,
        level=row.level,
        why=list(row.why),
        point=stated.point.id if stated else None,
        summary=stated.point.summary if stated else None,
    )


def _entry(entry: Entry, books: Books) -> EntrySide:
    posted = entry.posted
    party = posted.party or next((x.party for x in posted.lines if x.party), None)
    return EntrySide(
        transaction=posted.id,
        line=entry.line.number,
        date=posted.posting_date,
        who=books.party_name(party) if party else None,
        text=entry.line.description or posted.memo,
        reference=posted.reference,
        amount=currency_of_account(books, entry.line.account).format(entry.amount),
        ours=posted.change is not None,
    )


@bp.post("/clients/<client>/bank/<account>/finish")
@answers(Done, "bank")
def finish(client: str, account: str, json: FinishBody) -> Done:
    """Finish a reconciliation at a difference of nil, and fix its list."""
    service.finish(workplace(), person(), client, account, json.statement)
    return DONE


@bp.post("/clients/<client>/bank/<account>/reopen")
@answers(Done, "bank")
def reopen(client: str, account: str, json: ReopenReconciliation) -> Done:
    """Open a finished reconciliation again."""
    service.reopen(workplace(), person(), client, account, json.statement, json.reason)
    return DONE


@bp.post("/clients/<client>/statements")
@answers(StatementTaken, "bank")
def take_in(client: str, query: StatementFileQuery) -> StatementTaken:
    """Take in the statement file that is sent, whole or not at all."""
    request.max_content_length = LARGEST_STATEMENT + 1
    content = request.get_data(cache=False)
    columns = None
    if query.columns:
        try:
            given = ColumnsModel.model_validate_json(query.columns).model_dump()
        except ValidationError as wrong:
            raise BadRequestBody(wrong) from None
        columns = Columns(**{**given, "text": tuple(given["text"])})
    try:
        taken = statement_service.take_in(
            workplace(),
            person(),
            client,
            query.name,
            content,
            query.account,
            columns,
            sure=query.sure,
        )
    except NeedsColumns as asked:
        return StatementTaken(taken=[], asks=_asks(asked.layout, asked.guessed))
    books = workplace().ledger(person(), client).books
    return StatementTaken(taken=[_taken(intake, books) for intake in taken], asks=None)


def _asks(layout: Layout, guessed: Columns | None) -> AskedColumns:
    return AskedColumns(
        heading=list(layout.heading),
        rows=[list(row) for row in layout.rows[:SAMPLE]],
        guessed=ColumnsModel(**json.loads(guessed.as_json())) if guessed else None,
    )


def _taken(intake: StatementIntake, books: Books) -> TakenAnswer:
    money = currency_of_account(books, intake.account).format
    return TakenAnswer(
        account=intake.account,
        lines=intake.lines,
        already=intake.already,
        opening=None if intake.opening is None else money(intake.opening),
        closing=None if intake.closing is None else money(intake.closing),
        first_day=intake.first_day,
        last_day=intake.last_day,
        warnings=list(intake.warnings),
        settled=list(intake.settled),
    )
