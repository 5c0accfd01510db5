"""Tie-outs: each can fail, says by what, is made of both figures, and falls open when a figure moves."""

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.acts import plan_of
from corkpost.core.bank.agreeing import Wanted, plan_agree, ready
from corkpost.core.books import Dimension, PayrollMonth, PostedChange, PriorBalance, StockItem
from corkpost.core.kinds import AccountRole
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.tie_outs import tie_out_named, tie_outs
from corkpost.core.tie_outs.agreeing import (
    AgreeTieOut,
    TieOutState,
    plan_agree_tie_out,
    stated_tie_outs,
)
from tests.builders import (
    ACCOUNTS,
    CODES,
    after,
    allocated,
    bank_line,
    bill,
    books_with,
    day,
    direct_payment,
    invoice,
    payment,
    posted,
    with_statement,
)
from tests.core.strategies import any_books
from tests.notation import eur

AT = date(2026, 10, 31)
BANK = f"bank {CODES['bank']}"
BILL = bill("RW-0117", on="2026-04-03", fuel="200.00", tax="46.00", id="B1")
PAID = payment("2026-05-04", "246.00", "Reedwharf", id="P1")
CODED = BILL._replace(lines=tuple(line._replace(tax_code="S23") for line in BILL.lines))
FEE = direct_payment("2026-06-30", charges="6.50", id="D1")


def proof(books, name, at=AT):
    return tie_out_named(books, name, at)


def told(found):
    money = {None: None}
    figures = (found.books, found.outside, found.difference)
    return tuple(money.get(x, x) for x in figures), [(c.says, c.amount) for c in found.causes]


def banked(*lines, **more):
    return with_statement(books_with(BILL, PAID, FEE), *lines, last="2026-10-31", **more)


def test_the_bank_s_balance_and_what_is_on_its_way_there_are_the_books_and_a_strange_line_is_not():
    books = banked(bank_line("2026-05-06", "-246.00"))
    books = after(books, plan_agree(books, CODES["bank"], [Wanted((("P1", 2),), ("s1.csv#1",))]))
    found = proof(books, BANK)
    assert told(found) == ((-25250, -25250, 0), [])
    assert [part.amount for part in found.of_outside] == [-24600, -650]
    assert found.lacks == "The reconciliation to 31 October 2026 is not finished."
    strange = banked(bank_line("2026-05-06", "-246.00"), bank_line("2026-07-01", "-9.00"))
    assert told(proof(strange, BANK)) == (
        (-25250, -50750, 25500),
        [("2 statement lines are not in the books", 25500)],
    )


def test_a_bank_without_a_statement_or_with_entries_after_the_last_is_not_proved():
    bare = proof(books_with(FEE), BANK)
    assert (bare.outside, bare.lacks) == (
        None,
        "No statement was taken in: the bank is not proved.",
    )
    short = with_statement(books_with(BILL, PAID, FEE), last="2026-05-31")
    assert "ends on 31 May 2026, and 1 entry is dated after it" in proof(short, BANK).lacks
    assert proof(short, BANK, day("2026-05-31")).outside is not None


@pytest.mark.parametrize(
    ("name", "books", "figures", "causes"),
    [
        ("payables", books_with(BILL), (-24600, -24600, 0), []),
        (
            "payables",
            books_with(BILL, posted("Dr fuel 9.00, Cr payables 9.00", "2026-06-01", id="J1")),
            (-25500, -24600, -900),
            [("lines without a party (1 entry)", -900)],
        ),
        (
            "tax",
            books_with(CODED, posted("Dr tax 5.00, Cr capital 5.00", "2026-06-01")),
            (5100, 4600, 500),
            [("1 line on the account without a code, in no return", 500)],
        ),
        (
            f"nil {CODES['clearing']}",
            books_with(posted("Dr clearing 7.00, Cr bank 7.00", "2026-06-01", memo="a slip")),
            (700, 0, 700),
            [("a slip, 1 June 2026, is left there", 700)],
        ),
        (
            f"in hand {CODES['in hand']}",
            books_with(
                posted("Dr in hand 40.00, Cr sales 40.00", "2026-06-01"),
                posted("Dr bank 50.00, Cr in hand 50.00", "2026-06-09", id="J2"),
            ),
            (-1000, 0, -1000),
            [("J2 of 9 June 2026 took out what was not there", -1000)],
        ),
        (
            "stock",
            books_with(
                posted("Dr stock 300.00, Cr bank 300.00", "2026-06-01"),
                stock=(StockItem(AT, "rope", "10", "28.00", 28000),),
            ),
            (30000, 28000, 2000),
            [],
        ),
        (
            "payroll-net",
            books_with(
                posted("Dr wages 900.00, Cr net pay owed 900.00", "2026-09-30", Kind.PAYROLL),
                payroll=(PayrollMonth("2026-09", None, 120000, 0, 95000, 25000, 0, 0),),
            ),
            (-90000, -95000, 5000),
            [],
        ),
        (
            "openings",
            books_with(
                posted("Dr bank 90.00, Cr capital 90.00", "2025-12-31", Kind.OPENING),
                prior_year=(
                    PriorBalance(day("2025-12-31"), CODES["bank"], 8500),
                    PriorBalance(day("2025-12-31"), CODES["capital"], -8500),
                ),
            ),
            (9000, 8500, 500),
            [("1200 bank: signed 85.00", 500)],
        ),
        (
            f"owner {CODES['drawings']}",
            books_with(
                posted("Dr drawings 30.00, Cr bank 30.00", "2026-03-01"),
                posted("Dr drawings 4.00, Cr payables 4.00", "2026-03-02", memo="?", id="J3"),
            ),
            (3400, 3000, 400),
            [("?, 2 March 2026: neither in, out nor profit", 400)],
        ),
        (
            "equity",
            books_with(
                posted("Dr bank 50.00, Cr sales 50.00", "2026-03-01"),
                posted("Dr bank 8.00, Cr retained earnings 8.00", "2026-03-02", memo="why", id="J4"),
            ),
            (5800, 5000, 800),
            [("why, 2 March 2026: booked straight to equity", 800)],
        ),
    ],
)  # fmt: skip
def test_each_proof_fails_where_its_figures_differ_and_says_by_what(name, books, figures, causes):
    found = told(proof(books, name))
    assert found[0] == figures
    assert [cause for cause in found[1] if cause[0] in dict(causes)] == causes


def test_stock_and_payroll_without_a_list_from_outside_prove_nothing():
    books = books_with(
        posted("Dr stock 3.00, Cr bank 3.00", "2026-06-01"),
        posted("Dr wages 9.00, Cr net pay owed 9.00", "2026-09-30", Kind.PAYROLL),
        stock=(StockItem(day("2026-06-30"), "rope", "1", "3.00", 300),),
    )
    assert proof(books, "stock").lacks == (
        "No count of 31 October 2026 is known. The last count is of 30 June 2026."
    )
    assert (proof(books, "payroll-net").outside, proof(books, "payroll-net").keyed) == (None, True)


def agree(books, name, note="", outside=None, number=1):
    plan = ready(plan_of(books, AgreeTieOut(name, AT, note, outside)), books)
    change = PostedChange(number, "entry", "IO", plan.proposed_reason)
    rows = tuple(row._replace(change=number) for row in plan.more["tie_outs"])
    tables = books.tables.with_rows("tie_outs", (*books.tables.of("tie_outs"), *rows))
    return replace(books, tables=tables, changes=(*books.changes, change))


def state(books, name):
    return next(out for out in stated_tie_outs(books, AT) if out.tie_out.id == name)


def test_a_proof_is_agreed_at_its_figures_and_falls_open_with_what_moved_and_by_which_change():
    books = agree(books_with(BILL), "payables")
    assert (state(books, "payables").state, state(books, "payables").by.by) == ("agreed", "IO")
    with pytest.raises(NothingToDo):
        plan_agree_tie_out(books, AgreeTieOut("payables", AT))
    late = posted(
        "Dr fuel 9.00, Cr payables 9.00", "2026-06-01", party="Reedwharf", change=2, id="J9"
    )
    lines = tuple(
        line._replace(party="S1") if line.account == CODES["payables"] else line
        for line in late.lines
    )
    moved = replace(
        books,
        tables=replace(
            books.tables, transactions=(*books.tables.transactions, late._replace(lines=lines))
        ),
        changes=(*books.changes, PostedChange(2, "entry", "TV", "a late bill")),
    )
    fallen = state(moved, "payables")
    assert fallen.state is TieOutState.FALLEN
    assert fallen.moved == (
        "the books had 246.00 and have 255.00 now",
        "from outside it was 246.00 and is 255.00 now",
    )
    assert [change.number for change in fallen.since] == [2]
    # Another day's proof is another proof.
    assert {out.state for out in stated_tie_outs(moved, day("2026-09-30"))} == {TieOutState.OPEN}


def test_a_difference_or_a_missing_figure_asks_why_and_a_paper_s_figure_stands_in():
    books = books_with(FEE)
    with pytest.raises(BadEntry, match="Key the figure of a paper"):
        agree(books, BANK)
    with pytest.raises(BadEntry, match=r"differs by 0\.50"):
        agree(books, BANK, outside=-600)
    told_why = agree(books, BANK, "a fee of October, taken in November", outside=-600)
    found = state(told_why, BANK)
    assert (found.state, found.tie_out.outside, found.tie_out.lacks) == ("agreed", -600, "")
    worked_out = books_with(BILL)
    with pytest.raises(BadEntry, match="is worked out"):
        agree(worked_out, "payables", outside=-24600)


@given(st.data(), any_books())
def test_what_is_found_does_not_hang_on_the_order_of_the_rows(data, books):
    """Nor does one that agrees stop agreeing."""
    rows = data.draw(st.permutations(books.tables.transactions))
    links = data.draw(st.permutations(books.tables.allocations))
    tables = replace(books.tables, transactions=tuple(rows), allocations=tuple(links))
    mixed = replace(books, tables=tables)
    assert [(out.id, out.facts) for out in tie_outs(books, AT)] == [
        (out.id, out.facts) for out in tie_outs(mixed, AT)
    ]


@given(any_books())
def test_a_line_without_a_party_is_never_proved_by_its_own_account(books):
    """The list counts what parties hold, whatever else the books hold."""
    bare = posted("Dr fuel 12.34, Cr payables 12.34", "2026-06-01", id="bare")
    before = {out.id: out.difference for out in tie_outs(books, AT)}
    grown = replace(
        books, tables=replace(books.tables, transactions=(*books.tables.transactions, bare))
    )
    now = {out.id: out.difference for out in tie_outs(grown, AT)}
    assert now["payables"] == before.get("payables", 0) - eur("12.34")


def test_branches_that_do_not_say_the_same_of_each_other_are_apart():
    between = ACCOUNTS[0]._replace(code="2990", name="between", role=AccountRole.INTER_BRANCH)
    row = posted("Dr boats 10.00, Cr bank 10.00", "2026-03-01")
    first = row.lines[0]._replace(account="2990", dimensions="site=QUAY")
    books = books_with(
        row._replace(lines=(first, row.lines[1])),
        accounts=(*ACCOUNTS, between),
        dimensions=(Dimension("site", "QUAY", "Quay"),),
    )
    assert told(proof(books, "branches"))[0] == (1000, 0, 1000)


def test_an_invoice_settled_later_counts_as_it_stood_on_the_day():
    owed = invoice("SK-1", on="2026-10-20", sales="80.00", id="I1")
    money = posted(
        "Dr bank 80.00, Cr receivables 80.00", "2026-11-03", Kind.CUSTOMER_RECEIPT,
        party="Harbour School", id="R1",
    )  # fmt: skip
    lines = tuple(x._replace(party="C1") if x.account == "1100" else x for x in money.lines)
    money = money._replace(lines=lines)
    books = books_with(owed, money, allocations=[allocated(owed, money, "80.00")])
    assert told(proof(books, "receivables"))[0] == (8000, 8000, 0)
    assert told(proof(books, "receivables", day("2026-11-30")))[0] == (0, 0, 0)
