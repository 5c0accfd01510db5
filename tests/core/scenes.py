"""Small happenings that go wrong, each so that one posting route puts it right: what books of any content
are made of, so that the laws reach every route."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import Any

from corkpost.core.books import Account, Allocation, Party, PostedChange, StockItem, Transaction
from corkpost.core.kinds import AccountRole, AccountType, EntryKind, PartyKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.statements import StatementLine
from tests.builders import (
    PARTY_CODES,
    allocated,
    bank_line,
    bill,
    direct_payment,
    direct_receipt,
    invoice,
    payment,
    posted,
    receipt,
)
from tests.notation import EUR

TWIN = Party("S9", "Reed Wharf", PartyKind.SUPPLIER)
PARTY_CODES[TWIN.name] = TWIN.code
HIRE = Account("6200", "boat hire", AccountType.ASSET, expected_type=AccountType.EXPENSE)
CASH = Account("1210", "cash box", AccountType.ASSET, AccountRole.CASH)


@dataclass(frozen=True)
class Scene:
    """Rows of the books, and lines of the bank's statement. *changes*: those that brought rows of ours;
    *arrived*: the ids of the rows that a later import brought, under its number."""

    rows: tuple[Transaction, ...] = ()
    allocations: tuple[Allocation, ...] = ()
    lines: tuple[StatementLine, ...] = ()
    tables: Mapping[str, tuple[Any, ...]] = field(default_factory=dict)
    changes: tuple[PostedChange, ...] = ()
    arrived: Mapping[str, int] = field(default_factory=dict)


Make = Callable[[str, date], Scene]


def _later(day: date, days: int) -> str:
    return str(day + timedelta(days=days))


def _of(rows: Iterable[Transaction], *lines: StatementLine, **more: Any) -> Scene:
    return Scene(tuple(rows), lines=lines, **more)


def entered_twice(amount: str, day: date) -> Scene:
    references = (f"RW-{day:%m%d}1", f"RW {day:%m%d}1")
    return _of(bill(x, on=str(day), fuel=amount, tax="2.30") for x in references)


def paid_past_the_bill(amount: str, day: date) -> Scene:
    own = bill(f"KS-{day:%m%d}", str(day), "Kittiwake Signs", fuel=amount)
    paid = direct_payment(_later(day, 9), party="Kittiwake Signs", office=amount)
    return _of((own, paid))


def set_against_the_wrong_customer(amount: str, day: date) -> Scene:
    school = invoice(f"SK-{day:%m%d}", on=str(day), sales=amount)
    scouts = invoice(f"AV-{day:%m%d}", str(day), "Averin Scouts", sales=amount)
    paid = receipt(_later(day, 9), amount, memo="AVERIN SCOUTS")
    return Scene((school, scouts, paid), (allocated(school, paid, amount),))


def left_on_account(amount: str, day: date) -> Scene:
    own = bill(f"TP-{day:%m%d}", str(day), "Tern Print Ltd", office=amount)
    return _of((own, payment(_later(day, 9), amount, "Tern Print Ltd")))


def left_on_clearing(amount: str, day: date) -> Scene:
    return _of([posted(f"Dr clearing {amount}, Cr sales {amount}", on=day)])


def private_in_the_costs(amount: str, day: date) -> Scene:
    return _of([direct_payment(str(day), memo="TRANSFER BEA FENNEL", office=amount)])


def moved_to_savings_as_cost(amount: str, day: date) -> Scene:
    out = posted(
        f"Dr office {amount}, Cr bank {amount}",
        on=day, kind=Kind.DIRECT_PAYMENT, memo="TRANSFER TO SAVINGS",
    )  # fmt: skip
    back = posted(
        f"Dr savings {amount}, Cr other income {amount}",
        on=day + timedelta(days=1), kind=Kind.DIRECT_RECEIPT, memo="TRANSFER FROM BANK",
    )  # fmt: skip
    return _of((out, back))


def digits_exchanged(amount: str, day: date) -> Scene:
    paid = direct_payment(str(day), memo="harbour dues", office="21.49")
    return _of([paid], bank_line(str(day), "-12.49", "HARBOUR DUES"))


def credited_too_little(amount: str, day: date) -> Scene:
    owed = invoice(f"SK-9{day:%m%d}", on=_later(day, -9), sales="2480.00")
    paid = receipt(str(day), "2480.00")
    lines = (
        bank_line(str(day), "248.00", "HARBOUR SCHOOL"),
        bank_line(_later(day, 2), "2232.00", "CORRECTION"),
    )
    return Scene((owed, paid), (allocated(owed, paid, "2480.00"),), lines)


def keyed_late(amount: str, day: date) -> Scene:
    text = f"Dr fuel {amount}, Cr bank {amount}"
    return _of([posted(text, on="2025-11-03", keyed="2026-07-01T09:00")])


def under_two_names(amount: str, day: date) -> Scene:
    own = bill(f"RW-{day:%m%d}7", on=str(day), fuel=amount)
    twin = bill(f"RW-{day:%m%d}8", _later(day, 30), TWIN.name, fuel=amount)
    return _of((own, twin), tables={"parties": (TWIN,)})


def cost_among_the_assets(amount: str, day: date) -> Scene:
    row = posted(f"Dr office {amount}, Cr bank {amount}", on=day)
    lines = (row.lines[0]._replace(account=HIRE.code), row.lines[1])
    return _of([row._replace(lines=lines)], tables={"accounts": (HIRE,)})


def banked_in_one_sum(amount: str, day: date) -> Scene:
    held = [
        posted(
            f"Dr in hand {x}, Cr receivables (Harbour School) {x}",
            on=day,
            kind=Kind.CUSTOMER_RECEIPT,
        )
        for x in ("40.00", "61.25")
    ]
    return _of(held, bank_line(_later(day, 3), "101.25", "LODGEMENT"))


def numbers_exchanged(amount: str, day: date) -> Scene:
    one = payment(str(day), "50.00")._replace(reference="001101")
    two = payment(_later(day, 1), "75.00", "Tern Print Ltd")._replace(reference="001102")
    lines = (
        bank_line(_later(day, 4), "-50.00", "CHQ", reference="001102"),
        bank_line(_later(day, 5), "-75.00", "CHQ", reference="001101"),
    )
    return _of((one, two), *lines)


def not_in_the_books(amount: str, day: date) -> Scene:
    return _of((), bank_line(str(day), f"-{amount}", "CARD 4471 QUAYSIDE"))


def never_presented(amount: str, day: date) -> Scene:
    own = bill(f"TP-8{day:%m%d}", "2026-01-02", "Tern Print Ltd", office=amount, tax="2.30")
    total = EUR.format(EUR.parse(amount) + 230)
    paid = payment("2026-01-10", total, "Tern Print Ltd")
    return Scene((own, paid), (allocated(paid, own, total),), _ANY_LINE)


def money_comes_back(amount: str, day: date) -> Scene:
    over = payment(str(day), "75.00", "Kittiwake Signs")
    return _of([over], bank_line(_later(day, 40), "75.00", "KITTIWAKE SIGNS REFUND"))


def long_overdue(amount: str, day: date) -> Scene:
    return _of([invoice(f"SK-7{day:%m%d}", on="2026-01-05", sales=amount, tax="2.30")])


def journal_and_its_opposite(amount: str, day: date) -> Scene:
    one = posted(f"Dr receivables (Averin Scouts) {amount}, Cr sales {amount}", on=day)
    other = posted(
        f"Cr receivables (Averin Scouts) {amount}, Dr sales {amount}", on=day + timedelta(days=3)
    )
    return _of((one, other))


def counted_otherwise(amount: str, day: date) -> Scene:
    own = posted(f"Dr stock {amount}, Cr capital {amount}", on="2026-01-02")
    counted = StockItem(date(2026, 9, 30), "rope", "1", "5.00", EUR.parse("5.00"))
    return _of([own], tables={"stock": (counted,)})


def accrued_and_forgotten(amount: str, day: date) -> Scene:
    return _of([posted(f"Dr electricity {amount}, Cr accruals {amount}", on="2026-05-31")])


def cash_below_nil(amount: str, day: date) -> Scene:
    out = posted(f"Dr office {amount}, Cr clearing {amount}", on="2026-03-01")
    lines = tuple(x._replace(account=CASH.code) if x.account == "1290" else x for x in out.lines)
    return _of([out._replace(lines=lines)], tables={"accounts": (CASH,)})


def coded_to_income(amount: str, day: date) -> Scene:
    own = invoice(f"AV-6{day:%m%d}", str(day), "Averin Scouts", sales=amount)
    return _of((own, direct_receipt(_later(day, 9), party="Averin Scouts", sales=amount)))


def paid_twice(amount: str, day: date) -> Scene:
    own = bill(f"KS-5{day:%m%d}", str(day), "Kittiwake Signs", fuel=amount)
    paid = [payment(_later(day, n), amount, "Kittiwake Signs") for n in (9, 16)]
    lines = [bank_line(_later(day, n), f"-{amount}", "KITTIWAKE SIGNS") for n in (9, 16)]
    return Scene((own, *paid), (allocated(paid[0], own, amount),), tuple(lines))


def one_movement_twice(amount: str, day: date) -> Scene:
    twins = [direct_payment(_later(day, n), memo="HARBOUR DUES", office=amount) for n in (0, 1)]
    return _of(twins, bank_line(str(day), f"-{amount}", "HARBOUR DUES"))


def kept_in_hand(amount: str, day: date) -> Scene:
    text = f"Dr in hand {amount}, Cr receivables (Harbour School) {amount}"
    return _of([posted(text, on=day, kind=Kind.CUSTOMER_RECEIPT)])


def entered_by_the_client_too(amount: str, day: date) -> Scene:
    """A bill that we voided, and the client's credit for it that came later."""
    own = bill(f"RW-{day:%m%d}5", on=str(day), fuel=amount)
    lines = tuple(line._replace(amount=-line.amount) for line in own.lines)
    void = posted(f"Dr payables (Reedwharf) {amount}, Cr fuel {amount}", on=day)
    void = void._replace(lines=lines, corrects=own.id, change=1, entry_kind=EntryKind.CORRECTING)
    later = bill(f"CR {own.reference}", on=_later(day, 58), fuel=amount)
    theirs = later._replace(kind=Kind.PURCHASE_CREDIT, lines=lines)
    settled = allocated(void, own, amount)._replace(change=1)
    made = (PostedChange(1, "correction", "IO", "entered twice", route="void"),)
    arrival = (PostedChange(2, "import", "OB", "newer books"),)
    return Scene((own, void, theirs), (settled,), changes=(*made, *arrival), arrived={theirs.id: 2})


_ANY_LINE = (bank_line("2026-09-29", "-0.37", "ROUNDING"),)
SCENES: tuple[Make, ...] = (
    entered_twice, paid_past_the_bill, set_against_the_wrong_customer, left_on_account,
    left_on_clearing, private_in_the_costs, moved_to_savings_as_cost, digits_exchanged,
    credited_too_little, keyed_late, under_two_names, cost_among_the_assets, banked_in_one_sum,
    numbers_exchanged, not_in_the_books, never_presented, money_comes_back, long_overdue,
    journal_and_its_opposite, counted_otherwise, accrued_and_forgotten, cash_below_nil,
    coded_to_income, paid_twice, one_movement_twice, kept_in_hand,
    entered_by_the_client_too,
)  # fmt: skip
FILED_ON = datetime(2026, 6, 18, 9)
