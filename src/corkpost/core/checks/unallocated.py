"""unallocated: money on account beside open items that it matches, alone or in a set.

Finds also what no item matches once it is 60 days old. Of a party of whose money much stands so, all of it
is one point: its cause is one.
Keeps quiet: no match, and under 60 days old; what the client entered although we had.
"""

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from datetime import date
from typing import NamedTuple

from corkpost.core.evidence.references import quotes
from corkpost.core.evidence.sums import exact_sets
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItem
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "unallocated",
    family=Family.ON_ACCOUNT,
    routes=("allocate", "ask", "leave"),
    after=("entered-too",),
    follows=(
        "wrong-item",
        "wrong-party",
        "bill-paid-direct",
        "invoice-received-direct",
        "duplicate-payment",
        "duplicate-bank-entry",
    ),
    finds="money on account beside what it pays",
    avoid="When you enter a payment or receipt, say which documents it pays.",
)

MONEY = frozenset(
    {
        TransactionKind.CUSTOMER_RECEIPT,
        TransactionKind.SUPPLIER_PAYMENT,
        TransactionKind.SALES_CREDIT,
        TransactionKind.PURCHASE_CREDIT,
    }
)
PAPER = frozenset(
    {TransactionKind.SALES_INVOICE, TransactionKind.PURCHASE_BILL, TransactionKind.OPENING}
)
QUIET_DAYS = 60
MANY = 6
"""So many of one party have one cause: what it pays is not set against anything."""
ENOUGH = 0.85
EARLY_DAYS = 31
LATE_DAYS = 400


class Loose(NamedTuple):
    """What is left of an item, positive."""

    item: OpenItem
    left: Minor

    @property
    def day(self) -> date:
        return self.item.transaction.day

    @property
    def id(self) -> str:
        return self.item.transaction.id


class Offer(NamedTuple):
    money: tuple[Loose, ...]
    items: tuple[Loose, ...]
    certainty: float
    why: str
    against: str = ""


Chosen = tuple[Offer, ...]
Given = tuple[tuple[Loose, ...], tuple[Loose, ...], date, object]
"""Money, what it may pay, the day, and the ground of the run."""


def find(run: CheckRun) -> Iterator[Point]:
    for role, sign in ((AccountRole.RECEIVABLES, 1), (AccountRole.PAYABLES, -1)):
        sides = (
            (party, (tuple(money), tuple(items), run.today, run.ground))
            for party, (money, items) in _loose(run, role, sign).items()
            if money
        )

        def chosen(_: str, given: Given) -> Chosen:
            return tuple(_chosen(run, *given[:2]))

        for offers in run.books.kept.each(f"unallocated {role}", sides, chosen):
            matched = [offer for offer in offers if offer.items and offer.certainty >= ENOUGH]
            if len(matched) >= MANY:
                yield _point(run, _together(matched))
            else:
                matched = []
            for offer in offers:
                if offer not in matched:
                    yield _point(run, offer)


def _chosen(run: CheckRun, money: Sequence[Loose], items: Sequence[Loose]) -> Iterator[Offer]:
    """The best offers, each item used once."""
    money, items = (
        sorted(side, key=lambda loose: (loose.day, loose.id)) for side in (money, items)
    )
    used: set[str] = set()
    for offer in _offers(run, money, items):
        ids = {loose.id for loose in (*offer.money, *offer.items)}
        if not ids & used:
            used |= ids
            yield offer


def _together(offers: Sequence[Offer]) -> Offer:
    """All of a party as one, money and what it pays in the same order."""
    offers = sorted(offers, key=lambda offer: (offer.money[0].day, offer.money[0].id))
    return Offer(
        tuple(loose for offer in offers for loose in offer.money),
        tuple(loose for offer in offers for loose in offer.items),
        min(offer.certainty for offer in offers),
        f"{len(offers)} times the very sum: nothing of it is set against what it pays",
    )


def _loose(
    run: CheckRun, role: AccountRole, sign: int
) -> Mapping[str, tuple[list[Loose], list[Loose]]]:
    """By party: money on account, and what it may pay, each in the order of the books."""
    accounts = {account.code for account in run.books.with_role(role)}
    sides: dict[str, tuple[list[Loose], list[Loose]]] = defaultdict(lambda: ([], []))
    told = {name for point in run.found_before(CHECK) for name in point.named("theirs")}
    for item, left in run.items.open_on(accounts):
        owed = left * sign > 0
        if item.transaction.id in told:
            continue
        if item.party is not None and item.transaction.kind in (PAPER if owed else MONEY):
            sides[item.party][owed].append(Loose(item, abs(left)))
    return sides


def _offers(run: CheckRun, money: Sequence[Loose], items: Sequence[Loose]) -> list[Offer]:
    offers = [offer for payment in money for offer in _exact(payment, items)]
    matched = {offer.money[0].id for offer in offers}
    rest = [payment for payment in money if payment.id not in matched]
    offers += [offer for payment in rest for offer in _of_several_items(payment, items)]
    matched |= {offer.money[0].id for offer in offers}
    rest = [payment for payment in rest if payment.id not in matched]
    offers += [offer for item in items for offer in _of_several_payments(rest, item)]
    offers.sort(key=lambda offer: (-offer.certainty, offer.items[0].day, offer.money[0].id))
    matched |= {loose.id for offer in offers for loose in offer.money}
    old = (payment for payment in rest if payment.id not in matched and _is_old(run, payment))
    return offers + [_unmatched(payment, items) for payment in old]


def _exact(payment: Loose, items: Sequence[Loose]) -> Iterator[Offer]:
    same = [item for item in items if item.left == payment.left]
    for item in same:
        if quotes(_text(payment), item.item.transaction.reference):
            yield Offer((payment,), (item,), 0.99, "the same sum, and it quotes the number")
        elif not _in_time(payment, item):
            yield Offer((payment,), (item,), 0.7, "the same sum", "they lie far apart in time")
        elif len(same) == 1:
            yield Offer((payment,), (item,), 0.97, "the same sum, and no other open item has it")
        else:
            yield Offer(
                (payment,),
                (item,),
                0.88,
                "the same sum, the oldest of several",
                "others have it too",
            )


def _in_time(payment: Loose, item: Loose) -> bool:
    return -EARLY_DAYS <= (payment.day - item.day).days <= LATE_DAYS


def _text(payment: Loose) -> str:
    return f"{payment.item.transaction.memo or ''} {payment.item.transaction.reference or ''}"


def _of_several_items(payment: Loose, items: Sequence[Loose]) -> Iterator[Offer]:
    near = [item for item in items if _in_time(payment, item)]
    sets = exact_sets([item.left for item in near], payment.left)
    for places in sets.sets[:1]:
        chosen = tuple(near[place] for place in places)
        certainty = 0.95 if len(sets.sets) == 1 and len(places) <= 4 else 0.75
        yield Offer((payment,), chosen, certainty, f"exactly the sum of {len(chosen)} open items")


def _of_several_payments(money: Sequence[Loose], item: Loose) -> Iterator[Offer]:
    near = [loose for loose in money if _in_time(loose, item)]
    sets = exact_sets([loose.left for loose in near], item.left)
    for places in sets.sets[:1]:
        chosen = tuple(near[place] for place in places)
        certainty = 0.93 if len(sets.sets) == 1 else 0.75
        yield Offer(chosen, (item,), certainty, f"{len(chosen)} of them come to exactly one item")


def _is_old(run: CheckRun, payment: Loose) -> bool:
    return (run.today - payment.day).days > QUIET_DAYS


def _unmatched(payment: Loose, items: Sequence[Loose]) -> Offer:
    why = "over 60 days on account, and no open item or set of them has this sum"
    return Offer((payment,), tuple(items[:0]), 0.6, why)


def _point(run: CheckRun, offer: Offer) -> Point:
    books = run.books
    first = offer.money[0].item
    name = books.party_name(first.party)
    receipt = first.transaction.kind is TransactionKind.CUSTOMER_RECEIPT
    what = "receipt" if receipt else "payment"
    if first.transaction.kind in (TransactionKind.SALES_CREDIT, TransactionKind.PURCHASE_CREDIT):
        what = "credit"
    direction = "to" if what == "payment" else "from"
    if not offer.items:
        beside = "and nothing open has its sum"
    else:
        beside = "beside what it pays" if len(offer.items) == 1 else "beside the items it pays"
    many = f"{len(offer.money)} {what}s" if len(offer.money) > 1 else f"A {what}"
    verb = "stand" if len(offer.money) > 1 else "stands"
    day = first.transaction.posting_date
    return CHECK.point(
        books,
        subjects={
            "money": tuple(loose.id for loose in offer.money),
            "item": tuple(item.id for item in offer.items),
        },
        amount=sum(loose.left for loose in offer.money),
        certainty=offer.certainty,
        summary=f"{many} {direction} {name} {verb} on account, {beside}.",
        short=f"{what} {day:%-d %b}, on account",
        because=(offer.why,),
        against=(offer.against,) if offer.against else (),
    )
