"""Tax by code, returns as spans, and what a later return collects."""

import pytest

from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Line
from corkpost.core.by_hand import picked
from corkpost.core.refusals import BadEntry, DependedOn
from corkpost.core.routes import plan_route
from corkpost.core.tax_returns import CodeSums, FileReturn, plan_file_return, tax_summary
from corkpost.core.undo import plan_undo
from tests.builders import CODES, after, books_with, day, posted
from tests.notation import eur


def taxed(on, account, net, tax, code="S23", sign=1, **more):
    lines = (
        Line(1, CODES[account], sign * eur(net), tax_code=code),
        Line(2, CODES["tax"], sign * eur(tax), tax_code=code),
        Line(3, CODES["bank"], -sign * (eur(net) + eur(tax))),
    )
    return posted("Dr bank 1.00, Cr sales 1.00", on, **more)._replace(lines=lines)


SOLD = taxed("2026-05-03", "sales", "1000.00", "230.00", sign=-1)
BOUGHT = taxed("2026-05-04", "fuel", "200.00", "46.00", id="T-fuel")
QUARTER = (day("2026-04-01"), day("2026-06-30"))
NEXT = (day("2026-07-01"), day("2026-09-30"))


def filed(books, first=QUARTER[0], last=QUARTER[1], on="2026-07-20"):
    return after(books, ready(plan_file_return(books, FileReturn(first, last, day(on))), books))


def test_a_return_has_sales_and_purchases_by_code_and_ties_to_the_account():
    found = tax_summary(books_with(SOLD, BOUGHT), *QUARTER)
    assert found.codes == (
        CodeSums("S23", eur("1000.00"), eur("230.00"), eur("200.00"), eur("46.00")),
    )
    assert (found.due, found.on_account, found.late) == (eur("184.00"), -eur("184.00"), ())


def test_the_money_of_a_till_s_entry_is_no_sale_though_it_bears_the_code():
    till = taxed("2026-05-05", "sales", "100.00", "23.00", sign=-1)
    till = till._replace(lines=(*till.lines[:2], till.lines[2]._replace(tax_code="S23")))
    (row,) = tax_summary(books_with(till), *QUARTER).codes
    assert (row.sales, row.tax_on_sales) == (eur("100.00"), eur("23.00"))


def test_what_is_corrected_in_a_returned_span_is_collected_by_the_next_and_comes_back_with_undo():
    books = filed(books_with(SOLD, BOUGHT))
    assert books.returned_through == QUARTER[1]
    plan = ready(plan_route(books, picked(books, "void", "T-fuel"), "void", {}), books)
    assert plan.entries[0].posting_date == day("2026-05-04")
    voided = after(books, plan)
    assert tax_summary(voided, *QUARTER).due == eur("184.00")
    later = tax_summary(voided, *NEXT)
    assert (later.due, [row.tax for row in later.late]) == (eur("46.00"), [eur("46.00")])
    # With the filing taken back its own quarter has it, for corrections made from then on.
    open_ = after(books, ready(plan_undo(books, books.changes[-1].number), books))
    assert open_.returned_through is None
    again = ready(plan_route(open_, picked(open_, "void", "T-fuel"), "void", {}), open_)
    assert tax_summary(after(open_, again), *QUARTER).due == eur("230.00")


def test_returns_go_on_from_one_another_and_are_filed_after_their_last_day():
    books = filed(books_with(SOLD, BOUGHT))
    with pytest.raises(BadEntry, match="this one begins on 1 July 2026"):
        plan_file_return(books, FileReturn(day("2026-08-01"), NEXT[1], day("2026-10-20")))
    with pytest.raises(BadEntry, match="after its last day"):
        plan_file_return(books, FileReturn(*NEXT, day("2026-09-30")))
    twice = filed(books, *NEXT, on="2026-10-20")
    assert tax_summary(twice, *NEXT).filed is not None
    with pytest.raises(DependedOn):
        plan_undo(twice, 1)


def test_tax_without_a_code_is_in_no_return_and_keeps_the_account_apart_from_it():
    stray = posted("Dr tax 16.33, Cr payables (Reedwharf) 16.33", "2026-05-05")
    paid = posted("Dr tax 100.00, Cr bank 100.00", "2026-05-06")
    found = tax_summary(books_with(SOLD, BOUGHT, stray, paid), *QUARTER)
    assert (found.due, found.due + found.on_account) == (eur("184.00"), eur("16.33"))
