"""Statement lines and entries: worked pairs, twins, sums of several, and whole statements at once."""

from itertools import permutations

import pytest
from bench.bank_quality import measure
from hypothesis import given, settings
from hypothesis import strategies as st

from corkpost.core.bank.sides import bank_sides
from corkpost.core.matching.assignment import best_assignment
from corkpost.core.matching.bank_lines import propose
from corkpost.core.matching.bank_look import bank_look, slip_between
from corkpost.core.points import Level
from tests.builders import (
    CODES,
    bank_line,
    books_with,
    direct_payment,
    payment,
    receipt,
    with_statement,
)
from tests.core.bank.test_bank import agreed
from tests.notation import eur

BANK = CODES["bank"]


def proposals(books):
    sides = bank_sides(books, BANK)
    free = [e for key, e in sides.entries.items() if key not in sides.group_of_entry]
    lines = [line for name, line in sides.lines.items() if name not in sides.group_of_line]
    return {
        tuple(sorted(key[0] for key in proposal.entries)): proposal
        for proposal in propose(books, sides, free, lines)
    }


def cheque(number, on, amount, party="Reedwharf"):
    return replace_reference(payment(on, amount, party, id=f"P{number}"), number)


def replace_reference(posted, reference):
    return posted._replace(reference=reference)


@pytest.mark.parametrize(
    ("entry", "line", "level", "says"),
    [
        (
            payment("2026-05-01", "211.56", id="T"),
            bank_line("2026-05-03", "-211.56", "REEDWHARF DIRECT"),
            Level.SURE,
            "the statement names Reedwharf",
        ),
        (
            replace_reference(payment("2026-01-05", "68.00", id="T"), "001142"),
            bank_line("2026-05-03", "-68.00", "CHQ 001142"),
            Level.SURE,
            "the statement names its number, 001142",
        ),
        (
            payment("2026-05-01", "211.56", id="T"),
            bank_line("2026-05-02", "-211.56", "CARD 4471"),
            Level.LIKELY,
            "1 day later at the bank",
        ),
        (
            payment("2026-05-01", "211.56", id="T"),
            bank_line("2026-05-02", "-211.56", "KITTIWAKE SIGNS"),
            Level.LOOK,
            "the statement names somebody else: Kittiwake Signs",
        ),
        (
            receipt("2026-05-01", "100.00", id="T"),
            bank_line("2026-04-29", "100.00", "HARBOUR SCHOOL"),
            Level.SURE,
            "2 days earlier at the bank",
        ),
    ],
)
def test_a_pair_is_as_certain_as_what_speaks_for_it(entry, line, level, says):
    found = proposals(with_statement(books_with(entry), line))[("T",)]
    assert (found.level, says in found.why) == (level, True)


@pytest.mark.parametrize(
    "line",
    [
        bank_line("2026-05-01", "-211.55", "REEDWHARF"),
        bank_line("2026-04-10", "-211.56", "REEDWHARF"),
        bank_line("2027-01-10", "-211.56", "REEDWHARF"),
    ],
)
def test_another_sum_or_a_day_out_of_reach_is_no_pair(line):
    books = with_statement(books_with(payment("2026-05-01", "211.56", id="T")), line)
    assert proposals(books) == {}


def test_who_goes_with_whom_is_settled_for_all_of_one_sum_together():
    books = with_statement(
        books_with(
            payment("2026-05-04", "100.00", "Reedwharf", id="R"),
            payment("2026-05-04", "100.00", "Kittiwake Signs", id="K"),
            payment("2026-05-04", "100.00", "Tern Print Ltd", id="T"),
        ),
        bank_line("2026-05-04", "-100.00", "PAYMENT"),
        bank_line("2026-05-05", "-100.00", "TERN PRINT"),
        bank_line("2026-05-05", "-100.00", "REEDWHARF"),
    )
    found = proposals(books)
    assert {names: proposal.lines for names, proposal in found.items()} == {
        ("K",): ("s1.csv#1",),
        ("T",): ("s1.csv#2",),
        ("R",): ("s1.csv#3",),
    }
    # The line that names nobody is not sure: it could have been another's.
    assert found[("K",)].level is not Level.SURE


def test_twins_are_all_the_same_and_stay_sure():
    books = with_statement(
        books_with(
            payment("2026-05-04", "100.00", id="A"),
            payment("2026-05-04", "100.00", id="B"),
        ),
        bank_line("2026-05-04", "-100.00", "REEDWHARF"),
        bank_line("2026-05-05", "-100.00", "REEDWHARF"),
    )
    assert {proposal.level for proposal in proposals(books).values()} == {Level.SURE}


def test_what_lines_of_a_text_were_before_speaks_for_the_next():
    def month(number):
        return direct_payment(f"2026-0{number}-03", id=f"T{number}", office="43.05")

    books = with_statement(
        books_with(*(month(number) for number in range(1, 5))),
        *(
            bank_line(f"2026-0{number}-04", "-43.05", f"DD 77{number} MOBILE")
            for number in range(1, 5)
        ),
    )
    before = proposals(books)[("T4",)]
    known = agreed(books, *((f"T{n}", 2, f"s1.csv#{n}") for n in range(1, 4)))
    after = proposals(known)[("T4",)]
    assert (before.level, after.level) == (Level.LIKELY, Level.SURE)
    assert "lines of this text were this 3 times before" in after.why


def test_one_line_for_several_and_one_entry_for_several():
    books = with_statement(
        books_with(
            receipt("2026-05-01", "120.00", "Averin Scouts", id="A"),
            receipt("2026-05-02", "85.00", "Averin Scouts", id="B"),
            receipt("2026-05-02", "77.00", id="C"),
            payment("2026-05-08", "300.00", id="D"),
        ),
        bank_line("2026-05-04", "205.00", "AVERIN SCOUTS"),
        bank_line("2026-05-08", "-180.00", "REEDWHARF"),
        bank_line("2026-05-09", "-120.00", "REEDWHARF"),
    )
    found = proposals(books)
    assert set(found) == {("A", "B"), ("D",)}
    assert found[("D",)].lines == ("s1.csv#2", "s1.csv#3")
    assert Level.SURE not in {proposal.level for proposal in found.values()}


def test_generated_statements_are_found_and_none_of_the_sure_is_wrong():
    quality = measure(range(200, 206))
    assert quality.pairs > 2_000
    assert quality.found / quality.pairs >= 0.98
    assert quality.sure / quality.pairs > 0.5
    assert quality.sure_wrong == 0


@settings(max_examples=150)
@given(
    st.integers(1, 5).flatmap(
        lambda width: st.lists(
            st.lists(st.integers(0, 30), min_size=width, max_size=width), min_size=1, max_size=5
        )
    )
)
def test_no_other_assignment_gains_more(gains):
    chosen = best_assignment(gains)
    taken = [column for column in chosen if column is not None]
    assert len(set(taken)) == len(taken)
    columns = [*range(len(gains[0])), *([None] * len(gains))]
    best = max(
        sum(row[column] for row, column in zip(gains, way, strict=False) if column is not None)
        for way in set(permutations(columns, len(gains)))
    )
    assert sum(row[c] for row, c in zip(gains, chosen, strict=True) if c is not None) == best


@pytest.mark.parametrize(
    ("books", "bank", "how"),
    [
        ("21.49", "12.49", "two digits are exchanged"),
        ("2480.00", "248.00", "a nought is lost"),
        ("329.43", "32.94", "a digit is lost"),
        ("32.94", "332.94", "a digit is lost"),
        ("100.00", "-100.00", "the sign is turned"),
        ("21.49", "21.49", None),
        ("21.49", "12.94", None),
        ("21.49", "-12.49", None),
        ("21.49", "31.49", None),
    ],
)
def test_what_slip_makes_one_amount_of_another(books, bank, how):
    assert slip_between(eur(books), eur(bank)) == how


def test_an_entry_from_before_the_first_statement_is_never_sure():
    made = payment("2025-12-20", "100.00", id="T")
    books = with_statement(
        books_with(made), bank_line("2026-01-03", "-100.00", "REEDWHARF"), opening="-7.00"
    )
    sides = bank_sides(books, BANK)
    (found,) = propose(
        books, sides, sides.entries.values(), sides.lines.values(), doubtful=frozenset({("T", 2)})
    )
    assert found.level is Level.LOOK


def test_entries_from_before_the_first_statement_are_sure_once_they_make_up_its_opening_exactly():
    books = with_statement(
        books_with(
            receipt("2025-12-01", "500.00", id="R0"),
            payment("2025-12-30", "100.00", id="P1"),
            receipt("2025-12-31", "70.00", id="R1"),
        ),
        bank_line("2026-01-02", "-100.00", "REEDWHARF"),
        bank_line("2026-01-02", "70.00", "HARBOUR SCHOOL"),
        opening="500.00",
    )
    sides = bank_sides(books, BANK)
    look = bank_look(books, sides, sides.statements[0])
    assert {proposal.entries[0][0]: proposal.level for proposal in look.proposals} == {
        "P1": Level.SURE,
        "R1": Level.SURE,
    }
