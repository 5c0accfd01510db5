"""What a check drafted comes back from a point as it was: text by name loses nothing of it."""

from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.books import PriorPart
from corkpost.core.kinds import EntryKind
from corkpost.core.points import Check, Family
from corkpost.core.remedies import DraftEntry, LoanSplit, Moving, Side, draft_of, moving_of
from tests.builders import books_with

CHECK = Check("made-up", family=Family.BY_HAND, routes=("adjust",))
words = st.text("abc 12", min_size=1, max_size=8)
codes = st.text("0123456789", max_size=5)
amounts = st.integers(-(10**12), 10**12)
drafts = st.builds(
    DraftEntry,
    on=st.dates(),
    sides=st.lists(st.builds(Side, codes, amounts, st.none() | words), min_size=1).map(tuple),
    title=words,
    reason=words,
    kind=st.sampled_from(EntryKind),
    reverse_on=st.none() | st.dates(),
    asks=st.booleans(),
    account=codes,
    answers=codes,
    about=st.lists(st.text("T12", min_size=1)).map(tuple),
    prior=st.none() | st.builds(PriorPart, words, amounts),
    counts_stock=st.just(value=False),
    loan=st.none() | st.builds(LoanSplit, codes, codes, amounts),
)
side = st.builds(Side, codes, amounts, st.none() | words, st.none() | words, st.none() | words)
movings = st.builds(
    Moving,
    sides=st.lists(side, min_size=1).map(tuple),
    title=words,
    reason=words,
    asks=st.booleans(),
    account=codes,
    leaves=codes,
)


def point_with(remedy):
    return CHECK.point(
        books_with(),
        subjects={},
        amount=1,
        certainty=1,
        summary="found",
        short="found",
        because=(),
        remedy=remedy,
    )


@given(drafts, movings)
def test_an_entry_or_a_move_that_was_worked_out_comes_back_whole(draft, moving):
    assert draft_of(point_with(draft)) == draft
    assert moving_of(point_with(moving)) == moving
    assert draft_of(point_with(moving)) is None is moving_of(point_with(draft))
