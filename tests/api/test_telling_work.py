"""Handing in, receipts and the bookkeeper's list, as the pages ask them."""

from corkpost.core.approval import ApprovalRule
from corkpost.core.kinds import PeriodState
from corkpost.services import periods, staff
from tests.api.test_asking import C, got, sent
from tests.builders import day
from tests.practice import only_point, void_twin


def test_a_correction_is_handed_in_shown_on_its_point_and_approved_by_another(desk):
    office = desk.office
    staff.set_approval(office.workplace, office["OB"], "IO", ApprovalRule(above=100))
    ines, tomas = desk.of("IO"), desk.of("TV")
    point = only_point(office).point.id
    first = got(ines, f"{C}/points/{point}")["prepared"][0]
    shown, settings = first["preview"]["digest"], first["settings"]
    assert first["preview"]["held"].startswith("It moves 246.00")
    act = {"act": "point", "point": point, "route": "void", "settings": settings}
    body = {"act": act, "reason": "one delivery", "shown": shown, "key": "k" * 16}
    refused = sent(ines, f"{C}/acts", body, 422)
    assert (refused["title"], "Hand it in" in refused["detail"]) == ("It waits for approval", True)
    handed = sent(ines, f"{C}/acts", {**body, "hands_in": True}, 201)
    assert handed == {"change": None, "handed_in": 1}
    (row,) = got(ines, f"{C}/points")["points"][:1]
    assert (row["handed_in"], got(tomas, f"{C}")["to_approve"]) == (1, 1)
    mine = got(ines, f"{C}/proposals/1")
    assert (mine["may_not"] is None, mine["moved"], mine["proposal"]["point"]) == (
        False, False, point,
    )  # fmt: skip
    assert "approve" in sent(
        ines, f"{C}/proposals/1/approval", {"shown": shown, "key": "k" * 16}, 403
    )["detail"]  # fmt: skip
    done = sent(tomas, f"{C}/proposals/1/approval", {"shown": shown, "key": "k" * 16}, 201)
    assert done["entries"][0]["entered_by"] == "IO"
    listed = got(tomas, f"{C}/proposals")
    assert listed == {"proposals": [], "may_approve": True}
    assert [row["approved_by"] for row in got(tomas, f"{C}/changes")["changes"]] == ["TV", None]


def test_a_barred_month_is_opened_for_one_posting_by_a_partner_alone(desk):
    office = desk.office
    periods.set_period(
        office.workplace, office["OB"], "SMALL", day("2026-04-05"), PeriodState.BARRED, "returned"
    )
    point = only_point(office).point.id
    assert got(desk.of("TV"), f"{C}/points/{point}")["openable"] == []
    assert got(desk.of("OB"), f"{C}/points/{point}")["openable"] == ["April 2026"]
    assert got(desk.of("OB"), f"{C}/transactions/T3")["openable"] == ["April 2026"]
    settings = {"transaction": "T3"}
    act = {"act": "point", "point": point, "route": "void", "settings": settings}
    asked = {"act": act, "opens": True}
    sent(desk.of("TV"), f"{C}/acts/preview", asked, 403)
    shown = sent(desk.of("OB"), f"{C}/acts/preview", asked)
    assert (shown["opens"], shown["entries"][0]["date"]) == (["April 2026"], "2026-04-05")
    post_request = {**asked, "reason": "late", "shown": shown["digest"], "key": "k" * 16}
    sent(desk.of("OB"), f"{C}/acts", post_request, 201)
    states = {row["first_day"]: row["state"] for row in got(desk.of("OB"), C)["periods"]}
    assert states["2026-04-01"] == "barred"


def test_a_receipt_is_issued_and_comes_as_a_file(desk):
    browser = desk.of("IO")
    address = f"{C}/transactions/T5/receipt"
    assert got(browser, f"{C}/transactions/T5")["brings_money"] is True
    assert got(browser, f"{C}/transactions/T1")["brings_money"] is False
    asked = got(browser, f"{address}?method=cash")
    assert (asked["number"], asked["receipt"]["method"], asked["receipt"]["on_account"]) == (
        None, "cash", "100.00",
    )  # fmt: skip
    assert sent(browser, address, {"method": "cash"}) == {"number": 1, "issue": 1}
    paper = browser.get(f"{C}/receipts/1/1")
    assert (paper.data[:5], paper.mimetype) == (b"%PDF-", "application/pdf")
    assert browser.get(f"{C}/receipts/1/2").status_code == 404
    assert got(browser, address)["issues"][0]["to_email"] is None
    assert "brings no money" in browser.get(f"{C}/transactions/T1/receipt").json["detail"]


def test_the_bookkeeper_s_list_is_told_once(desk):
    browser = desk.of("IO")
    void_twin(desk.office)
    found = got(browser, f"{C}/bookkeeper")
    assert (found["changes"], found["kinds"][0]["items"][0]["reason"]) == (
        [2], "one delivery, one bill",
    )  # fmt: skip
    assert got(browser, f"{C}/transactions/C-2026-1")["plain"]["did"].startswith("What was entered")
    assert browser.get(f"{C}/bookkeeper.pdf").data[:5] == b"%PDF-"
    assert b"C-2026-1,2026-04-05,correcting,2100" in browser.get(f"{C}/bookkeeper.csv").data
    assert sent(browser, f"{C}/bookkeeper", {"changes": [2]})["changes"] == 1
    assert got(browser, f"{C}/bookkeeper")["kinds"] == []
    assert got(browser, f"{C}/bookkeeper?told=true")["kinds"][0]["items"][0]["told"] is True
