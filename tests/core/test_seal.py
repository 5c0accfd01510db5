"""The seal: what it covers, what it leaves free, what the sign-off needs and who may sign."""

from dataclasses import replace

import pytest

from corkpost.core.checks import run_checks
from corkpost.core.kinds import Role
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun, PointState
from corkpost.core.refusals import NotAllowed
from corkpost.core.seal import Decided, conditions, refuse_signer, seal_digest
from tests.builders import TODAY, after, allocated, bill, books_with, day, payment, posted
from tests.core.test_entries import cr, dr, entry, plan_entry

AT = day("2026-10-31")
OWED = bill("RW 1", on="2026-05-02", id="B1", fuel="60.00")
PAID = payment("2026-05-20", "60.00", id="P1")
LINK = allocated(PAID, OWED, "60.00")


def digest(*transactions, allocations=()):
    return seal_digest(books_with(*transactions, allocations=allocations), AT)


@pytest.mark.parametrize(
    "moved",
    [
        (OWED,),
        (OWED, PAID._replace(posting_date=day("2026-05-21"))),
        (OWED._replace(lines=tuple(x._replace(amount=-x.amount) for x in OWED.lines)), PAID),
        (OWED._replace(lines=tuple(x._replace(party="S2") for x in OWED.lines)), PAID),
        (OWED, PAID, posted("Dr fuel 1.00, Cr fuel 1.00", "2026-10-31")),
    ],
)
def test_anything_that_counts_up_to_the_day_breaks_it(moved):
    assert digest(*moved) != digest(OWED, PAID)


def test_an_allocation_is_sealed_too():
    assert digest(OWED, PAID, allocations=[LINK]) != digest(OWED, PAID)


@pytest.mark.parametrize(
    "free",
    [
        (OWED._replace(memo="noted", reference="RW-0001", reason="because"), PAID),
        (OWED, PAID, posted("Dr fuel 1.00, Cr bank 1.00", "2026-11-01")),
        (OWED, PAID, posted("Dr sales 1.00, Cr capital 1.00", "2026-10-31", Kind.CLOSING)),
        (PAID, OWED),
    ],
)
def test_words_later_postings_closing_entries_and_order_stay_free(free):
    assert digest(*free) == digest(OWED, PAID)


def test_each_client_and_day_has_its_own_digest():
    books = books_with(OWED)
    assert seal_digest(books, AT) != seal_digest(books, day("2026-11-30"))
    other = replace(books, client=replace(books.client, code="OTHER"))
    assert seal_digest(other, AT) != seal_digest(books, AT)


def twins(state: PointState, at: str = "2026-04-05", materiality: str | None = None):
    books = books_with(
        bill("RW-0117", on="2026-04-03", id="T1", fuel="246.00"),
        bill("RW 117", on=at, id="T2", fuel="246.00"),
        materiality=materiality,
    )
    (point,) = run_checks(CheckRun(books, TODAY))
    return conditions(books, [Decided(point, state)], AT)


@pytest.mark.parametrize(
    ("state", "met"),
    [(PointState.OPEN, False), (PointState.ASKED, False), (PointState.LEFT, True),
     (PointState.WAIVED, True), (PointState.CORRECTED, True)],
)  # fmt: skip
def test_a_sure_point_must_be_decided_and_asking_decides_nothing(state, met):
    balance, points, *_ = twins(state)
    assert (balance.met, points.met) == (True, met)


@pytest.mark.parametrize(
    ("state", "materiality", "met", "says"),
    [
        (PointState.WAIVED, "246.01", True, "1 difference waived, 246.00 in all"),
        (PointState.WAIVED, "246.00", False, "materiality is 246.00"),
        (PointState.LEFT, "1.00", True, "Nothing was waived."),
    ],
)
def test_what_was_waived_stays_below_materiality(state, materiality, met, says):
    _, _, waived, *_ = twins(state, materiality=materiality)
    assert (waived.met, says in waived.says) == (met, True)


def test_a_trial_balance_out_of_balance_is_told_with_the_difference():
    lopsided = OWED._replace(lines=OWED.lines[:1])
    assert "differ by 60.00" in conditions(books_with(lopsided), [], AT)[0].says


def signed_by(who: str, role: Role, *, second_person: bool = True, on: str = "2026-06-30"):
    books = books_with(posted("Dr fuel 2.00, Cr bank 2.00", "2026-01-01"))
    plan = plan_entry(books, entry(on, dr("fuel", "1.00"), cr("accruals", "1.00")))
    refuse_signer(after(books, plan, by="TV"), who, role, AT, second_person=second_person)


def test_who_posted_in_it_may_not_sign_it():
    with pytest.raises(NotAllowed, match="change 1"):
        signed_by("TV", Role.REVIEWER)
    signed_by("OB", Role.PARTNER)
    signed_by("TV", Role.REVIEWER, second_person=False)
    signed_by("TV", Role.REVIEWER, on="2026-11-30")


def test_a_preparer_never_signs():
    with pytest.raises(NotAllowed, match="reviewer or partner"):
        signed_by("IO", Role.PREPARER, second_person=False)


def test_a_day_after_a_broken_seal_is_not_signed_and_one_before_it_may_be():
    books = books_with(OWED)
    (needs,) = conditions(books, [], AT, [day("2026-06-30")])[5:]
    assert (needs.met, "as at 30 June 2026 is broken" in needs.says) == (False, True)
    assert conditions(books, [], AT, [day("2026-12-31")])[5:] == ()
