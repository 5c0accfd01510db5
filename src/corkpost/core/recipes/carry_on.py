"""The steps of schedules that are due: what was set aside is released, a loan bears its interest."""

from collections.abc import Iterator

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.change import new_entry
from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.row_kinds.schedule_steps import StepPosted
from corkpost.core.schedules import Due, due


def _make(books: Books, told: Told) -> Made:
    until, wanted = told.day("date"), told.names("schedule")
    found = [row for row in due(books, until) if not wanted or row.schedule.schedule in wanted]
    if not found:
        return Made((), f"No step of a schedule is due by {until:%-d %B %Y}.")
    steps = tuple(
        StepPosted(row.schedule.schedule, row.step.day, new_entry(number))
        for number, row in enumerate(found, 1)
    )
    titles = dict.fromkeys(row.schedule.title for row in found)
    reason = f"{'; '.join(titles)}: steps to {until:%-d %B %Y}."
    return Made(tuple(_entries(books, found)), reason, working=(), rows={"schedule_steps": steps})


def _entries(books: Books, found: list[Due]) -> Iterator[EntryRequest]:
    for schedule, step in found:
        day = books.calendar.first_open_day(step.day)
        title = f"{schedule.title}, {step.day:%B %Y}"
        if schedule.copies:
            yield adjusting(day, title, *_copied(books, schedule.copies))
            continue
        yield adjusting(
            day,
            title,
            *(
                EntryLine(account, amount, schedule.party, dimensions=schedule.dimensions)
                for account, amount in (
                    (schedule.debit, step.amount),
                    (schedule.credit, -step.amount),
                )
            ),
        )


def _copied(books: Books, name: str) -> Iterator[EntryLine]:
    """The lines of what is repeated, its tax lines as they are."""
    for line in books.transaction(name).lines:
        yield EntryLine(
            line.account,
            line.amount,
            line.party,
            line.tax_code,
            description=line.description,
            dimensions=line.dimensions,
        )


RECIPE = Recipe(
    "carry-on",
    20,
    "Steps that are due",
    "The next steps of what was set aside and of loans, up to a day.",
    (
        Ask("date", AskKind.DAY, "Up to the day", needed=True),
        Ask("schedule", AskKind.ITEMS, "Of these schedules alone"),
    ),
    _make,
)
