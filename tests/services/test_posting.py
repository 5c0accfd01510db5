"""Posting: numbered, once, on the books that were shown, within one's rights."""

import threading

import pytest

from corkpost.core.acts import TakeBack
from corkpost.core.approval import HeldForApproval
from corkpost.core.entries import EntryRequest
from corkpost.core.kinds import EntryKind, PeriodState
from corkpost.core.points import PointState
from corkpost.core.refusals import ChangedMeanwhile, NoReason, Refusal, UnknownName
from corkpost.core.trial_balance import trial_balance
from corkpost.services import acts, entries, overview, periods, review
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Workplace
from tests.builders import TODAY, day
from tests.practice import accrual, accrue, by_route, only_point, void_twin


def test_entries_are_numbered_in_series_of_their_own_without_gaps(office):
    assert [entry.id for entry in void_twin(office).entries] == ["C-2026-1"]
    assert [entry.id for entry in accrue(office).entries] == ["A-2026-1", "R-2026-1"]
    assert [entry.id for entry in accrue(office, amount="5.00").entries] == ["A-2026-2", "R-2026-2"]
    next_year = accrue(office, on="2026-12-31", reverse_on="2027-01-01")
    assert [entry.id for entry in next_year.entries] == ["A-2026-3", "R-2027-1"]


def test_what_was_posted_says_who_when_and_why(office):
    (entry,) = void_twin(office).entries
    assert (entry.entered_by, entry.reason) == ("IO", "one delivery, one bill")
    assert str(entry.entered_at) == "2026-11-16 12:00:00"
    change = entries.change_log(office.workplace, office["IO"], "SMALL")[-1]
    assert (change.kind, change.route, change.made_by) == ("correction", "void", "IO")


def test_a_posting_sent_again_is_posted_once(office):
    first = void_twin(office, key="0123456789abcdef")
    assert void_twin_again(office, "0123456789abcdef") == first
    assert len(entries.change_log(office.workplace, office["IO"], "SMALL")) == 2


def void_twin_again(office, key):
    """The same deed once more: its point is corrected by now."""
    point = next(
        found_point.point.id
        for found_point in review.points(office.workplace, office["IO"], "SMALL")
        if found_point.state is PointState.CORRECTED
    )
    return acts.post(
        office.workplace,
        office["IO"],
        "SMALL",
        by_route(point, "void", {"transaction": "T3"}),
        PostRequest("one delivery, one bill", key=key),
    )


def test_two_people_pressing_post_at_once_give_one_entry(office):
    point = only_point(office).point.id
    shown = acts.preview(office.workplace, office["IO"], "SMALL", by_route(point, "void", {})).plan
    outcomes: list[object] = []

    def press(who):
        other = Workplace(office.workplace.database.folder, TODAY)
        try:
            post_request = PostRequest("twice", shown=shown.digest)
            outcomes.append(
                acts.post(other, office[who], "SMALL", by_route(point, "void", {}), post_request)
            )
        except Refusal as refused:
            outcomes.append(refused)
        finally:
            other.close()

    threads = [threading.Thread(target=press, args=(who,)) for who in ("IO", "TV")]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(isinstance(outcome, Refusal) for outcome in outcomes) == [False, True]
    assert len(entries.change_log(office.workplace, office["IO"], "SMALL")) == 2


def test_it_is_refused_when_the_books_moved_since_it_was_shown(office):
    point = only_point(office).point.id
    settings = {"transaction": "T3"}
    shown = acts.preview(
        office.workplace, office["IO"], "SMALL", by_route(point, "void", settings)
    ).plan
    periods.set_period(
        office.workplace, office["OB"], "SMALL", day("2026-04-05"), PeriodState.BARRED, "returned"
    )
    post_request = PostRequest("twice", shown=shown.digest)
    with pytest.raises(ChangedMeanwhile, match="Nothing was posted"):
        acts.post(
            office.workplace, office["IO"], "SMALL", by_route(point, "void", settings), post_request
        )
    # What somebody posted elsewhere in the books does not stand in the way.
    again = acts.preview(
        office.workplace, office["IO"], "SMALL", by_route(point, "void", settings)
    ).plan
    accrue(office, who="TV")
    post_request = PostRequest("twice", shown=again.digest)
    assert acts.post(
        office.workplace, office["IO"], "SMALL", by_route(point, "void", settings), post_request
    )


@pytest.mark.parametrize("reason", ["", "   ", "\n"])
def test_an_empty_reason_is_refused(office, reason):
    with pytest.raises(NoReason):
        acts.post(
            office.workplace,
            office["IO"],
            "SMALL",
            accrual()._replace(reason=reason),
            PostRequest(""),
        )
    with pytest.raises(NoReason):
        review.decide(
            office.workplace, office["IO"], "SMALL", only_point(office).point.id, "leave", reason
        )


def test_a_held_period_takes_a_reviewer_s_posting_and_not_a_preparer_s(office):
    at = day("2026-10-31")
    periods.set_period(
        office.workplace, office["TV"], "SMALL", at, PeriodState.HELD, "under review"
    )
    with pytest.raises(HeldForApproval, match="in a held period"):
        accrue(office, who="IO")
    assert accrue(office, who="TV").number == 2


def test_who_was_not_given_the_client_is_told_that_there_is_none(office):
    for post_request in (
        lambda: accrue(office, who="PH"),
        lambda: review.points(office.workplace, office["PH"], "SMALL"),
        lambda: entries.keep_draft(office.workplace, office["PH"], "SMALL", {}),
        lambda: acts.post(office.workplace, office["PH"], "SMALL", TakeBack(1), PostRequest("x")),
    ):
        with pytest.raises(UnknownName, match="no client 'SMALL'"):
            post_request()


def test_taking_back_opens_the_point_again_with_who_and_why(office):
    void_twin(office)
    acts.post(
        office.workplace,
        office["IO"],
        "SMALL",
        TakeBack(2),
        PostRequest("they were two deliveries"),
    )
    stated = only_point(office)
    assert (stated.state, stated.decision.made_by) == (PointState.OPEN, "IO")
    assert "they were two deliveries" in stated.decision.reason
    before = trial_balance(
        overview.chart(office.workplace, office["IO"], "SMALL"), day("2026-12-31")
    )
    void_twin(office)
    acts.post(office.workplace, office["IO"], "SMALL", TakeBack(4), PostRequest("again"))
    after = trial_balance(
        overview.chart(office.workplace, office["IO"], "SMALL"), day("2026-12-31")
    )
    assert after == before


def test_what_is_dated_after_the_months_looked_at_shows_what_it_moves_then(office):
    late = acts.preview(office.workplace, office["IO"], "SMALL", accrual(), as_at=day("2026-06-30"))
    assert late.effect.as_at == accrual().posting_date > day("2026-06-30")
    assert any(row.before != row.after for row in late.effect.accounts)
    # Its mirror in the next period is not in it: the day that is shown is its own.
    now = acts.preview(
        office.workplace, office["IO"], "SMALL", accrual(), as_at=accrual().posting_date
    )
    assert now.effect == late.effect


def test_a_closing_entry_is_not_made_by_hand(office):
    request = EntryRequest(EntryKind.CLOSING, day("2026-12-31"), "x", accrual().lines)
    with pytest.raises(Refusal, match="by the program"):
        acts.post(office.workplace, office["OB"], "SMALL", request, PostRequest(""))


def test_a_draft_touches_no_figure_and_goes_when_its_entry_is_posted(office):
    before = overview.figures(office.workplace, office["IO"], "SMALL", day("2026-12-31"))
    name = entries.keep_draft(office.workplace, office["IO"], "SMALL", {"reason": "half"})
    again = entries.keep_draft(office.workplace, office["IO"], "SMALL", {"reason": "more"}, name)
    (kept,) = entries.drafts(office.workplace, office["TV"], "SMALL")
    assert (again, kept.content) == (name, '{"reason": "more"}')
    assert overview.figures(office.workplace, office["IO"], "SMALL", day("2026-12-31")) == before
    acts.post(office.workplace, office["IO"], "SMALL", accrual(), PostRequest(""), draft=name)
    assert entries.drafts(office.workplace, office["IO"], "SMALL") == []
    with pytest.raises(UnknownName):
        entries.drop_draft(office.workplace, office["IO"], "SMALL", name)


def test_the_books_kept_in_mind_after_a_post_are_those_that_the_store_has(office):
    void_twin(office)
    accrue(office)
    acts.post(office.workplace, office["IO"], "SMALL", TakeBack(2), PostRequest("no"))
    kept = office.workplace.ledger(office["IO"], "SMALL")
    other = Workplace(office.workplace.database.folder, TODAY)
    read = other.ledger(office["IO"], "SMALL")
    other.close()
    assert (kept.client, kept.books, kept.decisions) == (read.client, read.books, read.decisions)


def test_books_are_read_again_where_somebody_else_wrote_in_between(office, monkeypatch):
    adopt = office.workplace.adopt

    def late(before, posted):
        other = Workplace(office.workplace.database.folder, TODAY)
        acts.post(other, office["TV"], "SMALL", accrual(amount="7.00"), PostRequest(""))
        other.close()
        adopt(before, posted)

    monkeypatch.setattr(office.workplace, "adopt", late)
    void_twin(office)
    ids = set(overview.chart(office.workplace, office["IO"], "SMALL").transactions)
    assert {"C-2026-1", "A-2026-1"} <= ids
