"""Recipes by the keyboard, the register of fixed assets, a month's pay, a foreign balance at the closing rate."""

import pytest
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page

pytestmark = pytest.mark.browser


def test_an_accrual_takes_five_keys_besides_its_words(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries")
    page.says("New entry")
    page.keys("r")
    page.says("A cost of the span that is not billed yet")
    page.keys(Keys.ENTER)
    page.says("once these are said: Amount, net of tax; Cost, or income")
    page.find("field", "Amount, net of tax").send_keys("3*140", Keys.TAB, "5310", Keys.ENTER)
    page.until(lambda: "−420.00" in page.figure("Profit to 31 Oct"), "the cost")
    page.says("reverses by itself on 1 November 2026")
    page.post()
    page.says("posted, A-2026-3")


def test_an_asset_is_written_off_changed_and_sold_and_its_proof_agrees_again(page: Page):
    page.sign_in("TV")
    page.open("/clients/KILN/entries/assets")
    page.says("Gas kiln, two wheels and the pug mill")
    page.says("evenly, 50 years")
    page.press("button", "Change")
    page.fill("Years of FA-2", "40")
    page.press("button", "Take into the register")
    page.says("evenly, 40 years")
    page.keys("d")
    page.says("Workshop, Lantern Street: 2,812.50 by the day, 0.00 stands")
    page.until(lambda: "−4,912.50" in page.figure("Profit to 30 Jun"), "both assets' depreciation")
    page.post()
    page.says("posted, A-2026-1")
    page.open("/clients/KILN/tie-outs")
    page.says("Fixed assets, less depreciation")
    page.open("/clients/KILN/entries/assets")
    page.says("205,487.50")
    page.press("button", "Gas kiln, two wheels")
    page.press("button", "Dispose of one")
    page.fill("Proceeds, net of tax", "9000")
    page.says("proceeds 9,000.00: loss 4,300.00")
    page.press("button", "Keep it as a draft")
    page.says("Keep the draft so")
    page.open("/clients/KILN/entries/new")
    page.press("button", "pug mill sold")
    page.says("proceeds 9,000.00: loss 4,300.00")
    page.post()
    page.open("/clients/KILN/entries/new")
    page.says("0 drafts")
    page.open("/clients/KILN/entries/assets")
    page.says("gone on 30 June 2026")


def test_a_month_s_pay_comes_from_the_bureau_s_table_and_is_told_where_it_stands_already(
    page: Page,
):
    page.sign_in("IO")
    page.open("/clients/COPP/entries/recipe-payroll")
    page.fill("Month", "2026-10")
    page.says("gross 11,800.00 and employer's contributions 1,303.00 make 13,103.00 on each side")
    page.fill("Gross pay", "11801")
    page.says("The columns do not add up")
    page.fill("Gross pay", Keys.BACKSPACE)
    page.fill("Month", "2026-07")
    page.says("of pay already. Is this meant to stand twice?")


def test_a_foreign_balance_goes_to_the_closing_rate(page: Page):
    page.sign_in("IO")
    page.open("/clients/TAMA/entries/rates")
    page.fill("Currency", "USD")
    page.fill("Rate", "0.95")
    page.press("button", "Add 1 rate")
    page.says("31 October 2026")
    page.open("/clients/TAMA/entries/recipe-revaluation")
    page.says("at 0.95 of 31 October 2026")
    page.post()
    page.says("posted, A-2026-")
    page.open("/clients/TAMA/entries/recipe-revaluation")
    page.says("Nothing is held in another currency that is not at the closing rate already")
    # The fee that the dollar statement has and the books lack is keyed in dollars.
    page.open("/clients/TAMA/bank/1210")
    page.says("Kept in USD")
    page.keys("s")
    page.says("Difference\n−18.00")
    page.open("/clients/TAMA/entries/new")
    page.fill("Account, line 1", "6600")
    page.fill("Debit, line 1", "USD 18")
    page.fill("Account, line 2", "1210")
    page.fill("Credit, line 2", "USD 18")
    page.says("balanced at 17.10")


def test_rows_of_a_spreadsheet_are_pasted_as_lines_and_an_entry_is_repeated(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/new")
    page.find("field", "Account, line 1").click()
    page.driver.execute_script(
        """const data = new DataTransfer()
        data.setData('text/plain', 'Account\\tText\\tDebit\\tCredit\\n'
          + '6100 Office costs\\tpaper\\t40.00\\t\\n2210\\tnot billed\\t\\t40.00')
        document.activeElement.dispatchEvent(
          new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))"""
    )
    page.says("balanced at 40.00")
    page.open("/clients/SALT/entries/A-2026-2")
    page.press("link", "Repeat it")
    page.fill("Until", "31.12.2026")
    page.says("2 steps follow, the last on 31 Dec 2026")
    page.post()
    page.says("no figure moves by it")


def test_a_recipe_runs_for_several_clients_at_once(page: Page):
    page.sign_in("OB")
    page.open("/")
    page.says("What is next")
    for name in ("Lantern Street Kiln Ltd", "Saltmarsh Kayaks"):
        page.press("field", f"Choose {name}")
    page.keys("r")
    page.says("Stock to the count")
    page.find("field", "Recipe").send_keys("Depreciation")
    page.says("Depreciation to 30 June 2026, 2 assets. 1 entry from 30 Jun 2026")
    page.says("The register of fixed assets is empty")
    page.press("button", "Post for 1 client")
    page.says("posted")


def test_an_account_that_is_missing_is_made_in_the_midst_of_an_entry(page: Page):
    page.sign_in("OB")
    page.open("/clients/SALT/entries/new")
    page.find("field", "Account, line 1").send_keys("5250 ", Keys.ENTER)
    page.fill("Name", "Sailcloth")
    page.press("button", "Add it")
    page.until(
        lambda: "Sailcloth" in (page.find("field", "Account, line 1").get_attribute("value") or ""),
        "the new account in its line",
    )


def test_a_recipe_is_kept_as_a_draft_and_goes_on_in_the_composer(page: Page):
    page.sign_in("IO")
    page.open("/clients/SALT/entries/recipe-accrual")
    page.find("field", "Amount, net of tax").send_keys("410", Keys.TAB, "5310", Keys.ENTER)
    page.press("button", "Keep it as a draft")
    page.says("Adjusting entry, not yet posted")
    page.says("balanced at 410.00")


def test_an_account_keyed_before_the_chart_has_come_is_taken_when_it_comes(page: Page):
    page.sign_in("IO")
    page.slow_down(milliseconds=900)
    page.open("/clients/SALT/entries/recipe-accrual")
    amount = page.find("field", "Amount, net of tax")
    amount.send_keys("410", Keys.TAB, "electr", Keys.ENTER)
    assert not page.driver.find_elements("css selector", "[role=option]"), (
        "the chart came too early"
    )
    page.press("button", "Keep it as a draft")
    page.slow_down(milliseconds=0)
    page.says("balanced at 410.00")
