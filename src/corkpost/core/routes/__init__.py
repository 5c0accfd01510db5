"""The routes by which a point is put right, one file each, found by being in this folder.

A file has `ROUTE` (its facts), `options` (the ways it could go for a point, the recommended first)
and, where it posts, `plan`. This registry imports each and holds no list.
"""

import importlib
import pkgutil
from collections.abc import Callable, Mapping
from functools import cache
from typing import NamedTuple

from corkpost.core.asks import Ask
from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.points import Point, PointState
from corkpost.core.refusals import Refusal, UnknownName

Settings = Mapping[str, str]
"""What a person chose about a route, by name; what is not there is as recommended."""


class Route(NamedTuple):
    """*decides*: the state that a route which posts nothing puts the point in; None where it posts.

    *deed*: on the button; *does*: what deciding by it means before it is done; *done*: after it, said of
    the point. *why*: what its reason is called, and *why_asks* what stands there before anything is
    written. *did* and *means* explain it to the client's bookkeeper, in plain words: what was done, and
    what that means for the daily books.
    """

    id: str
    decides: PointState | None = None
    did: str = ""
    means: str = ""
    deed: str = "Post"
    does: str = ""
    done: str = ""
    why: str = "Reason, kept for good"
    why_asks: str = "Why? This is kept for good."


class Option(NamedTuple):
    """One way a route could go. *title* says it as a deed. *first*: it is recommended before the order
    that the check gives. *asks*: what a person may say about it."""

    route: str
    settings: Settings
    title: str
    proposed_reason: str = ""
    first: bool = False
    asks: tuple[Ask, ...] = ()


PlanRoute = Callable[[Books, Point, Settings], Plan]
Options = Callable[[Books, Point], tuple[Option, ...]]


class Registered(NamedTuple):
    route: Route
    options: Options
    plan: PlanRoute | None


@cache
def registry() -> Mapping[str, Registered]:
    """Every route by its id."""
    modules = [
        importlib.import_module(f"{__name__}.{module.name}")
        for module in pkgutil.iter_modules(__path__)
    ]
    found = [Registered(m.ROUTE, m.options, getattr(m, "plan", None)) for m in modules]
    return {registered.route.id: registered for registered in found}


def route_named(name: str) -> Registered:
    """The route of that id. Raises UnknownName."""
    try:
        return registry()[name]
    except KeyError:
        raise UnknownName("route", name) from None


def options_for(books: Books, point: Point) -> tuple[Option, ...]:
    """Every way to put the point right, recommended first, in the order that its check gives."""
    found = [
        option
        for name in point.routes
        if name in registry()
        for option in registry()[name].options(books, point)
    ]
    # Where nothing needs correcting, leaving it comes first, with the reason filled in.
    return tuple(sorted(found, key=lambda option: not option.first))


class NothingPosted(Refusal):
    title = "Nothing to post"

    def __init__(self, route: str) -> None:
        super().__init__(f"{route} posts nothing. Decide the point by it.")


def settings_of(books: Books, point: Point, route: str, chosen: Settings) -> Settings:
    """What was chosen about a route, with what it recommends for the rest. Where the route could go
    several ways, the way whose settings were all chosen is meant, else the first."""
    ways = [option for option in options_for(books, point) if option.route == route]
    meant = next((way for way in ways if way.settings.keys() <= chosen.keys()), None)
    meant = meant or next(iter(ways), None)
    return {**meant.settings, **chosen} if meant else chosen


def plan_route(books: Books, point: Point, route: str, settings: Settings) -> Plan:
    """The plan of a route that posts, for this point. Raises UnknownName or another Refusal."""
    registered = route_named(route)
    if route not in point.routes:
        raise UnknownName("route for this point", route)
    if registered.plan is None:
        raise NothingPosted(route)
    return registered.plan(books, point, settings)
