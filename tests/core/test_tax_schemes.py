"""Sales tax by payment and by a flat rate: what a return counts, and what stays in the books."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.bank.agreeing import ready
from corkpost.core.recipes import UseRecipe, plan_recipe
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.row_kinds.tax_schemes import Scheme
from corkpost.core.tax_returns import FileReturn, plan_file_return, tax_summary
from corkpost.core.tax_schemes import SetTaxScheme, plan_tax_scheme
from tests.builders import after, allocated, bill, books_with, day, invoice, payment, receipt
from tests.notation import eur

SECOND = (day("2026-04-01"), day("2026-06-30"))
THIRD = (day("2026-07-01"), day("2026-09-30"))


def taxed_books(*rows, allocations=()):
    books = books_with(*rows, allocations=allocations)
    facts = books.client.__class__(**{**vars(books.client), "tax_registered": True})
    return books.followed_by(client=facts)


def with_scheme(books, scheme, rate=None, since="2026-04-01"):
    wanted = SetTaxScheme(day(since), scheme, rate)
    return after(books, ready(plan_tax_scheme(books, wanted), books))


def coded(document):
    """With its code on the net and the tax, as books have it."""
    return document._replace(
        lines=tuple(
            line if line.party else line._replace(tax_code="S23") for line in document.lines
        )
    )


SOLD = coded(invoice("SK-1", on="2026-05-03", sales="1000.00", tax="230.00", id="S"))
BOUGHT = coded(bill("RW-1", on="2026-06-04", fuel="200.00", tax="46.00", id="B"))
CAME = receipt("2026-06-20", "615.00", id="R1")
REST = receipt("2026-07-09", "615.00", id="R2")
PAID = payment("2026-08-02", "246.00", id="P")


def paid_books():
    return taxed_books(
        SOLD, BOUGHT, CAME, REST, PAID,
        allocations=(
            allocated(SOLD, CAME, "615.00"), allocated(SOLD, REST, "615.00"),
            allocated(PAID, BOUGHT, "246.00"),
        ),
    )  # fmt: skip


def test_by_payment_tax_counts_as_far_as_the_paper_is_settled():
    by_invoice = tax_summary(paid_books(), *SECOND)
    assert (by_invoice.due, by_invoice.on_account) == (eur("184.00"), -eur("184.00"))
    books = with_scheme(paid_books(), Scheme.PAID)
    found = tax_summary(books, *SECOND)
    (row,) = found.codes
    assert (row.sales, row.tax_on_sales, row.purchases) == (eur("500.00"), eur("115.00"), 0)
    assert (found.due, found.on_account) == (eur("115.00"), -eur("115.00"))
    later = tax_summary(books, *THIRD)
    assert (later.due, later.on_account) == (eur("69.00"), -eur("69.00"))


@given(st.integers(1, 123_000), st.integers(0, 123_000))
def test_what_two_returns_count_is_what_was_settled_by_then(first, second):
    """Whatever was paid and when, no cent of tax is counted twice or left out."""
    second = min(second, 123_000 - first)
    rows = [receipt("2026-06-20", f"{first / 100:.2f}", id="R1")]
    settled = [allocated(SOLD, rows[0], f"{first / 100:.2f}")]
    if second:
        rows.append(receipt("2026-07-20", f"{second / 100:.2f}", id="R2"))
        settled.append(allocated(SOLD, rows[1], f"{second / 100:.2f}"))
    books = with_scheme(taxed_books(SOLD, *rows, allocations=settled), Scheme.PAID)
    returns = [tax_summary(books, *span) for span in (SECOND, THIRD)]
    assert all(found.due == -found.on_account for found in returns)
    whole = sum(found.due for found in returns)
    assert abs(whole - 23_000 * (first + second) / 123_000) <= 1
    if first + second == 123_000:
        assert whole == eur("230.00")


def test_by_a_flat_rate_the_sales_count_and_what_is_kept_goes_to_income():
    books = with_scheme(paid_books(), Scheme.FLAT, Fraction(12))
    found = tax_summary(books, *SECOND)
    # 12% of 1,230.00; the tax accounts have 230.00 - 46.00.
    assert (found.flat_sales, found.due, found.on_account) == (
        eur("1230.00"), eur("147.60"), -eur("184.00"),
    )  # fmt: skip
    told = {"from": "2026-04-01", "to": "2026-06-30", "account": "4090"}
    plan = ready(plan_recipe(books, UseRecipe("flat-rate-tax", told)), books)
    assert sorted(line.amount for line in plan.entries[0].lines) == [-eur("36.40"), eur("36.40")]
    done = after(books, plan)
    kept = tax_summary(done, *SECOND)
    assert (kept.due, kept.on_account, kept.codes) == (eur("147.60"), -eur("147.60"), found.codes)
    with pytest.raises(NothingToDo):
        plan_recipe(done, UseRecipe("flat-rate-tax", told))


def test_a_rule_begins_after_what_was_returned_and_is_whole():
    books = paid_books()
    filed = after(
        books, ready(plan_file_return(books, FileReturn(*SECOND, day("2026-07-20"))), books)
    )
    for scheme, rate, since, why in (
        (Scheme.PAID, None, "2026-06-01", "Returns went out through 30 June 2026"),
        (Scheme.FLAT, None, "2026-07-01", "A flat rate has a rate"),
        (Scheme.PAID, Fraction(3), "2026-07-01", "the other schemes have none"),
        (Scheme.FLAT, Fraction(100), "2026-07-01", "between 0 and 100"),
    ):
        with pytest.raises(BadEntry, match=why):
            plan_tax_scheme(filed, SetTaxScheme(day(since), scheme, rate))
    with pytest.raises(BadEntry, match="not registered"):
        plan_tax_scheme(books_with(), SetTaxScheme(day("2026-01-01"), Scheme.PAID))
    with pytest.raises(NothingToDo, match="by invoice already"):
        plan_tax_scheme(filed, SetTaxScheme(day("2026-07-01"), Scheme.INVOICED))
    changed = with_scheme(filed, Scheme.PAID, since="2026-07-01")
    # The return that went out is reckoned as it was.
    assert tax_summary(changed, *SECOND).due == eur("184.00")
