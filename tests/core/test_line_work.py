"""Marks on the worksheet's lines, remarks, and the checklist: who may, what falls, what waits."""

from datetime import datetime

import pytest

from corkpost.core.checklists import Tick, checklist, item_named, stated_items
from corkpost.core.kinds import Entity, Role
from corkpost.core.marks import Mark, MarkKind, refuse_mark, stated_marks
from corkpost.core.refusals import BadEntry, NotAllowed, NothingToDo, UnknownName
from corkpost.core.remarks import (
    About,
    Remark,
    refuse_clearing,
    refuse_remark,
    threads,
    waiting,
)
from corkpost.core.seal import conditions
from tests.builders import bill, books_with, day

AT = day("2026-10-31")
NOW = datetime(2026, 11, 16, 9)
BOOKS = books_with(bill("RW 1", on="2026-05-02", id="B1", fuel="60.00"))


def mark(figure=6000, kind=MarkKind.PREPARED, by="IO", at=AT):
    return Mark("5200", at, kind, figure, by, NOW)


def shown(rows, figure=6000):
    found = stated_marks(rows, AT, {"5200": figure})
    return [(s.mark.kind.value, s.mark.by, s.fell) for s in found.get("5200", ())]


def test_a_mark_stands_at_its_figure_and_day_and_falls_where_the_figure_moves():
    rows = [mark(), mark(kind=MarkKind.REVIEWED, by="TV"), mark(at=day("2026-09-30"))]
    assert shown(rows) == [("prepared", "IO", False), ("reviewed", "TV", False)]
    assert shown(rows, figure=6001) == [("prepared", "IO", True), ("reviewed", "TV", True)]


def test_the_latest_mark_of_a_kind_counts_and_one_that_was_taken_off_is_none():
    assert shown([mark(), mark(by="PH")]) == [("prepared", "PH", False)]
    assert shown([mark(), mark(figure=None)]) == []


def test_a_reviewer_marks_as_reviewed_what_somebody_else_prepared():
    standing = stated_marks([mark(by="TV")], AT, {"5200": 6000})["5200"]
    refuse_mark(standing, MarkKind.PREPARED, "IO", Role.PREPARER, second_person=True)
    refuse_mark(standing, MarkKind.REVIEWED, "OB", Role.PARTNER, second_person=True)
    refuse_mark(standing, MarkKind.REVIEWED, "TV", Role.REVIEWER, second_person=False)
    with pytest.raises(NotAllowed, match="reviewer or partner"):
        refuse_mark(standing, MarkKind.REVIEWED, "IO", Role.PREPARER, second_person=False)
    with pytest.raises(NotAllowed, match="prepared this line yourself"):
        refuse_mark(standing, MarkKind.REVIEWED, "TV", Role.REVIEWER, second_person=True)


def remark(number=1, *, asks=True, answers=None, cleared=None, by="TV"):
    return Remark(number, About.ACCOUNT, "5200", "why?", asks, answers, by, NOW, cleared)


def test_what_waits_comes_first_with_its_answers():
    rows = [
        remark(1, asks=False),
        remark(2, cleared="TV"),
        remark(3),
        remark(4, asks=False, answers=3, by="IO"),
    ]
    found = threads(rows)
    assert [(t.first.number, [a.number for a in t.answers]) for t in found] == [
        (3, [4]),
        (1, []),
        (2, []),
    ]
    assert [row.number for row in waiting(rows)] == [3]
    left = [row for row in conditions(BOOKS, [], AT, remarks=rows) if row.name == "Remarks cleared"]
    assert [(row.met, row.says) for row in left] == [(False, "1 waits to be cleared: why?")]


@pytest.mark.parametrize(
    ("about", "name", "text", "to", "refusal"),
    [
        (About.ACCOUNT, "5200", " ", None, BadEntry),
        (About.ACCOUNT, "5200", "x" * 2_001, None, BadEntry),
        (About.ACCOUNT, "9999", "why?", None, UnknownName),
        (About.TRANSACTION, "B9", "why?", None, UnknownName),
        (About.TRANSACTION, "B1", "so", 1, UnknownName),
        (About.ACCOUNT, "5200", "so", 7, UnknownName),
        (About.ACCOUNT, "5200", "so", 2, BadEntry),
    ],
)
def test_a_remark_is_about_something_that_is_there(about, name, text, to, refusal):
    known = {1: remark(1), 2: remark(2, asks=False, answers=1)}
    with pytest.raises(refusal):
        refuse_remark(BOOKS, known, about, name, text, to)
    refuse_remark(BOOKS, known, About.ACCOUNT, "5200", "so", 1)


def test_a_preparer_answers_a_reviewers_remark_and_does_not_clear_it():
    refuse_clearing(remark(), "TV", Role.REVIEWER)
    refuse_clearing(remark(by="IO"), "IO", Role.PREPARER)
    with pytest.raises(NotAllowed, match="Answer it instead"):
        refuse_clearing(remark(), "IO", Role.PREPARER)
    with pytest.raises(NothingToDo):
        refuse_clearing(remark(cleared="TV"), "OB", Role.PARTNER)


@pytest.mark.parametrize("entity", list(Entity))
def test_each_kind_of_client_has_its_own_checklist_and_a_whole_year_a_longer_one(entity):
    books = books_with(entity=entity)
    interim = [item.id for item in checklist(books, AT)]
    own = {"private", "agreement", "loans", "purposes"} & set(interim)
    assert len(own) == 1
    assert set(interim) < {item.id for item in checklist(books, day("2026-12-31"))}


def test_the_sign_off_waits_until_everything_on_the_checklist_was_seen_to():
    items = checklist(BOOKS, AT)
    ticks = [Tick(item.id, AT, True, "IO", NOW) for item in items]

    def met(rows):
        return next(
            row.met for row in conditions(BOOKS, [], AT, ticks=rows) if row.name == "Checklist done"
        )

    assert met(ticks)
    assert not met(ticks[1:])
    assert not met([*ticks, Tick(items[0].id, AT, False, "IO", NOW)])
    assert not met([tick._replace(as_at=day("2026-09-30")) for tick in ticks])
    assert [stated.tick.by for stated in stated_items(BOOKS, AT, ticks)] == ["IO"] * len(items)
    with pytest.raises(UnknownName):
        item_named(BOOKS, AT, "loans")
