"""What a check says is worth what it has earned, and never more than the top of its level."""

from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.checks import registry
from corkpost.core.evidence.certainty import taught, top_of, worth_of
from corkpost.core.points import level_of

STEPS = ((0.6, 0.3), (0.8, 0.9), (0.9, 0.99))
said = st.floats(0.05, 0.99)


@given(said, said)
def test_what_is_said_more_surely_is_worth_no_less_and_none_rises_out_of_its_level(one, other):
    for steps in (STEPS, *taught().values()):
        low, high = sorted((one, other))
        assert worth_of(low, steps) <= worth_of(high, steps)
        assert worth_of(one, steps) <= max(top_of(one), one)
        ranks = ["look", "likely", "sure"]
        assert ranks.index(level_of(worth_of(one, steps))) <= ranks.index(level_of(round(one, 2)))


def test_between_two_it_lies_on_the_line_and_beyond_it_moves_as_the_nearest():
    assert worth_of(0.6, STEPS) == 0.3
    assert worth_of(0.7, STEPS) == 0.6
    assert worth_of(0.5, STEPS) == 0.2
    # All of the kind were right: likely stays likely.
    assert worth_of(0.9, STEPS) == 0.94


def test_what_was_learned_is_of_checks_that_there_are_and_rises():
    assert taught().keys() <= registry().keys()
    for steps in taught().values():
        assert list(steps) == sorted(steps)
        assert [worth for _, worth in steps] == sorted(worth for _, worth in steps)
