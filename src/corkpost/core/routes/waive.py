"""waive: an error too small to correct: an unadjusted difference, and their total is set against
materiality at sign-off (handbook, sections 7 and 9)."""

from corkpost.core.books import Books
from corkpost.core.points import Point, PointState
from corkpost.core.routes import Option, Route

ROUTE = Route(
    "waive",
    decides=PointState.WAIVED,
    deed="Waive it",
    does="nothing is posted; it counts against materiality at sign-off",
    done="is waived, and on the schedule of unadjusted differences",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    return (Option("waive", {}, "Waive it: an error, too small to correct"),)
