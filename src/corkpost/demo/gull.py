"""GULL, Gullwing Print Works Ltd: a busy company of two sites, some 20,000 transactions a year, with
stock; what the pages' speed is seen on.

Filed to March 2026.
"""

from datetime import date, datetime

from corkpost.core.books import Dimension, Party, StockItem
from corkpost.core.kinds import Entity, PartyKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.periods import FinancialYear, month_end
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

MONTHLY = {
    "4000": -24_900_000, "4100": -7_050_000, "5000": 11_900_000, "5100": 640_000, "5400": 11_300_000,
    "5410": 1_243_000, "5500": 206_600, "6000": 1_150_000, "6050": 1_250_000, "6100": 430_000,
    "6200": 1_010_000, "6600": 9_000,
}  # fmt: skip
"""What a month of the year before came to, by account."""
SAME_EACH_MONTH = ("5500", "6000")
FIRST, LAST = date(2025, 11, 1), date(2026, 10, 31)
SITES = (
    Dimension("site", "QUAY", "Quay Road works"),
    Dimension("site", "MILL", "Mill Lane works"),
)

CHART = """
0100 | Presses, cost | asset | fixed-asset
0110 | Presses, depreciation | asset | accumulated-depreciation
1000 | Paper and ink in stock | asset | stock
1100 | Customers | asset | receivables
1200 | Bank, Port Averin | asset | bank
2100 | Suppliers | liability | payables
2200 | Sales tax | liability | tax
2210 | Accruals | liability | accrual
2250 | Net pay owed | liability | payroll-net
2260 | Payroll taxes owed | liability | payroll-tax
2400 | Directors' loan | liability | owner-loan | DIR1
3000 | Share capital | equity |
3100 | Retained earnings | equity | retained-earnings
4000 | Printing | income | sales | | S23
4100 | Design | income | | | S23
5000 | Paper and ink | expense | cost-of-sales | | S23
5100 | Upkeep of presses | expense | repairs | | S23
5400 | Wages | expense | wages
5410 | Employer's contributions | expense | employer-contributions
5500 | Depreciation of presses | expense | depreciation
6000 | Rent of both works | expense |
6050 | Power | expense | | | S23
6100 | Office costs | expense | | | S23
6200 | Carriage | expense | | | S23
6600 | Bank charges | expense | bank-charges
6900 | Debts written off | expense | bad-debt
"""
TRADES = (
    "Press",
    "Books",
    "Foods",
    "Events",
    "Trust",
    "Hotel",
    "Clinic",
    "School",
    "Theatre",
    "Garden",
)
PLACES = ("Quayside", "Millrace", "Saltpan", "Fernlea", "Harbour")


def business() -> Business:
    """The client with its faults and look-alikes."""
    suppliers = [
        Supplier("D01", "Reams & Rolls", "5000", 1, 60_000, 770_000, Numbers("RR{:07d}", 100200, 30),
                 spread=0),
        Supplier("D02", "Inkwell Supply", "5000", 2, 40_000, 450_000, Numbers("IS-{:06d}", 40110, 12),
                 spread=1),
        Supplier("D03", "Roller Repairs", "5100", 6, 42_000, 280_000, Numbers("{:06d}/R", 5100, 7)),
        Supplier("D04", "Swift Carriage", "6200", 1, 7_200, 76_000, Numbers("SC{:08d}", 7001122, 60),
                 spread=0),
        Supplier("D05", "Mainspring Power", "6050", 30, 900_000, 1_800_000, Numbers("MP/{:06d}", 31, 3)),
        Supplier("D06", "Binder Twine", "5000", 3, 12_000, 90_000, Numbers("BT {:05d}", 2200, 9),
                 spread=1),
    ]  # fmt: skip
    customers = [
        Customer(
            f"A{number:02d}", f"{place} {trade}", "4000" if number % 4 else "4100", 2,
            6_000 + 500 * number, 60_000 + 2_500 * number,
        )
        for number, (place, trade) in enumerate(
            ((place, trade) for place in PLACES for trade in TRADES), 1
        )
    ]  # fmt: skip
    begun = simulated(
        code="GULL", name="Gullwing Print Works Ltd", entity=Entity.COMPANY, year_end=(3, 31),
        chart=CHART, codes=Chart("1200", "1100", "2100", "2200"),
        style=Style("G{:06d}", keyed_by="accounts office"),
        suppliers=suppliers, customers=customers,
        others=(Party("DIR1", "Perrin Gull", PartyKind.OWNER),),
        opening=[
            ("0100", 24_800_000), ("0110", -9_120_000), ("1000", 3_410_000), ("1200", 6_220_000),
            ("2400", -4_000_000), ("3000", -100_000), ("3100", -21_210_000),
        ],
        opened_on=date(2025, 3, 31), first=FIRST, last=LAST,
        filed_through=date(2026, 3, 31), filed_on=datetime(2026, 9, 30, 17, 0),
        tax_returned_through=date(2026, 9, 30), materiality=900_000,
        stock=(
            StockItem(date(2026, 9, 30), "paper", "412", "61.20", 2_521_440),
            StockItem(date(2026, 9, 30), "ink", "133", "58.90", 783_370),
        ),
        years=(
            FinancialYear("2026", date(2025, 4, 1), date(2026, 3, 31)),
            FinancialYear("2027", date(2026, 4, 1), date(2027, 3, 31), date(2027, 5, 31)),
        ),
    )  # fmt: skip
    _months_before(begun.keeper)
    _money(begun.keeper)
    _plant(begun.made, suppliers, customers, begun.numbers)
    _tax(begun.keeper)
    renumber_invoices(begun.keeper, "GP{:06d}", 30_100)
    _by_site(begun.keeper)
    begun.made.dimensions = SITES
    return begun.made


def _months_before(keeper: Bookkeeper) -> None:
    """The months before the books began here, each in one journal with its sums by account."""
    rng = keeper.rng
    for day in month_days(date(2025, 4, 1), date(2025, 10, 31), 28):
        rows = [
            (
                account,
                amount
                if account in SAME_EACH_MONTH
                else amount + amount * rng.randint(-60, 60) // 1_000,
            )
            for account, amount in MONTHLY.items()
        ]
        keeper.add(
            Kind.JOURNAL,
            month_end(day.year, day.month, 31),
            [*rows, ("1200", -sum(amount for _, amount in rows))],
            memo=f"{day:%B}, as the books before had it",
            source="journal",
        )


def _money(keeper: Bookkeeper) -> None:
    rng = keeper.rng
    for day in month_days(FIRST, LAST, 28):
        keeper.direct_payment(day, sum_between(rng, 280_000, 560_000), "6100", memo="office")
        end = month_end(day.year, day.month, 31)
        keeper.add(
            Kind.JOURNAL, end, [("5500", 206_600), ("0110", -206_600)],
            memo="depreciation of the month", source="journal",
        )  # fmt: skip
    for day in month_days(FIRST, LAST, 2):
        keeper.direct_payment(day, 1_150_000, "6000", memo="rent of both works")
    for day in month_days(FIRST, LAST, 28):
        keeper.direct_payment(day, sum_between(rng, 6_000, 14_000), "6600", memo="charges")
    for day in days(rng, FIRST, LAST, 1, 0):
        for _ in range(rng.randint(10, 18)):
            keeper.direct_receipt(
                day, sum_between(rng, 800, 22_000), "4000", memo="counter sale", taxed=True
            )


def _tax(keeper: Bookkeeper) -> None:
    """What each quarter owes is paid by the end of the month after it."""
    for quarter in month_days(date(2025, 12, 1), date(2026, 9, 30), 28):
        if quarter.month % 3:
            continue
        end = month_end(quarter.year, quarter.month, 31)
        owed = -sum(
            line.amount
            for posted in keeper.transactions.values()
            if posted.posting_date <= end
            for line in posted.lines
            if line.account == "2200"
        )
        paid = month_end(end.year + end.month // 12, end.month % 12 + 1, 25)
        if owed > 0 and paid <= LAST:
            keeper.direct_payment(paid, owed, "2200", memo=f"tax to {end:%B}")


def _by_site(keeper: Bookkeeper) -> None:
    """Income and cost are booked by works: Mill Lane does the third."""
    for place, (name, posted) in enumerate(list(keeper.transactions.items())):
        if posted.kind in (Kind.OPENING, Kind.CLOSING):
            continue
        site = "site=MILL" if place % 3 == 0 else "site=QUAY"
        lines = tuple(
            line._replace(dimensions=site) if line.account[0] in "456" else line
            for line in posted.lines
        )
        keeper.transactions[name] = posted._replace(lines=lines)


def _plant(
    made: Business, suppliers: list[Supplier], customers: list[Customer], numbers: Numbers
) -> None:
    keeper, planted = made.keeper, made.planted
    _, ink, rollers, _, _, twine = suppliers
    planted.add("stock-disagrees", "1000")
    bureau = proof_plants.Payroll(keeper, ["5400", "5410", "2250", "2260"], 11_600_000, LAST)
    for month in month_days(FIRST, LAST, 1):
        way = {date(2026, 6, 1): "slip", date(2026, 7, 1): "taxes"}.get(month, "")
        bureau.month(planted, month, way=way, elsewhere="6100")
    made.payroll = tuple(bureau.summaries)
    proof_plants.known_twice(made, twine, date(2026, 6, 16), "run together")
    gross = sum_between(keeper.rng, rollers.low, rollers.high)
    bill = keeper.bill(
        rollers.code, date(2026, 6, 9), gross, rollers.account,
        reference=rollers.numbers.next(keeper.rng),
    )  # fmt: skip
    plants.twice(keeper, planted, bill, plants.exact)
    plants.paid_direct(keeper, planted, rollers, date(2026, 8, 5), coded_to="6100")
    coding_plants.unusual_account(keeper, planted, ink, date(2026, 7, 14), "6100")
    review_plants.wrong_party(
        keeper, planted, customers[3], customers[11], numbers, date(2026, 8, 18), named=True
    )
    review_plants.doubtful(keeper, planted, customers[7], numbers, date(2026, 11, 16))
    coding_plants.bare_journal(keeper, planted, date(2026, 9, 9), "4000")
