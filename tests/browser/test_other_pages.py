"""Worksheet, sign-off, desk and frame: choices, states, themes, what goes wrong."""

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from corkpost.services import acts, books, review, sign_off, staff
from corkpost.services.keeping_up import bring_up_to_date
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Workplace
from tests.browser.conftest import Page
from tests.builders import day
from tests.formats.folders import credited, small_books, write
from tests.formats.test_books_folder import zipped
from tests.practice import by_route

pytestmark = pytest.mark.browser


def test_the_trial_balance_has_its_choices_said_on_it(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet?year=2025")
    page.says("Worksheet as at 31 December 2025")
    page.press("link", "Trial balance")
    page.says("with every entry of ours · closing entries left out")
    page.says("Kayak hire")
    page.press("field", "after closing entries")
    page.says("closing entries in")
    page.says_no_more("Kayak hire")
    page.press("field", "as received, without our entries")
    page.says("as received · closing entries in")
    page.press("link", "Worksheet", exact=True)
    page.says("before closing entries")


def test_columns_of_the_worksheet_are_chosen_and_remembered(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.says("Last year")
    page.press("button", "Columns")
    page.press("field", "Balance sheet")
    page.press("field", "Last year")
    page.keys(Keys.ESCAPE)

    def heads():
        return [
            head.text.split("\n")[0]
            for head in page.driver.find_elements(By.CSS_SELECTOR, "th[scope=col]")
        ]

    page.until(lambda: "Balance sheet" in heads() and "Last year" not in heads(), "the columns")
    page.driver.execute_cdp_cmd(
        "Browser.grantPermissions",
        {"permissions": ["clipboardReadWrite", "clipboardSanitizedWrite"]},
    )
    page.press("button", "Copy", exact=True)
    page.says("rows copied.")
    copied = page.driver.execute_async_script(
        "const done = arguments[0]; navigator.clipboard.readText().then(done, (e) => done(`${e}`))"
    )
    assert "4000\tKayak hire\t" in copied
    page.open("/clients/SALT/worksheet")
    page.until(lambda: "Balance sheet" in heads() and "Last year" not in heads(), "them again")


def test_the_worksheet_is_walked_by_arrows_and_opened_by_enter(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.find("button", "Kayak hire").click()
    page.says("4000 Kayak hire")
    page.keys(Keys.ESCAPE)
    page.until(
        lambda: page.driver.switch_to.active_element == page.find("button", "Kayak hire"), "focus"
    )
    page.keys(Keys.ARROW_DOWN, Keys.ENTER)
    page.says("4010 Tours and courses")


def test_several_months_are_dragged_over_and_a_second_click_shows_all_again(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.says("Worksheet as at 31 October")
    drag = ActionChains(page.driver)
    drag.click_and_hold(page.find("button", "Feb, posting")).move_to_element(
        page.find("button", "May, posting")
    ).release().perform()
    page.says("Worksheet as at 31 May 2026")
    assert "from=2026-02-01" in page.driver.current_url
    page.press("button", "Jul, posting")
    page.says("Worksheet as at 31 July 2026")
    page.press("button", "Jul, posting")
    page.says("Worksheet as at 31 October 2026")
    page.driver.back()
    page.says("Worksheet as at 31 July 2026")


def test_another_year_is_chosen_and_goes_along_from_page_to_page(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.press("button", "Saltmarsh Kayaks")
    page.press("menu", "2025")
    page.says("Worksheet as at 31 December 2025")
    page.keys("g", "s")
    page.says("Trial balance as at")
    page.says("filed")
    assert "year=2025" in page.driver.current_url


def test_a_month_is_held_with_a_reason_and_the_preparer_is_told(page: Page):
    page.sign_in("TV")
    page.open("/clients/SALT/sign-off")
    page.press("button", "Change who may post to 31 October 2026")
    page.fill("Reason", "under review")
    page.press("button", "Set", exact=True)
    page.says("reviewers and partners may post")
    page.driver.delete_all_cookies()
    page.sign_in("IO")
    page.open("/clients/SALT/entries/draft-electricity10")
    page.says("31 Oct 2026, held")
    page.fill("Account, line 2", "2210")
    page.keys(Keys.ENTER)
    page.fill("Credit, line 2", "409.75")
    page.says("is in a held period: a reviewer or partner posts there")
    page.post()
    page.says("handed in; nothing is posted before it is approved")


def test_a_seal_that_no_longer_fits_shows_everywhere_with_what_moved(
    page: Page, workplace, tmp_path
):
    orla = staff.person_named(workplace, "OB")
    books.take_in(workplace, orla, write(small_books("SEALED"), tmp_path / "one"))
    sign_off.sign_off(
        workplace, orla, "SEALED", day("2026-10-31"), "lantern-orla", override_reason="small client"
    )
    changed = small_books("SEALED")
    rows = [
        row._replace(posting_date=day("2026-11-02")) if row.id == "T6" else row
        for row in changed.tables.transactions
    ]
    tables = type(changed.tables)(**{**vars(changed.tables), "transactions": tuple(rows)})
    later = type(changed)(changed.client, tables, changed.calendar)
    books.take_in(workplace, orla, write(later, tmp_path / "two"))
    page.sign_in("OB")
    page.says("2 seals broken")
    page.open("/clients/SEALED/sign-off")
    page.says("The seal is broken: the books are not what was signed.")
    page.says("12.30 → 0.00 −12.30")
    page.says("Entry T6 is gone")
    page.says("This was signed off, but the books are not what was signed.")
    page.find("image", "Broken seal as at 31 Oct 2026")
    page.find(
        "button",
        "Oct, posting barred, the trial balance is signed off and sealed as at 31 October 2026, 0 of 6 tie-outs agreed, signed off as at 31 October 2026, the seal is broken",
    )


def test_newer_books_are_seen_first_and_a_correction_the_client_entered_too_is_taken_back(
    page: Page, workplace, tmp_path
):
    orla = staff.person_named(workplace, "OB")
    books.take_in(workplace, orla, write(small_books("TWICE"), tmp_path / "one"))
    point = next(
        row.point for row in review.points(workplace, orla, "TWICE")
        if row.point.check == "duplicate-document"
    )  # fmt: skip
    act = by_route(point.id, "void", {"transaction": "T3"})
    acts.post(workplace, orla, "TWICE", act, PostRequest("one delivery, one bill"))
    newer = zipped(write(credited("TWICE"), tmp_path / "two"), tmp_path / "newer.zip")
    page.sign_in("OB")
    page.open("/clients/TWICE/books")
    page.says("Drop newer books or a bank statement anywhere here")
    page.keys("t")
    page.find("field", "Choose a file to take in").send_keys(str(newer))
    page.says("Newer books of TWICE & Co")
    page.says("1 new, 0 changed, 0 gone. Nothing is taken in yet")
    page.says("Corrections of ours that they have too")
    page.says("C1 of 2 June 2026, which came with newer books, does what C-2026-1 of ours does")
    assert page.driver.switch_to.active_element.text == "Take them in"
    page.keys(Keys.ENTER)
    page.says("TWICE is taken in.")
    page.open("/clients/TWICE/review")
    page.says("Take C-2026-1 of ours back; C1 stands in its place")
    page.post()
    page.says("1 open")
    assert page.figure("Profit to 31 Oct") == "(112.30)"
    page.open("/clients/TWICE/entries")
    page.says("The client entered it too, as C1.")


def test_a_partner_signs_over_what_is_missing_and_the_reason_stays(page: Page):
    page.sign_in("OB")
    page.open("/clients/BRIG/sign-off")
    page.says("sure points are left undecided")
    assert not page.find("button", "Sign and seal").is_enabled()
    page.press("field", "Sign over what is missing, as a partner")
    page.fill("Why: it prints in the pack", "the bank wants it today")
    page.fill("Password of Orla Brandt", "lantern-orla")
    page.press("button", "Sign and seal Brightwater Veterinary Ltd")
    page.says("Signed over what was missing: the bank wants it today")


def test_the_desk_carries_on_where_one_left(page: Page):
    page.sign_in("IO")
    page.open("/clients/COPP/worksheet")
    page.says("Worksheet as at 30 September 2026")
    page.until(
        lambda: page.driver.execute_script(
            "return fetch('/api/desk').then((r) => r.json())"
            ".then((d) => d.rows.find((r) => r.code === 'COPP').carry_on)"
        ),
        "the place to be kept",
    )
    page.keys("g", "d")
    page.says("What is next")
    page.press("button", "Carry on with Copperbell Couriers Ltd")
    page.says("Worksheet as at 30 September 2026")


def test_the_desk_is_filtered_and_says_when_nothing_fits(page: Page):
    page.sign_in("OB")
    page.fill("Filter the clients", "tomas salt")
    page.until(lambda: "Copperbell" not in page.text, "the filter")
    page.says("Saltmarsh Kayaks")
    page.fill("Filter the clients", "nobody")
    page.says("No client fits.")


def test_a_practice_without_clients_says_what_would_be_there(page: Page, workplace):
    for client in staff.person_named(workplace, "IO").clients:
        staff.give_client(workplace, staff.person_named(workplace, "OB"), "IO", client, give=False)
    page.sign_in("IO")
    page.says("No clients yet")
    page.press("button", "Take in books")
    page.says("Drop a books folder here, as a .zip")


def many_clients(workplace: Workplace, tmp_path, count: int) -> None:
    """The desk's summaries for clients of which only the row is looked at."""
    orla = staff.person_named(workplace, "OB")
    folder = write(small_books("FIRST"), tmp_path / "first")
    books.take_in(workplace, orla, folder)
    bring_up_to_date(workplace)
    with workplace.database.writing() as connection:
        (kept,) = connection.execute(
            "SELECT content FROM summaries JOIN clients ON id = client_id WHERE code = 'FIRST'"
        ).fetchone()
        for number in range(count):
            (client,) = connection.execute(
                "INSERT INTO clients (code) VALUES (?) RETURNING id", (f"MANY{number:03d}",)
            ).fetchone()
            connection.execute(
                "INSERT INTO summaries VALUES (?, 0, ?, ?)",
                (client, workplace.today.isoformat(), kept),
            )


def test_three_hundred_clients_stand_on_one_desk(page: Page, workplace, tmp_path):
    many_clients(workplace, tmp_path, 300)
    page.sign_in("OB")
    page.says("312 clients")
    page.keys(Keys.END)
    assert len(page.driver.find_elements(By.CSS_SELECTOR, "tbody tr[class*=cursor]")) == 312
    for _ in range(5):
        page.keys(Keys.ARROW_DOWN)
    assert page.part("tr[aria-current]").is_displayed()


def test_the_theme_is_chosen_and_kept(page: Page):
    page.sign_in("IO")
    page.press("button", "IO: Ines Okonjo")
    page.press("menu", "Dark theme")
    page.until(
        lambda: (
            page.driver.execute_script("return document.documentElement.dataset.theme") == "dark"
        ),
        "the dark theme",
    )
    page.open("/clients/SALT/review")
    page.says("Review")
    assert page.driver.execute_script("return document.documentElement.dataset.theme") == "dark"


def test_signing_out_ends_the_session_and_a_session_that_ended_shows_the_door(
    page: Page, workplace
):
    page.sign_in("IO")
    page.press("button", "IO: Ines Okonjo")
    page.press("menu", "Sign out")
    page.says("Come in as")
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.says("Worksheet as at")
    staff.set_password(workplace, staff.person_named(workplace, "OB"), "IO", "another long one")
    page.says("Come in as")


def test_a_page_that_is_not_there_and_a_client_that_is_not_one_s_own_say_so(page: Page):
    page.sign_in("IO")
    page.open("/clients/BRIG/review")
    page.says("There is no client 'BRIG' here.")
    page.press("link", "Go to the desk")
    page.says("What is next")
    page.open("/nowhere/at/all")
    page.says("This page can't be shown")
    page.open("/clients/SALT/worksheet?open=transaction~T9999")
    page.says("There is no transaction 'T9999' here.")
    # What was refused is told on the page, and in the browser's log besides.
    assert page.faults()


def test_what_was_typed_is_kept_when_the_server_can_not_be_reached(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("As it will stand")
    page.fill("Reason, kept for good", "typed before the line went down")
    page.cut_off("*/api/*")
    page.post()
    page.says("The server can not be reached. What you typed is kept")
    field = page.find("field", "Reason, kept for good")
    assert field.get_attribute("value") == "typed before the line went down"


def test_points_that_wait_for_the_client_move_the_desk(page: Page, workplace):
    ines = staff.person_named(workplace, "IO")
    for stated in review.points(workplace, ines, "COPP"):
        review.decide(workplace, ines, "COPP", stated.point.id, "ask", "What was it?")
    page.sign_in("IO")
    page.says("2 waiting for a client")
    assert "client, since" in page.find("row", "Copperbell").text


def test_the_bank_is_asked_for_the_statements_of_the_clients_that_are_chosen(page: Page):
    page.sign_in("IO")
    page.press("field", "Choose Saltmarsh Kayaks")
    page.press("field", "Choose Copperbell Couriers Ltd")
    page.press("button", "Take in statements of 2 clients")
    page.says("No bank account of this client has a number to ask the bank for.")
    page.says("4 new lines, 7 known")
    page.press("link", "Agree them")
    page.says("29 to settle")
    page.press("field", "Statement")
    page.says("16 November 2026, 4 left")


def test_find_looks_in_the_client_first_and_in_all_of_one_s_own_when_asked(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    page.says("Worksheet as at")
    page.keys("/")
    page.fill("Client, account, party", "246")
    page.says("RW-0117")
    page.says_no_more("Breakwater Motors")
    page.keys("a", held=Keys.ALT)
    page.says("Breakwater Motors")
    page.says("Copperbell Couriers Ltd")
    page.fill("Client, account, party", "spokesh 261.18")
    page.says("12 Nov 2025")
    page.keys(Keys.ENTER)
    page.until(lambda: "/clients/HOLL/entries" in page.driver.current_url, "the other client")
    page.says("261.18")
