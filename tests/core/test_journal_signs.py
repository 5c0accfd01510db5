"""What is unusual about journals that people wrote."""

from dataclasses import replace
from datetime import datetime

import pytest

from corkpost.core.journal_signs import journal_signs
from corkpost.core.kinds import TransactionKind as Kind
from tests.builders import books_with, direct_payment, posted
from tests.notation import eur

USUAL = [
    posted(f"Dr fuel {n}.37, Cr accruals {n}.37", f"2026-01-{n:02}", entered_by="jo") for n in range(1, 26)
]  # fmt: skip


def signs(text="Dr fuel 10.37, Cr accruals 10.37", on="2026-06-05", *, rest=USUAL, **more):
    made = books_with(*rest, posted(text, on, id="J", **more))
    facts = replace(
        made.client,
        capital_item=eur("800.00"),
        filed_on=datetime(2026, 5, 20, 11),
        filed_through=datetime(2025, 12, 31).date(),
    )
    return journal_signs(replace(made, client=facts)).get("J", ())


@pytest.mark.parametrize(
    ("said", "text", "more"),
    [
        ("keyed by pat, who keyed 1 of 26 journals", "Dr fuel 10.37, Cr accruals 10.37",
         {"entered_by": "pat"}),
        ("keyed at 23:40", "Dr fuel 10.37, Cr accruals 10.37", {"keyed": "2026-06-05T23:40"}),
        ("a round sum", "Dr fuel 1500.00, Cr accruals 1500.00", {}),
        ("just under 800.00, the limit for lasting things", "Dr office 799.00, Cr accruals 799.00", {}),
        ("between profit and a clearing account", "Dr clearing 10.37, Cr fuel 10.37", {}),
    ],
)  # fmt: skip
def test_a_sign_is_said_in_words(said, text, more):
    assert signs(text, **{"entered_by": "jo", **more}) == (said,)


def test_keyed_soon_after_its_year_was_filed():
    assert signs(on="2025-11-05", keyed="2026-05-28T10:00") == (
        "keyed 7 days after its year was filed",
    )
    assert signs(on="2025-11-05", keyed="2026-09-28T10:00") == ()
    assert signs(on="2025-11-05", keyed="2026-04-28T10:00") == ()


def test_ordinary_ones_have_none_and_habits_are_no_signs():
    assert signs(entered_by="jo") == ()
    assert signs("Dr fuel 900.00, Cr accruals 900.00", entered_by="jo") == ()
    # Where many work at night, or too few journals show a habit, nothing is told.
    owls = [transaction._replace(entered_at=datetime(2026, 1, 9, 23, 5)) for transaction in USUAL]
    assert signs(rest=owls, keyed="2026-06-05T23:40", entered_by="jo") == ()
    passed = [posted("Dr clearing 1.37, Cr fuel 1.37", "2026-02-01") for _ in range(9)]
    assert signs("Dr clearing 10.37, Cr fuel 10.37", rest=[*USUAL, *passed], entered_by="jo") == ()
    assert signs("Dr fuel 5000.00, Cr accruals 5000.00", change=3) == ()
    assert signs(rest=USUAL[:5], keyed="2026-06-05T23:40", entered_by="pat") == ()


def test_only_what_people_wrote_line_by_line_is_looked_at():
    paid = direct_payment("2026-06-05", office="5000.00", id="P")
    mirror = posted("Dr accruals 5000.00, Cr fuel 5000.00", "2026-06-06", reverses="P", id="M")
    taken = posted("Dr bank 5000.00, Cr sales 5000.00", "2026-06-05", Kind.TAKINGS, id="T")
    assert not {"P", "M", "T"} & journal_signs(books_with(*USUAL, paid, mirror, taken)).keys()
