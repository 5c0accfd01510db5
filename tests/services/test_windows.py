"""A window of dates for one person: what it opens, for whom, how far, and its end by itself."""

from dataclasses import replace
from datetime import timedelta

import pytest

from corkpost.core.approval import HeldForApproval
from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.kinds import EntryKind, PeriodState
from corkpost.core.periods import PostingWindow
from corkpost.core.refusals import BadEntry, BarredDate, NoReason, NotAllowed, UnknownName
from corkpost.services import acts, periods
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Workplace
from tests.builders import TODAY, day

JUNE = PostingWindow(
    "IO", day("2026-06-10"), day("2026-06-20"), TODAY, "the late fuel bills", "", ""
)


def post(office, who, on):
    lines = (EntryLine("5310", 100), EntryLine("2210", -100))
    request = EntryRequest(EntryKind.ADJUSTING, day(on), "why", lines)
    return acts.post(office.workplace, office[who], "SMALL", request, PostRequest(""))


def grant(office, who="OB", window=JUNE):
    return periods.grant_window(office.workplace, office[who], "SMALL", window)


def shut(office, state):
    periods.set_period(office.workplace, office["OB"], "SMALL", day("2026-06-30"), state, "closed")


@pytest.mark.parametrize("state", [PeriodState.HELD, PeriodState.BARRED])
def test_a_window_opens_its_days_for_its_person_alone_and_nothing_beside_them(office, state):
    shut(office, state)
    with pytest.raises((HeldForApproval, BarredDate)):
        post(office, "IO", "2026-06-15")
    grant(office)
    assert post(office, "IO", "2026-06-15").entries[0].posting_date == day("2026-06-15")
    with pytest.raises(NotAllowed, match="outside of the window that IO has"):
        post(office, "IO", "2026-06-25")
    other = office.workplace.ledger(office["OB"], "SMALL").seen_by("PH").books.calendar
    assert other.state_on(day("2026-06-15")) is state
    # For everybody else the month stands as it was set.
    books = office.workplace.ledger(office["OB"], "SMALL").books
    assert books.calendar.state_on(day("2026-06-15")) is state


def test_it_ends_by_itself_and_a_later_one_takes_its_place(office):
    shut(office, PeriodState.BARRED)
    grant(office)
    folder = office.workplace.database.folder
    later = Workplace(folder, TODAY + timedelta(days=1))
    assert later.ledger(office["OB"], "SMALL").windows == ()
    later.close()
    grant(office, window=JUNE._replace(first_day=day("2026-06-24"), last_day=day("2026-06-26")))
    with pytest.raises(NotAllowed):
        post(office, "IO", "2026-06-15")
    rules = periods.posting_rules(office.workplace, office["IO"], "SMALL")
    assert [(window.staff, window.made_by) for window in rules.windows] == [("IO", "OB")]
    assert [(row.state, row.made_by, row.reason) for row in rules.history] == [
        (PeriodState.BARRED, "OB", "closed")
    ]


def test_what_is_filed_no_window_opens(office):
    grant(office, window=JUNE._replace(first_day=day("2025-06-10")))
    shut(office, PeriodState.BARRED)
    calendar = office.workplace.ledger(office["IO"], "SMALL").seen_by("IO").books.calendar
    assert calendar.state_on(day("2026-06-15")) is PeriodState.OPEN
    filed = replace(calendar, filed_through=day("2025-12-31")).with_window(JUNE)
    assert filed.state_on(day("2025-12-31")) is PeriodState.BARRED


@pytest.mark.parametrize(
    ("who", "changed", "refusal"),
    [
        ("IO", {}, NotAllowed),
        ("OB", {"reason": " "}, NoReason),
        ("OB", {"last_day": day("2026-06-01")}, BadEntry),
        ("OB", {"until": TODAY - timedelta(days=1)}, BadEntry),
        ("OB", {"staff": "ZZ"}, UnknownName),
    ],
)
def test_who_may_grant_one_and_how(office, who, changed, refusal):
    with pytest.raises(refusal):
        grant(office, who, JUNE._replace(**changed))


def test_only_a_partner_opens_what_was_barred(office):
    shut(office, PeriodState.BARRED)
    with pytest.raises(NotAllowed, match="Only a partner"):
        grant(office, "TV")
    shut(office, PeriodState.HELD)
    assert grant(office, "TV").made_by == "TV"
