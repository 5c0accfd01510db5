"""Faults that are planted on purpose, and look-alikes that are none. The tests know them."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from random import Random

from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import Minor
from corkpost.demo.bookkeeper import Bookkeeper
from corkpost.demo.habits import Customer, Numbers, Supplier, sum_between


@dataclass
class Planted:
    """What was planted: the check that should find it, and the transactions that it is about."""

    faults: list[tuple[str, frozenset[str]]] = field(default_factory=list)

    def add(self, check: str, *names: str) -> None:
        self.faults.append((check, frozenset(names)))


Distort = Callable[[Random, str], str | None]


def undashed(rng: Random, reference: str) -> str:
    return reference.replace("-", " ").replace("/", "")


def without_noughts(rng: Random, reference: str) -> str:
    head, digits = _tail(reference)
    return head.rstrip("-/ ") + " " + digits.lstrip("0")


def letters_for_digits(rng: Random, reference: str) -> str:
    return reference.replace("0", "O").replace("1", "I").lower()


def swapped(rng: Random, reference: str) -> str:
    """Two neighbouring digits exchanged; as it was where all of them are alike."""
    head, digits = _tail(reference)
    places = [i for i in range(len(digits) - 1) if digits[i] != digits[i + 1]]
    if not places or len(digits) < 4:
        return undashed(rng, reference)
    i = rng.choice(places)
    return head + digits[:i] + digits[i + 1] + digits[i] + digits[i + 2 :]


def exact(rng: Random, reference: str) -> str:
    return reference


def absent(rng: Random, reference: str) -> None:
    return None


DISTORTIONS: Sequence[Distort] = (
    exact,
    undashed,
    without_noughts,
    letters_for_digits,
    swapped,
    absent,
)


def _tail(reference: str) -> tuple[str, str]:
    digits = reference[len(reference.rstrip("0123456789")) :]
    return reference.removesuffix(digits), digits


def twice(
    books: Bookkeeper, planted: Planted, name: str, distort: Distort, apart: int | None = None
) -> str:
    """Record the document again, as somebody else would have keyed it."""
    rng = books.rng
    posted = books.transactions[name]
    days = rng.randint(0, 4) if apart is None else apart
    reference = distort(rng, posted.reference or "")
    on = posted.posting_date + timedelta(days=days)
    again = books.add(
        posted.kind,
        on,
        [(line.account, line.amount, line.party) for line in posted.lines],
        party=posted.party,
        reference=reference,
        memo=posted.memo,
        source=posted.source,
        document_date=on,
        due_days=30,
        keyed_after=rng.randint(5, 25),
    )
    planted.add("duplicate-document", name, again)
    return again


def paid_direct(
    books: Bookkeeper,
    planted: Planted,
    supplier: Supplier,
    on: date,
    *,
    bills: int = 1,
    memo: str | None = None,
    named: bool = True,
    taxed: bool = False,
    kept_back: int = 0,
    coded_to: str | None = None,
) -> str:
    """Bills that stay open beside a payment coded straight to a cost, *kept_back* per mille short."""
    rng = books.rng
    made, total = [], 0
    for _ in range(bills):
        gross = sum_between(rng, supplier.low, supplier.high)
        day = on - timedelta(days=rng.randint(8, 30))
        made.append(
            books.bill(
                supplier.code,
                day,
                gross,
                supplier.account,
                reference=supplier.numbers.next(rng),
                taxed=supplier.taxed,
            )
        )
        total += gross
    paid = total - total * kept_back // 1000
    money = books.direct_payment(
        on,
        paid,
        coded_to or supplier.account,
        party=supplier.code if named else None,
        memo=memo or f"{supplier.name} {on:%d%m}",
        taxed=taxed,
    )
    planted.add("bill-paid-direct", money, *made)
    return money


def part_paid_direct(
    books: Bookkeeper, planted: Planted, supplier: Supplier, on: date, coded_to: str
) -> str:
    """A part payment that quotes the bill, coded to a cost."""
    rng = books.rng
    gross = sum_between(rng, supplier.low, supplier.high)
    reference = supplier.numbers.next(rng)
    bill = books.bill(
        supplier.code,
        on - timedelta(days=20),
        gross,
        supplier.account,
        reference=reference,
        taxed=supplier.taxed,
    )
    money = books.direct_payment(
        on,
        gross * rng.randint(30, 70) // 100,
        coded_to,
        party=supplier.code,
        memo=f"{supplier.name} part of {reference}",
    )
    planted.add("bill-paid-direct", money, bill)
    return money


def received_direct(
    books: Bookkeeper,
    planted: Planted,
    customer: Customer,
    numbers: Numbers,
    on: date,
    *,
    invoices: int = 1,
    named: bool = True,
    coded_to: str | None = None,
) -> str:
    """Invoices that stay open beside the customer's money coded straight to income."""
    rng = books.rng
    made, total = [], 0
    for _ in range(invoices):
        gross = sum_between(rng, customer.low, customer.high)
        day = on - timedelta(days=rng.randint(10, 40))
        reference = numbers.next(rng)
        made.append(
            books.invoice(
                customer.code,
                day,
                gross,
                customer.account,
                reference=reference,
                taxed=customer.taxed,
            )
        )
        total += gross
    money = books.direct_receipt(
        on,
        total,
        coded_to or customer.account,
        party=customer.code if named else None,
        memo=f"{customer.name} transfer",
        taxed=customer.taxed,
    )
    planted.add("invoice-received-direct", money, *made)
    return money


def on_account(
    books: Bookkeeper,
    planted: Planted,
    customer: Customer,
    numbers: Numbers,
    on: date,
    *,
    invoices: int = 1,
    receipts: int = 1,
) -> str:
    """A receipt (or two) on account beside the open invoice(s) of the same sum."""
    rng = books.rng
    made, total = [], 0
    for _ in range(invoices):
        gross = sum_between(rng, customer.low, customer.high)
        day = on - timedelta(days=rng.randint(5, 40))
        made.append(
            books.invoice(
                customer.code,
                day,
                gross,
                customer.account,
                reference=numbers.next(rng),
                taxed=customer.taxed,
            )
        )
        total += gross
    parts = [total] if receipts == 1 else [total * 2 // 5, total - total * 2 // 5]
    money = [
        books.receive(customer.code, on + timedelta(days=9 * place), part, memo=customer.name)
        for place, part in enumerate(parts)
    ]
    planted.add("unallocated", *money, *made)
    return money[0]


def payment_on_account(
    books: Bookkeeper, planted: Planted, supplier: Supplier, on: date, *, bills: int = 1
) -> str:
    """A payment on account beside the open bill(s) of the same sum."""
    rng = books.rng
    made, total = [], 0
    for _ in range(bills):
        gross = sum_between(rng, supplier.low, supplier.high)
        day = on - timedelta(days=rng.randint(5, 30))
        made.append(
            books.bill(
                supplier.code,
                day,
                gross,
                supplier.account,
                reference=supplier.numbers.next(rng),
                taxed=supplier.taxed,
            )
        )
        total += gross
    money = books.pay(supplier.code, on, total, memo=supplier.name)
    planted.add("unallocated", money, *made)
    return money


# Look-alikes: nothing is planted, nothing should be found.


def same_price_same_day(books: Bookkeeper, supplier: Supplier, on: date, gross: Minor) -> None:
    """Two deliveries of one day, of one price, each with its own number; both paid."""
    names = [
        books.bill(
            supplier.code,
            on,
            gross,
            supplier.account,
            reference=supplier.numbers.next(books.rng),
            taxed=supplier.taxed,
        )
        for _ in range(2)
    ]
    for name in names:
        books.pay(supplier.code, on + timedelta(days=21), gross, [name])


def credited(books: Bookkeeper, supplier: Supplier, on: date, gross: Minor) -> None:
    """A bill that came twice, and the supplier's credit for the second."""
    reference = supplier.numbers.next(books.rng)
    first = books.bill(
        supplier.code, on, gross, supplier.account, reference=reference, taxed=supplier.taxed
    )
    again = books.bill(
        supplier.code,
        on + timedelta(days=3),
        gross,
        supplier.account,
        reference=reference,
        taxed=supplier.taxed,
    )
    credit = books.bill(
        supplier.code,
        on + timedelta(days=12),
        gross,
        supplier.account,
        reference=f"C{reference}",
        kind=Kind.PURCHASE_CREDIT,
        taxed=supplier.taxed,
    )
    books.allocate(supplier.code, credit, again, gross)
    books.pay(supplier.code, on + timedelta(days=25), gross, [first])


def voided(books: Bookkeeper, supplier: Supplier, on: date, gross: Minor) -> None:
    """A bill keyed twice that the bookkeeper took back."""
    reference = supplier.numbers.next(books.rng)
    first = books.bill(
        supplier.code, on, gross, supplier.account, reference=reference, taxed=supplier.taxed
    )
    again = books.bill(
        supplier.code,
        on + timedelta(days=1),
        gross,
        supplier.account,
        reference=reference,
        taxed=supplier.taxed,
    )
    mirror = books.add(
        Kind.JOURNAL,
        on + timedelta(days=1),
        [(x.account, -x.amount, x.party) for x in books.transactions[again].lines],
        party=supplier.code,
        memo="entered twice",
        source="journal",
        reverses=again,
    )
    books.allocate(supplier.code, mirror, again, gross)
    books.pay(supplier.code, on + timedelta(days=25), gross, [first])


def deposit(books: Bookkeeper, customer: Customer, on: date) -> None:
    """A recent receipt on account that matches nothing yet."""
    gross = sum_between(books.rng, customer.low, customer.high) + 7
    books.receive(customer.code, on, gross, memo=f"{customer.name} deposit")


def bought_at_the_counter(books: Bookkeeper, supplier: Supplier, on: date, account: str) -> None:
    """A payment to a supplier with open bills, for something else: no bill has that sum."""
    books.direct_payment(
        on,
        sum_between(books.rng, supplier.low // 4, supplier.low // 3),
        account,
        party=supplier.code,
        memo=f"{supplier.name} counter",
        taxed=True,
    )
