"""What a person picks by hand, put right by the same routes as what a check finds (section 7)."""

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from corkpost.core.asks import Ask, AskKind, Choice
from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import MONEY_ROLES, OWNER_ROLES, AccountRole, Entity, TransactionKind
from corkpost.core.open_items import OpenItem, open_items
from corkpost.core.points import Check, Family, Point
from corkpost.core.refusals import UnknownName
from corkpost.core.remedies import Moving, Side
from corkpost.core.routes import refund, reverse_payment
from corkpost.core.routes.offset import both_sides

PAYMENTS = (TransactionKind.CUSTOMER_RECEIPT, TransactionKind.SUPPLIER_PAYMENT)


class Way(NamedTuple):
    """A route as it is offered for what a person picks. *title* says it as a deed, *short* on a button.

    *beside_items*: it is offered beside an open item too. *when_said*: there is nothing to be seen of it
    before something is said.
    """

    route: str
    title: str
    short: str
    asks: tuple[Ask, ...] = ()
    beside_items: bool = False
    when_said: bool = False


_ITEMS = Ask("items", AskKind.ITEMS, "What it settles", needed=True)
_WAYS = (
    Way("allocate", "Allocate it to what it settles", "Allocate it",
        (Ask("items", AskKind.ITEMS_IN_PARTS, "What it settles", needed=True),)),
    Way("settle", "Settle open items with it", "Settle open items with it", (_ITEMS,)),
    Way("void", "Void it: post its exact opposite", "Void it"),
    Way("move-allocation", "Set it against something else", "Set it against something else",
        (_ITEMS,)),
    Way("to-owner", "Move it to the owner's account", "Move it to the owner's account",
        (Ask("share", AskKind.PERCENT, "Private share, in percent", "100"),
         Ask("account", AskKind.CHOICE, "To the account"))),
    Way("write-off", "Write it off: it will not be paid", "Write it off",
        (Ask("date", AskKind.DAY, "Decided on", needed=True),
         Ask("relief", AskKind.CHOICE, "Tax in it", "yes", (
             Choice("yes", "comes back: relief is allowed"), Choice("no", "stays a cost")))),
        beside_items=True),
    Way("offset", "Set off what they owe against what is owed to them", "Set it off",
        beside_items=True),
    Way("refund", "It came back: record the refund", "Record its refund", beside_items=True),
    Way("reverse-payment", "Reverse it: it was stopped or lost", "Reverse it",
        (Ask("date", AskKind.DAY, "Stopped, or come back, on", needed=True),), beside_items=True),
    Way("reclassify", "Move it to another account", "Move it to another account",
        (Ask("account", AskKind.ACCOUNT, "Where it belongs", needed=True),), beside_items=True),
    Way("amend-reference", "Amend its reference or text", "Amend reference or text",
        (Ask("reference", AskKind.TEXT, "Reference"), Ask("memo", AskKind.TEXT, "Text")),
        when_said=True),
)  # fmt: skip
_WAY_OF = {way.route: way for way in _WAYS}
ROUTES = tuple(_WAY_OF)


class Picked(NamedTuple):
    """What a person picked for a route: a transaction, and what it settles. For `allocate` an item may
    end in `=100.00`, a sum."""

    route: str
    transaction: str
    items: tuple[str, ...]
    settings: Mapping[str, str]

    @property
    def names(self) -> tuple[str, ...]:
        """The items, without their sums."""
        return tuple(item.rpartition("=")[0] or item for item in self.items)

    @property
    def route_settings(self) -> Mapping[str, str]:
        """The settings as the route takes them, the items among them."""
        if not self.items:
            return self.settings
        items = self.items if self.route == "allocate" else self.names
        return {**self.settings, "items": ",".join(items)}


CHECK = Check("by-hand", family=Family.BY_HAND, routes=ROUTES, finds="what a person picked")


def routes_for(books: Books, posted: Transaction) -> tuple[str, ...]:
    """The routes that a person may pick for it. What we posted is taken back by its change instead."""
    if books.is_answered(posted.id):
        return ("amend-reference",)
    return (*_settling(books, posted), *_booking(books, posted), "amend-reference")


def _settling(books: Books, posted: Transaction) -> Iterator[str]:
    """What can be done with its open items."""
    items = open_items(books)
    own = items.by_transaction.get(posted.id, ())
    open_ = [item for item in own if items.open_now[item.key]]
    if any(item.party for item in open_):
        yield "allocate"
        if any(_is_debt(books, item) and items.open_now[item.key] > 0 for item in own):
            yield "write-off"
    if any(_other_side(books, item) for item in open_):
        yield "offset"
    if items.standing_on(posted.id) or (posted.kind in PAYMENTS and own):
        yield "move-allocation"
    if posted.kind in PAYMENTS and posted.change is None:
        if open_ and _comes_back(books, posted):
            yield "refund"
        if reverse_payment.options(books, _point(books, {"entry": (posted.id,)}, posted)):
            yield "reverse-payment"


def _booking(books: Books, posted: Transaction) -> Iterator[str]:
    """What can be done with where it was booked, if it is the client's own."""
    if posted.change is not None:
        return
    if any(books.accounts[line.account].role in MONEY_ROLES for line in posted.lines):
        if not open_items(books).by_transaction.get(posted.id):
            yield "settle"
        if _has_owners(books):
            yield "to-owner"
    if _coded(books, posted) is not None:
        yield "reclassify"
    if posted.kind is not TransactionKind.CLOSING:
        yield "void"


def ways_for(books: Books, posted: Transaction) -> tuple[Way, ...]:
    """The routes that a person may pick for it, with what each asks."""
    return tuple(_way(books, posted, _WAY_OF[route]) for route in routes_for(books, posted))


def _way(books: Books, posted: Transaction, way: Way) -> Way:
    asks = []
    for ask in way.asks:
        if way.route == "amend-reference":
            asks.append(ask._replace(value=getattr(posted, ask.name) or ""))
        elif way.route == "to-owner" and ask.kind is AskKind.CHOICE:
            owners = books.with_role(*OWNER_ROLES)
            named = (Choice(account.code, f"{account.code} {account.name}") for account in owners)
            choices = (Choice("", "that the kind of client names"), *named)
            asks.append(ask._replace(choices=choices))
        else:
            asks.append(ask)
    return way._replace(asks=tuple(asks))


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
    moving = None
    line = _coded(books, posted)
    if route == "reclassify" and line is not None:
        rest = (None, line.tax_code, line.dimensions)
        moving = Moving(
            (Side("", line.amount, *rest), Side(line.account, -line.amount, *rest)),
            f"Move it from {books.accounts[line.account].name}",
            f"{posted.reference or posted.id} belongs on another account.",
        )
    return _point(books, _subjects(books, route, transaction, items), posted, moving)


def _point(
    books: Books,
    subjects: Mapping[str, tuple[str, ...]],
    posted: Transaction,
    moving: Moving | None = None,
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
        remedy=moving,
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
