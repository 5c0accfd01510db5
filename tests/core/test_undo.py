"""Undo: the inverse of a change, refused while something rests on it."""

from dataclasses import replace

import pytest

from corkpost.core.bank.agreeing import ready
from corkpost.core.change import checked
from corkpost.core.checks import run_checks
from corkpost.core.kinds import PeriodState
from corkpost.core.points import CheckRun
from corkpost.core.refusals import AlreadyTakenBack, BarredDate, DependedOn, UnknownName
from corkpost.core.routes import options_for, plan_route
from corkpost.core.takings import DayTakings, plan_takings
from corkpost.core.trial_balance import trial_balance
from corkpost.core.undo import plan_undo
from tests.builders import (
    CODES,
    TODAY,
    after,
    allocated,
    bank_line,
    bill,
    books_with,
    day,
    payment,
    with_statement,
)
from tests.core.test_entries import cr, dr, entry
from tests.core.test_entries import plan_entry as entry_plan
from tests.notation import eur, journal, settlements


def voided(paid: bool = False, **facts):
    """Books in which change 1 voided the second of two bills."""
    first = bill("RW-0117", on="2026-04-03", id="T1", fuel="246.00")
    second = bill("RW 117", on="2026-04-05", id="T2", fuel="246.00")
    rows = [first, second]
    links = []
    if paid:
        rows.append(payment("2026-04-20", "246.00", id="P1"))
        links.append(allocated(rows[2], second, "246.00"))
    books = books_with(*rows, allocations=links, **facts)
    (point,) = run_checks(CheckRun(books, TODAY))
    return books, after(books, plan_route(books, point, "void", {"transaction": "T2"}))


def test_a_void_taken_back_gives_the_first_trial_balance_and_settles_the_pair():
    books, done = voided()
    plan = plan_undo(done, 1)
    assert journal(plan, done) == "2026-04-05: Dr fuel 246.00, Cr payables (Reedwharf) 246.00"
    assert settlements(plan).splitlines() == [
        "2026-04-05: free E1-1 with T2 246.00",
        "2026-04-05: E1-1 with new-1 246.00",
    ]
    undone = after(done, plan, 2)
    at = day("2026-12-31")
    assert trial_balance(undone, at) == trial_balance(books, at)
    (point,) = run_checks(CheckRun(undone, TODAY))
    assert point.named("same") == ("T1", "T2")


def test_what_the_void_had_freed_is_allocated_again():
    _, done = voided(paid=True)
    assert "2026-04-20: P1 with T2 246.00" in settlements(plan_undo(done, 1)).splitlines()


def test_an_accrual_goes_with_its_mirror():
    books = books_with()
    request = entry(
        "2026-06-30", dr("electricity", "410.00"), cr("accruals", "410.00"), reverse_on="2026-07-01"
    )
    done = after(books, entry_plan(books, request))
    assert journal(plan_undo(done, 1), done).splitlines() == [
        "2026-06-30: Cr electricity 410.00, Dr accruals 410.00",
        "2026-07-01: Dr electricity 410.00, Cr accruals 410.00",
    ]


def test_a_later_change_that_does_not_rest_on_it_is_no_hindrance():
    books, done = voided(paid=True)
    later = entry_plan(books, entry("2026-05-01", dr("fuel", "1.00"), cr("bank", "1.00")))
    unrelated = after(done, later, 2)
    assert [entry.reverses for entry in plan_undo(unrelated, 1).entries] == [
        entry.id for entry in done.tables.transactions if entry.change == 1
    ]


def test_what_was_taken_back_is_not_taken_back_again_nor_is_its_inverse():
    _, done = voided(paid=True)
    again = after(done, plan_undo(done, 1), 2)
    with pytest.raises(AlreadyTakenBack, match="nothing of it stands"):
        plan_undo(again, 1)
    with pytest.raises(AlreadyTakenBack, match="choose its route again"):
        plan_undo(again, 2)


def test_it_is_refused_while_a_later_change_corrects_its_entry_and_says_which():
    books = books_with()
    first = after(
        books, entry_plan(books, entry("2026-05-01", dr("fuel", "9.00"), cr("bank", "9.00")))
    )
    answer = entry_plan(first, entry("2026-05-02", dr("bank", "9.00"), cr("fuel", "9.00")))
    corrected = answer.entries[0]._replace(corrects="E1-1")
    second = after(first, type(answer)(**{**vars(answer), "entries": (corrected,)}), 2)
    with pytest.raises(DependedOn, match=r"change 2 \(why\)"):
        plan_undo(second, 1)


def with_calendar(books, **facts):
    return replace(books, calendar=replace(books.calendar, **facts))


@pytest.mark.parametrize(
    ("facts", "on"),
    [
        ({"states": {day("2026-04-01"): PeriodState.BARRED}}, "2026-05-01"),
        ({"sealed_through": day("2026-10-31")}, "2026-11-01"),
    ],
)
def test_where_its_day_is_barred_since_the_inverse_stands_on_the_first_open_one(facts, on):
    _, done = voided()
    done = with_calendar(done, **facts)
    plan = ready(plan_undo(done, 1), done)
    assert [str(entry.posting_date) for entry in plan.entries] == [on]
    assert "the first open day" in plan.notes[0]
    assert {str(row.date) for row in plan.allocations} == {on}


def test_of_a_year_that_was_filed_since_the_profit_part_goes_where_materiality_says():
    _, done = voided(materiality="100.00")
    filed = replace(done.client, filed_through=day("2026-12-31"))
    done = replace(with_calendar(done, filed_through=day("2026-12-31")), client=filed)
    plan = ready(plan_undo(done, 1), done)
    assert journal(plan, done) == "2027-01-01: Cr payables (Reedwharf) 246.00, Dr capital 246.00"
    assert [(part.year, part.amount) for part in plan.prior_parts] == [("2026", -eur("246.00"))]


def test_a_year_that_is_sealed_to_its_end_takes_no_inverse():
    _, done = voided()
    done = with_calendar(done, sealed_through=day("2026-12-31"))
    with pytest.raises(BarredDate, match="signed off and sealed"):
        checked(plan_undo(done, 1), done)


def test_takings_are_not_taken_back_while_a_banking_takes_them_on():
    books = books_with()
    taken = DayTakings(day("2026-05-01"), eur("120.00"), eur("50.00"))
    done = after(books, plan_takings(books, [taken], CODES["sales"], None))
    done = with_statement(done, bank_line("2026-05-04", "120.00", "LODGEMENT"))
    (point,) = (p for p in run_checks(CheckRun(done, TODAY)) if p.check == "bank-missing")
    (first, *_) = options_for(done, point)
    banked = after(done, ready(plan_route(done, point, first.route, first.settings), done), 2)
    with pytest.raises(DependedOn, match="change 2"):
        plan_undo(banked, 1)


def test_there_must_be_such_a_change():
    with pytest.raises(UnknownName):
        plan_undo(books_with(), 7)
