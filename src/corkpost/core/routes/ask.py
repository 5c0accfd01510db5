"""ask: a question to the client; the point waits, and is not decided."""

from corkpost.core.books import Books
from corkpost.core.points import Point, PointState
from corkpost.core.routes import Option, Route

ROUTE = Route("ask", decides=PointState.ASKED)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    name = books.party_name(point.parties[0]) if point.parties else "this"
    question = f"{point.summary} Can you tell us what happened with {name}?"
    return (Option("ask", {}, "Ask the client", question),)
