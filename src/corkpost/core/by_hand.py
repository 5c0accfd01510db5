"""What a person picks by hand, put right by the same routes as what a check finds (section 7)."""

from collections.abc import Mapping

from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import MONEY_ROLES, TransactionKind
from corkpost.core.open_items import open_items
from corkpost.core.points import Check, Family, Point
from corkpost.core.refusals import UnknownName

ROUTES = ("void", "settle", "allocate", "amend-reference")
CHECK = Check("by-hand", family=Family.BY_HAND, routes=ROUTES, finds="what a person picked")


def routes_for(books: Books, posted: Transaction) -> tuple[str, ...]:
    """The routes that a person may pick for it. What we posted is taken back by its change instead."""
    if posted.id in books.reversed_by or posted.id in books.corrected:
        return ("amend-reference",)
    routes = []
    items = open_items(books)
    own = items.by_transaction.get(posted.id, ())
    if any(items.open_now[item.key] and item.party for item in own):
        routes.append("allocate")
    money = any(books.accounts[line.account].role in MONEY_ROLES for line in posted.lines)
    if money and not own and posted.change is None:
        routes.append("settle")
    if posted.change is None and posted.kind is not TransactionKind.CLOSING:
        routes.append("void")
    routes.append("amend-reference")
    return tuple(routes)


def picked(books: Books, route: str, transaction: str, items: tuple[str, ...] = ()) -> Point:
    """The point that a person makes by picking *transaction*, and what it settles, for a route.

    It is not kept: only what is posted by it is. Raises UnknownName.
    """
    if route not in ROUTES:
        raise UnknownName("route by hand", route)
    posted = books.transaction(transaction)
    for name in items:
        books.transaction(name)
    return CHECK.point(
        books,
        subjects=_subjects(books, route, transaction, items),
        amount=posted.total,
        certainty=1,
        summary=f"{transaction}, picked by hand.",
        short="picked by hand",
        because=(),
    )


def _subjects(
    books: Books, route: str, transaction: str, items: tuple[str, ...]
) -> Mapping[str, tuple[str, ...]]:
    if route == "void":
        return {"same": (transaction,)}
    if route == "amend-reference":
        return {"amended": (transaction,)}
    if route == "allocate":
        return {"money": (transaction,), "item": items}
    owed = sum(
        item.amount for name in items for item in open_items(books).by_transaction.get(name, ())
    )
    if owed > 0:
        return {"receipt": (transaction,), "invoice": items}
    return {"payment": (transaction,), "bill": items}
