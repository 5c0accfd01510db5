"""Open items: ages beside the control account, loose ends tied by drag and by keys, taken off again."""

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from corkpost.demo import tide
from tests.browser.conftest import Page

pytestmark = pytest.mark.browser


def low_tide(page: Page) -> None:
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.says("Worksheet as at")
    page.keys("g", "o")
    page.says("What customers owe")
    page.keys("v")
    page.says("Parties hold 3,918.27, the control account stands there too.")
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
    page.says("Parties hold 3,918.27, the control account stands there too.")


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


@pytest.fixture(scope="module")
def misapplied():
    """A receipt of South's that was set against North's invoice, and the invoice that it is for."""
    books, faults = tide.business().books()
    for check, names in faults:
        if check == "wrong-party":
            papers = [books.transactions[name] for name in names]
            money = next(own for own in papers if own.kind == "customer-receipt")
            paper = next(own for own in papers if own.kind == "sales-invoice")
            if (money.party, paper.party) == ("N01", "N02") and money.posting_date.month == 5:
                return money, paper
    raise AssertionError("no receipt of South's at North's")


def north(page: Page, money):
    page.sign_in("TV")
    page.open("/clients/TIDE/open-items?party=N01")
    page.find("heading", "Averin North School", exact=True)
    page.keys("e")
    return page.find("button", f"{money.id}, ")


def moved(page: Page, money, paper) -> None:
    page.says(f"Set {money.id} against {paper.id}")
    page.says("Averin South School")
    page.until(lambda: page.find("button", "Move it").is_enabled(), "what can be posted")
    page.post()
    page.says("posted, C-2026-1")
    page.says("the control account stands there too")
    page.keys("e")
    page.find("button", f"{paper.reference}, ")


def test_money_at_the_wrong_customer_is_brought_to_the_right_one_by_keys(page: Page, misapplied):
    money, paper = misapplied
    north(page, money).send_keys(Keys.ENTER)
    page.says(f"{money.id} is taken")
    page.find("button", "Reverse it")
    rows = [
        row.text.splitlines()[0] for row in page.driver.find_elements(By.CSS_SELECTOR, "tbody th")
    ]
    table = page.part("[aria-label^='Parties with open items']")
    table.send_keys(Keys.HOME, *[Keys.ARROW_DOWN] * rows.index("Averin South School"), Keys.ENTER)
    page.find("heading", "Averin South School", exact=True)
    page.find("button", f"{paper.reference}, ").send_keys(Keys.ENTER)
    moved(page, money, paper)


def test_money_at_the_wrong_customer_is_dragged_to_the_right_one(page: Page, misapplied):
    money, paper = misapplied
    source = north(page, money)
    chain = ActionChains(page.driver)
    row = page.find("row", "Averin South School")
    chain.click_and_hold(source).move_by_offset(5, 5).move_to_element(row).move_by_offset(3, 2)
    chain.perform()
    page.find("heading", "Averin South School", exact=True)
    target = page.find("button", f"{paper.reference}, ")
    ActionChains(page.driver).move_to_element(target).move_by_offset(2, 2).release().perform()
    moved(page, money, paper)


def test_the_list_is_as_at_the_end_of_the_months_that_are_chosen(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/open-items/payables?from=2026-03-01&to=2026-03-31")
    page.says("as at 31 March 2026")
    page.says("the control account stands there too")
