"""Entries: tax in a line, copies, taking back, by hand, papers, the list of all postings."""

from pathlib import Path

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page

pytestmark = pytest.mark.browser


def line(page: Page, number: int, account: str, side: str, amount: str) -> None:
    page.fill(f"Account, line {number}", account)
    page.keys(Keys.ENTER)
    page.fill(f"{side}, line {number}", amount)


def test_tax_is_split_off_a_line_and_a_party_makes_an_open_item(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    page.fill("Date", "30.6")
    page.fill("Reason, printed in the pack", "Bill found in the van")
    line(page, 1, "6100", "Debit", "123")
    page.find("field", "Tax, line 1").send_keys("S23 in it")
    line(page, 2, "2100", "Credit", "123")
    page.says("Trade payables is a control account: name the party")
    page.fill("Party, line 2", "tern")
    page.keys(Keys.ENTER)
    page.fill("Day on the paper", "28.5")
    page.fill("Due on", "28.6")
    page.until(lambda: "28 May 2026" in page.text and "28 Jun 2026" in page.text, "its days")
    page.until(lambda: "−100.00" in page.figure("Profit to 30 Jun"), "the cost without its tax")
    assert "+123.00" in page.figure("Owed by us")
    page.post()
    page.says("posted, A-2026-3")
    page.press("button", "Tern Print")
    page.says("Open now: (")
    page.says("A-2026-3")


def test_a_correcting_line_begins_with_its_accounts_tax_and_an_adjusting_one_with_none(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    line(page, 1, "5310", "Debit", "123")
    assert page.find("field", "Tax, line 1").get_attribute("value") == ""
    page.find("field", "Kind").send_keys("correcting")
    line(page, 2, "6100", "Credit", "123")
    page.until(
        lambda: page.find("field", "Tax, line 2").get_attribute("value") == "S23 included", "S23"
    )
    page.find("field", "Tax, line 2").send_keys("none")
    page.says("balanced at 123.00")


def test_an_entry_is_copied_without_its_date_and_with_its_sums_only_when_asked(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/A-2026-2")
    page.press("link", "Copy as a new entry")
    page.until(
        lambda: page.find("field", "Account, line 1").get_attribute("value") == "1400  Prepayments",
        "the copied account",
    )
    assert page.find("field", "Debit, line 1").get_attribute("value") == ""
    assert page.find("field", "Date").get_attribute("value") == "pe"
    page.open("/clients/SALT/entries/A-2026-2")
    page.press("link", "Copy with its amounts")
    page.until(
        lambda: page.find("field", "Debit, line 1").get_attribute("value") == "306.42", "the sum"
    )
    page.says("of the same date has the same lines")


def test_a_posted_entry_is_taken_back_with_its_mirror(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/A-2026-2")
    page.press("button", "Take change 15 back")
    page.says("Post the inverse")
    page.until(lambda: "−306.42" in page.figure("Profit to 31 Oct"), "the effect")
    page.fill("Reason, kept with it", "the policy was cancelled")
    page.post()
    page.says("posted, A-2026-3 and R-2026-3")
    page.says("taken back since")


def test_a_draft_is_dropped_when_it_is_not_wanted(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/draft-electricity10")
    page.says("1 draft")
    page.press("button", "Drop it")
    page.says("0 drafts")


def test_lines_are_taken_out_and_a_text_goes_to_all(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    line(page, 1, "5310", "Debit", "10")
    page.fill("Text, line 1", "meter read by hand")
    line(page, 2, "2210", "Credit", "10")
    page.press("button", "First text to all lines")
    page.until(
        lambda: page.find("field", "Text, line 2").get_attribute("value") == "meter read by hand",
        "the text on line 2",
    )
    page.says("balanced at 10.00")
    page.press("button", "Take line 2 out")
    page.says("10.00 to credit")


def test_postings_are_narrowed_sorted_and_shown_with_fewer_columns(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/all")
    page.says("which credits equal")
    page.fill("Filter the postings", "reedwharf")
    page.until(lambda: "Low Tide" not in page.text, "only Reedwharf")
    page.find("field", "Kind of posting").send_keys("Purchase bill")
    page.until(lambda: "supplier payment" not in table(page), "only bills")
    page.press("button", "Amount", exact=True)
    page.press("button", "Amount ↑")

    def amounts():
        cells = page.driver.find_elements(By.CSS_SELECTOR, "tbody td:last-child")
        return [float(cell.text.replace(",", "")) for cell in cells if cell.text]

    page.until(lambda: (a := amounts()) and a == sorted(a, reverse=True), "the largest first")
    page.press("button", "Columns")
    page.press("field", "Text", exact=True)
    page.keys(Keys.ESCAPE)
    page.until(lambda: "Text" not in heads(page), "the column gone")
    page.open("/clients/SALT/entries/all")
    page.says("All postings")
    page.until(lambda: heads(page) and "Text" not in heads(page), "the column still gone")


def heads(page: Page) -> list[str]:
    return [
        head.text.split(" ")[0]
        for head in page.driver.find_elements(By.CSS_SELECTOR, "th[scope=col]")
    ]


def table(page: Page) -> str:
    return page.part("tbody").text


def test_the_list_is_walked_by_arrows_and_a_row_opened_by_enter(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/all")
    page.says("All postings")
    page.part("[role=group]").send_keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN, Keys.ENTER)
    page.says("Attach a paper")
    page.keys(Keys.ESCAPE)
    page.says_no_more("Attach a paper")


def test_money_on_account_is_allocated_by_hand_in_part(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review?open=party~S008")
    page.says("Open now")
    rows = page.driver.find_elements(By.XPATH, "//section[@aria-label='Open now']//tbody//button")
    rows[-1].click()
    page.press("button", "Allocate it")
    page.says("Allocate it to what it settles")
    page.part("[role=dialog] input[type=checkbox]").click()
    part = page.part("[role=dialog] input[placeholder='all of it']")
    part.send_keys("10.00")
    page.says("As it will stand")
    page.fill("Reason, kept with it", "they asked for it")
    page.press("button", "Post Ctrl")
    page.says("1 allocation.")


def test_a_payment_settles_by_hand_what_the_person_points_at(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/all")
    page.fill("Filter the postings", "harbour dues")
    page.until(lambda: "harbour dues" in table(page) and "Reedwharf" not in table(page), "the row")
    page.part("tbody tr th").click()
    page.press("button", "Settle open items with it")
    page.fill("Party whose items it settles", "averin power")
    page.keys(Keys.ENTER)
    page.until(
        lambda: page.driver.find_elements(By.CSS_SELECTOR, "[role=dialog] input[type=checkbox]"),
        "open items",
    )[0].click()
    page.says("Averin Power")
    page.says("As it will stand")
    page.fill("Reason, kept with it", "paid by card at the counter")
    page.press("button", "Post Ctrl")
    page.says("posted, C-2026-1")


def test_a_reference_is_amended_shown_with_what_stood_before_and_taken_back(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet?open=transaction~T0601")
    page.says("Profit to 31 Oct")
    profit = page.figure("Profit to 31 Oct")
    page.press("button", "Amend reference or text")
    assert not page.find("button", "Post Ctrl").is_enabled()
    page.fill("Reference", "RW-0118")
    page.says("no figure moves, in no period")
    assert "As it will stand" not in page.part("[role=dialog]").text
    page.fill("Reason, kept with it", "read off the paper")
    page.post()
    page.says("posted, 1 amendment.")
    page.says("by IO: RW 117 → RW-0118.")
    assert page.figure("Profit to 31 Oct") == profit
    page.press("button", "Take it back")
    page.says("reference: RW-0118 RW 117")
    page.fill("Reason, kept with it", "it was the other bill's")
    page.post()
    page.says("taken back since")
    page.until(lambda: "Reference\nRW 117" in page.part("[role=dialog]").text, "what stood before")


def test_a_list_is_copied_with_its_amounts_to_the_cent(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/all?q=")
    page.fill("Filter the postings", "averin power")
    page.until(lambda: "Reedwharf" not in table(page) and "Averin" in table(page), "the bills")
    page.driver.execute_script(
        "navigator.clipboard.writeText = (text) => { window.copied = text; return Promise.resolve() }"
    )
    page.press("button", "Copy", exact=True)
    page.says("rows copied.")
    copied = page.driver.execute_script("return window.copied").splitlines()
    shown = page.driver.find_elements(By.CSS_SELECTOR, "tbody td:last-child")
    assert copied[0].split("\t")[-1] == "Amount"
    assert [row.split("\t")[-1] for row in copied[1 : len(shown) + 1]] == [
        cell.text.replace(",", "") for cell in shown
    ]
    assert any(row.endswith("0") for row in copied[1:])


def test_a_paper_is_attached_to_a_posting(page: Page, tmp_path: Path):
    paper = tmp_path / "RW 117.pdf"
    paper.write_bytes(b"%PDF-1.4 a scanned bill")
    page.sign_in("IO")
    page.open("/clients/SALT/review?open=transaction~T0601")
    page.find("field", "Attach a paper to T0601").send_keys(str(paper))
    page.says("A copy of RW 117.pdf is kept with T0601.")
    page.find("link", "RW 117.pdf")
