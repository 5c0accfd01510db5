"""What the checks share: references, names, sets that add up."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.books import Party
from corkpost.core.evidence.references import Likeness, folded, likeness, quotes
from corkpost.core.evidence.sums import exact_sets
from corkpost.core.evidence.who import PartyFinder
from corkpost.core.kinds import PartyKind


@pytest.mark.parametrize(
    ("one", "other", "alike"),
    [
        ("RW-0117", "RW-0117", Likeness.SAME),
        ("RW-0117", "rw 117", Likeness.FOLDED),
        ("F0O12", "FO012", Likeness.FOLDED),
        ("10I5", "1015", Likeness.FOLDED),
        ("2216", "2261", Likeness.SLIP),
        ("22165", "2216", Likeness.SLIP),
        ("117", "118", Likeness.DIFFERENT),
        ("RW-0117", None, Likeness.ABSENT),
        ("", "-", Likeness.ABSENT),
    ],
)
def test_how_alike_two_references_are(one, other, alike):
    assert likeness(one, other) is alike
    assert likeness(other, one) is alike


@given(st.text())
def test_folding_twice_folds_no_further(reference):
    assert folded(folded(reference)) == folded(reference)


@pytest.mark.parametrize(
    ("text", "reference", "stands"),
    [
        ("REEDWHARF FUELS RW0117", "RW-0117", True),
        ("payment 2216 thank you", "2216", True),
        ("payment 22160", "2216", False),
        ("card 12", "12", False),
        (None, "RW-0117", False),
        ("payment", None, False),
    ],
)
def test_a_text_quotes_a_reference_whole(text, reference, stands):
    assert quotes(text, reference) is stands


PARTIES = [
    Party("S1", "Tern Print Ltd", PartyKind.SUPPLIER, aliases=("TP Ltd",)),
    Party("S2", "Tern Print Finishing", PartyKind.SUPPLIER),
    Party("S3", "Averin Power", PartyKind.SUPPLIER),
    Party("C1", "Averin Scouts", PartyKind.CUSTOMER),
]


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("TERN PRINT CARD 4471", "S1"),
        ("print, by tern finishing", "S2"),
        ("tp 12", "S1"),
        ("averin", None),
        ("AVERIN SCOUTS", None),
        ("", None),
        (None, None),
    ],
)
def test_the_party_whose_words_all_stand_in_a_text(text, code):
    assert PartyFinder(PARTIES, frozenset({PartyKind.SUPPLIER})).named_in(text) == code


def test_two_parties_that_are_named_equally_are_nobody():
    finder = PartyFinder(PARTIES, frozenset(PartyKind))
    assert finder.named_in("averin power and averin scouts") is None


@given(st.lists(st.integers(1, 500), max_size=12), st.integers(1, 2_000))
def test_sets_add_up_exactly_and_are_found_where_there_are_any(amounts, total):
    found = exact_sets(amounts, total)
    for places in found.sets:
        assert sum(amounts[place] for place in places) == total
        assert len(set(places)) == len(places) >= 2
    pairs = any(amounts[i] + amounts[j] == total for i in range(len(amounts)) for j in range(i))
    assert found.sets or not pairs


def test_a_search_that_can_find_nothing_gives_up_soon_and_alike():
    amounts = [2 * n for n in range(1, 60)]
    found = exact_sets(amounts, 2_001)
    assert found == exact_sets(amounts, 2_001)
    assert (found.sets, found.complete) == ((), False)


@pytest.mark.parametrize(
    ("text", "reference", "named"),
    [
        ("inv 2026-518", "2026-518", True),
        ("2026-518 / our account", "2026-518", True),
        ("inv 2026-5181", "2026-518", False),
        ("12-2026-518", "2026-518", False),
    ],
)
def test_a_number_in_parts_is_quoted_as_it_is_written(text, reference, named):
    assert quotes(text, reference) is named


def test_a_number_of_noughts_and_ones_keyed_all_in_letters_is_the_same():
    assert likeness("TX-1-B", "tx-i-b") is Likeness.FOLDED
    assert likeness("OIL", "oil") is Likeness.FOLDED
    assert likeness("LOAN", "1OAN") is Likeness.FOLDED
    assert likeness("SOIL", "SAIL") is not Likeness.FOLDED


def test_a_number_that_a_text_has_in_letters_alone_is_quoted():
    assert quotes("paid tx-i-b, thanks", "TX-1-B")
    assert not quotes("paid tx-2-b, thanks", "TX-1-B")
