"""More of what looks like a fault and is none: owners, wages, periods, series, own accounts."""

from collections.abc import Callable
from datetime import date

from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.periods import month_end
from corkpost.demo.habits import sum_between
from corkpost.demo.untidy.scene import Scene, later


def owner_paid_for_the_business(scene: Scene) -> None:
    """A cost that an owner paid, booked against the owner's account."""
    keeper, cost = scene.keeper, scene.accounts("office")
    gross = sum_between(keeper.rng, 2_000, 12_000)
    keeper.add(
        Kind.JOURNAL, scene.day(), [(cost, gross), (scene.owner_account, -gross)],
        memo=f"paid by {scene.owners[0]}", source="journal",
    )  # fmt: skip


def employee_of_the_owner_s_name(scene: Scene) -> None:
    """Travel money of somebody of the owner's family, who works there."""
    last_name = scene.owners[0].split()[-1]
    first = scene.keeper.rng.choice(("Xenia", "Zacharias", "Yvonne"))
    scene.keeper.direct_payment(
        scene.day(), 4_280, scene.accounts("office"), memo=f"MILEAGE {first} {last_name}"
    )


def two_of_one_subscription(scene: Scene) -> None:
    """Two licences at one price on one day of each month."""
    for month in range(8):
        day = later(scene.first, 61 + 30 * month + month // 2)
        for _ in range(2):
            scene.keeper.direct_payment(day, 1_890, scene.accounts("software"), memo="SEAT LICENCE")


def by_the_quarter(scene: Scene) -> None:
    """A bill that comes each quarter."""
    supplier = scene.supplier()
    for quarter in range(6):
        on = later(scene.first, 50 + 91 * quarter)
        bill, gross = scene.bill(supplier, on)
        scene.keeper.pay(supplier.code, later(on, 20), gross, [bill], memo=supplier.name)


def only_in_summer(scene: Scene) -> None:
    """Hands for the season, each summer's months."""
    for year in (2025, 2026):
        for month in (6, 7, 8):
            on = date(year, month, 24)
            if on <= scene.last:
                scene.keeper.direct_payment(
                    on, 64_000, scene.accounts("advertising"), memo="SUMMER STAND MARKET"
                )


def accrual_and_a_dearer_bill(scene: Scene) -> None:
    """An estimate at a month's end, taken back, and the bill that came dearer."""
    keeper, supplier = scene.keeper, scene.supplier()
    on = scene.day()
    end = month_end(on.year, on.month, 31)
    guess = sum_between(keeper.rng, 20_000, 40_000)
    sides = [(supplier.account, guess), (scene.accounts("accruals"), -guess)]
    memo = f"{supplier.name} not billed yet"
    keeper.add(Kind.JOURNAL, end, sides, memo=memo, source="journal")
    back = [(account, -amount) for account, amount in sides]
    keeper.add(Kind.JOURNAL, later(end, 1), back, memo=memo, source="journal")
    bill, gross = scene.bill(supplier, later(end, 9), guess + 3_170)
    keeper.pay(supplier.code, later(end, 30), gross, [bill])


def provision_for_years(scene: Scene) -> None:
    """What a lease will cost when it ends."""
    amount = sum_between(scene.keeper.rng, 200_000, 500_000)
    scene.keeper.add(
        Kind.JOURNAL, date(2025, 12, 31),
        [(scene.accounts("rent"), amount), (scene.accounts("accruals"), -amount)],
        memo=scene.keeper.rng.choice(scene.hand.provisions), source="journal",
    )  # fmt: skip


def boiler_every_year(scene: Scene) -> None:
    """A dear service of each half year, by one firm."""
    supplier = scene.supplier()
    gross = sum_between(scene.keeper.rng, 62_000, 90_000)
    for half in range(3):
        on = later(scene.first, 70 + 182 * half)
        bill = scene.keeper.bill(
            supplier.code, on, gross, scene.accounts("repairs"),
            reference=supplier.numbers.next(scene.keeper.rng), taxed=supplier.taxed,
        )  # fmt: skip
        scene.keeper.pay(supplier.code, later(on, 25), gross, [bill], memo=supplier.name)


def debt_written_off(scene: Scene) -> None:
    """An old invoice that was given up, as it should be."""
    customer, keeper = scene.customer(), scene.keeper
    on = later(scene.first, 60)
    invoice, gross = scene.invoice(customer, on)
    off = keeper.add(
        Kind.JOURNAL, later(on, 300),
        [(scene.accounts("bad-debt"), gross), (keeper.chart.receivables, -gross, customer.code)],
        party=customer.code, memo=f"{customer.name} written off", source="journal",
    )  # fmt: skip
    keeper.allocate(customer.code, invoice, off, gross)


def cheque_lost_and_made_anew(scene: Scene) -> None:
    """A payment that was stopped, taken back, and made once more."""
    supplier, on, keeper = scene.supplier(), scene.day(), scene.keeper
    bill, gross = scene.bill(supplier, on)
    lost = keeper.pay(supplier.code, later(on, 14), gross, [], memo=f"{supplier.name} cheque 1187")
    back = keeper.add(
        Kind.SUPPLIER_REFUND, later(on, 40),
        [(keeper.chart.bank, gross), (keeper.chart.payables, -gross, supplier.code)],
        party=supplier.code, memo="cheque 1187 stopped", source="bank",
    )  # fmt: skip
    keeper.allocate(supplier.code, lost, back, gross)
    keeper.pay(supplier.code, later(on, 41), gross, [bill], memo=f"{supplier.name} cheque 1201")


def tax_on_account(scene: Scene) -> None:
    """Equal sums to the tax office, on the account of the tax."""
    for quarter in range(4):
        on = later(scene.first, 100 + 91 * quarter)
        memo = scene.keeper.rng.choice(scene.hand.authorities)
        scene.keeper.direct_payment(on, 210_000, scene.keeper.chart.tax, memo=memo)


def cash_for_the_box(scene: Scene) -> None:
    """Cash from the machine for the box, booked as what it is."""
    gross = 20_000
    scene.keeper.add(
        Kind.TRANSFER, scene.last,
        [(scene.accounts("cash"), gross), (scene.keeper.chart.bank, -gross)],
        memo="ATM WITHDRAWAL", source="bank",
    )  # fmt: skip


def overpaid_and_used(scene: Scene) -> None:
    """A customer who paid a little too much, which the next invoice took up."""
    customer, on, keeper = scene.customer(), scene.day(), scene.keeper
    one, first = scene.invoice(customer, on)
    money = keeper.receive(customer.code, later(on, 20), first + 2_000, [one], memo=customer.name)
    two, second = scene.invoice(customer, later(on, 40))
    keeper.allocate(customer.code, two, money, 2_000)
    keeper.receive(customer.code, later(on, 66), second - 2_000, [two], memo=customer.name)


def oldest_first_in_odd_sums(scene: Scene) -> None:
    """A customer who pays round sums, set against the oldest."""
    customer, on, keeper = scene.customer(), scene.day(), scene.keeper
    base = sum_between(keeper.rng, 20_000, 50_000) // 1_000 * 1_000
    made = [scene.invoice(customer, later(on, 9 * n), base + 1_370 * n) for n in range(4)]
    owed = dict(made)
    total, day = sum(owed.values()), later(on, 45)
    while total:
        part = min(total, base)
        total -= part
        money = keeper.receive(customer.code, day, part, [], memo=customer.name)
        day = later(day, 12)
        for name in owed:
            used = min(part, owed[name])
            owed[name] -= used
            part -= used
            if used:
                keeper.allocate(customer.code, name, money, used)


def deposit_held(scene: Scene) -> None:
    """A part in advance of a large invoice, set against it."""
    customer, on, keeper = scene.customer(), scene.day(), scene.keeper
    gross = sum_between(keeper.rng, 90_000, 200_000)
    first = gross * 3 // 10
    money = keeper.receive(customer.code, on, first, [], memo=f"{customer.name} 30 percent")
    invoice, _ = scene.invoice(customer, later(on, 30), gross)
    keeper.allocate(customer.code, invoice, money, first)
    keeper.receive(customer.code, later(on, 55), gross - first, [invoice], memo=customer.name)


def one_price_next_number(scene: Scene) -> None:
    """A fixed fee each fortnight, the supplier's numbers one after the other."""
    supplier = scene.supplier()
    gross = sum_between(scene.keeper.rng, supplier.low, supplier.high)
    for turn in range(5):
        on = later(scene.first, 120 + 14 * turn)
        bill, _ = scene.bill(supplier, on, gross)
        scene.keeper.pay(supplier.code, later(on, 14), gross, [bill], memo=supplier.name)


def refund_of_a_bill(scene: Scene) -> None:
    """Goods sent back: a credit, and the money came."""
    supplier, on, keeper = scene.supplier(), scene.day(), scene.keeper
    bill, gross = scene.bill(supplier, on)
    keeper.pay(supplier.code, later(on, 10), gross, [bill], memo=supplier.name)
    credit = keeper.bill(
        supplier.code, later(on, 20), gross // 2, supplier.account, kind=Kind.PURCHASE_CREDIT,
        reference=f"RC{keeper.rng.randint(1000, 9999)}", taxed=supplier.taxed,
    )  # fmt: skip
    back = keeper.add(
        Kind.SUPPLIER_REFUND, later(on, 33),
        [(keeper.chart.bank, gross // 2), (keeper.chart.payables, -(gross // 2), supplier.code)],
        party=supplier.code, memo=f"{supplier.name} refund", source="bank",
    )  # fmt: skip
    keeper.allocate(supplier.code, credit, back, gross // 2)


def invoice_less_a_credit(scene: Scene) -> None:
    """A customer who took off a credit note, and all three are set."""
    customer, on, keeper = scene.customer(), scene.day(), scene.keeper
    invoice, gross = scene.invoice(customer, on)
    off = gross // 8
    credit = keeper.invoice(
        customer.code, later(on, 6), off, customer.account, kind=Kind.SALES_CREDIT,
        reference=scene.numbers.next(keeper.rng),
    )  # fmt: skip
    money = keeper.receive(customer.code, later(on, 28), gross - off, [], memo=customer.name)
    keeper.allocate(customer.code, invoice, credit, off)
    keeper.allocate(customer.code, invoice, money, gross - off)


def gift_to_the_staff(scene: Scene) -> None:
    """Wine for the staff and flowers for a customer: business, though it sounds private."""
    memo = scene.keeper.rng.choice(scene.hand.gifts)
    scene.keeper.direct_payment(scene.day(), 6_450, scene.accounts("advertising"), memo=memo)


def same_sum_two_suppliers(scene: Scene) -> None:
    """Two suppliers whose bills of a week are of one sum."""
    one, two = scene.keeper.rng.sample([s for s in scene.suppliers if not s.same_sum], 2)
    on = scene.day()
    bill, gross = scene.bill(one, on)
    other, _ = scene.bill(two, later(on, 2), gross)
    scene.keeper.pay(one.code, later(on, 20), gross, [bill], memo=one.name)
    scene.keeper.pay(two.code, later(on, 21), gross, [other], memo=two.name)


def dear_and_repeated(scene: Scene) -> None:
    """A dear cost of each month, by card, that is no thing."""
    for month in range(7):
        day = later(scene.first, 66 + 30 * month)
        gross = sum_between(scene.keeper.rng, 70_000, 95_000)
        scene.keeper.direct_payment(day, gross, scene.accounts("office"), memo="TRADE FAIR RENTAL")


def bill_of_december_in_december(scene: Scene) -> None:
    """A paper of the last days, posted in its year, paid in the next."""
    supplier = scene.supplier()
    on = date(2025, 12, scene.keeper.rng.randint(28, 31))
    bill, gross = scene.bill(supplier, on)
    scene.keeper.pay(supplier.code, later(on, 16), gross, [bill], memo=supplier.name)


def interest_of_the_bank(scene: Scene) -> None:
    """A little interest that the bank paid."""
    for quarter in range(4):
        on = later(scene.first, 89 + 91 * quarter)
        scene.keeper.direct_receipt(
            on, 37 + quarter, scene.accounts("other-income"), memo="INTEREST"
        )


def journal_that_moves_a_cost(scene: Scene) -> None:
    """A journal from one cost to another, without a party or tax."""
    amount = sum_between(scene.keeper.rng, 4_000, 20_000)
    scene.keeper.add(
        Kind.JOURNAL, scene.day(),
        [(scene.accounts("repairs"), amount), (scene.accounts("office"), -amount)],
        memo="was upkeep", source="journal",
    )  # fmt: skip


KINDS: tuple[Callable[[Scene], None], ...] = (
    owner_paid_for_the_business, employee_of_the_owner_s_name, two_of_one_subscription, by_the_quarter,
    only_in_summer, accrual_and_a_dearer_bill, provision_for_years, boiler_every_year, debt_written_off,
    cheque_lost_and_made_anew, tax_on_account, cash_for_the_box, overpaid_and_used,
    oldest_first_in_odd_sums, deposit_held, one_price_next_number, refund_of_a_bill,
    invoice_less_a_credit, gift_to_the_staff, same_sum_two_suppliers, dear_and_repeated,
    bill_of_december_in_december, interest_of_the_bank, journal_that_moves_a_cost,
)  # fmt: skip
