"""Limits, letters and states of many clients at once: each by itself, and only by who runs the practice."""

import pytest

from corkpost.core.kinds import MayChange, PeriodState
from corkpost.core.refusals import NoReason, NotAllowed
from corkpost.services import acts, books, many, sign_off
from tests.builders import day
from tests.formats.folders import small_books, write
from tests.practice import PASSWORD, by_route, decide_the_rest, only_point, void_twin

BOTH = ("SMALL", "OTHER")


@pytest.fixture
def both(office, tmp_path):
    books.take_in(office.workplace, office["OB"], write(small_books("OTHER"), tmp_path / "other"))
    return office


def standing(office):
    return {row.facts.code: row for row in many.standing(office.workplace, office["OB"])}


def set_states(office, through, state, who="OB", clients=BOTH):
    return many.set_states(
        office.workplace, office[who], clients, through, state, "the quarter is done"
    )


def test_limits_and_the_letter_are_set_for_several_and_one_that_refuses_stops_no_other(both):
    wanted = {"materiality": "1000+500", "engaged_on": "5.1", "may_change": "asked"}
    found = many.set_facts(both.workplace, both["OB"], (*BOTH, "NONE"), wanted, "letters of 2026")
    assert [(row.client, row.problem is None) for row in found] == [
        ("SMALL", True), ("OTHER", True), ("NONE", False),
    ]  # fmt: skip
    for row in standing(both).values():
        assert (row.facts.materiality, row.facts.engaged_on) == (150000, day("2026-01-05"))
        assert row.facts.may_change is MayChange.ASKED
    again = many.set_facts(both.workplace, both["OB"], BOTH, wanted, "letters of 2026")
    assert [row.problem for row in again] == ["It is so already."] * 2
    wrong = many.set_facts(both.workplace, both["OB"], BOTH, {"engaged_on": "32.1"}, "x")
    assert all(row.problem and "32" in row.problem for row in wrong)


def test_what_the_letter_asks_is_told_of_each_correction_and_of_no_entry(both):
    many.set_facts(both.workplace, both["OB"], ("SMALL",), {"may_change": "asked"}, "the letter")
    point = only_point(both).point.id
    plan = acts.preview(
        both.workplace, both["IO"], "SMALL", by_route(point, "void", {"transaction": "T3"})
    )
    assert any("the client agrees before" in words for words in plan.plan.warnings)
    assert void_twin(both).number


def test_months_are_held_barred_and_opened_by_each_client_s_own_calendar(both):
    held = set_states(both, "30.9", PeriodState.HELD)
    assert [row.did for row in held] == ["9 months to 30 September 2026"] * 2
    assert standing(both)["SMALL"].held_through == day("2026-09-30")
    assert set_states(both, "30.9", PeriodState.HELD)[0].did == "so already to 30 September 2026"
    barred = set_states(both, "30.6", PeriodState.BARRED, clients=("OTHER",))
    assert barred[0].did == "6 months to 30 June 2026"
    # Held again, what is barred stays barred.
    set_states(both, "30.9", PeriodState.HELD)
    assert standing(both)["OTHER"].barred_through == day("2026-06-30")
    set_states(both, "30.9", PeriodState.OPEN)
    assert standing(both)["OTHER"].barred_through == day("2025-12-31")
    assert standing(both)["OTHER"].held_through is None


def test_what_is_sealed_stays_barred(both):
    decide_the_rest(both)
    sign_off.sign_off(both.workplace, both["TV"], "SMALL", day("2026-10-31"), PASSWORD)
    sealed, other = set_states(both, "31.10", PeriodState.OPEN)
    assert sealed.problem
    assert "signed off and sealed" in sealed.problem
    assert other.did == "so already to 31 October 2026"
    assert standing(both)["SMALL"].barred_through == day("2026-10-31")


@pytest.mark.parametrize("who", ["TV", "IO", "PH"])
def test_it_takes_who_runs_the_practice_and_a_reason(both, who):
    with pytest.raises(NotAllowed):
        many.standing(both.workplace, both[who])
    with pytest.raises(NotAllowed):
        set_states(both, "30.9", PeriodState.HELD, who=who)
    with pytest.raises(NotAllowed):
        many.set_facts(both.workplace, both[who], BOTH, {"materiality": "1"}, "x")
    with pytest.raises(NoReason):
        many.set_facts(both.workplace, both["OB"], BOTH, {"materiality": "1"}, " ")
    with pytest.raises(NoReason):
        many.set_states(both.workplace, both["OB"], BOTH, "30.9", PeriodState.HELD, "")
