"""What a person picks by hand, put right by the same routes as what a check finds (section 7)."""

from collections.abc import Mapping

from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import MONEY_ROLES, OWNER_ROLES, AccountRole, Entity, TransactionKind
from corkpost.core.open_items import OpenItem, open_items
from corkpost.core.points import Check, Family, Point
from corkpost.core.refusals import UnknownName

ROUTES = (
    "void",
    "settle",
    "allocate",
    "move-allocation",
    "to-owner",
    "write-off",
    "offset",
    "amend-reference",
)
CHECK = Check("by-hand", family=Family.BY_HAND, routes=ROUTES, finds="what a person picked")


def routes_for(books: Books, posted: Transaction) -> tuple[str, ...]:
    """The routes that a person may pick for it. What we posted is taken back by its change instead."""
    if books.is_answered(posted.id):
        return ("amend-reference",)
    routes = []
    items = open_items(books)
    own = items.by_transaction.get(posted.id, ())
    if any(items.open_now[item.key] and item.party for item in own):
        routes.append("allocate")
        if any(_is_debt(books, item) and items.open_now[item.key] > 0 for item in own):
            routes.append("write-off")
    if items.standing_on(posted.id):
        routes.append("move-allocation")
    money = any(books.accounts[line.account].role in MONEY_ROLES for line in posted.lines)
    if money and not own and posted.change is None:
        routes.append("settle")
    if money and posted.change is None and _has_owners(books):
        routes.append("to-owner")
    if posted.change is None and posted.kind is not TransactionKind.CLOSING:
        routes.append("void")
    routes.append("amend-reference")
    return tuple(routes)


def _is_debt(books: Books, item: OpenItem) -> bool:
    is_invoice = item.transaction.kind in (TransactionKind.SALES_INVOICE, TransactionKind.OPENING)
    return is_invoice and books.accounts[item.account].role is AccountRole.RECEIVABLES


def _has_owners(books: Books) -> bool:
    return bool(books.with_role(*OWNER_ROLES)) and books.client.entity is not Entity.ASSOCIATION


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


_ROLE_OF = {"amend-reference": "amended", "to-owner": "owner", "write-off": "invoice"}
"""What these routes call the transaction that they are about."""


def _subjects(
    books: Books, route: str, transaction: str, items: tuple[str, ...]
) -> Mapping[str, tuple[str, ...]]:
    if route == "void":
        return {"same": (transaction,)}
    if route in _ROLE_OF:
        return {_ROLE_OF[route]: (transaction,)}
    if route == "offset":
        return {"pair": (transaction, *items[:1])}
    if route in ("allocate", "move-allocation"):
        return {"money": (transaction,), "item": items}
    owed = sum(
        item.amount for name in items for item in open_items(books).by_transaction.get(name, ())
    )
    if owed > 0:
        return {"receipt": (transaction,), "invoice": items}
    return {"payment": (transaction,), "bill": items}
