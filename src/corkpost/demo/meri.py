"""MERI, Meridian Players: a small theatre group; its year was signed and sealed, and then its books
changed underneath.

Filed to August 2025; August 2026 is signed here.
"""

from datetime import date, datetime

from corkpost.core.books import Party
from corkpost.core.kinds import Entity, PartyKind
from corkpost.core.periods import FinancialYear
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
from corkpost.demo.plants import exact, twice
from corkpost.demo.simulated import simulated

FIRST, LAST = date(2024, 9, 1), date(2026, 10, 31)
YEAR_END = date(2026, 8, 31)

CHART = """
1100 | Schools and venues | asset | receivables
1200 | Bank, Averin Savings | asset | bank
2100 | Suppliers | liability | payables
2200 | Sales tax | liability | tax
2450 | Owed to members | liability | member-payable
3100 | Accumulated fund | equity | accumulated-fund
4000 | Tickets | income | sales
4100 | Hired performances | income |
4200 | Members' fees | income |
5000 | Costumes and sets | expense | cost-of-sales
6000 | Hall hire | expense |
6100 | Printing and post | expense |
6600 | Bank charges | expense | bank-charges
"""


def business(*, changed: bool = False) -> Business:
    """The client. *changed*: as its bookkeeper gave it out again, after the year was signed here."""
    suppliers = [
        Supplier("R01", "Wardrobe Wagon", "5000", 40, 6_000, 34_000, Numbers("WW-{:04d}", 120, 4),
                 taxed=False),
        Supplier("R02", "Footlight Hire", "5000", 55, 9_000, 40_000, Numbers("FH {:05d}", 3300, 9),
                 taxed=False),
        Supplier("R03", "Averin Posters", "6100", 34, 2_000, 9_000, Numbers("{:06d}", 7110, 30),
                 taxed=False),
    ]  # fmt: skip
    customers = [
        Customer("Z01", "Harbour Primary School", "4100", 60, 20_000, 60_000, taxed=False),
        Customer("Z02", "Lighthouse Care Home", "4100", 75, 15_000, 45_000, taxed=False),
    ]
    begun = simulated(
        code="MERI", name="Meridian Players", entity=Entity.ASSOCIATION, year_end=(8, 31),
        chart=CHART, codes=Chart("1200", "1100", "2100", "2200"), style=Style("MP{:04d}"),
        suppliers=suppliers, customers=customers,
        others=(Party("MB1", "Corin Ashe", PartyKind.OWNER),),
        opening=[("1200", 418_600), ("3100", -418_600)],
        opened_on=date(2024, 8, 31), first=FIRST, last=LAST,
        filed_through=date(2025, 8, 31), filed_on=datetime(2026, 2, 12, 18, 0),
        materiality=25_000,
        years=(
            FinancialYear("2025", FIRST, date(2025, 8, 31)),
            FinancialYear("2026", date(2025, 9, 1), YEAR_END, date(2026, 11, 30)),
        ),
    )  # fmt: skip
    keeper = begun.keeper
    _money(keeper)
    poster = suppliers[2]
    gross = sum_between(keeper.rng, poster.low, poster.high)
    bill = keeper.bill(
        poster.code, date(2026, 5, 12), gross, poster.account, taxed=False,
        reference=poster.numbers.next(keeper.rng),
    )  # fmt: skip
    twice(keeper, begun.made.planted, bill, exact, apart=2)
    renumber_invoices(keeper, "MP-{:03d}", 40)
    if changed:
        late = keeper.direct_payment(
            date(2026, 7, 14), 8_640, "6100", memo="programmes, second run"
        )
        keeper.transactions[late] = keeper.transactions[late]._replace(
            entered_at=datetime(2026, 11, 12, 20, 15)
        )
    return begun.made


def _money(keeper: Bookkeeper) -> None:
    rng = keeper.rng
    for day in month_days(FIRST, LAST, 5):
        keeper.direct_payment(day, 24_000, "6000", memo="hall hire")
    for day in days(rng, FIRST, LAST, 21, 5):
        keeper.direct_receipt(day, sum_between(rng, 18_000, 64_000), "4000", memo="ticket office")
    for day in days(rng, FIRST, LAST, 30, 6):
        keeper.direct_receipt(day, 1_500, "4200", memo="member fee")
    for day in month_days(FIRST, LAST, 28):
        keeper.direct_payment(day, sum_between(rng, 200, 600), "6600", memo="charges")
