"""Sharing a partnership's profit."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as some

from corkpost.core.books import Account
from corkpost.core.kinds import AccountRole, AccountType, Entity
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.owner_accounts import Nature, owner_statements
from corkpost.core.refusals import BadEntry, MissingAccount, NothingToDo, UnknownName
from corkpost.core.sharing import NoPartners, Terms, plan_sharing, sharing
from tests.builders import ACCOUNTS, after, books_with, day, posted
from tests.notation import eur

FENNEL, THORN = "3300", "3310"
CHART = (
    *ACCOUNTS,
    Account("3900", "appropriated", AccountType("equity"), AccountRole.APPROPRIATION),
)
YEAR_END = day("2026-12-31")


def partners(profit="31250.00", *more, **settings):
    """Bea Fennel 60, Ruth Thorn 40; Ruth's account stands at 10,000.00 when the year begins."""
    sign = "Dr bank {0}, Cr sales {0}" if eur(profit) >= 0 else "Dr fuel {0}, Cr bank {0}"
    return books_with(
        posted("Dr bank 10000.00, Cr current account Thorn 10000.00", "2026-01-01", Kind.OPENING),
        posted(sign.format(profit.lstrip("-")), "2026-05-01"),
        *more,
        entity=settings.pop("entity", Entity.PARTNERSHIP),
        accounts=CHART,
        **settings,
    )


def test_by_share_alone():
    """Worked example 14: shares 60 and 40 of 31,250.00."""
    found = sharing(partners(), Terms(YEAR_END))
    assert [(row.account.code, row.total) for row in found.rows] == [
        (FENNEL, eur("18750.00")),
        (THORN, eur("12500.00")),
    ]


def test_salary_and_interest_come_first_and_the_rest_by_share():
    found = sharing(partners(), Terms(YEAR_END, {FENNEL: eur("6000.00")}, Fraction(5)))
    fennel, thorn = found.rows
    assert (fennel.salary, fennel.interest, thorn.interest) == (eur("6000.00"), 0, eur("500.00"))
    assert (fennel.share, thorn.share) == (eur("14850.00"), eur("9900.00"))
    assert fennel.total + thorn.total == found.profit == eur("31250.00")
    assert thorn.after == eur("20400.00")


def test_interest_runs_with_the_days_of_the_year():
    found = sharing(partners(), Terms(day("2026-07-01"), {}, Fraction(5)))
    assert found.rows[1].interest == eur("249.32")  # 10,000.00 at 5% for 182 of 365 days


def test_a_salary_beyond_the_profit_leaves_a_loss_to_share():
    found = sharing(partners("1000.00"), Terms(YEAR_END, {FENNEL: eur("3000.00")}))
    assert [row.total for row in found.rows] == [eur("1800.00"), -eur("800.00")]


def test_entered_it_stands_on_the_partners_accounts_and_later_only_the_difference_is():
    """Worked example 14 goes on: a late cost of 123.00 takes 73.80 and 49.20 off."""
    books = partners()
    shared = after(books, plan_sharing(books, Terms(YEAR_END)))
    entry = shared.tables.transactions[-1]
    assert {line.account: line.amount for line in entry.lines} == {
        "3900": eur("31250.00"), FENNEL: -eur("18750.00"), THORN: -eur("12500.00"),
    }  # fmt: skip
    fennel = owner_statements(shared, day("2026-01-01"), YEAR_END)[0]
    assert [(moved.nature, moved.amount) for moved in fennel.moved] == [
        (Nature.PROFIT, eur("18750.00"))
    ]
    with pytest.raises(NothingToDo):
        plan_sharing(shared, Terms(YEAR_END))
    late = shared.with_posted([posted("Dr fuel 123.00, Cr bank 123.00", "2026-12-20")], ())
    (again,) = plan_sharing(late, Terms(YEAR_END)).entries
    assert {line.account: line.amount for line in again.lines} == {
        "3900": -eur("123.00"), FENNEL: eur("73.80"), THORN: eur("49.20"),
    }  # fmt: skip


def test_a_later_sharing_keeps_to_the_salaries_and_the_interest_of_the_first_unless_told():
    books = partners()
    first = Terms(YEAR_END, {FENNEL: eur("6000.00")}, Fraction(5))
    shared = after(books, plan_sharing(books, first))
    with pytest.raises(NothingToDo):
        plan_sharing(shared, Terms(YEAR_END))
    late = shared.with_posted([posted("Dr fuel 100.00, Cr bank 100.00", "2026-12-20")], ())
    found = sharing(late, Terms(YEAR_END))
    assert [(row.salary, row.interest) for row in found.rows] == [
        (eur("6000.00"), 0),
        (0, eur("500.00")),
    ]
    assert (
        sum(line.amount < 0 for line in plan_sharing(late, Terms(YEAR_END)).entries[0].lines) == 1
    )
    told = sharing(late, Terms(YEAR_END, {FENNEL: 0}, Fraction(0)))
    assert [(row.salary, row.interest) for row in told.rows] == [(0, 0), (0, 0)]


def test_what_can_t_be_shared_says_why():
    for books, terms, wrong in (
        (partners(entity=Entity.COMPANY), Terms(YEAR_END), NoPartners),
        (partners(), Terms(YEAR_END, {"1200": 1}), UnknownName),
        (partners(), Terms(YEAR_END, {FENNEL: -1}), BadEntry),
    ):
        with pytest.raises(wrong):
            sharing(books, terms)
    without = books_with(
        posted("Dr bank 5.00, Cr sales 5.00", "2026-05-01"), entity=Entity.PARTNERSHIP
    )
    with pytest.raises(MissingAccount, match="appropriation"):
        plan_sharing(without, Terms(YEAR_END))


@given(
    profit=some.integers(-9_999_999, 9_999_999),
    salary=some.integers(0, 5_000_000),
    rate=some.fractions(0, 30, max_denominator=100),
)
def test_what_the_partners_get_always_adds_up_to_the_profit(profit, salary, rate):
    made = partners(f"{profit / 100:.2f}" if profit else "0.01")
    found = sharing(made, Terms(YEAR_END, {THORN: salary}, rate))
    assert sum(row.total for row in found.rows) == found.profit
    assert sum(line.amount for line in plan_sharing(made, Terms(YEAR_END)).entries[0].lines) == 0
