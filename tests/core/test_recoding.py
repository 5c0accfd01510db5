"""Many recoded at once: account, tax code and dimension, dated by the rule, undone as one."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Dimension, Line
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.recoding import Recode, plan_recode
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.trial_balance import balances_at, trial_balance
from corkpost.core.undo import plan_undo
from tests.builders import CODES, after, bill, books_with, day, posted
from tests.notation import eur, journal

END = day("2026-12-31")


def taxed(on, net, code, tax):
    own = [Line(1, CODES["fuel"], eur(net), tax_code=code)]
    own += [Line(2, CODES["tax"], eur(tax), tax_code=code)] if tax else []
    return posted("Dr fuel 1.00, Cr bank 1.00", on)._replace(
        lines=(*own, Line(3, CODES["bank"], -eur(net) - eur(tax or "0.00")))
    )


def test_a_supplier_s_months_go_to_another_account_in_one_change_and_back_as_one():
    bills = [bill(f"R-{m}", on=f"2026-{m:02}-05", fuel="100.00", tax="23.00") for m in range(1, 13)]
    books = books_with(*bills)
    wanted = Recode(tuple(row.id for row in bills), CODES["fuel"], to_account=CODES["office"])
    plan = ready(plan_recode(books, wanted), books)
    assert journal(plan, books).splitlines()[0] == "2026-01-05: Cr fuel 100.00, Dr office 100.00"
    assert [entry.corrects for entry in plan.entries] == [row.id for row in bills]
    done = after(books, plan)
    sums = balances_at(done, END)
    assert (sums.get(CODES["fuel"], 0), sums[CODES["office"]]) == (0, eur("1200.00"))
    # A second time it would move what has left the account: by whatever way it was put right.
    with pytest.raises(BadEntry, match="is put right by E1-1 already"):
        plan_recode(done, wanted)
    undone = after(done, ready(plan_undo(done, done.changes[-1].number), done))
    assert trial_balance(undone, END) == trial_balance(books, END)
    again = after(undone, ready(plan_recode(undone, wanted), undone))
    assert balances_at(again, END).get(CODES["fuel"], 0) == 0


def test_a_tax_code_that_becomes_another_moves_the_tax_and_one_that_goes_gives_it_to_the_cost():
    entry = taxed("2026-03-01", "100.00", "S23", "23.00")
    books = books_with(entry)
    to_none = plan_recode(books, Recode((entry.id,), CODES["fuel"], tax_code=""))
    assert journal(to_none, books) == "2026-03-01: Cr fuel 100.00, Cr tax 23.00, Dr fuel 123.00"
    plain = taxed("2026-03-02", "123.00", None, None)
    books = books_with(plain)
    to_s23 = plan_recode(books, Recode((plain.id,), CODES["fuel"], tax_code="S23"))
    assert journal(to_s23, books) == "2026-03-02: Cr fuel 123.00, Dr fuel 100.00, Dr tax 23.00"


def test_in_a_filed_year_the_profit_part_goes_by_the_rule_and_a_dimension_is_checked():
    entry = taxed("2025-11-01", "100.00", None, None)
    books = books_with(
        entry,
        posted("Dr fuel 1.00, Cr bank 1.00", "2026-10-01"),
        filed_through="2025-12-31",
        dimensions=(Dimension("site", "QUAY", "Quay"),),
    )
    wanted = Recode((entry.id,), CODES["fuel"], dimensions="site=QUAY")
    plan = ready(plan_recode(books, wanted), books)
    assert [line.dimensions for line in plan.entries[0].lines] == [None, "site=QUAY"]
    assert plan.entries[0].posting_date == day("2026-01-01")
    with pytest.raises(BadEntry, match="among the dimensions"):
        plan_recode(books, wanted._replace(dimensions="site=MOON"))


def test_an_entry_of_ours_and_what_closed_or_opened_a_year_are_not_recoded():
    kinds = (Kind.CLOSING, Kind.OPENING)
    rows = [posted("Dr fuel 5.00, Cr bank 5.00", "2026-05-01", kind) for kind in kinds]
    rows.append(posted("Dr fuel 5.00, Cr bank 5.00", "2026-05-01", change=1))
    for row, says in zip(rows, ("no document", "no document", "entry of ours"), strict=True):
        with pytest.raises(BadEntry, match=says):
            plan_recode(books_with(*rows), Recode((row.id,), CODES["fuel"], CODES["office"]))


@pytest.mark.parametrize(
    ("wanted", "says"),
    [
        (Recode((), "2100", "5310"), "correct each by its own route"),
        (Recode((), "5200"), "Say what they get"),
        (Recode((), "5200", tax_code="X9"), "no tax code"),
        (Recode((), "5310", "6100"), "has nothing on electricity"),
    ],
)
def test_what_can_not_be_recoded_is_said(wanted, says):
    entry = taxed("2026-03-01", "100.00", "S23", "23.00")
    with pytest.raises(BadEntry, match=says):
        plan_recode(books_with(entry), wanted._replace(transactions=(entry.id,)))


@given(st.lists(st.integers(1, 10**7), min_size=1, max_size=5), st.booleans())
def test_every_recoding_balances_and_the_second_finds_nothing(sums, to_other_code):
    rows = [taxed("2026-03-01", f"{cents / 100:.2f}", None, None) for cents in sums]
    books = books_with(*rows)
    wanted = Recode(tuple(row.id for row in rows), CODES["fuel"])
    wanted = wanted._replace(
        tax_code="S23" if to_other_code else None,
        to_account=None if to_other_code else CODES["office"],
    )
    plan = ready(plan_recode(books, wanted), books)
    assert all(sum(line.amount for line in entry.lines) == 0 for entry in plan.entries)
    same = Recode(wanted.transactions, CODES["fuel"], to_account=CODES["fuel"])
    with pytest.raises(NothingToDo):
        plan_recode(books, same)
