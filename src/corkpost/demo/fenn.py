"""FENN, Fennel & Thorn: a partnership with a herb nursery and a shop, year to 31 March.

Daily takings by the till, cash carried to the bank once a week, cards paid out less the processor's fee.
In the last weeks a banking and a payout were not recorded, and one day's cash went short.
"""

from datetime import date, datetime, timedelta
from fractions import Fraction
from random import Random

from corkpost.core.books import Books, Party
from corkpost.core.kinds import Entity, PartyKind, StatementFormat
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import tax_within
from corkpost.core.periods import FinancialYear
from corkpost.demo.bank import Banked, BankFaults, BankHabit, banked
from corkpost.demo.bookkeeper import STANDARD, Bookkeeper, Chart, Style
from corkpost.demo.client import Business, chart_of, parties_of
from corkpost.demo.habits import Numbers, Supplier, buy, days, month_days, sum_between
from corkpost.stand_ins.statement_files import BankLine
from corkpost.stand_ins.till import days_of

FIRST, LAST = date(2025, 4, 1), date(2026, 10, 31)
SHOWN_FROM = date(2025, 11, 1)

CHART = """
1000 | Greenhouses, cost | asset | fixed-asset
1010 | Greenhouses, depreciation | asset | accumulated-depreciation
1300 | Plants and goods | asset | stock
1400 | Customers | asset | receivables
1500 | Nursery account | asset | bank
1550 | Till cash in hand | asset | unbanked
1560 | Card takings to come | asset | card-clearing
1590 | Clearing | asset | clearing
2000 | Suppliers | liability | payables
2200 | Sales tax | liability | tax
2300 | Accrued costs | liability | accrual
3310 | Current account, Bea Fennel | equity | partner-current | OWN1
3320 | Current account, Ruth Thorn | equity | partner-current | OWN2
4000 | Shop sales | income | sales | | S23
4100 | Wholesale | income | sales | | S23
5000 | Plants, seeds and pots | expense | cost-of-sales | | S23
5200 | Heating | expense | | | S23
5300 | Shop rent | expense |
5400 | Seasonal help | expense |
6000 | Office | expense | | | S23
6300 | Card and bank fees | expense | bank-charges
7100 | Repairs | expense | repairs | | S23
"""


def _suppliers() -> list[Supplier]:
    def form(code: str, name: str, account: str, every: int, low: int, high: int) -> Supplier:
        numbers = Numbers(f"{name[:2].upper()}-{{:05d}}", 300 + every, 5)
        return Supplier(code, name, account, every, low, high, numbers)

    return [
        form("S01", "Larkrise Seeds", "5000", 6, 90_000, 240_000),
        form("S02", "Cinderford Glass", "7100", 80, 14_000, 52_000),
        form("S03", "Averin Power", "5200", 61, 32_000, 88_000),
        form("S04", "Terracotta Row", "5000", 27, 12_000, 44_000),
        form("S05", "Tern Print", "6000", 64, 4_000, 12_000),
    ]


def business() -> Business:
    """The client with its faults."""
    rng = Random("FENN")
    keeper = Bookkeeper(Chart("1500", "1400", "2000", "2200"), rng, Style("F{:05d}"))
    suppliers = _suppliers()
    _opening(keeper)
    for supplier in suppliers:
        buy(keeper, supplier, FIRST, LAST)
    extra = _takings(keeper)
    for day in month_days(FIRST, LAST, 4):
        keeper.direct_payment(day, 92_000, "5300", memo="PORT AVERIN COUNCIL SHOP RENT")
    for day in days(rng, FIRST, LAST, 7, 0):
        keeper.direct_payment(day, sum_between(rng, 190_000, 230_000), "5400", memo="shop help")
    for day in month_days(FIRST, LAST, 27):
        keeper.direct_payment(
            day, sum_between(rng, 120_000, 190_000), "3310", memo="Bea Fennel drawings"
        )
        keeper.direct_payment(
            day, sum_between(rng, 80_000, 130_000), "3320", memo="Ruth Thorn drawings"
        )
    made = Business(
        code="FENN",
        name="Fennel & Thorn",
        entity=Entity.PARTNERSHIP,
        year_end=(3, 31),
        accounts=chart_of(CHART),
        parties=parties_of(
            suppliers,
            (),
            (
                Party("OWN1", "Bea Fennel", PartyKind.OWNER, share=Fraction(60)),
                Party("OWN2", "Ruth Thorn", PartyKind.OWNER, share=Fraction(40)),
            ),
        ),
        keeper=keeper,
        books_from=FIRST,
        books_to=LAST,
        filed_through=date(2026, 3, 31),
        filed_on=datetime(2026, 9, 14, 9, 20),
        tax_returned_through=date(2026, 9, 30),
        years=(
            FinancialYear("2026", FIRST, date(2026, 3, 31)),
            FinancialYear("2027", date(2026, 4, 1), date(2027, 3, 31), date(2027, 2, 26)),
        ),
    )
    made.bank = lambda books, last: _bank(books, last, extra)
    return made


def _opening(keeper: Bookkeeper) -> None:
    keeper.add(
        Kind.OPENING,
        date(2025, 3, 31),
        [
            ("1000", 3_650_000),
            ("1010", -1_120_000),
            ("1300", 812_000),
            ("1500", 964_000),
            ("2200", -104_000),
            ("3310", -2_521_200),
            ("3320", -1_680_800),
        ],
        memo="Opening balances",
        source="journal",
        keyed_after=20,
    )


def _takings(keeper: Bookkeeper) -> list[BankLine]:
    """The till by day, open but for Sundays; the lines of the bank that were never recorded."""
    span = (LAST - FIRST).days + 1
    open_days = [FIRST + timedelta(days=n) for n in range(span)]
    open_days = [day for day in open_days if day.weekday() != 6]
    missing: list[BankLine] = []
    week: list[int] = []
    for when in days_of("FENN till", open_days):
        tax = tax_within(when.net, STANDARD)
        cash = when.cash - when.returns
        keeper.add(
            Kind.TAKINGS,
            when.day,
            [("1550", cash), ("1560", when.card), ("4000", tax - when.net), ("2200", -tax)],
            reference=when.reference,
            memo=f"till {when.day:%d %b}",
            source="till",
            tax_code="S23",
        )
        week.append(cash)
        if when.day.weekday() == 5:
            _bank_cash(keeper, when.day + timedelta(days=2), sum(week), missing)
            week = []
        _pay_out(keeper, when.day + timedelta(days=2), when.card, missing)
    return missing


def _bank_cash(keeper: Bookkeeper, on: date, total: int, missing: list[BankLine]) -> None:
    if on > LAST:
        return
    # The week of 19 October was carried to the bank and never written down.
    if on == date(2026, 10, 19):
        missing.append(BankLine(on, total, "LODGEMENT 700219"))
        return
    # One week 20.00 of the cash never got there.
    short = 2_000 if on == date(2026, 9, 14) else 0
    lines = [("1500", total - short), ("1550", short - total)]
    keeper.add(Kind.BANKING, on, lines, memo="till cash paid in", source="bank")


def _pay_out(keeper: Bookkeeper, on: date, card: int, missing: list[BankLine]) -> None:
    if on > LAST:
        return
    fee = card * 14 // 1000
    if on == date(2026, 10, 8):
        missing.append(BankLine(on, card - fee, f"CARDPAY SETTLEMENT {on:%d%m}"))
        return
    lines = [("1500", card - fee), ("6300", fee), ("1560", -card)]
    keeper.add(Kind.TRANSFER, on, lines, memo="card payout", source="feed")


def _bank(books: Books, last: date, extra: list[BankLine]) -> tuple[Banked, ...]:
    """Twelve months of the nursery's account, and on."""
    faults = BankFaults(extra=[*extra, BankLine(date(2026, 9, 30), -900, "ACCOUNT FEE")])
    habit = BankHabit(
        "EE910300045678",
        (StatementFormat.CSV, StatementFormat.CAMT053),
        delay=(0, 1),
        full_names=False,
    )
    side = banked(books, "1500", habit, Random("FENN bank"), SHOWN_FROM, last, faults)
    return (side,)
