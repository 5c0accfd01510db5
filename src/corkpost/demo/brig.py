"""BRIG, Brightwater Veterinary Ltd: a company; standard and exempt supplies, an owner's loan account.

Filed to the end of 2025; its year is signed later.
"""

from datetime import date, datetime
from random import Random

from corkpost.core.books import Party
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

FIRST, LAST = date(2025, 1, 1), date(2026, 10, 31)

CHART = """
0200 | Equipment, cost | asset | fixed-asset
0210 | Equipment, depreciation | asset | accumulated-depreciation
1100 | Trade receivables | asset | receivables
1200 | Current account | asset | bank
1400 | Prepayments | asset | prepayment
1900 | Suspense | asset | suspense
2100 | Trade payables | liability | payables
2200 | Sales tax | liability | tax
2210 | Accruals | liability | accrual
2250 | Net pay owed | liability | payroll-net
2260 | Payroll taxes owed | liability | payroll-tax
2400 | Director's loan, Dr Aldous Wren | liability | owner-loan | DIR1
3000 | Share capital | equity |
3100 | Retained earnings | equity | retained-earnings
3200 | Dividends | equity | dividends
4000 | Treatment | income | sales
4100 | Medicines sold | income | sales
4200 | Certificates, exempt | income | sales
5000 | Medicines bought | expense | cost-of-sales
5100 | Laboratory | expense | cost-of-sales
6000 | Wages | expense | wages
6010 | Employer's contributions | expense | employer-contributions
6020 | Director's pay | expense | director-pay
6200 | Rent | expense |
6300 | Heat and light | expense |
6400 | Office costs | expense |
6500 | Insurance | expense |
6600 | Bank charges | expense | bank-charges
7100 | Repairs | expense | repairs
"""


def business() -> Business:
    """The client with its faults and look-alikes."""
    rng = Random("BRIG")
    keeper = Bookkeeper(Chart("1200", "1100", "2100", "2200"), rng, Style("{:06d}"))
    suppliers = [
        Supplier("V01", "Petrel Pharma Supply", "5000", 9, 45_000, 210_000,
                 Numbers("PPS/{:06d}", 20113, 120)),
        Supplier("V02", "Gannet Laboratories", "5100", 15, 12_000, 64_000,
                 Numbers("GL{:05d}", 5012, 8)),
        Supplier("V03", "Sundew Energy", "6300", 30, 31_000, 68_000,
                 Numbers("{:010d}", 44120318, 3000)),
        Supplier("V04", "Plover Instruments", "7100", 47, 24_000, 180_000,
                 Numbers("INV-{:04d}", 877, 6)),
        Supplier("V05", "Brack & Sons Stationers", "6400", 26, 2_200, 14_900,
                 Numbers("BS{:d}", 31004, 60)),
        Supplier("V06", "Averin Waste", "6400", 30, 9_840, 9_840, Numbers("AW-26-{:03d}", 10, 1),
                 same_sum=True),
    ]  # fmt: skip
    customers = [
        Customer("K01", "Longmeadow Stables", "4000", 21, 28_000, 96_000),
        Customer("K02", "Averin Animal Rescue", "4000", 18, 34_000, 120_000),
        Customer("K03", "Tidewrack Farm", "4000", 26, 22_000, 88_000),
        Customer("K04", "Saltings Kennels", "4100", 23, 11_000, 52_000),
        Customer("K05", "Highreach Dairy", "4000", 30, 60_000, 190_000),
        Customer("K06", "Port Averin Council", "4200", 40, 40_000, 90_000, taxed=False),
    ]
    _opening(keeper)
    for supplier in suppliers:
        buy(keeper, supplier, FIRST, LAST)
    numbers = Numbers("draft {:04d}", 0)
    for customer in customers:
        sell(keeper, customer, numbers, FIRST, LAST)
    _money_and_pay(keeper)
    made = Business(
        code="BRIG",
        name="Brightwater Veterinary Ltd",
        entity=Entity.COMPANY,
        year_end=(12, 31),
        accounts=chart_of(CHART),
        parties=parties_of(
            suppliers, customers, (Party("DIR1", "Dr Aldous Wren", PartyKind.OWNER),)
        ),
        keeper=keeper,
        books_from=FIRST,
        books_to=LAST,
        filed_through=date(2025, 12, 31),
        filed_on=datetime(2026, 6, 18, 9, 40),
        tax_returned_through=date(2026, 9, 30),
        materiality=150_000,
        years=(
            FinancialYear("2025", FIRST, date(2025, 12, 31)),
            FinancialYear("2026", date(2026, 1, 1), date(2026, 12, 31), date(2026, 12, 31)),
        ),
    )
    _plant(made, suppliers, customers, numbers)
    renumber_invoices(keeper, "26-{:05d}", 1180)
    return made


def _opening(keeper: Bookkeeper) -> None:
    keeper.add(
        Kind.OPENING,
        date(2024, 12, 31),
        [
            ("0200", 6_412_000),
            ("0210", -2_180_000),
            ("1200", 2_207_850),
            ("2200", -184_460),
            ("2400", -320_000),
            ("3000", -10_000),
            ("3100", -5_925_390),
        ],
        memo="Opening balances",
        source="journal",
        keyed_after=30,
    )


def _money_and_pay(keeper: Bookkeeper) -> None:
    rng = keeper.rng
    for day in month_days(FIRST, LAST, 1):
        keeper.direct_payment(day, 145_000, "6200", memo="rent surgery")
    for day in month_days(FIRST, LAST, 20):
        keeper.direct_payment(day, 52_000, "2400", party="DIR1", memo="A Wren transfer")
    for day in month_days(FIRST, LAST, 27):
        gross, net, taxes, employer = 640_000, 471_000, 169_000, 70_700
        keeper.add(
            Kind.PAYROLL,
            day,
            [("6000", gross), ("6010", employer), ("2250", -net), ("2260", -taxes - employer)],
            memo=f"payroll {day:%B}",
            source="payroll",
        )
        keeper.direct_payment(day, net, "2250", memo="net pay")
        if day.month != LAST.month or day.year != LAST.year:
            keeper.direct_payment(day.replace(day=28), taxes + employer, "2260", memo="payroll tax")
    for day in days(rng, FIRST, LAST, 11, 3):
        taken = sum_between(rng, 330_000, 560_000)
        keeper.direct_receipt(day, taken, "4100", memo="card terminal", taxed=True)
    for day in month_days(FIRST, LAST, 28):
        keeper.direct_payment(day, sum_between(rng, 900, 2_600), "6600", memo="account charges")


def _plant(
    made: Business, suppliers: list[Supplier], customers: list[Customer], numbers: Numbers
) -> None:
    keeper, planted = made.keeper, made.planted
    planted.add("owner-loan-overdrawn", "2400")
    pharma, lab, _, instruments, stationer, _ = suppliers
    for supplier, day, distort in (
        (pharma, date(2026, 5, 12), plants.undashed),
        (lab, date(2026, 7, 2), plants.swapped),
        (instruments, date(2026, 8, 19), plants.exact),
    ):
        gross = sum_between(keeper.rng, supplier.low, supplier.high)
        bill = keeper.bill(
            supplier.code, day, gross, supplier.account, reference=supplier.numbers.next(keeper.rng)
        )
        plants.twice(keeper, planted, bill, distort)
    plants.paid_direct(keeper, planted, lab, date(2026, 9, 14), bills=3, coded_to="5000")
    plants.paid_direct(keeper, planted, stationer, date(2026, 6, 4), coded_to="6400", taxed=True)
    plants.paid_direct(
        keeper, planted, instruments, date(2026, 10, 8), kept_back=20, coded_to="7100"
    )
    plants.received_direct(keeper, planted, customers[2], numbers, date(2026, 8, 27), named=False)
    plants.received_direct(keeper, planted, customers[3], numbers, date(2026, 3, 30), invoices=2)
    plants.on_account(keeper, planted, customers[1], numbers, date(2026, 4, 17), receipts=2)
    plants.on_account(keeper, planted, customers[4], numbers, date(2026, 9, 23))
    plants.same_price_same_day(keeper, stationer, date(2026, 2, 9), 6_150)
    plants.credited(keeper, pharma, date(2026, 3, 2), 88_560)
    plants.deposit(keeper, customers[0], date(2026, 10, 21))
