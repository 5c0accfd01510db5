"""SALT, Saltmarsh Kayaks: a sole trader who hires out kayaks and runs tours, busy in summer.

Filed to the end of 2025, to be signed as at 31 October 2026. The guide in the README walks through
its first points.
"""

from dataclasses import replace
from datetime import date, datetime, timedelta
from random import Random

from corkpost.core.books import Books, Party
from corkpost.core.kinds import Entity, PartyKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import tax_within
from corkpost.core.periods import FinancialYear
from corkpost.demo import plants
from corkpost.demo.bank import (
    ALL_FORMATS,
    Banked,
    BankFaults,
    BankHabit,
    Reached,
    banked,
    exchanged,
)
from corkpost.demo.bookkeeper import STANDARD, Bookkeeper, Chart, Style
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
from corkpost.stand_ins.statement_files import BankLine

FIRST, LAST = date(2025, 1, 1), date(2026, 10, 31)

CHART = """
0100 | Boats and trailers, cost | asset | fixed-asset
0110 | Boats and trailers, depreciation | asset | accumulated-depreciation
1100 | Trade receivables | asset | receivables
1200 | Bank, Averin Savings | asset | bank
1210 | Cash box | asset | cash
1250 | Takings in hand | asset | unbanked
1260 | Card takings to come | asset | card-clearing
1400 | Prepayments | asset | prepayment
2100 | Trade payables | liability | payables
2200 | Sales tax | liability | tax
2210 | Accruals | liability | accrual
2290 | Clearing, bank errors | asset | clearing
2300 | Deferred income | liability | deferred-income
3000 | Capital, Maris Holt | equity | capital | OWN1
3100 | Capital introduced | equity | capital-introduced | OWN1
3200 | Drawings | equity | drawings | OWN1
4000 | Kayak hire | income | sales | | S23
4010 | Tours and courses | income | sales | | S23
4090 | Other income | income |
5100 | Guides and helpers | expense | cost-of-sales
5200 | Fuel | expense | | | S23
5310 | Electricity | expense | | | S23
5320 | Boathouse rent | expense |
6100 | Office costs | expense | | | S23
6150 | Phone and internet | expense |
6200 | Small equipment | expense | | | S23
6300 | Card fees | expense |
6310 | Bank charges | expense | bank-charges
6400 | Insurance | expense |
6500 | Advertising | expense |
7100 | Repairs | expense | | | S23
7900 | Depreciation | expense |
"""


def _suppliers() -> dict[str, Supplier]:
    def form(
        code: str,
        name: str,
        account: str,
        every: int,
        low: int,
        high: int,
        form: str,
        last: int,
        jump: int = 3,
    ) -> Supplier:
        return Supplier(code, name, account, every, low, high, Numbers(form, last, jump))

    made = (
        form("S001", "Reedwharf Fuels", "5200", 28, 18_000, 26_000, "RW-{:04d}", 96, 2),
        form("S002", "Kittiwake Signs", "6500", 70, 21_000, 48_000, "KS {:05d}", 4410, 25),
        form("S003", "Sandpiper Trailers", "7100", 55, 30_000, 90_000, "{:d}/26", 310, 9),
        form("S004", "Marram Insurance", "6400", 91, 45_000, 46_000, "POL-88{:03d}", 120, 4),
        form("S005", "Tern Print", "6100", 40, 6_000, 21_000, "{:d}", 2190, 11),
        form("S006", "Averin Power", "5310", 61, 28_000, 52_000, "AP{:07d}", 33100, 900),
        form("S007", "Shoreline Chandlery", "6200", 24, 4_000, 39_000, "SC-{:d}", 7719, 40),
        form("S008", "Low Tide Cleaning", "5100", 30, 16_000, 24_000, "LT{:03d}", 61, 1),
    )
    return {supplier.name: supplier for supplier in made}


def _customers() -> dict[str, Customer]:
    made = (
        Customer("C001", "Harbour School", "4010", 45, 48_000, 92_000),
        Customer("C002", "Averin Scouts", "4000", 50, 22_000, 61_000),
        Customer("C003", "Fairlead Events", "4010", 33, 65_000, 148_000),
        Customer("C004", "Lanternfish Hostel", "4000", 28, 18_000, 44_000),
        Customer("C005", "Port Averin Council", "4010", 75, 90_000, 210_000),
        Customer("C006", "Brackwater College", "4010", 60, 70_000, 130_000),
    )
    return {customer.name: customer for customer in made}


def business() -> Business:
    """The client with its faults and look-alikes."""
    rng = Random("SALT")
    keeper = Bookkeeper(Chart("1200", "1100", "2100", "2200"), rng, Style("T{:04d}"))
    suppliers, customers = _suppliers(), _customers()
    _opening(keeper)
    for supplier in suppliers.values():
        buy(keeper, supplier, FIRST, LAST)
    numbers = Numbers("draft {:04d}", 0)
    for customer in customers.values():
        sell(keeper, customer, numbers, FIRST, LAST)
    _takings(keeper)
    _direct_costs(keeper)
    made = Business(
        code="SALT",
        name="Saltmarsh Kayaks",
        entity=Entity.SOLE_TRADER,
        year_end=(12, 31),
        accounts=chart_of(CHART),
        parties=parties_of(
            suppliers.values(),
            customers.values(),
            (
                Party("OWN1", "Maris Holt", PartyKind.OWNER, aliases=("M Holt",)),
                Party("S020", "Cormorant Mobile", PartyKind.SUPPLIER),
                Party("S021", "Quayside Estates", PartyKind.SUPPLIER),
            ),
        ),
        keeper=keeper,
        books_from=FIRST,
        books_to=LAST,
        filed_through=date(2025, 12, 31),
        filed_on=datetime(2026, 4, 6, 11, 15),
        tax_returned_through=date(2026, 9, 30),
        years=(
            FinancialYear("2025", FIRST, date(2025, 12, 31)),
            FinancialYear("2026", date(2026, 1, 1), date(2026, 12, 31), date(2026, 11, 30)),
        ),
    )
    _plant(made, suppliers, customers, numbers)
    renumber_invoices(keeper, "SK-{:04d}", 231)
    made.bank = _bank
    return made


def _bank(books: Books, last: date) -> tuple[Banked, ...]:
    """Twelve months at Averin Savings. In the last two the bookkeeper and the bank each slipped."""

    def entry(on: date, words: str) -> tuple[str, int]:
        return next(
            (posted.id, line.amount)
            for posted, line in books.lines_on("1200")
            if posted.posting_date >= on and words in (posted.memo or "")
        )

    dues, dues_amount = entry(date(2026, 9, 8), "harbour dues")
    receipt, received = entry(date(2026, 9, 20), "receipt SK")
    # The bank lost the last digit, and put it right two days later.
    credited = received // 10
    faults = BankFaults(
        amounts={dues: exchanged(dues_amount), receipt: credited},
        extra=[
            BankLine(date(2026, 9, 30), -650, "ACCOUNT FEE SEPTEMBER"),
            BankLine(date(2026, 10, 30), -650, "ACCOUNT FEE OCTOBER"),
            BankLine(date(2026, 10, 12), -1_999, "TIDEWATCH WEATHER SUBSCRIPTION"),
            BankLine(date(2026, 11, 3), -64_000, "QUAYSIDE ESTATES ONLINE TRANSFER"),
            BankLine(date(2026, 11, 12), -1_999, "TIDEWATCH WEATHER SUBSCRIPTION"),
        ],
    )
    habit = BankHabit("EE441200078812", ALL_FORMATS)
    side = banked(books, "1200", habit, Random("SALT bank"), date(2025, 11, 1), last, faults)
    wrong = next(r.line for r in side.movements if r.entry and r.entry[0] == receipt)
    back = BankLine(
        wrong.day + timedelta(days=2), received - credited, f"CORRECTION {wrong.day:%d/%m}",
        bank_id=f"{wrong.day:%y%m%d}C",
    )  # fmt: skip
    movements = sorted([*side.movements, Reached(back, None)], key=lambda r: r.line.day)
    return (replace(side, movements=tuple(movements)),)


def _opening(keeper: Bookkeeper) -> None:
    keeper.add(
        Kind.OPENING,
        date(2024, 12, 31),
        [
            ("0100", 4_820_000),
            ("0110", -1_240_000),
            ("1200", 1_385_420),
            ("1210", 15_000),
            ("2200", -92_310),
            ("3000", -4_888_110),
        ],
        memo="Opening balances",
        source="journal",
        keyed_after=20,
    )


def _takings(keeper: Bookkeeper) -> None:
    """Weekly takings over the counter: cash banked, cards paid out less the fee."""
    rng = keeper.rng
    for day in days(rng, FIRST, LAST - timedelta(days=9), 7, 0):
        season = 1 + 4 * (5 <= day.month <= 9)
        cash = sum_between(rng, 3_000, 9_000) * season
        card = sum_between(rng, 9_000, 26_000) * season
        tax = tax_within(cash + card, STANDARD)
        keeper.add(
            Kind.TAKINGS,
            day,
            [("1250", cash), ("1260", card), ("4000", tax - cash - card), ("2200", -tax)],
            memo=f"takings week to {day:%d %b}",
            source="till",
            tax_code="S23",
        )
        keeper.add(
            Kind.BANKING,
            day + timedelta(days=2),
            [("1200", cash), ("1250", -cash)],
            memo="cash paid in",
            source="bank",
        )
        fee = card * 12 // 1000
        keeper.add(
            Kind.TRANSFER,
            day + timedelta(days=3),
            [("1200", card - fee), ("6300", fee), ("1260", -card)],
            memo="card settlement",
            source="feed",
        )


def _direct_costs(keeper: Bookkeeper) -> None:
    rng = keeper.rng
    for day in month_days(FIRST, LAST, 3):
        keeper.direct_payment(
            day, 64_000, "5320", party="S021", memo="Quayside Estates boathouse rent"
        )
    for day in month_days(FIRST, LAST, 17):
        keeper.direct_payment(day, 4_305, "6150", party="S020", memo="Cormorant Mobile", taxed=True)
    for day in month_days(FIRST, LAST, 28):
        keeper.direct_payment(
            day, sum_between(rng, 60_000, 140_000), "3200", memo="Maris Holt drawings"
        )
    for day in days(rng, FIRST, LAST, 12, 4):
        keeper.direct_payment(
            day,
            sum_between(rng, 700, 6_900),
            rng.choice(("6100", "6200", "5200")),
            memo=rng.choice(
                ("card purchase stationer", "card purchase ironmonger", "harbour dues")
            ),
            taxed=True,
        )


def _plant(
    made: Business,
    suppliers: dict[str, Supplier],
    customers: dict[str, Customer],
    numbers: Numbers,
) -> None:
    keeper, planted = made.keeper, made.planted
    _bill_twice(made)
    _kittiwake(made)
    trailers, tern = suppliers["Sandpiper Trailers"], suppliers["Tern Print"]
    plants.paid_direct(keeper, planted, trailers, date(2026, 6, 22), bills=2, coded_to="6200")
    plants.part_paid_direct(
        keeper, planted, suppliers["Shoreline Chandlery"], date(2026, 8, 14), "7100"
    )
    plants.paid_direct(
        keeper, planted, tern, date(2025, 10, 9), coded_to="6500", taxed=True, named=False,
        memo="TERN PRINT LTD CARD 4471",
    )  # fmt: skip
    school, events = customers["Harbour School"], customers["Fairlead Events"]
    plants.received_direct(
        keeper, planted, events, numbers, date(2026, 7, 20), coded_to="4090", named=False
    )
    plants.on_account(keeper, planted, school, numbers, date(2026, 5, 11))
    plants.on_account(
        keeper, planted, customers["Averin Scouts"], numbers, date(2026, 8, 3), invoices=2
    )
    plants.payment_on_account(
        keeper, planted, suppliers["Low Tide Cleaning"], date(2026, 9, 7), bills=2
    )
    chandler = suppliers["Shoreline Chandlery"]
    plants.same_price_same_day(keeper, chandler, date(2026, 3, 19), 12_450)
    plants.credited(keeper, suppliers["Low Tide Cleaning"], date(2026, 2, 10), 20_910)
    plants.voided(keeper, chandler, date(2026, 4, 22), 8_733)
    plants.deposit(keeper, customers["Brackwater College"], date(2026, 10, 19))
    plants.bought_at_the_counter(keeper, tern, date(2026, 9, 2), "6100")


def _bill_twice(made: Business) -> None:
    """The bill of the handbook's first example, and one of the filed year."""
    keeper = made.keeper
    first = keeper.bill(
        "S001", date(2026, 4, 3), 24_600, "5200", reference="RW-0117", keyed_after=1
    )
    keeper.pay("S001", date(2026, 4, 20), 24_600, [first], memo="REEDWHARF FUELS RW0117")
    again = keeper.bill("S001", date(2026, 4, 5), 24_600, "5200", reference="RW 117", keyed_after=4)
    made.planted.add("duplicate-document", first, again)
    last_year = keeper.bill(
        "S002", date(2025, 11, 3), 36_900, "6500", reference="KS 04702", keyed_after=2
    )
    keeper.pay("S002", date(2025, 11, 28), 36_900, [last_year], memo="Kittiwake KS 04702")
    twin = keeper.bill("S002", date(2025, 11, 6), 36_900, "6500", reference="KS4702", keyed_after=9)
    made.planted.add("duplicate-document", last_year, twin)


def _kittiwake(made: Business) -> None:
    """The bill of the handbook's third example, paid direct."""
    keeper = made.keeper
    bill = keeper.bill("S002", date(2026, 2, 16), 31_857, "6500", reference="KS 04790")
    paid = keeper.direct_payment(
        date(2026, 3, 8), 31_857, "6100", party="S002", memo="KITTIWAKE SIGNS"
    )
    made.planted.add("bill-paid-direct", paid, bill)
