"""Stories compete: a movement has one explanation, and nothing that was seen is lost."""

from collections import Counter

from hypothesis import event, given
from hypothesis import strategies as st

from corkpost.core.checks import registry
from corkpost.core.points import Check, Family, Point
from corkpost.core.stories import settled


def check(name, explains=(), follows=()):
    return Check(name, family=Family.PROOF, routes=("leave",), explains=explains, follows=follows)


CHECKS = {
    row.id: row
    for row in (
        check("settles", explains=("money",)),
        check("private", explains=("money",)),
        check("old", follows=("settles", "private")),
        check("other"),
    )
}


def point(number, name, certainty, *subjects):
    return Point(
        id=f"p{number}", check=name, certainty=certainty, amount=1,
        transactions=tuple(dict.fromkeys(entry for _, entry in subjects)), accounts=(), parties=(),
        summary=f"what {number} says", short="", because=(), subjects=subjects, facts="", routes=(),
    )  # fmt: skip


entries = st.sampled_from("ABCDE")
drawn = st.tuples(
    st.sampled_from(sorted(CHECKS)),
    st.sampled_from((0.6, 0.8, 0.9, 0.97)),
    entries,
    st.lists(entries, max_size=2),
)


@given(st.lists(drawn, max_size=9))
def test_no_movement_has_two_stories_and_each_that_goes_is_listed_once_in_one_that_stands(rows):
    points = [
        point(n, name, certainty, ("money", money), *(("paper", paper) for paper in papers))
        for n, (name, certainty, money, papers) in enumerate(rows)
    ]
    standing = settled(points, CHECKS)
    told = Counter(
        (row.subjects[0][1], row.check) for row in standing if CHECKS[row.check].explains
    )
    stories = Counter(entry for entry, _ in told)
    assert max(stories.values(), default=0) <= 1
    listed = Counter(said for row in standing for said in row.consequences)
    gone = {row.summary for row in points} - {row.summary for row in standing}
    assert listed == Counter(gone)
    assert [row.id for row in standing] == [p.id for p in points if p.summary not in gone]
    event(f"{min(len(gone), 3)} go with another")


def test_the_likelier_story_stands_and_of_two_as_likely_the_one_that_explains_more():
    plain = point(1, "private", 0.92, ("money", "A"))
    fuller = point(2, "settles", 0.9, ("money", "A"), ("paper", "B"))
    assert [row.id for row in settled((plain, fuller), CHECKS)] == ["p2"]
    sure = plain._replace(certainty=0.97)
    assert [row.id for row in settled((sure, fuller), CHECKS)] == ["p1"]


def test_what_is_only_a_consequence_goes_with_its_cause_where_that_is_likely_enough():
    owed = point(1, "old", 0.9, ("paper", "B"))
    cause = point(2, "settles", 0.8, ("money", "A"), ("paper", "B"))
    (standing,) = settled((owed, cause), CHECKS)
    assert standing.consequences == ("what 1 says",)
    guess = cause._replace(certainty=0.6)
    assert len(settled((owed, guess), CHECKS)) == 2


def test_each_check_follows_checks_that_there_are():
    names = registry().keys()
    assert all(set(row.check.follows) <= names for row in registry().values())
