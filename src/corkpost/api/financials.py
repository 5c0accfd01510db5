"""Financial statements of a span."""

from flask import Blueprint

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, Day, answers
from corkpost.core.financials import (
    balance_sheet,
    equity_movements,
    money_moved,
    profit_and_loss,
)
from corkpost.formats.financials import (
    FinancialsAnswer,
    balance_sheet_answer,
    equity_answer,
    money_answer,
    profit_and_loss_answer,
)

bp = Blueprint("financials", __name__)


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
