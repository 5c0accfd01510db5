"""amend-reference: number or text put right by a recorded amendment; no money moves."""

from corkpost.core.amendments import amendings
from corkpost.core.books import Books
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.points import Point
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route("amend-reference")


def options(books: Books, point: Point) -> tuple[Option, ...]:
    return (Option(ROUTE.id, {}, "Amend its reference or text"),)


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Amend the point's transaction: `reference` and `memo` as they shall be, where they are given."""
    (name,) = point.named("amended")
    posted = books.transaction(name)
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(),
        allocations=(),
        amendments=amendings(posted, settings.get("reference"), settings.get("memo")),
        proposed_reason="",
        notes=("Only words are amended: no figure moves, in no period.",),
        about=(name,),
    )
