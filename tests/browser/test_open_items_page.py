"""Open items: ages beside the control account, loose ends tied by drag and by keys, taken off again."""

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page

pytestmark = [pytest.mark.browser, pytest.mark.xdist_group("browser")]


def low_tide(page: Page) -> None:
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.says("Worksheet as at")
    page.keys("g", "o")
    page.says("What customers owe")
    page.keys("v")
    page.says("The list comes to 3,918.27, the control account too.")
    page.press("row", "Low Tide Cleaning")
    page.find("button", "LT085, 163.14, 163.14 open")


def test_a_payment_on_account_is_set_against_its_bills_by_keys_and_taken_off_again(page: Page):
    low_tide(page)
    page.find("button", "T0827, 342.40, 342.40 open").send_keys(Keys.ENTER)
    page.says("T0827 is taken")
    page.find("button", "LT085, 163.14, 163.14 open").send_keys(Keys.ENTER)
    page.says("Sets T0827 against T0793: 163.14")
    page.until(lambda: page.find("button", "Allocate").is_enabled(), "what can be posted")
    page.post()
    page.find("button", "T0827, 342.40, 179.26 open")
    page.find("button", "LT085, 163.14, settled")
    page.press("button", "Take T0827 and T0793 apart")
    page.says("Takes apart T0827 and T0793: 163.14")
    page.until(lambda: page.find("button", "Take it off").is_enabled(), "what can be posted")
    page.post()
    page.find("button", "LT085, 163.14, 163.14 open")
    page.says("The list comes to 3,918.27, the control account too.")


def test_a_loose_end_is_dragged_to_what_it_settles(page: Page):
    low_tide(page)
    money = page.find("button", "T0827, 342.40, 342.40 open")
    bill = page.find("button", "LT084, 179.26, 179.26 open")
    ActionChains(page.driver).drag_and_drop(money, bill).perform()
    page.says("Set T0827 against")
    page.says("179.26")
    page.until(lambda: page.find("button", "Allocate").is_enabled(), "what can be posted")
    page.press("button", "Allocate")
    page.find("button", "LT084, 179.26, settled")


def test_the_list_is_as_at_the_end_of_the_months_that_are_chosen(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/open-items/payables?from=2026-03-01&to=2026-03-31")
    page.says("as at 31 March 2026")
    page.says("the control account too")
