"""The real interface, in headless Chromium, on a copy of the demo practice for each test."""

import contextlib
import shutil
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from selenium import webdriver
from selenium.common.exceptions import (
    ElementClickInterceptedException,
    NoSuchElementException,
    StaleElementReferenceException,
)
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from waitress import create_server

from corkpost.api.app import create_app
from corkpost.demo import practice
from corkpost.services.background import Repeating, background_of
from corkpost.services.jobs import Worker
from corkpost.services.mail import Mail
from corkpost.services.workplace import Workplace
from corkpost.stand_ins.bank import BankServer
from corkpost.stand_ins.mailbox import StandInMail

FLAGS = (
    "--headless --no-sandbox --disable-gpu --disable-quic --no-first-run "
    "--disable-background-networking --disable-component-update --disable-sync "
    "--disable-dev-shm-usage --force-prefers-reduced-motion"
).split()
WAIT_SECONDS = 20
NOT_YET = (
    ElementClickInterceptedException,
    NoSuchElementException,
    StaleElementReferenceException,
)
"""What a page that is still being drawn answers with."""

# What a person would call it: its label, else its words. The first that is seen wins.
FIND = """
const [css, name, exact] = arguments
const clean = (text) => (text || '').replace(/\\s+/g, ' ').trim()
function nameOf(element) {
  const label = element.getAttribute('aria-label')
  if (label) return clean(label)
  if (element.labels && element.labels.length) return clean(element.labels[0].innerText)
  return clean(element.innerText || element.textContent)
}
const fits = (found) => (exact ? found === name : found.includes(name))
const seen = (element) => element.getClientRects().length > 0 || element.type === 'file'
// What lies behind a window is out of reach.
const within = [...document.querySelectorAll('[role=dialog]')].at(-1) || document
return [...within.querySelectorAll(css)].find((one) => seen(one) && fits(nameOf(one))) || null
"""
SIGN_IN = """
const [code, password, done] = arguments
fetch('/api/session', {
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify({ code, password }),
}).then((answer) => done(answer.status))
"""
ROLES = {
    "button": "button, [role=button]",
    "link": "a[href]",
    "field": "input, textarea, select, [role=combobox]",
    "heading": "h1, h2, h3, [role=heading]",
    "row": "tr",
    "radio": "[role=radio], input[type=radio]",
    "image": "[role=img]",
    "menu": "[role=menuitem]",
    "listed": "li, [role=option]",
}


class Page:
    """A browser window, used by the names that a person would use."""

    def __init__(self, driver: webdriver.Chrome, base: str) -> None:
        self.driver = driver
        self.base = base

    def open(self, path: str) -> None:
        self.driver.get(self.base + path)

    def until(self, asked: Callable[[], Any], what: str) -> Any:
        """The first true answer within the wait; the test fails with *what* else."""
        end = time.monotonic() + WAIT_SECONDS
        while time.monotonic() < end:
            try:
                found = asked()
            except NOT_YET:
                found = None
            if found:
                return found
            time.sleep(0.05)
        text = self.driver.execute_script("return document.body.innerText")
        raise AssertionError(f"{what} did not come. The page says:\n{text[:3000]}")

    def find(self, role: str, name: str, *, exact: bool = False) -> WebElement:
        found: WebElement = self.until(
            lambda: self.driver.execute_script(FIND, ROLES[role], name, exact), f"{role} {name!r}"
        )
        return found

    def part(self, css: str) -> WebElement:
        """A part of the page that has no name of its own."""
        found: WebElement = self.until(
            lambda: self.driver.find_element(By.CSS_SELECTOR, css), f"the part {css!r}"
        )
        return found

    def press(self, role: str, name: str, *, exact: bool = False) -> None:
        def clicked() -> bool:
            found = self.find(role, name, exact=exact)
            if not found.is_enabled():
                return False
            try:
                found.click()
            except ElementClickInterceptedException:
                # Something that stays in view lies over it: a person scrolls, and so does this.
                self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", found)
                return False
            return True

        self.until(clicked, f"{role} {name!r} to be pressed")

    def reach(self, name: str) -> WebElement:
        """A field, brought to where nothing that stays in view lies over it."""
        field = self.find("field", name)
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
        return field

    def fill(self, name: str, text: str) -> WebElement:
        field = self.reach(name)

        def clicked() -> bool:
            try:
                field.click()
            except ElementClickInterceptedException:
                # What appears above it pushes it down: a person waits until the page stands still.
                return False
            return True

        self.until(clicked, f"the field {name!r} to be reached")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)
        return field

    def keys(self, *keys: str, held: str | None = None) -> None:
        chain = ActionChains(self.driver)
        if held:
            chain.key_down(held)
        chain.send_keys(*keys)
        if held:
            chain.key_up(held)
        chain.perform()

    def post(self) -> None:
        """Ctrl+Enter, as on every page; by a person, who looks first at what it would do."""
        time.sleep(0.6)
        self.keys(Keys.ENTER, held=Keys.CONTROL)

    @property
    def text(self) -> str:
        return str(self.driver.execute_script("return document.body.innerText"))

    def says(self, words: str) -> None:
        self.until(lambda: words in self.text, f"the words {words!r}")

    def says_no_more(self, words: str) -> None:
        self.until(lambda: words not in self.text, f"{words!r} gone")

    def figure(self, label: str) -> str:
        """A figure of the effect strip, with what it moves to."""
        lines = self.text.splitlines()
        return lines[lines.index(label) + 1] if label in lines else ""

    def sign_in(self, code: str) -> None:
        """Come in as the page's own form does; the form itself is walked in a test of its own."""
        self.open("/favicon.svg")
        status = self.driver.execute_async_script(SIGN_IN, code, practice.STAFF[code][2])
        assert status == 200, status
        self.open("/")
        self.says("What is next")

    def cut_off(self, *addresses: str) -> None:
        """Let nothing through to these addresses any more: `*` for all."""
        self.driver.execute_cdp_cmd("Network.enable", {})
        self.driver.execute_cdp_cmd("Network.setBlockedURLs", {"urls": list(addresses)})

    def slow_down(self, milliseconds: int) -> None:
        """Let every answer come so much later; 0 as fast as ever."""
        self.driver.execute_cdp_cmd("Network.enable", {})
        slow = {
            "offline": False,
            "latency": milliseconds,
            "downloadThroughput": -1,
            "uploadThroughput": -1,
        }
        self.driver.execute_cdp_cmd("Network.emulateNetworkConditions", slow)

    def faults(self) -> list[str]:
        """What the browser complained of: errors, and whatever the policy stopped."""
        log: list[dict[str, str]] = self.driver.get_log("browser")
        return [
            entry["message"]
            for entry in log
            if entry["level"] == "SEVERE" and "/api/" not in entry["message"]
        ]


@pytest.fixture(scope="session")
def driver(tmp_path_factory: pytest.TempPathFactory) -> Iterator[webdriver.Chrome]:
    options = webdriver.ChromeOptions()
    for flag in FLAGS:
        options.add_argument(flag)
    options.add_argument(f"--user-data-dir={tmp_path_factory.mktemp('chromium')}")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    made = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    made.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride",
        {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False},
    )
    yield made
    made.quit()


@pytest.fixture(scope="session")
def made_demo(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo's data folder, made once and copied for each test; without its largest client."""
    folder = tmp_path_factory.mktemp("demo")
    workplace = Workplace(folder, practice.TODAY)
    practice.make(workplace, leave_out=frozenset({"GULL", "TEAL", "ROST"}))
    workplace.database.reading.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    workplace.close()
    return folder


@pytest.fixture
def workplace(made_demo: Path, tmp_path: Path) -> Iterator[Workplace]:
    shutil.copytree(made_demo, tmp_path / "data")
    made = Workplace(tmp_path / "data", practice.TODAY)
    yield made
    made.close()


@pytest.fixture(scope="session")
def bank() -> BankServer:
    made = BankServer(practice.stand_in_bank())
    made.start()
    return made


@pytest.fixture
def page(driver: webdriver.Chrome, workplace: Workplace, bank: BankServer) -> Iterator[Page]:
    """The practice served, and nobody signed in. It has a workplace of its own: what a test does at
    `place` comes from somebody else."""
    served = Workplace(workplace.database.folder, practice.TODAY)
    mail = StandInMail(practice.client_says, after=0.5)
    mail.start()
    served.bank_address = bank.address
    served.mail = Mail(mail.out, mail.into, practice.ADDRESS)
    server = create_server(create_app(served), host="127.0.0.1", port=0, threads=8)

    def serve() -> None:
        # It is closed under the wait for its next request.
        with contextlib.suppress(OSError):
            server.run()

    threading.Thread(target=serve, name="served", daemon=True).start()
    beside: tuple[Worker | Repeating, ...] = (Worker(served), *background_of(served))
    for worker in beside:
        worker.start()
    yield from _opened(driver, f"http://127.0.0.1:{server.effective_port}")
    for worker in beside:
        worker.stop()
    server.close()
    server.task_dispatcher.shutdown()
    # What the browser keeps open for its next request is not left to the collector.
    for channel in list(server.active_channels.values()):
        channel.close()
    mail.stop()
    served.close()


@pytest.fixture
def by_command(driver: webdriver.Chrome, workplace: Workplace) -> Iterator[Page]:
    """The same, served by the command that people use."""
    command = Path(sys.executable).with_name("corkpost")
    words = ["--data", workplace.database.folder, "--today", practice.TODAY, "serve", "--port", "0"]
    with subprocess.Popen([command, *map(str, words)], stdout=subprocess.PIPE, text=True) as server:
        assert server.stdout
        yield from _opened(driver, server.stdout.readline().split()[-1])
        server.terminate()
        # It leaves in order, with its requests answered.
        assert server.wait(timeout=20) == 0


def _opened(driver: webdriver.Chrome, address: str) -> Iterator[Page]:
    driver.delete_all_cookies()
    made = Page(driver, address)
    made.open("/favicon.svg")
    driver.execute_script("localStorage.clear()")
    driver.get_log("browser")
    yield made
    made.cut_off()
    made.slow_down(0)
    faults = made.faults()
    driver.get("about:blank")
    assert faults == []
