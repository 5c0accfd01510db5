"""What a client sent: two files together, one question, and on to the first point, by keyboard."""

from pathlib import Path

import pytest
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.select import Select

from tests.browser.conftest import Page
from tests.browser.test_accessibility import violations

pytestmark = pytest.mark.browser

LEDGER = """\
Teal Bindery
General ledger

Entry no,Date,Account,Account name,Customer,Document no,Description,Debit,Credit
1,03/02/2026,1100,Trade debtors,Moss Hall,INV-101,binding,120.00,
1,03/02/2026,4000,Sales,,INV-101,binding,,120.00
2,04/02/2026,5000,Rent,,R-17,rent,300.00,
2,04/02/2026,2100,Trade creditors,Quay Estates,R-17,rent,,300.00
3,05/02/2026,5000,Rent,,R-17,rent,300.00,
3,05/02/2026,2100,Trade creditors,Quay Estates,R-17,rent,,300.00
"""
ITEMS = """\
Open items of customers as at 28 February 2026
Customer,Document no,Date,Due date,Outstanding
Moss Hall,INV-101,03/02/2026,05/03/2026,120.00
"""


def brought(page: Page, *files: Path) -> None:
    page.find("field", "Choose files").send_keys("\n".join(map(str, files)))


def test_two_files_one_question_and_the_first_point(page: Page, tmp_path: Path):
    ledger, items = tmp_path / "ledger.csv", tmp_path / "debtors.csv"
    ledger.write_text(LEDGER)
    items.write_text(ITEMS)
    page.sign_in("OB")
    page.open("/")
    page.says("What is next")
    page.keys("t")
    page.press("link", "Take in what a client sent")
    page.says("Drop everything together")
    brought(page, ledger, items)
    page.says("In which order do the days of ledger.csv stand?")
    page.says("03/02/2026 is 3 February 2026")
    # The proposal has the focus.
    page.keys(Keys.ENTER)
    page.says_no_more("days of ledger.csv")
    page.says("In which order do the days of debtors.csv stand?")
    page.until(lambda: "day" in page.driver.switch_to.active_element.text, "the next proposal")
    page.keys(Keys.ENTER)
    page.says_no_more("days of debtors.csv")
    page.says("1 figure of the files agrees")
    assert page.find("field", "Name").get_attribute("value") == "Teal Bindery"
    assert page.find("field", "Short name").get_attribute("value") == "TEALB"
    assert violations(page) == []
    page.post()
    page.says("TEALB is taken in.")
    page.keys(Keys.ENTER)
    page.says("The same bill from Quay Estates")
    # Each list is saved apart, and what was answered is seen and changed.
    page.keys("g", "k")
    page.keys("l")
    page.press("button", "Ledger as CSV")
    page.says("TEALB ledger.csv is where your browser saves files")
    page.keys("w")
    page.says("TEALB lists.xlsx is where your browser saves files")
    page.open("/take-in?client=TEALB")
    page.says("Remembered of their lists")
    assert violations(page) == []
    page.press("button", "Forget: days stand as day, month, year")
    page.until(lambda: page.driver.page_source.count("days stand as") == 3, "one is forgotten")


def test_a_column_that_was_taken_for_another_is_put_right_on_the_page(page: Page, tmp_path: Path):
    ledger = tmp_path / "ledger.csv"
    # Of three columns of sums that nothing names, none is taken for another.
    title, _, table = LEDGER.replace("03/02", "13/02").partition("Entry no")
    heads, *rows = f"Entry no{table}".replace("Debit,Credit", "Left,Right,Third").splitlines()
    ledger.write_text("\n".join([title + heads, *(f"{row},1.50" for row in rows), ""]))
    page.sign_in("OB")
    page.open("/take-in?client=COPP")
    page.says("sent")
    brought(page, ledger)
    page.says("These files can’t be taken in as they are.")
    Select(page.find("field", "What Left is")).select_by_visible_text("debit")
    Select(page.find("field", "What Right is")).select_by_visible_text("credit")
    # The file names somebody else than the client it was brought to.
    page.press("button", "yes, they are")
    page.says("3 transactions")


def test_what_a_new_client_is_is_proposed_and_said_otherwise_makes_other_books(
    page: Page, tmp_path: Path
):
    ledger = tmp_path / "ledger.csv"
    taken = "4,15/02/2026,3050,Drawings,,,to Ann,80.00,\n4,15/02/2026,1200,Bank account,,,to Ann,,80.00\n"
    ledger.write_text(LEDGER + taken)
    page.sign_in("OB")
    page.open("/take-in")
    page.says("Drop everything together")
    brought(page, ledger)
    page.says("Proposed, as it has an account for drawings")
    page.says("equity, drawings")
    Select(page.find("field", "It is a")).select_by_visible_text("Partnership")
    page.says("equity, partner current")
    page.post()
    page.says("TEALB is taken in.")
