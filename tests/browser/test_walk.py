"""From the door to the sealed trial balance, as the people of the practice walk it."""

from datetime import date
from pathlib import Path

import pytest
from selenium.webdriver.common.keys import Keys

from corkpost.core.tie_outs.agreeing import AgreeTieOut, stated_tie_outs
from corkpost.services import acts, review, staff
from corkpost.services.posting import PostRequest
from tests.browser.conftest import Page
from tests.formats.folders import put, small_books, write
from tests.formats.test_books_folder import zipped

pytestmark = pytest.mark.browser


def test_served_by_the_command_the_practice_opens_and_ends_in_order(by_command: Page):
    by_command.sign_in("IO")
    by_command.open("/clients/SALT/review")
    by_command.says("The same bill from Kittiwake Signs is in the books twice.")


def test_the_door_refuses_a_wrong_password_in_words_and_lets_the_right_one_in(page: Page):
    page.open("/clients/SALT/worksheet")
    page.says("Quay & Lantern")
    page.fill("Your code", "IO")
    page.fill("Password", "not it")
    page.press("button", "Sign in", exact=True)
    page.says("That name and password do not belong together")
    page.fill("Password", "lantern-ines")
    page.keys(Keys.ENTER)
    # The address that was asked for is what opens.
    page.says("Worksheet as at 31 October 2026")


def test_the_desk_shows_one_s_clients_and_leads_to_the_first_point(page: Page):
    page.sign_in("IO")
    page.says("Copperbell Couriers Ltd")
    assert "Brightwater" not in page.text
    page.keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN, Keys.ENTER)
    page.says("The same bill from Kittiwake Signs is in the books twice.")
    page.says("Saltmarsh Kayaks")


def test_points_are_corrected_by_the_keyboard_alone_and_the_worksheet_follows(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    fuel = page.find("row", "Fuel").text
    page.keys("g", "r")
    page.says("is in the books twice.")
    page.keys(Keys.ARROW_DOWN)
    page.says("The same bill from Reedwharf Fuels is in the books twice.")
    page.until(lambda: "+200.00" in page.figure("Profit to 31 Oct"), "the effect on profit")
    assert "−246.00" in page.figure("Owed by us")
    page.keys("2")
    page.says("what it settles moves to")
    page.keys("1")
    page.until(lambda: "+200.00" in page.figure("Profit to 31 Oct"), "the effect on profit")
    page.post()
    page.says("change 16 posted, C-2026-1")
    # The next point opens by itself, and takes the next deed.
    page.says("A payment to Sandpiper Trailers was coded to Small equipment")
    page.until(lambda: "→" in page.figure("Profit to 31 Oct"), "the next effect")
    page.post()
    page.says("change 17 posted, C-2026-2")
    page.keys("g", "w")
    page.says("Worksheet as at")
    after = page.until(
        lambda: (row := page.find("row", "Fuel").text) != fuel and row, "fuel to change"
    )
    assert "(200.00)" in after


def test_a_reason_is_needed_a_point_is_asked_about_and_a_change_is_taken_back(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.press("radio", "Leave it: not an error")
    page.says("Say why: somebody else has to understand it in six months.")
    assert not page.find("button", "Leave it Ctrl").is_enabled()
    page.fill("Reason, kept for good", "two deliveries of the same poster")
    page.press("button", "Leave it Ctrl")
    page.says("is left, with your reason")
    page.press("button", "asked")
    page.says("Was this receipt for the July invoice")
    page.press("button", "done")
    page.press("button", "Averin Scouts")
    page.says("corrected by IO")
    page.press("button", "Take change")
    page.press("button", "Post the inverse")
    page.says("posted,")


def test_sure_points_of_one_kind_are_taken_together(page: Page):
    page.sign_in("IO")
    page.open("/clients/COPP/review")
    page.press("button", "sure together")
    page.says("all of them in one change or none")
    page.press("field", "Take ")
    page.press("field", "Take ")
    page.until(lambda: "→" in page.figure("Profit to 30 Sep"), "one effect for all")
    page.press("button", "Post 3 to Copperbell Couriers Ltd")
    page.says("posted, C-2026-1 and C-2026-2 and C-2026-3")
    page.says("3 done")
    page.press("button", "Show it")
    page.press("button", "Take change 2 back")
    page.press("button", "Post the inverse")
    page.says("0 done")


def test_of_a_family_only_points_of_one_kind_are_taken_together(page: Page):
    """Bills paid past and invoices received past stand in one family: they are two kinds."""
    page.sign_in("IO")
    page.open("/clients/COPP/review")
    page.press("button", "take 5 sure together")
    page.says("5 sure points of one kind")
    page.press("button", "Post 5 to Copperbell Couriers Ltd")
    page.says("5 done")


def test_an_entry_is_composed_by_the_keyboard_and_reverses_by_itself(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    page.fill("Date", "31.10")
    page.says("31 Oct 2026, open")
    page.press("button", "next period")
    page.says("1 Nov 2026")
    page.fill("Reason, printed in the pack", "Electricity not yet billed")
    page.fill("Account, line 1", "elec")
    page.keys(Keys.ENTER)
    page.fill("Debit, line 1", "1639*0.25")
    page.says("= 409.75")
    page.says("409.75 to credit")
    page.fill("Account, line 2", "accr")
    page.keys(Keys.TAB)
    page.find("field", "Credit, line 2").click()
    page.keys(Keys.ENTER)
    page.says("balanced at 409.75")
    page.until(lambda: "−409.75" in page.figure("Profit to 31 Oct"), "the effect")
    page.says("As it will stand, 1 Nov 2026")
    page.says("kept as a draft")
    page.post()
    page.says("A-2026-3 and R-2026-3")
    page.says("Reversed by R-2026-3")
    page.says("reverses 1 Nov")
    assert "Electricity not yet billed" in page.text


def test_what_is_wrong_in_an_entry_is_told_at_its_line(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    page.fill("Account, line 1", "2100")
    page.keys(Keys.ENTER)
    page.fill("Debit, line 1", "5")
    page.says("Line 1: Trade payables is a control account: name the party")
    page.fill("Date", "1.5.2025")
    page.says("1 May 2025, barred")


def test_a_draft_is_there_again_after_the_page_was_closed(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    page.fill("Reason, printed in the pack", "Half a thought")
    page.says("kept as a draft")
    page.open("/")
    page.says("What is next")
    page.open("/clients/SALT/entries/new")
    page.press("button", "Half a thought")
    page.until(
        lambda: (
            page.find("field", "Reason, printed in the pack").get_attribute("value")
            == "Half a thought"
        ),
        "the draft's reason",
    )


def test_every_figure_opens_to_its_entries_and_back(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.press("button", "Trade payables")
    page.press("button", "Who owes what")
    page.says("the control account stands there too")
    page.press("button", "Reedwharf Fuels")
    page.says("Open now: (")
    page.press("button", "RW 117")
    page.says("246.00 of it is open with Reedwharf Fuels.")
    page.press("link", "The same bill from Reedwharf Fuels is in the books twice.")
    page.says("Void T0601")
    page.driver.back()
    page.says("246.00 of it is open with Reedwharf Fuels.")
    page.keys(Keys.ESCAPE)
    page.says_no_more("of it is open")


def test_anything_is_found_by_what_is_known_of_it(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.says("Worksheet as at")
    page.keys("/")
    page.fill("Client, account, party", "246.00")
    page.says("3 Apr 2026 · RW-0117 · Reedwharf Fuels")
    page.fill("Client, account, party", "copper")
    page.says("Copperbell Couriers Ltd")
    page.keys(Keys.ENTER)
    page.says("year to 30 Sep 2026")


def test_months_chosen_on_the_ribbon_rule_the_whole_client(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.press("button", "Apr 1 open point")
    page.says("Worksheet as at 30 April 2026")
    page.says("Profit to 30 Apr")
    page.keys("g", "r")
    page.says("1 open")
    page.says("Reedwharf Fuels")
    assert "to=2026-04-30" in page.driver.current_url


def test_the_preparer_is_refused_the_partner_signs_and_the_seal_holds(page: Page, workplace):
    ines, tomas = (staff.person_named(workplace, code) for code in ("IO", "TV"))
    for stated in review.points(workplace, ines, "SALT"):
        if stated.state in ("open", "asked"):
            review.decide(workplace, tomas, "SALT", stated.point.id, "leave", "looked at")
    at = date(2026, 10, 31)
    for stated_point in stated_tie_outs(workplace.ledger(ines, "SALT").books, at):
        proof = stated_point.tie_out
        paper = proof.books if proof.outside is None else None
        act = AgreeTieOut(proof.id, at, "seen", paper)
        acts.post(workplace, ines, "SALT", act, PostRequest("seen"))
    page.sign_in("IO")
    page.open("/clients/SALT/sign-off")
    page.says("A reviewer or partner signs the trial balance off.")
    assert not page.find("field", "Password of Ines Okonjo").is_enabled()

    page.driver.delete_all_cookies()
    page.sign_in("OB")
    page.open("/clients/SALT/sign-off")
    page.says("You can sign: none of these changes are yours.")
    page.says("0 of 5 seen to.")
    for number, item in enumerate(("A letter of engagement", "The client was asked whether every",
                                   "Accruals, doubtful debts", "The tax returns of the span",
                                   "Private shares of costs"), 1):  # fmt: skip
        page.press("field", item)
        page.says(f"{number} of 5 seen to.")
    page.fill("Password of Orla Brandt", "a guess at it")
    page.press("button", "Sign and seal Saltmarsh Kayaks")
    page.says("That password is not yours. Nothing was signed.")
    page.fill("Password of Orla Brandt", "lantern-orla")
    page.press("button", "Sign and seal Saltmarsh Kayaks")
    page.says("is signed off as at 31 October 2026 and sealed.")
    page.find("image", "Signed off as at 31 Oct 2026, prepared by IO, signed by OB")

    page.open("/clients/SALT/entries/new")
    page.fill("Date", "31.10")
    page.fill("Reason, printed in the pack", "too late")
    page.fill("Account, line 1", "5310")
    page.keys(Keys.ENTER)
    page.fill("Debit, line 1", "10")
    page.fill("Account, line 2", "2210")
    page.keys(Keys.ENTER)
    page.fill("Credit, line 2", "10")
    page.says("It can’t be posted as it stands.")
    page.says("signed off and sealed as at 31 October 2026")
    page.says("1 November 2026 or later, or ask a partner to reopen")


def test_a_partner_reopens_with_a_reason_that_stays_on_the_record(page: Page, workplace):
    from corkpost.core.kinds import Role
    from corkpost.services import sign_off
    from tests.builders import day

    assert staff.person_named(workplace, "OB").role is Role.PARTNER
    orla = staff.person_named(workplace, "OB")
    sign_off.sign_off(
        workplace, orla, "BRIG", day("2026-10-31"), "lantern-orla", override_reason="for the bank"
    )
    page.sign_in("OB")
    page.open("/clients/BRIG/sign-off")
    page.says("Signed over what was missing: for the bank")
    page.press("button", "Reopen it")
    page.fill("Why it is reopened", "a bill of September came")
    page.press("button", "Reopen Brightwater Veterinary Ltd")
    page.says("Reopened by OB")
    page.says("a bill of September came")


def test_what_somebody_else_posts_shows_at_once(page: Page, workplace):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("12 open")
    tomas = staff.person_named(workplace, "TV")
    point = review.points(workplace, tomas, "SALT")[0].point
    review.decide(workplace, tomas, "SALT", point.id, "leave", "known to the client")
    page.says("Somebody else posted or decided here")
    page.says("11 open")


def test_books_with_faults_are_refused_with_every_fault_and_good_ones_taken_in(
    page: Page, tmp_path: Path
):
    folder = write(small_books("NEWCO"), tmp_path / "books")
    put("lines", 1, "account", "9999")(folder)
    bad = zipped(folder, tmp_path / "bad.zip")
    put("lines", 1, "account", "5200")(folder)
    good = zipped(folder, tmp_path / "good.zip")
    page.sign_in("OB")
    page.keys("t")
    page.find("field", "Choose a file").send_keys(str(bad))
    page.says("These books can't be taken in")
    page.says("lines.csv:2: account: '9999' is not in accounts.csv")
    page.press("button", "Choose another file")
    page.find("field", "Choose a file").send_keys(str(good))
    page.says("NEWCO is taken in.")
    page.press("button", "Review NEWCO")
    page.says("The same bill from Reedwharf is in the books twice.")
