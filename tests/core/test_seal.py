"""The seal: what it covers, what it leaves free, what the sign-off needs and who may sign."""

from collections import Counter
from dataclasses import replace

import pytest
from hypothesis import assume, event, given
from hypothesis import strategies as st

from corkpost.core.books import PostedChange
from corkpost.core.checks import run_checks
from corkpost.core.kinds import Role
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun, PointState
from corkpost.core.refusals import NotAllowed
from corkpost.core.seal import Decided, conditions, refuse_signer
from corkpost.core.seal_forms import Differing, canonical, differing, seal_digest, sealed
from tests.builders import TODAY, after, allocated, bill, books_with, day, payment, posted
from tests.core.strategies import any_books
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


@given(any_books(), st.data())
def test_any_one_digit_breaks_it_and_is_told_by_its_row(books, data):
    what = data.draw(st.sampled_from(("amount", "day", "allocation")))
    event(what)
    tables = books.tables
    if what == "allocation":
        rows = [row for row in tables.allocations if row.date <= AT]
        assume(rows)
        row = data.draw(st.sampled_from(rows))
        changed = row._replace(amount=_digit(data, row.amount))
        other = replace(tables, allocations=_with(tables.allocations, row, changed))
    else:
        row = data.draw(st.sampled_from(sorted(sealed(books, AT), key=lambda row: row.id)))
        if what == "day":
            of_month = row.posting_date.day
            changed = row._replace(posting_date=row.posting_date.replace(day=of_month ^ 1 or 2))
        else:
            place = data.draw(st.integers(0, len(row.lines) - 1))
            line = row.lines[place]
            lines = list(row.lines)
            lines[place] = line._replace(amount=_digit(data, line.amount))
            changed = row._replace(lines=tuple(lines))
        other = replace(tables, transactions=_with(tables.transactions, row, changed))
    later = replace(books, tables=other)
    assert seal_digest(later, AT) != seal_digest(books, AT)
    assert seal_digest(later, AT, version=1) != seal_digest(books, AT, version=1)
    told = {found.name for found in differing(canonical(books, AT), canonical(later, AT))}
    assert told == {row.id}


def _with(rows, old, new):
    return tuple(new if row is old else row for row in rows)


def _digit(data, amount):
    """*amount* with one of its decimal digits another."""
    text = f"{abs(amount):03d}"
    place = data.draw(st.integers(0, len(text) - 1))
    digit = (int(text[place]) + data.draw(st.integers(1, 9))) % 10
    changed = int(f"{text[:place]}{digit}{text[place + 1 :]}")
    return changed if amount > 0 else -changed


@given(any_books(), st.permutations(range(30)), st.text(max_size=5))
def test_no_order_of_the_rows_and_no_word_breaks_it(books, order, word):
    tables = books.tables
    other = replace(
        tables,
        transactions=tuple(
            row._replace(memo=word, reference=word) for row in _shuffled(tables.transactions, order)
        ),
        allocations=tuple(_shuffled(tables.allocations, order)),
        accounts=tuple(row._replace(name=word) for row in reversed(tables.accounts)),
    )
    assert canonical(replace(books, tables=other), AT) == canonical(books, AT)


def _shuffled(rows, order):
    places = Counter(dict(enumerate(order)))
    return [row for _, row in sorted(enumerate(rows), key=lambda pair: places[pair[0]])]


def test_what_differs_is_told_as_signed_and_as_it_stands():
    later = PAID._replace(posting_date=day("2026-05-21"))
    new = posted("Dr fuel 1.00, Cr bank 1.00", "2026-10-31", id="N1")
    signed = canonical(books_with(OWED, PAID, allocations=[LINK]), AT)
    bank = ("2100 60.00 S1", "1200 -60.00")
    assert differing(signed, canonical(books_with(OWED, later, new), AT)) == (
        Differing("allocation", LINK.id, ("2026-05-20 S1 P1 B1 60.00",), ()),
        Differing("entry", "N1", (), ("journal 2026-10-31", "5200 1.00", "1200 -1.00")),
        Differing(
            "entry",
            "P1",
            ("supplier-payment 2026-05-20", *bank),
            ("supplier-payment 2026-05-21", *bank),
        ),
    )


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


def test_who_brought_rows_into_it_with_newer_books_may_not_sign_it():
    arrival = PostedChange(3, "import", "TV", "newer books")
    late = bill("RW 9", on="2026-11-02", id="N1", fuel="1.00")
    books = replace(books_with(OWED, late), changes=(arrival,), arrived={"B1": 3})
    with pytest.raises(NotAllowed, match=r"You brought rows \(change 3\) into this trial balance"):
        refuse_signer(books, "TV", Role.REVIEWER, AT, second_person=True)
    refuse_signer(books, "OB", Role.PARTNER, AT, second_person=True)
    later = replace(books, arrived={"N1": 3})
    refuse_signer(later, "TV", Role.REVIEWER, AT, second_person=True)


def test_a_preparer_never_signs():
    with pytest.raises(NotAllowed, match="reviewer or partner"):
        signed_by("IO", Role.PREPARER, second_person=False)


def test_a_day_after_a_broken_seal_is_not_signed_and_one_before_it_may_be():
    books = books_with(OWED)
    (needs,) = conditions(books, [], AT, broken=[day("2026-06-30")])[5:6]
    assert (needs.met, "as at 30 June 2026 is broken" in needs.says) == (False, True)
    assert [row.name for row in conditions(books, [], AT, broken=[day("2026-12-31")])[5:]] == [
        "Checklist done"
    ]
