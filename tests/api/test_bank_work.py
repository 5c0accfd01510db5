"""The bank over the API: two people at one account, what each is answered, keys sent twice."""

from datetime import date

from corkpost.stand_ins.statement_files import as_camt053
from tests.api.test_pages_work import got, posted
from tests.builders import CODES
from tests.services.test_bank import CARD, FEE, REEDWHARF, SCHOOL, statement

C = "/api/clients/SMALL"
BANK = CODES["bank"]
B = f"{C}/bank/{BANK}"
SURE = {"act": "agree-sure", "account": BANK, "statement": 1, "likely": True}


def agree(group):
    return {"act": "agree", "account": BANK, "groups": [group]}


def apart(groups):
    return {"act": "apart", "account": BANK, "groups": groups}


def take_in(browser, *lines, name="half.xml", **more):
    content = as_camt053([statement(*lines, **more)])
    answer = browser.post(f"/api/clients/SMALL/statements?name={name}", data=content)
    assert answer.status_code == 200, answer.text
    return answer.json["taken"]


def key(number):
    return f"key number {number:06d}"


def shape(browser):
    """The rows of the spine: what stands on each, by kind."""
    found = got(browser, B)
    return [
        (
            row["kind"],
            [e["transaction"] for e in row["entries"]],
            [x["amount"] for x in row["lines"]],
        )
        for row in found["rows"]
    ]


def test_a_statement_from_the_file_to_the_finished_list(desk):
    ines = desk.of("IO")
    (taken,) = take_in(ines, REEDWHARF, SCHOOL, CARD)
    assert (taken["lines"], taken["already"], taken["closing"]) == (3, 0, "371.70")
    assert take_in(ines, REEDWHARF, SCHOOL, CARD, name="again.xml")[0]["already"] == 3
    found = got(ines, B)
    assert (found["sum"]["difference"], found["sure"], found["unagreed"]) == ("-158.30", 2, 3)
    change = posted(ines, f"{C}/acts", {"act": SURE, "key": key(1)})["change"]
    assert (change["agreed"], change["entries"]) == (3, [])
    assert {kind for kind, _, lines in shape(ines) if lines} == {"agreed"}
    groups = [row["group"] for row in got(ines, B)["rows"] if row["group"]]
    change = posted(ines, f"{C}/acts", {"act": apart(groups[:1]), "key": key(2)})["change"]
    assert change["taken_apart"] == 1
    answer = ines.post(f"{B}/finish", json={"statement": 1})
    assert (answer.status_code, answer.json["title"]) == (
        422, "This reconciliation can't be finished",
    )  # fmt: skip
    posted(ines, f"{C}/acts", {"act": SURE, "key": key(3)})
    assert posted(ines, f"{B}/finish", {"statement": 1}, 200) == {"done": True}
    assert got(ines, f"{B}?statement=1")["finished"]
    answer = ines.post(f"{C}/acts", json={"act": apart(groups[1:2]), "key": key(4)})
    assert answer.json["title"] == "A finished reconciliation fixes that"
    posted(desk.of("TV"), f"{B}/reopen", {"statement": 1, "reason": "a line was missed"}, 200)
    (history,) = got(ines, f"{B}?statement=1")["history"]
    assert (history["by"], history["reopened_by"], history["reopened_why"]) == (
        "IO", "TV", "a line was missed",
    )  # fmt: skip


def test_the_second_of_two_people_is_told_what_the_first_agreed(desk):
    ines, tomas = desk.of("IO"), desk.of("TV")
    take_in(ines, REEDWHARF, SCHOOL, CARD, FEE)
    row = next(row for row in got(ines, B)["rows"] if row["kind"] == "proposed")
    wanted = {
        "entries": [[e["transaction"], e["line"]] for e in row["entries"]],
        "lines": [x["ref"] for x in row["lines"]],
    }
    posted(tomas, f"{C}/acts", {"act": agree(wanted), "key": key(1)})
    # Sent once more by the same hand it is done once; the other hand is told.
    posted(tomas, f"{C}/acts", {"act": agree(wanted), "key": key(1)})
    answer = ines.post(f"{C}/acts", json={"act": agree(wanted), "key": key(2)})
    assert answer.status_code == 422
    assert "is agreed already: take that apart first" in answer.json["detail"]
    assert len(got(ines, "/api/clients/SMALL/changes")["changes"]) == 3
    # What Ines goes on to agree leaves his as it is.
    posted(ines, f"{C}/acts", {"act": SURE, "key": key(3)})
    agreed = [kind for kind, _, lines in shape(tomas) if kind == "agreed" and lines]
    assert len(agreed) == 3


def test_a_line_recorded_by_one_is_not_recorded_again_by_the_other(desk):
    ines, tomas = desk.of("IO"), desk.of("TV")
    take_in(ines, REEDWHARF, SCHOOL, CARD, FEE, last=date(2026, 6, 30))
    posted(ines, f"{C}/acts", {"act": SURE, "key": key(1)})
    found = got(ines, "/api/clients/SMALL/points")["points"]
    point = next(row for row in found if row["check"] == "bank-missing")
    settings = {"account": CODES["charges"]}
    act = {"act": "point", "point": point["id"], "route": "record-missing", "settings": settings}
    shown = posted(tomas, f"{C}/acts/preview", {"act": act}, 200)
    body = {"act": act, "reason": "the bank's fee", "shown": shown["digest"]}
    posted(tomas, f"{C}/acts", {**body, "key": key(2)})
    answer = ines.post(f"{C}/acts", json={**body, "key": key(3)})
    assert answer.status_code == 409
    assert "Somebody put this right" in answer.json["detail"]
    assert got(ines, f"{B}?statement=1")["sum"]["difference"] == "0.00"
