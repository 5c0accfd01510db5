"""axe-core finds nothing on any page, in either theme; keys and focus do what they should."""

from pathlib import Path

import pytest
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page

pytestmark = pytest.mark.browser

AXE = Path("frontend/node_modules/axe-core/axe.min.js")
RUN = """
const done = arguments[arguments.length - 1]
axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'] })
  .then((found) => done(found.violations.map((one) =>
    `${one.id}: ${one.help}: ${one.nodes.map((node) => node.html.slice(0, 160)).slice(0, 3).join(' | ')}`)))
"""
PAGES = {
    "/": "What is next",
    "/clients/SALT/bank": "29 to settle",
    "/clients/SALT/bank?statement=10": "Finished by IO",
    "/clients/COPP/bank": "No statement yet",
    "/clients/SALT/review": "As it will stand",
    "/clients/SALT/entries/draft-electricity10": "to credit",
    "/clients/SALT/entries/A-2026-2": "Take change",
    "/clients/SALT/entries/all": "All postings",
    "/clients/SALT/worksheet": "What the business owns",
    "/clients/SALT/worksheet?view=trial-balance": "as received, without our entries",
    "/clients/SALT/worksheet?open=account~2100": "Who owes what",
    "/clients/SALT/worksheet?open=aged~payables": "the control account stands there too",
    "/clients/SALT/worksheet?open=transaction~T0601": "246.00 of it is open",
    "/clients/SALT/worksheet?view=statements": "Balance sheet",
    "/clients/BRIG/worksheet?view=reading": "Analytical reading",
    "/clients/SALT/tie-outs?proof=tax": "in no return",
    "/clients/SALT/sign-off": "Who may post",
    "/clients/SALT/review?year=2027": "Review",
    "/clients/SALT/queries": "To be sent",
    "/clients/HOLL/queries": "Waiting for the client",
    "/clients/SALT/open-items/payables": "the control account stands there too",
    "/clients/BRIG/owners": "Overdrawn since",
    "/clients/SALT/books": "What came when",
    "/clients/MOOR/sign-off": "In all, against materiality",
    "/clients/SALT/entries/bookkeeper": "So that it does not happen again",
    "/clients/BRIG/entries/proposal-1": "Approve and post",
}


def violations(page: Page) -> list[str]:
    page.driver.execute_script(AXE.read_text("utf-8"))
    return list(page.driver.execute_async_script(RUN))


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_axe_finds_nothing(page: Page, theme):
    page.open("/")
    page.driver.execute_script(f"localStorage.setItem('corkpost theme', '\"{theme}\"')")
    page.open("/")
    page.says("Come in as")
    found = {"sign-in": violations(page)}
    page.sign_in("OB")
    for path, words in PAGES.items():
        page.open(path)
        page.says(words)
        found[path] = violations(page)
    page.open("/clients/SALT/bank?statement=11")
    page.says("29 to settle")
    page.press("button", "Record it…")
    page.says("As it will stand")
    found["a point of the bank, in place"] = violations(page)
    page.keys(Keys.ESCAPE)
    page.keys("t")
    page.says("whatever its name")
    found["taking in a statement"] = violations(page)
    page.open("/clients/PEBB/owners")
    page.press("button", "Share the profit")
    page.says("Stands then at")
    found["sharing profit"] = violations(page)
    page.open("/clients/COPP/review")
    page.press("button", "sure together")
    page.says("What moves by")
    found["taken together"] = violations(page)
    page.open("/clients/SALT/entries/T0774")
    page.press("button", "Receipt for it")
    page.says("It settles")
    found["receipt"] = violations(page)
    page.open("/clients/SALT/worksheet")
    page.says("Worksheet as at")
    page.keys("/")
    page.fill("Client, account, party", "246")
    page.says("Reedwharf Fuels")
    found["finder"] = violations(page)
    told = [f"{path}: {fault}" for path, all_of_it in found.items() for fault in all_of_it]
    assert not told, "\n".join(told)


@pytest.mark.parametrize("width", [1024, 1280, 1920])
def test_the_page_itself_never_scrolls(page: Page, width):
    page.sign_in("OB")
    page.driver.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride",
        {"width": width, "height": 800, "deviceScaleFactor": 1, "mobile": False},
    )
    try:
        for path, words in PAGES.items():
            page.open(path)
            page.says(words)
            wide, high = page.driver.execute_script(
                "const page = document.documentElement;return [page.scrollWidth, page.scrollHeight]"
            )
            # The parts of a page scroll within it: its head and the strip always stand.
            assert (wide <= width, high <= 800) == (True, True), (path, wide, high)
    finally:
        page.driver.execute_cdp_cmd(
            "Emulation.setDeviceMetricsOverride",
            {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False},
        )


def test_the_keys_of_a_page_are_listed_and_the_focus_comes_back(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("As it will stand")
    page.keys("?")
    page.says("post what is prepared")
    page.says("go to worksheet")
    page.keys(Keys.ESCAPE)
    page.says_no_more("Keys of this page")
    button = page.find("button", "Find /")
    button.click()
    page.find("field", "Client, account, party")
    page.keys(Keys.ESCAPE)
    page.until(
        lambda: page.driver.switch_to.active_element == page.find("button", "Find /"), "the focus"
    )


def test_no_page_asks_anything_of_another_host(page: Page):
    page.sign_in("OB")
    for path, words in PAGES.items():
        page.open(path)
        page.says(words)
        asked = page.driver.execute_script(
            "return performance.getEntriesByType('resource').map((one) => one.name)"
        )
        assert asked
        assert [name for name in asked if not name.startswith(page.base)] == []
