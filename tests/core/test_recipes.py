"""Recipes: worked examples 7, 9, 10, 11 and 15 of the handbook, what each is told, and that all balance."""

from contextlib import suppress
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.assets.register import KeepAssets, plan_keep_assets
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import (
    Account,
    BankAccount,
    Line,
    PayrollMonth,
    StockItem,
)
from corkpost.core.kinds import AccountRole, AccountType, Entity
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.loans import Basis, interest, level_payment, payments, year_part
from corkpost.core.open_items import open_items
from corkpost.core.payroll import TakePayroll, payroll_months, plan_take_payroll
from corkpost.core.rates import AddRates, plan_add_rates
from corkpost.core.recipes import UseRecipe, plan_recipe, registry
from corkpost.core.refusals import BadEntry, DependedOn, NothingToDo, Refusal
from corkpost.core.row_kinds.assets import FixedAsset
from corkpost.core.row_kinds.rates import Rate
from corkpost.core.schedules import Spread, due
from corkpost.core.tie_outs import tie_out_named
from corkpost.core.trial_balance import balances_at
from corkpost.core.undo import plan_undo
from corkpost.formats.entry_table import entry_rows
from corkpost.formats.registers import payroll_table
from corkpost.stand_ins.bureau import issue
from tests.builders import ACCOUNTS, CODES, TAXES, after, books_with, day, invoice, posted
from tests.notation import EUR, eur, journal, settlements

MORE = tuple(
    Account(code, name, AccountType(kind), AccountRole(role), owner)
    for code, name, kind, role, owner in (
        ("0010", "land", "asset", "fixed-asset", None),
        ("0020", "buildings", "asset", "fixed-asset", None),
        ("1210", "dollars", "asset", "bank", None),
        ("1300", "prepayments", "asset", "prepayment", None),
        ("2450", "director's loan", "liability", "owner-loan", "O1"),
        ("2500", "tax on profit owed", "liability", "", None),
        ("3500", "dividends", "equity", "dividends", None),
        ("3900", "opening", "equity", "opening", None),
        ("5000", "cost of sales", "expense", "cost-of-sales", None),
        ("5420", "director's pay", "expense", "director-pay", None),
        ("6400", "exchange", "expense", "exchange-difference", None),
        ("6900", "tax on profit", "expense", "", None),
        ("7000", "bad debt", "expense", "bad-debt", None),
    )
)
NAMES = {**CODES, **{account.name: account.code for account in MORE}}
BEGUN = posted("Dr bank 0.01, Cr capital 0.01", "2026-01-02")


def books_of(*rows, **more):
    return books_with(BEGUN, *rows, accounts=(*ACCOUNTS, *MORE), **more)


def use(books, recipe, **said):
    told = {name.rstrip("_"): NAMES.get(value, value) for name, value in said.items()}
    return ready(plan_recipe(books, UseRecipe(recipe, told)), books)


def test_an_accrual_and_unearned_income_take_themselves_back_on_the_next_day():
    """Worked example 7."""
    books = books_of()
    plan = use(books, "accrual", account="electricity", amount="410.00", date="2026-06-30")
    assert journal(plan, books) == (
        "2026-06-30: Dr electricity 410.00, Cr accruals 410.00\n"
        "2026-07-01: Cr electricity 410.00, Dr accruals 410.00"
    )
    told = {"account": "electricity", "amount": "410", "date": "2026-06-30", "reverse_on": "none"}
    assert len(use(books, "accrual", **told).entries) == 1
    half = {"from_": "2026-12-01", "to": "2027-01-30", "date": "2026-12-31", "by": "days"}
    plan = use(books, "deferred-income", account="sales", amount="915.00", **half)
    assert journal(plan, books) == (
        "2026-12-31: Cr deferred income 450.00, Dr sales 450.00\n"
        "2027-01-01: Dr deferred income 450.00, Cr sales 450.00"
    )


def test_a_sum_that_is_spread_is_released_a_part_each_month_and_the_next_year_begins_with_it():
    books = books_of()
    spread = {"from_": "2026-03-15", "to": "2027-03-14", "date": "2026-03-31", "by": "months"}
    plan = use(books, "prepayment", account="office", amount="1000", style="spread", **spread)
    assert journal(plan, books) == "2026-03-31: Dr prepayments 1000.00, Cr office 1000.00"
    assert (len(plan.schedule), plan.schedule[-1].left) == (12, 0)
    assert [str(step.day) for step in plan.schedule[:2]] == ["2026-03-31", "2026-04-30"]
    held = after(books, plan)
    assert len(list(due(held, day("2026-10-31")))) == 8
    released = use(held, "carry-on", date="2026-10-31")
    done = after(held, released)
    assert balances_at(done, day("2026-10-31"))[NAMES["prepayments"]] == eur("333.33")
    assert [str(row.step.day) for row in due(done, day("2027-01-31"))] == [
        "2026-11-30", "2026-12-31", "2027-01-31",
    ]  # fmt: skip
    with pytest.raises(NothingToDo):
        use(done, "carry-on", date="2026-10-31")
    # What was released rests on what was set aside, and is due again once it is taken back.
    first, second = (change.number for change in done.changes)
    with pytest.raises(DependedOn):
        plan_undo(done, first)
    back = after(done, ready(plan_undo(done, second), done))
    assert len(list(due(back, day("2026-10-31")))) == 8
    gone = after(back, ready(plan_undo(back, first), back))
    assert not list(due(gone, day("2027-12-31")))


@given(
    st.integers(1, 10**9),
    st.dates(day("2020-01-01"), day("2030-01-01")),
    st.integers(0, 2000),
    st.booleans(),
    st.integers(-60, 60),
)
def test_the_parts_of_a_spread_add_up_exactly_and_none_is_before_it_was_set_aside(
    amount, first, days, by_days, late
):
    last = first + (day("2026-01-02") - day("2026-01-01")) * days
    set_aside = first + (day("2026-01-02") - day("2026-01-01")) * late
    steps = Spread(amount, first, last, by_days).steps(set_aside)
    assert sum(step.amount for step in steps) == amount
    assert steps[-1].left == 0
    assert all(step.amount > 0 for step in steps)
    assert [step.day for step in steps] == sorted({step.day for step in steps})
    assert steps[0].day >= set_aside


PAY = {
    "gross": "8400.00", "employer_contributions": "928.00", "net_pay": "6310.00",
    "income_tax": "1460.00", "employee_contributions": "630.00",
}  # fmt: skip


def test_the_bureau_s_summary_becomes_the_pay_journal_and_its_columns_must_add_up():
    """Worked example 10, keyed and from the client's table; a director's pay apart."""
    table = PayrollMonth("2026-03", "staff", 840_000, 92_800, 631_000, 146_000, 63_000)
    books = books_of(payroll=(table,), entity=Entity.COMPANY)
    expected = (
        "2026-03-31: Dr wages 8400.00, Dr contributions 928.00, Cr net pay owed 6310.00, "
        "Cr payroll tax 1460.00, Cr payroll tax 1558.00"
    )
    assert journal(use(books, "payroll", month="2026-03", **PAY), books) == expected
    assert journal(use(books, "payroll", month="2026-03"), books) == expected
    director = use(books, "payroll", month="2026-03", director="yes", date="2026-03-25")
    assert journal(director, books).startswith("2026-03-25: Dr director's pay 8400.00")
    assert "Cr director's loan 6310.00" in journal(director, books)
    with pytest.raises(BadEntry, match=r"leaves 10\.00 too little"):
        use(books, "payroll", month="2026-03", **{**PAY, "net_pay": "6320.00"})
    groups = (table, table._replace(employee_group="Director", gross=500_000, net_pay=291_000))
    both = books_of(payroll=groups, entity=Entity.COMPANY)
    assert "Dr wages 8400.00" in journal(use(both, "payroll", month="2026-03"), both)
    of_director = use(both, "payroll", month="2026-03", director="yes")
    assert "Dr director's pay 5000.00" in journal(of_director, both)
    with pytest.raises(BadEntry, match="no summary of 2026-04"):
        use(books, "payroll", month="2026-04")
    two = Account("2265", "contributions owed", AccountType.LIABILITY, AccountRole.PAYROLL_TAX)
    apart = books_with(BEGUN, accounts=(*ACCOUNTS, two))
    assert "Cr payroll tax 1460.00, Cr contributions owed 1558.00" in journal(
        use(apart, "payroll", month="2026-03", **PAY), apart
    )


def test_a_bad_debt_with_and_without_relief():
    """Worked example 9."""
    owed = invoice("SK-9", on="2026-02-01", sales="1000.00", tax="230.00")
    books = books_of(owed)
    told = {"party": "C1", "date": "2026-10-31", "items": "SK-9"}
    plan = use(books, "bad-debt", **told)
    assert journal(plan, books) == (
        "2026-10-31: Dr bad debt 1000.00, Dr tax 230.00, Cr receivables (Harbour School) 1230.00"
    )
    assert settlements(plan).endswith("1230.00")
    plain = use(books, "bad-debt", relief="no", **told)
    assert "Dr bad debt 1230.00, Cr receivables" in journal(plain, books)
    part = use(books, "bad-debt", amount="123.00", **told)
    assert "Dr bad debt 100.00, Dr tax 23.00, Cr receivables" in journal(part, books)
    assert settlements(part).endswith(" 123.00")
    with pytest.raises(BadEntry, match=r"1,230.00 is open"):
        use(books, "bad-debt", amount="1230.01", **told)
    with pytest.raises(BadEntry, match="SK-10 is not open of Harbour School"):
        use(books, "bad-debt", **{**told, "items": "SK-10"})


def test_property_out_of_several_sources():
    """Worked example 11."""
    books = books_of(entity=Entity.COMPANY)
    told = {
        "uses": "0010:46150.00,0020:138450.00",
        "sources": "2400:140000,2450:30600,1200:14000.00",
        "date": "2025-09-12",
    }
    plan = use(books, "property", **told)
    assert journal(plan, books) == (
        "2025-09-12: Dr land 46150.00, Dr buildings 138450.00, Cr loan 140000.00, "
        "Cr director's loan 30600.00, Cr bank 14000.00"
    )
    with pytest.raises(BadEntry, match=r"10.00 apart"):
        use(books, "property", **{**told, "sources": "2400:184590.00"})


def dollars(on, foreign, own):
    rows = (
        Line(1, NAMES["dollars"], eur(own), currency="USD", foreign_amount=foreign),
        Line(2, NAMES["sales"], -eur(own)),
    )
    return posted("Dr bank 1.00, Cr sales 1.00", on)._replace(lines=rows)


def with_rates(books, *rates):
    rows = tuple(Rate(code, day(on), Fraction(rate)) for code, on, rate in rates)
    return after(books, ready(plan_add_rates(books, AddRates(rows)), books))


def test_a_foreign_balance_goes_to_the_closing_rate_and_back_on_the_next_day():
    """Worked example 15; the nearest earlier rate counts, and a second run has nothing to do."""
    books = books_of(
        dollars("2026-05-01", "5000.00", "4590.00"),
        bank_accounts=(BankAccount("1210", currency="USD"),),
    )
    with pytest.raises(BadEntry, match="No rate of USD"):
        use(books, "revaluation", date="2026-12-31")
    books = with_rates(books, ("USD", "2026-06-30", "0.9"), ("USD", "2026-12-30", "0.9350"))
    plan = use(books, "revaluation", date="2026-12-31", reverse="yes")
    assert journal(plan, books) == (
        "2026-12-31: Dr dollars 85.00, Cr exchange 85.00\n"
        "2027-01-01: Cr dollars 85.00, Dr exchange 85.00"
    )
    assert {entry.kind for entry in plan.entries} == {Kind.REVALUATION}
    assert all(line.foreign_amount is None for entry in plan.entries for line in entry.lines)
    stays = after(books, use(books, "revaluation", date="2026-12-31"))
    with pytest.raises(NothingToDo):
        use(stays, "revaluation", date="2026-12-31")


def test_what_is_owed_in_dollars_is_valued_by_party_and_leaves_nothing_open_after_its_mirror():
    lines = (
        Line(
            1, NAMES["receivables"], eur("900.00"), "C1", currency="USD", foreign_amount="1000.00"
        ),
        Line(2, NAMES["sales"], -eur("900.00")),
    )
    owed = invoice("SK-9", on="2026-02-01", sales="1.00")._replace(lines=lines)
    books = with_rates(books_of(owed), ("USD", "2026-10-31", "0.95"))
    plan = use(books, "revaluation", date="2026-10-31", reverse="yes")
    assert journal(plan, books).startswith(
        "2026-10-31: Dr receivables (Harbour School) 50.00, Cr exchange 50.00"
    )
    assert settlements(plan) == "2026-11-01: new-1 with new-2 50.00"


def test_a_loan_s_payment_is_split_where_it_stands_and_told_to_the_end():
    lent = posted("Dr bank 12000.00, Cr loan 12000.00", "2026-01-31")
    paid = posted("Dr loan 1030.00, Cr bank 1030.00", "2026-02-28")
    books = books_of(lent, paid)
    told = {"account": "loan", "date": "2026-02-28", "payment": "1030.00", "rate": "6"}
    plan = use(books, "loan-split", **told)
    assert journal(plan, books) == "2026-02-28: Dr loan interest 60.00, Cr loan 60.00"
    assert (plan.schedule[0].left, plan.schedule[-1].left) == (
        eur("11030.00") - eur("974.85"),
        0,
    )
    as_cost = use(books, "loan-split", **{**told, "stands_on": "office", "interest": "60.00"})
    assert "Dr loan 970.00, Cr office 1030.00" in journal(as_cost, books)
    named = use(books, "loan-split", **{**told, "account": "office", "interest": "60.00"})
    assert journal(named, books) == journal(as_cost, books)
    with pytest.raises(BadEntry, match="never pays the loan off"):
        use(books, "loan-split", **{**told, "payment": "50.00", "interest": "1.00"})
    carried = after(books, use(books, "loan-split", **told, carries="yes"))
    (first, *_) = due(carried, day("2026-03-31"))
    assert (str(first.step.day), first.step.amount) == ("2026-03-28", eur("55.15"))
    proof = tie_out_named(carried, f"loan {NAMES['loan']}", day("2026-03-31"))
    assert proof.outside is None
    assert proof.evidence == (
        "by its schedule 10,055.15 is left after the payment of 28 March 2026",
    )


def test_a_year_of_payments_is_split_in_one_change_and_only_once():
    lent = posted("Dr bank 12000.00, Cr loan 12000.00", "2025-12-31")
    days = [f"2026-{month:02}-{28 if month == 2 else 30}" for month in range(1, 5)]
    books = books_of(lent, *(posted("Dr loan 500.00, Cr bank 500.00", on) for on in days))
    told = {"account": "loan", "from_": "2026-01-01", "to": "2026-12-31", "rate": "6"}
    plan = use(books, "loan-year", **told)
    owed, found = eur("12000.00"), []
    for _ in days:
        found.append(round(owed * 6 / 1200))
        owed += found[-1] - eur("500.00")
    assert [entry.lines[0].amount for entry in plan.entries] == found
    done = after(books, plan)
    assert balances_at(done, day("2026-12-31"))[NAMES["loan"]] == -owed
    with pytest.raises(NothingToDo):
        use(done, "loan-year", **told)
    # The lender's own figures count where they are given, and what they differ by is told.
    lender = "date;interest;left\n30.1.2026;60,00;11560,00\n28.2.2026;58,10;\n5.5.2026;1,00;"
    plan = use(books, "loan-year", **{**told, "lender": lender})
    assert [entry.lines[0].amount for entry in plan.entries][:2] == [eur("60.00"), eur("58.10")]
    assert plan.warnings == (
        "28 February 2026: the lender charged 58.10, the rate says 57.80",
        "30 March 2026: the lender's statement has no such day",
        "30 April 2026: the lender's statement has no such day",
        "5 May 2026: the books have no payment of that day",
    )
    alone = use(books, "loan-year", **{**told, "rate": "", "lender": lender})
    assert len(alone.entries) == 2
    for wrong in ("date;rest\n1.1.2026;3", "date;interest\nsoon;5", "date;interest\n"):
        with pytest.raises(BadEntry, match="lender"):
            use(books, "loan-year", **{**told, "lender": wrong})


def test_stock_private_use_tax_on_profit_and_dividends():
    sold = posted("Dr bank 50000.00, Cr sales 50000.00", "2026-03-31")
    stocked = posted("Dr stock 3000.00, Cr capital 3000.00", "2026-01-02")
    fuel = (
        Line(1, "5200", eur("400.00"), tax_code="S23"),
        Line(2, "2200", eur("92.00"), tax_code="S23"),
    )
    filled = posted("Dr bank 1.00, Cr sales 1.00", "2026-04-01")._replace(
        lines=(*fuel, Line(3, "1200", -eur("492.00")))
    )
    counted = StockItem(day("2026-10-31"), "oars", "20", "100.00", eur("2000.00"))
    books = books_of(sold, stocked, filled, stock=(counted,), taxes=TAXES)
    assert journal(use(books, "stock-to-count", date="2026-10-31"), books) == (
        "2026-10-31: Cr stock 1000.00, Dr cost of sales 1000.00"
    )
    span = {"from_": "2026-01-01", "to": "2026-10-31", "date": "2026-10-31"}
    assert journal(use(books, "private-use", account="fuel", percent="25", **span), books) == (
        "2026-10-31: Dr drawings 123.00, Cr fuel 100.00, Cr tax 23.00"
    )
    told = {"date": "2026-12-31", "rate": "12.5"}
    provided = use(books, "tax-provision", **told)
    assert journal(provided, books) == (
        "2026-12-31: Dr tax on profit 6200.00, Cr tax on profit owed 6200.00"
    )
    with pytest.raises(NothingToDo):
        use(after(books, provided), "tax-provision", **told)
    company = replace(books, client=replace(books.client, entity=Entity.COMPANY))
    paid = {"date": "2026-10-31", "pay_to": "owner-loan"}
    assert journal(use(company, "dividend", amount="1000.01", **paid), company) == (
        "2026-10-31: Dr dividends 1000.01, Cr director's loan 600.01, Cr director's loan 400.00"
    )
    with pytest.raises(BadEntry, match=r"60,000.00 is more than the 49,600.00"):
        use(company, "dividend", amount="60000", **paid)
    above = use(company, "dividend", amount="60000", above="agreed with the bank", **paid)
    assert above.warnings
    assert "agreed with the bank" in above.proposed_reason
    with pytest.raises(BadEntry, match="Only a company"):
        use(books, "dividend", amount="1.00", **paid)


def test_opening_balances_come_from_a_table_with_open_items_apart():
    table = "account,debit,credit,party,reference\n1200,700.00,,,\n1100,300.00,,C1,SK-1\n3000,,1000.00,,\n"
    books = books_of()
    plan = use(books, "opening-balances", date="2025-12-31", file=table)
    assert journal(plan, books) == (
        "2025-12-31: Dr bank 700.00, Cr capital 1000.00, Dr opening 300.00\n"
        "2025-12-31: Dr receivables (Harbour School) 300.00, Cr opening 300.00"
    )
    assert (plan.entries[1].reference, plan.entries[1].kind) == ("SK-1", Kind.OPENING)
    wrong = table.replace("1000.00", "1,000").replace("C1", "C9")
    with pytest.raises(BadEntry, match="line 3: there is no party 'C9'"):
        use(books, "opening-balances", date="2025-12-31", file=wrong)
    with pytest.raises(BadEntry, match=r"1.00 short"):
        use(books, "opening-balances", date="2025-12-31", file=table.replace("700.00", "699.00"))


def test_every_fault_of_what_a_recipe_is_told_is_said_at_once():
    with pytest.raises(BadEntry) as wrong:
        plan_recipe(
            books_of(), UseRecipe("accrual", {"amount": "-3", "colour": "red", "date": "x"})
        )
    said = str(wrong.value)
    assert "colour: accrual does not ask for it" in said
    assert "amount: the amount is below nil" in said
    assert "account: it is missing" in said
    assert "date: 'x' is no day" in said


def test_each_recipe_says_what_it_asks_in_words_and_begins_with_what_it_can_take():
    for recipe in registry().values():
        names = [ask.name for ask in recipe.asks]
        assert len(names) == len(set(names))
        assert recipe.says.endswith(".")
        for ask in recipe.asks:
            assert ask.label
            assert not ask.choices or ask.value in {choice.value for choice in ask.choices}


AMOUNTS = st.integers(1, 10**11).map(EUR.format)
DATES = st.dates(day("2026-01-02"), day("2026-12-31")).map(str)


@given(AMOUNTS, DATES, DATES, st.integers(1, 1000), st.booleans())
def test_every_recipe_balances_for_any_figures(amount, on, other, per_mille, flag):
    first, last = sorted((on, other))
    spread = {"amount": amount, "from_": first, "to": last, "date": on}
    rate = str(per_mille / 10)
    books = books_of(posted(f"Dr bank {amount}, Cr loan {amount}", "2026-01-02"))
    books = with_rates(
        books_of(*books.tables.transactions[1:], dollars("2026-01-02", "100.00", "91.23")),
        ("USD", "2026-01-01", str(Fraction(per_mille, 700))),
    )
    style = "spread" if flag else "cut-off"
    tries = (
        ("accrual", {"account": "sales" if flag else "fuel", "amount": amount, "date": on}),
        ("prepayment", {**spread, "account": "fuel", "style": style}),
        ("deferred-income", {**spread, "account": "sales", "style": style, "by": "months"}),
        ("loan-split", {"account": "loan", "date": on, "payment": amount, "rate": "1"}),
        ("revaluation", {"date": on}),
        ("tax-provision", {"date": on, "rate": rate}),
        ("stock-to-count", {"date": on, "value": amount}),
    )
    made = 0
    for recipe, told in tries:
        try:
            plan = use(books, recipe, **told)
        except (NothingToDo, BadEntry):
            continue
        made += 1
        assert all(sum(line.amount for line in entry.lines) == 0 for entry in plan.entries)
        done = after(books, plan)
        mirrored = [entry for entry in plan.entries if entry.reverses]
        if mirrored:
            end = max(entry.posting_date for entry in plan.entries)
            own = {line.account for line in plan.entries[0].lines}
            profit = {code for code in own if books.accounts[code].is_profit_and_loss}
            for code in own - profit:
                assert balances_at(done, end).get(code, 0) == balances_at(books, end).get(code, 0)
    assert made >= 3


@given(
    st.integers(1_000_000, 10**9),
    st.fractions(0, 25, max_denominator=100),
    st.integers(1, 360),
)
def test_a_level_payment_pays_a_loan_off_in_its_months(owed, rate, months):
    """Against the closed formula: what is left after each payment, but for the cents of each."""
    pays = level_payment(owed, rate, months)
    by_month = rate / 1200
    rows = list(
        payments(owed, pays + (pays * months < owed), rate, Basis.THIRTY, day("2026-01-31"))
    )
    assert abs(len(rows) - months) <= 1
    assert rows[-1].left == 0
    assert sum(row.amount - row.interest for row in rows) == owed
    growth = (1 + by_month) ** min(12, len(rows) - 1)
    number = min(12, len(rows) - 1)
    exact = owed * growth - pays * ((growth - 1) / by_month if by_month else number)
    if number:
        assert abs(rows[number - 1].left - exact) <= number * (1 + growth)


@pytest.mark.parametrize(
    ("basis", "since", "to", "part"),
    [
        (Basis.THIRTY, "2026-01-31", "2026-02-28", Fraction(30, 360)),
        (Basis.THIRTY, "2026-02-28", "2026-03-31", Fraction(30, 360)),
        (Basis.THIRTY, "2026-03-15", "2027-03-15", Fraction(1)),
        (Basis.ACTUAL, "2026-01-01", "2026-12-31", Fraction(364, 365)),
    ],
)
def test_the_part_of_a_year_by_either_way_of_counting(basis, since, to, part):
    assert year_part(basis, day(since), day(to)) == part
    assert interest(36_500_00, Fraction(10), basis, day(since), day(to)) == round(3_650_00 * part)


def test_an_entry_is_repeated_in_its_rhythm_and_each_time_is_posted_when_it_is_due():
    rent = posted("Dr office 640.00, Cr bank 640.00", "2026-01-31", memo="boathouse rent")
    books = books_of(rent)
    plan = use(books, "repeat", transaction=rent.id, until="2026-04-30")
    assert (plan.entries, [str(step.day) for step in plan.schedule]) == (
        (),
        ["2026-02-28", "2026-03-31", "2026-04-30"],
    )
    held = after(books, plan)
    twice = use(held, "carry-on", date="2026-03-31")
    assert journal(twice, held) == (
        "2026-02-28: Dr office 640.00, Cr bank 640.00\n2026-03-31: Dr office 640.00, Cr bank 640.00"
    )
    assert [str(row.step.day) for row in due(after(held, twice), day("2026-12-31"))] == [
        "2026-04-30"
    ]
    quarterly = use(books, "repeat", transaction=rent.id, rhythm="quarter", until="2026-12-31")
    assert [str(step.day) for step in quarterly.schedule] == [
        "2026-04-30",
        "2026-07-31",
        "2026-10-31",
    ]
    with pytest.raises(BadEntry, match="would not come again"):
        use(books, "repeat", transaction=rent.id, until="2026-02-01")


TABLE = """entry,kind,date,reverse_on,reason,account,party,debit,credit,tax_code,tax
1,adjusting,31.10.2026,1.11.2026,Electricity,5310,,410.00,,,
1,,,,,2210,,,410.00,,
2,correcting,2026-10-05,,Bill in the van,office,,123.00,,S23,included
2,,,,,2100,S3,,123.00,,
"""


def test_entries_come_from_a_table_in_one_change_and_go_out_as_the_table_they_came_from():
    books = books_of(taxes=TAXES)
    plan = use(books, "entry-table", file=TABLE)
    assert journal(plan, books) == (
        "2026-10-31: Dr electricity 410.00, Cr accruals 410.00\n"
        "2026-11-01: Cr electricity 410.00, Dr accruals 410.00\n"
        "2026-10-05: Dr office 100.00, Dr tax 23.00, Cr payables (Tern Print Ltd) 123.00"
    )
    done = after(books, plan)
    out = entry_rows(done, done.ours)
    assert journal(use(books, "entry-table", file=out), books) == journal(plan, books)
    wrong = TABLE.replace("410.00,,,", "410.00,1.00,,").replace("5.10", "5.13")
    with pytest.raises(BadEntry) as told:
        use(books, "entry-table", file=wrong.replace("2026-10-05", "2026-13-05"))
    assert "line 2: fill exactly one" in str(told.value)
    assert "line 4: '2026-13-05' is no day" in str(told.value)


def test_an_invoice_in_dollars_paid_at_another_rate_leaves_nothing_but_the_difference():
    def abroad(text, on, foreign, **more):
        found = posted(text, on, **more)
        lines = [
            line._replace(currency="USD", foreign_amount=foreign)
            if line.account == NAMES["receivables"]
            else line
            for line in found.lines
        ]
        return found._replace(lines=tuple(lines), party="C1")

    owed = abroad(
        "Dr receivables (Harbour School) 900.00, Cr sales 900.00", "2026-03-01", "1000.00"
    )
    paid = abroad(
        "Dr bank 935.00, Cr receivables (Harbour School) 935.00", "2026-05-01", "-1000.00"
    )
    books = books_of(owed, paid)
    plan = use(books, "exchange-settled", date="2026-05-01")
    assert journal(plan, books) == (
        "2026-05-01: Dr receivables (Harbour School) 35.00, Cr exchange 35.00"
    )
    done = after(books, plan)
    assert open_items(done).open_of("C1") == ()
    assert balances_at(done, day("2026-12-31")).get(NAMES["receivables"], 0) == 0
    with pytest.raises(NothingToDo):
        use(done, "exchange-settled", date="2026-05-01")
    # Half of it paid in dollars settles nothing yet.
    half = books_of(owed, paid._replace(lines=tuple(
        line._replace(foreign_amount="-500.00") if line.foreign_amount else line
        for line in paid.lines
    )))  # fmt: skip
    with pytest.raises(NothingToDo):
        use(half, "exchange-settled", date="2026-05-01")


BUREAU = """month,employee_group,gross,employer_contributions,net_pay,income_tax,employee_contributions
2026-03,staff,8400.00,928.00,6310.00,1460.00,630.00
2026-03,,100.00,,100.00,,
"""


def test_a_bureau_s_file_is_checked_taken_in_and_read_by_the_recipe_and_the_proof():
    books = books_of(entity=Entity.COMPANY)
    act = TakePayroll(payroll_table(BUREAU, books))
    taken = after(books, ready(plan_take_payroll(books, act), books))
    pay = use(taken, "payroll", month="2026-03", group="staff")
    assert "Cr payroll tax 1460.00, Cr payroll tax 1558.00" in journal(pay, taken)
    posted_ = after(taken, use(taken, "payroll", month="2026-03"))
    assert tie_out_named(posted_, "payroll-net", day("2026-03-31")).difference == 0
    with pytest.raises(NothingToDo):
        plan_take_payroll(taken, act)
    wrong = TakePayroll(payroll_table(BUREAU.replace("6310.00", "6311.00"), books))
    with pytest.raises(BadEntry, match="2026-03, staff: gross less net pay and deductions"):
        plan_take_payroll(books, wrong)
    back = after(taken, ready(plan_undo(taken, taken.changes[-1].number), taken))
    assert payroll_months(back) == ()


def test_the_stand_in_bureau_issues_the_next_month_as_it_is_taken_in():
    groups = [
        PayrollMonth("2026-12", group, 840_000, 92_800, 631_000, 146_000, 63_000)
        for group in ("staff", "drivers")
    ]
    books = books_of(payroll=tuple(groups))
    act = TakePayroll(payroll_table(issue(payroll_months(books), EUR), books))
    taken = after(books, ready(plan_take_payroll(books, act), books))
    assert [(row.month, row.employee_group) for row in act.months] == [
        ("2027-01", "staff"), ("2027-01", "drivers"),
    ]  # fmt: skip
    pay = use(taken, "payroll", month="2027-01", date="2026-12-31")
    assert pay.entries[0].lines[0].amount == 2 * eur("8400.00")


ODD = st.sampled_from(
    ("", "0", "-1", "none", "x", "1e999999999", "1/0", "2026-13-40", "31.2.", "pe", "2026-03", "1200:1,:,x:2",
     "1200:5.00", "100", "T99999", "C1", "Reedwharf", "1200", "5200", "2400", "yes", "no", "spread",
     "units", "1200,1100", "account,debit,credit", "account,debit,credit\n1200,x,y", "12.5", "2.9.2026")
)  # fmt: skip


@given(st.data())
def test_whatever_a_recipe_is_told_it_makes_a_plan_that_balances_or_refuses_in_words(data):
    books = books_of(posted("Dr bank 500.00, Cr sales 500.00", "2026-05-01"), taxes=TAXES)
    for recipe in registry().values():
        names = [ask.name for ask in recipe.asks]
        said = data.draw(st.dictionaries(st.sampled_from(names), ODD), label=recipe.id)
        with suppress(Refusal):
            plan = ready(plan_recipe(books, UseRecipe(recipe.id, said)), books)
            assert all(sum(line.amount for line in entry.lines) == 0 for entry in plan.entries)


@pytest.mark.parametrize("recipe", registry())
def test_each_recipe_refuses_each_odd_answer_to_each_ask_in_words(recipe):
    """One odd answer at a time, among answers that would do."""
    car = FixedAsset("A1", "0100", "car", day("2026-01-02"), 100_000, "units", Fraction(1000))
    owed = invoice("SK-9", on="2026-02-01", sales="100.00", id="T-owed")
    books = books_of(owed, taxes=TAXES)
    books = after(books, ready(plan_keep_assets(books, KeepAssets((car,))), books))
    good = {
        "amount": "10", "account": "5200", "date": "2026-10-31", "from": "2026-10-01", "asset": "A1",
        "to": "2026-12-31", "month": "2026-10", "gross": "10", "net_pay": "10", "payment": "10",
        "rate": "5", "percent": "10", "uses": "0100:5.00", "sources": "1200:5.00", "party": "C1",
        "counter": "2210", "until": "2027-12-31", "transaction": "T-owed", "value": "5",
        "units": "10",
    }  # fmt: skip
    asked = registry()[recipe].asks
    said = {ask.name: good[ask.name] for ask in asked if ask.name in good}
    for ask in asked:
        for odd in (
            "-1",
            "none",
            "x",
            "1e999999999",
            "1/0",
            "2026-13-40",
            ":",
            "1200",
            ",",
            "31.2.",
        ):
            with suppress(Refusal):
                ready(plan_recipe(books, UseRecipe(recipe, {**said, ask.name: odd})), books)
