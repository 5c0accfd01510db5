"""PEBB, Pebble & Pine Guesthouse: three partners; a bookings site that pays out net of its fee through a
clearing account, and private use of the house.

Filed to the end of 2025.
"""

from datetime import date, datetime
from fractions import Fraction

from corkpost.core.books import Party
from corkpost.core.kinds import Entity, PartyKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import tax_within
from corkpost.core.periods import FinancialYear, month_end
from corkpost.demo import coding_plants, plants, review_plants
from corkpost.demo.bookkeeper import STANDARD, Bookkeeper, Chart, Style
from corkpost.demo.client import Business
from corkpost.demo.habits import (
    Customer,
    Numbers,
    Supplier,
    month_days,
    renumber_invoices,
    sum_between,
)
from corkpost.demo.plants import Planted
from corkpost.demo.simulated import simulated

FIRST, LAST = date(2025, 1, 1), date(2026, 10, 31)

CHART = """
0100 | Furniture, cost | asset | fixed-asset
1100 | Groups and companies | asset | receivables
1200 | Bank, Averin Savings | asset | bank
1260 | Bookings site, clearing | asset | clearing
2100 | Suppliers | liability | payables
2200 | Sales tax | liability | tax
2210 | Accruals | liability | accrual
3000 | Capital | equity | capital
3310 | Current account, Ada Pebble | equity | partner-current | PA1
3320 | Current account, Noor Pine | equity | partner-current | PA2
3330 | Current account, Iven Pine | equity | partner-current | PA3
3900 | Profit appropriated | equity | appropriation
4000 | Rooms and breakfast | income | sales | | S23
5000 | Food and linen | expense | cost-of-sales | | S23
5100 | Upkeep of the house | expense | repairs | | S23
6000 | Rent | expense |
6050 | Heat and light | expense | | | S23
6100 | Office costs | expense | | | S23
6400 | Fees of the bookings site | expense | | | S23
6600 | Bank charges | expense | bank-charges
"""
FEE = 15
"""Percent that the bookings site keeps."""
HOUSE = review_plants.Household(
    names=("Ada Pebble", "Noor Pine", "Iven Pine"),
    account="3310",
    wrong_account=None,
    private=("TENNIS CLUB", "SHOE CORNER", "CHEESE COUNTER"),
)


def business() -> Business:
    """The client with its faults and look-alikes."""
    suppliers = [
        Supplier("Q01", "Millstone Bakery", "5000", 7, 3_000, 12_000, Numbers("MB{:06d}", 12011, 20)),
        Supplier("Q02", "Snowdrop Linen", "5000", 15, 12_000, 38_000, Numbers("SL-{:04d}", 610, 4)),
        Supplier("Q03", "Chimney & Roof", "5100", 52, 16_000, 40_000, Numbers("CR {:d}", 77, 3)),
        Supplier("Q04", "Averin Light", "6050", 30, 22_000, 64_000, Numbers("AL/{:08d}", 5511002, 900)),
    ]  # fmt: skip
    customers = [
        Customer("W01", "Walking Weekends", "4000", 21, 60_000, 190_000),
        Customer("W02", "Averin Choir Festival", "4000", 44, 80_000, 240_000),
        Customer("W03", "Beacon Surveyors", "4000", 26, 18_000, 66_000),
    ]
    begun = simulated(
        code="PEBB", name="Pebble & Pine Guesthouse", entity=Entity.PARTNERSHIP, year_end=(12, 31),
        chart=CHART, codes=Chart("1200", "1100", "2100", "2200"), style=Style("PP-{:05d}"),
        suppliers=suppliers, customers=customers,
        others=(
            Party("PA1", "Ada Pebble", PartyKind.OWNER, Fraction(50)),
            Party("PA2", "Noor Pine", PartyKind.OWNER, Fraction(25)),
            Party("PA3", "Iven Pine", PartyKind.OWNER, Fraction(25)),
        ),
        opening=[("0100", 1_870_000), ("1200", 1_012_700), ("3000", -2_882_700)],
        opened_on=date(2024, 12, 31), first=FIRST, last=LAST,
        filed_through=date(2025, 12, 31), filed_on=datetime(2026, 4, 28, 16, 30),
        tax_returned_through=date(2026, 9, 30), materiality=90_000,
        years=(
            FinancialYear("2025", FIRST, date(2025, 12, 31)),
            FinancialYear("2026", date(2026, 1, 1), date(2026, 12, 31), date(2026, 11, 27)),
        ),
    )  # fmt: skip
    _bookings(begun.keeper, begun.made.planted)
    _money(begun.keeper)
    _plant(begun.made, suppliers, customers, begun.numbers)
    renumber_invoices(begun.keeper, "PP{:05d}", 800)
    return begun.made


def _bookings(keeper: Bookkeeper, planted: Planted) -> None:
    """Each month's bookings gross to clearing; the payout is net, the fee is booked beside it, but in
    July, when nobody did."""
    rng = keeper.rng
    for first in month_days(FIRST, LAST, 1):
        end = month_end(first.year, first.month, 31)
        gross = sum_between(rng, 280_000, 720_000)
        tax = tax_within(gross, STANDARD)
        fee = gross * FEE // 100
        fee_tax = tax_within(fee, STANDARD)
        sold = keeper.add(
            Kind.JOURNAL, end, [("1260", gross), ("4000", tax - gross), ("2200", -tax)],
            memo=f"bookings site, guests of {first:%B}", source="journal", tax_code="S23",
        )  # fmt: skip
        paid_out = keeper.add(
            Kind.DIRECT_RECEIPT, end, [("1200", gross - fee), ("1260", fee - gross)],
            memo=f"bookings site payout {first:%B}", source="feed",
        )  # fmt: skip
        if first == date(2026, 7, 1):
            planted.add("clearing-balance", sold, paid_out)
            continue
        keeper.add(
            Kind.JOURNAL, end, [("6400", fee - fee_tax), ("2200", fee_tax), ("1260", -fee)],
            memo=f"bookings site, fee of {first:%B}", source="journal", tax_code="S23",
        )  # fmt: skip


def _money(keeper: Bookkeeper) -> None:
    rng = keeper.rng
    for day in month_days(FIRST, LAST, 3):
        keeper.direct_payment(day, 145_000, "6000", memo="rent of the house")
    for day in month_days(FIRST, LAST, 27):
        keeper.direct_payment(day, sum_between(rng, 900, 2_000), "6600", memo="charges")
    for account, who in (("3320", "Noor Pine"), ("3330", "Iven Pine")):
        for day in month_days(FIRST, LAST, 26):
            keeper.direct_payment(day, 80_000, account, memo=f"{who} monthly")


def _plant(
    made: Business, suppliers: list[Supplier], customers: list[Customer], numbers: Numbers
) -> None:
    keeper, planted = made.keeper, made.planted
    bakery, linen, roof, _ = suppliers
    walking, choir, surveyors = customers
    review_plants.ordinary_owner(keeper, HOUSE, FIRST, LAST)
    for on, cost, way in (
        (date(2026, 3, 11), "5000", "learned"),
        (date(2026, 6, 4), "6100", "learned"),
        (date(2026, 8, 13), "5000", "named"),
    ):
        review_plants.owner_spending(keeper, planted, HOUSE, on, cost, way)
    gross = sum_between(keeper.rng, linen.low, linen.high)
    bill = keeper.bill(
        linen.code, date(2026, 5, 5), gross, linen.account, reference=linen.numbers.next(keeper.rng)
    )
    plants.twice(keeper, planted, bill, plants.letters_for_digits)
    plants.paid_direct(keeper, planted, roof, date(2026, 4, 16), coded_to="6100")
    plants.received_direct(keeper, planted, surveyors, numbers, date(2026, 6, 25))
    plants.on_account(keeper, planted, walking, numbers, date(2026, 8, 20))
    review_plants.wrong_party(
        keeper, planted, walking, choir, numbers, date(2026, 7, 15), named=True
    )
    coding_plants.odd_tax(keeper, planted, linen, date(2026, 7, 8))
    coding_plants.of_last_year(keeper, planted, roof, 2026)
    plants.same_price_same_day(keeper, bakery, date(2026, 6, 10), 7_380)
