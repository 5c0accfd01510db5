"""Review: what was decided stays decided until its facts change."""

from dataclasses import replace

import pytest

from corkpost.core.acts import TakeBack
from corkpost.core.points import PointState
from corkpost.core.refusals import ChangedMeanwhile, NotAllowed, Refusal, UnknownName
from corkpost.formats.acts import TogetherAct
from corkpost.services import acts, review, sign_off
from corkpost.services.posting import PostRequest
from tests.builders import day
from tests.formats.folders import small_books
from tests.practice import only_point, take_in, void_twin


def decide(office, route="leave", reason="two deliveries on two days"):
    point = only_point(office).point.id
    review.decide(office.workplace, office["IO"], "SMALL", point, route, reason)
    return point


def refreshed(office, tmp_path, change):
    """Newer books of the client, in which *change* was made to the second bill."""
    books = small_books()
    rows = tuple(change(row) if row.id == "T3" else row for row in books.tables.transactions)
    made = replace(books, tables=replace(books.tables, transactions=rows))
    take_in(office.workplace, office["OB"], made, tmp_path / "newer")


def test_a_point_that_was_left_stays_left_over_a_new_run_and_newer_books(office, tmp_path):
    decide(office)
    refreshed(office, tmp_path, lambda row: row._replace(memo="a word"))
    stated = only_point(office)
    assert (stated.state, stated.decision.reason) == (PointState.LEFT, "two deliveries on two days")


def test_it_is_open_again_when_its_facts_changed(office, tmp_path):
    decide(office)
    refreshed(office, tmp_path, lambda row: row._replace(posting_date=day("2026-04-06")))
    stated = only_point(office)
    assert (stated.state, stated.changed) == (PointState.OPEN, True)
    found = review.case(office.workplace, office["IO"], "SMALL", stated.point.id)
    assert len(found.changes) == 1


def test_asking_waits_and_can_be_opened_again_with_a_reason(office):
    point = decide(office, "ask", "Were there two deliveries?")
    assert only_point(office).state is PointState.ASKED
    review.reopen_point(office.workplace, office["TV"], "SMALL", point, "they answered")
    assert only_point(office).state is PointState.OPEN
    with pytest.raises(Refusal, match="left, asked or waived"):
        review.reopen_point(office.workplace, office["TV"], "SMALL", point, "again")


def test_a_corrected_point_is_kept_as_it_was_seen_and_not_decided_otherwise(office):
    before = only_point(office).point
    void_twin(office)
    stated = next(
        point
        for point in review.points(office.workplace, office["IO"], "SMALL")
        if point.point.id == before.id
    )
    assert (stated.state, stated.point) == (PointState.CORRECTED, before)
    assert stated.decision.change == 2
    with pytest.raises(Refusal, match="Take the change back first"):
        review.decide(office.workplace, office["IO"], "SMALL", before.id, "leave", "no")
    assert review.case(office.workplace, office["IO"], "SMALL", before.id).prepared == ()


@pytest.mark.parametrize("route", ["void", "settle", "nonsense"])
def test_only_routes_that_post_nothing_decide(office, route):
    with pytest.raises(UnknownName):
        decide(office, route)


def test_a_case_has_its_evidence_with_what_is_allocated_to_it_and_every_route(office):
    found = review.case(office.workplace, office["IO"], "SMALL", only_point(office).point.id)
    assert [posted.id for posted in found.evidence] == ["T1", "T3", "T2"]
    assert [way.option.route for way in found.prepared] == ["void", "void", "ask", "leave"]
    assert found.prepared[0].preview.plan.entries
    assert found.prepared[0].preview.effect
    assert found.prepared[2].preview is None


def test_a_route_that_can_t_be_taken_says_why(office):
    point = only_point(office).point.id
    case = review.case(
        office.workplace, office["IO"], "SMALL", point, settings={"profit": "somewhere"}
    )
    assert case.prepared[0].preview is None
    assert "somewhere" in case.prepared[0].refused


def test_in_a_held_period_a_preparer_sees_what_a_correction_would_do_and_why_it_waits(office):
    from corkpost.core.kinds import PeriodState
    from corkpost.services import periods

    at = day("2026-04-05")
    periods.set_period(office.workplace, office["TV"], "SMALL", at, PeriodState.HELD, "review")
    point = only_point(office).point.id
    found = [
        review.case(office.workplace, office[who], "SMALL", point).prepared[0].preview
        for who in ("IO", "TV")
    ]
    assert found[0].plan == found[1].plan
    assert ["held period" in (way.held or "") for way in found] == [True, False]


def test_points_are_counted_in_the_period_where_their_latest_lies(office):
    ledger = office.workplace.ledger(office["IO"], "SMALL")
    counts = review.open_by_period(ledger.books, review.stated_points(ledger))
    assert counts == {day("2026-04-01"): 1, day("2026-05-01"): 1}


def test_points_taken_together_are_one_change_each_decided_with_its_own_reason(office):
    """Corrected by one change, and open again once that is taken back."""
    point = only_point(office).point
    at = (office.workplace, office["IO"], "SMALL")
    act = TogetherAct(act="together", points=[point.id])
    (taken,) = review.together_of(*at, [point.id])
    post_request = PostRequest("seen together", acts.preview(*at, act).plan.digest)
    posted = acts.post(*at, act, post_request)
    stated = only_point(office)
    assert (stated.state, stated.decision.change) == (PointState.CORRECTED, posted.number)
    assert stated.decision.reason == taken.reason
    with pytest.raises(ChangedMeanwhile):
        acts.post(*at, act, post_request)
    acts.post(office.workplace, office["IO"], "SMALL", TakeBack(posted.number), PostRequest("no"))
    assert only_point(office).state is PointState.OPEN


def test_a_preparer_s_word_on_a_sure_point_waits_for_a_reviewer_s(office):
    at = (office.workplace, office["IO"], "SMALL")
    point = only_point(office).point.id
    review.decide(*at, point, "leave", "two deliveries")
    (row,) = (found_point for found_point in review.points(*at) if found_point.point.id == point)
    preparers = review.preparers_of(office.workplace)
    assert review.is_proposed(row, preparers)
    with pytest.raises(NotAllowed):
        review.confirm_point(*at, point)
    needs = sign_off.readiness(office.workplace, office["TV"], "SMALL", day("2026-10-31"))
    says = next(
        condition.says for condition in needs.conditions if condition.name == "Sure points decided"
    )
    assert "1 sure point was left or waived by a preparer: a reviewer confirms it." in says
    review.confirm_point(office.workplace, office["TV"], "SMALL", point)
    (row,) = (found_point for found_point in review.points(*at) if found_point.point.id == point)
    assert (row.state, row.decision.made_by, row.decision.reason) == (
        "left", "TV", "two deliveries (said by IO)",
    )  # fmt: skip
    assert not review.is_proposed(row, preparers)
    with pytest.raises(Refusal, match="nothing to confirm"):
        review.confirm_point(office.workplace, office["TV"], "SMALL", point)
