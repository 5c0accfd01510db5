"""Tie-outs in the store: agreed with initials and time, fallen by a posting, whole again by its undoing,
proved, given out with their paper, and asked for by sign-off."""

import pytest

from corkpost.core.acts import TakeBack
from corkpost.core.refusals import NotReady, Refusal, UnknownName
from corkpost.core.remarks import About
from corkpost.core.tie_outs.agreeing import AgreeTieOut, TieOutState
from corkpost.services import acts, papers, remarks, sign_off, store
from corkpost.services import tie_outs as service
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Workplace
from tests.builders import TODAY, day
from tests.practice import PASSWORD, accrue, agree_all, decide_the_rest

AT = day("2026-10-31")


def rows(office, workplace=None):
    _, found = service.tie_outs(workplace or office.workplace, office["IO"], "SMALL", AT)
    return {row.stated.tie_out.id: row for row in found}


def agree(office, name, who="IO", **more):
    act = AgreeTieOut(name, AT, **more)
    return acts.post(office.workplace, office[who], "SMALL", act, PostRequest(more.get("note", "")))


def test_it_is_agreed_with_initials_and_time_falls_by_a_posting_and_stands_again_when_that_is_undone(
    office,
):
    agree(office, "equity")
    row = rows(office)["equity"]
    assert (row.stated.state, row.stated.by.by, row.at) == (
        TieOutState.AGREED, "IO", "2026-11-16T12:00:00",
    )  # fmt: skip
    late = accrue(office)
    fallen = rows(office)["equity"].stated
    assert (fallen.state, [change.number for change in fallen.since]) == (
        TieOutState.FALLEN, [late.number],
    )  # fmt: skip
    back = PostRequest("billed after all")
    acts.post(office.workplace, office["IO"], "SMALL", TakeBack(late.number), back)
    assert rows(office)["equity"].stated.state is TieOutState.AGREED
    other = Workplace(office.workplace.database.folder, TODAY)
    again = {name: row.stated.state for name, row in rows(office, other).items()}
    other.close()
    assert again == {name: row.stated.state for name, row in rows(office).items()}
    assert store.verify(office.workplace).broken == ()


def test_an_agreement_is_taken_back_like_any_change(office):
    agreed = agree(office, "receivables")
    acts.post(office.workplace, office["IO"], "SMALL", TakeBack(agreed.number), PostRequest("no"))
    assert rows(office)["receivables"].stated.state is TieOutState.OPEN
    agree(office, "receivables", note="as it stands")
    assert rows(office)["receivables"].stated.state is TieOutState.AGREED
    assert store.verify(office.workplace).broken == ()


def test_a_paper_is_kept_with_the_figure_that_was_keyed_from_it(office):
    digest = papers.keep_copy(
        office.workplace, office["IO"], "SMALL", "letter.pdf", b"balance confirmed"
    )
    bank = next(name for name in rows(office) if name.startswith("bank"))
    books = rows(office)[bank].stated.tie_out.books
    agree(office, bank, outside=books, paper=digest, paper_name="letter.pdf")
    found = rows(office)[bank].stated
    assert (found.state, found.tie_out.outside, found.tie_out.lacks) == (
        TieOutState.AGREED, books, "",
    )  # fmt: skip
    kept = papers.paper(office.workplace, office["TV"], "SMALL", digest)
    assert (kept.name, kept.content) == ("letter.pdf", b"balance confirmed")
    with pytest.raises(Refusal, match="over 20 MB"):
        papers.keep_copy(office.workplace, office["IO"], "SMALL", "empty.pdf", b"")


def test_a_paper_of_somewhere_else_proves_nothing_and_goes_with_no_remark(office):
    elsewhere = office.workplace.keep_file(b"another client's letter")
    bank = next(name for name in rows(office) if name.startswith("bank"))
    books = rows(office)[bank].stated.tie_out.books
    with pytest.raises(UnknownName):
        agree(office, bank, outside=books, paper=elsewhere, paper_name="letter.pdf")
    said = (office.workplace, office["IO"], "SMALL", About.ACCOUNT, "2200", "as the letter says")
    with pytest.raises(UnknownName):
        remarks.remark(*said, paper=elsewhere)
    assert remarks.remarks(*said[:3]) == ()
    own = papers.keep_copy(office.workplace, office["IO"], "SMALL", "a letter.pdf", b"ours")
    remarks.remark(*said, paper=own)
    (thread,) = remarks.remarks(*said[:3])
    assert papers.paper(office.workplace, office["TV"], "SMALL", thread.first.paper or "") == (
        "a letter.pdf", b"ours",
    )  # fmt: skip


def test_nothing_is_signed_before_the_bank_and_every_other_proof_is_agreed(office):
    decide_the_rest(office)
    ready = sign_off.readiness(office.workplace, office["TV"], "SMALL", AT)
    assert ready.ready
    accrue(office)
    with pytest.raises(NotReady) as refused:
        sign_off.sign_off(office.workplace, office["TV"], "SMALL", AT, PASSWORD)
    assert "fell open since" in str(refused.value)
    agree_all(office, AT)
    seal = sign_off.sign_off(office.workplace, office["TV"], "SMALL", AT, PASSWORD)
    assert seal.override_reason is None
    # What is agreed later moves nothing that is sealed.
    agree(office, "tax", note="once more")
    assert not sign_off.seal_states(
        office.workplace, office.workplace.ledger(office["IO"], "SMALL")
    )[0].broken
