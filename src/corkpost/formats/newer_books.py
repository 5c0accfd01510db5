"""What newer books would bring, as an answer."""

from corkpost.core.books import Books, Transaction
from corkpost.core.explaining import described
from corkpost.core.newer_books import Brought, RowBrought
from corkpost.formats.shape import Shape

MOST_ROWS = 60


class MonthBroughtAnswer(Shape):
    """*finished*: why the month is finished or held; none where it is open."""

    first_day: str
    last_day: str
    state: str
    finished: str | None
    new: int
    changed: int
    removed: int


class RowBroughtAnswer(Shape):
    """A transaction that is not as it was, in words; no *before*: new; no *now*: gone."""

    id: str
    day: str
    before: str | None
    now: str | None


class YearBroughtAnswer(Shape):
    year: str
    before: str
    after: str
    change: str


class FinishedMovedAnswer(Shape):
    account: str
    name: str
    before: str
    after: str
    change: str


class OursBroughtAnswer(Shape):
    """A correction of ours that the client entered too."""

    summary: str
    amount: str


class BroughtAnswer(Shape):
    """What newer books would move. *rows*: the first of *row_count*."""

    months: list[MonthBroughtAnswer]
    rows: list[RowBroughtAnswer]
    row_count: int
    years: list[YearBroughtAnswer]
    finished_on: str | None
    finished: list[FinishedMovedAnswer]
    ours: list[OursBroughtAnswer]


class NewerBooksAnswer(Shape):
    """Newer books that wait to be taken in. *broken*: the days of the seals that would break. *waits_for*:
    the role that takes them in, reviewer or partner; none where anybody may."""

    client: str
    name: str
    transactions: int
    new: int
    changed: int
    removed: int
    broken: list[str]
    warnings: list[str]
    waits_for: str | None = None
    moves: BroughtAnswer


def brought_answer(books: Books, found: Brought) -> BroughtAnswer:
    """What newer books would move, amounts as decimals."""
    money = books.client.currency.format
    return BroughtAnswer(
        months=[
            MonthBroughtAnswer(
                first_day=row.period.first_day.isoformat(),
                last_day=row.period.last_day.isoformat(),
                state=row.state.value,
                finished=row.finished,
                new=row.new,
                changed=row.changed,
                removed=row.removed,
            )
            for row in found.months
        ],
        rows=[_row(books, row) for row in found.rows[:MOST_ROWS]],
        row_count=len(found.rows),
        years=[
            YearBroughtAnswer(
                year=row.year,
                before=money(row.before),
                after=money(row.after),
                change=money(row.after - row.before),
            )
            for row in found.years
        ],
        finished_on=found.finished_on.isoformat() if found.finished_on else None,
        finished=[
            FinishedMovedAnswer(
                account=row.code,
                name=books.accounts[row.code].name if row.code in books.accounts else row.code,
                before=money(row.before),
                after=money(row.after),
                change=money(row.after - row.before),
            )
            for row in found.finished
        ],
        ours=[
            OursBroughtAnswer(summary=point.summary, amount=money(point.amount))
            for point in found.ours
        ],
    )


def _row(books: Books, row: RowBrought) -> RowBroughtAnswer:
    return RowBroughtAnswer(
        id=next(posted.id for posted in row if posted is not None),
        day=row.day.isoformat(),
        before=_said(books, row.before),
        now=_said(books, row.now),
    )


def _said(books: Books, posted: Transaction | None) -> str | None:
    if posted is None:
        return None
    accounts = ", ".join(dict.fromkeys(line.account for line in posted.lines))
    return f"{described(books, posted)} ({accounts})"
