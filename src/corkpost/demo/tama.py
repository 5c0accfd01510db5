"""TAMA, Tamarisk Translations: a sole trader who is paid in dollars and pounds; exchange differences,
a bank account in each currency, the owner's private costs.

Filed to the end of 2025.
"""

from datetime import date, datetime
from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction
from random import Random

from corkpost.core.books import Books, Party
from corkpost.core.kinds import Entity, PartyKind, StatementFormat
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import Currency
from corkpost.core.periods import FinancialYear, month_end
from corkpost.core.row_kinds.rates import Rate
from corkpost.demo import plants, review_plants
from corkpost.demo.bank import Banked, BankFaults, BankHabit, banked
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
from corkpost.stand_ins.statement_files import BankLine

FIRST, LAST = date(2025, 1, 1), date(2026, 10, 31)

CHART = """
0100 | Computers, cost | asset | fixed-asset
1100 | Agencies and authors | asset | receivables
1200 | Bank, Averin Savings | asset | bank
1210 | Bank in USD | asset | bank
1220 | Bank in GBP | asset | bank
2100 | Suppliers | liability | payables
2200 | Sales tax | liability | tax
3000 | Capital, Sela Tamar | equity | capital | OWN1
3200 | Drawings, Sela Tamar | equity | drawings | OWN1
3300 | Capital introduced | equity | capital-introduced | OWN1
4000 | Translations | income | sales | | EX
5000 | Colleagues | expense | cost-of-sales
6100 | Office costs | expense | | | S23
6150 | Software | expense |
6200 | Travel | expense |
6600 | Bank charges | expense | bank-charges
6700 | Exchange differences | expense | exchange-difference
"""
RATES = {
    "USD": (
        "0.921",
        "0.917",
        "0.934",
        "0.926",
        "0.912",
        "0.908",
        "0.915",
        "0.922",
        "0.930",
        "0.936",
    ),
    "GBP": (
        "1.171",
        "1.166",
        "1.159",
        "1.163",
        "1.174",
        "1.181",
        "1.178",
        "1.169",
        "1.162",
        "1.157",
    ),
}
"""What one of it is in euro, from one quarter's month to the next."""
HOUSE = review_plants.Household(
    names=("Sela Tamar",),
    account="3200",
    wrong_account=None,
    private=("YOGA STUDIO", "FLOWER STALL", "GUITAR LESSONS"),
)


def business() -> Business:
    """The client with its faults and look-alikes."""
    suppliers = [
        Supplier("V01", "Ferris Proofreading", "5000", 20, 12_000, 60_000, Numbers("FP{:04d}", 88, 3),
                 taxed=False),
        Supplier("V02", "Desk & Lamp", "6100", 37, 3_000, 22_000, Numbers("DL-{:06d}", 4110, 60)),
        Supplier("V03", "Kite Legal Terms", "5000", 43, 9_000, 44_000, Numbers("KLT {:05d}", 900, 6),
                 taxed=False),
    ]  # fmt: skip
    customers = [
        Customer("E01", "Cormorant Press", "4000", 19, 48_000, 210_000, taxed=False),
        Customer("E02", "Estuary Agency", "4000", 24, 36_000, 150_000, taxed=False),
        Customer("E03", "Harbour Institute", "4000", 32, 60_000, 190_000, taxed=False),
    ]
    begun = simulated(
        code="TAMA", name="Tamarisk Translations", entity=Entity.SOLE_TRADER, year_end=(12, 31),
        chart=CHART, codes=Chart("1200", "1100", "2100", "2200"), style=Style("TT{:04d}"),
        suppliers=suppliers, customers=customers,
        others=(
            Party("OWN1", "Sela Tamar", PartyKind.OWNER),
            Party("U01", "Longshore Media", PartyKind.CUSTOMER),
            Party("U02", "Bluegrass Documentary", PartyKind.CUSTOMER),
            Party("B01", "Thistle & Crown", PartyKind.CUSTOMER),
        ),
        opening=[
            ("0100", 310_000), ("1200", 642_200), ("1210", 118_400), ("1220", 96_100),
            ("3000", -1_166_700),
        ],
        opened_on=date(2024, 12, 31), first=FIRST, last=LAST,
        filed_through=date(2025, 12, 31), filed_on=datetime(2026, 7, 2, 9, 40),
        tax_returned_through=date(2026, 9, 30), materiality=80_000,
        years=(
            FinancialYear("2025", FIRST, date(2025, 12, 31)),
            FinancialYear("2026", date(2026, 1, 1), date(2026, 12, 31), date(2027, 1, 29)),
        ),
    )  # fmt: skip
    _abroad(begun.keeper, begun.numbers)
    _money(begun.keeper)
    _plant(begun.made, suppliers, customers, begun.numbers)
    renumber_invoices(begun.keeper, "TT/{:05d}", 310)
    begun.made.bank = _bank
    return begun.made


def _bank(books: Books, last: date) -> tuple[Banked, ...]:
    """The statements of the two foreign accounts since July, in their currencies; the books lack the fee of
    the last dollar transfer."""
    rng = Random(61)
    fee = BankLine(date(2026, 10, 19), -1_800, "INCOMING WIRE FEE")
    habits = {
        "1210": BankHabit("US 0091 4471 20", (StatementFormat.CAMT053,)),
        "1220": BankHabit("GB 20 4471 8830", (StatementFormat.CSV,), has_ids=False),
    }
    return tuple(
        banked(
            books,
            account,
            habit,
            rng,
            date(2026, 7, 1),
            last,
            BankFaults(extra=[fee] if account == "1210" else []),
            Currency(HELD[account][0]),
        )
        for account, habit in habits.items()
    )


def rate_on(currency: str, day: date) -> Decimal:
    """What one of the currency is in euro in the quarter of that day."""
    quarter = (day.year - 2025) * 4 + (day.month - 1) // 3
    rates = RATES[currency]
    return Decimal(rates[quarter % len(rates)])


def in_euro(amount: Decimal, currency: str, day: date) -> int:
    """Minor units of euro."""
    exact = amount * rate_on(currency, day) * 100
    return int(exact.quantize(Decimal(1), rounding=ROUND_HALF_UP))


def _abroad(keeper: Bookkeeper, numbers: Numbers) -> None:
    """Invoices in dollars and pounds, paid into an account of that currency at another rate."""
    rng = keeper.rng
    for party, currency, bank, every in (
        ("U01", "USD", "1210", 27),
        ("U02", "USD", "1210", 36),
        ("B01", "GBP", "1220", 30),
    ):
        for day in days(rng, FIRST, LAST, every, 5):
            amount = Decimal(rng.randrange(400, 2_400))
            owed = in_euro(amount, currency, day)
            invoice = keeper.add(
                Kind.SALES_INVOICE, day, [("1100", owed, party), ("4000", -owed)], party=party,
                reference=numbers.next(rng), source="sales", document_date=day, due_days=30,
            )  # fmt: skip
            _mark(keeper, invoice, currency, {"1100": amount}, day)
            paid = day.fromordinal(day.toordinal() + rng.randint(18, 50))
            if paid > LAST:
                continue
            came = in_euro(amount, currency, paid)
            receipt = keeper.add(
                Kind.CUSTOMER_RECEIPT, paid,
                [(bank, came), ("6700", owed - came), ("1100", -owed, party)], party=party,
                memo=f"{currency} {amount} {keeper.transactions[invoice].reference}", source="bank",
            )  # fmt: skip
            _mark(keeper, receipt, currency, {"1100": -amount, bank: amount}, paid)
            keeper.allocate(party, invoice, receipt, owed)
    _revalued(keeper)


def _mark(
    keeper: Bookkeeper, name: str, currency: str, amounts: dict[str, Decimal], day: date
) -> None:
    """Say on the lines what they are in the currency."""
    posted = keeper.transactions[name]
    keeper.transactions[name] = posted._replace(
        currency=currency,
        rate=str(rate_on(currency, day)),
        lines=tuple(
            line._replace(currency=currency, foreign_amount=f"{amounts[line.account]:.2f}")
            if line.account in amounts
            else line
            for line in posted.lines
        ),
    )


def rates() -> list[Rate]:
    """The closing rates that the practice keys: of each quarter's end until now."""
    ends = [month_end(year, month, 31) for year in (2025, 2026) for month in (3, 6, 9, 12)]
    days = [end for end in ends if end <= LAST] + [LAST]
    return [
        Rate(currency, day, Fraction(rate_on(currency, day))) for day in days for currency in RATES
    ]


HELD = {"1210": ("USD", Decimal("1285.56")), "1220": ("GBP", Decimal("820.67"))}
"""What the foreign accounts opened with."""


def _revalued(keeper: Bookkeeper) -> None:
    """At each quarter's end the foreign accounts are taken at its rate."""
    opening = next(p for p in keeper.transactions.values() if p.kind is Kind.OPENING)
    lines = (
        line._replace(currency=HELD[line.account][0], foreign_amount=str(HELD[line.account][1]))
        if line.account in HELD
        else line
        for line in opening.lines
    )
    keeper.transactions[opening.id] = opening._replace(lines=tuple(lines))
    for year, month in ((y, m) for y in (2025, 2026) for m in (3, 6, 9, 12)):
        end = month_end(year, month, 31)
        if end > LAST:
            continue
        for bank, (currency, _) in HELD.items():
            rows = [
                (posted, line)
                for posted in keeper.transactions.values()
                if posted.posting_date <= end
                for line in posted.lines
                if line.account == bank
            ]
            amount = sum(
                (Decimal(line.foreign_amount) for _, line in rows if line.foreign_amount),
                Decimal(0),
            )
            by = in_euro(amount, currency, end) - sum(line.amount for _, line in rows)
            if by:
                keeper.add(
                    Kind.REVALUATION, end, [(bank, by), ("6700", -by)],
                    memo=f"{currency} at {rate_on(currency, end)}", source="journal",
                )  # fmt: skip


def _money(keeper: Bookkeeper) -> None:
    rng = keeper.rng
    for day in month_days(FIRST, LAST, 4):
        keeper.direct_payment(day, 4_900, "6150", memo="translation memory subscription")
    for day in month_days(FIRST, LAST, 28):
        keeper.direct_payment(day, sum_between(rng, 300, 900), "6600", memo="charges")
    for day in days(rng, FIRST, LAST, 24, 6):
        keeper.direct_payment(day, sum_between(rng, 2_000, 19_000), "6200", memo="rail tickets")


def _plant(
    made: Business, suppliers: list[Supplier], customers: list[Customer], numbers: Numbers
) -> None:
    keeper, planted = made.keeper, made.planted
    proof, desk, terms = suppliers
    press, agency, institute = customers
    review_plants.ordinary_owner(keeper, HOUSE, FIRST, LAST)
    for on, cost, way in (
        (date(2026, 2, 19), "6100", "learned"),
        (date(2026, 5, 27), "6200", "learned"),
        (date(2026, 7, 9), "6100", "named"),
        (date(2026, 9, 14), "6200", "cash"),
    ):
        review_plants.owner_spending(keeper, planted, HOUSE, on, cost, way)
    review_plants.owner_money_in(keeper, planted, HOUSE, date(2026, 4, 20), "4000")
    gross = sum_between(keeper.rng, proof.low, proof.high)
    bill = keeper.bill(
        proof.code, date(2026, 6, 8), gross, proof.account, taxed=False,
        reference=proof.numbers.next(keeper.rng),
    )  # fmt: skip
    plants.twice(keeper, planted, bill, plants.exact)
    plants.paid_direct(keeper, planted, terms, date(2026, 3, 24), coded_to="6100")
    plants.paid_direct(keeper, planted, desk, date(2026, 8, 18), bills=2, coded_to="6100")
    plants.received_direct(keeper, planted, agency, numbers, date(2026, 5, 13))
    plants.on_account(keeper, planted, press, numbers, date(2026, 7, 29), invoices=2)
    review_plants.wrong_party(
        keeper, planted, institute, agency, numbers, date(2026, 9, 3), named=True
    )
