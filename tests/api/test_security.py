"""Every route with nobody, with the wrong client, with the wrong role; sessions, limits, headers."""

import json
import re
import threading
import time
from typing import Any, get_args
from urllib.parse import quote

import pytest

from corkpost.api.security import SECRET
from corkpost.formats.acts import AnyAct, act_of
from corkpost.services import staff
from corkpost.store import database
from tests.practice import PASSWORD, decide_the_rest

FILLED = {
    "client": "SMALL",
    "point": "p-0",
    "transaction": "T1",
    "digest": "0" * 64,
    "draft": "d1",
    "number": "1",
    "account": "5200",
    "party": "S1",
    "which": "payables",
    "day": "2026-10-31",
    "job": "j1",
    "issue": "1",
    "session": "s1",
    "invitation": "i1",
    "code": "PH",
    "name": "accounts",
}
LINE = {
    "account": "5310",
    "party": "",
    "debit": "1",
    "credit": "",
    "tax_code": "",
    "tax": "none",
    "text": "",
    "dimensions": "",
}
ENTRY = {
    "kind": "adjusting",
    "date": "pe",
    "reverse_on": "",
    "reference": "",
    "reason": "x",
    "lines": [LINE, {**LINE, "account": "2210", "debit": "", "credit": "1"}],
}
HUGE_RATE = {"currency": "USD", "day": "2026-10-31", "rate": "1e6000000"}
ASSET = {"asset": "A1", "account": "0100", "name": "launch", "bought": "2026-03-01", "cost": "1.00"}
ACTS: list[dict[str, Any]] = [
    {"act": "point", "point": "p-0", "route": "void", "settings": {}},
    {"act": "together", "points": ["p-0"]},
    {"act": "by-hand", "route": "void", "transaction": "T1", "items": [], "settings": {}},
    {"act": "entry", "entry": ENTRY, "near": "2026-10-31"},
    {"act": "undo", "number": 2},
    {"act": "own-pocket", "day": "2026-10-01", "gross": "24.60", "account": "6100"},
    {"act": "takings", "days": [{"day": "2026-09-04", "cash": "1"}], "sales": "4000"},
    {"act": "sharing", "day": "2026-10-31"},
    {"act": "merge", "party": "S1", "other": "S2"},
    {"act": "chart", "accounts": [{"account": "5200", "role": "repairs"}]},
    {"act": "account", "code": "5299", "name": "Ropes", "type": "expense"},
    {"act": "party", "name": "Gull Roofing", "kind": "supplier"},
    {"act": "agree", "account": "1100", "groups": [{"entries": [["T2", 2]], "lines": []}]},
    {"act": "agree-sure", "account": "1100", "statement": 1},
    {"act": "apart", "account": "1100", "groups": ["g1"]},
    {"act": "close-year", "year": "2026"},
    {"act": "tie-out", "tie_out": "receivables", "as_at": "2026-10-31"},
    {"act": "recipe", "recipe": "accrual", "said": {"amount": "1"}, "near": "2026-10-31"},
    {"act": "assets", "assets": [ASSET]},
    {"act": "recode", "transactions": ["T1"], "account": "5200", "to_account": "5310"},
    {"act": "mark-account", "account": "5200", "marks": ["inactive"]},
    {"act": "payroll", "table": "month,gross,net_pay\n2026-01,1,1"},
    {"act": "set-facts", "facts": {"materiality": "900.00"}},
    {"act": "tax-scheme", "since": "2026-11-01", "scheme": "flat", "rate": "12.5"},
    {"act": "file-return", "first": "2026-10-01", "last": "2026-10-31", "filed_on": "2026-11-02"},
    {"act": "budget", "table": "account,month,amount\n5200,2026-01,1"},
    {"act": "arrange", "name": "Lender", "groups": [{"heading": "Turnover", "picks": ["sales"]}]},
    {"act": "rates", "rates": [{"currency": "USD", "day": "2026-10-31", "rate": "0.9"}]},
]
CHART_ACTS = ("chart", "account", "mark-account")
BODIES: dict[str, Any] = {
    "/api/session/confirmed": {"password": "x"},
    "/api/account/password": {"old": "x", "new": "y"},
    "/api/account/factor": {"secret": "x", "code": "000000"},
    "/api/account/invitations/<invitation>": {"password": "x"},
    "/api/practice/rules": {"second_person": True, "second_factor": False, "token_needed": False, "kept_years": 10},
    "/api/practice/staff": {"code": "NN", "name": "Nell Neap", "role": "preparer"},
    "/api/practice/staff/<code>/leaving": {"to": None},
    "/api/practice/clients/facts": {
        "clients": ["SMALL"], "facts": {"materiality": "1"}, "reason": "x",
    },
    "/api/practice/clients/archiving": {"client": "SMALL", "archived": True, "reason": "x"},
    "/api/practice/clients/removal": {"client": "SMALL", "reason": "x"},
    "/api/practice/clients/states": {
        "clients": ["SMALL"], "through": "pe", "state": "held", "reason": "x",
    },
    "/acts/preview": {"act": ACTS[0]},
    "/acts": {"act": ACTS[0], "reason": "x", "shown": "x", "key": "k" * 16},
    "/points-together": {"points": ["p-0"]},
    "/entries/reading": {"entry": ENTRY, "near": "2026-10-31"},
    "/sharing": {"day": "2026-10-31"},
    "/closing": {"year": "2026"},
    "/points/<point>/decision": {"route": "leave", "reason": "x"},
    "/points/<point>/reopening": {"reason": "x"},
    "/drafts/<draft>": {"content": {}},
    "/sign-off": {"at": "2026-10-31", "shown": "x", "password": "x"},
    "/checklist": {"as_at": "2026-10-31", "item": "letter", "done": True},
    "/remarks": {"about": "account", "name": "5200", "text": "why?"},
    "/since": {"through": 1},
    "/remarks/cleared": {"number": 1},
    "/marks": {"account": "5200", "as_at": "2026-10-31", "kind": "prepared", "seen": None},
    "/reopening": {"first_day": "2026-10-31", "reason": "x"},
    "/periods/<day>": {"state": "held", "reason": "x"},
    "/years": {"label": "2028"},
    "/recipes/drafts": {"recipe": "accrual", "said": {"amount": "1"}, "near": "2026-10-31"},
    "/incoming/used": {"digest": "0" * 64, "transaction": "T1"},
    "/windows": {
        "staff": "IO", "first_day": "2026-10-01", "last_day": "2026-10-31", "until": "2026-11-30",
        "reason": "x",
    },
    "/place": {"path": "/clients/SMALL/review"},
    "/api/statements": {"clients": ["SMALL"]},
    "/api/checks": {"clients": ["SMALL"]},
    "/api/desk/assign": {"clients": ["SMALL"], "staff": "PH"},
    "/contact": {"name": "Mara Salt", "email": "mara@salt.example"},
    "/queries": {"question": "x", "transactions": ["T1"]},
    "/queries/<int:number>/wording": {"text": "x"},
    "/queries/<int:number>/answer": {"text": "x"},
    "/queries/<int:number>/sorting": {"answer": 1},
    "/queries/letter": {"queries": [1]},
    "/queries/sending": {"queries": [1]},
    "/transactions/<transaction>/receipt": {"method": "cash"},
    "/proposals/<int:number>/approval": {"shown": "x", "key": "k" * 16},
    "/proposals/<int:number>/return": {"remark": "x"},
    "/bookkeeper": {"changes": [2]},
    "/statements/set-aside": {"change": 1, "reason": "x"},
    "/listing-answers": {"layout": "date", "about": "sign", "answer": None},
    "/listing-answers/brought": {"document": {"form": "listing answers 1", "layouts": []}},
    "/listing-layouts": {"layout": "date", "name": "monthly"},
    "/api/listings": {"files": ["0" * 32]},
    "/bank/<account>/finish": {"statement": 1},
    "/bank/<account>/reopen": {"statement": 1, "reason": "x"},
}  # fmt: skip
QUERIES = {
    "/figures": "at=2026-10-31",
    "/day": "text=pe&near=2026-10-31",
    "/takings": "first=2026-01-01&last=2026-10-31",
    "/worksheet": "year=2026",
    "/worksheet.xlsx": "year=2026",
    "/trial-balance": "at=2026-10-31",
    "/trial-balance.csv": "at=2026-10-31",
    "/accounts/<account>": "first=2026-01-01&last=2026-10-31",
    "/parties/<party>": "first=2026-01-01&last=2026-10-31",
    "/aged/<which>": "at=2026-10-31",
    "/open-items/<which>": "at=2026-10-31",
    "/owners": "first=2026-01-01&last=2026-10-31",
    "/threads/<which>": "at=2026-10-31&party=S1",
    "/sign-off": "at=2026-10-31",
    "/tie-outs": "at=2026-10-31",
    "/recipes": "at=2026-10-31",
    "/assets": "at=2026-10-31",
    "/tax": "first=2026-10-01&last=2026-10-31",
    "/entries.csv": "first=2026-01-01&last=2026-10-31",
    "/marks": "at=2026-10-31",
    "/pack.zip": "at=2026-10-31",
    "/audit-file.xml": "year=2026",
    "/analysis": "first=2026-01-01&last=2026-10-31",
    "/financials": "first=2026-01-01&last=2026-10-31",
    "/papers": "name=letter.pdf",
    "/transactions/<transaction>/papers": "name=bill.pdf",
    "/parties/near": "name=reedwharf",
    "/incoming": "name=bill.pdf",
    "/api/listings/files": "name=ledger.csv",
}


def routes(app, containing="/api/"):
    """Every route of the API: method, rule, and an address of it."""
    for rule in app.url_map.iter_rules():
        if str(rule).startswith("/api/") and containing in str(rule):
            address = re.sub(r"<(?:int:)?(\w+)>", lambda match: FILLED[match[1]], str(rule))
            for method in sorted((rule.methods or set()) - {"HEAD", "OPTIONS"}):
                yield method, str(rule), address


def ask(browser, method, rule, address, **more):
    tail = rule.removeprefix("/api/clients/<client>")
    if method in ("GET", "POST") and tail in QUERIES:
        address += "?" + QUERIES[tail]
    body = {} if method in ("GET", "DELETE") else {"json": BODIES.get(tail, {})}
    takes_bytes = (
        "/transactions/<transaction>/papers",
        "/statements",
        "/books",
        "/takings/file",
        "/papers",
        "/api/listings/files",
    )
    if tail in takes_bytes and method == "POST":
        body = {"data": b"paper"}
    return browser.open(address, method=method, **body, **more)


def problem(answer):
    assert answer.mimetype == "application/problem+json", answer.text
    assert answer.json["status"] == answer.status_code
    assert answer.json["detail"]
    assert "Traceback" not in answer.text
    return answer.json


def test_nobody_is_let_in_anywhere_but_at_the_door(shared_desk):
    open_doors = set()
    for method, rule, address in routes(shared_desk.app):
        answer = ask(shared_desk.nobody(), method, rule, address)
        if answer.status_code == 401:
            assert "Sign in" in problem(answer)["title"]
        else:
            open_doors.add((method, rule))
    by_invitation = "/api/account/invitations/<invitation>"
    doors = {
        (method, rule) for rule in ("/api/session", by_invitation) for method in ("GET", "POST")
    }
    assert open_doors == doors


def test_a_client_that_is_not_one_s_own_is_not_there_on_any_route(shared_desk):
    tried = 0
    for method, rule, address in routes(shared_desk.app, "<client>"):
        answer = ask(shared_desk.of("PH"), method, rule, address)
        assert answer.status_code in (403, 404), (method, rule, answer.text)
        # Nothing tells it from a client that nobody has.
        other = ask(shared_desk.of("PH"), method, rule, address.replace("SMALL", "NOBODYS"))
        assert problem(other) == {
            name: value.replace("SMALL", "NOBODYS") if isinstance(value, str) else value
            for name, value in problem(answer).items()
        }
        tried += 1
    assert tried > 25


@pytest.mark.parametrize("act", ACTS, ids=lambda act: act["act"])
def test_no_act_reaches_a_client_that_is_not_one_s_own(shared_desk, act):
    for tail in ("acts/preview", "acts"):
        body = {**BODIES["/" + tail], "act": act}
        answer = shared_desk.of("PH").post(f"/api/clients/SMALL/{tail}", json=body)
        assert answer.status_code == 404, (act, answer.text)


def test_every_kind_of_act_is_in_this_table_and_has_words_for_a_list():
    assert all(act_of(json.dumps(act)).says for act in ACTS)
    kinds = get_args(get_args(AnyAct)[0])
    assert {act["act"] for act in ACTS} == {
        get_args(kind.model_fields["act"].annotation)[0] for kind in kinds
    }


@pytest.mark.parametrize("act", [act for act in ACTS if act["act"] in CHART_ACTS])
def test_a_preparer_does_not_change_the_chart_by_whatever_way(shared_desk, act):
    for tail in ("acts/preview", "acts"):
        body = {**BODIES["/" + tail], "act": act}
        answer = shared_desk.of("IO").post(f"/api/clients/SMALL/{tail}", json=body)
        assert (answer.status_code, "partner or reviewer" in answer.text) == (403, True)


@pytest.mark.parametrize(
    ("who", "address", "method"),
    [
        ("IO", "/api/clients/SMALL/sign-off", "POST"),
        ("IO", "/api/clients/SMALL/reopening", "POST"),
        ("TV", "/api/clients/SMALL/reopening", "POST"),
        ("IO", "/api/clients/SMALL/periods/2026-10-31", "PUT"),
        ("IO", "/api/clients/SMALL/years", "POST"),
    ],
)
def test_what_a_role_may_not_do_is_refused_with_who_may(shared_desk, who, address, method):
    rule = address.replace("SMALL", "<client>").replace("2026-10-31", "<day>")
    answer = ask(shared_desk.of(who), method, "/api/clients/<client>" + rule[21:], address)
    assert answer.status_code == 403
    assert re.search(r"partner|reviewer", problem(answer)["detail"])


def test_every_route_answers_its_own_people_and_asking_writes_nothing(shared_desk):
    """With the right person nothing is a trace: it is done, or refused in words."""
    store = shared_desk.app.extensions["corkpost"].database
    for method, rule, address in routes(shared_desk.app, "<client>"):
        before = "\n".join(store.reading.iterdump()) if method == "GET" else None
        answer = ask(shared_desk.of("OB"), method, rule, address)
        assert answer.status_code < 500, (method, rule, answer.text)
        if answer.status_code >= 400:
            problem(answer)
        if before is not None:
            assert "\n".join(store.reading.iterdump()) == before, (method, rule)


@pytest.mark.parametrize(
    "headers",
    [
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
        {"Origin": "https://elsewhere.example"},
        {"Origin": "null"},
    ],
)
def test_a_deed_that_another_site_asks_for_is_refused(shared_desk, headers):
    browser = shared_desk.of("IO")
    answer = browser.post(
        "/api/clients/SMALL/points/p-0/decision",
        json={"route": "leave", "reason": "x"},
        headers=headers,
    )
    assert (answer.status_code, problem(answer)["title"]) == (403, "That came from another site")
    assert browser.get("/api/clients/SMALL", headers=headers).status_code == 200


def test_our_own_page_s_deed_is_taken(shared_desk):
    headers = {"Sec-Fetch-Site": "same-origin", "Origin": "http://localhost"}
    answer = shared_desk.of("IO").put(
        "/api/clients/SMALL/place", json={"path": "/clients/SMALL/review"}, headers=headers
    )
    assert answer.json == {"done": True}


def test_the_session_cookie_is_out_of_reach_of_scripts_and_other_sites(desk):
    def cookie(base):
        answer = desk.nobody().post(
            "/api/session", json={"code": "IO", "password": PASSWORD}, base_url=base
        )
        return answer.headers["Set-Cookie"]

    plain, over_tls = cookie("http://localhost"), cookie("https://cork.example")
    assert "HttpOnly" in plain
    assert "SameSite=Lax" in plain
    assert "Secure" not in plain
    assert "Secure" in over_tls


def test_every_answer_carries_the_headers_that_keep_a_browser_in_bounds(shared_desk):
    for address in ("/api/session", "/", "/clients/SMALL/review", "/api/nowhere"):
        with shared_desk.nobody().get(address) as answer:
            headers = answer.headers
        policy = headers["Content-Security-Policy"]
        assert "default-src 'self'" in policy
        assert "script-src 'self';" in policy
        assert "frame-ancestors 'none'" in policy
        assert headers["X-Content-Type-Options"] == "nosniff"
    assert shared_desk.nobody().get("/api/session").headers["Cache-Control"] == "no-store"


def test_tries_to_sign_in_are_limited_and_the_answer_tells_nothing(desk):
    browser = desk.nobody()
    wrong = [
        browser.post("/api/session", json={"code": code, "password": "guess"})
        for code in ("IO", "IO", "IO", "IO", "IO", "NOBODY")
    ]
    assert {answer.status_code for answer in wrong} == {403}
    assert len({answer.text for answer in wrong}) == 1
    answer = browser.post("/api/session", json={"code": "IO", "password": PASSWORD})
    assert (answer.status_code, "seconds, then try again" in problem(answer)["detail"]) == (
        429,
        True,
    )
    # Somebody else at the same address is not shut out by it.
    answer = browser.post("/api/session", json={"code": "TV", "password": PASSWORD})
    assert answer.status_code == 200


def test_guessing_the_password_at_sign_off_is_limited_too(desk):
    decide_the_rest(desk.office)
    body = {"at": "2026-10-31", "shown": "x", "password": "guess"}
    codes = [
        desk.of("TV").post("/api/clients/SMALL/sign-off", json=body).status_code for _ in range(6)
    ]
    assert codes == [403] * 5 + [429]


def test_a_new_password_and_signing_out_end_the_session(desk):
    browser = desk.of("IO")
    assert browser.get("/api/desk").status_code == 200
    staff.set_password(desk.office.workplace, desk.office["OB"], "IO", "another long one")
    assert browser.get("/api/desk").status_code == 401
    other = desk.of("TV")
    assert other.delete("/api/session").json == {"done": True}
    assert other.get("/api/desk").status_code == 401


def test_only_signing_in_and_out_sets_the_cookie(desk):
    """Else an answer that was under way at signing out would bring the session back."""
    assert "Set-Cookie" not in desk.of("IO").get("/api/desk").headers
    answer = desk.of("IO").delete("/api/session")
    assert "01 Jan 1970" in answer.headers["Set-Cookie"]


def test_a_role_that_was_changed_counts_at_once(desk):
    from corkpost.core.kinds import Role

    browser = desk.of("TV")
    staff.set_role(desk.office.workplace, desk.office["OB"], "TV", Role.PREPARER)
    answer = browser.put(
        "/api/clients/SMALL/periods/2026-10-31", json={"state": "held", "reason": "x"}
    )
    assert answer.status_code == 403


def test_the_key_that_signs_sessions_is_made_once_and_nobody_else_s_to_read(desk):
    file = desk.office.workplace.database.folder / SECRET
    key = file.read_bytes()
    assert (len(key), oct(file.stat().st_mode & 0o777)) == (32, "0o600")
    from corkpost.api.app import create_app

    assert create_app(desk.office.workplace).config["SECRET_KEY"] == key


@pytest.mark.parametrize(
    ("sent", "status"),
    [
        ({"data": "act=undo", "content_type": "application/x-www-form-urlencoded"}, 415),
        ({"data": "{", "content_type": "application/json"}, 422),
        ({"json": {"act": {"act": "undo", "number": 2}, "colour": "blue"}}, 422),
        ({"json": {"act": {"act": "undo", "number": "two"}}}, 422),
        ({"json": {"act": {"act": "forget", "number": 2}}}, 422),
        ({"json": {"act": {"act": "apart", "account": "v" * 201, "groups": ["g1"]}}}, 422),
        ({"json": {"act": {"act": "rates", "rates": [HUGE_RATE]}}}, 422),
        ({"data": b"[" * 100_000 + b"]" * 100_000, "content_type": "application/json"}, 422),
        ({"data": b"x" * (2 * 1024 * 1024 + 1), "content_type": "application/json"}, 413),
    ],
)
def test_a_body_that_does_not_fit_is_refused_in_words(shared_desk, sent, status):
    answer = shared_desk.of("IO").post("/api/clients/SMALL/acts/preview", **sent)
    assert answer.status_code == status
    problem(answer)


@pytest.mark.parametrize(
    ("address", "status"),
    [
        ("/api/nowhere", 404),
        ("/api/clients/SMALL/figures", 422),
        ("/api/clients/SMALL/figures?at=soon", 422),
        ("/api/clients/SMALL/figures?at=2999-12-31", 200),
        ("/api/clients/SMALL/figures?at=9999-12-31", 422),
        ("/api/clients/SMALL/figures?at=0001-01-01", 422),
        ("/api/clients/SMALL?year=1", 404),
        ("/api/clients/SMALL?year=4010", 404),
        ("/api/clients/SMALL/accounts/9999?first=2026-01-01&last=2026-02-01", 404),
        ("/api/clients/SMALL/aged/debts?at=2026-01-01", 404),
        ("/api/clients/NONE", 404),
        ("/api/find?q=" + "+".join(f"w{n}" for n in range(100)), 422),
    ],
)
def test_an_address_that_does_not_fit_is_refused_in_words(shared_desk, address, status):
    answer = shared_desk.of("IO").get(address)
    assert answer.status_code == status, answer.text
    if status >= 400:
        problem(answer)


def test_what_goes_wrong_within_is_told_without_a_trace(desk, monkeypatch):
    from corkpost.services import overview

    def fails(*_args):
        raise ZeroDivisionError("secret /home/path")

    monkeypatch.setattr(overview, "revision", fails)
    desk.app.config["PROPAGATE_EXCEPTIONS"] = False
    answer = desk.of("IO").get("/api/clients/SMALL/revision")
    assert answer.status_code == 500
    assert "secret" not in answer.text
    assert re.search(r"the number [0-9a-f]{8}", problem(answer)["detail"])


def test_a_store_that_is_busy_is_told_as_such_and_not_as_a_fault(desk, monkeypatch):
    import sqlite3

    from corkpost.services import review

    def busy(*_args):
        raise sqlite3.OperationalError("database is locked")

    monkeypatch.setattr(review, "decide", busy)
    answer = desk.of("IO").post(
        "/api/clients/SMALL/points/p-0/decision", json={"route": "leave", "reason": "x"}
    )
    assert (answer.status_code, "Nothing was changed" in problem(answer)["detail"]) == (503, True)


def test_pages_are_one_page_and_its_parts_may_be_kept_for_long(shared_desk):
    with shared_desk.nobody().get("/clients/SMALL/review") as page:
        assert page.headers["Cache-Control"] == "no-cache"
        assert '<div id="root">' in page.text
        script = re.search(r"/assets/[^\"]+\.js", page.text)
    assert script
    with shared_desk.nobody().get(script[0]) as asset:
        assert "max-age=31536000" in asset.headers["Cache-Control"]
    for address in ("/assets/../practice.sqlite3", "/assets/nothing.js", "/api/../session-key"):
        with shared_desk.nobody().get(address) as answer:
            assert b"SQLite" not in answer.data
            assert answer.status_code in (200, 404)


def test_only_the_names_that_it_is_known_by_are_answered_and_https_is_remembered(desk):
    nobody = desk.nobody()
    assert nobody.get("/api/session", headers={"Host": "elsewhere.example"}).status_code == 400
    plain = nobody.get("/api/session")
    over_tls = nobody.get("/api/session", base_url="https://cork.example")
    assert "Strict-Transport-Security" not in plain.headers
    assert over_tls.headers["Strict-Transport-Security"] == "max-age=31536000"
    signed = nobody.post(
        "/api/session", json={"code": "IO", "password": PASSWORD}, base_url="https://cork.example"
    )
    assert signed.headers["Set-Cookie"].startswith("__Host-corkpost=")


def test_what_the_api_is_like_is_told_to_its_people_alone_and_by_no_page_of_others(desk):
    assert desk.nobody().get("/apidoc/openapi.json").status_code == 401
    assert desk.of("IO").get("/apidoc/openapi.json").json["openapi"]
    for page in ("swagger", "redoc", "scalar"):
        assert desk.of("IO").get(f"/apidoc/{page}/").status_code == 404


@pytest.mark.parametrize("name", ["Rechnung – Müller.pdf", "счёт.pdf", "領収書.pdf", 'a "b".pdf'])
def test_a_paper_of_any_letters_comes_back_under_them(desk, name):
    browser = desk.of("IO")
    kept = browser.post(
        "/api/clients/SMALL/papers", query_string={"name": name}, data=name.encode()
    )
    with browser.get(f"/api/clients/SMALL/papers/{kept.json['digest']}") as found:
        assert found.data == name.encode()
        said = found.headers["Content-Disposition"]
    # What a server sends must be in letters that a head may have.
    said.encode("latin-1")
    plain = name.replace('"', "")
    assert quote(plain, safe="") in said or plain in said


def test_a_table_of_very_many_columns_is_refused_at_once(desk):
    wide = (b"a," * 50_000 + b"\n") * 3
    began = time.monotonic()
    answer = desk.of("IO").post(
        "/api/clients/SMALL/statements",
        query_string={"name": "x.csv", "account": "1200"},
        data=wide,
    )
    assert "more than 100 columns" in problem(answer)["detail"]
    assert time.monotonic() - began < 5


def test_a_full_disk_says_so_changes_nothing_and_is_read_on(desk, monkeypatch):
    browser = desk.of("IO")
    connection = desk.office.workplace.database.reading
    pages = connection.execute("PRAGMA page_count").fetchone()[0]
    monkeypatch.setattr(database, "connect", full_at(pages))
    desk.office.workplace.database._threads = threading.local()
    body = {"about": "account", "name": "5200", "text": "long " * 390}
    statuses = {
        browser.post(
            "/api/clients/SMALL/remarks", json={**body, "text": f"{n} {body['text']}"}
        ).status_code
        for n in range(40)
    }
    assert 507 in statuses
    assert statuses <= {200, 507}
    answer = browser.post("/api/clients/SMALL/remarks", json={**body, "text": "x" * 1990})
    assert (answer.status_code, "no room left" in problem(answer)["detail"]) == (507, True)
    assert browser.get("/api/clients/SMALL/remarks").status_code == 200


def full_at(pages):
    """Connections to a store that grows no further."""

    def connected(path, made=database.connect):
        connection = made(path)
        connection.execute(f"PRAGMA max_page_count = {pages + 2}")
        return connection

    return connected
