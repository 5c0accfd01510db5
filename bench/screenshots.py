"""Takes the pictures in docs/screenshots from a fresh demo practice. Run by `make screenshots`."""

import subprocess
import sys
import tempfile
import time
from datetime import date
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from tests.browser.conftest import FLAGS, Page

from corkpost.core.kinds import PeriodState
from corkpost.core.tie_outs.agreeing import AgreeTieOut, stated_tie_outs
from corkpost.demo import practice
from corkpost.services import acts, many, review, sign_off, staff
from corkpost.services.keeping_up import bring_up_to_date
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Workplace

TO = Path("docs/screenshots")
SIGNED = date(2026, 10, 31)


def signed_brig(workplace: Workplace) -> None:
    """Brightwater reviewed, proved and signed, so that a postmark can be seen."""
    pell, tomas = staff.person_named(workplace, "PH"), staff.person_named(workplace, "TV")
    for stated in review.points(workplace, tomas, "BRIG"):
        if stated.state == "open":
            review.decide(
                workplace, tomas, "BRIG", stated.point.id, "leave", "agreed with the client"
            )
    for proved in stated_tie_outs(workplace.ledger(pell, "BRIG").books, SIGNED):
        outside = proved.tie_out.books if proved.tie_out.outside is None else None
        note = "the paper seen"
        act = AgreeTieOut(proved.tie_out.id, SIGNED, note, outside)
        acts.post(workplace, pell, "BRIG", act, PostRequest(note))
    for item in sign_off.checklist(workplace, pell, "BRIG", SIGNED):
        sign_off.tick(workplace, pell, "BRIG", SIGNED, item.item.id, done=True)
    sign_off.sign_off(workplace, tomas, "BRIG", SIGNED, practice.STAFF["TV"][2])
    bring_up_to_date(workplace)


def letters(workplace: Workplace) -> None:
    """Letters of engagement; by two of them the client agrees before a correction."""
    orla = staff.person_named(workplace, "OB")
    known = [row.facts.code for row in many.standing(workplace, orla)]
    letters_of = {"engaged_on": "12.1"}
    many.set_facts(workplace, orla, known[:-2], letters_of, "the letters of this year")
    first = {"engaged_on": "3.2", "may_change": "asked"}
    many.set_facts(workplace, orla, ("MOOR", "TIDE"), first, "the letters of this year")
    many.set_states(workplace, orla, ("HOLL", "KILN"), "30.9", PeriodState.HELD, "reviewed")


def browser(profile: str) -> webdriver.Chrome:
    options = webdriver.ChromeOptions()
    for flag in [*FLAGS, f"--user-data-dir={profile}"]:
        options.add_argument(flag)
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    size = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    return driver


def take(page: Page, name: str, path: str, words: str) -> None:
    page.open(path)
    page.says(words)
    shoot(page, name)


def shoot(page: Page, name: str) -> None:
    time.sleep(0.6)
    page.driver.save_screenshot(str(TO / f"{name}.png"))
    print(f"{TO / name}.png")


def walk(page: Page, arrived: Path) -> None:
    """Every main view, in the order of the work. *arrived*: where clients' own files lie."""
    page.sign_in("OB")
    take(page, "desk", "/", "What is next")
    page.open("/take-in?client=TEAL")
    page.says("Drop everything together")
    sent = sorted((arrived / "TEAL" / "next").iterdir())
    page.find("field", "Choose files").send_keys("\n".join(map(str, sent)))
    page.says("agree with what was read")
    page.until(lambda: page.find("button", "Take it in").is_enabled(), "what comes")
    shoot(page, "take-in")
    take(page, "books", "/clients/SALT/books", "What came when")
    take(page, "lists", "/clients/SALT/books/lists", "Ledger")
    page.open("/clients/SALT/books/accounts")
    page.press("row", "6300 Card fees")
    page.says("its name says")
    shoot(page, "accounts")
    page.open("/clients/SALT/bank")
    page.says("29 to settle")
    page.keys("s")
    page.says("7 to settle")
    page.keys("s")
    page.says("4 to settle")
    time.sleep(6)
    shoot(page, "bank")
    take(page, "takings", "/clients/FENN/bank?view=in-hand", "Short or over")
    take(page, "review", "/clients/SALT/review", "As it will stand")
    page.keys(Keys.ARROW_DOWN)
    page.says("The same bill from Reedwharf Fuels")
    page.says("As it will stand")
    shoot(page, "review")
    page.open("/clients/SALT/open-items/payables")
    page.press("row", "Low Tide Cleaning")
    page.find("button", "LT085, 163.14, 163.14 open").click()
    page.find("button", "T0827, 342.40, 342.40 open").click()
    page.says("Sets T0827 against")
    shoot(page, "open-items")
    page.open("/clients/SALT/queries")
    page.press("button", "Read and send")
    page.says("Dear Mara Salt")
    page.post()
    page.says("Waiting for the client")
    end = time.monotonic() + 20
    while "I attach what they sent" not in page.text and time.monotonic() < end:
        page.press("button", "Look for answers")
        time.sleep(0.5)
    time.sleep(6)
    shoot(page, "queries")
    take(page, "owners", "/clients/BRIG/owners", "Overdrawn since")
    take(page, "entry", "/clients/SALT/entries/draft-electricity10", "to credit")
    page.driver.find_element(By.CSS_SELECTOR, '[aria-label="Account, line 2"]').click()
    ActionChains(page.driver).send_keys("accr").perform()
    page.says("liability")
    page.keys(Keys.ENTER)
    page.driver.find_element(By.CSS_SELECTOR, '[aria-label="Credit, line 2"]').click()
    page.keys(Keys.ENTER)
    page.says("As it will stand, 1 Nov 2026")
    shoot(page, "entry")
    take(page, "assets", "/clients/KILN/entries/assets", "evenly, 50 years")
    take(page, "worksheet", "/clients/TAMA/worksheet", "1 to clear")
    take(page, "statements", "/clients/SALT/worksheet?view=statements", "Balance sheet")
    take(page, "tie-outs", "/clients/SALT/tie-outs?proof=tax", "in no return")
    take(page, "bookkeeper", "/clients/SALT/entries/bookkeeper", "So that it does not happen")
    take(page, "sign-off", "/clients/BRIG/sign-off", "Sign-offs so far")
    take(page, "practice", "/practice/clients", "client agrees first")


def main() -> None:
    TO.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        workplace = Workplace(Path(folder) / "data", practice.TODAY)
        practice.make(workplace)
        signed_brig(workplace)
        letters(workplace)
        bring_up_to_date(workplace)
        workplace.close()
        command = Path(sys.executable).with_name("corkpost")
        words = [
            "--data",
            workplace.database.folder,
            "--today",
            practice.TODAY,
            "serve",
            "--port",
            "0",
        ]
        served = [str(command), *map(str, words)]
        with subprocess.Popen(served, stdout=subprocess.PIPE, text=True) as server:
            assert server.stdout
            driver = browser(f"{folder}/profile")
            walk(
                Page(driver, server.stdout.readline().split()[-1]),
                workplace.database.folder / "arrived",
            )
            driver.quit()
            server.terminate()


if __name__ == "__main__":
    main()
