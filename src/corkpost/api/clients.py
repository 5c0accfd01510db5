"""A client at a glance: years, periods, figures, the chart to pick from, finding."""

from collections.abc import Iterable

from flask import Blueprint
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import AsAt, Asked, Day, answers
from corkpost.api.views import SealAnswer, seal_answer
from corkpost.core.bank.reconciling import bank_difference
from corkpost.core.books import Account, Books
from corkpost.core.keying import NotADay, keyed_day
from corkpost.core.kinds import OWNER_ROLES
from corkpost.core.periods import FinancialYear
from corkpost.core.refusals import BadEntry
from corkpost.core.tax import preset_code
from corkpost.formats.answers import FiguresAnswer, figures_answer
from corkpost.formats.books_folder.writing import decimal_of
from corkpost.formats.shape import Shape
from corkpost.services import overview as service
from corkpost.services.overview import Overview, PeriodOverview
from corkpost.store.sign_off import SealRow

bp = Blueprint("clients", __name__)


class YearAnswer(Shape):
    label: str
    first_day: Day
    last_day: Day
    due: Day | None


class PeriodAnswer(Shape):
    """*state*: who may post. *why*: what bars it, where it is barred. *agreed*: how much of its
    statement lines, in percent."""

    first_day: Day
    last_day: Day
    name: str
    state: str
    why: str | None
    filed: bool
    open_points: int | None
    agreed: int | None
    seal: SealAnswer | None


class ClientAnswer(Shape):
    """*as_at*: the day to sign off next. *unagreed_lines*: of the bank's statements. *guesses*:
    accounts whose role is guessed and not confirmed. *revision* rises with whatever is posted.
    *open_points*: null while they are counted: ask again."""

    code: str
    name: str
    entity: str
    currency: str
    revision: int
    year: YearAnswer
    years: list[YearAnswer]
    periods: list[PeriodAnswer]
    as_at: Day
    open_points: int | None
    unagreed_lines: int
    guesses: int
    queries_to_do: int
    to_approve: int
    filed_through: Day | None
    tax_returned_through: Day | None
    materiality: str
    last_seal: SealAnswer | None
    has_owners: bool
    years_through: Day
    next_year: str
    is_archived: bool


class ChartAccount(Shape):
    """*tax_code*: what a line to it begins with. *uses*: how many transactions stand on it: what is used
    most is offered first."""

    code: str
    name: str
    type: str
    role: str
    balance: str
    tax_code: str | None
    uses: int


class ChartParty(Shape):
    """*uses*: how many transactions are its own: what is used most is offered first."""

    code: str
    name: str
    kind: str
    uses: int = 0


class ChartTax(Shape):
    code: str
    name: str
    rate: str


class ChartDimension(Shape):
    dimension: str
    code: str
    name: str


class ChartAnswer(Shape):
    accounts: list[ChartAccount]
    parties: list[ChartParty]
    taxes: list[ChartTax]
    dimensions: list[ChartDimension]


class RevisionAnswer(Shape):
    revision: int


class InYear(Asked):
    year: str | None = Field(default=None, max_length=20)


def year_answer(year: FinancialYear) -> YearAnswer:
    return YearAnswer(
        label=year.label, first_day=year.first_day, last_day=year.last_day, due=year.due
    )


def _accounts(books: Books, accounts: Iterable[Account], as_at: Day) -> list[ChartAccount]:
    balances = service.account_balances(books, as_at)
    return [
        ChartAccount(
            code=account.code,
            name=account.name,
            type=account.type,
            role=account.role,
            balance=books.client.currency.format(balances.get(account.code, 0)),
            tax_code=preset_code(account),
            uses=len(books.on_account(account.code)),
        )
        for account in accounts
    ]


@bp.get("/clients/<client>")
@answers(ClientAnswer, "clients")
def show(client: str, query: InYear) -> ClientAnswer:
    """The client in a year: the one under review unless said."""
    return _client(service.overview(workplace(), person(), client, query.year))


def _client(found: Overview) -> ClientAnswer:
    facts = found.books.client
    return ClientAnswer(
        code=facts.code,
        name=facts.name,
        entity=facts.entity,
        currency=facts.currency.code,
        revision=found.revision,
        year=year_answer(found.year),
        years=[year_answer(year) for year in found.years],
        periods=[_period(row, found) for row in found.periods],
        as_at=found.as_at,
        open_points=found.open_points,
        unagreed_lines=found.unagreed_lines,
        guesses=found.guesses,
        queries_to_do=found.queries_to_do,
        to_approve=found.to_approve,
        filed_through=facts.filed_through,
        tax_returned_through=found.books.returned_through,
        materiality=facts.currency.format(service.client_materiality(found.books)),
        last_seal=_seal(found.last_seal, found),
        has_owners=any(account.role in OWNER_ROLES for account in found.books.tables.accounts),
        years_through=found.books.reach.last_day,
        next_year=found.books.next_year.label,
        is_archived=found.is_archived,
    )


def _period(row: PeriodOverview, found: Overview) -> PeriodAnswer:
    last_day = row.period.last_day
    return PeriodAnswer(
        first_day=row.period.first_day,
        last_day=last_day,
        name=row.period.name,
        state=row.state,
        why=found.books.calendar.why_barred(last_day) if row.state == "barred" else None,
        filed=row.filed,
        open_points=row.open_points,
        agreed=row.agreed,
        seal=_seal(row.seal, found),
    )


def _seal(seal: SealRow | None, found: Overview) -> SealAnswer | None:
    return seal_answer(seal, broken=seal.number in found.broken_seals) if seal else None


@bp.get("/clients/<client>/revision")
@answers(RevisionAnswer, "clients")
def revision(client: str) -> RevisionAnswer:
    """Whether anything moved since: asked again and again by an open page."""
    return RevisionAnswer(revision=service.revision(workplace(), person(), client))


class DayQuery(Asked):
    """*near*: a day in the period that short forms are read by."""

    text: str = Field(max_length=40)
    near: Day


class DayAnswer(Shape):
    """*day*: none where the text is no day; then *fault* says what would be one."""

    day: Day | None
    fault: str | None


@bp.get("/clients/<client>/day")
@answers(DayAnswer, "clients")
def day(client: str, query: DayQuery) -> DayAnswer:
    """The day that a person keyed, in any of the short forms: `5.9`, `31 dec`, `pe`."""
    calendar = service.chart(workplace(), person(), client).calendar
    try:
        return DayAnswer(day=keyed_day(query.text, calendar, query.near), fault=None)
    except NotADay as wrong:
        return DayAnswer(day=None, fault=str(wrong))


@bp.get("/clients/<client>/figures")
@answers(FiguresAnswer, "clients")
def figures(client: str, query: AsAt) -> FiguresAnswer:
    """The figures of the effect strip at the end of a day."""
    if query.at is None:
        raise BadEntry(["Say as at which day: at=2026-10-31."])
    books = service.chart(workplace(), person(), client)
    found = service.figures(workplace(), person(), client, query.at)
    return figures_answer(found, bank_difference(books, query.at), books.client.currency)


@bp.get("/clients/<client>/chart")
@answers(ChartAnswer, "clients")
def chart(client: str, query: AsAt) -> ChartAnswer:
    """Accounts with their balances, parties, tax codes and dimensions, to pick from."""
    books = service.chart(workplace(), person(), client)
    return ChartAnswer(
        accounts=_accounts(books, books.tables.accounts, query.at or workplace().today),
        parties=[
            ChartParty(code=p.code, name=p.name, kind=p.kind, uses=len(books.of_party(p.code)))
            for p in books.tables.parties
        ],
        taxes=[
            ChartTax(code=tax.code, name=tax.name, rate=decimal_of(tax.rate))
            for tax in books.tables.taxes
        ],
        dimensions=[
            ChartDimension(dimension=row.dimension, code=row.code, name=row.name)
            for row in books.tables.dimensions
        ],
    )
