"""What is written and not posted, with what posting it would do."""

import pytest

from corkpost.core.approval import ApprovalRule
from corkpost.services import entries, staff
from corkpost.services.unposted import unposted
from tests.builders import day
from tests.notation import eur
from tests.services.test_approvals import ENTRY, hand_in

AT = day("2026-10-31")
ACCRUED = {"account": "5310", "amount": "50", "date": "2026-10-31"}


@pytest.fixture
def waiting(office):
    """An entry of Ines that waits, a draft that is whole, one that is not, one dated later."""
    staff.set_approval(office.workplace, office["OB"], "IO", ApprovalRule(journals=True))
    office.people["IO"] = staff.person_named(office.workplace, "IO")
    hand_in(office, ENTRY)
    whole = ENTRY.entry.model_dump(mode="json")
    tax = [
        {**whole["lines"][0], "debit": "123", "tax_code": "S23", "tax": "included"},
        {**whole["lines"][1], "credit": "123"},
    ]
    for name, content in (
        ("whole", {**whole, "reason": "With tax", "lines": tax}),
        ("half", {**whole, "reason": "", "lines": whole["lines"][:1]}),
        ("later", {**whole, "date": "30.11"}),
        ("odd", {"lines": "none"}),
        ("told", {"recipe": "accrual", "said": ACCRUED, "near": "2026-10-31", "reason": "told"}),
        ("strange", {"recipe": "accrual", "said": 7}),
    ):
        entries.keep_draft(office.workplace, office["IO"], "SMALL", content, name)
    return office


def test_each_says_what_it_would_add_by_the_day_and_what_is_not_whole_says_so(waiting):
    _, found = unposted(waiting.workplace, waiting["TV"], "SMALL", AT)
    worth = {draft.name: draft.worth for draft in found}
    assert worth.pop("proposal-1") == (-eur("410.00"), 0, -eur("410.00"))
    # The tax in it comes back: profit and net assets fall by the net, what is owed by the gross.
    assert worth.pop("draft-whole") == (-eur("100.00"), eur("23.00"), -eur("100.00"))
    assert worth.pop("draft-later") == (0, 0, 0)
    assert worth.pop("draft-told") == (-eur("50.00"), 0, -eur("50.00"))
    assert worth == {"draft-half": None, "draft-odd": None, "draft-strange": None}
    assert [(draft.what, draft.by) for draft in found][:2] == [
        ("waits for approval", "IO"),
        ("draft", "IO"),
    ]
