"""Sign-off: what it needs, the seal, what breaks it, reopening, posting states."""

from dataclasses import replace

import pytest

from corkpost.core.acts import TakeBack
from corkpost.core.kinds import PeriodState
from corkpost.core.refusals import (
    BadEntry,
    BarredDate,
    NoReason,
    NotAllowed,
    NotReady,
    UnknownName,
)
from corkpost.services import acts, desk, entries, overview, periods, review, sign_off, staff
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Workplace
from tests.builders import day
from tests.formats.folders import small_books
from tests.practice import PASSWORD, accrue, decide_the_rest, only_point, take_in, void_twin

AT = day("2026-10-31")


def sign(office, who="TV", at=AT, password=PASSWORD, **more):
    return sign_off.sign_off(office.workplace, office[who], "SMALL", at, password, **more)


def test_a_reviewer_who_posted_nothing_signs_and_seals(office):
    void_twin(office)
    decide_the_rest(office)
    seal = sign(office)
    assert (seal.signed_by, seal.prepared_by, seal.as_at) == ("TV", "IO", AT)
    calendar = overview.chart(office.workplace, office["IO"], "SMALL").calendar
    assert calendar.state_on(AT) is PeriodState.BARRED
    assert calendar.first_open_day(day("2026-04-05")) == day("2026-11-01")


def test_what_would_change_what_is_sealed_is_refused(office):
    void_twin(office)
    decide_the_rest(office)
    sign(office)
    with pytest.raises(BarredDate, match="signed off and sealed as at 31 October 2026"):
        accrue(office, on="2026-10-31")
    # The void may be taken back, on the first day that the seal leaves open.
    undone = acts.post(
        office.workplace, office["IO"], "SMALL", TakeBack(2), PostRequest("it was right")
    )
    assert {str(entry.posting_date) for entry in undone.entries} == {"2026-11-01"}
    with pytest.raises(BarredDate, match="reopen"):
        periods.set_period(office.workplace, office["OB"], "SMALL", AT, PeriodState.OPEN, "x")
    accrue(office, on="2026-11-30", reverse_on=None)
    state = sign_off.seal_states(office.workplace, office.workplace.ledger(office["IO"], "SMALL"))[
        0
    ]
    assert not state.broken


@pytest.mark.parametrize(
    ("who", "more", "refusal", "words"),
    [
        ("IO", {}, NotAllowed, "A reviewer or partner signs"),
        ("TV", {"password": "wrong"}, NotAllowed, "That password is not yours"),
        ("TV", {"at": day("2026-10-30")}, BadEntry, "Sign as at 31 October 2026"),
        ("TV", {}, NotReady, "sure points are left undecided"),
        ("TV", {"override_reason": "it is late"}, NotAllowed, "Only a partner may sign over"),
        ("OB", {"override_reason": "  "}, NoReason, "Say why"),
    ],
)
def test_who_may_not_or_what_is_not_ready_is_refused_in_words(office, who, more, refusal, words):
    with pytest.raises(refusal, match=words):
        sign(office, who, **more)
    assert office.workplace.ledger(office["IO"], "SMALL").seals == ()


def test_a_partner_may_sign_over_what_is_missing_with_a_reason_that_prints(office):
    assert sign(office, "OB", override_reason="client confirmed by phone").override_reason


def test_who_posted_in_it_may_not_sign_unless_a_practice_of_one_allows_it(office):
    void_twin(office, who="TV")
    decide_the_rest(office)
    found = sign_off.readiness(office.workplace, office["TV"], "SMALL", AT)
    assert found.ready
    assert "You posted change 2" in found.may_not
    with pytest.raises(NotAllowed, match="somebody else"):
        sign(office)
    staff.set_second_person(office.workplace, office["OB"], False)
    assert not sign(office).second_person


def test_it_is_signed_once_and_a_later_day_after_it(office):
    decide_the_rest(office, "IO", "2026-10-31", "2026-12-31")
    sign(office)
    with pytest.raises(BadEntry, match="signed off through 31 October 2026 already"):
        sign(office, at=day("2026-09-30"))
    assert sign(office, at=day("2026-12-31")).number == 2


def changed_underneath(office, tmp_path, **words):
    """Newer books of the client in which a sealed bill is not what it was."""
    books = small_books()
    rows = []
    for row in books.tables.transactions:
        if row.id == "T6":
            lines = tuple(line._replace(amount=line.amount * 2) for line in row.lines)
            row = row._replace(**words) if words else row._replace(lines=lines)
        rows.append(row)
    made = replace(books, tables=replace(books.tables, transactions=tuple(rows)))
    take_in(office.workplace, office["OB"], made, tmp_path / "newer")
    return sign_off.seal_states(office.workplace, office.workplace.ledger(office["OB"], "SMALL"))[0]


def test_the_seal_shows_as_broken_with_what_moved_when_the_books_change_underneath(
    office, tmp_path
):
    decide_the_rest(office)
    sign(office)
    state = changed_underneath(office, tmp_path)
    assert state.broken
    moved = {row.account: row.now - row.signed for row in state.moved}
    assert moved == {"6100": 1230, "1200": -1230}
    (row,) = state.rows
    assert (row.kind, row.name) == ("entry", "T6")
    assert [text.split()[1] for text in row.before[1:]] == ["12.30", "-12.30"]
    assert [text.split()[1] for text in row.now[1:]] == ["24.60", "-24.60"]


def test_words_that_change_underneath_break_no_seal(office, tmp_path):
    decide_the_rest(office)
    sign(office)
    assert not changed_underneath(office, tmp_path, memo="another word").broken


def test_a_reopening_ends_by_itself_and_the_seal_stands_again(office):
    decide_the_rest(office)
    sign(office)
    with pytest.raises(BadEntry, match="is past"):
        sign_off.reopen(office.workplace, office["OB"], "SMALL", AT, "late bill", day("2026-11-01"))
    sign_off.reopen(office.workplace, office["OB"], "SMALL", AT, "late bill", day("2026-11-20"))
    row = next(row for row in desk.desk(office.workplace, office["TV"]).rows if row.code == "SMALL")
    assert row.summary.reopened == (
        "OB reopened 31 October 2026 until 20 November 2026, which TV signed: late bill"
    )

    def stands(today):
        later = Workplace(office.workplace.database.folder, day(today))
        try:
            ledger = later.ledger(office["IO"], "SMALL")
            barred = ledger.books.calendar.state_on(AT) is PeriodState.BARRED
            (seal,) = ledger.seals
            assert seal.stands is barred
            return barred
        finally:
            later.close()

    assert [stands(on) for on in ("2026-11-20", "2026-11-21")] == [False, True]
    # Signed anew while it is open, the new one takes its place for good.
    decide_the_rest(office)
    assert sign(office).number == 2
    later = Workplace(office.workplace.database.folder, day("2026-12-24"))
    assert [seal.stands for seal in later.ledger(office["IO"], "SMALL").seals] == [False, True]
    later.close()


def test_only_a_partner_reopens_and_it_is_on_the_record(office):
    decide_the_rest(office)
    sign(office)
    with pytest.raises(NotAllowed, match="Ask a partner"):
        sign_off.reopen(office.workplace, office["TV"], "SMALL", AT, "late bill")
    with pytest.raises(NoReason):
        sign_off.reopen(office.workplace, office["OB"], "SMALL", AT, " ")
    (seal,) = sign_off.reopen(
        office.workplace, office["OB"], "SMALL", day("2026-10-01"), "late bill"
    )
    state = sign_off.seal_states(office.workplace, office.workplace.ledger(office["IO"], "SMALL"))[
        0
    ]
    assert (state.seal.number, state.seal.reopening.reason) == (seal.number, "late bill")
    accrue(office)
    with pytest.raises(UnknownName):
        sign_off.reopen(office.workplace, office["OB"], "SMALL", AT, "again")


def test_what_went_to_the_authorities_stays_as_it_is(office):
    decide_the_rest(office)
    sign(office)
    with pytest.raises(NotAllowed, match="filed through 31 December 2025"):
        sign_off.reopen(office.workplace, office["OB"], "SMALL", day("2025-06-01"), "x")


@pytest.mark.parametrize(
    ("who", "state", "refusal"),
    [("IO", PeriodState.HELD, NotAllowed), ("TV", PeriodState.HELD, None), ("OB", PeriodState.BARRED, None)],
)  # fmt: skip
def test_who_sets_a_posting_state(office, who, state, refusal):
    def post_request():
        return periods.set_period(
            office.workplace, office[who], "SMALL", day("2026-07-09"), state, "the return is filed"
        )

    if refusal:
        with pytest.raises(refusal):
            post_request()
    else:
        assert post_request().last_day == day("2026-07-31")


def test_what_was_barred_only_a_partner_opens_again(office):
    at = day("2026-07-09")
    periods.set_period(office.workplace, office["TV"], "SMALL", at, PeriodState.BARRED, "done")
    with pytest.raises(NotAllowed, match="Only a partner"):
        periods.set_period(
            office.workplace, office["TV"], "SMALL", at, PeriodState.OPEN, "not done"
        )
    assert periods.set_period(
        office.workplace, office["OB"], "SMALL", at, PeriodState.OPEN, "not done"
    )


def test_what_comes_after_it_by_itself_is_told(office):
    accrue(office)
    about = sign_off.about(office.workplace, office["TV"], "SMALL", AT)
    assert [entry.id for entry in about.coming] == ["R-2026-1"]
    assert (about.changes, about.preparer, about.sealed) == (1, "IO", False)
    number = entries.change_log(office.workplace, office["IO"], "SMALL")[-1].number
    acts.post(
        office.workplace,
        office["IO"],
        "SMALL",
        TakeBack(number),
        PostRequest("it is billed after all"),
    )
    assert sign_off.about(office.workplace, office["TV"], "SMALL", AT).coming == ()


def test_what_is_waived_is_listed_with_what_correcting_it_would_have_moved(office):
    with_error = only_point(office, check="payroll-disagrees").point
    review.decide(office.workplace, office["IO"], "SMALL", with_error.id, "waive", "small")
    found = sign_off.waived(office.workplace, office["IO"], "SMALL", day("2026-10-31"))
    (row,) = found.schedule.rows
    # The whole payroll of a month is lacking: a cost of 8,400.00, all of it owed.
    assert (row.profit, row.net_assets) == (-840000, -840000)
    assert found.schedule.gross == row.point.amount
    assert found.decisions[with_error.id].reason == "small"
