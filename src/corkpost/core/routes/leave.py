"""leave: it is no error; the reason is remembered, and the point stays away until its facts change."""

from corkpost.core.books import Books
from corkpost.core.points import Point, PointState
from corkpost.core.routes import Option, Route

ROUTE = Route("leave", decides=PointState.LEFT)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    return (Option("leave", {}, point.hint("leave") or "Leave it: not an error"),)
