"""Faults about parties and owners that are planted on purpose, and look-alikes that are none."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from corkpost.core.kinds import Entity
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.demo.bookkeeper import Bookkeeper
from corkpost.demo.habits import Customer, Numbers, sum_between
from corkpost.demo.plants import Planted

Side = tuple[str, int] | tuple[str, int, str | None]


def wrong_party(
    books: Bookkeeper,
    planted: Planted,
    payer: Customer,
    wrong: Customer,
    numbers: Numbers,
    on: date,
    *,
    named: bool,
) -> None:
    """The payer's money set against an invoice of another customer of the same sum, or nearly."""
    rng = books.rng
    gross = sum_between(rng, payer.low, payer.high)
    theirs = books.invoice(
        payer.code, on - timedelta(days=rng.randint(8, 30)), gross, payer.account,
        reference=numbers.next(rng), taxed=payer.taxed)  # fmt: skip
    other = books.invoice(
        wrong.code, on - timedelta(days=rng.randint(8, 30)), gross + rng.choice((0, 0, 130)),
        wrong.account, reference=numbers.next(rng), taxed=wrong.taxed)  # fmt: skip
    reference = books.transactions[theirs].reference or ""
    memo = payer.name if named else rng.choice(books.style.wording.number_alone).format(reference)
    money = books.receive(wrong.code, on, gross, [other], memo=memo)
    planted.add("wrong-party", money, theirs)


def wrong_item(
    books: Bookkeeper,
    planted: Planted,
    customer: Customer,
    numbers: Numbers,
    on: date,
    *,
    quoted: bool,
) -> None:
    """Money that quotes one invoice (or has its very sum), set against another."""
    rng = books.rng
    gross = sum_between(rng, customer.low, customer.high)
    early = books.invoice(
        customer.code, on - timedelta(days=40), gross + 1_870, customer.account,
        reference=numbers.next(rng), taxed=customer.taxed)  # fmt: skip
    late = books.invoice(
        customer.code, on - timedelta(days=15), gross, customer.account,
        reference=numbers.next(rng), taxed=customer.taxed)  # fmt: skip
    memo = (
        rng.choice(books.style.wording.number_alone).format(books.transactions[late].reference)
        if quoted
        else customer.name
    )
    money = books.receive(customer.code, on, gross, [early], memo=memo)
    planted.add("wrong-item", money, late)


def journal_pair(
    books: Bookkeeper, planted: Planted, customer: Customer, on: date, *, linked: bool
) -> None:
    """A journal on a customer and its reversal, never set against each other."""
    rng = books.rng
    amount = sum_between(rng, 4_000, 40_000)
    control, sales = books.chart.receivables, customer.account
    lines: list[Side] = [(control, amount, customer.code), (sales, -amount)]
    one = books.add(
        Kind.JOURNAL, on, lines, party=customer.code, memo="to be invoiced", source="journal"
    )
    back: list[Side] = [(control, -amount, customer.code), (sales, amount)]
    other = books.add(
        Kind.JOURNAL, on + timedelta(days=rng.randint(1, 40)), back, party=customer.code,
        memo="reversal", source="journal", reverses=one if linked else None,
    )  # fmt: skip
    planted.add("journal-pair-open", one, other)


def doubtful(
    books: Bookkeeper, planted: Planted, customer: Customer, numbers: Numbers, today: date
) -> None:
    """An invoice that nobody pays and nobody chases."""
    rng = books.rng
    on = today - timedelta(days=rng.randint(240, 420))
    gross = sum_between(rng, customer.low, customer.high) + 3
    invoice = books.invoice(
        customer.code,
        on,
        gross,
        customer.account,
        reference=numbers.next(rng),
        taxed=customer.taxed,
    )
    planted.add("doubtful-debt", invoice)


@dataclass(frozen=True)
class Household:
    """What the owner's own money is like. *private*: what was bought, in the books' language."""

    names: tuple[str, ...]
    account: str
    wrong_account: str | None
    private: Sequence[str]


def ordinary_owner(books: Bookkeeper, house: Household, first: date, last: date) -> None:
    """What the owner takes by the month and buys now and then, booked where it belongs."""
    rng = books.rng
    day = first + timedelta(days=27)
    while day <= last:
        books.direct_payment(day, 150_000, house.account, memo=f"{house.names[0]} monthly")
        day += timedelta(days=rng.choice((30, 31)))
    for text in house.private:
        for _ in range(rng.randint(1, 3)):
            on = first + timedelta(days=rng.randint(5, (last - first).days - 5))
            amount = sum_between(rng, 1_500, 30_000)
            books.direct_payment(
                on, amount, house.account, memo=f"{books.style.wording.private} {text}"
            )


def owner_spending(
    books: Bookkeeper, planted: Planted, house: Household, on: date, cost: str, way: str
) -> None:
    """The same kinds of purchase, or the owner by name, or cash, coded to a cost."""
    rng = books.rng
    memo = {
        "learned": f"{books.style.wording.private} {rng.choice(house.private)}",
        "named": f"TRANSFER {rng.choice(house.names).upper()}",
        "cash": rng.choice(books.style.wording.cash),
    }[way]
    name = books.direct_payment(
        on, sum_between(rng, 2_000, 30_000), cost, memo=memo, taxed=rng.random() < 0.5
    )
    planted.add("owner-spending", name)


def owner_money_in(
    books: Bookkeeper, planted: Planted, house: Household, on: date, income: str
) -> None:
    rng = books.rng
    amount = rng.randint(5, 60) * 10_000
    word = rng.choice(("CREDIT", "EINZAHLUNG", "VIREMENT", "TRANSFER"))
    memo = f"{word} {rng.choice(house.names).upper()}"
    planted.add("owner-money-in", books.direct_receipt(on, amount, income, memo=memo))


def owner_account_kind(books: Bookkeeper, planted: Planted, house: Household, on: date) -> None:
    if house.wrong_account:
        name = books.direct_payment(
            on, sum_between(books.rng, 5_000, 60_000), house.wrong_account, memo="CARD private"
        )
        planted.add("owner-account-kind", name)


# Look-alikes: nothing is planted, nothing should be found.


def pays_for_another(
    books: Bookkeeper, payer: Customer, other: Customer, numbers: Numbers, on: date
) -> None:
    """One who pays a friend's invoices every time."""
    rng = books.rng
    for place in range(5):
        day = on + timedelta(days=35 * place)
        gross = sum_between(rng, other.low, other.high)
        invoice = books.invoice(
            other.code, day, gross, other.account, reference=numbers.next(rng), taxed=other.taxed
        )
        books.receive(other.code, day + timedelta(days=12), gross, [invoice], memo=payer.name)


def oldest_first(books: Bookkeeper, customer: Customer, numbers: Numbers, on: date) -> None:
    """One who pays round sums, set against the oldest; one of them is another invoice's sum."""
    rng = books.rng
    first = books.invoice(
        customer.code,
        on,
        90_000,
        customer.account,
        reference=numbers.next(rng),
        taxed=customer.taxed,
    )
    second = books.invoice(
        customer.code,
        on + timedelta(days=6),
        30_000,
        customer.account,
        reference=numbers.next(rng),
        taxed=customer.taxed,
    )
    for place in range(3):
        day = on + timedelta(days=20 + 15 * place)
        books.receive(customer.code, day, 30_000, [], memo=customer.name)
        money = f"#{len(books.transactions)}"
        books.allocate(customer.code, first, money, 30_000)
    books.receive(customer.code, on + timedelta(days=70), 30_000, [second], memo=customer.name)


def payment_plan(books: Bookkeeper, customer: Customer, numbers: Numbers, today: date) -> None:
    """An old invoice that is paid off a little every month."""
    rng = books.rng
    on = today - timedelta(days=400)
    gross = 120_000 + rng.randint(1, 900)
    invoice = books.invoice(
        customer.code,
        on,
        gross,
        customer.account,
        reference=numbers.next(rng),
        taxed=customer.taxed,
    )
    reference = books.transactions[invoice].reference
    for place in range(8):
        day = today - timedelta(days=20 + 30 * place)
        money = books.receive(customer.code, day, 5_000, [], memo=f"instalment {reference}")
        books.allocate(customer.code, invoice, money, 5_000)


def regular_counter(books: Bookkeeper, on: date, cost: str) -> None:
    """A shop that the business buys at often, by card."""
    rng = books.rng
    for place in range(9):
        books.direct_payment(
            on + timedelta(days=23 * place), sum_between(rng, 900, 6_000), cost,
            memo="CARD BAKERY CORNER", taxed=True,
        )  # fmt: skip


def wrong_account_of(entity: Entity) -> str:
    """The role of an owner's account that such an entity does not have."""
    return "owner-loan" if entity is not Entity.COMPANY else "drawings"
