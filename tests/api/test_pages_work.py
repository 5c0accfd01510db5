"""What the pages ask of the API, area by area, as they ask it."""

import io
import json
import zipfile
from dataclasses import replace

import openpyxl
import pytest

from corkpost.api.openapi import document
from corkpost.formats.books_folder.reading import read_books
from corkpost.services import books, jobs
from tests.builders import ACCOUNTS, CODES
from tests.formats.folders import small_books, write
from tests.formats.test_books_folder import zipped
from tests.practice import PASSWORD, decide_the_rest

AT = "2026-10-31"
C = "/api/clients/SMALL"
STATEMENT = b"date,description,amount\n2026-03-08,KITTIWAKE SIGNS,-318.57\n"


def got(browser, address):
    answer = browser.get(address)
    assert answer.status_code == 200, answer.text
    return answer.json


def point(desk, who="IO", check="duplicate-document"):
    points = got(desk.of(who), f"{C}/points")["points"]
    return next(found_point for found_point in points if found_point["check"] == check)


def posted(browser, address, body, status=201):
    answer = browser.post(address, json=body)
    assert answer.status_code == status, answer.text
    return answer.json


@pytest.mark.parametrize(
    ("text", "day"), [("5.9", "2026-09-05"), ("pe", AT), ("31 dec", "2026-12-31"), ("31.9", None)]
)
def test_a_day_is_read_in_the_short_forms_or_told_to_be_none(shared_desk, text, day):
    found = got(shared_desk.of("IO"), f"{C}/day?text={text}&near={AT}")
    assert (found["day"], found["fault"] is None) == (day, day is not None)


def test_the_session_tells_who_is_at_work_and_what_they_may(shared_desk):
    found = got(shared_desk.of("TV"), "/api/session")
    assert found["person"]["name"] == "Tomas Vell"
    assert set(found["person"]["may"]) == {
        "read",
        "take-in",
        "change-chart",
        "post",
        "decide",
        "approve",
        "sign",
        "set-periods",
    }
    stranger = got(shared_desk.nobody(), "/api/session")
    assert (stranger["person"], stranger["sign_ins"], stranger["practice"]) == (
        None,
        [],
        "Test & Co",
    )


def test_the_client_tells_its_year_its_periods_and_what_is_left(shared_desk):
    found = got(shared_desk.of("IO"), C)
    assert (found["year"]["label"], found["as_at"], found["open_points"]) == ("2026", AT, 2)
    april = found["periods"][3]
    assert (april["name"], april["state"], april["open_points"]) == ("Apr", "open", 1)
    earlier = got(shared_desk.of("IO"), f"{C}?year=2025")
    assert {period["state"] for period in earlier["periods"]} == {"barred"}
    assert "filed through 31 December 2025" in earlier["periods"][0]["why"]


def test_a_point_is_opened_previewed_and_posted_as_it_was_shown(desk):
    browser = desk.of("IO")
    case = got(browser, f"{C}/points/{point(desk)['id']}?at={AT}")
    assert [slip["id"] for slip in case["evidence"]] == ["T1", "T3", "T2"]
    assert (case["evidence"][0]["settled_on"], case["evidence"][1]["days_open"]) == (
        "2026-04-20",
        225,
    )
    first = case["prepared"][0]
    effect = first["preview"]["effect"]
    assert effect["profit"] == {
        "before": effect["profit"]["before"],
        "after": effect["profit"]["after"],
        "change": "200.00",
    }
    before = got(browser, f"{C}/figures?at={AT}")
    body = {
        "act": void(case["point"]["id"], **first["settings"]),
        "reason": first["reason"],
        "shown": first["preview"]["digest"],
        "key": "k" * 16,
    }
    change = posted(browser, f"{C}/acts", body)["change"]
    assert [entry["id"] for entry in change["entries"]] == ["C-2026-1"]
    assert posted(browser, f"{C}/acts", body)["change"] == change
    after = got(browser, f"{C}/figures?at={AT}")
    assert (before["profit"], after["profit"]) == (
        effect["profit"]["before"],
        effect["profit"]["after"],
    )
    assert after["payables"] == effect["payables"]["after"]
    assert got(browser, f"{C}/revision")["revision"] > case["revision"]
    decided = point(desk)
    assert (decided["state"], decided["decision"]["by"], decided["decision"]["change"]) == (
        "corrected",
        "IO",
        2,
    )


def test_a_post_on_books_that_moved_is_a_conflict_and_posts_nothing(desk):
    browser = desk.of("IO")
    case = got(browser, f"{C}/points/{point(desk)['id']}")
    browser_tv = desk.of("TV")
    browser_tv.put(f"{C}/periods/2026-04-05", json={"state": "barred", "reason": "returned"})
    first = case["prepared"][0]
    body = {
        "act": void(case["point"]["id"], **first["settings"]),
        "reason": "x",
        "shown": first["preview"]["digest"],
        "key": "k" * 16,
    }
    answer = browser.post(f"{C}/acts", json=body)
    assert (answer.status_code, "Nothing was posted" in answer.json["detail"]) == (409, True)
    assert point(desk)["state"] == "open"


def test_a_point_is_left_or_asked_and_opened_again(desk):
    browser = desk.of("IO")
    address = f"{C}/points/{point(desk)['id']}"
    assert posted(
        browser, f"{address}/decision", {"route": "ask", "reason": "Two deliveries?"}, 200
    ) == {"done": True}
    assert point(desk)["state"] == "asked"
    posted(browser, f"{address}/reopening", {"reason": "answered"}, 200)
    assert point(desk)["state"] == "open"
    answer = browser.post(f"{address}/decision", json={"route": "leave", "reason": " "})
    assert (answer.status_code, answer.json["title"]) == (422, "A reason is needed")


def test_the_profit_part_s_year_can_be_chosen_in_a_preview(desk, tmp_path):
    from tests.builders import bill, books_with
    from tests.practice import take_in

    books = books_with(
        bill("RW-0117", on="2025-11-03", id="T1", fuel="200.00"),
        bill("RW 117", on="2025-11-05", id="T2", fuel="200.00"),
        filed_through="2025-12-31",
    )
    take_in(desk.office.workplace, desk.office["OB"], books, tmp_path / "late")
    browser = desk.of("OB")
    (found,) = got(browser, "/api/clients/TEST/points")["points"]
    address = "/api/clients/TEST/acts/preview"
    this_year = posted(browser, address, {"act": void(found["id"])}, 200)
    assert this_year["earlier_year"] is True
    prior = posted(browser, address, {"act": void(found["id"], profit="prior-year")}, 200)
    assert {line["name"] for line in this_year["entries"][0]["lines"]} == {"fuel", "payables"}
    assert {line["name"] for line in prior["entries"][0]["lines"]} == {"capital", "payables"}
    answer = browser.post(address, json={"act": void(found["id"], profit="next-year")})
    assert (answer.status_code, "'next-year'" in answer.json["detail"]) == (404, True)


def void(point, **settings):
    return {"act": "point", "point": point, "route": "void", "settings": settings}


BLANK = {"account": "", "party": "", "debit": "", "credit": "", "tax_code": "", "tax": "none", "text": "", "dimensions": ""}  # fmt: skip


def entry(*lines, **more):
    head = {
        "kind": "adjusting",
        "date": "31.10",
        "reverse_on": "np",
        "reference": "",
        "reason": "Electricity not yet billed",
    }
    return {**head, "lines": [{**BLANK, **line} for line in lines], **more}


WHOLE = entry(
    {"account": "5310", "debit": "1639*0.25"}, {}, {"account": "2210", "credit": "409.75"}
)


def compose(browser, keyed):
    return posted(browser, f"{C}/entries/reading", {"entry": keyed, "near": AT}, 200)


def test_the_composer_is_told_what_it_comes_to_while_one_is_keying(shared_desk):
    browser = shared_desk.of("IO")
    half = compose(browser, entry({"account": "5310", "debit": "1639*0.25"}, {"account": "2210"}))
    assert (half["date"], half["reverse_on"], half["period"], half["state"]) == (
        AT,
        "2026-11-01",
        "October 2026",
        "open",
    )
    assert half["lines"][0] == {"debit": "409.75", "credit": None, "faults": []}
    assert (half["difference"], half["preview"], half["refused"]) == ("409.75", None, None)
    assert half["lines"][1]["faults"] == ["the amount is missing."]
    barred = compose(browser, {**WHOLE, "date": "1.6.2025"})
    assert barred["refused"] == (
        "1 June 2025 is in a barred span: the year is filed through 31 December 2025. Nothing in "
        "it may move by a cent. Date the entry 1 January 2026 or later, or ask a partner to reopen "
        "the span."
    )


def test_an_entry_is_posted_with_its_mirror_and_its_draft_goes(desk):
    browser = desk.of("IO")
    whole = compose(browser, WHOLE)
    assert [account["on"] for account in whole["preview"]["t_accounts"]] == [
        AT,
        AT,
        "2026-11-01",
        "2026-11-01",
    ]
    assert browser.put(f"{C}/drafts/abc123", json={"content": WHOLE}).json == {"id": "abc123"}
    body = {
        "act": {"act": "entry", "entry": WHOLE, "near": AT},
        "shown": whole["preview"]["digest"],
        "key": "k" * 16,
        "draft": "abc123",
    }
    change = posted(browser, f"{C}/acts", body)["change"]
    assert [row["id"] for row in change["entries"]] == ["A-2026-1", "R-2026-1"]
    assert got(browser, f"{C}/drafts") == {"drafts": []}
    rows = got(browser, f"{C}/transactions?ours=true")["rows"]
    assert {row["id"]: row["reverses_on"] for row in rows} == {
        "A-2026-1": "2026-11-01",
        "R-2026-1": None,
    }
    empty = {"act": "entry", "entry": {**WHOLE, "lines": []}, "near": AT}
    answer = browser.post(f"{C}/acts", json={**body, "key": "j" * 16, "act": empty})
    assert (answer.status_code, answer.json["faults"]) == (
        422,
        ["An entry has at least two lines."],
    )


def test_a_change_is_taken_back_after_its_preview(desk):
    browser = desk.of("IO")
    whole = compose(browser, WHOLE)
    keyed = {"act": "entry", "entry": WHOLE, "near": AT}
    shown = whole["preview"]["digest"]
    posted(browser, f"{C}/acts", {"act": keyed, "shown": shown, "key": "k" * 16})
    back = {"act": {"act": "undo", "number": 2}}
    preview = posted(browser, f"{C}/acts/preview", back, 200)
    body = {**back, "reason": "billed after all", "shown": preview["digest"], "key": "u" * 16}
    posted(browser, f"{C}/acts", body)
    changes = got(browser, f"{C}/changes")["changes"]
    assert [(row["number"], row["kind"], row["undone_by"]) for row in changes] == [
        (3, "undo", None),
        (2, "entry", 3),
        (1, "import", None),
    ]
    assert browser.post(f"{C}/acts", json={**body, "key": "v" * 16}).status_code == 409


def by_hand(route, transaction, items=(), **settings):
    picked = {"route": route, "transaction": transaction, "items": list(items)}
    return {"act": "by-hand", **picked, "settings": settings}


def test_postings_are_listed_opened_and_corrected_by_hand(desk):
    browser = desk.of("IO")
    found = got(browser, f"{C}/transactions?q=246&first=2026-01-01&last={AT}")
    assert (found["count"], found["debits"], len(found["rows"])) == (3, "738.00", 3)
    detail = got(browser, f"{C}/transactions/T5")
    assert (detail["open"][0]["open"], [way["route"] for way in detail["by_hand"]]) == (
        "-100.00",
        ["allocate", "move-allocation", "reverse-payment", "to-owner", "void", "amend-reference"],
    )  # fmt: skip
    body = {"act": by_hand("allocate", "T5", ["T4=60.00"])}
    preview = posted(browser, f"{C}/acts/preview", body, 200)
    body |= {"reason": "part", "shown": preview["digest"], "key": "k" * 16}
    change = posted(browser, f"{C}/acts", body)["change"]
    assert change["allocations"][0]["amount"] == "60.00"
    assert got(browser, f"{C}/transactions/T4")["settled"][0]["other"] == "T5"
    hits = got(browser, "/api/find?q=reedw&client=SMALL")
    assert ([p["code"] for p in hits["parties"]], len(hits["postings"])) == (["S1"], 3)


def test_words_are_amended_and_the_amendment_is_taken_back(desk):
    browser = desk.of("IO")
    body = {"act": by_hand("amend-reference", "T3", reference="RW-0118")}
    preview = posted(browser, f"{C}/acts/preview", body, 200)
    assert (preview["entries"], preview["effect"]["accounts"]) == ([], [])
    body |= {"reason": "keyed wrongly", "shown": preview["digest"], "key": "k" * 16}
    change = posted(browser, f"{C}/acts", body)["change"]
    assert (
        change["amendments"]
        == preview["amendments"]
        == [{"transaction": "T3", "field": "reference", "before": "RW 117", "after": "RW-0118"}]
    )
    (trail,) = got(browser, f"{C}/transactions/T3")["amendments"]
    assert (trail["by"], trail["reason"], trail["change"]) == ("IO", "keyed wrongly", 2)
    back = posted(browser, f"{C}/acts/preview", {"act": {"act": "undo", "number": 2}}, 200)
    assert back["amendments"][0]["after"] == "RW 117"


def test_a_paper_is_attached_and_only_ever_saved(desk):
    browser = desk.of("IO")
    sent = browser.post(
        f"{C}/transactions/T1/papers?name=bill.html", data=b"<script>alert(1)</script>"
    )
    assert sent.json == {"done": True}
    (paper,) = got(browser, f"{C}/transactions/T1")["slip"]["papers"]
    answer = browser.get(f"{C}/papers/{paper['digest']}")
    assert answer.data == b"<script>alert(1)</script>"
    assert answer.mimetype == "application/octet-stream"
    assert answer.headers["Content-Disposition"] == "attachment; filename=bill.html"
    assert browser.get(f"{C}/papers/{'0' * 64}").status_code == 404


def test_statements_kept_with_the_books_are_listed_with_their_account_and_saved(desk, tmp_path):
    kept = {"statements/bank-2026-03.csv": STATEMENT}
    workplace, partner = desk.office.workplace, desk.office["OB"]
    books.take_in(workplace, partner, write(small_books(), tmp_path / "again", kept))
    ob = desk.of("OB")
    (row,) = got(ob, f"{C}/accounts/{CODES['bank']}?first=2026-01-01&last={AT}")["statements"]
    assert (row["name"], row["format"]) == ("bank-2026-03.csv", "csv")
    assert got(ob, f"{C}/accounts/5200?first=2026-01-01&last={AT}")["statements"] == []
    assert ob.get(f"{C}/papers/{row['digest']}").data == STATEMENT
    assert desk.of("PH").get(f"{C}/papers/{row['digest']}").status_code == 404


def test_the_worksheet_its_figures_and_its_files(shared_desk):
    browser = shared_desk.of("IO")
    sheet = got(browser, f"{C}/worksheet?year=2026&at={AT}")
    assert {
        value
        for name, value in sheet["totals"].items()
        if name not in ("last_year", "change_percent")
    } == {"0.00"}
    fuel = next(row for row in sheet["rows"] if row["name"] == "fuel")
    ledger = got(browser, f"{C}/accounts/5200?first=2026-01-01&last={AT}")
    assert ledger["closing"] == fuel["adjusted"] == "400.00"
    assert ledger["movements"][0]["against"] == "tax, payables"
    aged = got(browser, f"{C}/aged/payables?at={AT}")
    assert aged["total"] == aged["control"] == "-246.00"
    party = got(browser, f"{C}/parties/S1?first=2026-01-01&last={AT}")
    assert (party["ledger"]["closing"], party["open"], party["items"][0]["transaction"]) == (
        "-246.00",
        "-246.00",
        "T3",
    )
    book = openpyxl.load_workbook(
        io.BytesIO(browser.get(f"{C}/worksheet.xlsx?year=2026&at={AT}").data)
    )
    cells = {row[1].value: row[7].value for row in book["Worksheet"].iter_rows(min_row=5)}
    assert cells["fuel"] == 400
    text = browser.get(f"{C}/trial-balance.csv?at={AT}").data.decode("utf-8-sig")
    assert "5200,fuel,expense,400.00\r\n" in text


def test_the_trial_balance_before_and_after_closing_and_as_received(shared_desk):
    browser = shared_desk.of("IO")
    for choice in ("column=as-received", "closing=out", ""):
        found = got(browser, f"{C}/trial-balance?at={AT}&{choice}")
        assert float(found["debits"]) == -float(found["credits"])
    assert browser.get(f"{C}/trial-balance?at={AT}&closing=maybe").status_code == 422


def test_it_is_signed_sealed_shown_and_reopened(desk):
    decide_the_rest(desk.office)
    needs = got(desk.of("IO"), f"{C}/sign-off?at={AT}")
    assert (needs["ready"], "reviewer or partner" in needs["may_not"]) == (True, True)
    body = {"at": AT, "shown": needs["digest"], "password": PASSWORD}
    signed = posted(desk.of("TV"), f"{C}/sign-off", body)
    assert (signed["signed_by"], signed["broken"]) == ("TV", False)
    assert got(desk.of("IO"), C)["last_seal"]["digest"] == signed["digest"]
    assert got(desk.of("IO"), "/api/desk")["rows"][0]["band"] == "Signed"
    refused = compose(desk.of("IO"), WHOLE)
    assert "signed off and sealed as at 31 October 2026" in refused["refused"]
    posted(desk.of("OB"), f"{C}/reopening", {"first_day": AT, "reason": "late bill"}, 200)
    (state,) = got(desk.of("IO"), f"{C}/sign-off?at={AT}")["seals"]
    assert (state["seal"]["reopened_by"], state["seal"]["reopened_why"]) == ("OB", "late bill")


def test_what_is_missing_for_signing_is_listed_thing_by_thing(shared_desk):
    shown = got(shared_desk.of("TV"), f"{C}/sign-off?at={AT}")["digest"]
    body = {"at": AT, "shown": shown, "password": PASSWORD}
    answer = shared_desk.of("TV").post(f"{C}/sign-off", json=body)
    assert answer.status_code == 422
    points, bank, proofs, checklist = answer.json["faults"]
    assert points == "2 sure points are left undecided."
    assert bank == "bank: No statement was taken in: the bank is not proved."
    assert proofs.startswith("5 of 5 not agreed: What customers owe, ")
    assert checklist.startswith("0 of 4 seen to. Left: A letter of engagement")


def test_books_are_taken_in_as_a_job_and_given_out_as_a_zip(desk, tmp_path):
    browser = desk.of("OB")
    content = zipped(
        write(small_books("NEWCO"), tmp_path / "new"), tmp_path / "new.zip"
    ).read_bytes()
    answer = browser.post("/api/books?name=new.zip", data=content, content_type="application/zip")
    assert answer.status_code == 202
    job = answer.json["job"]
    assert got(browser, f"/api/jobs/{job}")["state"] == "queued"
    jobs.run_next(desk.office.workplace)
    done = got(browser, f"/api/jobs/{job}")
    assert (done["state"], done["taken_in"]["new"], done["problem"]) == ("done", 8, None)
    assert desk.of("IO").get(f"/api/jobs/{job}").status_code == 404
    given = browser.get("/api/clients/NEWCO/books.zip")
    (tmp_path / "out.zip").write_bytes(given.data)
    assert read_books(tmp_path / "out.zip", tmp_path / "kept").tables == small_books().tables


def test_books_with_faults_come_back_with_every_fault(desk, tmp_path):
    from tests.formats.folders import put

    folder = write(small_books(), tmp_path / "bad")
    put("accounts", 1, "type", "thing")(folder)
    content = zipped(folder, tmp_path / "bad.zip").read_bytes()
    job = desk.of("IO").post("/api/books", data=content, content_type="application/zip").json["job"]
    jobs.run_next(desk.office.workplace)
    found = got(desk.of("IO"), f"/api/jobs/{job}")
    assert found["state"] == "refused"
    assert found["problem"]["faults"][0].startswith(
        "accounts.csv:2: type: 'thing' is not known here"
    )


@pytest.mark.parametrize(
    "path",
    [
        "/clients/SMALL",
        "/clients/OTHER/review",
        "https://elsewhere.example/",
        "/clients/SMALL/" + "x" * 300,
    ],
)
def test_only_a_place_in_a_client_is_remembered(shared_desk, path):
    assert shared_desk.of("IO").put(f"{C}/place", json={"path": path}).status_code == 422


def test_the_description_names_every_route_and_what_it_answers(shared_desk):
    described = json.loads(document())
    paths = {
        str(rule).replace("<int:", "{").replace("<", "{").replace(">", "}")
        for rule in shared_desk.app.url_map.iter_rules()
        if str(rule).startswith("/api/")
    }
    assert paths == set(described["paths"])
    for methods in described["paths"].values():
        for operation in methods.values():
            assert operation["summary"]
            assert set(operation["responses"]) & {"200", "201", "202"}


def test_the_zip_of_a_client_is_a_books_folder(shared_desk):
    given = shared_desk.of("IO").get(f"{C}/books.zip?as_received=true")
    with zipfile.ZipFile(io.BytesIO(given.data)) as archive:
        assert "datapackage.json" in archive.namelist()


def test_takings_are_read_previewed_and_posted_and_what_is_in_hand_is_listed(desk, tmp_path):
    made = small_books()
    more = tuple(a for a in ACCOUNTS if a.code not in {x.code for x in made.tables.accounts})
    tables = replace(made.tables, accounts=made.tables.accounts + more)
    whole = replace(made, tables=tables)
    books.take_in(desk.office.workplace, desk.office["OB"], write(whole, tmp_path / "again"))
    browser = desk.of("IO")
    till = browser.post(
        f"{C}/takings/file", data=b"date,number,cash,card\n2026-09-04,Z1,412.40,0\n"
    )
    days = till.json["days"]
    act = {"act": "takings", "days": days, "sales": CODES["sales"], "tax_code": "S23"}
    preview = posted(browser, f"{C}/acts/preview", {"act": act, "at": AT}, 200)
    assert preview["entries"][0]["kind"] == "takings"
    post_request = {"reason": preview["reason"], "shown": preview["digest"], "key": "k" * 16}
    posted(browser, f"{C}/acts", {"act": act, **post_request})
    held = got(browser, f"{C}/in-hand")
    assert (held["total"], held["receipts"][0]["days"]) == ("412.40", 73)
    ten = {**act, "days": [{"day": AT, "cash": "ten"}]}
    wrong = browser.post(f"{C}/acts/preview", json={"act": ten})
    assert (wrong.status_code, "2026-10-31, cash" in wrong.text) == (422, True)
    again = browser.post(f"{C}/acts/preview", json={"act": act})
    assert "Z1 was taken in before" in again.json["detail"]
