"""Recipes, the register of fixed assets, exchange rates, and the steps of schedules that are due."""

from datetime import date

from flask import Blueprint, Response, request
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, AtDay, Day, answers
from corkpost.api.views import AskAnswer, as_file, asks_of
from corkpost.core.periods import FIRST_DAY, ONE_DAY
from corkpost.core.rates import rates_of
from corkpost.core.recipes import UseRecipe
from corkpost.core.row_kinds.tax_schemes import Scheme
from corkpost.core.tax_returns import tax_summary
from corkpost.formats.entry_table import entry_rows
from corkpost.formats.registers import (
    AssetRow,
    RegisteredAnswer,
    asset_row,
    asset_table,
    plain_number,
    rate_table,
    registered_answer,
)
from corkpost.formats.shape import Shape
from corkpost.services import recipes as service

bp = Blueprint("recipes", __name__)
LARGEST_TABLE = 4 * 1024 * 1024


class RecipeAnswer(Shape):
    id: str
    title: str
    says: str
    asks: list[AskAnswer]


class DueStepAnswer(Shape):
    schedule: str
    title: str
    day: Day
    amount: str
    left: str


class RecipesAnswer(Shape):
    """*due*: the steps of schedules up to the day that are not posted."""

    recipes: list[RecipeAnswer]
    due: list[DueStepAnswer]


class AssetYearAnswer(Shape):
    year: str
    last_day: Day
    amount: str
    left: str


class AssetRowAnswer(RegisteredAnswer):
    """*years*: what each financial year writes off. *keyed*: as the form holds it."""

    years: list[AssetYearAnswer]
    keyed: AssetRow


class RegisterAnswer(Shape):
    """Totals over what is not disposed of. *offered*: what the books bought that the register lacks."""

    as_at: Day
    assets: list[AssetRowAnswer]
    cost: str
    depreciation: str
    carrying: str
    due: str
    offered: list[AssetRow]


class AssetTable(Shape):
    assets: list[AssetRow]


class RateAnswer(Shape):
    currency: str
    day: Day
    rate: str


class RatesAnswer(Shape):
    rates: list[RateAnswer]


class NoQuery(Asked):
    pass


class EntrySpan(Asked):
    first: Day
    last: Day


@bp.get("/clients/<client>/recipes")
@answers(RecipesAnswer, "recipes")
def listed(client: str, query: AtDay) -> RecipesAnswer:
    """Every recipe with what it asks, and what is due."""
    found = service.recipes(workplace(), person(), client)
    money = workplace().ledger(person(), client).books.client.currency.format
    return RecipesAnswer(
        recipes=[
            RecipeAnswer(
                id=row.recipe.id,
                title=row.recipe.title,
                says=row.recipe.says,
                asks=asks_of(row.asks),
            )
            for row in found
        ],
        due=[
            DueStepAnswer(
                schedule=row.schedule.schedule,
                title=row.schedule.title,
                day=row.step.day,
                amount=money(row.step.amount),
                left=money(row.step.left),
            )
            for row in service.due_steps(workplace(), person(), client, query.at)
        ],
    )


class TaxCodeAnswer(Shape):
    """Sales and purchases by a code, positive as people read them."""

    code: str
    name: str
    sales: str
    tax_on_sales: str
    purchases: str
    tax_on_purchases: str


class LateTaxAnswer(Shape):
    """An entry of earlier days whose tax belongs to this return; *tax*: what is owed more by it."""

    transaction: str
    date: Day
    says: str
    tax: str


class TaxAnswer(Shape):
    """*due*: to be paid, positive. *moved*: what the tax accounts moved by on these lines, debit positive:
    its opposite. *returned_through*: of the last return; *filed_on*: of this one, where it was filed.
    *may_change_from*: the first day from which tax may be reckoned otherwise. *rate*: of a flat rate,
    percent of *flat_sales*, which are with their tax."""

    first: Day
    last: Day
    codes: list[TaxCodeAnswer]
    late: list[LateTaxAnswer]
    due: str
    moved: str
    filed_on: Day | None
    returned_through: Day | None
    scheme: Scheme
    since: Day | None
    rate: str | None
    flat_sales: str
    may_change_from: Day


@bp.get("/clients/<client>/tax")
@answers(TaxAnswer, "recipes")
def tax(client: str, query: EntrySpan) -> TaxAnswer:
    """Tax by code of a span, and what of earlier days belongs to it."""
    books = workplace().ledger(person(), client).books
    found = tax_summary(books, query.first, query.last)
    money = books.client.currency.format
    return TaxAnswer(
        first=found.first,
        last=found.last,
        codes=[
            TaxCodeAnswer(
                name=books.taxes[row.code].name if row.code in books.taxes else row.code,
                **{
                    name: value if name == "code" else money(value)
                    for name, value in row._asdict().items()
                },
            )
            for row in found.codes
        ],
        late=[
            LateTaxAnswer(
                transaction=row.transaction.id,
                date=row.transaction.posting_date,
                says=row.transaction.reason or row.transaction.memo or row.transaction.id,
                tax=money(row.tax),
            )
            for row in found.late
        ],
        due=money(found.due),
        moved=money(found.on_account),
        filed_on=found.filed.filed_on if found.filed else None,
        returned_through=books.returned_through,
        scheme=found.scheme.scheme,
        since=found.scheme.since if found.scheme.since > FIRST_DAY else None,
        rate=f"{float(found.scheme.rate):g}" if found.scheme.rate is not None else None,
        flat_sales=money(found.flat_sales),
        may_change_from=max(
            found.first, (books.returned_through or found.first - ONE_DAY) + ONE_DAY
        ),
    )


@bp.get("/clients/<client>/entries.csv")
@answers(None, "recipes")
def entry_table(client: str, query: EntrySpan) -> Response:
    """Our entries of some days as a table, which the recipe *entries from a table* reads."""
    books = workplace().ledger(person(), client).books
    found = [
        posted
        for posted in books.ours
        if query.first <= posted.posting_date <= query.last and not books.is_taken_back(posted.id)
    ]
    # The mark tells spreadsheets that it is UTF-8.
    content = ("\ufeff" + entry_rows(books, found)).encode()
    return as_file(f"{client} entries to {query.last}.csv", content, "text/csv")


class RecipeDraft(Asked):
    """*said*: by the names of what the recipe asks, as keyed; *near*: as for the act; *draft*: that it is
    kept as already."""

    recipe: str = Field(max_length=100)
    said: dict[str, str]
    near: Day
    draft: str | None = Field(default=None, max_length=32, pattern="^[a-zA-Z0-9]+$")


class DraftsKept(Shape):
    drafts: list[str]


@bp.post("/clients/<client>/recipes/drafts")
@answers(DraftsKept, "recipes", status=201)
def keep_drafts(client: str, json: RecipeDraft) -> tuple[DraftsKept, int]:
    """Keep what a recipe would post as drafts of the composer, or what it was told."""
    wanted = UseRecipe(json.recipe, json.said, json.near)
    kept = service.keep_as_drafts(workplace(), person(), client, wanted, json.draft)
    return DraftsKept(drafts=list(kept)), 201


@bp.get("/clients/<client>/assets")
@answers(RegisterAnswer, "recipes")
def assets(client: str, query: AtDay) -> RegisterAnswer:
    """The register of fixed assets at the end of the day."""
    found = service.asset_register(workplace(), person(), client, query.at)
    money = found.books.client.currency.format
    rows = [history.row for history in found.rows]
    return RegisterAnswer(
        as_at=query.at,
        assets=[
            AssetRowAnswer(
                **registered_answer(history.row, found.books).model_dump(),
                years=[
                    AssetYearAnswer(
                        year=year.label,
                        last_day=year.last_day,
                        amount=money(year.amount),
                        left=money(year.left),
                    )
                    for year in history.years
                ],
                keyed=asset_row(history.row.asset, found.books),
            )
            for history in found.rows
        ],
        cost=money(sum(row.cost for row in rows)),
        depreciation=money(sum(row.depreciation for row in rows)),
        carrying=money(sum(row.carrying for row in rows)),
        due=money(sum(row.due for row in rows)),
        offered=[asset_row(row, found.books) for row in found.offered],
    )


@bp.post("/clients/<client>/assets/table")
@answers(AssetTable, "recipes")
def read_asset_table(client: str, query: NoQuery) -> AssetTable:
    """The rows of a CSV file of assets, to be looked at; nothing is kept."""
    workplace().ledger(person(), client)
    request.max_content_length = LARGEST_TABLE
    return AssetTable(assets=asset_table(request.get_data(cache=False)))


@bp.get("/clients/<client>/rates")
@answers(RatesAnswer, "recipes")
def rates(client: str) -> RatesAnswer:
    """Exchange rates by currency and day."""
    return RatesAnswer(rates=_rates(client))


def _rates(client: str) -> list[RateAnswer]:
    books = workplace().ledger(person(), client).books
    return [rate_answer(row.currency, row.day, plain_number(row.rate)) for row in rates_of(books)]


def rate_answer(currency: str, day: date, rate: str | None) -> RateAnswer:
    return RateAnswer(currency=currency, day=day, rate=rate or "")


@bp.post("/clients/<client>/rates/table")
@answers(RatesAnswer, "recipes")
def read_rate_table(client: str, query: NoQuery) -> RatesAnswer:
    """The rows of a CSV file of rates, to be looked at; nothing is kept."""
    workplace().ledger(person(), client)
    request.max_content_length = LARGEST_TABLE
    return RatesAnswer(
        rates=[
            rate_answer(row.currency, row.day, plain_number(row.rate))
            for row in rate_table(request.get_data(cache=False))
        ]
    )
