"""Handing in, approving, sending back; and barred periods opened for one posting alone."""

import json

import pytest

from corkpost.core.acts import TakeBack
from corkpost.core.approval import ApprovalRule, HeldForApproval
from corkpost.core.kinds import PeriodState
from corkpost.core.refusals import (
    BadEntry,
    BarredDate,
    ChangedMeanwhile,
    NoReason,
    NotAllowed,
    Refusal,
)
from corkpost.formats.acts import (
    AnyAct,
    ByHandAct,
    EntryAct,
    OwnPocketAct,
    PointAct,
    TakingsAct,
    UndoAct,
)
from corkpost.services import acts, approvals, entries, periods, review, sign_off, staff
from corkpost.services.posting import PostRequest
from corkpost.store import changes as change_store
from corkpost.store import periods as period_store
from tests.builders import CODES, day
from tests.practice import accrual, accrue, by_route, only_point, void_twin

LINE = {"party": "", "debit": "", "credit": "", "tax_code": "", "tax": "none", "text": ""}
ENTRY = EntryAct.model_validate(
    {
        "act": "entry",
        "near": "2026-10-31",
        "entry": {
            "kind": "adjusting",
            "date": "31.10",
            "reverse_on": "",
            "reference": "",
            "reason": "Not billed yet",
            "lines": [
                {**LINE, "account": CODES["electricity"], "debit": "400+10", "dimensions": ""},
                {**LINE, "account": CODES["accruals"], "credit": "410", "dimensions": ""},
            ],
        },
    }
)


@pytest.fixture
def held(office):
    """Ines writes drafts, and what moves more than 200 waits."""
    rule = ApprovalRule(journals=True, above=200)
    staff.set_approval(office.workplace, office["OB"], "IO", rule)
    office.people["IO"] = staff.person_named(office.workplace, "IO")
    return office


def hand_in(office, act, reason="as agreed", who="IO"):
    shown = acts.preview(office.workplace, office[who], "SMALL", act)
    return approvals.hand_in(
        office.workplace, office[who], "SMALL", act, reason=reason, shown=shown.plan.digest
    )


def approve(office, number, who="TV", **more):
    _, found = approvals.handed(office.workplace, office[who], "SMALL", number)
    shown = found.preview.plan.digest
    return approvals.approve(office.workplace, office[who], "SMALL", number, shown=shown, **more)


def void_act(office):
    point = only_point(office).point.id
    return PointAct(act="point", point=point, route="void", settings={"transaction": "T3"})


def test_what_waits_counts_nowhere_and_is_posted_in_its_maker_s_name(held):
    with pytest.raises(HeldForApproval, match="You write drafts"):
        accrue(held)
    number = hand_in(held, ENTRY)
    ledger = held.workplace.ledger(held["TV"], "SMALL")
    assert len(ledger.books.changes) == 1
    posted = approve(held, number, key="k" * 16)
    assert (posted.entries[0].entered_by, posted.entries[0].reason) == ("IO", "Not billed yet")
    ledger = held.workplace.ledger(held["TV"], "SMALL")
    assert ledger.books.changes[-1].by == "IO"
    assert approvals.approvers_of(held.workplace, ledger) == {posted.number: "TV"}
    # Sent again it is the same posting; and who approved may sign, since it is not their work.
    assert approve(held, number, key="k" * 16).number == posted.number
    assert (
        sign_off.readiness(held.workplace, held["TV"], "SMALL", day("2026-10-31")).may_not is None
    )
    assert approvals.listed(held.workplace, held["TV"], "SMALL") == ()


def test_a_correction_above_the_limit_waits_with_its_point_and_can_be_handed_in_once(held):
    with pytest.raises(HeldForApproval, match=r"moves 246\.00"):
        void_twin(held)
    number = hand_in(held, void_act(held))
    ledger = held.workplace.ledger(held["IO"], "SMALL")
    (waiting,) = approvals.points_waiting(held.workplace, ledger).values()
    assert (waiting.number, waiting.made_by) == (number, "IO")
    with pytest.raises(Refusal, match="handed in already, by IO"):
        hand_in(held, void_act(held))
    approve(held, number)
    assert only_point(held).state == "corrected"


def test_nobody_approves_their_own_and_a_preparer_nobody_s(held):
    number = hand_in(held, ENTRY)
    for who, says in (("IO", "may not approve"), ("OB", None)):
        _, found = approvals.handed(held.workplace, held[who], "SMALL", number)
        assert (found.may_not or "").find(says or "") >= 0
        assert (found.may_not is None) is (says is None)
    with pytest.raises(NotAllowed):
        approve(held, number, who="IO")
    staff.set_approval(held.workplace, held["OB"], "TV", ApprovalRule(above=100))
    held.people["TV"] = staff.person_named(held.workplace, "TV")
    with pytest.raises(HeldForApproval, match=r"above 100\.00"):
        approve(held, number)


def test_an_entry_is_handed_in_once(held):
    hand_in(held, ENTRY)
    with pytest.raises(Refusal, match="handed in already, by IO: it waits"):
        hand_in(held, ENTRY)


def test_sent_back_it_is_a_draft_again_with_the_remark_until_it_is_handed_in_anew(held):
    number = hand_in(held, ENTRY)
    with pytest.raises(NoReason):
        approvals.send_back(held.workplace, held["TV"], "SMALL", number, " ")
    approvals.send_back(held.workplace, held["TV"], "SMALL", number, "the meter says 380")
    (back,) = approvals.listed(held.workplace, held["IO"], "SMALL")
    assert (back.ending.remark, back.ending.by) == ("the meter says 380", "TV")
    assert approvals.listed(held.workplace, held["TV"], "SMALL") == ()
    (draft,) = entries.drafts(held.workplace, held["IO"], "SMALL")
    assert draft.id == approvals.draft_of(back)
    assert json.loads(draft.content)["lines"][0]["debit"] == "400+10"
    with pytest.raises(ChangedMeanwhile, match="was sent back by TV"):
        approve(held, number)


def test_only_its_maker_withdraws_it(held):
    number = hand_in(held, void_act(held))
    with pytest.raises(NotAllowed, match="Only who handed it in"):
        approvals.withdraw(held.workplace, held["TV"], "SMALL", number)
    approvals.withdraw(held.workplace, held["IO"], "SMALL", number)
    assert approvals.listed(held.workplace, held["IO"], "SMALL") == ()


def test_what_was_put_right_meanwhile_is_told_and_not_posted_twice(held):
    number = hand_in(held, void_act(held))
    void_twin(held, who="TV")
    _, found = approvals.handed(held.workplace, held["TV"], "SMALL", number)
    assert (found.preview, found.refused is None) == (None, False)
    with pytest.raises(Refusal):
        approvals.approve(held.workplace, held["OB"], "SMALL", number, shown="x")


def test_who_may_post_hands_nothing_in_and_a_partner_is_nobody_s_to_approve(office):
    with pytest.raises(Refusal, match="post this yourself"):
        hand_in(office, ENTRY)
    with pytest.raises(BadEntry, match="nobody approves a partner"):
        staff.set_approval(office.workplace, office["OB"], "OB", ApprovalRule(journals=True))
    with pytest.raises(NotAllowed):
        staff.set_approval(office.workplace, office["TV"], "IO", ApprovalRule())


def test_every_act_comes_back_from_what_was_kept_of_it_as_it_was_meant(held):
    above = ApprovalRule(above=0)
    staff.set_approval(held.workplace, held["OB"], "IO", above)
    held.people["IO"] = staff.person_named(held.workplace, "IO")
    accrue(held, who="TV")
    made: list[AnyAct] = [
        ByHandAct(act="by-hand", route="void", transaction="T6", items=[], settings={}),
        UndoAct(act="undo", number=2),
        OwnPocketAct(act="own-pocket", day=day("2026-10-01"), gross="20+4.60", account="6100"),
        TakingsAct.model_validate(
            {"act": "takings", "days": [{"day": "2026-09-04", "cash": "12"}], "sales": "4000"}
        ),
    ]
    for act in made:
        number = hand_in(held, act)
        before = acts.preview(held.workplace, held["TV"], "SMALL", act).plan
        posted = approve(held, number)
        assert [e.total for e in posted.entries] == [e.total for e in before.entries]


# -- a barred period opened for one posting


@pytest.fixture
def barred(office):
    """June is barred by hand; the second bill of April stands in a barred month too."""
    for on in ("2026-06-30", "2026-04-30"):
        periods.set_period(
            office.workplace, office["OB"], "SMALL", day(on), PeriodState.BARRED, "tax returned"
        )
    return office


def states(office):
    ledger = office.workplace.ledger(office["OB"], "SMALL")
    rows = period_store.history_of(office.workplace.database.reading, ledger.client.id)
    return [(row.state.value, row.reason) for row in rows[2:]]


def test_a_partner_s_correction_keeps_its_own_date_and_the_bar_is_back_by_itself(barred):
    point = only_point(barred).point.id
    case = review.case(barred.workplace, barred["OB"], "SMALL", point)
    assert [period.last_day for period in case.openable] == [day("2026-04-30")]
    assert case.prepared[0].preview.plan.entries[0].posting_date == day("2026-05-01")
    shown = acts.preview(
        barred.workplace,
        barred["OB"],
        "SMALL",
        by_route(point, "void", {"transaction": "T3"}),
        opens=True,
    )
    assert shown.opens == case.openable
    post_request = PostRequest("one delivery", shown.plan.digest, opens=True)
    posted = acts.post(
        barred.workplace,
        barred["OB"],
        "SMALL",
        by_route(point, "void", {"transaction": "T3"}),
        post_request,
    )
    assert posted.entries[0].posting_date == day("2026-04-05")
    assert states(barred) == [
        ("open", "for one posting: one delivery"),
        ("barred", "barred again after that posting"),
    ]
    calendar = barred.workplace.ledger(barred["OB"], "SMALL").books.calendar
    assert calendar.state_on(day("2026-04-05")) is PeriodState.BARRED


def test_where_the_posting_fails_the_bar_was_never_off(barred, monkeypatch):
    def fail(*_):
        raise RuntimeError("the disk is full")

    monkeypatch.setattr(change_store, "append", fail)
    june = accrual(on="2026-06-30", reverse_on=None)
    with pytest.raises(RuntimeError):
        acts.post(barred.workplace, barred["OB"], "SMALL", june, PostRequest("", opens=True))
    assert states(barred) == []


def test_nobody_else_opens_it_and_what_is_filed_stays(barred):
    june = accrual(on="2026-06-30", reverse_on=None)
    with pytest.raises(NotAllowed, match="reopen"):
        acts.post(barred.workplace, barred["TV"], "SMALL", june, PostRequest("", opens=True))
    filed = accrual(on="2025-12-31", reverse_on=None)
    with pytest.raises(BarredDate):
        acts.post(barred.workplace, barred["OB"], "SMALL", filed, PostRequest("", opens=True))
    assert review.case(
        barred.workplace, barred["TV"], "SMALL", only_point(barred).point.id
    ).openable == ()  # fmt: skip


def test_a_person_s_day_counts_and_what_was_approved_does_not(office):
    staff.set_approval(office.workplace, office["OB"], "IO", ApprovalRule(above=500))
    office.people["IO"] = staff.person_named(office.workplace, "IO")
    accrue(office, amount="300.00", reverse_on=None)
    with pytest.raises(HeldForApproval, match=r"300.00 before it today"):
        accrue(office, on="2026-09-30", amount="250.00", reverse_on=None)
    accrue(office, on="2026-08-31", amount="200.00", reverse_on=None)
    number = hand_in(office, ENTRY)
    approve(office, number)
    # 410.00 of it was looked at: the day's own part is 500.00, and one more waits all the same.
    with pytest.raises(HeldForApproval, match=r"500.00 before it today"):
        accrue(office, on="2026-07-31", amount="1.00", reverse_on=None)


def test_who_lost_the_client_is_told_to_who_approves(held):
    number = hand_in(held, ENTRY)
    _, found = approvals.handed(held.workplace, held["TV"], "SMALL", number)
    assert found.maker_gone is None
    staff.give_client(held.workplace, held["OB"], "IO", "SMALL", give=False)
    _, found = approvals.handed(held.workplace, held["TV"], "SMALL", number)
    assert "does not have this client any more" in (found.maker_gone or "")


def test_a_draft_is_its_writer_s(office):
    name = entries.keep_draft(office.workplace, office["IO"], "SMALL", {"reason": "mine"})
    with pytest.raises(NotAllowed, match="IO's draft"):
        entries.keep_draft(office.workplace, office["TV"], "SMALL", {"reason": "yours"}, name)
    assert [row.made_by for row in entries.drafts(office.workplace, office["TV"], "SMALL")] == [
        "IO"
    ]
    entries.drop_draft(office.workplace, office["TV"], "SMALL", name)


def test_what_another_posted_is_taken_back_only_by_who_might_have_posted_it(office):
    posted = accrue(office, who="TV")
    rule = ApprovalRule(journals=True)
    staff.set_approval(office.workplace, office["OB"], "IO", rule)
    ines = staff.person_named(office.workplace, "IO")
    with pytest.raises(HeldForApproval, match="You write drafts"):
        acts.post(office.workplace, ines, "SMALL", TakeBack(posted.number), PostRequest("no"))
    voided = void_twin(office, "TV")
    assert (
        acts.post(
            office.workplace, ines, "SMALL", TakeBack(voided.number), PostRequest("right")
        ).number
        == 4
    )
