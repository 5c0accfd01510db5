"""The schedule of unadjusted differences: what correcting what was waived would have moved."""

from corkpost.core.books import PayrollMonth
from corkpost.core.checks import run_checks
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun
from corkpost.core.unadjusted import unadjusted
from tests.builders import TODAY, bill, books_with, day, posted
from tests.notation import eur

PAY = "Dr wages 8040.00, Dr contributions 928.00, Cr net pay owed 6310.00, Cr payroll tax 2658.00"


def schedule(*rows, **more):
    books = books_with(*rows, **more)
    points = [p for p in run_checks(CheckRun(books, TODAY)) if "waive" in p.routes]
    points = [p for p in points if p.check != "payroll-not-cleared"]
    return unadjusted(books, points, day("2026-12-31"))


def test_each_is_shown_with_its_effect_and_the_sums_stand_against_materiality():
    summary = PayrollMonth(
        "2026-03",
        None,
        eur("8400.00"),
        eur("928.00"),
        eur("6310.00"),
        eur("1460.00"),
        eur("630.00"),
    )
    months = [bill(f"R{n}", on=f"2026-0{n}-01", fuel="50.00", id=f"B{n}") for n in range(1, 7)]
    odd = bill("R7", on="2026-07-01", office="60.00", id="B7")
    found = schedule(
        posted(PAY, on="2026-03-28", kind=Kind.PAYROLL), *months, odd, payroll=(summary,)
    )
    assert [(r.point.check, r.point.amount, r.profit, r.net_assets) for r in found.rows] == [
        ("payroll-disagrees", eur("360.00"), eur("-360.00"), eur("-360.00")),
        ("unusual-account", eur("60.00"), 0, 0),
    ]
    assert (found.gross, found.profit, found.net_assets) == (
        eur("420.00"), eur("-360.00"), eur("-360.00"),
    )  # fmt: skip


def test_where_no_correction_is_worked_out_the_amount_alone_counts():
    below = [
        posted("Dr stock 10.00, Cr bank 10.00", on="2026-01-02"),
        posted("Dr fuel 90.00, Cr stock 90.00", on="2026-02-02"),
    ]
    found = schedule(*below)
    assert [(r.point.check, r.profit, r.net_assets) for r in found.rows] == [
        ("balance-wrong-side", None, None)
    ]
    assert (found.gross, found.profit) == (eur("80.00"), 0)
