"""Where the focus is, which keys work after it, and that nothing is posted that was not seen."""

import json
from functools import partial

import pytest
from selenium.webdriver.common.keys import Keys

from corkpost.services import entries, staff
from tests.browser.conftest import Page

pytestmark = pytest.mark.browser
FOCUS = """
const at = document.activeElement
if (at === document.body) return ''
return at.getAttribute('aria-label') || at.labels?.[0]?.innerText || at.innerText
"""
# The same keys at once, as the next case takes the place of the first; then held down.
PRESS_AT_THE_NEXT_CASE = """
const title = () => document.querySelector('article h1')?.innerText
const before = title()
const press = (repeat) =>
  window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', ctrlKey: true, repeat }))
const watch = new MutationObserver(() => {
  const post = [...document.querySelectorAll('article button')].find((one) => one.innerText.startsWith('Post'))
  if (!title() || title() === before || !post || post.disabled) return
  watch.disconnect()
  setTimeout(() => press(false), 60)
  setTimeout(() => press(true), 1200)
  setTimeout(() => { window.heldDown = true }, 2500)
})
watch.observe(document.body, { childList: true, subtree: true, attributes: true })
"""
REACHED = """
const far = arguments[0].getBoundingClientRect()
document.scrollingElement.scrollBy(far.left - 200, far.top - 100)
const box = arguments[0].getBoundingClientRect()
const at = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2)
return arguments[0].contains(at)
"""


def focus_is_on(page: Page, name: str) -> None:
    """The focus comes to what is called that; nowhere, where it is empty."""

    def there() -> bool:
        found = str(page.driver.execute_script(FOCUS)).strip()
        return found.startswith(name) if name else found == ""

    page.until(there, f"the focus on {name!r}")


def test_the_door_begins_at_the_code(page: Page):
    page.open("/")
    focus_is_on(page, "Your code")
    assert page.driver.title == "Sign in · Cork Post"


def test_a_new_entry_begins_at_its_first_field_and_enter_goes_on_to_the_lines(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries")
    page.says("not yet posted")
    assert page.driver.title == "Entries · Saltmarsh Kayaks · Cork Post"
    page.keys("n")
    focus_is_on(page, "Kind")
    for name in ("Date", "Reverses on", "Own reference", "Reason", "Account, line 1"):
        page.keys(Keys.ENTER)
        focus_is_on(page, name)
    # Escape leaves the field, and the page's keys work again.
    page.keys(Keys.ESCAPE)
    focus_is_on(page, "")
    page.keys("a")
    page.says("All postings")


def test_a_draft_is_taken_up_where_it_lacks_something(page: Page, workplace):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    page.fill("Reason, printed in the pack", "Rent of the slipway")
    page.fill("Account, line 1", "rent")
    page.keys(Keys.ENTER)
    person = staff.person_named(workplace, "IO")

    def is_kept_whole() -> bool:
        kept = [json.loads(draft.content) for draft in entries.drafts(workplace, person, "SALT")]
        mine = [row for row in kept if row["reason"] == "Rent of the slipway"]
        return any(line["account"] for row in mine for line in row["lines"])

    page.until(is_kept_whole, "the account in the draft that is kept")
    page.open("/clients/SALT/entries")
    page.press("button", "Rent of the slipway")
    focus_is_on(page, "Debit, line 1")


def test_what_was_handed_in_leaves_an_empty_entry_to_begin_with(page: Page, workplace):
    page.sign_in("PH")
    page.open("/clients/KILN/entries")
    page.keys("n")
    page.fill("Reason, printed in the pack", "Glaze not yet billed")
    page.fill("Account, line 1", "clay")
    page.keys(Keys.ENTER)
    page.fill("Debit, line 1", "120")
    page.fill("Account, line 2", "accr")
    page.keys(Keys.TAB)
    page.fill("Credit, line 2", "120")
    page.says("balanced at 120.00")
    page.post()
    page.says("handed in")
    focus_is_on(page, "Kind")
    assert page.find("field", "Reason, printed in the pack").get_attribute("value") == ""


def test_pe_stays_the_day_that_it_meant_when_other_months_are_looked_at(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    page.says("31 Oct 2026, open")
    page.press("button", "Feb")
    page.find("button", "1 Feb – 28 Feb")
    assert "31 Oct 2026, open" in page.text


def test_a_list_is_walked_at_once_and_a_figure_opens_what_it_consists_of(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    focus_is_on(page, "Kayak hire")
    page.keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN, Keys.ARROW_RIGHT, Keys.ARROW_RIGHT)
    focus_is_on(page, "Other income, As received: (677.79)")
    page.keys(Keys.ENTER)
    page.says("Only as received, without our entries")
    page.keys(Keys.ESCAPE)
    focus_is_on(page, "Other income, As received: (677.79)")
    page.press("button", "Costs")
    page.says("with a figure")
    focus_is_on(page, "Guides and helpers")


def test_the_lists_of_entries_and_questions_are_walked_at_once(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries")
    focus_is_on(page, "draft")
    page.keys(Keys.ARROW_DOWN)
    focus_is_on(page, "R-2")
    page.keys(Keys.ENTER)
    page.until(lambda: page.driver.current_url.endswith("entries/R-2026-2"), "the entry")
    focus_is_on(page, "R-2")
    page.keys("n")
    focus_is_on(page, "Kind")
    page.keys(Keys.ESCAPE, "g", "q")
    focus_is_on(page, "Send question")


def test_leave_begins_at_the_reason_and_ticked_boxes_take_no_letters(page: Page):
    page.sign_in("OB")
    page.press("field", "Choose Lantern Street Kiln Ltd")
    page.keys("c")
    page.says("sure")
    page.keys(Keys.ESCAPE)
    page.open("/clients/COPP/review")
    page.find("radio", "Leave it")
    page.keys("4")
    focus_is_on(page, "Reason, kept for good")


def test_nothing_is_posted_by_a_key_held_down_or_before_the_case_was_seen(page: Page, workplace):
    page.sign_in("OB")
    page.open("/clients/COPP/review")
    page.find("radio", "Void")
    person = staff.person_named(workplace, "OB")
    before = len(entries.change_log(workplace, person, "COPP"))
    page.driver.execute_script(PRESS_AT_THE_NEXT_CASE)
    page.post()
    page.says("This has only just appeared")
    page.until(lambda: page.driver.execute_script("return window.heldDown"), "the key held down")
    assert len(entries.change_log(workplace, person, "COPP")) == before + 1


def test_keys_pressed_while_the_page_is_drawn_reach_it(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("12 open")
    page.keys("g", "o", "v")
    page.says("What is owed to suppliers")


def test_one_can_skip_to_the_work(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("12 open")
    page.keys(Keys.TAB)
    focus_is_on(page, "Skip to the work")
    page.keys(Keys.ENTER)
    assert page.driver.execute_script("return document.activeElement.tagName") == "MAIN"


def test_a_session_that_ends_keeps_what_was_typed_and_says_why(page: Page, workplace):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    page.fill("Reason, printed in the pack", "Half of the insurance")
    staff.set_password(workplace, staff.person_named(workplace, "OB"), "IO", "another long one")
    # Whatever asks the server next says so, the page's own asking too.
    page.says("your session has ended")
    focus_is_on(page, "Password")
    page.keys("another long one", Keys.ENTER)
    page.says_no_more("your session has ended")
    reason = page.find("field", "Reason, printed in the pack")
    assert reason.get_attribute("value") == "Half of the insurance"


def test_figures_are_of_any_days_in_short_forms(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/worksheet")
    focus_is_on(page, "Kayak hire")
    page.keys("d")
    focus_is_on(page, "From")
    page.keys("5.9", Keys.TAB, "17 sep")
    page.says("17 Sep 2026")
    page.keys(Keys.ENTER)
    page.says("Worksheet as at 17 September 2026")
    page.find("button", "5 Sep – 17 Sep")
    page.press("button", "Kayak hire")
    page.says("5 September 2026 to 17 September 2026")


def test_the_bank_s_case_opens_below_its_line_with_the_sum_in_view(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/bank")
    page.press("button", "Put it right")
    page.find("radio", "Correct T0841 to 12.49")
    in_view = """
    const frame = document.querySelector('[aria-label^="Books and statement"]')
    const line = [...frame.querySelectorAll('[data-row]')].find((row) => row.innerText.includes('T0841'))
    const top = line.firstElementChild.getBoundingClientRect().top
    return top >= frame.getBoundingClientRect().top && top < window.innerHeight
    """
    assert page.driver.execute_script(in_view)
    assert "should be at the bank" in page.text
    page.keys(Keys.ESCAPE)
    page.says_no_more("Book as the bank's error")


def test_the_desk_is_put_in_order_narrowed_broken_down_and_assigned(page: Page):
    page.sign_in("OB")
    names = "return [...document.querySelectorAll('tbody tr[class*=cursor] strong')].map((one) => one.innerText)"
    page.press("button", "At stake")
    page.until(
        lambda: page.driver.execute_script(names)[0] == "Copperbell Couriers Ltd", "the most first"
    )
    page.press("button", "14 points of Copperbell Couriers Ltd, by family")
    page.says("Twice in the books")
    page.keys(Keys.ESCAPE)
    page.find("field", "Only of").send_keys("Pell")
    page.says_no_more("Copperbell Couriers Ltd")
    page.find("field", "Only at").send_keys("bank")
    page.says("Lantern Street Kiln Ltd")
    page.press("field", "Choose Lantern Street Kiln Ltd")
    page.keys("a")
    focus_is_on(page, "Member of staff")
    page.press("button", "Give them to Ines Okonjo")
    page.says("Ines Okonjo has 1 client: KILN.")


def test_at_twice_the_size_everything_can_be_reached(page: Page):
    page.sign_in("OB")
    page.open("/clients/COPP/review")
    page.find("radio", "Void")
    size = {"width": 640, "height": 400, "deviceScaleFactor": 2, "mobile": False}
    page.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    try:
        for name in ("Post", "Find", "OB: Orla Brandt"):
            button = page.find("button", name)
            page.until(partial(page.driver.execute_script, REACHED, button), f"{name} in reach")
    finally:
        size |= {"width": 1280, "height": 800, "deviceScaleFactor": 1}
        page.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
