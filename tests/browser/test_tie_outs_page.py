"""Tie-outs and closing: proofs agreed by keyboard, one that falls open, a year closed and closed again."""

from datetime import date

import pytest
from selenium.webdriver.common.keys import Keys

from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.kinds import EntryKind
from corkpost.services import acts, staff
from corkpost.services.posting import PostRequest
from tests.browser.conftest import Page

pytestmark = pytest.mark.browser


def late_cost(workplace, on=date(2026, 10, 20)):
    """A cost that somebody else posts meanwhile."""
    tomas = staff.person_named(workplace, "TV")
    lines = (EntryLine("7100", 4_500), EntryLine("2100", -4_500, party="S006"))
    party = next(p.code for p in workplace.ledger(tomas, "SALT").books.tables.parties)
    lines = (lines[0], lines[1]._replace(party=party))
    request = EntryRequest(EntryKind.ADJUSTING, on, "a late bill for the slipway", lines)
    return acts.post(workplace, tomas, "SALT", request, PostRequest(""))


def test_proofs_are_agreed_by_keyboard_and_one_whose_figures_move_falls_open(page: Page, workplace):
    page.sign_in("IO")
    page.open("/clients/SALT/review")
    page.says("12 open")
    page.keys("g", "t")
    page.says("11 of 11 to agree before the trial balance is signed.")
    page.says("The reconciliation to 31 October 2026 is not finished.")
    page.keys(*[Keys.ARROW_DOWN] * 4)
    page.says("open items, party by party")
    page.find("heading", "What is owed to suppliers")
    page.post()
    page.says("10 of 11 to agree")
    # What has no figure from outside asks for that of a paper.
    page.find("heading", "Fixed assets, less depreciation")
    page.fill("Figure of a paper, in EUR", "35800")
    page.post()
    page.says("9 of 11 to agree")
    late_cost(workplace)
    page.open("/clients/SALT/tie-outs?proof=payables")
    page.says("Since then the books had 3,918.27 and have 3,963.27 now")
    page.says("a late bill for the slipway")
    page.post()
    page.says_no_more("Since then the books had")


def test_a_year_is_closed_seen_line_by_line_and_closed_again_for_what_came_later(
    page: Page, workplace
):
    page.sign_in("OB")
    page.open("/clients/SALT/sign-off")
    page.press("button", "See the closing")
    page.says("drawings to capital")
    page.says("share of profit")
    page.post()
    page.says("Z-2026-1")
    page.says("The year to 31 December 2026 is closed")
    late_cost(workplace)
    page.open("/clients/SALT/sign-off")
    page.says("has moved since: closing it again posts the difference.")
    page.press("button", "See what is left to carry")
    page.says("45.00")
    page.post()
    page.says("Z-2026-2")


def test_a_broken_seal_is_reopened_what_fell_is_agreed_anew_and_another_signs_again(page: Page):
    page.sign_in("OB")
    page.open("/clients/MERI/sign-off?year=2026")
    page.says("The seal is broken: the books are not what was signed.")
    page.says("Entry MP0282 is new")
    page.says("You brought rows (change 8) into this trial balance")
    page.press("button", "Reopen it")
    page.fill("Why it is reopened", "A cost of July came in after the sign-off")
    page.press("button", "Reopen Meridian Players from 31 Aug 2026")
    page.says("It is open until 30 November 2026; then it stands again")
    page.driver.delete_all_cookies()

    page.sign_in("TV")
    page.says("OB reopened 31 August 2026 until 30 November 2026, which IO and TV signed")
    page.open("/clients/MERI/tie-outs?year=2026")
    page.says("2 of 5 to agree before the trial balance is signed.")
    page.says("Since then the books had 12,736.04 and have 12,649.64 now")
    page.fill("Figure of a paper, in EUR", "12649.64")
    page.post()
    page.says("1 of 5 to agree")
    page.find("heading", "Equity as a whole")
    page.post()
    page.says("All agreed. One whose figures move falls open by itself.")
    page.open("/clients/MERI/sign-off?year=2026")
    page.fill("Password of Tomas Vell", "lantern-tomas")
    page.press("button", "Sign and seal Meridian Players")
    page.says("is signed off as at 31 August 2026 and sealed.")
