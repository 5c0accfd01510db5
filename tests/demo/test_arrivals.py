"""Two clients of the demo come as their bookkeepers' files: nothing is asked, the slips in them are found,
and what they send next brings only what is new."""

import pytest

from corkpost.core.kinds import AccountRole
from corkpost.core.money import Currency
from corkpost.demo.arrivals import ARRIVALS, LAST, NEXT
from corkpost.services import listings, review
from corkpost.services.listings import NewClient


@pytest.mark.parametrize("code", ARRIVALS)
def test_they_are_under_review_as_soon_as_their_files_are_there(office, tmp_path, code):
    arrival = ARRIVALS[code]
    new = NewClient(arrival.name, arrival.entity, (12, 31), Currency("EUR"))
    partner = office["OB"]
    first = arrival.write(tmp_path / "now", LAST)
    outcome = listings.take_in(office.workplace, partner, code, first, new=new)
    assert (outcome.questions, [p for p in outcome.made.proofs if not p.holds]) == ((), [])
    assert outcome.proposed.name in arrival.name
    books = office.workplace.ledger(partner, code).books
    assert len(books.control_accounts) == 2
    assert books.with_role(AccountRole.BANK)
    found = review.points(office.workplace, partner, code)
    assert "duplicate-document" in {stated.point.check for stated in found}
    after = listings.take_in(
        office.workplace, partner, code, arrival.write(tmp_path / "next", NEXT)
    )
    assert after.questions == ()
    assert (after.taken.changed, after.taken.removed) == (0, 0)
    assert after.taken.new > 0
