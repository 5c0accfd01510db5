"""The practice's people, their sessions and second factors, and the record, on the running pages."""

import pyotp

from tests.browser.conftest import Page


def test_somebody_joins_by_a_link_sets_up_a_second_factor_and_leaves_and_all_is_on_record(
    page: Page,
):
    page.sign_in("OB")
    page.open("/practice")
    page.says("Somebody joins")
    page.keys("n")
    page.fill("Code", "NN")
    page.fill("Name", "Nell Neap")
    page.press("button", "Invite them")
    page.says("Give Nell Neap this link")
    link = next(word for word in page.text.split() if "/invitation/" in word)
    page.driver.delete_all_cookies()

    page.driver.get(link)
    page.says("Welcome, Nell Neap")
    page.fill("Password, 12 signs or more", "short")
    page.press("button", "Set it, and come in")
    page.says("A password has at least 12 signs")
    page.fill("Password, 12 signs or more", "heron by the tidal gate")
    page.press("button", "Set it, and come in")
    page.says("What is next")
    page.open("/account")
    page.press("button", "Set it up")
    page.says("Have your device read this picture")
    groups = page.text.split("key the secret into it:")[1].split("The six figures")[0]
    device = pyotp.TOTP("".join(groups.split()))
    page.fill("The six figures that it shows", device.now())
    page.press("button", "It shows these")
    page.says("Keep these where your device is not")
    recovery = page.part("section[aria-label='Second factor'] li").text
    page.press("button", "They are kept")
    page.says("set up")
    page.driver.delete_all_cookies()

    page.open("/")
    page.fill("Your code", "NN")
    page.fill("Password", "heron by the tidal gate")
    page.press("button", "Sign in")
    page.says("Key the six figures that your device shows")
    page.fill("Code of your device, or a recovery code", recovery)
    page.press("button", "Sign in")
    page.says("What is next")
    page.driver.delete_all_cookies()

    page.sign_in("OB")
    page.open("/practice")
    page.press("button", "Change Nell Neap")
    page.press("button", "Nell Neap leaves")
    page.press("button", "Nell Neap leaves today")
    page.says("Left: Nell Neap")
    page.open("/practice/record")
    page.fill("A word, a person, a client", "NN")
    page.says("NN Nell Neap left")
    page.says("recovery code used, 7 left")
    page.says("second factor set up")


def test_a_session_that_a_partner_ends_comes_back_with_what_was_typed(page: Page, workplace):
    from corkpost.services import sessions, staff

    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    page.says("Adjusting entry, not yet posted")
    orla = staff.person_named(workplace, "OB")
    # Typed before: the page asks for news by itself, and the sign-in lies over it as soon as it is refused.
    page.fill("Reason", "what the bank charged")
    for row in sessions.listed(workplace, orla, "IO"):
        sessions.end(workplace, orla, row.id, "a lost machine")
    page.says("your session has ended")
    page.fill("Password", "lantern-ines")
    page.press("button", "Sign in")
    reason = page.reach("Reason")
    assert reason.get_attribute("value") == "what the bank charged"


def test_months_and_limits_are_set_for_several_clients_and_each_says_what_came_of_it(page: Page):
    page.sign_in("OB")
    page.open("/practice/clients")
    page.press("field", "Saltmarsh Kayaks")
    page.press("field", "Meridian Players")
    page.fill("Months to", "30.6")
    page.fill("Reason, kept with each month", "the half year is done")
    page.press("button", "Set the months")
    page.says("Done: 6 months to 30 June 2026")
    page.says("Not done: All of it is barred: the trial balance is signed off")
    page.fill("Letter of engagement of", "5.1")
    page.reach("The client's own rows are corrected").send_keys("once")
    page.fill("Reason, kept with each client", "the letters of this year")
    page.press("button", "Set limits and letter")
    page.says("client agrees first")
    page.says("5 Jan 2026")
    page.press("field", "Saltmarsh Kayaks")
    page.fill("Meridian Players leaves: why", "they dissolved")
    page.press("button", "Archive it")
    page.says("to be kept until 31 Aug 2037")
    page.open("/clients/MERI/books")
    page.says("Archived. It is read, and nothing is written to it.")
    page.open("/")
    page.says("What is next")
    assert "Meridian Players" not in page.text
    page.open("/practice/clients")
    page.press("button", "Bring back")
    page.fill("Why it is worked on again", "by mistake")
    page.press("button", "Bring MERI back")
    page.says("250.00")


def test_what_matters_asks_for_the_password_once_more_and_goes_on(page: Page, workplace):
    page.sign_in("OB")
    page.open("/clients/MERI/sign-off")
    with workplace.database.writing() as connection:
        connection.execute("UPDATE sessions SET confirmed = 0")
    page.press("button", "as received")
    page.says("Your password once more")
    page.fill("Password, or a code of your second factor", "wrong")
    page.press("button", "Go on")
    page.says("That is not your password")
    page.fill("Password, or a code of your second factor", "lantern-orla")
    page.press("button", "Go on")
    page.says("the books are given out")
