"""Who is meant: names as banks print and bookkeepers key them, and what names nobody."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.books import Party
from corkpost.core.evidence.who import ENOUGH, PartyFinder, spoken
from corkpost.core.kinds import PartyKind

PARTIES = (
    Party("S1", "Brückner Holzbau GmbH & Co KG", PartyKind.SUPPLIER),
    Party("S2", "Tidewater Chandlers Ltd", PartyKind.SUPPLIER),
    Party("S3", "Tidewater Catering", PartyKind.SUPPLIER),
    Party("S4", "Sørensen Køleteknik ApS", PartyKind.SUPPLIER),
    Party("S5", "Marsh Farm Produce", PartyKind.SUPPLIER),
    Party("C1", "Marsh Farm Produce", PartyKind.CUSTOMER),
    Party("C2", "St Aldhelm's School", PartyKind.CUSTOMER),
)
SUPPLIERS = PartyFinder(PARTIES, frozenset({PartyKind.SUPPLIER}))


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("BRUCKNER HOLZBAU 40417", "S1"),  # without accents, digits about it
        ("LEEDS BRUECKNER HOLZBAU", "S1"),  # the other way to write an umlaut
        ("CARD 7731 SORENSEN KOLETEKNIK", "S4"),
        ("SEPA CT Tidewater Chan", "S2"),  # cut by the end of the line
        ("SEPA CT TIDEWATER CAT", "S3"),
        ("SEPA CT TIDEWATER", None),  # two are called so
        ("tidewaterchandlers/kiel", "S2"),  # run together
        ("MARSHFARMPRDOUCE 22", "S5"),  # run together, with a slip
        ("Tidewatre Chandlers", "S2"),  # two letters exchanged
        ("TIDE CHAN 8840 EXETER", "S2"),  # shortened
        ("Marsh Farm Produce", "S5"),  # known on both sides: the one of this side
        ("ST ALDHELMS SCHOOL", None),  # a customer
        ("Chandlers Row car park", None),
        ("transfer 2026", None),
    ],
)
def test_a_name_is_told_however_it_is_written(text, code):
    assert SUPPLIERS.named_in(text) == code


def test_a_likeness_says_how_much_of_a_name_stands_there():
    all_of_it = SUPPLIERS.likeness("TIDEWATER CHANDLERS", "S2")
    cut = SUPPLIERS.likeness("SEPA CT TIDEWATER CHAN", "S2")
    half = SUPPLIERS.likeness("TIDEWATER", "S2")
    assert all_of_it == 1 > cut >= ENOUGH > half > 0 == SUPPLIERS.likeness("BGC", "S2")


@given(st.text(max_size=60))
def test_any_text_can_be_asked_about_and_is_somebody_s_or_nobody_s(text):
    assert SUPPLIERS.named_in(text) in {None, "S1", "S2", "S3", "S4", "S5"}
    assert spoken(" ".join(spoken(text))) == spoken(text)


@given(st.sampled_from(PARTIES), st.integers(0, 99_999))
def test_a_name_as_it_stands_is_found_whatever_number_is_beside_it(party, number):
    finder = PartyFinder(PARTIES, frozenset({party.kind}))
    assert finder.named_in(f"{party.name} {number}") == party.code
