"""merge-party: two parties that are one, as a recorded amendment (handbook, section 7)."""

from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.merging import plan_merge
from corkpost.core.points import Point
from corkpost.core.refusals import UnknownName
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "merge-party",
    did="Two names of one party are read as one.",
    means="Use the one name from now on; nothing is to be entered again.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """Either of the two may be kept; the one with more in the books is proposed."""
    first, second = point.named("party")
    if not {first, second} <= books.parties.keys():
        return ()

    def option(keep: str, gone: str) -> Option:
        return Option(
            ROUTE.id,
            {"keep": keep},
            f"Make them one, as {books.party_name(keep)} ({keep})",
            plan_merge(books, keep, gone).proposed_reason,
        )

    return option(first, second), option(second, first)


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Read the two parties of the point as one: the one that `keep` names, else the first."""
    first, second = point.named("party")
    keep = settings.get("keep") or first
    if keep not in (first, second):
        raise UnknownName("party of this point", keep)
    return plan_merge(books, keep, second if keep == first else first)
