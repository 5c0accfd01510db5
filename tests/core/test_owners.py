"""Whose the business is decides where its profit goes; materiality until somebody sets it."""

from dataclasses import replace
from fractions import Fraction

import pytest

from corkpost.core.books import PriorBalance
from corkpost.core.dating import materiality, profit_part
from corkpost.core.kinds import Entity
from corkpost.core.owners import profit_shared
from corkpost.core.refusals import MissingAccount, UnknownName
from corkpost.core.tax import tax_account
from tests.builders import ACCOUNTS, CODES, PARTIES, TAXES, books_with, day
from tests.notation import eur


@pytest.mark.parametrize(
    ("entity", "shared"),
    [
        (Entity.SOLE_TRADER, {"3000": -3_125_000}),
        (Entity.COMPANY, {"3400": -3_125_000}),
        (Entity.PARTNERSHIP, {"3300": -1_875_000, "3310": -1_250_000}),
    ],
)
def test_profit_goes_where_the_entity_keeps_it(entity, shared):
    books = books_with(entity=entity)
    assert profit_shared(books, -eur("31250.00"), "closing") == shared


def test_a_chart_without_a_place_for_it_says_which_role_is_missing():
    with pytest.raises(MissingAccount, match="'accumulated-fund', which closing needs"):
        profit_shared(books_with(entity=Entity.ASSOCIATION), 100, "closing")
    nobody = tuple(party._replace(share=None) for party in PARTIES)
    books = books_with(entity=Entity.PARTNERSHIP, parties=nobody)
    with pytest.raises(MissingAccount, match="an owner who has a share"):
        profit_shared(books, 100, "closing")
    without = tuple(account for account in ACCOUNTS if account.role != "tax")
    with pytest.raises(MissingAccount, match="'tax'"):
        tax_account(books_with(accounts=without), TAXES[0])


def test_shares_of_three_add_up_to_the_cent():
    thirds = tuple(
        party._replace(share=Fraction(1, 3)) if party.share else party for party in PARTIES
    )
    shared = profit_shared(books_with(entity=Entity.PARTNERSHIP, parties=thirds), 101, "closing")
    assert sorted(shared.values()) == [50, 51]


def income(amount: str, year_end: str = "2025-12-31") -> PriorBalance:
    return PriorBalance(day(year_end), CODES["sales"], -eur(amount))


@pytest.mark.parametrize(
    ("books", "limit"),
    [
        (books_with(materiality="750.00"), "750.00"),
        (books_with(prior_year=[income("61250.00"), income("9.00", "2024-12-31")]), "612.50"),
        (
            replace(books_with(prior_year=[income("61250.00")]), signed_income=eur("80000.00")),
            "800.00",
        ),
        (books_with(), "500.00"),
    ],
)
def test_materiality_is_what_was_set_else_a_hundredth_of_the_last_signed_income(books, limit):
    assert materiality(books) == eur(limit)


def test_only_the_two_years_can_be_chosen_for_a_profit_part():
    assert profit_part({"profit": "this-year"}) == "this-year"
    assert profit_part({}) == "by-materiality"
    with pytest.raises(UnknownName):
        profit_part({"profit": "never"})
