"""Faults that touch each other, and sums that are short, split, netted or paid by somebody else."""

from collections.abc import Callable

from corkpost.core.kinds import TransactionKind as Kind
from corkpost.demo import plants
from corkpost.demo.untidy.scene import Scene, later


def twice_and_paid_direct(scene: Scene) -> None:
    """A bill keyed twice, and its payment coded to a cost."""
    supplier, on = scene.supplier(), scene.day()
    bill, gross = scene.bill(supplier, on)
    plants.twice(scene.keeper, scene.planted, bill, plants.exact, apart=1)
    money = scene.keeper.direct_payment(
        later(on, 20), gross, supplier.account, party=supplier.code, memo=supplier.name
    )
    scene.planted.add("bill-paid-direct", money, bill)


def less_a_credit_direct(scene: Scene) -> None:
    """Two bills less a credit note, paid in one sum that was coded to a cost."""
    supplier, on, keeper = scene.supplier(), scene.day(), scene.keeper
    one, first = scene.bill(supplier, on)
    two, second = scene.bill(supplier, later(on, 5))
    off = min(first, second) // 5
    credit = keeper.bill(
        supplier.code, later(on, 7), off, supplier.account, kind=Kind.PURCHASE_CREDIT,
        reference=f"CR{keeper.rng.randint(1000, 9999)}", taxed=supplier.taxed,
    )  # fmt: skip
    money = keeper.direct_payment(
        later(on, 24),
        first + second - off,
        supplier.account,
        party=supplier.code,
        memo=supplier.name,
    )
    scene.planted.add("bill-paid-direct", money, one, two, credit)


def exchanged(scene: Scene) -> None:
    """Two payments, each set against the bill of the other."""
    supplier, on, keeper = scene.supplier(), scene.day(), scene.keeper
    one, first = scene.bill(supplier, on)
    two, second = scene.bill(supplier, later(on, 6), first + 1_730)
    numbers = [keeper.transactions[name].reference or "" for name in (one, two)]
    paid = keeper.pay(supplier.code, later(on, 20), first, [two], memo=numbers[0])
    other = keeper.pay(supplier.code, later(on, 21), second, [one], memo=numbers[1])
    scene.planted.add("wrong-item", paid, other, one, two)


def in_two_halves_direct(scene: Scene) -> None:
    """A bill paid in two parts that both quote it, both coded to a cost."""
    supplier, on, keeper = scene.supplier(), scene.day(), scene.keeper
    bill, gross = scene.bill(supplier, on)
    number = keeper.transactions[bill].reference or ""
    half = gross // 2 + 311
    for place, part in enumerate((half, gross - half)):
        money = keeper.direct_payment(
            later(on, 15 + 12 * place), part, supplier.account, party=supplier.code,
            memo=f"{supplier.name} {number}",
        )  # fmt: skip
        scene.planted.add("bill-paid-direct", money, bill)


def on_account_by_somebody_else(scene: Scene) -> None:
    """A customer's invoice that a relative paid: on account, and never set."""
    customer, on = scene.customer(), scene.day()
    invoice, gross = scene.invoice(customer, on)
    name = scene.keeper.rng.choice(scene.hand.relatives)
    money = scene.keeper.receive(customer.code, later(on, 16), gross, [], memo=name)
    scene.planted.add("unallocated", money, invoice)


def received_less_a_credit(scene: Scene) -> None:
    """An invoice less a credit note, received in one sum that was coded to income."""
    customer, on, keeper = scene.customer(), scene.day(), scene.keeper
    invoice, gross = scene.invoice(customer, on)
    off = gross // 6
    credit = keeper.invoice(
        customer.code, later(on, 4), off, customer.account, kind=Kind.SALES_CREDIT,
        reference=scene.numbers.next(keeper.rng), taxed=customer.taxed,
    )  # fmt: skip
    money = keeper.direct_receipt(
        later(on, 26), gross - off, customer.account, party=customer.code, memo=customer.name
    )
    scene.planted.add("invoice-received-direct", money, invoice, credit)


def tax_on_private_money(scene: Scene) -> None:
    """What an owner took, with tax claimed on it."""
    keeper, gross = scene.keeper, 24_600
    money = keeper.direct_payment(
        scene.day(), gross, scene.owner_account, memo=f"{scene.owners[0]} monthly", taxed=True
    )
    scene.planted.add("tax-code-odd", money)


def paid_later_by_another(scene: Scene) -> None:
    """A bill whose payment was coded to a cost; that of the next bill of the sum was set against it."""
    supplier, on, keeper = scene.supplier(), scene.day(), scene.keeper
    one, gross = scene.bill(supplier, on)
    money = keeper.direct_payment(
        later(on, 14), gross, supplier.account, party=supplier.code, memo=supplier.name
    )
    two, _ = scene.bill(supplier, later(on, 75), gross)
    keeper.pay(supplier.code, later(on, 95), gross, [one], memo=supplier.name)
    scene.planted.add("bill-paid-direct", money, two)


KINDS: tuple[Callable[[Scene], None], ...] = (
    twice_and_paid_direct, less_a_credit_direct, exchanged, in_two_halves_direct,
    on_account_by_somebody_else, received_less_a_credit, tax_on_private_money, paid_later_by_another,
)  # fmt: skip
