"""Closing in the store: over a seal, proved, taken back, carried into the next year, and again."""

from corkpost.core.acts import TakeBack
from corkpost.core.closing import CloseYear, closing_of
from corkpost.core.trial_balance import BROUGHT_FORWARD
from corkpost.formats.acts import CloseYearAct
from corkpost.services import acts, approvals, entries, overview, sign_off, store
from corkpost.services.posting import PostRequest
from tests.builders import CODES, day
from tests.practice import PASSWORD, accrue, decide_the_rest

YEAR = CloseYear("2026")


def close(office, who="TV"):
    act = CloseYearAct(act="close-year", year="2026")
    plan = acts.preview(office.workplace, office[who], "SMALL", act).plan
    return acts.post(
        office.workplace, office[who], "SMALL", act, PostRequest(plan.proposed_reason, plan.digest)
    )


def balances(office, at):
    found = overview.client_trial_balance(office.workplace, office["IO"], "SMALL", day(at))
    return {row.account: row.balance for row in found.rows}


def test_a_signed_year_is_closed_carried_on_and_taken_back_and_its_seal_holds(office):
    decide_the_rest(office, "IO", "2026-12-31")
    sign_off.sign_off(office.workplace, office["TV"], "SMALL", day("2026-12-31"), PASSWORD)
    before = balances(office, "2027-01-31")
    assert before[BROUGHT_FORWARD]
    posted = close(office)
    (entry,) = posted.entries
    assert (entry.id, entry.kind, str(entry.posting_date)) == ("Z-2026-1", "closing", "2026-12-31")
    after = balances(office, "2027-01-31")
    # What the year before made is not closed yet, and still stands as brought forward.
    carried = before[BROUGHT_FORWARD] - after[BROUGHT_FORWARD]
    assert after[CODES["capital"]] == before.get(CODES["capital"], 0) + carried
    assert carried == -closing_of(office.workplace.ledger(office["IO"], "SMALL").books, YEAR).profit
    assert not sign_off.seal_states(
        office.workplace, office.workplace.ledger(office["IO"], "SMALL")
    )[0].broken
    ledger = office.workplace.ledger(office["IO"], "SMALL")
    assert closing_of(ledger.books, YEAR).is_closed
    back = PostRequest("too soon")
    acts.post(office.workplace, office["TV"], "SMALL", TakeBack(posted.number), back)
    assert balances(office, "2027-01-31") == before
    assert store.verify(office.workplace).broken == ()


def test_what_is_posted_after_a_closing_is_carried_by_the_next_and_a_preparer_hands_it_in(office):
    close(office)
    accrue(office, on="2026-12-31", amount="55.00", reverse_on=None)
    found = closing_of(office.workplace.ledger(office["IO"], "SMALL").books, YEAR)
    assert sorted(line.amount for line in found.lines) == [-5500, 5500]
    act = CloseYearAct(act="close-year", year="2026")
    shown = acts.preview(office.workplace, office["IO"], "SMALL", act)
    assert shown.held.startswith("A reviewer or partner closes a year")
    number = approvals.hand_in(
        office.workplace, office["IO"], "SMALL", act, reason="again", shown=shown.plan.digest
    )
    posted = approvals.approve(
        office.workplace, office["TV"], "SMALL", number, shown=shown.plan.digest
    )
    assert posted.entries[0].id == "Z-2026-2"
    kinds = [row.route for row in entries.change_log(office.workplace, office["IO"], "SMALL")]
    assert kinds.count("close-year") == 2
    assert store.verify(office.workplace).broken == ()
