"""Layouts that the reading was not built on."""

from collections import Counter

import pytest

from corkpost.core.kinds import AccountRole, AccountType, TransactionKind
from corkpost.core.money import Currency
from corkpost.core.periods import ONE_DAY, year_end_on
from corkpost.formats.listings.questions import Answers
from corkpost.formats.listings.sheets import read_sheets
from corkpost.formats.listings.understanding import understand
from corkpost.services import listings
from tests.builders import TODAY
from tests.listings import another_hand, lists_of_another_hand, other_hands
from tests.listings.other_hands import (
    LAYOUTS,
    LISTS,
    OPEN,
    a_debit_and_a_credit_account_in_a_row,
    marks_behind_the_sums,
)

BOOKS = [(other_hands, layout) for layout in LAYOUTS]
BOOKS += [(another_hand, layout) for layout in another_hand.LAYOUTS]
BALANCES = {
    "a_portuguese_balance",
    "groups_of_accounts_beside_them",
    "a_trial_balance_in_parts",
    "two_days_of_balances",
    "a_column_for_each_month",
    "sums_among_the_balances",
    "this_year_and_last",
}


@pytest.mark.parametrize(("books", "layout"), BOOKS, ids=lambda of: of.__name__.rpartition(".")[2])
def test_a_list_of_another_hand_is_read_to_the_cent_and_nothing_is_asked(
    books, layout, office, tmp_path
):
    path = layout(tmp_path)
    seen = listings.take_in(office.workplace, office["OB"], "NEW", [path], preview=True)
    assert (seen.questions, seen.faults) == ((), ())
    assert all(read.used <= read.rows for read in seen.files)
    posted = seen.made.tables.transactions
    held = Counter[str]()
    for transaction in posted:
        for line in transaction.lines:
            held[line.account] += line.amount
    assert sorted(filter(None, held.values())) == sorted(filter(None, books.HELD.values()))
    assert all(proof.holds for proof in seen.made.proofs)
    if layout.__name__ in BALANCES:
        return
    assert len(posted) == books.COUNT
    (opening,) = (row for row in posted if row.kind is TransactionKind.OPENING)
    # What a block begins with was there the day before.
    assert opening.posting_date in (books.BEGINS, books.BEGINS - ONE_DAY)
    assert seen.proposed.year_end == year_end_on(books.BEGINS - ONE_DAY)


@pytest.mark.parametrize("listed", LISTS, ids=lambda listed: listed.__name__)
def test_what_a_list_of_another_hand_says_is_open_comes_to_the_account_and_stays_open(
    listed, office, tmp_path
):
    paths = [marks_behind_the_sums(tmp_path), listed(tmp_path)]
    seen = listings.take_in(office.workplace, office["OB"], "NEW", paths, preview=True)
    assert (seen.questions, seen.faults) == ((), ())
    assert "open receivables at 2026-06-30 and their account" in {p.what for p in seen.made.proofs}
    assert all(proof.holds for proof in seen.made.proofs)
    settled = {row.debit_transaction for row in seen.made.tables.allocations}
    invoices = [
        row for row in seen.made.tables.transactions if row.kind is TransactionKind.SALES_INVOICE
    ]
    still = {row.reference for row in invoices if row.id not in settled}
    assert still == {event.reference for event in OPEN}


@pytest.mark.parametrize("layout", lists_of_another_hand.BALANCES, ids=lambda one: one.__name__)
def test_a_trial_balance_of_another_hand_comes_to_what_each_account_held(layout, office, tmp_path):
    path = layout(tmp_path)
    seen = listings.take_in(office.workplace, office["OB"], "NEW", [path], preview=True)
    assert (seen.questions, seen.faults) == ((), ())
    held = Counter[str]()
    for transaction in seen.made.tables.transactions:
        assert transaction.posting_date <= lists_of_another_hand.AT
        for line in transaction.lines:
            held[line.account] += line.amount
    theirs = [amount for _, amount in lists_of_another_hand.HELD.values() if amount]
    assert sorted(filter(None, held.values())) == sorted(theirs)
    assert all(proof.holds for proof in seen.made.proofs)
    assert (
        max(row.posting_date for row in seen.made.tables.transactions) == lists_of_another_hand.AT
    )


@pytest.mark.parametrize(
    ("layout", "side"), lists_of_another_hand.LISTS, ids=lambda one: getattr(one, "__name__", one)
)
def test_what_another_hand_says_is_open_is_each_party_s_and_of_its_paper(layout, side, tmp_path):
    asked = Answers({})
    read = understand(read_sheets(layout(tmp_path)), Currency("EUR"), asked, TODAY)
    assert (asked.asked, read.faults) == ([], [])
    assert all(proof.holds for proof in read.raw.proofs)
    ours, theirs = Counter[tuple[str, str, str]](), Counter[tuple[str, str, str]]()
    has_papers = any(item.reference for item in read.raw.items)
    for item in read.raw.items:
        assert item.as_at == lists_of_another_hand.AT
        ours[item.side, item.party_name, item.reference] += item.amount
    sides = {"receivables": 1, "payables": -1}
    for one, sign in sides.items():
        if side in (one, "both"):
            for row in lists_of_another_hand.OPEN[one]:
                theirs[one, row.name, row.paper if has_papers else ""] += sign * row.owed
    assert ours == theirs


def test_accounts_that_nothing_names_are_known_by_how_the_entries_are_built(office, tmp_path):
    path = a_debit_and_a_credit_account_in_a_row(tmp_path)
    seen = listings.take_in(office.workplace, office["OB"], "NEW", [path], preview=True)
    kinds = {code: (kind.type, kind.role) for code, kind in seen.made.chart.items()}
    assert kinds["1100"] == (AccountType.ASSET, AccountRole.RECEIVABLES)
    assert kinds["1200"] == (AccountType.ASSET, AccountRole.BANK)
    assert kinds["2100"] == (AccountType.LIABILITY, AccountRole.PAYABLES)
    assert kinds["2200"] == (AccountType.LIABILITY, AccountRole.TAX)
    assert kinds["4000"][0] is AccountType.INCOME
    assert {kinds[code][0] for code in ("5000", "6000", "6100")} == {AccountType.EXPENSE}
