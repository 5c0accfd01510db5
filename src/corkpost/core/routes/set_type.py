"""set-type: corrects an account's type, as a recorded amendment (handbook, section 7)."""

from dataclasses import replace

from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.chart.changing import AccountWanted, plan_chart
from corkpost.core.points import Point
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "set-type",
    did="An account is shown on the right statement from now on.",
    means="Nothing to enter.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    account = books.account(point.named("account")[0])
    kind = point.hint("type")
    reason = f"{account.code} {account.name} is {kind} by what is booked on it."
    return (Option(ROUTE.id, {"type": kind}, f"Make {account.name} an account of {kind}", reason),)


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Give the point's account the `type` that is proposed, or another."""
    (code,) = point.named("account")
    wanted = AccountWanted(code, type=settings.get("type") or point.hint("type"))
    made = plan_chart(books, [wanted])
    return replace(made, route=ROUTE.id, proposed_reason=options(books, point)[0].proposed_reason)
