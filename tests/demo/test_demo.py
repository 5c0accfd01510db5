"""The demo and the labelled books: the same every time, and the checks find what was planted."""

from collections import Counter

import pytest
from bench.review_quality import measure, subjects

from corkpost.core.checks import run_checks
from corkpost.core.kinds import StatementFormat
from corkpost.core.points import CheckRun
from corkpost.demo import practice
from corkpost.demo.arrivals import ARRIVALS
from corkpost.demo.labelled import labelled
from corkpost.demo.untidy.roughened import untidy
from corkpost.services import bank, desk, entries, review, staff, store, transactions


def test_the_labelled_books_are_measured_and_the_aims_are_met():
    quality = measure(range(100, 112))
    assert quality.found.total() / quality.planted.total() >= 0.95
    assert quality.right.total() / quality.points.total() >= 0.95
    for check, planted in quality.planted.items():
        assert planted >= 4, check
        assert quality.recall(check) >= 0.85, (check, quality.recall(check))
        assert quality.precision(check) >= 0.75, (check, quality.precision(check))


def test_the_aims_are_met_on_untidy_evidence_that_nothing_was_set_on():
    quality = measure(range(100, 112), books_of=untidy)
    assert quality.found.total() / quality.planted.total() >= 0.95
    assert quality.right.total() / quality.points.total() >= 0.95
    for level, least in (("sure", 0.98), ("likely", 0.85)):
        right, shown = quality.levels[level]
        assert right / shown >= least


def test_certainty_is_meant_as_a_probability():
    levels = measure(range(112, 122)).levels
    right, shown = levels["sure"]
    assert right / shown >= 0.95
    right, shown = levels["likely"]
    assert right / shown >= 0.75


def test_the_same_seed_makes_the_same_books():
    assert labelled(3) == labelled(3)
    assert labelled(3).books.tables != labelled(4).books.tables


@pytest.mark.parametrize("code", ["SALT", "BRIG", "COPP", "TIDE", "MOOR", "KILN", "TAMA", "PEBB"])
def test_each_demo_client_has_its_planted_faults_and_nothing_else(code):
    business = practice.CLIENTS[code]()
    books, faults = business.books()
    found = {
        (point.check, subjects(point)) for point in run_checks(CheckRun(books, practice.TODAY))
    }
    assert len(faults) >= 10
    assert found == set(faults)


def test_the_demo_practice_stands_as_it_is_described(demo):
    rows = {row.code: row for row in desk.desk(demo, staff.person_named(demo, "OB")).rows}
    assert [row.band for row in (rows["COPP"], rows["SALT"], rows["BRIG"])] == [
        "Overdue",
        "This month",
        "Later",
    ]
    assert rows["KILN"].band == "Overdue"
    assert rows["HOLL"].summary.asked_points == 1
    # Every kind of next move is on the desk.
    moves = {rows[code].summary.move.value for code in ("SALT", "TAMA", "BRIG")}
    assert moves == {"us", "client", "reviewer"}
    assert {code for code, row in rows.items() if row.summary.seal} == {"MERI"}
    assert rows["MERI"].summary.seal == "broken"
    assert rows.keys() == practice.CLIENTS.keys() | ARRIVALS.keys()
    assert rows.keys() == practice.CONTACTS.keys()
    salt = rows["SALT"].summary
    assert salt.open_points > 0
    assert salt.asked_points == 1
    assert 0 < salt.path["review"] < 100
    assert 0 < rows["TAMA"].summary.path["tie-outs"] < 100
    assert [broken.client for broken in store.verify(demo).broken] == ["MERI"]


def test_fenn_was_closed_by_its_bookkeeper_and_again_by_us(demo):
    books = demo.ledger(staff.person_named(demo, "TV"), "FENN").books
    runs = [row for row in books.tables.transactions if row.kind == "closing"]
    assert [row.change is None for row in runs] == [True, False]
    assert [(line.account, line.amount) for line in runs[1].lines] == [
        ("3310", -240_000),
        ("3320", 240_000),
    ]


def test_every_member_of_the_demo_s_staff_can_sign_in(demo):
    for code, (_, role, password, clients) in practice.STAFF.items():
        assert staff.sign_in(demo, code, password).role is role
        assert staff.person_named(demo, code).clients == frozenset(clients)


def test_made_again_it_stays_as_it_is(demo):
    before = store.verify(demo).heads
    practice.make(demo)
    assert store.verify(demo).heads == before


def test_salt_has_the_accruals_and_the_draft_of_the_guide(demo):
    ines = staff.person_named(demo, "IO")
    ours = transactions.listed(demo, ines, "SALT", transactions.Wanted(ours=True))
    assert [(row.id, str(row.posting_date)) for row in ours.transactions] == [
        ("R-2026-2", "2026-11-01"), ("A-2026-2", "2026-10-31"),
        ("R-2026-1", "2026-10-01"), ("A-2026-1", "2026-09-30"),
    ]  # fmt: skip
    assert len(entries.drafts(demo, ines, "SALT")) == 1
    asked = [point for point in review.points(demo, ines, "SALT") if point.state == "asked"]
    assert asked[0].decision.made_by == "IO"


@pytest.mark.parametrize(
    ("client", "who", "checks"),
    [
        ("SALT", "IO", {"bank-amount-differs": 2, "bank-missing": 3}),
        (
            "HOLL",
            "IO",
            {
                "bank-amount-differs": 1,
                "bank-missing": 2,
                "bank-not-presented": 1,
                "bank-reference-differs": 1,
                "transfer-miscoded": 1,
            },
        ),
        ("FENN", "PH", {"bank-missing": 3, "takings-short": 1}),
    ],
)
def test_the_bank_of_each_client_has_the_faults_that_were_planted_and_no_others(
    demo, client, who, checks
):
    found = review.points(demo, staff.person_named(demo, who), client)
    family = [
        stated.point.check for stated in found if review.family_of(stated.point) == "The bank"
    ]
    assert Counter(family) == checks


def test_the_statements_of_the_demo_come_in_four_formats_and_the_early_ones_are_finished(demo):
    formats = set()
    for client, who in (("SALT", "IO"), ("HOLL", "IO"), ("FENN", "PH")):
        person = staff.person_named(demo, who)
        formats |= {row.format for row in demo.ledger(person, client).books.tables.statements}
        states = bank.accounts(demo, person, client)[0].statements
        assert len(states) == 12
        assert all(state.finished for state in states[:8])
    assert formats == set(StatementFormat)
