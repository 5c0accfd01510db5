"""What is stored outlives the program that stored it: older stores, wider values, further kinds of rows."""

import ast
import gzip
import os
import shutil
import subprocess
import sys
from datetime import date
from pathlib import Path

import pytest

import corkpost
from corkpost.core.acts import TakeBack
from corkpost.core.points import FACTS
from corkpost.services import acts, entries, review, sign_off, staff, store
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Workplace
from tests.builders import TODAY

SOURCE = Path(corkpost.__file__).parent
FIRST_RELEASE = Path(__file__).parent / "first_release.sqlite3.gz"
"""A practice with one client: a point corrected, two left, words amended, an accrual, a draft, a seal."""


@pytest.fixture
def first_release(tmp_path: Path) -> Path:
    folder = tmp_path / "kept"
    folder.mkdir()
    (folder / "practice.sqlite3").write_bytes(gzip.decompress(FIRST_RELEASE.read_bytes()))
    return folder


def test_a_store_of_the_release_before_proves_and_goes_on(first_release):
    workplace = Workplace(first_release, TODAY)
    orla = staff.person_named(workplace, "OB")
    assert store.verify(workplace).broken == ()
    stated = review.points(workplace, orla, "SMALL")
    # Decided on the facts that the first release digested in its own way: they are the same facts.
    assert sorted(kept.state for kept in stated) == ["corrected", "left", "left"]
    assert not any(kept.decision.facts.startswith(FACTS) for kept in stated)
    ledger = workplace.ledger(orla, "SMALL")
    assert ledger.broken_seals == frozenset()
    assert ledger.books.transaction("T4").reference == "SK-0001"
    assert [draft.id for draft in entries.drafts(workplace, orla, "SMALL")] == ["half"]
    sign_off.reopen(workplace, orla, "SMALL", date(2026, 9, 30), "a late bill")
    acts.post(workplace, orla, "SMALL", TakeBack(4), PostRequest("the paper says otherwise"))
    assert workplace.ledger(orla, "SMALL").books.transaction("T4").reference == "SK-1"
    (point,) = (kept.point for kept in stated if kept.point.check == "unallocated")
    review.reopen_point(workplace, orla, "SMALL", point.id, "looked at again")
    assert store.verify(workplace).broken == ()
    workplace.close()


WIDENED = {
    "core/books.py": ("Account", "Party", "Tax", "Dimension", "Line", "Transaction", "Allocation",
                      "BankAccount", "StatementFile", "PriorBalance", "StockItem", "PayrollMonth",
                      "AgreementRow", "Amendment", "AccountAmendment", "PartyAmendment", "Attachment",
                      "PostedChange", "ClientFacts"),
    "core/statements.py": ("StatementLine", "Statement"),
    "core/points.py": ("Point",),
    "formats/acts.py": ("PointAct", "ByHandAct", "EntryAct", "UndoAct"),
    "formats/composed.py": ("ComposedEntry", "ComposedLine"),
    "services/desk.py": ("Summary",),
}  # fmt: skip
"""Every value that is kept, by its file."""


def with_one_more_field(source: str, name: str) -> str:
    """The class with a field more, which has a default, behind its other fields."""
    (made,) = (
        node
        for node in ast.parse(source).body
        if isinstance(node, ast.ClassDef) and node.name == name
    )
    last = max(node.end_lineno or 0 for node in made.body if isinstance(node, ast.AnnAssign))
    lines = source.splitlines(keepends=True)
    return "".join([*lines[:last], '    added_later: str = ""\n', *lines[last:]])


@pytest.fixture
def copied(tmp_path: Path) -> Path:
    to = tmp_path / "src" / "corkpost"
    shutil.copytree(SOURCE, to, ignore=shutil.ignore_patterns("web", "__pycache__"))
    return to


def run(source: Path, script: str, *arguments: object) -> list[str]:
    """What a program of that source prints, line by line."""
    paths = os.pathsep.join([str(source.parent), str(Path(__file__).parents[2])])
    done = subprocess.run(
        [sys.executable, "-c", script, *map(str, arguments)],
        env={**os.environ, "PYTHONPATH": paths},
        capture_output=True,
        text=True,
        timeout=120,
    )
    assert done.returncode == 0, done.stderr
    return done.stdout.splitlines()


STATE = """
import sys
from pathlib import Path
from corkpost.core.books import Line
from corkpost.services import approvals, desk, entries, review, staff, store
from corkpost.services.keeping_up import bring_up_to_date
from corkpost.services.workplace import Workplace
from tests.builders import TODAY
place = Workplace(Path(sys.argv[1]), TODAY)
orla = staff.person_named(place, "OB")
print("added_later" in Line._fields)
print(store.verify(place).broken, sorted(store.verify(place).heads.items()))
for stated in review.points(place, orla, "SMALL"):
    print(stated.point.id, stated.state, stated.changed)
ledger = place.ledger(orla, "SMALL")
print(ledger.broken_seals, sorted(ledger.books.transactions))
print([draft.id for draft in entries.drafts(place, orla, "SMALL")])
print([waiting.number for waiting in approvals.listed(place, orla, "SMALL")])
bring_up_to_date(place)
(row,) = desk.desk(place, orla).rows
print(row.summary.open_points, row.band)
"""


def test_a_field_added_to_any_stored_value_harms_nothing(first_release, copied):
    before = run(SOURCE, STATE, first_release)
    for name, classes in WIDENED.items():
        file = copied / name
        text = file.read_text("utf-8")
        for classe in classes:
            text = with_one_more_field(text, classe)
        file.write_text(text, "utf-8")
    after = run(copied, STATE, first_release)
    assert (before[0], after[0]) == ("False", "True")
    assert after[1:] == before[1:]


TARIFFS_KIND = '''
"""Rates of exchange, by day."""

from typing import NamedTuple

from corkpost.core.row_kinds import RowKind


class Tariff(NamedTuple):
    day: str
    currency: str
    rate: str
    change: int | None = None


def _laid_over(books, rows):
    tables = books.tables.with_rows("tariffs", books.tables.of("tariffs") + tuple(rows))
    return books.followed_by(tables=tables)


def _inverse(books, number):
    return tuple(row._replace(rate="", change=None) for row in KIND.of_change(books, number))


KIND = RowKind("tariffs", 99, Tariff, key=lambda row: [row.day, row.currency],
               laid_over=_laid_over, inverse=_inverse)
'''
TARIFFS_MIGRATION = "INSERT INTO row_kinds (name) VALUES ('tariffs');\n"
TARIFFS_WORK = """
import sys
from pathlib import Path
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.row_kinds.tariffs import Tariff
from corkpost.services import staff, store
from corkpost.core.acts import TakeBack
from corkpost.services.acts import post as post_act
from corkpost.services.posting import PostRequest, post
from corkpost.services.workplace import Workplace
from tests.builders import TODAY

def tariffs(place):
    return [(r.day, r.currency, r.rate, r.change) for r in
            place.ledger(orla, "SMALL").books.tables.of("tariffs")]

def plan(rate):
    return Plan(ChangeKind.ENTRY, (), (), "", more={"tariffs": (Tariff("2026-03-31", "USD", rate),)})

place = Workplace(Path(sys.argv[1]), TODAY)
orla = staff.person_named(place, "OB")
print(plan("1.08").digest != plan("1.09").digest)
posted = post(place, orla, "SMALL", lambda _: plan("1.08"), PostRequest("the bank's"))
print([row.rate for row in posted.of("tariffs")], tariffs(place))
place.close()
place = Workplace(Path(sys.argv[1]), TODAY)
print(tariffs(place))
post_act(place, orla, "SMALL", TakeBack(posted.number), PostRequest("wrong day"))
print(tariffs(place)[-1][2:] if tariffs(place) else None)
place.close()
place = Workplace(Path(sys.argv[1]), TODAY)
print([row[2] for row in tariffs(place)], store.verify(place).broken)
place.database.reading.execute("DROP TRIGGER kept_rows_are_never_updated")
place.database.reading.execute(
    "UPDATE kept_rows SET content = replace(content, '1.08', '1.80') WHERE of_table = 'tariffs'")
print([row.what for row in store.verify(place).broken])
"""


def test_a_further_kind_of_row_is_one_file_and_one_migration(first_release, copied):
    (copied / "core" / "row_kinds" / "tariffs.py").write_text(TARIFFS_KIND, "utf-8")
    last = max(int(file.name[:4]) for file in (copied / "store" / "migrations").glob("*.sql"))
    migration = copied / "store" / "migrations" / f"{last + 1:04d}_tariffs.sql"
    migration.write_text(TARIFFS_MIGRATION, "utf-8")
    told, posted, read, undone, proved, broken = run(copied, TARIFFS_WORK, first_release)
    assert told == "True"
    assert posted == "['1.08'] [('2026-03-31', 'USD', '1.08', 5)]"
    assert read == "[('2026-03-31', 'USD', '1.08', 5)]"
    assert undone == "('', 6)"
    assert proved == "[''] ()"
    assert "kept_rows_are_never_updated is missing" in broken
    assert "rows of change 5 were altered" in broken
