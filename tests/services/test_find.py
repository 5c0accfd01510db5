"""Find: by words, numbers, sums; in one client and in all of one's own, and in nobody else's."""

from dataclasses import replace

import pytest

from corkpost.core.acts import Merge
from corkpost.core.by_hand import Picked
from corkpost.core.refusals import UnknownName
from corkpost.services import acts, find, statements
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Workplace
from corkpost.stand_ins.statement_files import BankLine, BankStatement, as_ofx
from corkpost.store.database import connect
from tests.builders import day
from tests.formats.folders import small_books
from tests.notation import EUR
from tests.practice import accrue, take_in, void_twin


def found(office, text, client="SMALL", who="IO"):
    hits = find.find(office.workplace, office[who], text, client)
    return (
        [account.code for account in hits.accounts],
        [party.code for party in hits.parties],
        [posting.id for posting in hits.postings],
    )


@pytest.mark.parametrize(
    ("text", "hits"),
    [
        ("fuel", (["5200"], [], [])),
        ("ktw", ([], ["S2"], [])),
        ("12.30", ([], [], ["T6"])),
        ("-12.3", ([], [], ["T6"])),
        ("quoted card", ([], [], ["T6"])),
        ("rw-0117", ([], [], ["T1"])),
        ("rw117", ([], [], ["T3"])),
        ("RW", ([], [], ["T3", "T1"])),
        ("reedw 246", ([], [], ["T2", "T3", "T1"])),
        ("harbour 246", ([], [], [])),
        ("sk-1", ([], [], ["T4"])),
        ("500", ([], [], ["T7"])),
        ("  ", ([], [], [])),
        ('") OR words:*', ([], [], [])),
        ("%", ([], [], [])),
    ],
)
def test_words_numbers_and_sums_are_found_by_their_beginnings(office, text, hits):
    codes, parties, postings = found(office, text)
    assert (codes, parties, sorted(postings)) == (hits[0], hits[1], sorted(hits[2]))


def test_what_is_posted_or_amended_is_found_at_once_and_what_is_gone_no_more(office, tmp_path):
    assert found(office, "meter") == ([], [], [])
    accrue(office)
    assert found(office, "electricity billed")[2] == ["R-2026-1", "A-2026-1"]
    assert found(office, "410") == ([], [], ["R-2026-1", "A-2026-1"])
    words = Picked("amend-reference", "T6", (), {"memo": "kettle"})
    acts.post(office.workplace, office["IO"], "SMALL", words, PostRequest("as it says"))
    assert found(office, "kettle")[2] == ["T6"]
    newer = small_books()
    rows = tuple(row for row in newer.tables.transactions if row.id != "T8")
    without = replace(newer, tables=replace(newer.tables, transactions=rows))
    take_in(office.workplace, office["OB"], without, tmp_path / "newer")
    assert found(office, "30.00") == ([], [], [])


def test_a_party_is_found_by_either_name_once_two_are_one(office):
    acts.post(office.workplace, office["IO"], "SMALL", Merge("S2", "S1"), PostRequest("one firm"))
    assert found(office, "reedw")[1] == ["S1"]


def test_lines_of_a_statement_are_found_by_text_and_sum(office):
    june = BankStatement(
        "XX00", EUR, day("2026-06-01"), day("2026-06-30"), 0,
        (BankLine(day("2026-06-02"), -1230, "KINGFISHER CAFE", bank_id="K1"),),
    )  # fmt: skip
    statements.take_in(office.workplace, office["IO"], "SMALL", "june.ofx", as_ofx([june]), "1200")
    hits = find.find(office.workplace, office["IO"], "kingf", "SMALL")
    assert [(line.account, line.amount) for line in hits.statement_lines] == [("1200", -1230)]


def test_over_all_clients_one_finds_one_s_own_and_nobody_else_s(office, tmp_path):
    take_in(office.workplace, office["OB"], small_books("OTHER"), tmp_path / "other")
    everywhere = find.find(office.workplace, office["OB"], "12.30")
    assert {(posting.client, posting.id) for posting in everywhere.postings} == {
        ("OTHER", "T6"), ("SMALL", "T6"),
    }  # fmt: skip
    assert [
        posting.client for posting in find.find(office.workplace, office["IO"], "12.30").postings
    ] == ["SMALL"]
    for text in ("12.30", "card", "SMALL", "c1", "fuel", "reedw"):
        hits = find.find(office.workplace, office["PH"], text)
        assert hits == (*[()] * 5, False)
    assert [
        client.code for client in find.find(office.workplace, office["OB"], "other").clients
    ] == ["OTHER"]
    with pytest.raises(UnknownName):
        find.find(office.workplace, office["PH"], "card", "SMALL")


def test_a_large_backlog_is_told_and_taken_in_a_little_at_a_time(office, monkeypatch):
    monkeypatch.setattr(find, "SOME", 3)
    monkeypatch.setattr(find, "PATIENCE", 0)
    first = find.find(office.workplace, office["IO"], "card", "SMALL")
    assert (first.postings, first.building) == ((), True)
    for _ in range(4):
        last = find.find(office.workplace, office["IO"], "card", "SMALL")
    assert ([posting.id for posting in last.postings], last.building) == (["T6"], False)
    void_twin(office)
    assert find.catch_up(office.workplace)


def test_a_search_goes_by_what_is_in_the_index_while_another_program_writes(office):
    assert found(office, "reedw 246")[2] == ["T2", "T3", "T1"]
    accrue(office)
    other = connect(office.workplace.database.path)
    other.execute("BEGIN IMMEDIATE")
    # Opened anew, as each command does it, the store is read as well.
    Workplace(office.workplace.database.folder).close()
    seen = find.find(office.workplace, office["IO"], "electricity not yet", "SMALL")
    assert (seen.postings, seen.building) == ((), True)
    other.execute("ROLLBACK")
    seen = find.find(office.workplace, office["IO"], "electricity not yet", "SMALL")
    assert (len(seen.postings), seen.building) == (2, False)
