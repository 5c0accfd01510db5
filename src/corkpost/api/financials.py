"""Financial statements of a span, and its analytical reading."""

from fractions import Fraction

from flask import Blueprint

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, Day, answers
from corkpost.core.analysis import Reading, analysis, one_decimal
from corkpost.core.books import Books
from corkpost.core.financials import (
    balance_sheet,
    equity_movements,
    money_moved,
    profit_and_loss,
)
from corkpost.core.money import rounded
from corkpost.formats.financials import (
    FinancialsAnswer,
    balance_sheet_answer,
    equity_answer,
    money_answer,
    profit_and_loss_answer,
)
from corkpost.formats.shape import Shape

bp = Blueprint("financials", __name__)


class ReadingSpan(Asked):
    first: Day
    last: Day


class ReadingAnswer(Shape):
    """*months*: the twelve to the end of the span; *earlier*: the twelve before; *broke*: which of the
    later broke the run, from 0. *asks*: it moved so much that it wants a word. *budget*: none
    where it has none."""

    section: str
    account: str
    name: str
    now: str
    before: str
    change: str
    percent: int | None
    months: list[str]
    earlier: list[str]
    broke: list[int]
    asks: bool
    budget: str | None


class RatioAnswer(Shape):
    """*now*, *before*: with one decimal; none where a part of it is nil."""

    name: str
    unit: str
    how: str
    now: str | None
    before: str | None


class AnalysisAnswer(Shape):
    """*months*: the first days of the twelve."""

    first: Day
    last: Day
    months: list[Day]
    rows: list[ReadingAnswer]
    ratios: list[RatioAnswer]


class SpanQuery(Asked):
    """*whole*: in whole units of the currency."""

    first: Day
    last: Day
    whole: bool = False


@bp.get("/clients/<client>/financials")
@answers(FinancialsAnswer, "financials")
def show(client: str, query: SpanQuery) -> FinancialsAnswer:
    """Profit and loss of the span, the balance sheet of its last day, what moved equity and money."""
    books = workplace().ledger(person(), client).books
    span = query.first, query.last
    return FinancialsAnswer(
        first=query.first,
        last=query.last,
        profit_and_loss=profit_and_loss_answer(
            profit_and_loss(books, *span), books, whole=query.whole
        ),
        balance_sheet=balance_sheet_answer(
            balance_sheet(books, query.last), books, whole=query.whole
        ),
        equity=equity_answer(equity_movements(books, *span), books),
        money=money_answer(money_moved(books, *span), books),
    )


@bp.get("/clients/<client>/analysis")
@answers(AnalysisAnswer, "financials")
def read(client: str, query: ReadingSpan) -> AnalysisAnswer:
    """The span beside the same a year earlier, month by month, and ratios."""
    books = workplace().ledger(person(), client).books
    found = analysis(books, query.first, query.last)
    return AnalysisAnswer(
        first=found.first,
        last=found.last,
        months=[Day(year, month, 1) for year, month in found.months],
        rows=[_reading(row, books) for row in found.rows],
        ratios=[
            RatioAnswer(
                name=ratio.name,
                unit=ratio.unit,
                how=ratio.how,
                now=_decimal(ratio.now),
                before=_decimal(ratio.before),
            )
            for ratio in found.ratios
        ],
    )


def _reading(row: Reading, books: Books) -> ReadingAnswer:
    money = books.client.currency.format
    return ReadingAnswer(
        section=row.section,
        account=row.account,
        name=row.name,
        now=money(row.now),
        before=money(row.before),
        change=money(row.change),
        percent=rounded(Fraction(100 * row.change, abs(row.before))) if row.before else None,
        months=[money(amount) for amount in row.months],
        earlier=[money(amount) for amount in row.earlier],
        broke=list(row.broke),
        asks=row.asks,
        budget=money(row.budget) if row.budget else None,
    )


def _decimal(value: Fraction | None) -> str | None:
    return None if value is None else one_decimal(value)
