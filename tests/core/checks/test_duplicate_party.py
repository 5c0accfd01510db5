"""Parties that are one: which names are told, which are left alone, and making them one."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.books import Party
from corkpost.core.change import checked
from corkpost.core.checks import run_checks
from corkpost.core.effect import effect_of
from corkpost.core.kinds import PartyKind
from corkpost.core.merging import NotOne, plan_merge
from corkpost.core.open_items import open_items
from corkpost.core.points import CheckRun
from corkpost.core.refusals import DependedOn
from corkpost.core.routes import options_for, plan_route
from corkpost.core.seal_forms import seal_digest
from corkpost.core.undo import plan_undo
from tests.builders import (
    PARTIES,
    PARTY_CODES,
    TODAY,
    after,
    allocated,
    bill,
    books_with,
    day,
    payment,
)
from tests.notation import eur

PARTY_CODES["Reed Wharf"] = "S9"
TWIN = Party("S9", "Reed Wharf", PartyKind.SUPPLIER)


def two_names(*more, **settings):
    """Reedwharf with a bill paid, and its other name with a bill open."""
    rows = [
        bill("RW-0117", on="2026-04-03", fuel="246.00", id="B1"),
        payment("2026-04-20", "246.00", id="P1"),
        bill("RW-0203", on="2026-05-03", party="Reed Wharf", fuel="100.00", id="B2"),
    ]
    settled = allocated(rows[1], rows[0], "246.00")
    return books_with(*rows, *more, allocations=(settled,), parties=(*PARTIES, TWIN), **settings)


def told(*names, kind=PartyKind.SUPPLIER):
    """The pairs that are told among parties of these names, with the level."""
    parties = tuple(Party(f"X{n}", name, kind) for n, name in enumerate(names))
    points = run_checks(CheckRun(books_with(parties=(*PARTIES, *parties)), TODAY))
    return [(p.short, p.level.value) for p in points if p.check == "duplicate-party"]


@pytest.mark.parametrize(
    ("one", "other", "level"),
    [
        ("Fenwright Tools", "Fenwright Tools Ltd", "likely"),
        ("Fenwright Tools", "Tools, Fenwright", "likely"),
        ("Fen Wharf", "Fenwharf", "likely"),
        ("Fenwright Tools Supply", "Fenwrigth Tools Supply", "likely"),
        ("Ottoline Marsh", "O. Marsh", "look"),
    ],
)
def test_names_that_are_nearly_equal_are_told(one, other, level):
    assert told(one, other) == [(f"{one} and {other}", level)]


@pytest.mark.parametrize(
    ("one", "other"),
    [
        ("Edith Marsh", "Jonas Marsh"),
        ("Marie Marsh", "Maria Marsh"),  # one slip, and yet two sisters
        ("Averin Depot 1", "Averin Depot 2"),
        ("Fern House", "Fern Haulage"),
        ("Tern Sailing School North", "Tern Sailing School South"),
    ],
)
def test_names_that_only_look_alike_are_left_alone(one, other):
    assert told(one, other) == []


def test_a_customer_and_a_supplier_of_one_name_are_no_point_and_can_t_be_made_one():
    twin = Party("X1", "Reedwharf", PartyKind.CUSTOMER)
    books = books_with(parties=(*PARTIES, twin))
    assert [p for p in run_checks(CheckRun(books, TODAY)) if p.check == "duplicate-party"] == []
    with pytest.raises(NotOne, match="Set their balances off"):
        plan_merge(books, "S1", "X1")


def test_papers_numbered_alike_make_it_more_certain_and_otherwise_less():
    def one(reference):
        rows = (bill("KS/81", on="2026-04-03", party="Kittiwake Signs", office="10.00"),
                bill(reference, on="2026-05-03", party="Kittiwake", office="10.00"))  # fmt: skip
        books = books_with(*rows, parties=(*PARTIES, Party("X1", "Kittiwake", PartyKind.SUPPLIER)))
        points = run_checks(CheckRun(books, TODAY))
        return [point.level.value for point in points if point.check == "duplicate-party"]

    PARTY_CODES["Kittiwake"] = "X1"
    assert (one("KS/95"), one("2026-4471")) == (["look"], [])


def test_made_one_the_bill_is_the_other_s_and_nothing_on_the_trial_balance_moves():
    books = two_names()
    plan = plan_merge(books, "S1", "S9")
    effect = effect_of(plan, books, day("2026-12-31"))
    assert effect.accounts == ()
    assert [tuple(row) for row in effect.parties] == [
        ("S1", 0, eur("-100.00")), ("S9", eur("-100.00"), 0),
    ]  # fmt: skip
    made = after(books, plan)
    assert [item.transaction.id for item, _ in open_items(made).open_of("S1")] == ["B2"]
    assert made.parties["S1"].aliases == ("Reed Wharf",)
    # Its name is still known where it was written.
    assert ("S9" in made.parties, made.party_name("S9")) == (False, "Reed Wharf")


def test_the_route_offers_either_name_and_the_check_is_quiet_then():
    parties = (*PARTIES, Party("X1", "Tern Print", PartyKind.SUPPLIER))
    books = books_with(parties=parties)
    (point,) = [p for p in run_checks(CheckRun(books, TODAY)) if p.check == "duplicate-party"]
    keeps = [o.settings["keep"] for o in options_for(books, point) if o.route == "merge-party"]
    assert sorted(keeps) == ["S3", "X1"]
    made = after(books, plan_route(books, point, "merge-party", {"keep": "X1"}))
    assert made.parties["X1"].aliases == ("Tern Print Ltd",)
    assert [p for p in run_checks(CheckRun(made, TODAY)) if p.check == "duplicate-party"] == []


def test_what_was_sealed_under_either_name_stays_sealed():
    books = two_names()
    made = after(books, plan_merge(books, "S1", "S9"))
    for as_at in ("2026-04-30", "2026-12-31"):
        assert seal_digest(made, day(as_at)) == seal_digest(books, day(as_at))


def test_it_can_be_taken_back_until_something_settles_one_name_with_the_other():
    books = two_names()
    made = after(books, plan_merge(books, "S1", "S9"))
    back = after(made, checked(plan_undo(made, 1), made), 2)
    assert replace(back.tables, party_amendments=()) == books.tables
    money = payment("2026-06-01", "100.00", id="P2")
    grown = made.with_posted((money,), ())
    point_free = allocated(money, grown.transactions["B2"], "100.00")._replace(change=2)
    settled = grown.with_posted((), (point_free,))
    later = replace(settled, changes=(*made.changes, made.changes[0]._replace(number=2)))
    with pytest.raises(DependedOn):
        plan_undo(later, 1)


@given(st.lists(st.tuples(st.integers(0, 4), st.integers(0, 4)), max_size=6))
def test_whatever_is_made_one_every_line_is_somebody_s_and_all_can_be_taken_back(pairs):
    """Control totals stand, no party is lost or read in a circle, and undoing restores the books."""
    parties = tuple(Party(f"P{n}", f"Name {n}", PartyKind.SUPPLIER) for n in range(5))
    rows = [bill(f"R{n}", on="2026-05-01", fuel="10.00")._replace(party=f"P{n}") for n in range(5)]
    rows = [
        row._replace(lines=tuple(x._replace(party=row.party and x.party and row.party) for x in row.lines))
        for row in rows
    ]  # fmt: skip
    first = books = books_with(*rows, parties=parties)
    number = 0
    for pair, other in pairs:
        keep, gone = f"P{pair}", f"P{other}"
        if pair == other or not {keep, gone} <= books.parties.keys():
            continue
        number += 1
        books = after(books, plan_merge(books, keep, gone), number)
        owed = {x.party for posted in books.tables.transactions for x in posted.lines if x.party}
        assert owed <= books.parties.keys()
        assert sum(open_items(books).open_now.values()) == eur("-50.00")
    for undone in range(number, 0, -1):
        books = after(books, plan_undo(books, undone), number + 1 + number - undone)
    assert (books.tables.transactions, set(books.tables.parties)) == (
        first.tables.transactions, set(parties),
    )  # fmt: skip
