"""Marks, remarks and the checklist, kept: by whom, once, and never for another client's people."""

import pytest

from corkpost.core.marks import MarkKind
from corkpost.core.refusals import ChangedMeanwhile, NotAllowed, UnknownName
from corkpost.core.remarks import About
from corkpost.services import remarks, sign_off, since
from tests.builders import CODES, day
from tests.practice import PASSWORD, accrue, decide_the_rest, void_twin

AT = day("2026-10-31")
FUEL = CODES["fuel"]


def mark(office, who, kind, seen, account=FUEL):
    remarks.mark(office.workplace, office[who], "SMALL", account, AT, kind, seen)


def marked(office, account=FUEL):
    found = remarks.marks(office.workplace, office["IO"], "SMALL", AT)
    return [(s.mark.kind.value, s.mark.by, s.fell) for s in found.get(account, ())]


def test_a_line_is_marked_at_what_was_seen_and_falls_open_when_it_moves(office):
    electricity = CODES["electricity"]
    mark(office, "IO", MarkKind.PREPARED, 0, electricity)
    mark(office, "TV", MarkKind.REVIEWED, 0, electricity)
    assert [row[2] for row in marked(office, electricity)] == [False, False]
    accrue(office)
    assert [row[2] for row in marked(office, electricity)] == [True, True]
    with pytest.raises(ChangedMeanwhile):
        mark(office, "TV", MarkKind.REVIEWED, 0, electricity)
    mark(office, "TV", MarkKind.REVIEWED, None, electricity)
    assert marked(office, electricity) == [("prepared", "IO", True)]


def test_a_remark_is_kept_once_answered_and_cleared_and_stands_in_the_way_till_then(office):
    decide_the_rest(office)

    def ready():
        return sign_off.readiness(office.workplace, office["TV"], "SMALL", AT).ready

    assert ready()
    for _ in range(2):
        remarks.remark(
            office.workplace, office["TV"], "SMALL", About.ACCOUNT, FUEL, "why?", asks=True
        )
    assert not ready()
    remarks.remark(
        office.workplace, office["IO"], "SMALL", About.ACCOUNT, FUEL, "a new boat", answers=1
    )
    (thread,) = remarks.remarks(office.workplace, office["IO"], "SMALL")
    assert [answer.text for answer in thread.answers] == ["a new boat"]
    assert not remarks.may_clear(office["IO"], thread.first)
    remarks.clear(office.workplace, office["TV"], "SMALL", 1)
    assert ready()


def test_whose_client_it_is_not_sees_no_remark(office):
    with pytest.raises(UnknownName):
        remarks.remarks(office.workplace, office["PH"], "SMALL")
    with pytest.raises(UnknownName):
        remarks.remark(office.workplace, office["PH"], "SMALL", About.ACCOUNT, FUEL, "why?")


def test_a_reviewer_sees_what_others_did_since_they_read_it(office):
    def did(who="TV"):
        found = since.since_read(office.workplace, office[who], "SMALL")
        return [(row.by, row.what) for row in found.did], found.through

    assert did() == ([("OB", "books taken in")], 1)
    since.read_through(office.workplace, office["TV"], "SMALL", 1)
    assert did()[0] == []
    void_twin(office)
    remarks.remark(office.workplace, office["TV"], "SMALL", About.ACCOUNT, FUEL, "why?", asks=True)
    assert did() == ([("IO", "correction")], 2)
    # What somebody else read is theirs alone.
    assert ("TV", "remark") in did("IO")[0]
    since.read_through(office.workplace, office["TV"], "SMALL", 99)
    accrue(office)
    assert did() == ([("IO", "entry")], 3)


def test_what_was_ticked_for_a_signed_day_stays(office):
    decide_the_rest(office)
    sign_off.sign_off(office.workplace, office["TV"], "SMALL", AT, PASSWORD)
    with pytest.raises(NotAllowed, match="stays as it was"):
        sign_off.tick(office.workplace, office["IO"], "SMALL", AT, "letter", done=False)
