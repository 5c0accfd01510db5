"""The command line: what the pages do without them, exactly as it is described."""

import hashlib
import json
import sqlite3
import subprocess
import sys
import zipfile

import click
import pytest
from click.testing import CliRunner

from corkpost.cli import main
from corkpost.cli.context import GIVES_OUT
from corkpost.stand_ins.statement_files import as_camt053
from tests.builders import CODES, TODAY
from tests.formats.folders import put, small_books, write
from tests.formats.test_books_folder import PROVE_SEAL, zipped
from tests.formats.test_statements import NO_BALANCE
from tests.services.test_bank import CARD, FEE, REEDWHARF, SCHOOL, statement


class Shell:
    """Runs commands on one data folder, as one person."""

    def __init__(self, data, by="OB"):
        self.data, self.by = data, by

    def run(self, *words, code=0, stdin=None, env=None, by=None):
        head = ["--data", str(self.data), "--today", "2026-11-16", "--by", by or self.by]
        found = CliRunner().invoke(main, [*head, *map(str, words)], input=stdin, env=env or {})
        assert found.exit_code == code, (words, found.output, found.exception)
        return found

    def json(self, *words, **more):
        found = self.run(*words, "--json", **more)
        return json.loads(found.stdout)


@pytest.fixture
def shell(tmp_path) -> Shell:
    made = Shell(tmp_path / "data")
    taken = made.json(
        "import-books",
        write(small_books(), tmp_path / "small"),
        env={"CORKPOST_PASSWORD": "long enough one"},
    )
    assert taken == {
        "client": "SMALL",
        "transactions": 8,
        "lines": 18,
        "new": 8,
        "changed": 0,
        "removed": 0,
        "warnings": [],
    }
    return made


def twin(shell):
    return next(p for p in shell.json("review", "SMALL") if p["check"] == "duplicate-document")


def test_the_first_writing_command_makes_a_partner_of_that_name(shell):
    assert shell.json("staff", "list") == [
        {
            "code": "OB", "name": "OB", "role": "partner", "clients": [], "can_sign_in": True,
            "rule": {"journals": False, "above": None}, "left_on": None, "has_factor": False,
        }
    ]  # fmt: skip


def test_a_point_is_what_it_is_described_to_be(shell):
    point = twin(shell)
    assert set(point) == {
        "id",
        "check",
        "certainty",
        "amount",
        "transactions",
        "statement_lines",
        "accounts",
        "parties",
        "summary",
        "state",
        "routes",
    }
    assert (point["amount"], point["transactions"], point["state"]) == (
        "246.00",
        ["T1", "T3"],
        "open",
    )
    assert (point["accounts"], point["parties"], point["statement_lines"]) == (
        ["2100", "2200", "5200"],
        ["S1"],
        [],
    )
    assert point["routes"] == ["void", "ask", "leave"]


def test_routes_come_with_entries_and_effect_the_recommended_first(shell):
    routes = shell.json("routes", "SMALL", twin(shell)["id"])
    assert [route["route"] for route in routes] == ["void", "void", "ask", "leave"]
    effect = routes[0]["effect"]
    assert {"accounts", "profit", "tax", "parties", "bank"} <= set(effect)
    assert effect["accounts"][0].keys() >= {"account", "before", "after"}
    assert float(effect["profit"]["after"]) - float(effect["profit"]["before"]) == 200


def correct(shell, *more):
    return shell.json(
        "correct",
        "SMALL",
        twin(shell)["id"],
        "--route",
        "void",
        "--set",
        "transaction=T3",
        "--reason",
        "one delivery",
        *more,
    )


def test_preview_shows_what_correct_posts(shell):
    preview = correct(shell, "--preview")
    assert twin(shell)["state"] == "open"
    change = correct(shell)
    assert change["change"] == 2
    shown, posted = preview["entries"][0]["lines"], change["entries"][0]["lines"]
    assert shown == posted
    assert [row["amount"] for row in change["allocations"]] == ["246.00"]
    assert twin(shell)["state"] == "corrected"


def test_a_decision_is_taken_by_the_same_command(shell):
    point = twin(shell)["id"]
    assert shell.json(
        "correct", "SMALL", point, "--route", "leave", "--reason", "two deliveries"
    ) == {"point": point, "state": "left", "change": None}
    refused = shell.run("correct", "SMALL", point, "--route", "ask", code=1)
    assert "Say why" in refused.stderr


ENTRY = {
    "kind": "adjusting", "date": "2026-06-30", "reason": "Electricity to 30 June not yet billed", "reverse_on": "2026-07-01",
    "lines": [{"account": "5310", "debit": "410.00"}, {"account": "2210", "credit": "410.00", "party": None, "dimensions": {"site": "QUAY"}}],
}  # fmt: skip


def test_an_entry_is_previewed_posted_and_taken_back(shell, tmp_path):
    file = tmp_path / "entry.json"
    file.write_text(json.dumps(ENTRY))
    assert len(shell.json("post", "SMALL", file, "--preview")["entries"]) == 2
    change = shell.json("post", "SMALL", file)
    assert [entry["id"] for entry in change["entries"]] == ["A-2026-1", "R-2026-1"]
    shell.run("undo", "SMALL", 2, "--reason", "billed after all")
    refused = shell.run("undo", "SMALL", 2, "--reason", "again", code=1)
    assert "taken back already" in refused.stderr
    assert shell.run("undo", "SMALL", 2, code=2)


def test_the_trial_balance_as_json_csv_and_for_people(shell):
    found = shell.json("trial-balance", "SMALL", "--at", "2026-12-31")
    assert set(found) == {"client", "at", "rows", "debits", "credits"}
    rows = {row["account"]: row for row in found["rows"]}
    assert rows["brought-forward"] == {
        "account": "brought-forward",
        "name": "Result brought forward, not closed",
        "type": "equity",
        "balance": "-30.00",
    }
    assert found["debits"] == found["credits"].lstrip("-")
    text = shell.run("trial-balance", "SMALL", "--at", "2026-12-31", "--csv").stdout
    assert text.splitlines()[0] == "account,name,type,balance"
    correct(shell)
    received = shell.json(
        "trial-balance",
        "SMALL",
        "--at",
        "2026-12-31",
        "--column",
        "as-received",
        "--without-closing",
    )
    assert {row["account"]: row["balance"] for row in received["rows"]}["5200"] == "400.00"
    shown = shell.run("trial-balance", "SMALL", "--at", "2026-12-31").stdout.splitlines()
    assert shown[0] == "SMALL: trial balance at 2026-12-31, adjusted"
    assert [line.split()[-2:] for line in shown if "tax" in line or "bits" in line] == [
        ["tax", "46.00"],
        ["Debits", "630.00"],
    ]
    assert shown[-1].split() == ["Credits", "(630.00)"]


def test_the_worksheet_and_the_aged_lists(shell, tmp_path):
    sheet = shell.json("worksheet", "SMALL", "--year", "2026", "--xlsx", tmp_path / "w.xlsx")
    assert sheet["totals"]["adjusted"] == "0.00"
    assert (tmp_path / "w.xlsx").read_bytes()[:2] == b"PK"
    aged = shell.json("aged", "SMALL", "payables", "--at", "2026-10-31")
    assert (aged["total"], aged["parties"][0]["items"][0]["open"]) == ("-246.00", "-246.00")
    assert set(aged["parties"][0]["buckets"]) == {"current", "1-30", "31-60", "61-90", "over 90"}
    assert (
        "Control account (246.00)"
        in shell.run("aged", "SMALL", "payables", "--at", "2026-10-31").stdout
    )


def test_it_is_signed_reopened_and_held_from_here_too(shell):
    for point in shell.json("review", "SMALL"):
        shell.run("correct", "SMALL", point["id"], "--route", "leave", "--reason", "looked at")
    proofs = shell.json("tie-outs", "SMALL", "--at", "2026-10-31")
    assert {proof["state"] for proof in proofs} == {"open"}
    for proof in proofs:
        known = [] if proof["outside"] else ["--outside", proof["books"]]
        shell.run(
            "tie-outs",
            "SMALL",
            "--at",
            "2026-10-31",
            "--agree",
            proof["id"],
            "--note",
            "seen",
            *known,
        )
    items = [row["item"] for row in shell.json("checklist", "SMALL", "--at", "2026-10-31")]
    seen = [word for item in items for word in ("--done", item)]
    assert "(open)" not in shell.run("checklist", "SMALL", "--at", "2026-10-31", *seen).stdout
    refused = shell.run("sign-off", "SMALL", "--at", "2026-10-31", code=1, stdin="wrong\n")
    assert "That password is not yours" in refused.stderr
    signed = shell.json("sign-off", "SMALL", "--at", "2026-10-31", stdin="long enough one\n")
    assert (signed["as_at"], signed["signed_by"], len(signed["digest"])) == ("2026-10-31", "OB", 64)
    assert (
        "barred span"
        in shell.run("period", "SMALL", "2026-05-01", "open", "--reason", "x", code=1).stderr
    )
    shell.run("reopen", "SMALL", "--from", "2026-10-01", "--reason", "late bill")
    assert (
        "is held" in shell.run("period", "SMALL", "2026-05-01", "held", "--reason", "review").stdout
    )


def test_staff_are_kept_from_here(shell):
    shell.run(
        "staff",
        "add",
        "IO",
        "Ines Okonjo",
        "--role",
        "preparer",
        env={"CORKPOST_PASSWORD": "long enough two"},
    )
    assert "no client 'SMALL'" in shell.run("review", "SMALL", code=1, by="IO").stderr
    shell.run("staff", "give", "IO", "SMALL")
    assert shell.run("review", "SMALL", by="IO").exit_code == 0
    assert (
        "may not manage staff"
        in shell.run("staff", "role", "IO", "partner", code=1, by="IO").stderr
    )
    shell.run("staff", "take", "IO", "SMALL")
    shell.run("staff", "role", "IO", "reviewer")
    shell.run("staff", "password", "IO", stdin="a third long one\n")
    shell.run("staff", "second-person", "off")
    assert "preparer" not in shell.run("staff", "list").stdout


def test_books_go_out_come_in_and_are_proved_copied_and_brought_back(shell, tmp_path):
    correct(shell)
    shell.run("export-books", "SMALL", tmp_path / "out")
    taken = shell.json("import-books", zipped(tmp_path / "out", tmp_path / "out.zip"))
    assert (taken["transactions"], taken["new"], taken["changed"]) == (9, 0, 0)
    assert shell.json("verify")["ok"] is True
    shell.run("backup", tmp_path / "copy.tar.gz")
    back = Shell(tmp_path / "back")
    back.run("restore", tmp_path / "copy.tar.gz")
    assert back.json("verify")["heads"] == shell.json("verify")["heads"]
    assert (
        "holds a practice already" in back.run("restore", tmp_path / "copy.tar.gz", code=1).stderr
    )


def test_a_copy_that_is_locked_opens_by_its_own_key_alone(shell, tmp_path):
    public = shell.run("backup-key", tmp_path / "key").stdout.split()[0]
    shell.run("backup-key", tmp_path / "other")
    assert oct((tmp_path / "key").stat().st_mode & 0o077) == "0o0"
    assert "is there already" in shell.run("backup-key", tmp_path / "key", code=1).stderr
    copy = tmp_path / "copy.age"
    assert "no public key" in shell.run("backup", copy, "--to-key", "age1x", code=1).stderr
    shell.run("backup", copy, "--to-key", public)
    assert b"practice.sqlite3" not in copy.read_bytes()
    back = Shell(tmp_path / "back")
    assert "is locked" in back.run("restore", copy, code=1).stderr
    wrong = back.run("restore", copy, "--key", tmp_path / "other", code=1).stderr
    assert "was locked to another key" in wrong
    assert "no secret key" in back.run("restore", copy, "--key", copy, code=1).stderr
    content = bytearray(copy.read_bytes())
    content[len(content) // 2] ^= 1
    spoiled = tmp_path / "spoiled.age"
    spoiled.write_bytes(content)
    back.run("restore", spoiled, "--key", tmp_path / "key", code=1)
    back.run("restore", copy, "--key", tmp_path / "key")
    assert back.json("verify")["heads"] == shell.json("verify")["heads"]


def test_a_client_leaves_comes_back_and_is_not_removed_before_its_time(shell):
    shell.run("client", "archive", "SMALL", "--reason", "they left")
    kept = shell.run("client", "remove", "SMALL", "--reason", "x", code=1).stderr
    assert "is kept until 31 December 2036" in kept
    shell.run("client", "bring-back", "SMALL", "--reason", "they came back")
    correct(shell)


def test_a_token_proves_who_it_is_and_can_be_needed(shell):
    from corkpost.services import record, staff, tokens
    from corkpost.services.workplace import Workplace

    shell.run("staff", "add", "NN", "Nell Neap", "--role", "partner")
    workplace = Workplace(shell.data, TODAY)
    nell = staff.person_named(workplace, "NN")
    token = tokens.make(workplace, nell)

    def last():
        asked = record.Asked(workplace.now.date(), workplace.now.date(), "staff, ")
        return record.listed(workplace, nell, asked)[0]

    shell.run("--by", "NN", "--token", token, "staff", "second-person", "off")
    assert (last().who, "as NN" in last().detail) == ("NN", False)
    shell.run("--by", "NN", "staff", "second-person", "on")
    assert (last().who, "as NN" in last().detail) == ("machine", True)
    refused = shell.run("--by", "OB", "--token", token, "staff", "second-person", "off", code=1)
    assert "is of NN" in refused.stderr
    wrong = shell.run("--by", "NN", "--token", f"{token}x", "staff", "second-person", "off", code=1)
    assert "is nobody's" in wrong.stderr
    tokens.need(workplace, nell, on=True)
    needed = shell.run("--by", "NN", "staff", "second-person", "off", code=1)
    assert "takes nobody at their word" in needed.stderr
    shell.run("--by", "NN", "--token", token, "staff", "second-person", "off")
    orla = next(
        m.code for m in staff.everybody(workplace) if m.role == "partner" and m.code != "NN"
    )
    staff.leave(workplace, staff.person_named(workplace, orla), "NN", None)
    gone = shell.run("--by", "NN", "--token", token, "staff", "second-person", "on", code=1)
    assert "is nobody's" in gone.stderr
    tokens.need(workplace, staff.person_named(workplace, orla), on=False)
    left = shell.run("--by", "NN", "staff", "second-person", "on", code=1)
    assert "left the practice" in left.stderr
    workplace.close()


def test_faults_go_to_standard_error_and_nothing_changes(shell, tmp_path):
    folder = write(small_books(), tmp_path / "bad")
    put("lines", 1, "debit", "1,00")(folder)
    refused = shell.run("import-books", folder, "--json", code=1)
    assert "lines.csv:2: debit:" in refused.stderr
    assert refused.stdout == ""
    assert shell.json("verify")["changes"] == 1


@pytest.mark.parametrize(
    "words",
    [
        ("trial-balance", "SMALL"),
        ("trial-balance", "SMALL", "--at", "31.12.2026"),
        ("trial-balance", "SMALL", "--at", "0001-01-01"),
        ("review",),
        ("review", "SMALL", "--all"),
        ("aged", "SMALL", "debts", "--at", "2026-12-31"),
        ("correct", "SMALL", "p-1", "--route", "void", "--set", "nonsense"),
        ("nonsense",),
    ],
)
def test_wrong_usage_is_told_apart_from_a_refusal(shell, words):
    shell.run(*words, code=2)


def test_all_clients_are_reviewed_in_one_go(shell, tmp_path):
    shell.json("import-books", write(small_books("OTHER"), tmp_path / "other"))
    assert {point["client"] for point in shell.json("review", "--all")} == {"SMALL", "OTHER"}


def test_people_read_what_programs_get(shell, tmp_path):
    again = shell.run("import-books", write(small_books("OTHER"), tmp_path / "other"))
    assert "OTHER: 8 transactions with 18 lines; 8 new, 0 changed, 0 removed." in again.stdout
    listed = shell.run("review", "SMALL").stdout
    assert "246.00  The same bill from Reedwharf is in the books twice." in listed
    assert " sure " in listed
    point = twin(shell)["id"]
    routes = shell.run("routes", "SMALL", point).stdout
    assert "--route void --set transaction=T3" in routes
    assert "2100 payables (Reedwharf)  Dr 246.00" in routes
    preview = shell.run("correct", "SMALL", point, "--route", "void", "--preview").stdout
    assert "5200 fuel: 400.00 -> 200.00" in preview
    assert "Profit: (312.30) -> (112.30)" in preview
    posted = shell.run(
        "correct", "SMALL", point, "--route", "void", "--reason", "one delivery"
    ).stdout
    assert "SMALL: change 2 posted." in posted
    assert "C-2026-1 and T3: 246.00 allocated" in posted
    undone = shell.run("undo", "SMALL", 2, "--reason", "two deliveries").stdout
    assert "246.00 undone" in undone
    left = shell.run("correct", "SMALL", point, "--route", "leave", "--reason", "two deliveries")
    assert left.stdout == f"{point} is left.\n"
    sheet = shell.run("worksheet", "SMALL", "--year", "2026").stdout
    assert sheet.splitlines()[0].split() == [
        "No.", "Account", "last_year", "as_received", "corrections", "adjusting",
        "reclassifications", "adjusted",
    ]  # fmt: skip
    assert "Everything proves." in shell.run("verify").stdout


def test_a_year_goes_out_as_a_standard_audit_file_and_comes_in_to_another_practice(shell, tmp_path):
    shell.run("correct", "SMALL", twin(shell)["id"], "--route", "void", "--reason", "one bill")
    shell.run("export-audit-file", "SMALL", "--year", "2026", tmp_path / "year.xml")
    other = Shell(tmp_path / "other")
    taken = other.json(
        "import-books", tmp_path / "year.xml", env={"CORKPOST_PASSWORD": "long enough one"}
    )
    assert (taken["client"], taken["transactions"], taken["warnings"]) == ("SMALL", 8, [])
    at = ("SMALL", "--at", "2026-12-31")
    mine, theirs = (where.json("trial-balance", *at)["rows"] for where in (shell, other))
    assert [(r["account"], r["balance"]) for r in theirs] == [
        (r["account"], r["balance"]) for r in mine
    ]
    found = shell.json("import-books", tmp_path / "year.xml", "--preview")
    assert (found["new"], found["changed"], found["removed"]) == (0, 0, 0)
    assert found["moves"]["rows"] == []


def test_a_warning_is_told_beside_a_preview(shell, tmp_path):
    file = tmp_path / "entry.json"
    on_bank = [{"account": "5310", "debit": "1.00"}, {"account": "1200", "credit": "1.00"}]
    file.write_text(json.dumps({**ENTRY, "reverse_on": None, "lines": on_bank}))
    assert (
        "note: bank moves with the bank's own lines"
        in shell.run("post", "SMALL", file, "--preview").stdout
    )
    found = shell.json("post", "SMALL", file, "--preview")
    assert len(found["warnings"]) == 1


def test_the_demo_is_made_once_and_its_sign_ins_are_told(tmp_path):
    shell = Shell(tmp_path / "demo")
    told = shell.run("demo", "--no-serve").stdout
    assert "sign in as OB (Orla Brandt, partner) with lantern-orla" in told
    # One of its clients' seals is broken, as it should be.
    heads = shell.json("verify", code=1)["heads"]
    shell.run("demo", "--no-serve")
    assert shell.json("verify", code=1)["heads"] == heads


def test_what_is_broken_is_told_and_leaves_by_its_code(shell):
    from corkpost.store.database import connect

    connection = connect(shell.data / "practice.sqlite3")
    connection.execute("DROP TRIGGER changes_are_never_updated")
    connection.execute("UPDATE changes SET reason = 'another'")
    connection.close()
    found = shell.run("verify", code=1)
    assert "broken: SMALL: change 1 does not fit the chain" in found.stderr
    assert json.loads(shell.run("verify", "--json", code=1).stdout)["ok"] is False


def test_a_statement_is_taken_in_and_reconciled(shell, tmp_path):
    lines = (REEDWHARF, SCHOOL, CARD, FEE)
    file = tmp_path / "half-year.txt"
    file.write_bytes(as_camt053([statement(*lines)]))
    taken = shell.json("import-statement", "SMALL", CODES["bank"], file)
    assert taken == {
        "account": "1200",
        "lines": 4,
        "already": 0,
        "opening": "530.00",
        "closing": "365.20",
        "from": "2026-01-01",
        "to": "2026-06-30",
        "warnings": [],
        "settled": [],
    }
    again = shell.run("import-statement", "SMALL", CODES["bank"], file)
    assert "0 new lines of 1200, 4 known" in again.stdout
    state = shell.json("reconcile", "SMALL", "1200")
    assert (state["difference"], len(state["proposals"])) == ("-164.80", 3)
    assert [line["text"] for line in state["missing"]] == ["FEE"]
    shown = shell.run("reconcile", "SMALL", "1200", "--agree", "likely")
    assert "statement 365.20, difference (6.50)" in shown.stdout
    refused = shell.run("reconcile", "SMALL", "1200", "--finish", code=1)
    assert "The difference is not nil" in refused.stderr
    point = next(p for p in shell.json("review", "SMALL") if p["check"] == "bank-missing")
    assert point["statement_lines"][0]["number"] == 4
    booked = ("--set", f"account={CODES['charges']}", "--reason", "a fee")
    shell.run("correct", "SMALL", point["id"], "--route", "record-missing", *booked)
    done = shell.run("reconcile", "SMALL", "1200", "--finish")
    assert "finished" in done.stdout
    assert shell.json("verify")["ok"] is True
    # The seal of it, agreements and all, is what the program outside finds in the export.
    form = shell.run("seal", "SMALL", "--at", "2026-06-30").stdout
    assert form.count('["agreed","1200"') == 4
    shell.run("export-books", "SMALL", tmp_path / "out")
    program = [sys.executable, PROVE_SEAL, tmp_path / "out", "2026-06-30"]
    found = subprocess.run(program, capture_output=True, text=True, check=True).stdout
    assert found.strip() == hashlib.sha256(form.encode()).hexdigest()


def test_columns_of_a_csv_are_asked_for_and_said(shell, tmp_path):
    file = tmp_path / "bank.csv"
    file.write_text(NO_BALANCE)
    asked = shell.run("import-statement", "SMALL", "1200", file, code=1)
    assert "0 'Date', 1 'Details', 2 'Money out', 3 'Money in'" in asked.stderr
    wrong = shell.run("import-statement", "SMALL", "1200", file, "--columns", "day=one", code=2)
    assert "Write columns as" in wrong.output
    columns = "day=0,text=1,money_out=2,money_in=3,day_order=dmy"
    taken = shell.json("import-statement", "SMALL", "1200", file, "--columns", columns)
    assert (taken["lines"], taken["from"]) == (2, "2026-05-04")


def test_finding_asking_and_making_parties_one(shell):
    assert [row["id"] for row in shell.json("find", "12.30")["postings"]] == ["T6"]
    assert "RW-0117" in shell.run("find", "reedw", "--client", "SMALL").stdout
    assert "Nothing begins" in shell.run("find", "xyz").stdout
    shell.run("queries", "contact", "SMALL", "Mara Salt", "mara@salt.example")
    point = twin(shell)["id"]
    shell.run("correct", "SMALL", point, "--route", "ask", "--reason", "Two deliveries?")
    (asked,) = shell.json("queries", "list", "SMALL")
    assert (asked["state"], asked["question"], asked["point"]) == (
        "to send",
        "Two deliveries?",
        point,
    )
    assert "no mail server" in shell.run("queries", "send", "SMALL", 1, code=1).stderr
    assert "no mail server" in shell.run("queries", "look", code=1).stderr
    told = shell.run("merge-party", "SMALL", "S2", "S1", "--reason", "one firm").stdout
    assert told == "SMALL: change 2, S1 is read as S2.\n"


def test_what_waits_is_handed_in_approved_and_sent_back_from_here(shell, tmp_path):
    shell.run("staff", "add", "IO", "Ines Okonjo", "--role", "preparer")
    shell.run("staff", "give", "IO", "SMALL")
    told = shell.run("staff", "approval", "IO", "--above", "100").stdout
    assert told == "IO: what moves more than 100 waits for approval.\n"
    refused = shell.run("correct", "SMALL", twin(shell)["id"], "--route", "void", "--reason", "one delivery",
                        code=1, by="IO")  # fmt: skip
    assert "It moves 246.00" in refused.stderr
    act = {"act": "point", "point": twin(shell)["id"], "route": "void",
           "settings": {"transaction": "T3"}}  # fmt: skip
    for number in (1, 2):
        hand = ("approvals", "hand-in", "SMALL", "-", "--reason", "one delivery")
        assert f"handed in as {number}" in shell.run(*hand, stdin=json.dumps(act), by="IO").stdout
        assert shell.json("approvals", "list", "SMALL")[0]["made_by"] == "IO"
        if number == 1:
            shell.run("approvals", "send-back", "SMALL", 1, "look at the slip")
            listed = shell.run("approvals", "list", "SMALL", by="IO").stdout
            assert "sent back: look at the slip" in listed
    assert "change 2 posted, C-2026-1" in shell.run("approvals", "approve", "SMALL", 2).stdout
    assert shell.run("approvals", "list", "SMALL").stdout == "SMALL: nothing waits.\n"
    bad = shell.run(
        "approvals", "hand-in", "SMALL", "-", "--reason", "x", stdin='{"act": "dance"}', code=1
    )
    assert "dance" in bad.stderr


def test_receipts_and_the_bookkeeper_s_list_come_from_here_too(shell, tmp_path):
    out = tmp_path / "receipt.pdf"
    assert shell.run("receipt", "SMALL", "T5", "--out", out).stdout == (
        f"SMALL: receipt-1, written to {out}.\n"
    )
    assert out.read_bytes()[:5] == b"%PDF-"
    assert "receipt-1-copy, issued" in shell.run("receipt", "SMALL", "T5").stdout
    assert "told everything" in shell.run("bookkeeper", "SMALL").stdout
    shell.run("correct", "SMALL", twin(shell)["id"], "--route", "void", "--reason", "one delivery")
    listed = shell.run("bookkeeper", "SMALL", "--out", out).stdout
    assert "What was entered twice is taken out once. one delivery." in listed
    assert (
        "no mail server" in shell.run("bookkeeper", "SMALL", "--send", "a@b.example", code=1).stderr
    )


def test_the_financial_statements_and_the_closing_are_told_from_here(shell):
    found = shell.json("profit-and-loss", "SMALL", "--from", "2026-01-01", "--to", "2026-12-31")
    assert {row["section"] for row in found["rows"]} <= {"income", "cost of sales", "expenses"}
    sheet = shell.json("balance-sheet", "SMALL", "--at", "2026-12-31")
    assert sheet["totals"]["assets"] == sheet["totals"]["liabilities_and_equity"]
    (profit,) = (row["amount"] for row in sheet["rows"] if row["account"] == "profit")
    assert profit == found["totals"]["profit"]
    seen = shell.json("close-year", "SMALL", "--year", "2026", "--preview")
    assert (seen["change"], seen["entry"]["id"]) == (None, "new-1")
    closed = shell.json("close-year", "SMALL", "--year", "2026")
    assert (closed["entry"]["id"], closed["change"]) == ("Z-2026-1", 2)
    assert closed["effect"]["profit"]["after"] == "0.00"
    again = shell.run("close-year", "SMALL", "--year", "2026", code=1).stderr
    assert "closed already" in again
    # A closed year still says what it made.
    assert shell.json("balance-sheet", "SMALL", "--at", "2026-12-31") == sheet
    shell.run("undo", "SMALL", "2", "--reason", "too soon")
    assert (
        shell.json("close-year", "SMALL", "--year", "2026", "--preview")["entry"] == seen["entry"]
    )


def test_recipes_say_what_they_ask_and_post_what_their_preview_shows(shell, tmp_path):
    described = {recipe["id"]: recipe for recipe in shell.json("recipes")}
    assert set(described["accrual"]["asks"][0]) == {"name", "kind", "required", "default", "help"}
    told = ["--set", "amount=410", "--set", "account=5310", "--set", "date=2026-06-30"]
    seen = shell.json("recipe", "SMALL", "accrual", *told, "--preview")
    assert (seen["change"], seen["schedule"], len(seen["entries"])) == (None, [], 2)
    posted = shell.json("recipe", "SMALL", "accrual", *told, "--reason", "not billed")
    assert posted["change"] == 2
    assert [e["lines"] for e in posted["entries"]] == [e["lines"] for e in seen["entries"]]
    assert posted["effect"] == seen["effect"]
    drafted = shell.json("recipe", "SMALL", "accrual", *told, "--draft")
    assert (drafted["change"], len(shell.json("entries", "SMALL", *SPAN))) == (None, 2)
    refused = shell.run("recipe", "SMALL", "accrual", "--set", "colour=red", code=1)
    assert "colour: accrual does not ask for it" in refused.stderr
    table = tmp_path / "entries.csv"
    table.write_text(shell.run("entries", "SMALL", *SPAN).stdout, encoding="utf-8")
    shell.run("undo", "SMALL", 2, "--reason", "by the table instead")
    words = (
        "recipe",
        "SMALL",
        "entry-table",
        "--set",
        f"file={table}",
        "--reason",
        "from the table",
    )
    again = shell.json(*words)
    assert [e["lines"] for e in again["entries"]] == [e["lines"] for e in posted["entries"]]


SPAN = ("--from", "2026-01-01", "--to", "2026-12-31")


def test_rates_and_budgets_are_taken_in_from_tables_and_given_out_as_described(shell, tmp_path):
    rates, budget = tmp_path / "rates.csv", tmp_path / "budget.csv"
    rates.write_text("date,currency,rate\n2026-10-31,USD,0.935\n", encoding="utf-8")
    budget.write_text("account,month,amount\n5310,2026-10,300\n", encoding="utf-8")
    assert shell.json("rates", "SMALL", rates) == [
        {"date": "2026-10-31", "currency": "USD", "rate": "0.935"}
    ]
    given = tmp_path / "given.csv"
    given.write_text(shell.run("rates", "SMALL", "--csv").stdout, encoding="utf-8")
    assert "rates already" in shell.run("rates", "SMALL", given, code=1).stderr
    found = shell.json("budget", "SMALL", budget, *SPAN)
    assert found == [{"account": "5310", "amount": "300.00"}]
    assert shell.json("assets", "SMALL", "--at", "2026-10-31") == []
    assert shell.json("verify")["broken"] == []


def test_the_demo_is_served_on_this_machine_alone_and_what_is_made_is_its_owner_s(shell, tmp_path):
    assert "on this machine alone" in shell.run("demo", "--host", "0.0.0.0", code=2).stderr
    assert oct((shell.data / "practice.sqlite3").stat().st_mode & 0o077) == "0o0"


def test_heads_that_were_kept_elsewhere_show_a_chain_that_was_cut(shell, tmp_path):
    correct(shell)
    kept = tmp_path / "heads.json"
    kept.write_text(shell.run("verify", "--json").stdout)
    assert shell.json("verify", "--heads", kept)["broken"] == []
    connection = sqlite3.connect(shell.data / "practice.sqlite3")
    connection.execute("PRAGMA foreign_keys = OFF")
    # All that a person with the file can do, so well that it proves by itself.
    triggers = connection.execute(
        "SELECT name, sql FROM sqlite_master WHERE type = 'trigger'"
    ).fetchall()
    for name, _ in triggers:
        connection.execute(f"DROP TRIGGER {name}")
    tables = [row[0] for row in connection.execute(
        "SELECT m.name FROM sqlite_master AS m WHERE m.type = 'table' AND EXISTS ("
        "SELECT 1 FROM pragma_table_info(m.name) WHERE name = 'change_number')"
    )]  # fmt: skip
    lines_of = "SELECT seq FROM transactions WHERE change_number = 2"
    connection.execute(f"DELETE FROM lines WHERE transaction_seq IN ({lines_of})")
    for table in sorted(set(tables) - {"decisions"}):
        connection.execute(f"DELETE FROM {table} WHERE change_number = 2")
    connection.execute("DELETE FROM changes WHERE number = 2")
    connection.execute("DELETE FROM record")
    connection.execute("DELETE FROM decisions")
    connection.execute(
        "DELETE FROM witnessed WHERE number >= (SELECT MIN(number) FROM witnessed "
        "JOIN witness_shapes ON id = shape WHERE of_table = 'decisions')"
    )
    for _, script in triggers:
        connection.execute(script)
    connection.commit()
    connection.close()
    found = json.loads(shell.run("verify", "--json", "--heads", kept, code=1).stdout)
    said = [row["what"] for row in found["broken"]]
    assert any("does not have the change that ended in" in what for what in said)
    assert any("the record does not have the row" in what for what in said)
    assert any("the chain of witnesses does not have the row" in what for what in said)
    assert len(said) == 3


LISTING = """\
Entry no,Date,Account,Account name,Description,Debit,Credit
1,02/01/2026,6100,Rent,rent,300.00,
1,02/01/2026,1200,Bank account,rent,,300.00
"""


def test_what_clients_send_is_asked_about_by_exit_code_and_taken_in_with_answers(shell, tmp_path):
    ledger, answers = tmp_path / "ledger.csv", tmp_path / "answers.json"
    ledger.write_text(LISTING)
    words = ("take-in", "QUAY", ledger, "--new", "Quay")
    (question,) = shell.json(*words, code=3)["questions"]
    assert (question["about"], question["file"]) == ("date-order", "ledger.csv")
    answers.write_text(json.dumps({question["id"]: "mdy"}))
    seen = shell.json(*words, "--answers", answers, "--preview")
    assert (seen["new"], seen["files"][0]["read_as"]) == (1, "ledger")
    assert "days as month, day, year" in seen["files"][0]["how"]
    seen = shell.json("take-in", "NEW", ledger, "--answers", answers, "--preview")
    assert seen["proposed"]["entity"] == "company"
    assert "There is no client" in shell.run("take-in", "QUAY", ledger, code=1).stderr
    taken = shell.json(*words, "--answers", answers)
    assert (taken["client"], taken["transactions"], taken["lines"]) == ("QUAY", 1, 2)
    assert taken["files"][0]["columns"]["day"] == "Date"
    assert taken["files"][0]["from"] == "2026-02-01"
    (kept,) = shell.json("listing-answers", "QUAY")
    assert kept["answer"] == "mdy"
    shell.run("hand-over", "QUAY", tmp_path / "quay.zip")
    assert zipfile.is_zipfile(tmp_path / "quay.zip")
    shell.run("export-list", "QUAY", "accounts", tmp_path / "accounts.csv")
    assert "Account type" in (tmp_path / "accounts.csv").read_text("utf-8-sig")
    shell.run("export-list", "QUAY", "ledger", tmp_path / "ledger.xlsx")
    assert zipfile.is_zipfile(tmp_path / "ledger.xlsx")
    assert "no list" in shell.run("export-list", "QUAY", "x", tmp_path / "x.csv", code=1).stderr


def test_what_gives_out_a_client_s_data_is_a_command_and_goes_on_record():
    assert set(main.list_commands(click.Context(main))) >= GIVES_OUT
