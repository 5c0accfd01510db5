"""KILN, Lantern Street Kiln Ltd: a pottery that bought its workshop with a loan and its director's money;
instalments that are all cost, and a kiln among the repairs.

Filed to June 2025; the sign-off of June 2026 is overdue.
"""

from datetime import date, datetime

from corkpost.core.books import Party
from corkpost.core.kinds import Entity, PartyKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.periods import FinancialYear
from corkpost.demo import coding_plants, plants, proof_plants
from corkpost.demo.bookkeeper import Bookkeeper, Chart, Style
from corkpost.demo.client import Business
from corkpost.demo.habits import (
    Customer,
    Numbers,
    Supplier,
    days,
    month_days,
    renumber_invoices,
    sum_between,
)
from corkpost.demo.simulated import simulated

FIRST, LAST = date(2024, 7, 1), date(2026, 10, 31)

CHART = """
0050 | Land, Lantern Street | asset | fixed-asset
0060 | Workshop, Lantern Street | asset | fixed-asset
0100 | Kilns and wheels, cost | asset | fixed-asset
0110 | Kilns and wheels, depreciation | asset | accumulated-depreciation
1100 | Galleries and shops | asset | receivables
1200 | Bank, Port Averin | asset | bank
2100 | Suppliers | liability | payables
2200 | Sales tax | liability | tax
2210 | Accruals | liability | accrual
2250 | Net pay owed | liability | payroll-net
2260 | Payroll taxes owed | liability | payroll-tax
2300 | Loan, Harbour Mutual | liability | loan
2400 | Director's loan, Juno Reyes | liability | owner-loan | DIR1
3000 | Share capital | equity |
3100 | Retained earnings | equity | retained-earnings
4000 | Pots and tiles | income | sales | | S23
4100 | Classes | income | | | S23
5000 | Clay and glaze | expense | cost-of-sales | | S23
5100 | Upkeep of kilns | expense | repairs | | S23
5400 | Wages | expense | wages
5410 | Employer's contributions | expense | employer-contributions
6000 | Property costs | expense |
6050 | Electricity | expense | | | S23
6100 | Office costs | expense | | | S23
6300 | Loan interest | expense | loan-interest
6350 | Finance costs | expense |
6600 | Bank charges | expense | bank-charges
6700 | Depreciation | expense | depreciation
"""


def business() -> Business:
    """The client with its faults and look-alikes."""
    suppliers = [
        Supplier("P01", "Redbank Clay", "5000", 16, 18_000, 76_000, Numbers("RC-{:05d}", 2110, 8)),
        Supplier("P02", "Glaze House", "5000", 25, 9_000, 54_000, Numbers("GH{:06d}", 40311, 30)),
        Supplier("P03", "Firebrick Services", "5100", 44, 8_000, 44_000, Numbers("{:d}-FS", 512, 4)),
        Supplier("P04", "Lantern Power", "6050", 30, 42_000, 98_000, Numbers("LP/{:07d}", 811002, 900)),
        Supplier("P05", "Gullet Couriers", "6100", 21, 1_500, 9_800, Numbers("GC{:05d}", 7120, 40)),
    ]  # fmt: skip
    customers = [
        Customer("G01", "Gallery Nine", "4000", 18, 44_000, 180_000),
        Customer("G02", "Tide & Table", "4000", 23, 30_000, 120_000),
        Customer("G03", "Averin Museum Shop", "4000", 29, 26_000, 96_000),
        Customer("G04", "Harbour Council", "4100", 34, 60_000, 160_000),
    ]
    begun = simulated(
        code="KILN", name="Lantern Street Kiln Ltd", entity=Entity.COMPANY, year_end=(6, 30),
        chart=CHART, codes=Chart("1200", "1100", "2100", "2200"), style=Style("LK-{:05d}"),
        suppliers=suppliers, customers=customers,
        others=(
            Party("DIR1", "Juno Reyes", PartyKind.OWNER),
            Party("L01", "Harbour Mutual", PartyKind.LENDER),
            Party("P90", "Estate of T. Marl", PartyKind.SUPPLIER),
        ),
        opening=[
            ("0100", 2_280_000), ("0110", -740_000), ("1200", 9_114_500), ("2400", -1_800_000),
            ("3000", -50_000), ("3100", -8_804_500),
        ],
        opened_on=date(2024, 6, 30), first=FIRST, last=LAST,
        filed_through=date(2025, 6, 30), filed_on=datetime(2026, 1, 30, 14, 0),
        tax_returned_through=date(2026, 9, 30), materiality=150_000,
        years=(
            FinancialYear("2025", FIRST, date(2025, 6, 30)),
            FinancialYear("2026", date(2025, 7, 1), date(2026, 6, 30), date(2026, 10, 31)),
        ),
    )  # fmt: skip
    _workshop(begun.keeper)
    _money(begun.keeper)
    _plant(begun.made, suppliers, customers, begun.numbers)
    renumber_invoices(begun.keeper, "LK{:05d}", 1100)
    return begun.made


def _workshop(keeper: Bookkeeper) -> None:
    """The purchase: price and the costs that belong to it, paid by the loan and by the director."""
    on = date(2025, 9, 12)
    bill = keeper.add(
        Kind.PURCHASE_BILL, on,
        [("0050", 6_000_000), ("0060", 13_500_000), ("6000", 184_000), ("2100", -19_684_000, "P90")],
        party="P90", reference="completion 12/09", memo="workshop, completion statement",
        source="purchases", document_date=on, due_days=0,
    )  # fmt: skip
    for account, amount, memo in (
        ("2300", 15_000_000, "drawn from Harbour Mutual"),
        ("2400", 4_684_000, "deposit from Juno Reyes"),
    ):
        paid = keeper.add(
            Kind.JOURNAL, on, [("2100", amount, "P90"), (account, -amount)], party="P90",
            memo=memo, source="journal",
        )  # fmt: skip
        keeper.allocate("P90", paid, bill, amount)


def _money(keeper: Bookkeeper) -> None:
    rng = keeper.rng
    for day in month_days(FIRST, LAST, 27):
        keeper.direct_payment(day, sum_between(rng, 700, 1_900), "6600", memo="charges")
    for day in days(rng, FIRST, LAST, 9, 3):
        keeper.direct_receipt(
            day, sum_between(rng, 4_000, 26_000), "4100", memo="class fees", taxed=True
        )


def _plant(
    made: Business, suppliers: list[Supplier], customers: list[Customer], numbers: Numbers
) -> None:
    keeper, planted = made.keeper, made.planted
    clay, glaze, brick, _, couriers = suppliers
    _, table, museum, _ = customers
    # The loan's instalments of the year under review are cost; those since are split.
    for day in month_days(date(2025, 10, 1), date(2026, 6, 30), 5):
        keeper.direct_payment(day, 118_000, "6350", memo="DD HARBOUR MUTUAL")
    planted.add("loan-repayment-as-cost", "6350", "2026", "L01")
    for place, day in enumerate(month_days(date(2026, 7, 1), LAST, 5)):
        interest = 56_200 - 250 * place
        keeper.add(
            Kind.DIRECT_PAYMENT, day,
            [("2300", 118_000 - interest), ("6300", interest), ("1200", -118_000)],
            memo="DD HARBOUR MUTUAL", source="feed",
        )  # fmt: skip
    bureau = proof_plants.Payroll(keeper, ["5400", "5410", "2250", "2260"], 150_000, LAST)
    for month in month_days(FIRST, LAST, 1):
        way = {date(2026, 2, 1): "slip", date(2026, 4, 1): "net"}.get(month, "")
        bureau.month(planted, month, way=way, elsewhere="5400")
    made.payroll = tuple(bureau.summaries)
    coding_plants.lasting_thing(keeper, planted, date(2026, 3, 10), "5100", 50_000)
    coding_plants.unusual_account(keeper, planted, couriers, date(2026, 1, 28), "5100")
    coding_plants.accrual(keeper, planted, date(2026, 3, 1), "6050", "2210", "never")
    coding_plants.accrual(keeper, planted, date(2026, 5, 1), "6050", "2210", "right")
    gross = sum_between(keeper.rng, clay.low, clay.high)
    bill = keeper.bill(
        clay.code, date(2026, 2, 17), gross, clay.account, reference=clay.numbers.next(keeper.rng)
    )
    plants.twice(keeper, planted, bill, plants.without_noughts)
    plants.paid_direct(keeper, planted, glaze, date(2026, 5, 21), coded_to="6100")
    plants.received_direct(keeper, planted, table, numbers, date(2026, 4, 30))
    plants.on_account(keeper, planted, museum, numbers, date(2026, 5, 28))
    plants.same_price_same_day(keeper, couriers, date(2026, 4, 8), 3_990)
    plants.voided(keeper, brick, date(2025, 11, 25), 17_220)
