"""An entry that comes again: by months, until a day."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.asks import Ask, AskKind, Choice
from corkpost.core.books import Books
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.kinds import AccountRole
from corkpost.core.periods import month_end
from corkpost.core.recipes.recipe import Made, Recipe
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry
from corkpost.core.row_kinds.schedules import Schedule, Step
from corkpost.core.schedules import next_schedule

RHYTHMS = {"month": 1, "quarter": 3, "half-year": 6, "year": 12}
MOST = 600


def _make(books: Books, told: Told) -> Made:
    posted = books.transaction(told.text("transaction"))
    if any(books.account(line.account).role is AccountRole.STOCK for line in posted.lines):
        raise BadEntry(["transaction: stock moves by a count, and not by repeating."])
    days = list(_days(posted.posting_date, RHYTHMS[told.text("rhythm")], told.day("until")))
    if not days:
        raise BadEntry(["until: it would not come again by that day."])
    title = posted.memo or posted.reference or posted.id
    steps = tuple(
        Step(day, posted.total, posted.total * (len(days) - place))
        for place, day in enumerate(days, 1)
    )
    schedule = Schedule(
        next_schedule(books, RECIPE.id), RECIPE.id, title, "", "", steps, copies=posted.id
    )
    words = books.client.currency.format_amount(posted.total)
    reason = f"{title} again each {told.text('rhythm')} until {told.day('until'):%-d %B %Y}."
    plan = Plan(
        kind=ChangeKind.ENTRY,
        entries=(),
        allocations=(),
        more={"schedules": (schedule,)},
        schedule=steps,
        proposed_reason=reason,
        notes=(f"{len(days)} times {words}; each is offered when it is due, and posted by you",),
        about=(posted.id,),
    )
    return Made((), reason, plan=plan)


def _days(first: date, months: int, until: date) -> Iterator[date]:
    """The last of a month stays the last."""
    keyed = 31 if first == month_end(first.year, first.month, 31) else first.day
    for number in range(1, MOST):
        day = month_end(first.year, first.month + months * number, keyed)
        if day > until:
            return
        yield day


RECIPE = Recipe(
    "repeat",
    18,
    "Repeat an entry",
    "The lines of an entry again, in a rhythm, until a day: each is offered when it is due.",
    (
        Ask("transaction", AskKind.TEXT, "Which entry, by its number", needed=True),
        Ask(
            "rhythm",
            AskKind.CHOICE,
            "Each",
            "month",
            tuple(Choice(name, name) for name in RHYTHMS),
        ),
        Ask("until", AskKind.DAY, "Until", needed=True),
    ),
    _make,
)
