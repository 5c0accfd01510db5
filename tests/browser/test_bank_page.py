"""Bank: a month agreed by keyboard and finished, what is wrong put right in place, statements in."""

from datetime import date
from pathlib import Path

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from corkpost.core.kinds import StatementFormat
from corkpost.services import staff
from corkpost.stand_ins.statement_files import written
from corkpost.stand_ins.till import as_file, days_of
from tests.browser.conftest import Page
from tests.formats.test_statements import MAY, NO_BALANCE
from tests.notation import EUR

pytestmark = pytest.mark.browser


def test_a_month_is_agreed_by_the_keyboard_alone_and_finished(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.says("Worksheet as at")
    page.keys("g", "b")
    page.says("29 to settle")
    page.keys("s")
    page.says("22 agreements with the statement")
    page.keys("s")
    page.says("4 to settle")
    # The books have two digits exchanged: they are put right.
    page.keys(Keys.ENTER)
    page.says("Correct T0841 to 12.49, as the bank has it")
    page.post()
    page.says("3 to settle")
    # The bank lost a digit and put it right: the receipt stays as it is.
    page.keys(Keys.ENTER)
    page.says("Book as the bank's error, and its correction on 26 September 2026")
    page.post()
    page.says("1 to settle")
    assert not page.find("button", "Finish f").is_enabled()
    page.keys(Keys.ENTER)
    page.says("Record it as Bank charges")
    page.until(lambda: "−6.50" in page.figure("Profit to 31 Oct"), "the effect of the charge")
    page.post()
    page.says("0 to settle")
    page.says("✓ 0.00")
    page.keys("f")
    page.says("Finished by IO")
    printed = on_paper(page)
    assert "difference 0.00" in printed
    assert "ACCOUNT FEE SEPTEMBER (6.50)" in printed


def on_paper(page: Page) -> str:
    """What the print view says."""
    page.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
    printed = page.part("[aria-label='Reconciliation on paper']").text
    page.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": ""})
    return printed


def test_an_agreement_is_taken_apart_and_others_picked_by_hand(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/bank")
    page.says("29 to settle")
    page.keys("s")
    page.says("7 to settle")
    folded = page.find("button", "agreements")
    folded.click()
    page.press("button", "Take apart")
    page.says("1 agreement taken apart")
    page.says("8 to settle")
    page.part("[aria-label='Pick T0812']").click()
    page.says("apart by")
    page.part("[aria-label^='Pick line 1,']").click()
    page.press("button", "Agree them")
    page.says("7 to settle")


def test_a_finished_month_is_reopened_with_a_reason_and_the_later_ones_first(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/bank/1200?statement=9")
    page.says("Finished by IO")
    page.press("button", "Reopen it")
    page.fill("Why it is reopened", "a cheque was doubted")
    page.press("button", "Reopen", exact=True)
    page.says("Later ones rest on it")
    page.open("/clients/SALT/bank/1200?statement=10")
    page.says("Finished by IO")
    assert "Not presented and not credited: 1\n31 Aug 2026 T0817" in on_paper(page)
    page.press("button", "Reopen it")
    page.fill("Why it is reopened", "a cheque was doubted")
    page.press("button", "Reopen", exact=True)
    page.says("a cheque was doubted")
    page.press("button", "Finish f")
    page.says("Finished by IO")


def test_a_statement_taken_in_twice_changes_nothing(page: Page, workplace, tmp_path: Path):
    tables = workplace.ledger(staff.person_named(workplace, "OB"), "SALT").books.tables
    kept = workplace.database.files / tables.statements[-1].digest
    again = tmp_path / "named-otherwise.txt"
    again.write_bytes(kept.read_bytes())
    page.sign_in("IO")
    page.open("/clients/SALT/bank")
    page.says("29 to settle")
    page.keys("t")
    page.find("field", "Choose a statement file").send_keys(str(again))
    page.says("were here already.")
    page.press("button", "To the statement")
    page.says("29 to settle")


def test_a_csv_is_asked_about_once_and_remembered(page: Page, tmp_path: Path):
    first, second = tmp_path / "bank.csv", tmp_path / "more.csv"
    first.write_text(NO_BALANCE)
    second.write_text(NO_BALANCE.replace("REEDWHARF", "TERN PRINT").replace("/2026", "/2027"))
    page.sign_in("IO")
    page.open("/clients/SALT/bank")
    page.says("29 to settle")
    page.keys("t")
    page.find("field", "Choose a statement file").send_keys(str(first))
    page.says("Say once which column is what.")
    page.find("field", "Days are written as").send_keys("day, month, year")
    page.press("button", "Take it in so")
    page.says("2 new lines of 1200, 4 May 2026 to 5 June 2026.")
    page.press("button", "To the statement")
    page.keys("t")
    page.find("field", "Choose a statement file").send_keys(str(second))
    page.says("2 new lines of 1200, 4 May 2027 to 5 June 2027.")


def test_what_is_no_statement_or_another_s_is_refused_with_what_is_wrong(
    page: Page, tmp_path: Path
):
    strange, other = tmp_path / "a.ofx", tmp_path / "b.xml"
    strange.write_bytes(b"<OFX><STMTRS><STMTTRN>")
    other.write_bytes(written(StatementFormat.CAMT053, [MAY]).replace(b"EUR", b"USD"))
    page.sign_in("IO")
    page.open("/clients/SALT/bank")
    page.says("29 to settle")
    page.keys("t")
    page.find("field", "Choose a statement file").send_keys(str(strange))
    page.says("The OFX file is cut off")
    page.keys(Keys.ESCAPE)
    page.keys("t")
    page.find("field", "Choose a statement file").send_keys(str(other))
    page.says("The statement is in USD, the account 1200 in EUR.")


def test_a_client_without_statements_is_told_how_to_get_them(page: Page):
    page.sign_in("OB")
    page.open("/clients/BRIG/bank")
    page.says("No statement yet")
    assert page.driver.find_elements(By.CSS_SELECTOR, "[aria-label='Books and statement']") == []


def test_a_swapped_cheque_number_is_mended_and_receipts_are_banked_together(page: Page):
    page.sign_in("IO")
    page.open("/clients/HOLL/bank/1200?statement=11")
    page.says("to settle")
    page.keys("s")
    page.says("5 to settle (2 of earlier statements)")
    page.says("The numbers 001167 and 001169 are exchanged")
    page.press("button", "H-00571")
    page.says("001167")
    page.keys(Keys.ESCAPE)
    page.part("[data-row^='H-00571'] > div:nth-child(4) button:last-child").click()
    page.says("Amend the number of H-00571 to 001169 and H-00580 to 001167")
    page.post()
    page.says("3 to settle (2 of earlier statements)")
    page.open("/clients/HOLL/bank/1200?statement=12")
    page.says("LODGEMENT 500401")
    page.open("/clients/HOLL/review")
    page.press("button", "LODGEMENT 500401")
    page.says("Bank the 3 receipts in hand")
    page.says("As it will stand, 7 Oct 2026")
    page.post()
    page.says_no_more("LODGEMENT 500401")


def test_takings_are_keyed_in_a_grid_or_read_from_the_till_once(page: Page, tmp_path: Path):
    file = tmp_path / "till.csv"
    file.write_bytes(as_file(days_of("shop", [date(2026, 10, 30), date(2026, 10, 31)]), EUR))
    page.sign_in("IO")
    page.open("/clients/SALT/bank?view=in-hand")
    page.says("Nothing is in hand")
    page.fill("cash, row 5", "400+12.40")
    page.fill("card, row 5", "1163.85")
    page.fill("returns, row 5", "38.20")
    page.until(lambda: "+1,250.45" in page.figure("Profit to 31 Oct"), "the effect of the sales")
    assert "+287.60" in page.figure("Tax to pay")
    page.post()
    page.says("posted, C-2026-1")
    page.says("1 receipt · 374.20")
    page.find("field", "The till's file").send_keys(str(file))
    page.until(
        lambda: (
            page.find("field", "Reason, kept with it").get_attribute("value")
            == "Takings of 30 October 2026 to 31 October 2026"
        ),
        "the two days of the file",
    )
    page.post()
    page.says("posted, C-2026-2 and C-2026-3")
    page.find("field", "The till's file").send_keys(str(file))
    page.says("Z261030 was taken in before, as")


def test_a_line_is_split_over_accounts_and_a_new_party_is_made_on_the_spot(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/bank?statement=11")
    page.says("29 to settle")
    page.keys("s")
    page.says("7 to settle")
    page.press("button", "Record it")
    page.says("Record it as Bank charges")
    page.keys("2")
    page.press("button", "Split it over several")
    choose(page, "Account that it belongs on, part 1", "bank ch", "Bank charges")
    page.fill("Amount, part 1", "9/2")
    choose(page, "Party of it, part 2", "Shoreline Chandler Ltd", "New:")
    page.says("There is one of nearly that name")
    page.fill("Name", "Chandler & Daughters")
    page.says_no_more("There is one of nearly that name")
    page.post()
    page.says("Chandler & Daughters is added under CHANDLER")
    choose(page, "Account that it belongs on, part 2", "2100", "payables")
    page.until(lambda: page.find("button", "Post").is_enabled(), "what can be posted")
    page.post()
    page.says("6 to settle")
    page.open("/clients/SALT/entries/all?q=")
    page.fill("Filter the postings", "ACCOUNT FEE SEPTEMBER")
    page.press("row", "ACCOUNT FEE SEPTEMBER")
    page.says("Chandler & Daughters")
    page.says("4.50")


def choose(page: Page, label: str, text: str, listed: str) -> None:
    field = page.reach(label)
    field.click()
    field.send_keys(text)
    page.find("listed", listed)
    field.send_keys(Keys.ENTER)
