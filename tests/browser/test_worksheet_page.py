"""The worksheet as a working paper: lines marked and remarked on by keys, and what a second person sees."""

from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page


def row_of(page: Page, account: str) -> str:
    return page.part(f"tr[data-account='{account}']").text


def test_lines_are_marked_by_keys_reviewed_by_another_and_remarks_are_answered_and_cleared(
    page: Page, tmp_path
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
    paper = tmp_path / "bookings.txt"
    paper.write_text("May: 2 bookings")
    page.find("field", "A paper with it").send_keys(str(paper))
    page.says("bookings.txt")
    page.keys(Keys.ENTER, held=Keys.CONTROL)
    page.says("TV, 16 Nov 2026")
    page.press("button", "bookings.txt")
    page.says("Save bookings.txt: it is neither a PDF nor a picture")
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


def test_the_worksheet_of_a_month_alone_opens_to_just_that_and_is_grouped_for_a_lender(page: Page):
    page.sign_in("OB")
    page.open("/clients/SALT/worksheet?from=2026-10-01&to=2026-10-31")
    page.press("button", "Show")
    page.press("field", "income and costs from 1 Oct 2026 alone")
    page.says("Worksheet, 1 Oct 2026 to 31 Oct 2026")
    page.says("Result before 1 October 2026")
    page.keys(Keys.ESCAPE)
    page.press("button", "Fuel, Adjusted: 354.74")
    page.says("1 October 2026 to 31 October 2026, by posting date, before closing entries")
    page.says("354.74")
    page.press("button", "Ask the client about it")
    page.fill("What do you want to know about Fuel?", "Why so much in October?")
    page.post()
    page.says("the question about Fuel is ready to be sent")
    page.open("/clients/SALT/worksheet")
    page.press("button", "Show")
    page.press("button", "Another grouping")
    page.fill("For whom, or what", "The lender")
    page.fill("Groups", "Turnover: sales" + Keys.ENTER + "Energy: 5200, 5310")
    page.until(lambda: page.find("button", "Keep the grouping").is_enabled(), "its preview")
    page.post()
    page.until(lambda: "What no group names" in page.text and "Energy" in page.text, "groups")


def test_a_budget_is_pasted_and_stands_beside_the_figures(page: Page):
    page.sign_in("OB")
    page.open("/clients/SALT/worksheet")
    page.press("button", "Show")
    page.press("button", "Budget")
    page.fill("Or pasted", "account,month,amount" + Keys.ENTER + "5200,2026-10,300")
    page.until(lambda: page.find("button", "Keep the budget").is_enabled(), "its preview")
    page.post()
    page.says("no figure moves by it")
    page.find("button", "Fuel, Budget: 300.00")


def test_the_pack_and_the_audit_file_are_written(page: Page):
    page.sign_in("OB")
    page.open("/clients/SALT/sign-off")
    page.press("button", "Fetch it as at")
    page.says("The pack is in SALT 2026-10-31.zip")
    page.press("button", "as a standard audit file")
    page.says("the audit file is written")
