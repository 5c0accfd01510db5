"""What happens in every small business and looks like a fault: nothing is to be said of any of it."""

from collections.abc import Callable

from corkpost.core.kinds import TransactionKind as Kind
from corkpost.demo.habits import sum_between
from corkpost.demo.untidy.scene import Scene, later


def two_coffees(scene: Scene) -> None:
    """The same small sum twice on a day, at the same counter."""
    on, cost = scene.day(), scene.accounts("office")
    for _ in range(2):
        scene.keeper.direct_payment(on, 340, cost, memo="STATION KIOSK")


def yearly_under_one_number(scene: Scene) -> None:
    """A membership, each year the same sum under the same number."""
    supplier = scene.supplier()
    on, gross = later(scene.first, 30), sum_between(scene.keeper.rng, 9_000, 24_000)
    for year in (0, 365):
        bill = scene.keeper.bill(
            supplier.code, later(on, year), gross, scene.accounts("office"), reference="M-20417",
            taxed=supplier.taxed,
        )  # fmt: skip
        scene.keeper.pay(supplier.code, later(on, year + 12), gross, [bill], memo="M-20417")


def weekly_delivery(scene: Scene) -> None:
    """Four deliveries of one price, each with its number."""
    supplier, on = scene.supplier(), scene.day()
    gross = sum_between(scene.keeper.rng, supplier.low, supplier.high)
    for week in range(4):
        bill, _ = scene.bill(supplier, later(on, 7 * week), gross)
        scene.keeper.pay(supplier.code, later(on, 7 * week + 20), gross, [bill])


def short_by_charges(scene: Scene) -> None:
    """A receipt that came short by what a bank abroad kept, which is in the entry."""
    customer, on = scene.customer(), scene.day()
    invoice, gross = scene.invoice(customer, on)
    kept, keeper = 1_250, scene.keeper
    money = keeper.add(
        Kind.CUSTOMER_RECEIPT,
        later(on, 21),
        [
            (keeper.chart.bank, gross - kept),
            (scene.accounts("office"), kept),
            (keeper.chart.receivables, -gross, customer.code),
        ],
        party=customer.code, memo=f"{customer.name} less charges", source="bank",
    )  # fmt: skip
    keeper.allocate(customer.code, invoice, money, gross)


def less_a_discount(scene: Scene) -> None:
    """A payment less two per cent that the terms allow, which is in the entry."""
    supplier, on = scene.supplier(), scene.day()
    bill, gross = scene.bill(supplier, on)
    off, keeper = gross // 50, scene.keeper
    money = keeper.add(
        Kind.SUPPLIER_PAYMENT,
        later(on, 9),
        [
            (keeper.chart.payables, gross, supplier.code),
            (keeper.chart.bank, off - gross),
            (supplier.account, -off),
        ],
        party=supplier.code, memo=f"{supplier.name} less 2%", source="bank",
    )  # fmt: skip
    keeper.allocate(supplier.code, money, bill, gross)


def two_bills_less_a_credit(scene: Scene) -> None:
    """One payment of two bills and a credit, set against all three."""
    supplier, on, keeper = scene.supplier(), scene.day(), scene.keeper
    one, first = scene.bill(supplier, on)
    two, second = scene.bill(supplier, later(on, 4))
    off = min(first, second) // 4
    credit = keeper.bill(
        supplier.code, later(on, 9), off, supplier.account, kind=Kind.PURCHASE_CREDIT,
        reference=f"CR{keeper.rng.randint(1000, 9999)}", taxed=supplier.taxed,
    )  # fmt: skip
    money = keeper.pay(
        supplier.code, later(on, 25), first + second - off, [one], memo=supplier.name
    )
    keeper.allocate(supplier.code, credit, two, off)
    keeper.allocate(supplier.code, money, two, second - off)


def paid_by_somebody_else(scene: Scene) -> None:
    """A customer's invoice that a relative paid, set where it belongs."""
    customer, on = scene.customer(), scene.day()
    invoice, gross = scene.invoice(customer, on)
    name = scene.keeper.rng.choice(scene.hand.relatives)
    scene.keeper.receive(customer.code, later(on, 18), gross, [invoice], memo=name)


def in_three_parts(scene: Scene) -> None:
    """An invoice paid in three parts of one sum."""
    customer, on = scene.customer(), scene.day()
    invoice, gross = scene.invoice(customer, on, 3 * sum_between(scene.keeper.rng, 4_000, 20_000))
    for month in range(3):
        day = later(on, 20 + 30 * month)
        scene.keeper.receive(
            customer.code, day, gross // 3, [invoice], memo=f"{customer.name} part"
        )


def overpaid_and_sent_back(scene: Scene) -> None:
    """A supplier paid too much who sent the rest back, set against each other."""
    supplier, on, keeper = scene.supplier(), scene.day(), scene.keeper
    bill, gross = scene.bill(supplier, on)
    money = keeper.pay(supplier.code, later(on, 15), gross + 5_000, [bill], memo=supplier.name)
    back = keeper.add(
        Kind.SUPPLIER_REFUND,
        later(on, 40),
        [(keeper.chart.bank, 5_000), (keeper.chart.payables, -5_000, supplier.code)],
        party=supplier.code, memo=f"{supplier.name} refund", source="bank",
    )  # fmt: skip
    keeper.allocate(supplier.code, money, back, 5_000)


def wrong_bill_made_anew(scene: Scene) -> None:
    """A bill that the supplier took back by a credit and made once more under a new number."""
    supplier, on, keeper = scene.supplier(), scene.day(), scene.keeper
    bill, gross = scene.bill(supplier, on)
    credit = keeper.bill(
        supplier.code, later(on, 6), gross, supplier.account, kind=Kind.PURCHASE_CREDIT,
        reference=f"CN{keeper.rng.randint(1000, 9999)}", taxed=supplier.taxed,
    )  # fmt: skip
    again, _ = scene.bill(supplier, later(on, 6), gross)
    keeper.allocate(supplier.code, credit, bill, gross)
    keeper.pay(supplier.code, later(on, 30), gross, [again], memo=supplier.name)


def on_account_then_used(scene: Scene) -> None:
    """A customer who paid before the invoice, which took it up."""
    customer, on = scene.customer(), scene.day()
    gross = sum_between(scene.keeper.rng, customer.low, customer.high)
    money = scene.keeper.receive(customer.code, on, gross, [], memo=f"{customer.name} in advance")
    invoice, _ = scene.invoice(customer, later(on, 12), gross)
    scene.keeper.allocate(customer.code, invoice, money, gross)


def dearer_than_the_limit(scene: Scene) -> None:
    """Services over the limit of an asset that last no longer than their year."""
    texts = (
        "SOLICITORS FEE LEASE",
        "INSURANCE PREMIUM 2026",
        "AUDIT AND TAX RETURN",
        "STAFF TRAINING WEEK",
    )
    memo = scene.keeper.rng.choice(texts)
    gross = sum_between(scene.keeper.rng, 60_000, 190_000)
    scene.keeper.direct_payment(scene.day(), gross, scene.accounts("office"), memo=memo)


def dearer_from_march(scene: Scene) -> None:
    """A monthly fee whose price was put up."""
    for month in range(10):
        gross = 4_990 if month < 5 else 5_490
        day = later(scene.first, 45 + 30 * month + month // 2)
        scene.keeper.direct_payment(day, gross, scene.accounts("software"), memo="HOSTING PLAN")


def bounced_and_paid_again(scene: Scene) -> None:
    """A receipt that the bank took back, and that came once more."""
    customer, on, keeper = scene.customer(), scene.day(), scene.keeper
    invoice, gross = scene.invoice(customer, on)
    first = keeper.receive(customer.code, later(on, 14), gross, [], memo=customer.name)
    back = keeper.add(
        Kind.CUSTOMER_REFUND,
        later(on, 17),
        [(keeper.chart.receivables, gross, customer.code), (keeper.chart.bank, -gross)],
        party=customer.code, memo=f"{customer.name} returned unpaid", source="bank",
    )  # fmt: skip
    keeper.allocate(customer.code, back, first, gross)
    keeper.receive(customer.code, later(on, 29), gross, [invoice], memo=customer.name)


def two_invoices_one_receipt(scene: Scene) -> None:
    """One receipt for two invoices, set against both."""
    customer, on = scene.customer(), scene.day()
    one, first = scene.invoice(customer, on)
    two, second = scene.invoice(customer, later(on, 11))
    scene.keeper.receive(
        customer.code, later(on, 30), first + second, [one, two], memo=customer.name
    )


def expenses_of_an_employee(scene: Scene) -> None:
    """What an employee spent for the business and was given back."""
    memo = scene.keeper.rng.choice(scene.hand.expenses)
    gross = sum_between(scene.keeper.rng, 1_900, 14_000)
    scene.keeper.direct_payment(scene.day(), gross, scene.accounts("office"), memo=memo)


def small_sum_left_open(scene: Scene) -> None:
    """A bill of the last weeks that is not due yet."""
    scene.bill(scene.supplier(), later(scene.last, -scene.keeper.rng.randint(2, 20)))


def tax_refund(scene: Scene) -> None:
    """Rates that a town paid back, against the cost."""
    scene.keeper.direct_receipt(
        scene.day(), 18_400, scene.accounts("other-income"), memo="TOWN COUNCIL RATES REFUND"
    )


KINDS: tuple[Callable[[Scene], None], ...] = (
    two_coffees, yearly_under_one_number, weekly_delivery, short_by_charges, less_a_discount,
    two_bills_less_a_credit, paid_by_somebody_else, in_three_parts, overpaid_and_sent_back,
    wrong_bill_made_anew, on_account_then_used, dearer_than_the_limit, dearer_from_march,
    bounced_and_paid_again, two_invoices_one_receipt, expenses_of_an_employee, small_sum_left_open,
    tax_refund,
)  # fmt: skip
