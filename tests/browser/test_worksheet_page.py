"""The worksheet as a working paper: lines marked and remarked on by keys, and what a second person sees."""

from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page


def row_of(page: Page, account: str) -> str:
    return page.part(f"tr[data-account='{account}']").text


def test_lines_are_marked_by_keys_reviewed_by_another_and_remarks_are_answered_and_cleared(
    page: Page,
):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.says("Worksheet as at 31 October 2026")
    page.until(lambda: page.driver.switch_to.active_element.text == "Kayak hire", "the first row")
    page.keys("p")
    page.until(lambda: "p IO" in row_of(page, "4000"), "the mark")
    page.keys(Keys.ARROW_DOWN, "p")
    page.until(lambda: "p IO" in row_of(page, "4010"), "the mark")
    page.keys("v")
    page.says("A reviewer or partner marks a line as reviewed.")
    page.keys("p")
    page.until(lambda: "p IO" not in row_of(page, "4010"), "no mark")
    page.driver.delete_all_cookies()

    page.sign_in("TV")
    page.open("/clients/SALT/worksheet")
    page.until(lambda: page.driver.switch_to.active_element.text == "Kayak hire", "the first row")
    page.keys("v")
    page.until(lambda: "r TV" in row_of(page, "4000"), "reviewed")
    page.keys(Keys.ENTER)
    page.press("button", "Remark on it")
    page.keys("Why is May so low?")
    page.keys(Keys.ENTER, held=Keys.CONTROL)
    page.says("TV, 16 Nov 2026")
    page.keys(Keys.ESCAPE)
    page.until(lambda: "1 to clear" in row_of(page, "4000"), "the remark")
    page.driver.delete_all_cookies()

    page.sign_in("IO")
    page.open("/clients/SALT/sign-off")
    page.says("1 waits to be cleared: Why is May so low?")
    page.says("Remarks to be cleared")
    assert "Clear it" not in page.text
    page.press("button", "Answer")
    page.keys("It rained on both bank holidays.")
    page.keys(Keys.ENTER, held=Keys.CONTROL)
    page.says("It rained on both bank holidays. IO")
    page.driver.delete_all_cookies()

    page.sign_in("TV")
    page.open("/clients/SALT/sign-off")
    page.press("button", "Clear it")
    page.says("Nothing waits.")
    page.says_no_more("Remarks to be cleared")
