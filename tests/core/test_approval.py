"""Whose postings wait for another's approval."""

import pytest

from corkpost.core.acts import plan_of
from corkpost.core.approval import ApprovalRule, why_held
from corkpost.core.bank.agreeing import Wanted, plan_agree, ready
from corkpost.core.by_hand import Picked, picked
from corkpost.core.change import opened_for
from corkpost.core.entries import EntryLine, EntryRequest, plan_entries, plan_entry
from corkpost.core.kinds import EntryKind, PeriodState, Role
from corkpost.core.recipes import UseRecipe, plan_recipe
from corkpost.core.recoding import Recode, plan_recode
from corkpost.core.refusals import BarredDate
from corkpost.core.routes import plan_route
from tests.builders import CODES, bank_line, bill, books_with, day, payment, with_statement
from tests.notation import eur


def entry(amount, on="2026-06-30"):
    lines = (EntryLine(CODES["fuel"], eur(amount)), EntryLine(CODES["accruals"], -eur(amount)))
    return EntryRequest(EntryKind.ADJUSTING, day(on), "why", lines)


def why(rule, amount="500.00", role=Role.PREPARER, **books):
    made = books_with(**books)
    return why_held(rule, role, plan_entry(made, entry(amount)), made)


@pytest.mark.parametrize(
    ("rule", "amount", "says"),
    [
        (ApprovalRule(), "9999.00", None),
        (ApprovalRule(journals=True), "0.01", "You write drafts"),
        (ApprovalRule(above=500), "500.00", None),
        (
            ApprovalRule(above=500),
            "500.01",
            "It moves 500.01; what you post above 500.00 a day waits",
        ),
    ],
)
def test_by_what_it_is_and_by_its_sum(rule, amount, says):
    found = why(rule, amount)
    assert found is None if says is None else found.startswith(says)


@pytest.mark.parametrize(("role", "held"), [(Role.PREPARER, True), (Role.REVIEWER, False)])
def test_by_its_period(role, held):
    found = why(ApprovalRule(), role=role, states={"2026-06-01": PeriodState.HELD})
    assert (found is not None) is held


def test_a_limit_counts_the_whole_change_and_the_person_s_day():
    made = books_with()
    rule = ApprovalRule(above=500)
    several = plan_entries(made, (entry("300.00"), entry("300.00")), "why")
    assert "It moves 600.00;" in (why_held(rule, Role.PREPARER, several, made) or "")
    one = plan_entry(made, entry("300.00"))
    assert why_held(rule, Role.PREPARER, one, made, eur("200.00")) is None
    assert "250.00 before it today" in (
        why_held(rule, Role.PREPARER, one, made, eur("250.00")) or ""
    )
    # The mirror of an entry moves nothing more.
    mirrored = plan_entry(made, entry("400.00")._replace(reverse_on=day("2026-07-01")))
    assert why_held(rule, Role.PREPARER, mirrored, made) is None


def test_who_writes_drafts_hands_in_what_they_pick_by_hand_too():
    books = books_with(bill("RW-1", on="2026-06-03", id="A", fuel="10.00"))
    plan = plan_of(books, Picked("void", "A", (), {}))
    assert why_held(ApprovalRule(journals=True), Role.PREPARER, plan, books) is not None


def test_an_agreement_alone_in_a_held_month_waits_and_in_a_barred_one_is_refused():
    for state in (PeriodState.HELD, PeriodState.BARRED):
        books = with_statement(
            books_with(payment("2026-06-20", "75.00", id="P"), states={"2026-06-01": state}),
            bank_line("2026-06-21", "-75.00", "REEDWHARF"),
        )
        wanted = [Wanted((("P", 2),), ("s1.csv#1",))]
        plan = plan_agree(books, CODES["bank"], wanted)
        if state is PeriodState.HELD:
            assert why_held(ApprovalRule(), Role.PREPARER, ready(plan, books), books) is not None
            assert why_held(ApprovalRule(), Role.REVIEWER, ready(plan, books), books) is None
        else:
            with pytest.raises(BarredDate):
                ready(plan, books)


def test_a_route_whose_lines_follow_from_the_books_is_no_journal():
    books = books_with(bill("RW-1", on="2026-06-03", id="A", fuel="10.00"))
    plan = plan_route(books, picked(books, "void", "A", ()), "void", {"transaction": "A"})
    assert why_held(ApprovalRule(journals=True), Role.PREPARER, plan, books) is None
    assert why_held(ApprovalRule(above=9), Role.PREPARER, plan, books) is not None


def test_a_period_barred_by_hand_is_opened_for_a_plan_and_a_filed_or_sealed_one_never():
    books = books_with(
        filed_through="2025-12-31",
        sealed_through="2026-04-30",
        states={"2026-05-01": PeriodState.BARRED, "2026-03-01": PeriodState.BARRED},
    )
    wide = books.calendar.without_bars()
    states = [wide.state_on(day(on)) for on in ("2025-12-31", "2026-03-31", "2026-05-01")]
    assert states == [PeriodState.BARRED, PeriodState.BARRED, PeriodState.OPEN]
    (may,) = opened_for(plan_entry(books, entry("1.00", "2026-05-31")), books.calendar)
    assert (may.first_day, may.last_day) == (day("2026-05-01"), day("2026-05-31"))
    assert opened_for(plan_entry(books, entry("1.00")), books.calendar) == ()


def test_who_writes_drafts_hands_in_recipes_and_many_recoded_at_once_too():
    books = books_with(bill("RW-1", on="2026-06-03", id="A", fuel="10.00"))
    told = {"account": CODES["fuel"], "amount": "4.00", "date": "2026-06-30"}
    by_recipe = plan_recipe(books, UseRecipe("accrual", told))
    recoded = plan_recode(books, Recode(("A",), CODES["fuel"], to_account=CODES["office"]))
    for plan in (by_recipe, recoded):
        assert why_held(ApprovalRule(journals=True), Role.PREPARER, plan, books) is not None
        assert why_held(ApprovalRule(), Role.PREPARER, plan, books) is None
