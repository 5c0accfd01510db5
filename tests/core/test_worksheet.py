"""The worksheet: columns that add up, nil at the foot, last year at the same point."""

import pytest
from hypothesis import given

from corkpost.core.arrangements import Arrange, arranged, arrangement_named, plan_arrange
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import PriorBalance
from corkpost.core.budgets import SetBudget, budget_of, plan_set_budget
from corkpost.core.kinds import EntryKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.ledger import account_ledger
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.row_kinds.arrangements import Arrangement, Group
from corkpost.core.trial_balance import BROUGHT_FORWARD, Closing, balances, trial_balance
from corkpost.core.undo import plan_undo
from corkpost.core.worksheet import Compared, EntryColumn, Figures, SheetOf, worksheet
from corkpost.formats.registers import budget_table
from tests.builders import CODES, TODAY, YEARS, after, books_with, day, posted
from tests.core.strategies import any_books
from tests.notation import eur


def ours(text, on, kind, number):
    return posted(text, on, entry_kind=kind, change=number)


def reviewed():
    return books_with(
        posted("Dr fuel 400.00, Cr bank 400.00", "2026-02-01"),
        ours("Dr bank 200.00, Cr fuel 200.00", "2026-02-01", EntryKind.CORRECTING, 1),
        ours("Dr electricity 50.00, Cr accruals 50.00", "2026-10-31", EntryKind.ADJUSTING, 2),
        ours("Dr accruals 50.00, Cr electricity 50.00", "2026-11-01", EntryKind.REVERSING, 2),
        ours("Dr office 30.00, Cr fuel 30.00", "2026-06-01", EntryKind.RECLASSIFYING, 3),
    )


def row(sheet, name):
    return next(row.figures for row in sheet.rows if row.name == name)


def test_each_entry_stands_in_the_column_of_its_kind_by_its_date():
    books = reviewed()
    october = worksheet(books, YEARS[1], day("2026-10-31"))
    assert row(october, "fuel") == Figures(0, 40000, -20000, 0, -3000)
    assert row(october, "electricity").adjusting == eur("50.00")
    # The mirror stands beside its original: by the year's end both together are nil.
    december = worksheet(books, YEARS[1], day("2026-12-31"))
    assert "electricity" not in {line.name for line in december.rows}
    assert december.entries[EntryColumn.ADJUSTING] == 2


@given(any_books())
def test_every_column_is_nil_at_the_foot_and_adjusted_is_the_trial_balance(books):
    at = day("2026-10-31")
    sheet = worksheet(books, YEARS[1], at)
    assert sheet.total == Figures(sheet.total.last_year, 0, 0, 0, 0)
    sums = balances(books.tables.transactions, books, at, closing=Closing.OUT)
    adjusted = {line.account: line.figures.adjusted for line in sheet.rows}
    assert adjusted == {**dict.fromkeys(adjusted, 0), **{c: a for c, a in sums.items() if a}}


@given(any_books())
def test_every_figure_opens_to_the_movements_that_it_consists_of(books):
    at = day("2026-10-31")
    sheet = worksheet(books, YEARS[1], at)
    for line in sheet.rows:
        for column in EntryColumn:
            opened = account_ledger(
                books, line.account, YEARS[1].first_day, at, column=column, closing=Closing.OUT
            )
            assert opened.closing == getattr(line.figures, column.value)
        if sheet.compared is Compared.BOOKS:
            before = (sheet.compared_from, sheet.compared_at)
            opened = account_ledger(books, line.account, *before, closing=Closing.OUT)
            assert opened.closing == line.figures.last_year


def test_a_closed_year_opens_to_its_figure_and_not_to_nil():
    books = books_with(
        posted("Dr fuel 10.00, Cr bank 10.00", "2026-10-31"),
        posted("Dr capital 10.00, Cr fuel 10.00", "2026-12-31", Kind.CLOSING),
    )
    at = day("2026-12-31")
    opened = account_ledger(books, CODES["fuel"], YEARS[1].first_day, at, closing=Closing.OUT)
    assert opened.closing == row(worksheet(books, YEARS[1], at), "fuel").adjusted == eur("10.00")


def test_last_year_is_as_signed_for_a_whole_year_and_from_the_books_within_it():
    prior = (PriorBalance(day("2025-12-31"), CODES["fuel"], eur("99.00")),)
    books = books_with(
        posted("Dr fuel 10.00, Cr bank 10.00", "2025-10-31"),
        posted("Dr fuel 5.00, Cr bank 5.00", "2025-11-01"),
        posted("Dr capital 15.00, Cr fuel 15.00", "2025-12-31", Kind.CLOSING),
        prior_year=prior,
    )
    whole = worksheet(books, YEARS[1], day("2026-12-31"))
    assert (whole.compared, row(whole, "fuel").last_year) == (Compared.SIGNED, eur("99.00"))
    within = worksheet(books, YEARS[1], day("2026-10-31"))
    assert (within.compared, within.compared_at) == (Compared.BOOKS, day("2025-10-31"))
    assert row(within, "fuel").last_year == eur("10.00")
    assert worksheet(books, YEARS[0], day("2025-12-31")).compared is Compared.NONE


@pytest.mark.parametrize(
    ("last_year", "now", "percent"),
    [(100, 135, 35), (-100, -135, 35), (100, 74, -26), (-100, -74, -26), (100, -50, -150), (0, 9, None),
     (-200, 100, -150)],
)  # fmt: skip
def test_change_is_read_by_size_on_either_side(last_year, now, percent):
    assert Figures(last_year, now).change_percent == percent


def test_february_is_compared_with_the_last_of_february():
    books = books_with(posted("Dr fuel 10.00, Cr bank 10.00", "2027-02-28"))
    year = books.calendar.year_of(day("2028-02-29"))
    assert worksheet(books, year, day("2028-02-29")).compared_at == day("2027-02-28")


def test_it_may_stand_beside_any_earlier_year_at_the_same_point():
    books = books_with(
        posted("Dr fuel 70.00, Cr bank 70.00", "2024-03-01"),
        posted("Dr fuel 90.00, Cr bank 90.00", "2024-12-01"),
        posted("Dr fuel 80.00, Cr bank 80.00", "2025-03-01"),
        posted("Dr fuel 100.00, Cr bank 100.00", "2026-03-01"),
    )
    before = books.calendar.previous_year(YEARS[0])
    found = worksheet(books, YEARS[1], day("2026-06-30"), SheetOf(before))
    assert (found.compared, found.compared_at) == (Compared.BOOKS, day("2024-06-30"))
    assert row(found, "fuel").last_year == eur("70.00")
    assert row(
        worksheet(books, YEARS[1], day("2026-12-31"), SheetOf(before)), "fuel"
    ).last_year == eur("160.00")
    with pytest.raises(BadEntry, match="no year before 2026"):
        worksheet(books, YEARS[1], day("2026-06-30"), SheetOf(YEARS[1]))


def test_income_and_costs_of_the_days_alone_with_what_came_before_as_a_row_of_its_own():
    books = books_with(
        posted("Dr fuel 70.00, Cr bank 70.00", "2025-12-10"),
        posted("Dr fuel 40.00, Cr bank 40.00", "2026-05-10"),
        posted("Dr fuel 30.00, Cr bank 30.00", "2026-06-10"),
    )
    june = SheetOf(first=day("2026-06-01"))
    sheet = worksheet(books, YEARS[1], day("2026-06-30"), june)
    assert row(sheet, "fuel").adjusted == eur("30.00")
    assert row(sheet, "Result before 1 June 2026").adjusted == eur("110.00")
    assert (sheet.total.adjusted, row(sheet, "bank").adjusted) == (0, -eur("140.00"))
    # A year across the year's end, and what each figure opens to.
    across = SheetOf(first=day("2025-12-01"))
    assert row(worksheet(books, YEARS[1], day("2026-05-31"), across), "fuel").adjusted == eur(
        "110.00"
    )
    opened = account_ledger(
        books, CODES["fuel"], day("2025-12-01"), day("2026-05-31"), alone=True, closing=Closing.OUT
    )
    assert (opened.opening, opened.closing) == (0, eur("110.00"))
    before = account_ledger(
        books, BROUGHT_FORWARD, day("2026-06-01"), day("2026-06-30"), alone=True
    )
    assert before.closing == eur("110.00")


def test_closing_entries_stand_in_a_column_of_their_own_where_they_are_wished_for():
    books = books_with(
        posted("Dr fuel 40.00, Cr bank 40.00", "2026-05-10"),
        posted("Dr capital 40.00, Cr fuel 40.00", "2026-12-31", Kind.CLOSING),
    )
    end = day("2026-12-31")
    out = worksheet(books, YEARS[1], end)
    assert (row(out, "fuel").closing, row(out, "fuel").adjusted) == (0, eur("40.00"))
    with_them = worksheet(books, YEARS[1], end, SheetOf(closing=Closing.IN))
    assert row(with_them, "fuel") == Figures(0, eur("40.00"), closing=-eur("40.00"))
    assert with_them.total == Figures()


def test_one_dimension_alone_and_a_budget_beside_it_that_is_in_no_balance():
    quay = posted("Dr fuel 40.00, Cr bank 40.00", "2026-05-10")
    quay = quay._replace(
        lines=(quay.lines[0]._replace(dimensions="site=QUAY;team=A"), quay.lines[1])
    )
    books = books_with(quay, posted("Dr fuel 5.00, Cr bank 5.00", "2026-05-11"))
    alone = worksheet(books, YEARS[1], day("2026-12-31"), SheetOf(dimension="site=QUAY"))
    assert [(line.name, line.figures.adjusted) for line in alone.rows] == [("fuel", eur("40.00"))]
    assert alone.is_narrowed
    figures = budget_table(
        f"account;2026-04;2026-05\n{CODES['fuel']};30;20\nsales;;1,000.50", books
    )
    planned = after(books, ready(plan_set_budget(books, SetBudget(figures)), books))
    sheet = worksheet(planned, YEARS[1], day("2026-04-15"))
    assert row(sheet, "fuel").budget == eur("15.00")
    whole = worksheet(planned, YEARS[1], day("2026-12-31"))
    assert (row(whole, "sales").budget, row(whole, "fuel").budget) == (
        -eur("1000.50"),
        eur("50.00"),
    )
    assert (whole.total.adjusted, trial_balance(planned, TODAY)) == (0, trial_balance(books, TODAY))
    # Another figure takes its place; taken back, the first stands again.
    again = SetBudget((figures[0]._replace(amount=eur("99.00")),))
    changed = after(planned, ready(plan_set_budget(planned, again), planned))
    assert budget_of(changed, day("2026-04-01"), day("2026-04-30"))[CODES["fuel"]] == eur("99.00")
    back = after(changed, ready(plan_undo(changed, changed.changes[-1].number), changed))
    assert budget_of(back, day("2026-04-01"), day("2026-04-30"))[CODES["fuel"]] == eur("30.00")
    with pytest.raises(BadEntry, match="is no income or cost"):
        plan_set_budget(
            books, SetBudget(budget_table("account,month,amount\nbank,2026-01,5", books))
        )


def test_accounts_grouped_for_another_reader_stand_once_each_and_none_is_lost():
    books = books_with(posted("Dr fuel 40.00, Cr sales 30.00, Cr bank 10.00", "2026-05-10"))
    lender = Arrangement(
        "Lender", (Group("Turnover", ("sales",)), Group("Costs", ("5200", "4000")))
    )
    kept = after(books, ready(plan_arrange(books, Arrange(lender)), books))
    codes = [line.account for line in worksheet(kept, YEARS[1], TODAY).rows]
    found = dict(arranged(kept, arrangement_named(kept, "Lender"), codes))
    assert found == {"Turnover": ["4000"], "Costs": ["5200"], "What no group names": ["1200"]}
    with pytest.raises(NothingToDo):
        plan_arrange(kept, Arrange(lender))
    with pytest.raises(BadEntry, match="'77' is neither an account nor a role"):
        plan_arrange(books, Arrange(Arrangement("x", (Group("y", ("77",)),))))
