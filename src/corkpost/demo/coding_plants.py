"""Faults of coding, of the periods and of control accounts that are planted on purpose."""

from datetime import date, timedelta

from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import tax_within
from corkpost.core.periods import month_end
from corkpost.demo.bookkeeper import STANDARD, Bookkeeper
from corkpost.demo.habits import Supplier, sum_between
from corkpost.demo.plants import Planted


def unusual_account(
    books: Bookkeeper, planted: Planted, supplier: Supplier, on: date, other: str
) -> None:
    """One bill of a supplier's usual size on an account that none of its others is on."""
    gross = sum_between(books.rng, supplier.low, supplier.high)
    bill = books.bill(
        supplier.code, on, gross, other, reference=supplier.numbers.next(books.rng),
        taxed=supplier.taxed,
    )  # fmt: skip
    books.pay(supplier.code, on + timedelta(days=18), gross, [bill])
    planted.add("unusual-account", bill)


def odd_tax(books: Bookkeeper, planted: Planted, supplier: Supplier, on: date) -> None:
    """A bill whose tax was keyed with a slip."""
    rng = books.rng
    gross = sum_between(rng, supplier.low, supplier.high)
    tax = tax_within(gross, STANDARD) + rng.choice((-900, -90, 180, 1_080))
    bill = books.add(
        Kind.PURCHASE_BILL,
        on,
        [
            (supplier.account, gross - tax),
            (books.chart.tax, tax),
            (books.chart.payables, -gross, supplier.code),
        ],
        party=supplier.code,
        reference=supplier.numbers.next(rng),
        source="purchases",
        document_date=on,
        due_days=30,
        tax_code="S23",
    )
    books.pay(supplier.code, on + timedelta(days=18), gross, [bill])
    planted.add("tax-code-odd", bill)


def lasting_thing(books: Bookkeeper, planted: Planted, on: date, cost: str, limit: int) -> None:
    """Something dear, bought once, among small costs."""
    rng = books.rng
    amount = limit * 123 // 100 * rng.randint(2, 6) + rng.randint(0, 9_999)
    name = books.direct_payment(
        on, amount, cost, memo=rng.choice(books.style.wording.things), taxed=True
    )
    planted.add("capital-as-cost", name)


def of_last_year(books: Bookkeeper, planted: Planted, supplier: Supplier, year: int) -> None:
    """A bill of December that was posted in January."""
    rng = books.rng
    paper = date(year - 1, 12, rng.randint(8, 29))
    on = date(year, 1, rng.randint(4, 25))
    gross = sum_between(rng, supplier.low, supplier.high)
    bill = books.bill(
        supplier.code,
        on,
        gross,
        supplier.account,
        reference=supplier.numbers.next(rng),
        taxed=supplier.taxed,
    )
    books.transactions[bill] = books.transactions[bill]._replace(document_date=paper)
    books.pay(supplier.code, on + timedelta(days=18), gross, [bill])
    planted.add("cut-off", bill)


def bare_journal(books: Bookkeeper, planted: Planted, on: date, against: str) -> None:
    """A journal on a control account that names nobody."""
    rng = books.rng
    amount = sum_between(rng, 3_000, 40_000)
    name = books.add(
        Kind.JOURNAL, on, [(books.chart.receivables, amount), (against, -amount)],
        memo=rng.choice(books.style.wording.bare), source="journal",
    )  # fmt: skip
    # A line that names nobody bears no tax code either.
    planted.add("control-without-party", name)


def accrual(
    books: Bookkeeper, planted: Planted, month: date, cost: str, holding: str, way: str
) -> None:
    """An accrual at a month's end: taken back as it should be, not at all, or otherwise."""
    rng = books.rng
    end = month_end(month.year, month.month, 31)
    amount = sum_between(rng, 8_000, 60_000)
    memo = rng.choice(books.style.wording.accrued)
    lines: list[tuple[str, int] | tuple[str, int, str | None]] = [
        (cost, amount),
        (holding, -amount),
    ]
    one = books.add(Kind.JOURNAL, end, lines, memo=memo, source="journal")
    if way == "never":
        planted.add("accrual-not-reversed", one)
        return
    back = amount if way == "right" else amount - rng.choice((900, 90, 2_700))
    other = books.add(
        Kind.JOURNAL, end + timedelta(days=1), [(cost, -back), (holding, back)],
        memo=memo, source="journal", reverses=one if rng.random() < 0.5 else None,
    )  # fmt: skip
    if way == "wrong":
        planted.add("reversal-wrong", one, other)
