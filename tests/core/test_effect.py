"""What is shown before posting: the strip's figures and the T pair."""

from corkpost.core.checks import run_checks
from corkpost.core.effect import effect_of, year_end_after
from corkpost.core.points import CheckRun
from corkpost.core.routes import plan_route
from corkpost.core.t_pair import t_accounts
from tests.builders import CODES, TODAY, bill, books_with, day, invoice, payment, posted, receipt
from tests.core.test_entries import cr, dr, entry, plan_entry
from tests.notation import eur


def voided(**facts):
    books = books_with(
        bill("RW-0117", on="2026-04-03", id="T1", fuel="200.00", tax="46.00"),
        bill("RW 117", on="2026-04-05", id="T2", fuel="200.00", tax="46.00"),
        posted("Dr drawings 10.00, Cr bank 10.00", "2026-01-05"),
        **facts,
    )
    (point,) = run_checks(CheckRun(books, TODAY))
    return books, plan_route(books, point, "void", {"transaction": "T2"})


def test_the_figures_move_as_the_handbook_says():
    books, plan = voided()
    effect = effect_of(plan, books, year_end_after(plan, books))
    before, after = effect.before, effect.after
    assert after.profit - before.profit == eur("200.00")
    assert after.payables - before.payables == eur("246.00")
    assert after.tax - before.tax == -eur("46.00")
    assert (after.bank, after.owners) == (before.bank, before.owners)
    assert after.turned_over < before.turned_over
    assert [(row.code, row.after - row.before) for row in effect.parties] == [("S1", 24600)]


def test_before_its_date_a_plan_moves_nothing():
    books, plan = voided()
    effect = effect_of(plan, books, day("2026-03-31"))
    assert effect.before == effect.after
    assert all(row.before == row.after for row in effect.accounts)


def test_a_correction_s_ts_show_what_it_answers_and_what_comes():
    books, plan = voided()
    accounts = {account.account: account for account in t_accounts(plan, books)}
    payables = accounts[CODES["payables"]]
    assert t_accounts(plan, books)[0] == payables
    assert [line.amount for line in payables.booked] == [-24600, -24600]
    assert [line.amount for line in payables.coming] == [24600]
    assert (payables.balance_booked, payables.balance_after) == (-49200, -24600)
    assert accounts[CODES["fuel"]].balance_after == eur("200.00")


def test_an_entry_s_ts_start_from_the_balance_on_each_of_its_dates():
    books = books_with(posted("Dr electricity 100.00, Cr bank 100.00", "2026-02-01"))
    request = entry(
        "2026-10-31", dr("electricity", "40.00"), cr("accruals", "40.00"), reverse_on="2026-11-01"
    )
    shown = [
        (account.on, account.account, account.before, account.balance_after)
        for account in t_accounts(plan_entry(books, request), books)
    ]
    assert shown == [
        (day("2026-10-31"), "5310", 10000, 14000),
        (day("2026-10-31"), "2210", 0, -4000),
        (day("2026-11-01"), "5310", 14000, 10000),
        (day("2026-11-01"), "2210", -4000, 0),
    ]


def test_an_allocation_s_ts_are_the_party_s_lines():
    books = books_with(
        invoice("SK-1", on="2026-05-02", id="I1", sales="100.00"),
        receipt("2026-05-20", "100.00", id="R1"),
        payment("2026-05-20", "5.00"),
    )
    point = next(p for p in run_checks(CheckRun(books, TODAY)) if "I1" in p.transactions)
    (only,) = t_accounts(plan_route(books, point, "allocate", {}), books)
    assert (only.account, only.party, only.balance_after) == (CODES["receivables"], "C1", 0)
