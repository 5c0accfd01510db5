"""The Books page: what was taken in, the chart of accounts, new accounts and parties."""

from flask import Blueprint, request
from pydantic import Field

from corkpost.api.books import FileName, JobStarted
from corkpost.api.clients import ChartParty, InYear
from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, AsAt, Asked, Day, Done, answers
from corkpost.api.views import AskAnswer, asks_of
from corkpost.core.chart.fitting import FITTING
from corkpost.core.chart.guessing import Guess
from corkpost.core.chart.marking import marks_of
from corkpost.core.client_facts import FACTS, asks_for_facts, stated
from corkpost.formats.newer_books import NewerBooksAnswer
from corkpost.formats.shape import Shape
from corkpost.services import chart as service
from corkpost.services import jobs, statements
from corkpost.services.books import may_bring
from corkpost.services.chart import ChartRow, TakenIn
from corkpost.services.rights import May

bp = Blueprint("chart", __name__)


class MonthAnswer(Shape):
    first_day: Day
    last_day: Day
    name: str


class CoverageAnswer(Shape):
    """How many rows each month has; *missing*: months that it should reach and does not."""

    name: str
    account: str | None
    counts: list[int]
    missing: list[bool]


class StatementBroughtAnswer(Shape):
    """*lines*: those that were new."""

    account: str
    first_day: Day
    last_day: Day
    lines: int


class FileTakenIn(Shape):
    """*kind*: import or statement. Counts are of transactions. *set_aside_by*: the change."""

    change: int
    kind: str
    by: str
    at: str
    what: str
    new: int
    changed: int
    removed: int
    statements: list[StatementBroughtAnswer]
    set_aside_by: int | None


class IntakeAnswer(Shape):
    books_from: Day | None
    books_to: Day | None
    months: list[MonthAnswer]
    coverage: list[CoverageAnswer]
    files: list[FileTakenIn]


class GuessAnswer(Shape):
    """*counts*: the lists were taken in with it; else it counts nowhere until it is confirmed."""

    role: str
    why: str
    counts: bool


class AccountAnswer(Shape):
    """*shown_as*: the type that the client's own chart shows, where it is another. *confirmed*: a
    person gave or confirmed the role. *amended*: it stands otherwise than the books gave it."""

    code: str
    name: str
    type: str
    shown_as: str | None
    role: str
    owner: str | None
    tax_code: str | None
    balance: str
    lines: int
    guess: GuessAnswer | None
    confirmed: bool
    amended: bool
    marks: list[str]


class AccountsAnswer(Shape):
    """*may_change*: whether this person may. *roles*: the types that each role goes with."""

    accounts: list[AccountAnswer]
    may_change: bool
    roles: dict[str, list[str]]


class NameSought(Asked):
    name: str = Field(max_length=400)


class NearAnswer(Shape):
    """*known_as*: the name or alias that is nearly the one asked for; *same*: of the same words."""

    party: ChartParty
    known_as: str
    same: bool


class NearsAnswer(Shape):
    near: list[NearAnswer]


class SetAsideBody(Asked):
    change: int
    reason: str = Field(max_length=2000)


@bp.get("/clients/<client>/intake")
@answers(IntakeAnswer, "chart")
def intake(client: str, query: InYear) -> IntakeAnswer:
    """What was taken in, by table and month, and file by file."""
    found = service.intake(workplace(), person(), client, query.year)
    return IntakeAnswer(
        books_from=found.facts.books_from,
        books_to=found.facts.books_to,
        months=[
            MonthAnswer(first_day=p.first_day, last_day=p.last_day, name=p.name)
            for p in found.periods
        ],
        coverage=[
            CoverageAnswer(
                name=row.name,
                account=row.account,
                counts=list(row.counts),
                missing=list(row.missing),
            )
            for row in found.coverage
        ],
        files=[_file(row) for row in found.files],
    )


def _file(row: TakenIn) -> FileTakenIn:
    return FileTakenIn(
        change=row.change.number,
        kind=row.change.kind,
        by=row.change.made_by,
        at=row.change.made_at,
        what=row.change.reason,
        new=row.brought.new,
        changed=row.brought.changed,
        removed=row.brought.removed,
        statements=[
            StatementBroughtAnswer(
                account=brought.account,
                first_day=Day.fromisoformat(brought.first_day),
                last_day=Day.fromisoformat(brought.last_day),
                lines=brought.lines,
            )
            for brought in row.brought.statements
        ],
        set_aside_by=row.set_aside_by,
    )


@bp.post("/clients/<client>/books")
@answers(JobStarted, "chart", status=202)
def take_in(client: str, query: FileName) -> tuple[JobStarted, int]:
    """Take in a zip of newer books of this client: a job that tells its progress."""
    request.max_content_length = jobs.LARGEST_UPLOAD + 1
    job_id = jobs.start_take_in(workplace(), person(), query.name, request.stream, only=client)
    return JobStarted(job=job_id), 202


class WaitingBooksAnswer(Shape):
    """Newer books that wait for another's word. *may_take_in*: this person may say it."""

    job: str
    name: str
    by: str
    at: str
    may_take_in: bool
    coming: NewerBooksAnswer


class AllWaitingBooks(Shape):
    waiting: list[WaitingBooksAnswer]


@bp.get("/clients/<client>/waiting-books")
@answers(AllWaitingBooks, "chart")
def waiting_books(client: str) -> AllWaitingBooks:
    """The newer books of the client that wait for a reviewer or partner."""
    return AllWaitingBooks(
        waiting=[
            WaitingBooksAnswer(
                **{**row._asdict(), "may_take_in": may_bring(person(), row.coming.waits_for)}
            )
            for row in jobs.waiting_books(workplace(), person(), client)
        ]
    )


class FactAnswer(Shape):
    """*value*: as text; none where it is not known."""

    says: str
    value: str | None
    ask: AskAnswer


class FactsAnswer(Shape):
    facts: list[FactAnswer]
    may_change: bool


@bp.get("/clients/<client>/facts")
@answers(FactsAnswer, "chart")
def facts(client: str) -> FactsAnswer:
    """What the practice answers for about the client, each as it can be set."""
    books = workplace().ledger(person(), client).books
    return FactsAnswer(
        facts=[
            FactAnswer(
                says=FACTS[ask.name].says,
                value=stated(books.client)[ask.name],
                ask=AskAnswer(**asks_of([ask])[0].model_dump()),
            )
            for ask in asks_for_facts(books.client)
        ],
        may_change=person().may(May.SET_FACTS),
    )


@bp.post("/clients/<client>/statements/set-aside")
@answers(Done, "chart")
def set_aside(client: str, json: SetAsideBody) -> Done:
    """Set aside the statements of a file that should not have been taken in."""
    statements.set_aside(workplace(), person(), client, json.change, json.reason)
    return DONE


@bp.get("/clients/<client>/accounts")
@answers(AccountsAnswer, "chart")
def accounts(client: str, query: AsAt) -> AccountsAnswer:
    """The chart of accounts with types and roles, and what is guessed of those without a role."""
    books, rows = service.chart(workplace(), person(), client, query.at or workplace().today)
    money = books.client.currency.format
    amended = {row.account for row in books.tables.account_amendments if row.before != row.after}
    return AccountsAnswer(
        accounts=[
            _account(row, money(row.balance), row.account.code in amended).model_copy(
                update={"marks": list(marks_of(books).get(row.account.code, ()))}
            )
            for row in rows
        ],
        may_change=person().may(May.CHANGE_CHART),
        roles={role.value: sorted(types) for role, types in FITTING.items()},
    )


def _guess(guess: Guess) -> GuessAnswer:
    return GuessAnswer(role=guess.role, why=guess.why, counts=guess.counts)


def _account(row: ChartRow, balance: str, amended: bool) -> AccountAnswer:
    account = row.account
    other = account.expected_type if account.expected_type is not account.type else None
    return AccountAnswer(
        code=account.code,
        name=account.name,
        type=account.type,
        shown_as=other,
        role=account.role,
        owner=account.owner,
        tax_code=account.tax_code,
        balance=balance,
        lines=row.lines,
        guess=_guess(row.guess) if row.guess else None,
        confirmed=row.confirmed,
        amended=amended,
        marks=[],
    )


@bp.get("/clients/<client>/parties/near")
@answers(NearsAnswer, "chart")
def near(client: str, query: NameSought) -> NearsAnswer:
    """The parties whose names are nearly that one."""
    found = service.near(workplace(), person(), client, query.name)
    return NearsAnswer(
        near=[
            NearAnswer(
                party=ChartParty(
                    code=likely.party.code, name=likely.party.name, kind=likely.party.kind
                ),
                known_as=likely.name,
                same=likely.likeness == 1,
            )
            for likely in found
        ]
    )
