"""ask: a question to the client; the point waits, and is not decided."""

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.points import Point, PointState
from corkpost.core.routes import Option, Route

ROUTE = Route(
    "ask",
    decides=PointState.ASKED,
    deed="Ask",
    does="nothing is posted; the point waits for the answer",
    done="waits for the client; the question is ready to be sent",
    why="Question to the client",
    why_asks="What do you want to know?",
)
WAIT = Ask("back_on", AskKind.WAIT, "Comes back")


def options(books: Books, point: Point) -> tuple[Option, ...]:
    name = books.party_name(point.parties[0]) if point.parties else "this"
    question = f"{point.summary} Can you tell us what happened with {name}?"
    return (Option("ask", {}, "Ask the client", question, asks=(WAIT,)),)
