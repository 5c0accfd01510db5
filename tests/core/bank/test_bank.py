"""Both sides of a bank account: agreeing and taking apart, the sum, what a later change does."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.bank.agreeing import (
    FixedByReconciliation,
    SealedAgreement,
    Wanted,
    plan_agree,
    plan_apart,
    ready,
)
from corkpost.core.bank.reconciling import reconciliation
from corkpost.core.bank.sides import bank_sides
from corkpost.core.books import AgreementRow, FinishedReconciliation
from corkpost.core.by_hand import picked
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.routes import plan_route
from corkpost.core.seal_forms import seal_digest
from corkpost.core.undo import plan_undo
from tests.builders import (
    CODES,
    after,
    bank_line,
    books_with,
    day,
    direct_payment,
    payment,
    posted,
    receipt,
    with_statement,
)
from tests.notation import eur

BANK = CODES["bank"]


def three():
    """Three entries of which the bank has two, and one line of the bank's own."""
    books = books_with(
        receipt("2026-05-18", "2480.00", id="R1"),
        payment("2026-05-20", "211.56", id="P1"),
        payment("2026-05-30", "75.00", id="P2"),
    )
    return with_statement(
        books,
        bank_line("2026-05-18", "2480.00", "HARBOUR SCHOOL"),
        bank_line("2026-05-21", "-211.56", "REEDWHARF"),
        bank_line("2026-05-29", "-6.50", "FEE"),
        last="2026-05-31",
    )


def agreed(books, *pairs, number=1):
    wanted = [Wanted(((name, line),), (ref,)) for name, line, ref in pairs]
    return after(books, ready(plan_agree(books, BANK, wanted), books), number)


def both(books):
    return agreed(books, ("R1", 1, "s1.csv#1"), ("P1", 2, "s1.csv#2"))


def state(books, number=1):
    sides = bank_sides(books, BANK)
    return reconciliation(sides, sides.statement_of[number])


def test_the_sum_is_the_one_of_the_handbook():
    found = state(both(three()))
    assert found.ledger == eur("2193.44")
    assert (found.not_presented, found.not_credited) == (eur("75.00"), 0)
    assert found.should_be == eur("2268.44")
    assert found.closing == eur("2261.94")
    assert found.difference == eur("-6.50")
    assert [line.text for line in found.unmatched] == ["FEE"]
    assert found.hindrances == (
        "The difference is not nil.",
        "There are statement lines that are not agreed.",
    )


def test_what_is_outstanding_comes_back_in_the_next_statement_until_it_is_agreed():
    books = with_statement(
        both(three()),
        bank_line("2026-06-02", "-75.00", "CHQ"),
        opening="2261.94",
        first="2026-06-01",
        last="2026-06-30",
    )
    assert [entry.posted.id for entry in state(books, 2).outstanding] == ["P2"]
    assert [line.text for line in state(books, 2).carried_in] == ["FEE"]
    done = agreed(books, ("P2", 2, "s2.csv#1"), number=2)
    assert state(done, 2).outstanding == ()
    # As at May it was not presented, whatever came later.
    assert [entry.posted.id for entry in state(done, 1).outstanding] == ["P2"]


def test_an_entry_dated_after_the_statement_that_has_it_is_told_apart_in_the_sum():
    books = with_statement(
        books_with(receipt("2026-06-01", "100.00", id="R1")),
        bank_line("2026-05-31", "100.00"),
        last="2026-05-31",
    )
    found = state(agreed(books, ("R1", 1, "s1.csv#1")))
    assert (found.ledger, found.booked_later, found.difference) == (0, eur("100.00"), 0)


def test_entries_before_the_first_statement_are_settled_but_for_those_that_make_up_its_opening():
    books = books_with(
        receipt("2025-12-01", "500.00", id="R1"),
        payment("2025-12-28", "40.00", id="P1"),
        payment("2025-12-29", "35.00", id="P2"),
    )
    found = state(with_statement(books, opening="460.00"))
    assert [entry.posted.id for entry in found.outstanding] == ["P2"]
    assert (found.start.off_by, found.difference) == (0, 0)
    # No set of entries makes up for this one: it is said, and nothing is invented.
    found = state(with_statement(books, opening="461.00"))
    assert (found.start.off_by, found.outstanding) == (eur("36.00"), ())


@pytest.mark.parametrize(
    ("entries", "lines", "says"),
    [
        ((("R1", 1),), ("s1.csv#2",), "they must be equal"),
        ((), (), "they must be equal"),
        ((("R1", 1),), ("s1.csv#1",), "R1 is agreed already"),
        ((("P2", 2), ("P2", 2)), (), "wanted in two agreements"),
    ],
)
def test_what_is_unequal_or_agreed_already_is_not_agreed(entries, lines, says):
    books = agreed(three(), ("R1", 1, "s1.csv#1"))
    with pytest.raises(BadEntry, match=says):
        plan_agree(books, BANK, [Wanted(entries, lines)])


@pytest.mark.parametrize(("entries", "lines"), [((("R9", 1),), ()), ((), ("s9.csv#1",))])
def test_what_is_not_there_is_not_agreed(entries, lines):
    with pytest.raises(UnknownName):
        plan_agree(three(), BANK, [Wanted(entries, lines)])


def test_several_on_one_side_are_one_agreement():
    books = with_statement(
        books_with(
            receipt("2026-05-01", "120.00", id="R1"), receipt("2026-05-02", "85.00", id="R2")
        ),
        bank_line("2026-05-04", "205.00", "LODGEMENT"),
    )
    wanted = [Wanted((("R1", 1), ("R2", 1)), ("s1.csv#1",))]
    assert state(after(books, plan_agree(books, BANK, wanted))).difference == 0


def test_taking_apart_restores_what_was_before():
    books = three()
    done = both(books)
    (first, *_) = bank_sides(done, BANK).groups
    names = list(bank_sides(done, BANK).groups)
    apart = after(done, ready(plan_apart(done, BANK, names), done), 2)
    assert state(apart) == state(books)
    with pytest.raises(UnknownName):
        plan_apart(apart, BANK, [first])


def test_an_agreement_is_taken_back_like_any_change_and_that_again():
    books = three()
    done = both(books)
    back = after(done, plan_undo(done, 1), 2)
    assert state(back) == state(books)
    apart = after(done, plan_apart(done, BANK, list(bank_sides(done, BANK).groups)), 2)
    again = after(apart, plan_undo(apart, 2), 3)
    assert state(again).difference == state(done).difference
    assert len(bank_sides(again, BANK).groups) == 2


@given(
    st.lists(st.tuples(st.integers(-9_999, 9_999).filter(bool), st.booleans()), max_size=8),
    st.lists(st.integers(-9_999, 9_999).filter(bool), max_size=4),
    st.integers(-9_999, 9_999),
)
def test_the_difference_is_always_what_the_lines_that_are_not_agreed_come_to(
    entries, extra, before
):
    """For any books: the formula, and the sum of what the statement has and the books do not."""
    made = [
        posted(
            f"Dr bank {abs(amount) / 100:.2f}, Cr office {abs(amount) / 100:.2f}"
            if amount > 0
            else f"Dr office {abs(amount) / 100:.2f}, Cr bank {abs(amount) / 100:.2f}",
            "2026-05-05",
            id=f"T{number}",
        )
        for number, (amount, _) in enumerate(entries)
    ]
    mine = [(number, amount) for number, (amount, at_bank) in enumerate(entries) if at_bank]
    books = with_statement(
        books_with(*made),
        *(bank_line("2026-05-06", f"{amount / 100:.2f}") for _, amount in mine),
        *(bank_line("2026-05-07", f"{amount / 100:.2f}") for amount in extra),
        opening=f"{before / 100:.2f}",
        last="2026-05-31",
    )
    wanted = [
        Wanted(
            ((f"T{number}", 1 if amount > 0 else 2),),
            (f"s1.csv#{place}",),
        )
        for place, (number, amount) in enumerate(mine, 1)
    ]
    done = after(books, plan_agree(books, BANK, wanted)) if wanted else books
    found = state(done)
    assert found.difference == sum(extra) + found.start.off_by
    assert found.should_be == found.ledger + found.not_presented - found.not_credited


# -- what a later change does


def finished(books):
    groups = frozenset(bank_sides(books, BANK).groups)
    return replace(books, finished=(FinishedReconciliation(1, BANK, 1, groups),))


def void(books, name):
    return plan_route(books, picked(books, "void", name), "void", {})


def test_a_change_that_touches_what_a_finished_reconciliation_fixed_is_refused():
    books = finished(both(three()))
    with pytest.raises(FixedByReconciliation, match="31 May 2026, which is finished"):
        ready(plan_apart(books, BANK, ["G1-g1"]), books)
    with pytest.raises(FixedByReconciliation, match="R1 is agreed"):
        ready(void(books, "R1"), books)


def test_an_entry_that_was_never_agreed_and_its_opposite_are_agreed_with_each_other():
    books = finished(both(three()))
    plan = ready(void(books, "P2"), books)
    assert {(row.transaction, row.line) for row in plan.agreements} == {("P2", 2), ("new-1", 2)}
    done = after(books, plan, 2)
    assert state(done).outstanding == ()
    # The fixed list keeps what it fixed: only what was outstanding is no more.
    assert finished(done).finished[0].groups >= books.finished[0].groups


def test_voiding_an_agreed_entry_frees_the_statement_line():
    books = both(three())
    done = after(books, ready(void(books, "P1"), books), 2)
    assert [line.text for line in state(done).unmatched] == ["REEDWHARF", "FEE"]
    assert [entry.posted.id for entry in state(done).outstanding] == ["P2"]


def test_an_agreement_is_sealed_with_its_days_and_breaks_the_seal_when_it_moves():
    books = both(three())
    assert seal_digest(books, day("2026-05-31")) != seal_digest(three(), day("2026-05-31"))
    assert seal_digest(books, day("2026-05-17")) == seal_digest(three(), day("2026-05-17"))
    sealed = replace(books, calendar=replace(books.calendar, sealed_through=day("2026-05-31")))
    with pytest.raises(SealedAgreement):
        ready(plan_apart(sealed, BANK, ["G1-g1"]), sealed)
    # An outstanding cheque that the bank shows after the seal may be agreed: what was sealed stands.
    later = with_statement(
        sealed, bank_line("2026-06-02", "-75.00"), opening="2261.94", first="2026-06-01"
    )
    plan = ready(plan_agree(later, BANK, [Wanted((("P2", 2),), ("s2.csv#1",))]), later)
    assert seal_digest(after(later, plan, 2), day("2026-05-31")) == seal_digest(
        books, day("2026-05-31")
    )


def test_an_agreement_whose_entry_changed_underneath_falls_apart_and_is_said():
    rows = (
        AgreementRow("g", BANK, "T1", 2, "s1.csv#1"),
        AgreementRow("h", BANK, "T9", 1, "s1.csv#1"),
    )
    books = with_statement(
        books_with(direct_payment("2026-05-01", id="T1", office="10.00"), agreements=rows),
        bank_line("2026-05-01", "-11.00"),
    )
    sides = bank_sides(books, BANK)
    assert (sides.groups, sides.fallen) == ({}, ("g", "h"))


def test_agreements_of_received_books_may_name_the_banks_id_or_the_transaction_alone():
    rows = (AgreementRow("g", BANK, "T1"), AgreementRow("g", BANK, None, None, "B77"))
    books = with_statement(
        books_with(direct_payment("2026-05-01", id="T1", office="10.00"), agreements=rows),
        bank_line("2026-05-01", "-10.00", bank_id="B77"),
    )
    assert list(bank_sides(books, BANK).groups) == ["g"]
