"""Analytical reading: a year earlier, months that break their run, ratios, and what asks for a word."""

from fractions import Fraction

import pytest

from corkpost.core.analysis import analysis, breaks
from corkpost.core.kinds import TransactionKind as Kind
from tests.builders import bill, books_with, day, invoice, posted
from tests.notation import eur

EVEN = (100,) * 12


@pytest.mark.parametrize(
    ("series", "earlier", "broke"),
    [
        ((*EVEN[:11], 400), EVEN, (11,)),
        ((*EVEN[:11], 400), (*EVEN[:11], 380), ()),  # the same month did so a year earlier
        ((*EVEN[:11], 400), (*EVEN[:11], 0), (11,)),  # nothing known of a year earlier
        ((*EVEN[:11], 140), EVEN, ()),  # within half of the middle
        ((*EVEN[:11], 0), EVEN, ()),  # a month without a figure says nothing
        ((0,) * 7 + (100,) * 4 + (900,), (0,) * 12, ()),  # too few months for a run
        ((90, 110) * 5 + (100, 20), EVEN, (11,)),
    ],
)
def test_a_month_breaks_its_run_where_neither_the_run_nor_the_season_explains_it(
    series, earlier, broke
):
    assert breaks(series, earlier) == broke


def sold(year, net, fuel, paid=False):
    return [
        invoice(f"SK-{year}", on=f"{year}-05-02", sales=net),
        bill(f"RW-{year}", on=f"{year}-05-03", fuel=fuel),
        *(
            [posted(f"Dr bank {net}, Cr receivables (Harbour School) {net}", f"{year}-06-01")]
            if paid
            else []
        ),
    ]


def test_a_span_stands_beside_the_same_a_year_earlier():
    books = books_with(
        *sold(2025, "1000.00", "400.00", paid=True),
        *sold(2026, "1200.00", "420.00"),
        materiality="100.00",
    )
    found = analysis(books, day("2026-01-01"), day("2026-06-30"))
    rows = {row.name: (row.now, row.before, row.change, row.asks) for row in found.rows}
    assert rows == {
        "sales": (eur("1200.00"), eur("1000.00"), eur("200.00"), True),
        "fuel": (eur("420.00"), eur("400.00"), eur("20.00"), False),
    }
    sales = next(row for row in found.rows if row.name == "sales")
    assert found.months[-2:] == ((2026, 5), (2026, 6))
    assert (sales.months[-2], sales.earlier[-2], sum(sales.months)) == (
        eur("1200.00"), eur("1000.00"), eur("1200.00"),
    )  # fmt: skip
    ratios = {ratio.name: (ratio.now, ratio.before) for ratio in found.ratios}
    assert ratios["Profit to sales"] == (Fraction(65), Fraction(60))
    assert ratios["Days of receivables"] == (Fraction(181), Fraction(0))
    assert ratios["Days of payables"] == (Fraction(181 * 820, 420), Fraction(181))
    assert ratios["Cover of interest"] == (None, None)


def test_what_closes_a_year_is_in_no_month():
    closed = posted("Dr sales 1200.00, Cr capital 1200.00", "2026-06-30", Kind.CLOSING)
    books = books_with(*sold(2026, "1200.00", "420.00"), closed)
    sales = next(
        row
        for row in analysis(books, day("2026-01-01"), day("2026-06-30")).rows
        if row.name == "sales"
    )
    assert sales.months[-1] == 0
