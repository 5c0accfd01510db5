"""Owners: a statement of each account, a private share taken out of a cost, a cost paid privately."""

import pytest
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page

pytestmark = pytest.mark.browser


def test_an_overdrawn_loan_account_says_since_when_and_leads_to_its_case(page: Page):
    page.sign_in("OB")
    page.open("/clients/BRIG/worksheet")
    page.says("Worksheet as at")
    page.keys("g", "a")
    page.says("Overdrawn since 20 July 2025.")
    page.says("At most 8,240.00 on 20 October 2026.")
    page.find("image", "The balance ran from (3,040.00) to (8,240.00)")
    page.press("link", "Director's loan, Dr Aldous Wren")
    page.says("is overdrawn by 8,240.00")


def test_sixty_percent_of_a_cost_is_moved_to_the_owner_from_any_entry(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/all")
    page.fill("Filter the postings", "card purchase ironmonger")
    page.press("row", "card purchase ironmonger")
    page.press("button", "Move it to the owner's account")
    page.fill("Private share", "60")
    page.says("Drawings")
    page.until(lambda: page.find("button", "Post").is_enabled(), "what can be posted")
    page.fill("Reason", "six parts in ten were for the house")
    page.post()
    page.says("change")
    page.open("/clients/SALT/owners")
    page.says("Private costs taken out of the books")


def test_a_cost_that_the_owner_paid_is_recorded_by_keys(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/owners")
    page.says("what they put in is capital introduced")
    page.keys("p")
    page.fill("Amount, tax in it", "12.30*2")
    page.fill("What it was", "stationery")
    cost = page.find("field", "Account of the cost")
    cost.click()
    cost.send_keys("office")
    page.find("listed", "Office costs")
    cost.send_keys(Keys.ENTER)
    page.until(lambda: page.find("button", "Record it").is_enabled(), "what can be posted")
    page.says("Capital introduced")
    page.post()
    page.says("Business costs paid privately")
    page.says("24.60")
