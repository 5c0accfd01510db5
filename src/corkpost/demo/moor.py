"""MOOR, Moorland Honey: an association of beekeepers with a shop of its own, grants, and costs that its
members paid; a shop that never paid, and a supplier in the books under two names.

Filed to the end of 2025.
"""

from datetime import date, datetime

from corkpost.core.books import Party
from corkpost.core.kinds import Entity, PartyKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.periods import FinancialYear
from corkpost.demo import coding_plants, plants, proof_plants, review_plants
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

FIRST, LAST = date(2025, 1, 1), date(2026, 10, 31)
TODAY = date(2026, 11, 16)

CHART = """
0100 | Extractors and tanks, cost | asset | fixed-asset
1100 | Shops and markets | asset | receivables
1200 | Bank, Averin Savings | asset | bank
2100 | Suppliers | liability | payables
2200 | Sales tax | liability | tax
2210 | Accruals | liability | accrual
2450 | Owed to members | liability | member-payable
3100 | Accumulated fund | equity | accumulated-fund
4000 | Honey and wax | income | sales | | S23
4100 | Grants | income |
4200 | Members' fees | income |
5000 | Jars and labels | expense | cost-of-sales | | S23
5100 | Hive upkeep | expense | repairs | | S23
6000 | Rent of the honey house | expense |
6100 | Office and meetings | expense | | | S23
6200 | Courses and travel | expense |
6600 | Bank charges | expense | bank-charges
6900 | Debts written off | expense | bad-debt
"""


def business() -> Business:
    """The client with its faults and look-alikes."""
    suppliers = [
        Supplier("M01", "Heather Glassworks", "5000", 19, 14_000, 92_000, Numbers("HG-{:05d}", 710, 6)),
        Supplier("M02", "Smoker & Veil", "5100", 27, 4_000, 38_000, Numbers("SV{:05d}", 3010, 20)),
        Supplier("M03", "Fellside Printers", "5000", 41, 6_000, 30_000, Numbers("{:d}/FP", 88, 5)),
        Supplier("M04", "Lowgate Stationers", "6100", 31, 1_800, 12_000, Numbers("LS {:05d}", 420, 9)),
    ]  # fmt: skip
    customers = [
        Customer("K01", "Dovecote Deli", "4000", 17, 18_000, 66_000),
        Customer("K02", "Castle Market Traders", "4000", 22, 24_000, 110_000),
        Customer("K03", "Old Mill Bakery", "4000", 26, 9_000, 40_000),
        Customer("K04", "Riverside Farm Shop", "4000", 20, 15_000, 72_000),
        Customer("K05", "Averin Food Hall", "4000", 30, 40_000, 150_000),
    ]
    begun = simulated(
        code="MOOR", name="Moorland Honey", entity=Entity.ASSOCIATION, year_end=(12, 31),
        chart=CHART, codes=Chart("1200", "1100", "2100", "2200"), style=Style("MH{:05d}"),
        suppliers=suppliers, customers=customers,
        others=(
            Party("MB1", "Hal Ferrow", PartyKind.OWNER),
            Party("MB2", "Ottie Vance", PartyKind.OWNER),
        ),
        opening=[("0100", 1_460_000), ("1200", 884_300), ("3100", -2_344_300)],
        opened_on=date(2024, 12, 31), first=FIRST, last=LAST,
        filed_through=date(2025, 12, 31), filed_on=datetime(2026, 6, 11, 10, 0),
        tax_returned_through=date(2026, 9, 30), materiality=60_000,
        years=(
            FinancialYear("2025", FIRST, date(2025, 12, 31)),
            FinancialYear("2026", date(2026, 1, 1), date(2026, 12, 31), date(2026, 12, 18)),
        ),
    )  # fmt: skip
    _money(begun.keeper)
    _plant(begun.made, suppliers, customers, begun.numbers)
    renumber_invoices(begun.keeper, "MH-{:04d}", 210)
    return begun.made


def _money(keeper: Bookkeeper) -> None:
    rng = keeper.rng
    for day in month_days(FIRST, LAST, 2):
        keeper.direct_payment(day, 38_000, "6000", memo="honey house rent")
    for day in month_days(FIRST, LAST, 27):
        keeper.direct_payment(day, sum_between(rng, 400, 1_100), "6600", memo="charges")
    for year in (2025, 2026):
        keeper.direct_receipt(date(year, 4, 15), 450_000, "4100", memo="moorland grant scheme")
        keeper.direct_receipt(date(year, 9, 15), 150_000, "4100", memo="pollinator grant")
    for day in days(rng, FIRST, LAST, 12, 4):
        keeper.direct_receipt(day, 2_400, "4200", memo="member fee")
    # What members paid for the association is owed to them until it is paid back.
    for month, amount in ((date(2026, 3, 8), 6_420), (date(2026, 6, 12), 11_890)):
        keeper.add(Kind.JOURNAL, month, [("6200", amount), ("2450", -amount)],
                   memo="paid by a member: travel to the fair", source="journal")  # fmt: skip
        keeper.direct_payment(month.replace(day=27), amount, "2450", memo="travel paid back")


def _plant(
    made: Business, suppliers: list[Supplier], customers: list[Customer], numbers: Numbers
) -> None:
    keeper, planted = made.keeper, made.planted
    glass, smoker, printers, stationers = suppliers
    deli, market, bakery, farm, hall = customers
    review_plants.doubtful(keeper, planted, bakery, numbers, TODAY)
    proof_plants.known_twice(made, glass, date(2026, 5, 11), "form")
    for supplier, day, distort in (
        (smoker, date(2026, 4, 21), plants.undashed),
        (printers, date(2026, 7, 6), plants.exact),
    ):
        gross = sum_between(keeper.rng, supplier.low, supplier.high)
        bill = keeper.bill(
            supplier.code, day, gross, supplier.account, reference=supplier.numbers.next(keeper.rng)
        )
        plants.twice(keeper, planted, bill, distort)
    plants.received_direct(keeper, planted, farm, numbers, date(2026, 6, 18), coded_to="4100")
    plants.on_account(keeper, planted, hall, numbers, date(2026, 8, 27))
    review_plants.wrong_item(keeper, planted, market, numbers, date(2026, 7, 22), quoted=True)
    coding_plants.unusual_account(keeper, planted, stationers, date(2026, 5, 19), "5100")
    coding_plants.lasting_thing(keeper, planted, date(2026, 3, 24), "5100", 50_000)
    coding_plants.of_last_year(keeper, planted, smoker, 2026)
    review_plants.payment_plan(keeper, deli, numbers, TODAY)
    plants.same_price_same_day(keeper, stationers, date(2026, 6, 3), 4_310)
