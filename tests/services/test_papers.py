"""Papers that come in: they wait, are used once or told, and reach nobody who does not see the client."""

import pytest

from corkpost.core.refusals import Refusal, UnknownName
from corkpost.services import papers
from tests.practice import accrue


def waiting(office, who="IO"):
    found = papers.incoming(office.workplace, office[who], "SMALL")
    return [(row.paper.name, row.used_by) for row in found]


def test_a_paper_waits_is_used_and_told_where_it_is_used_twice(office):
    take = lambda name, content: papers.take_in_paper(  # noqa: E731
        office.workplace, office["IO"], "SMALL", name, content
    )
    take("fuel.pdf", b"%PDF one")
    take("rope.pdf", b"%PDF two")
    first, second = (accrue(office).entries[0].id for _ in range(2))
    digest = papers.incoming(office.workplace, office["IO"], "SMALL")[0].paper.digest
    use = lambda name: papers.use_paper(  # noqa: E731
        office.workplace, office["IO"], "SMALL", digest, name
    )
    assert use(first) == ()
    assert waiting(office) == [("rope.pdf", ()), ("fuel.pdf", (first,))]
    assert use(second) == (first,)
    with pytest.raises(Refusal, match=r"is the same paper as fuel\.pdf"):
        take("again.pdf", b"%PDF one")
    shown = papers.paper(office.workplace, office["IO"], "SMALL", digest)
    assert (shown.name, shown.content) == ("fuel.pdf", b"%PDF one")


def test_a_paper_that_did_not_come_in_and_one_that_is_empty_are_refused(office):
    with pytest.raises(UnknownName):
        papers.use_paper(office.workplace, office["IO"], "SMALL", "0" * 64, "T1")
    with pytest.raises(Refusal, match="empty"):
        papers.take_in_paper(office.workplace, office["IO"], "SMALL", "x.pdf", b"")
    with pytest.raises(UnknownName):
        papers.incoming(office.workplace, office["PH"], "SMALL")
