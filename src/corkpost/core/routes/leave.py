"""leave: it is no error; the reason is remembered, and the point stays away until its facts change.

What moves only between income and cost of a filed year is left, with a note for the comparatives: to
correct it would bend two costs of this year (handbook, section 7).
"""

from corkpost.core.books import Books
from corkpost.core.kinds import PeriodState
from corkpost.core.points import Point, PointState
from corkpost.core.remedies import moving_of
from corkpost.core.routes import Option, Route

ROUTE = Route(
    "leave",
    decides=PointState.LEFT,
    deed="Leave it",
    does="nothing is posted; remembered until its facts change",
    done="is left, with your reason",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    if within_filed_profit(books, point):
        moved = books.transaction(point.transactions[0])
        why = f"{books.calendar.why_barred(moved.posting_date)}, and its profit stays what it was"
        reason = f"For the comparatives: {point.hint('reason') or point.summary}"
        return (Option("leave", {}, f"Leave it, with a note: {why}", reason, first=True),)
    return (Option("leave", {}, point.hint("leave") or "Leave it: not an error"),)


def within_filed_profit(books: Books, point: Point) -> bool:
    """Whether the point would be put right by moving income or cost of a filed year to other such."""
    moving = moving_of(point)
    if moving is None or not point.transactions:
        return False
    accounts = [books.accounts.get(side.account) for side in moving.sides]
    if not all(account is not None and account.is_profit_and_loss for account in accounts):
        return False
    day = books.transaction(point.transactions[0]).posting_date
    filed = books.calendar.filed_through
    barred = books.calendar.state_on(day) is PeriodState.BARRED
    return barred and filed is not None and day <= filed
