"""TIDE, Nine Tides Sailing School Ltd: a company that teaches; two schools of nearly one name among its
customers, whose money gets mixed up, and a director's own spending among the costs.

Filed to the end of 2025; its year is signed later.
"""

from datetime import date, datetime
from random import Random

from corkpost.core.books import Party
from corkpost.core.kinds import Entity, PartyKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.periods import FinancialYear
from corkpost.demo import plants, review_plants
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
TODAY = date(2026, 11, 16)

CHART = """
0100 | Dinghies, cost | asset | fixed-asset
0110 | Dinghies, depreciation | asset | accumulated-depreciation
1100 | Schools and clubs | asset | receivables
1190 | Schools in credit, shown below | asset | presentation
1200 | Bank, Port Averin | asset | bank
1400 | Prepayments | asset | prepayment
2100 | Suppliers | liability | payables
2200 | Sales tax | liability | tax
2210 | Accruals | liability | accrual
2300 | Course fees in advance | liability | deferred-income
2400 | Director's loan, Nell Hawkins | liability | owner-loan | DIR1
3000 | Share capital | equity |
3100 | Retained earnings | equity | retained-earnings
4000 | Courses | income | sales | | S23
4090 | Other income | income |
5000 | Instructors | expense | cost-of-sales
5100 | Boat upkeep | expense | repairs | | S23
6000 | Slipway rent | expense |
6100 | Office costs | expense | | | S23
6200 | Safety gear | expense | | | S23
6500 | Insurance | expense |
6600 | Bank charges | expense | bank-charges
6900 | Debts written off | expense | bad-debt
"""
CADETS = Customer("N07", "Kestrel Sea Cadets", "4000", 999, 0, 0)
HOUSE = review_plants.Household(
    names=("Nell Hawkins",),
    account="2400",
    wrong_account=None,
    private=("RIDING LESSONS", "GARDEN CENTRE", "PIANO TEACHER"),
)


def business() -> Business:
    """The client with its faults and look-alikes."""
    rng = Random("TIDE")
    keeper = Bookkeeper(Chart("1200", "1100", "2100", "2200"), rng, Style("NT{:05d}"))
    suppliers = [
        Supplier("W01", "Spinnaker Lofts", "5100", 21, 12_000, 88_000, Numbers("SL-{:05d}", 2011, 9)),
        Supplier("W02", "Breeze Instructors", "5000", 14, 64_000, 120_000,
                 Numbers("BI/{:04d}", 300, 3), taxed=False),
        Supplier("W03", "Lifeline Marine", "6200", 33, 9_000, 70_000, Numbers("{:06d}", 88120, 40)),
        Supplier("W04", "Quay Stationers", "6100", 29, 2_400, 16_000, Numbers("QS{:05d}", 9120, 25)),
    ]  # fmt: skip
    customers = [
        Customer("N01", "Averin North School", "4000", 24, 60_000, 240_000),
        Customer("N02", "Averin South School", "4000", 26, 60_000, 240_000),
        Customer("N03", "Gannet Academy", "4000", 30, 45_000, 160_000),
        Customer("N04", "Fulmar Youth Trust", "4000", 34, 30_000, 98_000),
        Customer("N05", "Port Averin Scouts", "4000", 28, 22_000, 80_000),
        Customer("N06", "Sandbank Holidays", "4000", 40, 90_000, 310_000),
    ]
    _opening(keeper)
    for supplier in suppliers:
        buy(keeper, supplier, FIRST, LAST)
    numbers = Numbers("draft {:04d}", 0)
    for customer in customers:
        sell(keeper, customer, numbers, FIRST, LAST)
    _money(keeper)
    made = Business(
        code="TIDE",
        name="Nine Tides Sailing School Ltd",
        entity=Entity.COMPANY,
        year_end=(12, 31),
        accounts=chart_of(CHART),
        parties=parties_of(
            suppliers, [*customers, CADETS], (Party("DIR1", "Nell Hawkins", PartyKind.OWNER),)
        ),
        keeper=keeper,
        books_from=FIRST,
        books_to=LAST,
        filed_through=date(2025, 12, 31),
        filed_on=datetime(2026, 5, 20, 11, 15),
        tax_returned_through=date(2026, 9, 30),
        materiality=120_000,
        years=(
            FinancialYear("2025", FIRST, date(2025, 12, 31)),
            FinancialYear("2026", date(2026, 1, 1), date(2026, 12, 31), date(2026, 12, 10)),
        ),
    )
    _plant(made, suppliers, customers, numbers)
    renumber_invoices(keeper, "NT-{:05d}", 740)
    return made


def _opening(keeper: Bookkeeper) -> None:
    keeper.add(
        Kind.OPENING,
        date(2024, 12, 31),
        [
            ("0100", 7_840_000),
            ("0110", -2_960_000),
            ("1200", 2_184_400),
            ("2400", -3_500_000),
            ("3000", -100_000),
            ("3100", -3_464_400),
        ],
        memo="Opening balances",
        source="journal",
        keyed_after=12,
    )


def _money(keeper: Bookkeeper) -> None:
    rng = keeper.rng
    for day in month_days(FIRST, LAST, 3):
        keeper.direct_payment(day, 92_000, "6000", memo="slipway rent")
    for day in month_days(FIRST, LAST, 28):
        keeper.direct_payment(day, sum_between(rng, 900, 2_400), "6600", memo="charges")
    for day in days(rng, FIRST, LAST, 13, 4):
        keeper.direct_payment(
            day, sum_between(rng, 1_800, 9_500), "6100", memo="card purchase post office"
        )
    for month in (date(2025, 3, 12), date(2026, 3, 12)):
        keeper.direct_payment(month, 148_000, "6500", memo="hull insurance")


def _paid_ahead(keeper: Bookkeeper, planted: plants.Planted) -> None:
    """Money for a course in spring that nobody has invoiced yet: a customer in credit at the cut-off."""
    keeper.receive(CADETS.code, date(2026, 9, 25), 115_000, memo="deposit, spring course")
    planted.add("balance-wrong-side", CADETS.code)


def _plant(
    made: Business, suppliers: list[Supplier], customers: list[Customer], numbers: Numbers
) -> None:
    keeper, planted = made.keeper, made.planted
    lofts, _, lifeline, stationers = suppliers
    north, south, academy, trust, scouts, holidays = customers
    review_plants.ordinary_owner(keeper, HOUSE, FIRST, LAST)
    review_plants.wrong_party(keeper, planted, south, north, numbers, date(2026, 5, 19), named=True)
    review_plants.wrong_party(keeper, planted, north, south, numbers, date(2026, 9, 8), named=False)
    review_plants.wrong_party(
        keeper, planted, north, academy, numbers, date(2025, 10, 14), named=True
    )
    review_plants.wrong_item(keeper, planted, academy, numbers, date(2026, 6, 24), quoted=True)
    review_plants.wrong_item(keeper, planted, trust, numbers, date(2026, 8, 12), quoted=False)
    review_plants.journal_pair(keeper, planted, scouts, date(2026, 2, 27), linked=False)
    review_plants.doubtful(keeper, planted, holidays, numbers, TODAY)
    for on, cost, way in (
        (date(2026, 4, 9), "6100", "learned"),
        (date(2026, 7, 2), "6200", "learned"),
        (date(2026, 8, 20), "6100", "named"),
        (date(2025, 9, 3), "6100", "cash"),
    ):
        review_plants.owner_spending(keeper, planted, HOUSE, on, cost, way)
    review_plants.owner_money_in(keeper, planted, HOUSE, date(2026, 3, 5), "4090")
    gross = sum_between(keeper.rng, lofts.low, lofts.high)
    bill = keeper.bill(
        lofts.code, date(2026, 6, 2), gross, lofts.account, reference=lofts.numbers.next(keeper.rng)
    )
    plants.twice(keeper, planted, bill, plants.undashed)
    plants.paid_direct(keeper, planted, lifeline, date(2026, 7, 16), coded_to="6200")
    review_plants.pays_for_another(keeper, scouts, trust, numbers, date(2026, 1, 12))
    review_plants.payment_plan(keeper, holidays, numbers, TODAY)
    _paid_ahead(keeper, planted)
    plants.same_price_same_day(keeper, stationers, date(2026, 5, 6), 9_840)
