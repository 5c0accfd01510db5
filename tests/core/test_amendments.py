"""Amendments: words put right at any time, no figure moved, what stood before kept."""

from datetime import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.amendments import amended
from corkpost.core.books import Amendment
from corkpost.core.by_hand import picked
from corkpost.core.change import checked
from corkpost.core.effect import effect_of, year_end_after
from corkpost.core.refusals import AlreadyTakenBack, BadEntry, DependedOn, NothingToDo
from corkpost.core.routes import plan_route
from corkpost.core.seal_forms import seal_digest
from corkpost.core.undo import plan_undo
from tests.builders import after, bill, books_with, day

BILL = bill("RW 117", on="2025-04-05", id="B1", fuel="246.00")
FILED = day("2025-12-31")
BOOKS = books_with(BILL, filed_through="2025-12-31")


def amend(books=BOOKS, **words):
    point = picked(books, "amend-reference", "B1")
    return checked(plan_route(books, point, "amend-reference", words), books)


def test_words_of_a_filed_year_are_put_right_and_no_figure_moves():
    plan = amend(reference=" RW-0117  b", memo="")
    assert [(row.field, row.before, row.after) for row in plan.amendments] == [
        ("reference", "RW 117", "RW-0117 b")
    ]
    done = after(BOOKS, plan)
    assert done.transactions["B1"] == BILL._replace(reference="RW-0117 b")
    assert seal_digest(done, FILED) == seal_digest(BOOKS, FILED)
    effect = effect_of(plan, BOOKS, year_end_after(plan, BOOKS))
    assert (effect.as_at, effect.accounts, effect.parties) == (FILED, (), ())


@pytest.mark.parametrize(
    ("words", "refusal"),
    [({}, NothingToDo), ({"reference": "RW  117"}, NothingToDo), ({"memo": "x" * 401}, BadEntry)],
)
def test_what_changes_nothing_or_is_no_word_is_refused(words, refusal):
    with pytest.raises(refusal):
        amend(**words)


def test_plans_that_write_other_words_are_not_taken_for_one_another():
    assert amend(reference="A").digest != amend(reference="B").digest


def test_an_amendment_is_taken_back_unless_another_lies_on_it():
    done = after(BOOKS, amend(reference="RW 118", memo="diesel"))
    back = plan_undo(done, 1)
    assert after(done, back, 2).transactions == BOOKS.transactions
    other = after(done, amend(done, memo="fuel"), 2)
    with pytest.raises(DependedOn, match="change 2"):
        plan_undo(other, 1)
    assert after(other, plan_undo(other, 2), 3).transactions["B1"].memo == "diesel"
    with pytest.raises(AlreadyTakenBack):
        plan_undo(after(done, back, 2), 1)


WORDS = st.sampled_from(["A", "B", "C", None])


@given(st.lists(st.tuples(st.sampled_from(["reference", "memo", "account"]), WORDS), max_size=8))
def test_laid_over_what_is_amended_already_they_change_nothing(steps):
    now = {"reference": "A", "memo": None, "account": "A"}
    rows = []
    for field, word in steps:
        rows.append(Amendment("B1", datetime(2026, 11, 16), field, now[field], word, "why"))
        now[field] = word
    first = (BILL._replace(reference="A", memo=None),)
    once = amended(first, rows)
    assert once == (BILL._replace(reference=now["reference"], memo=now["memo"]),)
    assert amended(once, rows) == once
