"""Review: narrowing, choosing the year that bears the profit part, conflicts, what was decided."""

import pytest
from selenium.webdriver.common.keys import Keys

from corkpost.services import acts, review, staff
from corkpost.services.posting import PostRequest
from tests.browser.conftest import Page
from tests.practice import by_route

pytestmark = pytest.mark.browser


def test_a_correction_to_the_filed_year_says_where_its_profit_goes_and_lets_one_choose(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("The same bill from Kittiwake Signs is in the books twice.")
    page.says("dated 1 January 2026, the first open day")
    page.says("profit part of 300.00 in this year: corrections to 2025 come to 300.00")
    page.until(lambda: "+300.00" in page.figure("Profit to 31 Oct"), "profit to move")
    page.press("radio", "to equity, as a prior-year correction")
    page.says("profit part of 300.00 to Capital, Maris Holt as a prior-year correction")
    page.until(lambda: "→" not in page.figure("Profit to 31 Oct"), "profit to stay")
    assert "→" in page.figure("Owner")
    page.post()
    page.says("posted, C-2026-1")
    page.open("/clients/SALT/entries/C-2026-1")
    page.says("prior-year correction, 2025")


def test_the_list_is_put_in_another_order_and_remembers_it(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review")

    def paid_still_open():
        lines = page.text.splitlines()
        # The last: the choice of a family says it too.
        start = len(lines) - lines[::-1].index("Paid but still open")
        names = ("Sandpiper Trailers", "Kittiwake Signs", "Tern Print", "Shoreline Chandlery")
        return [line for line in lines[start:] if line in names][:4]

    page.says("Paid but still open")
    assert paid_still_open()[0] == "Sandpiper Trailers"
    page.find("field", "Order of the points").send_keys("date")
    page.until(lambda: paid_still_open()[0] == "Tern Print", "the oldest first")
    page.open("/clients/SALT/review")
    page.says("Paid but still open")
    assert paid_still_open()[0] == "Tern Print"


def test_what_was_corrected_meanwhile_is_a_conflict_that_loses_nothing_typed(page: Page, workplace):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("As it will stand")
    page.keys(Keys.ARROW_DOWN)
    page.says("The same bill from Reedwharf Fuels")
    page.fill("Reason, kept for good", "my own words on it")
    tomas = staff.person_named(workplace, "TV")
    point = next(
        stated.point
        for stated in review.points(workplace, tomas, "SALT")
        if "Reedwharf" in stated.point.summary
    )
    # Held up for a moment, so that this page does not learn of it before it posts.
    page.cut_off("*/revision")
    acts.post(
        workplace, tomas, "SALT", by_route(point.id, "void", {}), PostRequest("posted by Tomas")
    )
    page.post()
    page.until(lambda: "already" in page.text or "since you looked" in page.text, "the refusal")
    field = page.find("field", "Reason, kept for good")
    assert field.get_attribute("value") == "my own words on it"


def test_a_question_goes_to_the_client_and_its_answer_comes_back_to_the_point(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("1 asked")
    page.says("Ask the client")
    page.keys("3")
    question = page.find("field", "Question to the client")
    assert "Can you tell us what happened" in (question.get_attribute("value") or "")
    page.fill("Question to the client", "Kittiwake sent this twice, did they not?")
    page.find("field", "Comes back").send_keys("or after 3 days")
    page.post()
    page.says("waits for the client")
    page.says("2 asked")
    page.keys("g", "q")
    page.says("comes back 19 Nov 2026")
    page.press("field", "Send question 1")
    page.press("button", "Read and send 1", exact=False)
    page.says("Dear Mara Salt,")
    page.says("Question 2: Kittiwake sent this twice, did they not?")
    page.says_no_more("Question 1:")
    page.post()
    page.says("1 question went to Mara Salt.")
    page.says("Waiting for the client")

    def came() -> bool:
        page.press("button", "Look for answers")
        return "There was one delivery only" in page.text

    page.until(came, "the answer")
    page.press("link", "its review point")
    page.says("IO asked, 16 Nov 2026: Kittiwake sent this twice")
    page.says("There was one delivery only; they sent the bill again by mail.")
    page.says("the client answered")
    page.post()
    page.says("posted, C-2026-1")
    page.keys("g", "q")
    page.find("heading", "Done 1")


def test_the_points_are_narrowed_by_word_sum_and_certainty(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("12 open")
    page.keys("f")
    page.keys("k", "i", "t", "t", "i")
    page.says("2 open")
    page.fill("Filter the points", "kitti >320")
    page.says("1 open")
    page.fill("Filter the points", "246")
    page.says("The same bill from Reedwharf Fuels")
    page.fill("Filter the points", "no such thing")
    page.says("No point has what you filter by.")
    page.press("button", "clear")
    page.says("12 open")
    page.find("field", "Only this certainty").send_keys("likely")
    page.says_no_more("Sandpiper Trailers")
    page.says("Shoreline Chandlery")


def test_what_goes_with_a_point_is_said_and_stands_on_its_own_once_it_is_left(
    page: Page, workplace
):
    ines = staff.person_named(workplace, "IO")
    (cause,) = [
        stated.point.id
        for stated in review.points(workplace, ines, "SALT")
        if stated.point.consequences
    ]
    page.sign_in("IO")
    page.open(f"/clients/SALT/review/{cause}")
    page.says("explained by it; left, each stands on its own: 1,007.54 to Sandpiper Trailers")
    page.says("12 open")
    page.press("radio", "Leave it: not an error")
    page.fill("Reason, kept for good", "a trolley, and the bills are disputed")
    page.post()
    page.says("On an odd account")
    page.says("Sandpiper Trailers 2206, Small equipment")


def _undecided(workplace, person) -> list[str]:
    return [
        stated.point.id
        for stated in review.points(workplace, person, "SALT")
        if stated.state in ("open", "asked")
    ]


def test_when_nothing_is_left_the_next_step_is_named(page: Page, workplace):
    ines = staff.person_named(workplace, "IO")
    while left := _undecided(workplace, ines):
        # What was only kept back by a story that is left now stands on its own: another round.
        for point_id in left:
            review.decide(workplace, ines, "SALT", point_id, "leave", "looked at")
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("Nothing is left to decide")
    page.press("link", "read the worksheet")
    page.says("Worksheet as at 31 October 2026")


def test_the_effect_strip_opens_to_every_account_that_moves(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.until(lambda: "→" in page.figure("Profit to 31 Oct"), "the effect")
    page.press("button", "Profit to 31 Oct")
    page.find("heading", "What moves", exact=True)
    page.part("[role=dialog] summary").click()
    for words in ("Trade payables", "+369.00", "Advertising", "−300.00", "Kittiwake Signs"):
        page.says(words)


def test_what_lies_behind_a_window_hears_no_keys(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/review?open=transaction~T0601")
    page.says("246.00 of it is open with Reedwharf Fuels.")
    page.post()
    page.keys("4")
    page.keys("g", "w")
    page.keys(Keys.ESCAPE)
    page.says_no_more("of it is open with")
    page.says("12 open")
    chosen = page.part("[role=radio][aria-checked=true]")
    assert chosen.text.startswith("Void")
    assert "/review" in page.driver.current_url
    page.post()
    page.says("posted, C-2026-1")
