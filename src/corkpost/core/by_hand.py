"""What a person picks by hand, put right by the same routes as what a check finds (section 7)."""

import json
from collections.abc import Mapping

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import MONEY_ROLES, OWNER_ROLES, AccountRole, Entity, TransactionKind
from corkpost.core.open_items import OpenItem, open_items
from corkpost.core.points import Check, Family, Point
from corkpost.core.refusals import UnknownName
from corkpost.core.routes import refund, reverse_payment
from corkpost.core.routes.offset import both_sides

PAYMENTS = (TransactionKind.CUSTOMER_RECEIPT, TransactionKind.SUPPLIER_PAYMENT)
ROUTES = (
    "void",
    "settle",
    "allocate",
    "move-allocation",
    "to-owner",
    "write-off",
    "offset",
    "refund",
    "reverse-payment",
    "reclassify",
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
    if any(_other_side(books, item) for item in own if items.open_now[item.key]):
        routes.append("offset")
    if items.standing_on(posted.id) or (posted.kind in PAYMENTS and own):
        routes.append("move-allocation")
    if posted.kind in PAYMENTS and posted.change is None:
        if any(items.open_now[item.key] for item in own) and _comes_back(books, posted):
            routes.append("refund")
        if reverse_payment.options(books, _point(books, {"entry": (posted.id,)}, posted)):
            routes.append("reverse-payment")
    money = any(books.accounts[line.account].role in MONEY_ROLES for line in posted.lines)
    if money and not own and posted.change is None:
        routes.append("settle")
    if money and posted.change is None and _has_owners(books):
        routes.append("to-owner")
    if _coded(books, posted) is not None and posted.change is None:
        routes.append("reclassify")
    if posted.change is None and posted.kind is not TransactionKind.CLOSING:
        routes.append("void")
    routes.append("amend-reference")
    return tuple(routes)


def _is_debt(books: Books, item: OpenItem) -> bool:
    is_invoice = item.transaction.kind in (TransactionKind.SALES_INVOICE, TransactionKind.OPENING)
    return is_invoice and books.accounts[item.account].role is AccountRole.RECEIVABLES


def _other_side(books: Books, item: OpenItem) -> bool:
    """Whether its party stands on the other control account too, with the other sign."""
    return item.party is not None and both_sides(books, item.party) is not None


def _comes_back(books: Books, posted: Transaction) -> bool:
    """Whether a line of a statement that is not in the books brings just that sum back."""
    return bool(refund.options(books, _point(books, {"money": (posted.id,)}, posted)))


def _coded(books: Books, posted: Transaction) -> Line | None:
    """The one income or cost line of a transaction; None where there are none or several."""
    coded = [line for line in posted.lines if books.accounts[line.account].is_profit_and_loss]
    return coded[0] if len(coded) == 1 else None


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
    hints = {}
    line = _coded(books, posted)
    if route == "reclassify" and line is not None:
        rest = [None, line.tax_code, line.dimensions]
        hints = {
            "moves": json.dumps([["", line.amount, *rest], [line.account, -line.amount, *rest]]),
            "title": f"Move it from {books.accounts[line.account].name}",
            "reason": f"{posted.reference or posted.id} belongs on another account.",
        }
    return _point(books, _subjects(books, route, transaction, items), posted, hints)


def _point(
    books: Books,
    subjects: Mapping[str, tuple[str, ...]],
    posted: Transaction,
    hints: Mapping[str, str] | None = None,
) -> Point:
    about = {role: names for role, names in subjects.items() if role == "party"}
    return CHECK.point(
        books,
        subjects={role: names for role, names in subjects.items() if role != "party"},
        about=about,
        related=(posted.id,),
        amount=posted.total,
        certainty=1,
        summary=f"{posted.id}, picked by hand.",
        short="picked by hand",
        because=(),
        hints=hints,
    )


_ROLE_OF = {
    "amend-reference": "amended",
    "to-owner": "owner",
    "write-off": "invoice",
    "refund": "money",
    "reverse-payment": "entry",
    "reclassify": "moved",
}
"""What these routes call the transaction that they are about."""


def _subjects(
    books: Books, route: str, transaction: str, items: tuple[str, ...]
) -> Mapping[str, tuple[str, ...]]:
    if route == "void":
        return {"same": (transaction,)}
    if route in _ROLE_OF:
        return {_ROLE_OF[route]: (transaction,)}
    if route == "offset":
        if items:
            return {"pair": (transaction, *items[:1])}
        parties = {item.party for item in open_items(books).by_transaction.get(transaction, ())}
        return {"party": tuple(sorted(party for party in parties if party))[:1]}
    if route in ("allocate", "move-allocation"):
        return {"money": (transaction,), "item": items}
    owed = sum(
        item.amount for name in items for item in open_items(books).by_transaction.get(name, ())
    )
    if owed > 0:
        return {"receipt": (transaction,), "invoice": items}
    return {"payment": (transaction,), "bill": items}
