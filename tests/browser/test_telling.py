"""What is handed in and approved, the bookkeeper's list, receipts, a month opened for one posting."""

from datetime import date

import pytest
from selenium.webdriver.common.keys import Keys

from corkpost.core.kinds import PeriodState
from corkpost.services import periods, review, staff
from tests.browser.conftest import Page
from tests.browser.test_entries_page import line

pytestmark = pytest.mark.browser
REASON = "Cleaning for October, not billed yet"


def test_a_draft_is_handed_in_sent_back_with_a_remark_handed_in_again_and_approved(page: Page):
    page.sign_in("PH")
    page.open("/clients/BRIG/entries/new")
    page.says("counts nowhere until a reviewer or partner has looked at it")
    page.fill("Reason, printed in the pack", REASON)
    line(page, 1, "6400", "Debit", "120")
    line(page, 2, "2210", "Credit", "120")
    page.says("You write drafts")
    page.post()
    page.says("handed in; nothing is posted before it is approved")
    page.sign_in("TV")
    page.open("/clients/BRIG/entries/new")
    page.press("button", REASON)
    page.until(lambda: "−120.00" in page.figure("Profit to 31 Oct"), "its effect")
    page.fill("Or what is to be done otherwise", "it was 130")
    page.press("button", "Send it back")
    page.says("sent back to PH; nothing was posted")
    page.sign_in("PH")
    page.open("/clients/BRIG/entries/new")
    page.press("button", "TV: it was 130")
    page.says("TV sent it back: it was 130")
    page.fill("Debit, line 1", "130")
    page.fill("Credit, line 2", "130")
    page.says("balanced at 130.00")
    page.until(lambda: page.find("button", "Hand it in").is_enabled(), "what can be handed in")
    page.post()
    page.says("handed in; nothing is posted before it is approved")
    page.sign_in("TV")
    page.open("/clients/BRIG/entries/new")
    page.press("button", REASON)
    page.until(lambda: "−130.00" in page.figure("Profit to 31 Oct"), "its effect")
    page.post()
    page.says("posted, A-2026-1")
    page.says("by PH")
    page.says("approved by TV")


def test_a_correction_in_a_held_month_is_handed_in_from_its_case_and_approved(
    page: Page, workplace
):
    tomas = staff.person_named(workplace, "TV")
    day = date(2026, 4, 5)
    periods.set_period(workplace, tomas, "SALT", day, PeriodState.HELD, "under review")
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.press("button", "Reedwharf Fuels")
    page.says("is in a held period")
    page.post()
    page.says("handed in; nothing is posted before it is approved")
    page.says("waits for approval")
    page.sign_in("TV")
    page.open("/clients/SALT/entries/proposal-1")
    page.says("The same bill from Reedwharf Fuels")
    page.until(lambda: "+200.00" in page.figure("Profit to 31 Oct"), "its effect")
    page.post()
    page.says("posted, C-2026-1")
    page.says("approved by TV")


def test_the_bookkeeper_is_told_what_was_entered_and_it_goes_from_the_list(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    page.says("4 not told yet")
    page.keys("b")
    page.says("So that it does not happen again: When you enter a payment or receipt, say which")
    page.says("Electricity up by 388.00; Accruals up by 388.00.")
    page.find("field", "Address of Mara Salt")
    page.post()
    page.says("4 changes sent to mara@saltmarsh.example")
    page.says("The bookkeeper was told everything")
    page.keys("t")
    page.says("Everything of ours that stands")
    page.says("told")


def test_a_receipt_is_sent_and_then_only_copies_are(page: Page, workplace):
    ines = staff.person_named(workplace, "IO")
    books = workplace.ledger(ines, "SALT").books
    money = next(
        transaction
        for transaction in books.tables.transactions
        if transaction.kind == "customer-receipt"
    )
    page.sign_in("IO")
    page.open(f"/clients/SALT/entries/{money.id}")
    page.press("button", "Receipt for it")
    page.says("with the next number")
    page.find("field", "How it came").send_keys("cheque")
    page.fill("Address of who gets it", "office@school.example")
    page.says("It settles")
    page.post()
    page.says("receipt 1 is sent to office@school.example")
    page.find("button", "Send a copy")
    page.post()
    page.says("a copy 1 is sent to office@school.example")
    page.says("by cheque")


def test_a_partner_has_a_barred_month_opened_for_one_correction(page: Page, workplace):
    orla = staff.person_named(workplace, "OB")
    books = workplace.ledger(orla, "PEBB").books
    point = next(
        stated.point.id
        for stated in review.points(workplace, orla, "PEBB")
        if stated.point.check == "owner-spending" and review.day_of(stated.point, books).month == 3
    )
    page.sign_in("TV")
    page.open(f"/clients/PEBB/review/{point}")
    page.says("the first open day")
    page.says_no_more("for this posting alone")
    page.sign_in("OB")
    page.open(f"/clients/PEBB/review/{point}")
    page.press("radio", "Move it to Current account, Ada Pebble")
    page.press("field", "Open March 2026 for this posting alone")
    page.says("dated 11 March 2026")
    page.until(lambda: page.find("button", "Post").is_enabled(), "what can be posted")
    page.keys(Keys.ENTER, held=Keys.CONTROL)
    page.says("posted, C-2026-1")
    after = workplace.ledger(orla, "PEBB").books
    assert after.transactions["C-2026-1"].posting_date.month == 3
    assert after.calendar.state_on(after.transactions["C-2026-1"].posting_date) == "barred"
