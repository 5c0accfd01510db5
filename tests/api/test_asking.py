"""Questions, visits, parties made one and Find, as the pages ask them."""

from tests.practice import only_point

C = "/api/clients/SMALL"
SMALL_POINT = {"route": "ask", "reason": "Two deliveries?", "back_on": "2026-11-23"}


def got(browser, address):
    answer = browser.get(address)
    assert answer.status_code == 200, answer.text
    return answer.json


def sent(browser, address, body, status=200):
    answer = browser.post(address, json=body)
    assert answer.status_code == status, answer.text
    return answer.json


def test_a_question_is_on_the_board_with_its_entries_and_in_the_letter(desk):
    browser = desk.of("IO")
    point = only_point(desk.office).point.id
    sent(browser, f"{C}/points/{point}/decision", SMALL_POINT)
    sent(browser, f"{C}/queries", {"question": "And this?", "transactions": ["T6"]}, 201)
    board = got(browser, f"{C}/queries")
    first, second = board["queries"]
    assert (first["state"], first["back_on"], first["point"]) == ("to send", "2026-11-23", point)
    assert [row["transaction"] for row in first["about"]] == ["T1", "T3"]
    assert (second["about"][0]["amount"], board["may_send"]) == ("12.30", False)
    assert (
        "Say who answers" in sent(browser, f"{C}/queries/letter", {"queries": [1]}, 422)["detail"]
    )
    sent(browser, f"{C}/contact", {"name": "Mara Salt", "email": "mara@salt.example"})
    sent(browser, f"{C}/queries/2/wording", {"text": "What is this?"})
    letter = sent(browser, f"{C}/queries/letter", {"queries": [1, 2]})
    assert (letter["to"]["name"], letter["subject"]) == (
        "Mara Salt", "2 questions about the books of SMALL & Co [CP-…]",
    )  # fmt: skip
    assert "Question 2: What is this?" in letter["body"]
    assert got(browser, f"{C}")["queries_to_do"] == 2
    # What can't go out counts as not sent, and an answer by telephone brings the point back.
    assert (
        "no mail server" in sent(browser, f"{C}/queries/sending", {"queries": [1]}, 422)["detail"]
    )
    sent(browser, f"{C}/queries/1/answer", {"text": "One delivery."})
    case = got(browser, f"{C}/points/{point}")
    assert (case["point"]["state"], case["point"]["query"]["answers"][0]["text"]) == (
        "open", "One delivery.",
    )  # fmt: skip
    sent(browser, f"{C}/queries/2/end", {})
    assert [row["state"] for row in got(browser, f"{C}/queries")["queries"]] == [
        "answered", "withdrawn",
    ]  # fmt: skip


def test_the_first_visit_tells_nothing_and_a_look_for_answers_needs_a_mailbox(desk):
    browser = desk.of("TV")
    since = sent(browser, f"{C}/points/visit", {})
    assert since == {"at": None, "new": [], "changed": [], "decided": [], "gone": 0}
    assert "no mail server" in sent(browser, f"{C}/queries/looking", {}, 422)["detail"]


def test_two_parties_are_made_one_as_it_was_shown_and_the_other_name_is_known(desk):
    browser = desk.of("IO")
    act = {"act": "merge", "party": "S2", "other": "S1"}
    shown = sent(browser, f"{C}/acts/preview", {"act": act})
    assert shown["merges"] == [
        {
            "party": "S1",
            "name": "Reedwharf",
            "before": None,
            "after": "S2",
            "read_as": "Kittiwake Signs",
        }
    ]
    assert shown["effect"]["accounts"] == []
    body = {"act": act, "reason": "one firm", "shown": shown["digest"], "key": "k" * 16}
    change = sent(browser, f"{C}/acts", body, 201)["change"]
    assert change["merges"] == shown["merges"]
    party = got(browser, f"{C}/parties/S2?first=2026-01-01&last=2026-12-31")
    assert "Reedwharf" in party["also"]
    found = got(browser, "/api/find?q=reedw")
    assert {row["client"] for row in found["postings"]} == {"SMALL"}
