"""to-this-year: brings the profit part of a late entry in a filed year into the open year: on the first
open day Dr cost, Cr result brought forward, or the other way (handbook, section 7)."""

from corkpost.core.books import Books, Line
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.formatting import format_date
from corkpost.core.kinds import EntryKind
from corkpost.core.owners import profit_shared
from corkpost.core.points import Point
from corkpost.core.refusals import NothingToDo
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "to-this-year",
    did=(
        "Something was entered into a year that is finished; what it does to profit is "
        "brought into this year."
    ),
    means="Leave both entries where they are.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    (name,) = point.named("late")
    return (Option(ROUTE.id, {}, f"Bring what {name} did to profit into this year", _reason(name)),)


def _reason(name: str) -> str:
    return f"{name} was keyed into a filed year after it was filed; its profit part belongs here."


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Repeat the late entry's income and cost on the first open day, against kept profit."""
    (name,) = point.named("late")
    late = books.transaction(name)
    own = [line for line in late.lines if books.accounts[line.account].is_profit_and_loss]
    total = sum(line.amount for line in own)
    if not total:
        raise NothingToDo(f"{name} has no profit part.")
    on = books.calendar.first_open_day(late.posting_date)
    shared = profit_shared(books, -total, "a result brought forward")
    lines = [
        *(line._replace(tax_code=None) for line in own),
        *(Line(0, code, amount) for code, amount in shared.items() if amount),
    ]
    entry = entry_of(new_entry(1), on, EntryKind.CORRECTING, late)._replace(
        lines=tuple(line._replace(number=n) for n, line in enumerate(lines, 1)),
        party=None,
        memo=f"profit part of {name}, keyed late",
        corrects=name,
    )
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=(),
        proposed_reason=_reason(name),
        notes=(f"dated {format_date(on)}, the first open day: the filed year does not move",),
        about=(name,),
    )
