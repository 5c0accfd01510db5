"""Entries: worked example 7 of the handbook, the mirror that follows, what is refused and warned of."""

import pytest

from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Account, Dimension
from corkpost.core.change import checked
from corkpost.core.effect import effect_of
from corkpost.core.entries import EntryLine, EntryRequest, plan_entry
from corkpost.core.kinds import AccountRole, AccountType, Entity, EntryKind, PeriodState
from corkpost.core.open_items import open_items
from corkpost.core.owners import owner_accounts
from corkpost.core.refusals import BadEntry, BarredDate, OutOfBalance
from corkpost.core.tax import TaxTreatment, preset_code
from corkpost.core.undo import plan_undo
from tests.builders import ACCOUNTS, CODES, PARTY_CODES, after, bill, books_with, day, posted
from tests.notation import eur, journal, settlements


def entry(on: str, *lines: EntryLine, kind=EntryKind.ADJUSTING, reverse_on=None, reference=None):
    return EntryRequest(
        kind, day(on), "why", lines, day(reverse_on) if reverse_on else None, reference
    )


def dr(account: str, amount: str, **more) -> EntryLine:
    return EntryLine(CODES[account], eur(amount), **more)


def cr(account: str, amount: str, **more) -> EntryLine:
    return EntryLine(CODES[account], -eur(amount), **more)


def test_an_accrual_reverses_by_itself_on_the_first_day_of_the_next_period():
    books = books_with()
    request = entry(
        "2026-06-30", dr("electricity", "410.00"), cr("accruals", "410.00"), reverse_on="2026-07-01"
    )
    plan = plan_entry(books, request)
    assert journal(plan, books).splitlines() == [
        "2026-06-30: Dr electricity 410.00, Cr accruals 410.00",
        "2026-07-01: Cr electricity 410.00, Dr accruals 410.00",
    ]
    mirror = plan.entries[1]
    assert (mirror.entry_kind, mirror.reverses) == (EntryKind.REVERSING, plan.entries[0].id)


def test_a_year_end_on_a_customer_and_its_mirror_leave_nothing_open():
    books = books_with()
    request = entry(
        "2026-12-31",
        dr("sales", "450.00"),
        cr("receivables", "450.00", party=PARTY_CODES["Harbour School"]),
        reverse_on="2027-01-01",
    )
    plan = plan_entry(books, request)
    assert settlements(plan) == "2027-01-01: new-2 with new-1 450.00"


@pytest.mark.parametrize(
    ("line", "lines"),
    [
        (dr("office", "123.00", tax_code="S23", tax=TaxTreatment.INCLUDED), "Dr office 100.00, Dr tax 23.00"),
        (dr("office", "100.00", tax_code="S23", tax=TaxTreatment.ADDED), "Dr office 100.00, Dr tax 23.00"),
        (dr("office", "100.00", tax_code="N23", tax=TaxTreatment.ADDED), "Dr office 123.00"),
        (dr("office", "123.00", tax_code="N23", tax=TaxTreatment.INCLUDED), "Dr office 123.00"),
        (dr("office", "123.00", tax_code="Z0", tax=TaxTreatment.INCLUDED), "Dr office 123.00"),
        (dr("office", "123.00", tax_code="S23"), "Dr office 123.00"),
    ],
)  # fmt: skip
def test_a_line_may_hold_its_tax_have_it_added_or_have_none(line, lines):
    books = books_with()
    plan = plan_entry(books, entry("2026-06-30", line, cr("bank", "123.00")))
    assert journal(plan, books) == f"2026-06-30: {lines}, Cr bank 123.00"


@pytest.mark.parametrize(
    ("request_", "fault"),
    [
        (entry("2026-06-30", dr("fuel", "1.00")), "at least two lines"),
        (entry("2026-06-30", dr("payables", "1.00"), cr("bank", "1.00")), "control account: name the party"),
        (entry("2026-06-30", dr("stock", "1.00"), cr("bank", "1.00")), "moves only by a stock count"),
        (entry("2026-06-30", EntryLine("9999", 100), cr("bank", "1.00")), "no account '9999'"),
        (entry("2026-06-30", dr("fuel", "1.00", party="X9"), cr("bank", "1.00")), "no party 'X9'"),
        (entry("2026-06-30", dr("fuel", "1.00", tax_code="Q"), cr("bank", "1.00")), "no tax code 'Q'"),
        (entry("2026-06-30", dr("fuel", "0.00"), cr("bank", "1.00")), "amount is nil"),
        (entry("2026-06-30", dr("fuel", "1.00", dimensions="site=QUAY"), cr("bank", "1.00")), "dimensions"),
        (entry("2026-06-30", dr("fuel", "1.00"), cr("bank", "1.00"), reverse_on="2026-06-30"), "after the entry"),
        (entry("2026-06-30", dr("fuel", "1.00"), cr("bank", "1.00"), kind=EntryKind.CLOSING), "by the program"),
    ],
)  # fmt: skip
def test_what_is_wrong_is_told_with_its_line(request_, fault):
    with pytest.raises(BadEntry, match=fault):
        plan_entry(books_with(), request_)


def test_every_fault_is_told_at_once():
    request = entry("2026-06-30", dr("payables", "1.00"), EntryLine("9999", 0))
    with pytest.raises(BadEntry) as refused:
        plan_entry(books_with(), request)
    assert [fault[:7] for fault in refused.value.faults] == ["Line 1:", "Line 2:", "Line 2:"]


def test_debits_and_credits_must_be_equal_to_the_cent():
    books = books_with()
    plan = plan_entry(books, entry("2026-06-30", dr("fuel", "1.00"), cr("bank", "1.01")))
    with pytest.raises(OutOfBalance, match=r"lacks 0\.01 to debit"):
        checked(plan, books)


def test_a_barred_day_is_refused_with_the_first_day_that_is_open():
    books = books_with(filed_through="2025-12-31")
    plan = plan_entry(books, entry("2025-06-30", dr("fuel", "1.00"), cr("bank", "1.00")))
    with pytest.raises(BarredDate, match="1 January 2026"):
        checked(plan, books)


def test_a_mirror_in_a_barred_period_is_refused_too():
    books = books_with(states={"2026-07-01": PeriodState.BARRED})
    request = entry(
        "2026-06-30", dr("electricity", "1.00"), cr("accruals", "1.00"), reverse_on="2026-07-01"
    )
    with pytest.raises(BarredDate, match="1 July 2026"):
        checked(plan_entry(books, request), books)


def test_the_bank_by_journal_a_reclassification_of_profit_and_a_repeat_are_warned_of():
    books = books_with()
    request = entry(
        "2026-06-30", dr("fuel", "1.00"), cr("bank", "1.00"), kind=EntryKind.RECLASSIFYING
    )
    first = ready(plan_entry(books, request), books)
    assert ["bank" in w or "profit by 1.00" in w for w in first.warnings] == [True, True]
    again = plan_entry(after(books, first), request)
    assert "meant to stand twice" in again.warnings[-1]


def test_a_repeat_of_an_entry_that_reverses_is_warned_of_while_it_stands():
    books = books_with()
    request = entry(
        "2026-06-30", dr("electricity", "4.00"), cr("accruals", "4.00"), reverse_on="2026-07-01"
    )
    done = after(books, plan_entry(books, request))
    assert "meant to stand twice" in plan_entry(done, request).warnings[-1]
    undone = after(done, plan_undo(done, 1), 2)
    assert plan_entry(undone, request).warnings == ()


def test_a_reference_of_ones_own_that_is_there_already_is_warned_of():
    earlier = posted(
        "Dr fuel 9.00, Cr bank 9.00", "2026-01-01", id="A-1", reference="YE1", change=1
    )
    request = entry("2026-06-30", dr("fuel", "1.00"), cr("accruals", "1.00"), reference="YE1")
    assert plan_entry(books_with(earlier), request).warnings == (
        "A-1 has the reference YE1 already.",
    )


def test_a_bill_that_is_keyed_is_due_by_its_paper_and_warned_of_where_its_number_is_there():
    """However it is keyed: the supplier and the number tell it."""
    there = bill("RW-0117", on="2026-04-03", fuel="200.00", tax="46.00")
    request = entry(
        "2026-04-30",
        dr("fuel", "246.00", tax_code="S23", tax=TaxTreatment.INCLUDED),
        cr("payables", "246.00", party=PARTY_CODES["Reedwharf"]),
        kind=EntryKind.CORRECTING,
        reference="rw 117",
    )._replace(document_date=day("2026-04-03"), due_date=day("2026-05-03"))
    books = books_with(there)
    plan = plan_entry(books, request)
    assert plan.warnings == (
        "Reedwharf has RW-0117 of 3 April 2026 in the books already, 246.00. Is it the same paper?",
    )
    (item,) = open_items(after(books_with(), plan_entry(books_with(), request))).items.values()
    assert (item.due_date, item.transaction.day) == (day("2026-05-03"), day("2026-04-03"))
    with pytest.raises(BadEntry, match="before the day on its paper"):
        plan_entry(books, request._replace(due_date=day("2026-04-01")))


@pytest.mark.parametrize(
    ("role", "preset"),
    [
        (AccountRole.ORDINARY, "S23"),
        (AccountRole.SALES, "S23"),
        (AccountRole.FIXED_ASSET, "S23"),
        (AccountRole.BANK, None),
        (AccountRole.OWNER_LOAN, None),
        (AccountRole.PAYABLES, None),
        (AccountRole.PAYROLL_NET, None),
    ],
)
def test_a_line_begins_with_the_tax_of_its_account_where_tax_belongs(role, preset):
    account = Account("1", "one", AccountType.EXPENSE, role, tax_code="S23")
    assert preset_code(account) == preset


def test_tax_dated_in_a_returned_period_goes_to_the_first_day_not_yet_returned():
    books = books_with(returned_through="2026-09-30")
    request = entry("2026-06-30", dr("office", "10.00"), dr("tax", "2.30"), cr("bank", "12.30"))
    lines = plan_entry(books, request).entries[0].lines
    assert [line.tax_date for line in lines] == [None, day("2026-10-01"), None]


OWNERS = {
    Entity.COMPANY: "director's loan",
    Entity.SOLE_TRADER: "capital introduced",
    Entity.PARTNERSHIP: "current account Fennel",
}


@pytest.mark.parametrize("entity", OWNERS)
def test_property_bought_with_several_sources_of_money(entity):
    """Worked example 11 of the handbook, for each entity whose owner may bring money."""
    more = (
        Account("0010", "land", AccountType.ASSET, AccountRole.FIXED_ASSET),
        Account("0020", "buildings", AccountType.ASSET, AccountRole.FIXED_ASSET),
        Account("2450", "director's loan", AccountType.LIABILITY, AccountRole.OWNER_LOAN, "O1"),
        Account(
            "3250", "capital introduced", AccountType.EQUITY, AccountRole.CAPITAL_INTRODUCED, "O1"
        ),
    )
    codes = {**CODES, **{account.name: account.code for account in more}}
    books = books_with(accounts=(*ACCOUNTS, *more), entity=entity)
    owners = owner_accounts(books, comes_in=True, owner="O1")[0].code
    assert owners == codes[OWNERS[entity]]
    sums = (
        ("land", "46150.00"), ("buildings", "138450.00"), ("loan", "-140000.00"),
        (OWNERS[entity], "-30600.00"), ("bank", "-14000.00"),
    )  # fmt: skip
    lines = [EntryLine(codes[name], eur(amount)) for name, amount in sums]
    plan = checked(plan_entry(books, entry("2026-09-12", *lines)), books)
    assert journal(plan, books) == (
        "2026-09-12: Dr land 46150.00, Dr buildings 138450.00, Cr loan 140000.00, "
        f"Cr {OWNERS[entity]} 30600.00, Cr bank 14000.00"
    )
    # 176,000.00 with 5,280.00 of duty and 3,320.00 of law: the land by valuation, the rest the house.
    moved = {row.code: row.after for row in effect_of(plan, books, day("2026-12-31")).accounts}
    assert moved[codes["land"]] + moved[codes["buildings"]] == eur("184600.00")


def test_an_entry_across_branches_balances_in_each_by_itself():
    between = Account("2900", "between sites", AccountType.LIABILITY, AccountRole.INTER_BRANCH)
    sites = (Dimension("site", "QUAY", "Quay"), Dimension("site", "MILL", "Mill"))
    books = books_with(accounts=(*ACCOUNTS, between), dimensions=sites)

    def line(name, amount, site):
        return EntryLine(CODES[name], eur(amount), dimensions=site)

    shared = (line("office", "60.00", "site=QUAY"), line("bank", "-60.00", "site=MILL"))
    plan = checked(plan_entry(books, entry("2026-09-12", *shared)), books)
    assert journal(plan, books) == (
        "2026-09-12: Dr office 60.00, Cr bank 60.00, Dr between sites 60.00, Cr between sites 60.00"
    )
    assert [x.dimensions for x in plan.entries[0].lines[2:]] == ["site=MILL", "site=QUAY"]
    assert "stands on the account between them" in plan.notes[0]
    taxed = shared[0]._replace(tax_code="S23", tax=TaxTreatment.INCLUDED, amount=eur("61.50"))
    with_tax = (taxed, line("bank", "-61.50", "site=MILL"))
    plan = checked(plan_entry(books, entry("2026-09-12", *with_tax)), books)
    assert journal(plan, books).endswith("Dr between sites 61.50, Cr between sites 61.50")
    # What stands on one branch, or on none, needs nothing.
    for one, other in (("site=QUAY", "site=QUAY"), ("site=QUAY", None)):
        own = (line("office", "60.00", one), line("bank", "-60.00", other))
        assert len(plan_entry(books, entry("2026-09-12", *own)).entries[0].lines) == 2
