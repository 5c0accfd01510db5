"""Taking books in: a new client, a refresh, what is ours coming back, and jobs."""

import json
import subprocess
import sys
import threading
import time
import zipfile
from dataclasses import asdict, replace
from datetime import datetime
from io import BytesIO
from sqlite3 import IntegrityError

import pytest

from corkpost.core.acts import PutRight, TakeBack
from corkpost.core.client_facts import SetFacts
from corkpost.core.kinds import AccountType, Entity, PeriodState
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.lateness import late_because
from corkpost.core.refusals import BadEntry, ChangedMeanwhile, NotAllowed, Refusal, UnknownName
from corkpost.formats.books_folder.faults import FaultyBooks
from corkpost.formats.books_folder.reading import read_books
from corkpost.formats.newer_books import NewerBooksAnswer
from corkpost.services import (
    acts,
    bank,
    bookkeeper,
    books,
    desk,
    entries,
    jobs,
    overview,
    papers,
    periods,
    review,
    sign_off,
    staff,
    store,
)
from corkpost.services.books import ClientOfOthers, WaitsForAnother
from corkpost.services.keeping_up import bring_up_to_date
from corkpost.services.posting import PostRequest
from corkpost.store import changes, parts
from corkpost.store.changes import Content
from corkpost.store.clients import all_clients
from tests.builders import CODES, TODAY, bill, day, posted
from tests.formats.folders import credited, put, small_books, write
from tests.formats.test_books_folder import zipped
from tests.practice import PASSWORD, accrue, take_in, void_twin


def newer(*, without=(), instead=(), more=(), **facts):
    """The small books, refreshed."""
    made = small_books()
    rows = [
        row
        for row in made.tables.transactions
        if row.id not in {*without, *(r.id for r in instead)}
    ]
    tables = replace(made.tables, transactions=(*rows, *instead, *more))
    return replace(made, tables=tables, client=replace(made.client, **facts))


def ids(office, who="OB"):
    return {
        row.id for row in overview.chart(office.workplace, office[who], "SMALL").tables.transactions
    }


def test_the_same_books_again_bring_nothing_and_make_no_change(office, tmp_path):
    taken = take_in(office.workplace, office["IO"], small_books(), tmp_path / "again")
    assert (taken.new, taken.changed, taken.removed) == (0, 0, 0)
    assert len(entries.change_log(office.workplace, office["IO"], "SMALL")) == 1


def test_a_refresh_tells_new_changed_and_removed_and_overwrites_nothing(office, tmp_path):
    dearer = bill("RW 117", on="2026-04-05", id="T3", fuel="200.00", tax="46.01")
    late = bill("KS 1", on="2026-08-01", party="Kittiwake Signs", id="T9", office="9.00")
    made = newer(without=["T6"], instead=[dearer], more=[late])
    taken = take_in(office.workplace, office["IO"], made, tmp_path / "newer")
    assert (taken.new, taken.changed, taken.removed) == (1, 1, 1)
    assert "T6" not in ids(office)
    assert "T9" in ids(office)
    counts = office.workplace.database.reading.execute(
        "SELECT COUNT(*) FROM transactions"
    ).fetchone()
    assert counts == (8 + 2,)
    assert store.verify(office.workplace).broken == ()


def test_what_lies_outside_the_dates_that_newer_books_cover_stays(office, tmp_path):
    made = newer(without=["T7", "T6"], books_from=day("2026-01-01"), books_to=day("2026-12-31"))
    taken = take_in(office.workplace, office["IO"], made, tmp_path / "newer")
    assert taken.removed == 1
    assert "T7" in ids(office)
    assert "T6" not in ids(office)


def test_our_corrections_stand_over_a_refresh_and_come_back_as_ours(office, tmp_path):
    void_twin(office)
    accrue(office)
    take_in(office.workplace, office["IO"], newer(without=["T6"]), tmp_path / "newer")
    assert {"C-2026-1", "A-2026-1", "R-2026-1"} <= ids(office)
    books.give_out(office.workplace, office["IO"], "SMALL", tmp_path / "out")
    taken = books.take_in(office.workplace, office["IO"], tmp_path / "out")
    assert (taken.new, taken.changed, taken.removed) == (0, 0, 0)
    rows = overview.chart(office.workplace, office["IO"], "SMALL").transactions
    assert rows["C-2026-1"].change == 2


def test_what_goes_out_with_corrections_or_as_received_is_read_as_such(office, tmp_path):
    before = read_books(tmp_path / "small", tmp_path / "kept")
    void_twin(office)
    papers.keep_paper(office.workplace, office["IO"], "SMALL", "C-2026-1", "note.txt", b"why")
    books.give_out(office.workplace, office["IO"], "SMALL", tmp_path / "received", as_received=True)
    assert read_books(tmp_path / "received", tmp_path / "kept").tables == before.tables
    books.give_out(office.workplace, office["IO"], "SMALL", tmp_path / "ours")
    ours = read_books(tmp_path / "ours", tmp_path / "kept").tables
    entry = next(row for row in ours.transactions if row.id == "C-2026-1")
    assert (entry.corrects, entry.entry_kind, entry.reason) == (
        "T3", "correcting", "one delivery, one bill",
    )  # fmt: skip
    assert len(ours.allocations) == 2
    assert len(ours.attachments) == 1


def test_nothing_is_taken_in_when_one_fault_is_found(office, tmp_path):
    folder = write(newer(without=["T6"]), tmp_path / "bad")
    put("transactions", 1, "date", "soon")(folder)
    with pytest.raises(FaultyBooks):
        books.take_in(office.workplace, office["IO"], folder)
    assert "T6" in ids(office)


def test_a_preparer_gets_the_client_they_bring_and_none_of_another_s(office, tmp_path):
    take_in(office.workplace, office["PH"], small_books("NEWCO"), tmp_path / "new")
    pell = staff.person_named(office.workplace, "PH")
    assert pell.clients == {"NEWCO"}
    with pytest.raises(ClientOfOthers, match="Ask a partner"):
        take_in(office.workplace, pell, newer(without=["T6"]), tmp_path / "theirs")


def test_a_preparer_brings_a_client_whose_statements_come_along(office, tmp_path):
    line = b"date,description,amount\n2026-04-21,REEDWHARF,-246.00\n"
    made = write(small_books("NEWCO"), tmp_path / "new", {"statements/april.csv": line})
    assert books.take_in(office.workplace, office["PH"], made).client == "NEWCO"
    pell = staff.person_named(office.workplace, "PH")
    assert len(bank.accounts(office.workplace, pell, "NEWCO")[0].statements) == 1


def test_clients_lie_apart(office, tmp_path):
    take_in(office.workplace, office["OB"], small_books("OTHER"), tmp_path / "other")
    accrue(office)
    other = overview.chart(office.workplace, office["OB"], "OTHER")
    assert all(row.change is None for row in other.tables.transactions)
    assert entries.change_log(office.workplace, office["OB"], "OTHER")[0].number == 1


def test_newer_books_change_nothing_that_the_practice_answers_for(office, tmp_path):
    """A preparer sends a folder that lifts the filing bar, sets limits, turns an account round, adds to a
    filed month, in a colleague's name and with a forged time of keying."""
    forged = posted("Dr fuel 900.00, Cr bank 900.00", "2025-06-30", id="T66")._replace(
        entered_by="TV", entered_at=datetime(2025, 7, 1, 9)
    )
    facts = {"filed_through": day("2024-12-31"), "materiality": 99_000_00, "capital_item": 1}
    made = newer(entity=Entity.COMPANY, **facts)
    accounts = tuple(
        account._replace(type=AccountType.ASSET) if account.code == CODES["fuel"] else account
        for account in made.tables.accounts
    )
    made = made.followed_by(tables=made.tables.with_rows("accounts", accounts))
    before = overview.chart(office.workplace, office["IO"], "SMALL")
    taken = take_in(office.workplace, office["IO"], made, tmp_path / "attack")
    after = overview.chart(office.workplace, office["IO"], "SMALL")
    assert after.client == before.client
    assert after.accounts[CODES["fuel"]].type is AccountType.EXPENSE
    told = " ".join(taken.warnings)
    assert all(
        words in told for words in ("kind of client", "filed through", "materiality", "5200")
    )
    rows = (*made.tables.transactions, forged)
    more = made.followed_by(tables=made.tables.with_rows("transactions", rows))
    for who in ("IO", "TV"):
        with pytest.raises(WaitsForAnother, match="A partner takes them in"):
            take_in(office.workplace, office[who], more, tmp_path / f"barred {who}")
    assert "T66" not in ids(office)
    take_in(office.workplace, office["OB"], more, tmp_path / "partner")
    brought = overview.chart(office.workplace, office["IO"], "SMALL")
    late = late_because(brought, brought.transactions["T66"])
    assert late == "keyed on 16 November 2026, after the year was filed"
    assert store.verify(office.workplace).broken == ()


def test_books_that_move_a_held_month_wait_for_a_reviewer_who_takes_them_in(office, tmp_path):
    periods.set_period(
        office.workplace, office["TV"], "SMALL", day("2026-06-01"), PeriodState.HELD, "read"
    )
    job, result = looked_at(office, tmp_path, newer(without=["T6"]))
    assert result["coming"]["waits_for"] == "reviewer"
    with pytest.raises(WaitsForAnother):
        jobs.take_in_seen(office.workplace, office["IO"], job)
    waiting = jobs.waiting_books(office.workplace, office["TV"], "SMALL")
    assert [(row.job, row.by, row.coming.removed) for row in waiting] == [(job, "IO", 1)]
    with pytest.raises(UnknownName):
        jobs.take_in_seen(office.workplace, office["PH"], job)
    jobs.take_in_seen(office.workplace, office["TV"], job)
    jobs.run_next(office.workplace)
    assert "T6" not in ids(office)
    assert jobs.waiting_books(office.workplace, office["TV"], "SMALL") == ()


def test_a_partner_sets_what_the_practice_answers_for_and_takes_it_back(office, tmp_path):
    def facts():
        return overview.chart(office.workplace, office["IO"], "SMALL").client

    before = facts()
    act = SetFacts({"filed_through": None, "materiality": "900.00", "filed_on": ""})
    with pytest.raises(NotAllowed, match="may not set what the practice answers for"):
        acts.post(office.workplace, office["TV"], "SMALL", act, PostRequest("found an error"))
    posted_ = acts.post(office.workplace, office["OB"], "SMALL", act, PostRequest("an error"))
    assert (facts().filed_through, facts().materiality) == (None, 90_000)
    # Newer books say what was so before: what was set stays.
    take_in(office.workplace, office["IO"], newer(without=["T6"]), tmp_path / "newer")
    assert facts().filed_through is None
    back = TakeBack(posted_.number)
    acts.post(office.workplace, office["OB"], "SMALL", back, PostRequest("not so"))
    assert facts() == before
    for wrong, why in (
        ({"materiality": "-5"}, "not below nil"),
        ({"filed_through": "2025-11-30"}, "filed to its end"),
        ({"entity": None}, "can't be none"),
        ({"colour": "red"}, "there is no such fact"),
    ):
        with pytest.raises(BadEntry, match=why):
            acts.preview(office.workplace, office["OB"], "SMALL", SetFacts(wrong))
    assert store.verify(office.workplace).broken == ()


def test_a_year_that_was_closed_still_shows_the_profit_that_it_made(office, tmp_path):
    def profit():
        return overview.figures(office.workplace, office["IO"], "SMALL", day("2025-12-31")).profit

    before = profit()
    closing = posted("Dr sales 30.00, Cr capital 30.00", "2025-12-31", Kind.CLOSING, id="T99")
    take_in(office.workplace, office["IO"], newer(more=[closing]), tmp_path / "closed")
    assert profit() == before == 3000


def upload(office, who, content):
    return jobs.start_take_in(office.workplace, office[who], "books.zip", BytesIO(content))


def test_a_job_takes_the_upload_in_and_leaves_no_file_behind(office, tmp_path):
    folder = write(small_books("ZIPPED"), tmp_path / "zipped")
    job = upload(office, "OB", zipped(folder, tmp_path / "books.zip").read_bytes())
    assert jobs.job(office.workplace, office["OB"], job).state == "queued"
    assert jobs.run_next(office.workplace)
    found = jobs.job(office.workplace, office["OB"], job)
    taken = found.result["taken_in"]
    assert (found.state, taken["client"], taken["new"]) == ("done", "ZIPPED", 8)
    assert list((office.workplace.database.folder / "uploads").iterdir()) == []
    assert not jobs.run_next(office.workplace)


def looked_at(office, tmp_path, made, who="IO"):
    folder = write(made, tmp_path / "newer")
    job = upload(office, who, zipped(folder, tmp_path / "newer.zip").read_bytes())
    jobs.run_next(office.workplace)
    return job, jobs.job(office.workplace, office[who], job).result


def test_newer_books_are_looked_at_first_and_taken_in_when_one_says_so(office, tmp_path):
    void_twin(office)
    sign_off.sign_off(
        office.workplace, office["OB"], "SMALL", day("2026-05-31"), PASSWORD,
        override_reason="for the bank",
    )  # fmt: skip
    more = posted("Dr fuel 20.00, Cr bank 20.00", "2025-12-30", id="T20")
    dearer = bill("RW-0117", on="2026-04-03", id="T1", fuel="210.00", tax="46.00")
    rows = [row for row in credited().tables.transactions if row.id == "C1"]
    made = newer(more=[more, *rows], instead=[dearer])
    before = len(entries.change_log(office.workplace, office["IO"], "SMALL"))
    job, result = looked_at(office, tmp_path, made)
    coming = NewerBooksAnswer(**result["coming"])
    assert (coming.new, coming.changed, coming.removed) == (2, 1, 0)
    assert [(m.last_day, m.new, m.changed, m.finished) for m in coming.moves.months] == [
        ("2025-12-31", 1, 0, "the year is filed through 31 December 2025"),
        ("2026-04-30", 0, 1, "the trial balance is signed off and sealed as at 31 May 2026"),
        ("2026-06-30", 1, 0, None),
    ]
    assert [row.id for row in coming.moves.rows] == ["T20", "T1"]
    assert "purchase bill RW-0117 of 3 April 2026, Reedwharf, 256.00" in coming.moves.rows[1].now
    assert coming.broken == ["2026-05-31"]
    assert {row.account: row.change for row in coming.moves.finished} == {
        "brought-forward": "20.00", "1200": "-20.00", "2100": "-10.00", "5200": "10.00",
    }  # fmt: skip
    assert [row.change for row in coming.moves.years] == ["-20.00", "190.00"]
    (ours,) = coming.moves.ours
    assert ours.summary.startswith("C1 of 2 June 2026, which came with newer books")
    assert len(entries.change_log(office.workplace, office["IO"], "SMALL")) == before
    with pytest.raises(WaitsForAnother):
        jobs.take_in_seen(office.workplace, office["IO"], job)
    jobs.take_in_seen(office.workplace, office["OB"], job)
    with pytest.raises(Refusal, match="Choose it again"):
        jobs.take_in_seen(office.workplace, office["OB"], job)
    jobs.run_next(office.workplace)
    assert "C1" in ids(office)
    assert list((office.workplace.database.folder / "uploads").iterdir()) == []
    checks = [row.point.check for row in review.points(office.workplace, office["IO"], "SMALL")]
    assert "entered-too" in checks
    # The bookkeeper's list shows that it was keyed, and what stands once ours is taken back.
    told = bookkeeper.for_bookkeeper(office.workplace, office["IO"], "SMALL")
    assert [item.keyed for item in told.items] == [("C1",)]
    numbers = bookkeeper.numbers_of(told)
    bookkeeper.tell(office.workplace, office["IO"], "SMALL", numbers)
    (point,) = (
        row.point
        for row in review.points(office.workplace, office["IO"], "SMALL")
        if row.point.check == "entered-too"
    )
    acts.post(
        office.workplace,
        office["IO"],
        "SMALL",
        PutRight(point, "theirs-stands", {}),
        PostRequest("theirs stands"),
    )
    after = bookkeeper.for_bookkeeper(office.workplace, office["IO"], "SMALL")
    assert [(back.change, back.keyed) for back in after.taken_back] == [(numbers[0], ("C1",))]
    assert "Yours stands in its place: C1." in bookkeeper.body(
        office.workplace, office["IO"], after
    )


def test_a_file_that_was_looked_at_and_left_is_not_kept_for_ever(office, tmp_path, monkeypatch):
    looked_at(office, tmp_path, credited())
    (kept,) = (office.workplace.database.folder / "uploads").iterdir()
    now = time.time()
    monkeypatch.setattr(time, "time", lambda: now + jobs.KEPT_SECONDS + 1)
    with pytest.raises(Refusal, match="empty"):
        upload(office, "IO", b"")
    assert not kept.exists()


def test_books_that_bring_nothing_new_are_nothing_to_look_at(office, tmp_path):
    _, result = looked_at(office, tmp_path, small_books())
    assert result["taken_in"]["new"] == 0


def test_a_job_that_is_refused_tells_every_fault(office, tmp_path):
    folder = write(small_books(), tmp_path / "bad")
    put("transactions", 1, "date", "soon")(folder)
    job = upload(office, "IO", zipped(folder, tmp_path / "books.zip").read_bytes())
    jobs.run_next(office.workplace)
    found = jobs.job(office.workplace, office["IO"], job)
    assert found.state == "refused"
    assert found.result["faults"][0].startswith("transactions.csv:2: date:")


def test_a_job_whose_worker_went_away_is_done_by_the_next(office, tmp_path, monkeypatch):
    folder = write(small_books("ZIPPED"), tmp_path / "zipped")
    job = upload(office, "OB", zipped(folder, tmp_path / "books.zip").read_bytes())
    taken = jobs.KINDS["take-in"]

    def killed(*_args):
        raise KeyboardInterrupt

    monkeypatch.setitem(jobs.KINDS, "take-in", killed)
    with pytest.raises(KeyboardInterrupt):
        jobs.run_next(office.workplace)
    monkeypatch.setitem(jobs.KINDS, "take-in", taken)
    assert jobs.job(office.workplace, office["OB"], job).state == "running"
    assert not jobs.run_next(office.workplace)
    now = time.time()
    monkeypatch.setattr(time, "time", lambda: now + jobs.LEASE_SECONDS + 1)
    assert jobs.run_next(office.workplace)
    assert jobs.job(office.workplace, office["OB"], job).state == "done"


def test_a_job_that_goes_on_for_long_is_left_to_its_worker(office, monkeypatch):
    going, over = threading.Event(), threading.Event()

    def for_long(*_args):
        going.set()
        over.wait(20)
        return {}

    monkeypatch.setitem(jobs.KINDS, "take-in", for_long)
    monkeypatch.setattr(jobs, "RENEWED_EVERY", 0.01)
    now = time.time()
    monkeypatch.setattr(time, "time", lambda: now)
    worker = jobs.Worker(office.workplace, every_seconds=0.01)
    worker.start()
    upload(office, "IO", b"x")
    assert going.wait(20)
    later = now + jobs.LEASE_SECONDS + 1
    monkeypatch.setattr(time, "time", lambda: later)
    asked = office.workplace.database.reading.execute
    for _ in range(500):
        if asked("SELECT lease FROM jobs").fetchone()[0] > later:
            break
        over.wait(0.01)
    assert not jobs.run_next(office.workplace)
    over.set()
    worker.stop()


def test_a_process_that_does_a_job_ends_with_the_one_that_asked(office, tmp_path):
    folder = write(small_books("ZIPPED"), tmp_path / "zipped")
    job = upload(office, "OB", zipped(folder, tmp_path / "books.zip").read_bytes())
    words = [str(office.workplace.database.folder), TODAY.isoformat(), job]
    program = [sys.executable, "-m", "corkpost.services.jobs_apart", *words]
    with subprocess.Popen(program, stdin=subprocess.PIPE) as process:
        process.stdin.close()
        assert process.wait(60) == 1
    assert jobs.job(office.workplace, office["OB"], job).state == "queued"


def test_a_job_is_one_s_own_and_an_empty_file_is_none(office):
    with pytest.raises(Refusal, match="empty"):
        upload(office, "IO", b"")
    job = upload(office, "IO", b"x")
    with pytest.raises(UnknownName):
        jobs.job(office.workplace, office["OB"], job)


def test_the_worker_does_jobs_as_they_come(office, tmp_path):
    worker = jobs.Worker(office.workplace, every_seconds=0.01)
    worker.start()
    job = upload(office, "IO", b"no zip")
    for _ in range(500):
        if jobs.job(office.workplace, office["IO"], job).state == "refused":
            break
        worker._stop.wait(0.01)
    worker.stop()
    assert jobs.job(office.workplace, office["IO"], job).state == "refused"


def test_the_desk_shows_a_client_as_it_stands_and_only_one_s_own(office):
    def row(who):
        return {record.code: record for record in desk.desk(office.workplace, office[who]).rows}

    before = row("IO")["SMALL"].summary
    assert (before.open_points, before.at_stake, row("PH")) == (3, 24600 + 10000 + 840000, {})
    void_twin(office)
    assert row("IO")["SMALL"].summary.open_points == 2
    # What is kept is brought up to date behind; until then the row says that it is as it was.
    bring_up_to_date(office.workplace)
    office.workplace.keeps_up = True
    assert row("IO")["SMALL"].current
    (point, *_) = review.points(office.workplace, office["IO"], "SMALL")
    review.decide(office.workplace, office["IO"], "SMALL", point.point.id, "leave", "as agreed")
    # The client is open here: what was just done in it shows at once. Elsewhere it comes behind.
    assert (row("IO")["SMALL"].summary.open_points, row("IO")["SMALL"].current) == (1, True)
    office.workplace.forget(office.workplace.ledger(office["IO"], "SMALL"))
    assert (row("IO")["SMALL"].summary.open_points, row("IO")["SMALL"].current) == (2, False)
    bring_up_to_date(office.workplace)
    assert (row("IO")["SMALL"].summary.open_points, row("IO")["SMALL"].current) == (1, True)


def test_the_desk_says_at_which_step_a_client_is_and_of_what_its_points_are(office):
    bring_up_to_date(office.workplace)
    (row,) = desk.desk(office.workplace, office["IO"]).rows
    assert row.stage == "bank"
    assert sum(row.summary.families.values()) == row.summary.open_points == 3
    # What an earlier release kept, without that, is worked out anew.
    old = {k: v for k, v in asdict(row.summary).items() if k != "families"}
    with office.workplace.database.writing() as connection:
        connection.execute("UPDATE summaries SET content = ?", [json.dumps(old)])
    assert desk.desk(office.workplace, office["IO"]).rows == (row,)


def test_the_checks_run_again_on_what_the_store_holds(office):
    job = jobs.start_checks(office.workplace, office["IO"], ["SMALL"])
    assert jobs.run_next(office.workplace)
    found = jobs.job(office.workplace, office["IO"], job)
    (of_small,) = found.result["checks"]
    assert (of_small["client"], sum(of_small["open"].values())) == ("SMALL", 3)
    with pytest.raises(UnknownName):
        jobs.start_checks(office.workplace, office["PH"], ["SMALL"])
    # A client that was taken away meanwhile stops no other.
    gone, checked = desk.check_clients(office.workplace, office["IO"], ["GONE", "SMALL"], print)
    assert ("GONE" in (gone.problem or ""), checked.problem) == (True, None)


def test_where_one_left_is_kept_for_each_person(office):
    desk.remember_place(office.workplace, office["IO"], "SMALL", "/clients/SMALL/entries/new")
    desk.remember_place(office.workplace, office["IO"], "SMALL", "/clients/SMALL/worksheet")
    assert desk.desk(office.workplace, office["IO"]).rows[0].carry_on == "/clients/SMALL/worksheet"
    assert desk.desk(office.workplace, office["TV"]).rows[0].carry_on is None


def relinked(*rows):
    """The small books with other allocations."""
    made = small_books()
    return replace(made, tables=replace(made.tables, allocations=rows))


def test_allocations_that_newer_books_change_or_lack_no_longer_count(office, tmp_path):
    (first,) = small_books().tables.allocations
    smaller = first._replace(amount=10000)
    take_in(office.workplace, office["IO"], relinked(smaller), tmp_path / "smaller")
    books_now = overview.chart(office.workplace, office["IO"], "SMALL")
    assert [row.amount for row in books_now.tables.allocations] == [10000]
    take_in(office.workplace, office["IO"], relinked(), tmp_path / "none")
    assert overview.chart(office.workplace, office["IO"], "SMALL").tables.allocations == ()
    assert store.verify(office.workplace).broken == ()


def test_an_allocation_that_newer_books_leave_too_large_does_not_stop_other_work(office, tmp_path):
    cheaper = bill("RW-0117", on="2026-04-03", id="T1", fuel="20.00", tax="4.60")
    made = small_books()
    rows = [cheaper if row.id == "T1" else row for row in made.tables.transactions]
    # Such books are refused by themselves; they arise when a bill outside the folder shrinks.
    tables = replace(made.tables, transactions=tuple(rows), allocations=())
    client = replace(made.client, books_from=day("2026-05-01"))
    take_in(
        office.workplace,
        office["IO"],
        replace(made, tables=tables, client=client),
        tmp_path / "newer",
    )
    assert store.verify(office.workplace).broken
    assert accrue(office).number == 3


def test_new_accounts_and_names_count_and_the_old_rows_stay(office, tmp_path):
    made = small_books()
    accounts = tuple(
        row._replace(name="diesel") if row.code == "5200" else row for row in made.tables.accounts
    )
    take_in(
        office.workplace, office["IO"],
        replace(made, tables=replace(made.tables, accounts=accounts)), tmp_path / "renamed",
    )  # fmt: skip
    assert overview.chart(office.workplace, office["IO"], "SMALL").accounts["5200"].name == "diesel"
    rows = office.workplace.database.reading.execute(
        "SELECT name FROM accounts WHERE code = '5200' ORDER BY change_number"
    ).fetchall()
    assert rows == [("fuel",), ("diesel",)]


def bulk(workplace, client_code: str | None = None) -> list[int]:
    """How many rows of each bulky table there are of clients that are not whole; of a client, if named."""
    which = "NOT whole" if client_code is None else f"code = '{client_code}'"
    return [
        workplace.database.reading.execute(
            f"SELECT COUNT(*) FROM {table} JOIN clients ON clients.id = client_id WHERE {which}"
        ).fetchone()[0]
        for table in ("transactions", "lines", "allocations")
    ]


def test_large_books_of_a_new_client_are_written_in_parts_that_nobody_sees(
    office, tmp_path, monkeypatch
):
    """Between the parts others post; with the last of them all is there, as it was given."""
    workplace, orla = office.workplace, office["OB"]
    monkeypatch.setattr(books, "LINES_AT_ONCE", 4)
    folder = write(small_books("LARGE"), tmp_path / "large")
    seen = []

    def between(progress: str) -> None:
        if progress.endswith("lines written"):
            seen.append(
                (progress, sum(bulk(workplace)) > 0, [c.code for c in all_clients(reading)])
            )
            if len(seen) == 2:
                accrue(office)

    reading = workplace.database.reading
    books.take_in(workplace, orla, folder, between)
    assert len(seen) > 3
    assert all(hidden and codes == ["SMALL"] for _, hidden, codes in seen)
    assert bulk(workplace) == [0, 0, 0]
    made = small_books("LARGE").tables
    assert workplace.ledger(orla, "LARGE").books.tables.transactions == made.transactions
    assert workplace.ledger(orla, "LARGE").books.tables.allocations == made.allocations
    assert store.verify(workplace).broken == ()
    with pytest.raises(IntegrityError, match="never deleted"):
        reading.execute("DELETE FROM lines WHERE client_id = (SELECT MAX(id) FROM clients)")


def test_books_that_break_off_between_the_parts_leave_nothing(office, tmp_path, monkeypatch):
    workplace, orla = office.workplace, office["OB"]
    monkeypatch.setattr(books, "LINES_AT_ONCE", 4)
    folder = write(small_books("LARGE"), tmp_path / "large")

    def break_off(progress: str) -> None:
        if progress.endswith("lines written"):
            raise RuntimeError("the disk is full")

    with pytest.raises(RuntimeError):
        books.take_in(workplace, orla, folder, break_off)
    assert bulk(workplace) == [0, 0, 0]
    # Where the program itself was ended, what is left goes once nobody can be at it any more.
    content = Content()
    content.add_transactions(small_books("LARGE").tables.transactions, 1)
    with workplace.database.writing() as connection:
        left = parts.begin(connection, now=int(time.time()))
        changes.write_bulk(connection, left, 1, content)
    assert store.verify(workplace).broken == ()
    books.take_in(workplace, orla, folder)
    assert bulk(workplace)[0] == len(content.transactions)
    with workplace.database.writing() as connection:
        parts.hold(connection, left, now=0)
    books.clear_away(workplace)
    assert bulk(workplace) == [0, 0, 0]
    assert bulk(workplace, "LARGE")[0] == len(content.transactions)
    assert store.verify(workplace).broken == ()


def test_two_who_take_in_the_same_new_client_at_once_make_one(office, tmp_path, monkeypatch):
    workplace, orla = office.workplace, office["OB"]
    monkeypatch.setattr(books, "LINES_AT_ONCE", 4)
    folder = write(small_books("LARGE"), tmp_path / "large")
    once: list[str] = []

    def meanwhile(progress: str) -> None:
        if progress.endswith("lines written") and not once:
            once.append(progress)
            books.take_in(workplace, orla, folder)

    with pytest.raises(ChangedMeanwhile):
        books.take_in(workplace, orla, folder, meanwhile)
    assert bulk(workplace) == [0, 0, 0]
    assert bulk(workplace, "LARGE")[0] == len(small_books("LARGE").tables.transactions)


@pytest.mark.parametrize(
    ("descriptor", "why"),
    [(b'{"a": "' + b"x" * 1_100_000, "is over 1 MB"), (b"[" * 900_000, "is nested too deeply")],
)
def test_a_descriptor_that_would_keep_the_machine_busy_is_refused(office, descriptor, why):
    made = BytesIO()
    with zipfile.ZipFile(made, "w") as archive:
        archive.writestr("datapackage.json", descriptor)
    job = upload(office, "OB", made.getvalue())
    jobs.run_next(office.workplace)
    found = jobs.job(office.workplace, office["OB"], job)
    assert found.state == "refused"
    assert why in str(found.result)


def test_a_job_that_reads_files_of_others_is_done_in_a_process_of_its_own(
    office, tmp_path, monkeypatch
):
    folder = write(small_books("ZIPPED"), tmp_path / "zipped")
    content = zipped(folder, tmp_path / "books.zip").read_bytes()
    job = upload(office, "OB", content)
    assert jobs.run_next(office.workplace, apart=True)
    assert jobs.job(office.workplace, office["OB"], job).result["taken_in"]["client"] == "ZIPPED"
    # One that takes too much is ended, said so, and leaves the practice as it was.
    monkeypatch.setenv("CORKPOST_IMPORT_MEMORY", "60")
    again = upload(office, "OB", content)
    assert jobs.run_next(office.workplace, apart=True)
    found = jobs.job(office.workplace, office["OB"], again)
    assert (found.state, found.result["title"]) == ("refused", "The file takes too much")
    assert not jobs.run_next(office.workplace, apart=True)


def test_one_person_s_waiting_work_does_not_fill_the_queue(office):
    for _ in range(jobs.MOST_WAITING):
        jobs.start_checks(office.workplace, office["IO"], ["SMALL"])
    with pytest.raises(Refusal, match="are under way"):
        jobs.start_checks(office.workplace, office["IO"], ["SMALL"])
    jobs.start_checks(office.workplace, office["TV"], ["SMALL"])
