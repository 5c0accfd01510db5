"""cut-off: a document of one year posted in the other (handbook, sections 7 and 11, example 16)."""

from collections.abc import Iterable, Iterator, Sequence
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books, Line, PriorPart, Transaction, opposite
from corkpost.core.dating import materiality, posted_prior_parts
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, AccountType, PeriodState, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.owners import profit_shared
from corkpost.core.periods import ONE_DAY, Calendar, FinancialYear
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.refusals import MissingAccount
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "cut-off",
    family=Family.PERIODS,
    routes=("adjust", "ask", "leave", "waive"),
    after=("entered-late",),
    finds="documents of one year posted in another",
    avoid="Date a document by the month in which the work was done or the goods came.",
)
PAPERS = frozenset(
    {
        TransactionKind.SALES_INVOICE,
        TransactionKind.SALES_CREDIT,
        TransactionKind.PURCHASE_BILL,
        TransactionKind.PURCHASE_CREDIT,
    }
)


class _Misplaced(NamedTuple):
    """A document and the earlier of its two years. *moves*: what that year lacks, debit positive."""

    posted: Transaction
    paper: date
    earlier: FinancialYear
    moves: tuple[Line, ...]

    @property
    def amount(self) -> Minor:
        return sum(line.amount for line in self.moves)


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    calendar = books.calendar
    # What was keyed into a filed year is told as that, whatever its paper says.
    late = {name for point in run.found_before(CHECK) for name in point.transactions}
    rows = books.rows_by(
        "in another year",
        lambda posted: (True,) if _is_misplaced(calendar, posted) else (),
        *PAPERS,
        ground=calendar,
    )
    for posted in rows.get(True, ()):
        if books.is_answered(posted.id) or posted.id in late:
            continue
        paper = posted.document_date or posted.posting_date
        of_paper, of_books = calendar.year_of(paper), calendar.year_of(posted.posting_date)
        sign = 1 if of_paper < of_books else -1
        own = [x for x in posted.lines if books.accounts[x.account].is_profit_and_loss]
        moves = tuple(x._replace(amount=sign * x.amount) for x in own)
        one = _Misplaced(posted, paper, min(of_paper, of_books), moves)
        if one.amount:
            yield _point(run, one, of_paper, of_books)


def _is_misplaced(calendar: Calendar, posted: Transaction) -> bool:
    paper = posted.document_date
    if paper is None or posted.change is not None:
        return False
    return calendar.year_of(paper) != calendar.year_of(posted.posting_date)


def _point(
    run: CheckRun, misplaced: _Misplaced, of_paper: FinancialYear, of_books: FinancialYear
) -> Point:
    books, posted = run.books, misplaced.posted
    name = posted.reference or posted.id
    why = f"the paper belongs to {of_paper.label}, the posting to {of_books.label}"
    reason = f"{name} belongs to {of_paper.label}."
    remedy, routes, told = _remedy(books, misplaced, reason)
    hints = {"reason": reason}
    if routes:
        hints["leave"] = f"Leave it where it is: {told[0]}"
    return CHECK.point(
        books,
        subjects={"paper": (posted.id,)},
        amount=abs(misplaced.amount),
        certainty=0.93,
        summary=(
            f"{name} of {books.party_name(posted.party)} is dated {format_date(misplaced.paper)} and "
            "was posted on "
            f"{format_date(posted.posting_date)}, in another year."
        ),
        short=f"{name}, of {misplaced.paper:%-d %b %Y}",
        because=(why, *told),
        hints=hints,
        remedy=remedy,
        routes=routes,
    )


def _remedy(
    books: Books, misplaced: _Misplaced, reason: str
) -> tuple[DraftEntry | None, tuple[str, ...] | None, Sequence[str]]:
    """What is filled in for `adjust`, the routes in their order where not the usual, and why."""
    end = misplaced.earlier.last_day
    if books.calendar.state_on(end) is not PeriodState.BARRED:
        holding = next(iter(books.with_role(_holding_role(books, misplaced))), None)
        held = Side(holding.code if holding else "", -misplaced.amount)
        remedy = DraftEntry(
            on=end,
            sides=(*_sides(misplaced.moves), held),
            title=f"Hold it over {format_date(end)}, and take it back the day after",
            reason=reason,
            reverse_on=end + ONE_DAY,
            asks=holding is None,
            answers=misplaced.posted.id,
        )
        return remedy, None, ()
    through = _through_kept_profit(books, misplaced, reason)
    limit, words = materiality(books), books.client.currency.format_amount
    if abs(misplaced.amount) + posted_prior_parts(books, misplaced.earlier.label) > limit:
        return through, None, (f"{books.calendar.why_barred(end)}, and it is above {words(limit)}",)
    told = (
        f"{books.calendar.why_barred(end)} and it is within materiality of {words(limit)}: "
        "the year that it is posted in bears it"
    )
    return through, ("leave", "adjust", "ask", "waive"), (told,)


def _through_kept_profit(books: Books, misplaced: _Misplaced, reason: str) -> DraftEntry | None:
    """A closed year can't move: what it lacks stands where its profit is kept, and leaves this year's.
    Nothing is filled in where the chart has no such account."""
    try:
        kept = profit_shared(books, misplaced.amount, "a prior-year correction")
    except MissingAccount:
        return None
    equity = [Line(0, code, amount) for code, amount in kept.items() if amount]
    names = " and ".join(books.accounts[line.account].name for line in equity)
    return DraftEntry(
        on=misplaced.earlier.last_day,
        sides=(*_sides(equity), *_sides(opposite(misplaced.moves))),
        title=f"Take it to {names}, as a correction to {misplaced.earlier.label}",
        reason=reason,
        answers=misplaced.posted.id,
        prior=PriorPart(misplaced.earlier.label, -misplaced.amount),
    )


def _holding_role(books: Books, misplaced: _Misplaced) -> AccountRole:
    """Cost added at the year's end is owed, cost taken out is prepaid; income the other way."""
    income = books.accounts[misplaced.moves[0].account].type is AccountType.INCOME
    if misplaced.amount > 0:
        return AccountRole.DEFERRED_INCOME if income else AccountRole.ACCRUAL
    return AccountRole.PREPAYMENT


def _sides(lines: Iterable[Line]) -> Iterator[Side]:
    return (Side(line.account, line.amount) for line in lines)
