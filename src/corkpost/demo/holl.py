"""HOLL, Hollow Oak Joinery: a sole trader who pays by cheque and carries customers' cheques to the bank.

Receipts in hand banked in sums, swapped cheque numbers, a cheque that was lost, a move to savings coded
as cost, and an error of the bank itself. Waits for the client's answer at the start.
"""

from dataclasses import replace
from datetime import date, datetime, timedelta
from random import Random

from corkpost.core.books import Books, Party, Transaction
from corkpost.core.kinds import Entity, PartyKind, StatementFormat
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.periods import FinancialYear
from corkpost.demo.bank import Banked, BankFaults, BankHabit, Reached, banked, exchanged
from corkpost.demo.bookkeeper import Bookkeeper, Chart, Style
from corkpost.demo.client import Business, chart_of, parties_of
from corkpost.demo.habits import (
    Customer,
    Numbers,
    Supplier,
    buy,
    month_days,
    renumber_invoices,
    sell,
    sum_between,
)
from corkpost.stand_ins.statement_files import BankLine

FIRST, LAST = date(2025, 1, 1), date(2026, 10, 31)
SHOWN_FROM = date(2025, 11, 1)

CHART = """
0100 | Workshop tools, cost | asset | fixed-asset
0110 | Workshop tools, depreciation | asset | accumulated-depreciation
1100 | Customers | asset | receivables
1200 | Current account | asset | bank
1210 | Savings account | asset | bank
1250 | Cheques and cash in hand | asset | unbanked
1290 | Clearing | asset | clearing
2100 | Suppliers | liability | payables
2200 | Sales tax | liability | tax
2210 | Accruals | liability | accrual
3000 | Capital, Owen Sallow | equity | capital | OWN1
3100 | Capital introduced | equity | capital-introduced | OWN1
3200 | Drawings | equity | drawings | OWN1
4000 | Joinery | income | sales | | S23
4090 | Other income | income |
5000 | Timber and boards | expense | cost-of-sales | | S23
5100 | Ironmongery | expense | cost-of-sales | | S23
5300 | Workshop rent | expense |
5310 | Electricity | expense | | | S23
6100 | Office costs | expense | | | S23
6200 | Small tools | expense | | | S23
6300 | Bank charges | expense | bank-charges
6400 | Insurance | expense |
7100 | Repairs | expense | repairs | | S23
7900 | Depreciation | expense | depreciation
"""
IN_HAND = ("C002", "C003", "C005")
"""Customers who pay by cheque or cash, carried to the bank in sums."""


def _suppliers() -> list[Supplier]:
    def form(
        code: str, name: str, account: str, every: int, low: int, high: int, number: str
    ) -> Supplier:
        return Supplier(code, name, account, every, low, high, Numbers(number, 210, 7))

    return [
        form("S001", "Marram Timber", "5000", 12, 24_000, 118_000, "MT{:05d}"),
        form("S002", "Gudgeon & Pintle", "5100", 17, 4_500, 22_000, "GP-{:d}"),
        form("S003", "Averin Power", "5310", 61, 21_000, 39_000, "AP{:07d}"),
        form("S004", "Spokeshave Tools", "6200", 33, 3_900, 28_000, "{:d}/S"),
        form("S005", "Tern Print", "6100", 70, 5_000, 14_000, "{:d}"),
        form("S006", "Sandpiper Trailers", "7100", 85, 12_000, 40_000, "{:d}/26"),
    ]


def _customers() -> list[Customer]:
    return [
        Customer("C001", "Foreshore Homes", "4000", 21, 90_000, 420_000),
        Customer("C002", "Little Auk Club", "4000", 38, 12_000, 64_000),
        Customer("C003", "Dunlin & Daughter", "4000", 24, 8_000, 55_000),
        Customer("C004", "Port Averin Council", "4000", 47, 110_000, 260_000),
        Customer("C005", "Guillemot Rope", "4000", 29, 15_000, 70_000),
    ]


def business() -> Business:
    """The client with its faults and look-alikes."""
    rng = Random("HOLL")
    keeper = Bookkeeper(Chart("1200", "1100", "2100", "2200"), rng, Style("H-{:05d}"))
    suppliers, customers = _suppliers(), _customers()
    _opening(keeper)
    for supplier in suppliers:
        buy(keeper, supplier, FIRST, LAST)
    numbers = Numbers("draft {:04d}", 0)
    for customer in customers:
        sell(keeper, customer, numbers, FIRST, LAST)
    _regular(keeper)
    left_out = _in_hand_and_banked(keeper)
    _miscoded_move(keeper)
    made = Business(
        code="HOLL",
        name="Hollow Oak Joinery",
        entity=Entity.SOLE_TRADER,
        year_end=(12, 31),
        accounts=chart_of(CHART),
        parties=parties_of(
            suppliers,
            customers,
            (
                Party("OWN1", "Owen Sallow", PartyKind.OWNER),
                Party("S020", "Quayside Estates", PartyKind.SUPPLIER),
            ),
        ),
        keeper=keeper,
        books_from=FIRST,
        books_to=LAST,
        filed_through=date(2025, 12, 31),
        filed_on=datetime(2026, 5, 12, 10, 40),
        tax_returned_through=date(2026, 9, 30),
        years=(
            FinancialYear("2025", FIRST, date(2025, 12, 31)),
            FinancialYear("2026", date(2026, 1, 1), date(2026, 12, 31), date(2026, 11, 30)),
        ),
    )
    renumber_invoices(keeper, "HO-{:04d}", 118)
    _number_cheques(keeper)
    made.bank = lambda books, last: _bank(books, last, left_out)
    return made


def _opening(keeper: Bookkeeper) -> None:
    keeper.add(
        Kind.OPENING,
        date(2024, 12, 31),
        [
            ("0100", 2_410_000),
            ("0110", -980_000),
            ("1200", 1_120_450),
            ("1210", 600_000),
            ("2200", -71_200),
            ("3000", -3_079_250),
        ],
        memo="Opening balances",
        source="journal",
        keyed_after=25,
    )


def _regular(keeper: Bookkeeper) -> None:
    for day in month_days(FIRST, LAST, 2):
        keeper.direct_payment(
            day, 78_000, "5300", party="S020", memo="Quayside Estates workshop rent"
        )
    for day in month_days(FIRST, LAST, 12):
        keeper.direct_payment(day, 11_640, "6400", memo="MARRAM MUTUAL INSURANCE DD")
    for day in month_days(FIRST, LAST, 26):
        keeper.direct_payment(
            day, sum_between(keeper.rng, 90_000, 180_000), "3200", memo="Owen Sallow drawings"
        )


def _in_hand_and_banked(keeper: Bookkeeper) -> list[tuple[date, int]]:
    """Receipts of some customers go into hand, and to the bank together every tenth day or so. Two
    bankings of the last months were never recorded: their days and sums."""
    held: list[Transaction] = []
    for name, posted in list(keeper.transactions.items()):
        if posted.kind is Kind.CUSTOMER_RECEIPT and posted.party in IN_HAND:
            lines = tuple(
                line._replace(account="1250") if line.account == "1200" else line
                for line in posted.lines
            )
            keeper.transactions[name] = posted._replace(lines=lines)
            held.append(keeper.transactions[name])
    held.sort(key=lambda posted: (posted.posting_date, posted.id))
    left_out: list[tuple[date, int]] = []
    day = FIRST + timedelta(days=9)
    while day <= LAST:
        ready = [transaction for transaction in held if transaction.posting_date <= day]
        held = [transaction for transaction in held if transaction.posting_date > day]
        total = sum(transaction.total for transaction in ready)
        forgotten = len(left_out) < 2 and day >= date(2026, 9, 10) and len(ready) > 1
        if forgotten:
            left_out.append((day, total))
        elif total:
            keeper.add(
                Kind.BANKING,
                day,
                [("1200", total), ("1250", -total)],
                memo=f"lodgement of {len(ready)}",
                source="bank",
            )
        day += timedelta(days=keeper.rng.randint(8, 13))
    return left_out


def _miscoded_move(keeper: Bookkeeper) -> None:
    keeper.direct_payment(date(2026, 7, 14), 200_000, "6100", memo="transfer to savings")
    keeper.add(
        Kind.DIRECT_RECEIPT,
        date(2026, 7, 15),
        [("1210", 200_000), ("4090", -200_000)],
        memo="received",
        source="feed",
    )


def _number_cheques(keeper: Bookkeeper) -> None:
    """Payments to suppliers are cheques, numbered as they were written."""
    cheques = sorted(
        (t for t in keeper.transactions.values() if t.kind is Kind.SUPPLIER_PAYMENT),
        key=lambda t: (t.posting_date, t.id),
    )
    for number, posted in enumerate(cheques, 1042):
        keeper.transactions[posted.id] = posted._replace(reference=f"{number:06d}")


def _bank(books: Books, last: date, left_out: list[tuple[date, int]]) -> tuple[Banked, ...]:
    """Twelve months of the current account, and on."""
    cheques = [
        posted
        for posted in books.tables.transactions
        if posted.kind is Kind.SUPPLIER_PAYMENT and posted.posting_date >= date(2026, 1, 1)
    ]
    cheques.sort(key=lambda posted: posted.posting_date)
    lost = next(posted for posted in cheques if posted.posting_date >= date(2026, 3, 10))
    one, other = [p for p in cheques if p.posting_date >= date(2026, 9, 7)][:2]
    lodged = next(
        posted
        for posted in books.tables.transactions
        if posted.kind is Kind.BANKING and posted.posting_date >= date(2026, 8, 20)
    )
    right = next(line.amount for line in lodged.lines if line.account == "1200")
    wrong = exchanged(right)
    # What the bank books wrong it puts right within days.
    extra = [
        BankLine(day + timedelta(days=1), total, f"LODGEMENT {500400 + number}")
        for number, (day, total) in enumerate(left_out, 1)
    ]
    extra += [BankLine(date(2026, 9, 30), -1_150, "QUARTERLY FEE")]
    faults = BankFaults(
        amounts={lodged.id: wrong},
        never={lost.id},
        numbers={one.id: other.reference or "", other.id: one.reference or ""},
        extra=extra,
    )
    habit = BankHabit(
        "EE207700012345",
        (StatementFormat.MT940, StatementFormat.CAMT053),
        cheque=(3, 16),
        names_numbers=40,
    )
    side = banked(books, "1200", habit, Random("HOLL bank"), SHOWN_FROM, last, faults)
    slip = next(r.line for r in side.movements if r.entry and r.entry[0] == lodged.id)
    back = BankLine(
        slip.day + timedelta(days=3), right - wrong, f"CORRECTION OF {slip.text}", bank_id="C260901"
    )
    movements = sorted([*side.movements, Reached(back, None)], key=lambda r: r.line.day)
    return (replace(side, movements=tuple(movements)),)
