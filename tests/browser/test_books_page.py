"""Books: guesses confirmed, accounts put right, files of any kind taken in and set aside."""

import shutil
from pathlib import Path

import pytest
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.select import Select

from corkpost.services import books
from corkpost.services.staff import person_named
from corkpost.services.workplace import Workplace
from tests.browser.conftest import Page

pytestmark = pytest.mark.browser

LATE_LINES = """date,description,amount,balance
2026-11-03,CARD FEES NOVEMBER,-12.40,1000.00
2026-11-04,HARBOUR SCHOOL,250.00,1250.00
"""


def test_what_is_guessed_is_looked_through_and_confirmed_by_keys(page: Page):
    page.sign_in("TV")
    page.open("/clients/SALT/worksheet")
    page.says("Worksheet as at")
    page.keys("g", "k")
    page.says("What came when")
    page.keys("a")
    page.says("3 accounts have no role")
    page.keys("c")
    page.says("its name says “card fees”")
    Select(page.find("field", "What 7900 is")).select_by_visible_text("ordinary")
    page.until(
        lambda: page.find("field", "Reason").get_attribute("value").startswith("2 accounts:"),
        "the proposed reason",
    )
    page.post()
    page.says("3 accounts.")
    page.says_no_more("guesses to confirm")
    card_fees = page.find("row", "6300 Card fees")
    assert "bank charges" in card_fees.text
    assert "confirmed" in page.find("row", "7900 Depreciation").text


def test_an_account_is_put_right_with_what_it_moves_shown_and_refused_where_it_is_filed(page: Page):
    page.sign_in("TV")
    page.open("/clients/SALT/books/accounts")
    page.fill("Filter the accounts", "advertising")
    page.press("row", "6500 Advertising")
    page.fill("Name", "Advertising and signs")
    page.says("6500, name:")
    page.post()
    page.says("1 account.")
    page.says("Advertising and signs")
    page.fill("Filter the accounts", "kayak")
    page.press("row", "4000 Kayak hire")
    Select(page.find("field", "Type")).select_by_visible_text("asset")
    page.says("That type is fixed by what was signed or filed")
    page.press("heading", "Accounts")
    page.keys("n")
    page.fill("Code", "6510")
    page.fill("Name", "Fairs")
    page.press("button", "Add it")
    page.says("1 account.")
    page.fill("Filter the accounts", "fairs")
    page.find("row", "6510 Fairs")


def test_a_preparer_sees_the_chart_and_is_told_who_changes_it(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/books/accounts")
    page.press("row", "1200 Bank, Averin Savings")
    page.says("A reviewer or partner changes the chart")
    assert not page.find("field", "Name").is_enabled()


def test_files_are_known_by_what_is_in_them_and_a_statement_can_be_set_aside(
    page: Page, workplace: Workplace, tmp_path: Path
):
    late = tmp_path / "november.zip"  # whatever its name
    late.write_text(LATE_LINES)
    page.sign_in("OB")
    page.open("/clients/SALT/books")
    page.says("Statement lines, Bank, Averin Savings")
    page.keys("t")
    page.find("field", "Choose a file to take in").send_keys(str(late))
    page.says("it opens at 1,012.40, and the account stood at 51,610.18")
    page.press("button", "It is of this account: take it in")
    page.says("2 new lines of 1200")
    page.press("button", "Done")
    page.says("2 new statement lines of 1200, 3 Nov to 4 Nov 2026")
    page.press("button", "Set aside")
    page.fill("Reason", "the bank took it back")
    page.press("button", "Set it aside")
    page.says("statement is set aside")
    page.says("set aside, change")
    # The same books again bring nothing; those of somebody else are refused.
    for code, says in (("SALT", "0 new, 0 changed, 0 removed"), ("HOLL", "books of HOLL")):
        person = person_named(workplace, "OB")
        books.give_out(workplace, person, code, tmp_path / code)
        made = shutil.make_archive(str(tmp_path / f"{code}-books"), "zip", tmp_path / code)
        page.keys("t")
        page.find("field", "Choose a file to take in").send_keys(made)
        page.says(says)
        page.keys(Keys.ESCAPE)


def test_a_file_that_does_not_say_whose_it_is_is_asked_about(page: Page, tmp_path: Path):
    late = tmp_path / "november.csv"
    late.write_text(LATE_LINES)
    page.sign_in("IO")
    page.open("/clients/HOLL/books")
    page.says("Statement lines, Current account")
    page.keys("t")
    page.find("field", "Choose a file to take in").send_keys(str(late))
    page.says("say which account it is")
    Select(page.find("field", "Whose statement it is")).select_by_visible_text(
        "1210 Savings account"
    )
    page.says("2 new lines of 1210")
