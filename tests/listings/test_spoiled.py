"""A listing that was spoiled on its way is refused or asked about, or comes to the same figures: never a
wrong sum without a figure that disagrees, and never a crash."""

from collections import Counter
from dataclasses import replace
from datetime import date
from functools import cache

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from corkpost.core.chart.trade_words import by_name
from corkpost.core.intake.making import as_said, made_of
from corkpost.core.refusals import Refusal
from corkpost.demo.labelled import labelled
from corkpost.formats.listings.names import by_journal
from corkpost.formats.listings.questions import Answers
from corkpost.formats.listings.sheets import Row, Sheet
from corkpost.formats.listings.understanding import understand
from tests.builders import TODAY
from tests.listings.rendering import Renderer, Style
from tests.listings.test_layouts import CLIENT, held
from tests.notation import EUR

PROVED = Style("proved", layout="by-account", running=True, totals=True)
LAST = date(2025, 1, 31)


@cache
def written():
    """The first month of made-up books, with running balances and totals; and what they come to."""
    books = labelled(4).books
    tables = books.tables
    early = tuple(row for row in tables.transactions if row.posting_date <= LAST)
    books = replace(books, tables=replace(tables, transactions=early, allocations=()))
    rows = [tuple(map(str, row)) for row in Renderer(books, PROVED).ledger()]
    return rows, held(early, LAST)


def spoiled(data, rows):
    """The rows with one to three things done to them; what was done."""
    rows, done = [list(row) for row in rows], []
    for _ in range(data.draw(st.integers(1, 3))):
        place = data.draw(st.integers(1, len(rows) - 1))
        deed = data.draw(st.sampled_from(["empty", "shift", "twice", "gone", "swap", "cut"]))
        done.append(deed)
        if deed == "empty" and rows[place]:
            rows[place][data.draw(st.integers(0, len(rows[place]) - 1))] = ""
        elif deed == "shift":
            rows[place].insert(data.draw(st.integers(0, len(rows[place]))), "")
        elif deed == "twice":
            rows.insert(place, list(rows[place]))
        elif deed == "gone":
            del rows[place]
        elif deed == "swap" and len(rows[place]) > 1:
            one = data.draw(st.integers(0, len(rows[place]) - 2))
            rows[place][one : one + 2] = reversed(rows[place][one : one + 2])
        elif deed == "cut":
            del rows[max(2, len(rows) - data.draw(st.integers(1, 40))) :]
    return [tuple(row) for row in rows], done


def outcome_of(rows):
    """`refused`, `asked`, `disagrees`, `same` or `wrong`."""
    sheet = Sheet("ledger.csv", "", tuple(Row(n, row) for n, row in enumerate(rows, 1)))
    answers = Answers({})
    try:
        found = understand([sheet], EUR, answers, TODAY)
        if found.faults or not found.raw.postings:
            return "refused"
        made = made_of(as_said(found.raw, by_name), CLIENT, None, by_journal)
    except Refusal:
        return "refused"
    if made.faults:
        return "refused"
    if answers.asked:
        return "asked"
    if any(not proof.holds for proof in made.proofs):
        return "disagrees"
    return "same" if held(made.tables.transactions, LAST) == written()[1] else "wrong"


@pytest.mark.parametrize("examples", [150, pytest.param(5_000, marks=pytest.mark.soak)])
def test_a_spoiled_listing_comes_to_no_wrong_sum(examples):
    seen: Counter[str] = Counter()

    @settings(max_examples=examples, database=None, suppress_health_check=list(HealthCheck))
    @given(data=st.data())
    def spoil(data):
        rows, done = spoiled(data, written()[0])
        came = outcome_of(rows)
        seen[came] += 1
        assert came != "wrong", done

    spoil()
    print(dict(seen))
    assert outcome_of(written()[0]) == "same"
    assert seen["same"] > examples / 20
    assert seen["refused"] + seen["asked"] + seen["disagrees"] > examples / 3
