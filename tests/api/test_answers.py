"""Answers that are so: what is sent twice is done once, what is written is not said to have failed, and
what can't be read is told in words."""

import json

import pytest

from corkpost.services import sign_off, store
from tests.api.test_security import problem
from tests.builders import CODES, day
from tests.practice import PASSWORD, accrue, agree_all, decide_the_rest, only_point, void_twin

CLIENT = "/api/clients/SMALL"
KEY = "k" * 16


def void(desk, reason="one delivery", key=KEY):
    point = only_point(desk.office).point.id
    settings = {"transaction": "T3"}
    body = {"act": {"act": "point", "point": point, "route": "void", "settings": settings}}
    shown = desk.of("IO").post(f"{CLIENT}/acts/preview", json=body).json
    return f"{CLIENT}/acts", {**body, "reason": reason, "shown": shown["digest"], "key": key}


def test_the_same_deed_under_its_key_is_done_once_and_another_under_it_is_refused(desk):
    address, body = void(desk)
    first, again = (desk.of("IO").post(address, json=body) for _ in range(2))
    assert (first.status_code, again.status_code) == (201, 201)
    assert first.json["change"]["change"] == again.json["change"]["change"] == 2
    other = desk.of("IO").post(address, json={**body, "shown": "another"})
    assert other.status_code == 409
    assert "Change 2 was posted under this key" in problem(other)["detail"]


def test_an_account_and_a_party_under_one_key_are_two_deeds(desk):
    party = {"act": "party", "name": "Kestrel", "kind": "supplier"}
    body = {"act": party, "key": KEY}
    made = desk.of("OB").post(f"{CLIENT}/acts", json=body)
    assert (made.status_code, made.json["change"]["parties"]) == (201, ["KESTREL"])
    other = desk.of("OB").post(f"{CLIENT}/acts", json={**body, "act": {**party, "name": "Merlin"}})
    assert other.status_code == 409


def test_what_fails_after_it_was_written_says_so(desk, monkeypatch):
    address, body = void(desk)
    monkeypatch.setattr("corkpost.api.acts.changed", lambda *_: 1 / 0)
    detail = problem(desk.of("IO").post(address, json=body))["detail"]
    assert "was written; only the answer failed" in detail
    monkeypatch.setattr("corkpost.api.entries.service.change_log", lambda *_: 1 / 0)
    assert "Nothing was changed" in problem(desk.of("IO").get(f"{CLIENT}/changes"))["detail"]


def test_a_trial_balance_that_moved_since_it_was_shown_is_not_signed(desk):
    office = desk.office
    void_twin(office)
    decide_the_rest(office)
    shown = desk.of("TV").get(f"{CLIENT}/sign-off?at=2026-10-31").json["digest"]
    accrue(office)
    body = {"at": "2026-10-31", "shown": shown, "password": PASSWORD}
    answer = desk.of("TV").post(f"{CLIENT}/sign-off", json=body)
    assert answer.status_code == 409
    assert "not the one that you were shown" in problem(answer)["detail"]
    # What moved since it was agreed fell open.
    assert desk.of("TV").post(f"{CLIENT}/sign-off", json=body).status_code == 409
    agree_all(office, day("2026-10-31"))
    now = desk.of("TV").get(f"{CLIENT}/sign-off?at=2026-10-31").json["digest"]
    assert desk.of("TV").post(f"{CLIENT}/sign-off", json={**body, "shown": now}).status_code == 201


def test_what_the_signer_posts_while_signing_is_seen(desk, monkeypatch):
    office = desk.office
    void_twin(office)
    decide_the_rest(office)

    def posts_meanwhile(*_):
        accrue(office, who="TV")
        return True

    monkeypatch.setattr(sign_off, "password_fits", posts_meanwhile)
    shown = desk.of("TV").get(f"{CLIENT}/sign-off?at=2026-10-31").json["digest"]
    body = {"at": "2026-10-31", "shown": shown, "password": PASSWORD}
    assert desk.of("TV").post(f"{CLIENT}/sign-off", json=body).status_code == 403


def test_a_statement_of_days_that_the_books_never_reach_is_refused_and_nothing_is_kept(desk):
    content = b"date,description,amount\n0001-01-01,SHOP,-1.00\n"
    address = f"{CLIENT}/statements?name=old.csv&account={CODES['bank']}"
    answer = desk.of("IO").post(address, data=content, content_type="application/octet-stream")
    assert answer.status_code == 422
    assert "1 January 1" in problem(answer)["detail"]
    assert desk.of("IO").get(f"{CLIENT}/bank").json["accounts"][0]["statements"] == []


@pytest.mark.parametrize("day", ["2031-03-31", "9000-03-31", "2999-12-31", "1900-01-31"])
def test_a_period_of_a_year_that_there_is_none_of_is_not_set(desk, day):
    answer = desk.of("OB").put(f"{CLIENT}/periods/{day}", json={"state": "held", "reason": "x"})
    assert answer.status_code == 422
    found = problem(answer)
    assert "lies outside the years of these books" in found["detail"]
    assert found["lift"]["page"] == "sign-off"
    assert desk.of("OB").get(f"{CLIENT}/changes").status_code == 200


def test_the_next_year_is_opened_and_then_takes_entries(desk):
    client = desk.of("OB").get(CLIENT).json
    assert client["years_through"] == "2027-12-31"
    far = accrue_on("2028-03-31")
    preview = desk.of("OB").post(f"{CLIENT}/entries/reading", json=far).json
    assert "have a reviewer or partner open the year 2028" in preview["refused"]
    wrong = desk.of("OB").post(f"{CLIENT}/years", json={"label": "2029"})
    assert wrong.status_code == 404
    assert desk.of("OB").post(f"{CLIENT}/years", json={"label": "2028"}).status_code == 201
    assert desk.of("OB").post(f"{CLIENT}/entries/reading", json=far).json["preview"]
    assert store.verify(desk.office.workplace).broken == ()


def accrue_on(day):
    line = {"party": "", "debit": "", "credit": "", "tax_code": "", "tax": "none", "text": "",
            "dimensions": ""}  # fmt: skip
    lines = [
        {**line, "account": CODES["electricity"], "debit": "5"},
        {**line, "account": CODES["accruals"], "credit": "5"},
    ]
    entry = {"kind": "adjusting", "date": day, "reverse_on": "", "reference": "", "reason": "why",
             "lines": lines}  # fmt: skip
    return {"entry": entry, "near": "2026-10-31"}


def test_a_paper_and_a_question_sent_twice_are_kept_once(desk):
    for _ in range(2):
        desk.of("IO").post(f"{CLIENT}/transactions/T1/papers?name=a.txt", data=b"paper")
        desk.of("IO").post(f"{CLIENT}/queries", json={"question": "Which?", "transactions": ["T1"]})
    ines = desk.office["IO"]
    kept = desk.office.workplace.ledger(ines, "SMALL").books.tables.attachments
    assert [row.name for row in kept if row.transaction == "T1"] == ["a.txt"]
    assert len(desk.of("IO").get(f"{CLIENT}/queries").json["queries"]) == 1


def test_a_draft_that_is_kept_can_be_read_back_and_one_that_could_not_is_refused(desk):
    deep: dict[str, object] = {}
    for _ in range(30):
        deep = {"a": deep}
    letters = json.dumps({"content": {"reason": "\ud800"}})
    io = desk.of("IO")
    assert io.put(f"{CLIENT}/drafts/d1", json={"content": deep}).status_code == 422
    refused = io.put(f"{CLIENT}/drafts/d2", data=letters, content_type="application/json")
    assert refused.status_code == 422, refused.text
    assert io.put(f"{CLIENT}/drafts/d3", json={"content": {"reason": "Ł\u202e"}}).status_code == 200
    assert [row["id"] for row in io.get(f"{CLIENT}/drafts").json["drafts"]] == ["d3"]


def test_columns_that_are_no_json_and_old_line_ends_of_a_till(desk):
    address = f"{CLIENT}/statements?name=a.csv&account={CODES['bank']}&columns=%7Bday"
    answer = desk.of("IO").post(address, data=b"a,b,c\n", content_type="application/octet-stream")
    assert answer.status_code == 422
    assert problem(answer)["title"] == "Some fields can't be read"
    till = b"date,cash,card\r2026-09-04,1.00,2.00\r"
    days = desk.of("IO").post(f"{CLIENT}/takings/file", data=till).json["days"]
    assert [day["cash"] for day in days] == ["1.00"]
