"""COPP, Copperbell Couriers Ltd: a company with a September year-end, overdue for sign-off.

Payroll from a bureau, vehicle loans, and supplier payments coded to cost while bills stand open.
"""

from datetime import date, datetime
from random import Random

from corkpost.core.books import Party, PayrollMonth
from corkpost.core.kinds import Entity, PartyKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.periods import FinancialYear
from corkpost.demo import plants
from corkpost.demo.bookkeeper import Bookkeeper, Chart, Style
from corkpost.demo.client import Business, chart_of, parties_of
from corkpost.demo.habits import (
    Customer,
    Numbers,
    Supplier,
    buy,
    days,
    month_days,
    renumber_invoices,
    sell,
    sum_between,
)
from corkpost.demo.plants import Planted

FIRST, LAST = date(2024, 10, 1), date(2026, 10, 31)

CHART = """
10100 | Vans, cost | asset | fixed-asset
10190 | Vans, depreciation | asset | accumulated-depreciation
11000 | Customers | asset | receivables
12000 | Business account | asset | bank
12500 | Fuel card | liability | credit-card
13000 | Prepaid costs | asset | prepayment
20000 | Suppliers | liability | payables
21000 | Sales tax account | liability | tax
22000 | Accrued costs | liability | accrual
22500 | Net wages owed | liability | payroll-net
22600 | Payroll tax and contributions | liability | payroll-tax
23000 | Van loans, Averin Finance | liability | loan
24000 | Director's loan, Cass Bellamy | liability | owner-loan | DIR1
30000 | Share capital | equity |
31000 | Retained earnings | equity | retained-earnings
32000 | Dividends | equity | dividends
40000 | Courier work | income | sales
40500 | Storage | income | sales
50000 | Subcontract drivers | expense | cost-of-sales
50500 | Diesel | expense | cost-of-sales
51000 | Wages | expense | wages
51100 | Employer's contributions | expense | employer-contributions
52000 | Van repairs | expense | repairs
52500 | Van insurance | expense |
53000 | Depot rent | expense |
54000 | Tyres and parts | expense |
55000 | Phones and trackers | expense |
56000 | Office | expense |
57000 | Loan interest | expense | loan-interest
58000 | Bank charges | expense | bank-charges
"""


def business() -> Business:
    """The client with its faults and look-alikes."""
    rng = Random("COPP")
    style = Style("CB-{:05d}", keyed_by="office", slowest_days=12)
    keeper = Bookkeeper(Chart("12000", "11000", "20000", "21000"), rng, style)
    suppliers = [
        Supplier("T100", "Rockpool Tyres", "54000", 13, 14_000, 72_000,
                 Numbers("RT{:06d}", 118, 7)),
        Supplier("T110", "Breakwater Motors", "52000", 17, 19_000, 140_000,
                 Numbers("{:d}", 60231, 90)),
        Supplier("T120", "Spindrift Subcontract", "50000", 7, 88_000, 96_000,
                 Numbers("SS-{:04d}", 40, 1)),
        Supplier("T130", "Guillemot Telecom", "55000", 30, 31_365, 31_365,
                 Numbers("GT/{:08d}", 3310042, 5000), same_sum=True),
        Supplier("T140", "Oarweed Uniforms", "56000", 80, 18_000, 44_000,
                 Numbers("OU{:04d}", 1201, 14)),
    ]  # fmt: skip
    customers = [
        Customer("A10", "Halyard Wholesale", "40000", 14, 340_000, 990_000),
        Customer("A20", "Bowline Books", "40000", 16, 98_000, 310_000),
        Customer("A30", "Cleat & Co Furniture", "40500", 30, 61_500, 61_500),
        Customer("A40", "Fairlead Events", "40000", 24, 86_000, 240_000),
        Customer("A50", "Mizzen Foods", "40000", 12, 260_000, 620_000),
    ]
    _opening(keeper)
    for supplier in suppliers:
        buy(keeper, supplier, FIRST, LAST)
    numbers = Numbers("draft {:04d}", 0)
    for customer in customers:
        sell(keeper, customer, numbers, FIRST, LAST)
    made = Business(
        code="COPP",
        name="Copperbell Couriers Ltd",
        entity=Entity.COMPANY,
        year_end=(9, 30),
        accounts=chart_of(CHART),
        parties=parties_of(
            suppliers,
            customers,
            (
                Party("DIR1", "Cass Bellamy", PartyKind.OWNER),
                Party("L10", "Averin Finance", PartyKind.LENDER),
            ),
        ),
        keeper=keeper,
        books_from=FIRST,
        books_to=LAST,
        filed_through=date(2025, 9, 30),
        filed_on=datetime(2026, 2, 20, 16, 5),
        tax_returned_through=date(2026, 8, 31),
        years=(
            FinancialYear("2025", FIRST, date(2025, 9, 30)),
            FinancialYear("2026", date(2025, 10, 1), date(2026, 9, 30), date(2026, 11, 7)),
        ),
    )
    made.payroll = _money_and_pay(keeper, made.planted)
    _plant(made, suppliers, customers, numbers)
    renumber_invoices(keeper, "CB{:05d}", 4021)
    return made


def _opening(keeper: Bookkeeper) -> None:
    keeper.add(
        Kind.OPENING,
        date(2024, 9, 30),
        [
            ("10100", 11_860_000),
            ("10190", -3_925_000),
            ("12000", 3_174_030),
            ("21000", -241_880),
            ("23000", -5_400_000),
            ("24000", -250_000),
            ("30000", -10_000),
            ("31000", -5_207_150),
        ],
        memo="Opening balances",
        source="journal",
        keyed_after=30,
    )


SLIPPED, MISCODED = (2026, 4), (2026, 7)
"""The months of which the payroll journal was miskeyed, and the taxes were coded to wages."""


def _money_and_pay(keeper: Bookkeeper, planted: Planted) -> tuple[PayrollMonth, ...]:
    """What comes and goes by itself; the bureau's summaries."""
    rng = keeper.rng
    summaries: list[PayrollMonth] = []
    for day in month_days(FIRST, LAST, 5):
        keeper.direct_payment(day, 168_000, "53000", memo="depot rent")
    for day in month_days(FIRST, LAST, 15):
        keeper.add(
            Kind.DIRECT_PAYMENT,
            day,
            [("23000", 148_000), ("57000", 27_400), ("12000", -175_400)],
            party="L10",
            memo="Averin Finance instalment",
            source="feed",
        )
    for day in days(rng, FIRST, LAST, 4, 1):
        keeper.direct_payment(
            day, sum_between(rng, 9_000, 34_000), "50500", memo="diesel station", taxed=True
        )
    for day in month_days(FIRST, LAST, 26):
        gross, net, taxes, employer = 1_180_000, 884_000, 296_000, 130_300
        summaries.append(
            PayrollMonth(f"{day:%Y-%m}", "drivers", gross, employer, net, 177_000, 119_000, 0)
        )
        if (day.year, day.month) == SLIPPED:
            # Keyed with two digits exchanged: 11,080.00.
            gross, taxes = 1_108_000, 224_000
        journal = keeper.add(
            Kind.PAYROLL,
            day,
            [("51000", gross), ("51100", employer), ("22500", -net), ("22600", -taxes - employer)],
            memo=f"payroll {day:%B}",
            source="payroll",
        )
        if (day.year, day.month) == SLIPPED:
            planted.add("payroll-disagrees", journal, f"{day:%Y-%m}")
        keeper.direct_payment(day, net, "22500", memo="net wages")
        coded = "51000" if (day.year, day.month) == MISCODED else "22600"
        paid = keeper.direct_payment(
            day.replace(day=28), taxes + employer, coded, memo="payroll tax"
        )
        if coded == "51000":
            planted.add("payroll-not-cleared", paid, journal, "22600")
    for day in month_days(FIRST, LAST, 28):
        keeper.direct_payment(day, sum_between(rng, 1_200, 3_100), "58000", memo="charges")
    return tuple(summaries)


def _plant(
    made: Business, suppliers: list[Supplier], customers: list[Customer], numbers: Numbers
) -> None:
    keeper, planted = made.keeper, made.planted
    tyres, motors, subcontract, _, uniforms = suppliers
    for supplier, day, bills, named in (
        (tyres, date(2026, 1, 22), 1, True),
        (tyres, date(2026, 6, 11), 2, True),
        (motors, date(2026, 3, 18), 1, False),
        (motors, date(2026, 8, 25), 3, True),
        (uniforms, date(2026, 5, 6), 1, False),
    ):
        plants.paid_direct(
            keeper, planted, supplier, day, bills=bills, named=named, coded_to="52000"
        )
    plants.part_paid_direct(keeper, planted, motors, date(2026, 7, 8), "54000")
    for supplier, day, distort in (
        (tyres, date(2026, 2, 3), plants.letters_for_digits),
        (uniforms, date(2026, 4, 15), plants.without_noughts),
        (subcontract, date(2025, 7, 14), plants.exact),
    ):
        gross = sum_between(keeper.rng, supplier.low, supplier.high)
        bill = keeper.bill(
            supplier.code, day, gross, supplier.account, reference=supplier.numbers.next(keeper.rng)
        )
        plants.twice(keeper, planted, bill, distort)
    plants.received_direct(keeper, planted, customers[1], numbers, date(2026, 9, 9))
    plants.on_account(keeper, planted, customers[3], numbers, date(2026, 6, 30), invoices=2)
    plants.payment_on_account(keeper, planted, tyres, date(2026, 9, 17))
    plants.same_price_same_day(keeper, motors, date(2026, 5, 20), 24_600)
    plants.bought_at_the_counter(keeper, motors, date(2026, 9, 23), "54000")
    plants.voided(keeper, tyres, date(2025, 11, 19), 33_210)
