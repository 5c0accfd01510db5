"""Killed in the midst of whatever it does, the program loses nothing that it acknowledged, and nothing is
half there: what was under way is there whole or not at all, and can be done again."""

import gzip
import os
import random
import shutil
import signal
import sqlite3
import sys
import time
import traceback
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import suppress
from datetime import datetime
from pathlib import Path
from typing import Any, NamedTuple

import pytest

from corkpost.core.refusals import Refusal
from corkpost.services import books, find, papers, sign_off, staff, store
from corkpost.services.workplace import Workplace
from corkpost.store.database import STORE
from tests.builders import TODAY, day
from tests.formats.folders import small_books, write
from tests.practice import PASSWORD, Office, accrue, decide_the_rest, open_office

OLDER_STORE = Path(__file__).parents[1] / "store" / "first_release.sqlite3.gz"


def office_at(folder: Path) -> Office:
    workplace = Workplace(folder / "data", TODAY, clock=lambda: datetime(2026, 11, 16, 12, 0))
    return Office(
        workplace, {c: staff.person_named(workplace, c) for c in ("OB", "TV", "IO", "PH")}
    )


def post(office: Office, folder: Path) -> Iterator[int]:
    for number in range(1, 5):
        yield accrue(office, amount=f"{number}.00", reverse_on=None).number


def posted(office: Office, folder: Path, acknowledged: list[int]) -> None:
    there = {row.change for row in office.workplace.ledger(office["IO"], "SMALL").books.ours}
    assert set(acknowledged) <= there
    assert len(there) <= len(acknowledged) + 1


def import_another(office: Office, folder: Path) -> Iterator[int]:
    # In many parts, as the books of a large client are.
    books.LINES_AT_ONCE, books.PAUSE_SECONDS = 3, 0
    books.take_in(office.workplace, office["OB"], folder / "another")
    yield 1


def imported(office: Office, folder: Path, acknowledged: list[int]) -> None:
    with suppress(Refusal):
        office.workplace.ledger(office["OB"], "OTHER")
        acknowledged = [1]
    if not acknowledged:
        list(import_another(office, folder))
    was = office.workplace.ledger(office["OB"], "SMALL").books.tables
    there = office.workplace.ledger(office["OB"], "OTHER").books.tables
    assert len(there.transactions) == len(was.transactions)
    assert len(there.allocations) == len(was.allocations)


def sign(office: Office, folder: Path) -> Iterator[int]:
    seal = sign_off.sign_off(office.workplace, office["TV"], "SMALL", day("2026-10-31"), PASSWORD)
    yield seal.number
    sign_off.reopen(office.workplace, office["OB"], "SMALL", day("2026-10-31"), "a late bill")
    yield 2


def signed(office: Office, folder: Path, acknowledged: list[int]) -> None:
    seals = office.workplace.ledger(office["OB"], "SMALL").seals
    assert len(seals) >= bool(acknowledged)
    assert all(not seal.stands for seal in seals) or 2 not in acknowledged
    if not seals:
        assert next(sign(office, folder)) == 1


def keep(office: Office, folder: Path) -> Iterator[int]:
    for number in range(3):
        content = f"paper {number}".encode() * 20_000
        papers.keep_paper(office.workplace, office["IO"], "SMALL", "T1", f"{number}.pdf", content)
        yield number


def kept(office: Office, folder: Path, acknowledged: list[int]) -> None:
    ledger = office.workplace.ledger(office["IO"], "SMALL")
    names = {row.path.rsplit("-")[-1] for row in ledger.books.tables.attachments}
    assert {f"{number}.pdf" for number in acknowledged} <= names


def copy(office: Office, folder: Path) -> Iterator[int]:
    store.backup(office.workplace, folder / "copies" / "new.tar.gz")
    yield 1


def copied(office: Office, folder: Path, acknowledged: list[int]) -> None:
    made = folder / "copies" / "new.tar.gz"
    assert made.exists() or not acknowledged
    if not made.exists():
        list(copy(office, folder))
    store.restore(made, folder / "from copy")


def bring_back(office: Office, folder: Path) -> Iterator[int]:
    store.restore(folder / "old.tar.gz", folder / "back")
    yield 1


def brought_back(office: Office, folder: Path, acknowledged: list[int]) -> None:
    back = folder / "back"
    assert (back / STORE).exists() or not acknowledged
    if not (back / STORE).exists():
        store.restore(folder / "old.tar.gz", back)
    found = Workplace(back, TODAY)
    assert store.verify(found).broken == ()
    assert store.verify(found).heads == store.verify(office.workplace).heads
    found.close()


def index(office: Office, folder: Path) -> Iterator[int]:
    find.SOME = 2
    find.catch_up(office.workplace)
    yield 1


def indexed(office: Office, folder: Path, acknowledged: list[int]) -> None:
    find.catch_up(office.workplace)
    assert find.find(office.workplace, office["IO"], "reedwharf").postings


def upgrade(office: Office, folder: Path) -> Iterator[int]:
    Workplace(folder / "older", TODAY).close()
    yield 1


def upgraded(office: Office, folder: Path, acknowledged: list[int]) -> None:
    found = Workplace(folder / "older", TODAY)
    assert store.verify(found).broken == ()
    assert len(found.ledger(staff.person_named(found, "OB"), "SMALL").seals) == 1
    found.close()


class Deed(NamedTuple):
    """*do* acknowledges each step; *there* holds what must be so after it was ended at any point."""

    do: Callable[[Office, Path], Iterator[int]]
    there: Callable[[Office, Path, list[int]], None]


DEEDS = {
    "import": Deed(import_another, imported),
    "posting": Deed(post, posted),
    "sign-off": Deed(sign, signed),
    "paper": Deed(keep, kept),
    "backup": Deed(copy, copied),
    "restore": Deed(bring_back, brought_back),
    "index": Deed(index, indexed),
    "upgrade": Deed(upgrade, upgraded),
}


@pytest.fixture(scope="module")
def before(tmp_path_factory):
    """A practice in which each of the deeds can be done."""
    folder = tmp_path_factory.mktemp("before")
    office = open_office(folder)
    decide_the_rest(office)
    write(small_books("OTHER"), folder / "another")
    store.backup(office.workplace, folder / "old.tar.gz")
    office.workplace.close()
    (folder / "older").mkdir()
    (folder / "older" / STORE).write_bytes(gzip.decompress(OLDER_STORE.read_bytes()))
    return folder


FILE_EVENTS = {"open", "os.rename", "os.remove", "shutil.rmtree"}


class Points:
    """Where a process may be ended: each statement to the store, each opening, renaming and removing of a
    file, each flush to the disk."""

    def __init__(self, end_at: int) -> None:
        self.passed, self.end_at, self.begun = 0, end_at, False

    def begin(self) -> None:
        """From here on it is counted: the practice is open."""
        self.begun = True

    def watch(self, patch: pytest.MonkeyPatch) -> None:
        flush, connect = os.fsync, sqlite3.connect

        def flushed(file: int) -> None:
            self.pass_one()
            flush(file)
            self.pass_one()

        def connected(*given: Any, **named: Any) -> sqlite3.Connection:
            connection: sqlite3.Connection = connect(*given, **named)
            connection.set_trace_callback(lambda _: self.pass_one())
            return connection

        patch.setattr(os, "fsync", flushed)
        patch.setattr(sqlite3, "connect", connected)
        sys.addaudithook(lambda event, _: self.pass_one() if event in FILE_EVENTS else None)

    def pass_one(self) -> None:
        self.passed += self.begun
        if self.begun and self.passed == self.end_at:
            os.kill(os.getpid(), signal.SIGKILL)


def child(deed: Deed, folder: Path, end_at: int) -> tuple[int, int]:
    """A process of its own that does the deed and ends at that point; its number, and where it tells."""
    reading, writing = os.pipe()
    process = os.fork()
    if process:
        os.close(writing)
        return process, reading
    code = 1
    try:
        points = Points(end_at)
        points.watch(pytest.MonkeyPatch())
        office = office_at(folder)
        points.begin()
        for step in deed.do(office, folder):
            os.write(writing, f"{step}\n".encode())
        os.write(writing, f"points {points.passed}\n".encode())
        code = 0
    except BaseException:
        traceback.print_exc()
    finally:
        os._exit(code)


def done(
    deed: Deed, folder: Path, end_at: int = 0, after: float | None = None
) -> tuple[list[str], int]:
    """What was acknowledged, and how the process ended: at that point, or after so many seconds."""
    process, reading = child(deed, folder, end_at)
    if after is not None:
        time.sleep(after)
        os.kill(process, signal.SIGKILL)
    with os.fdopen(reading) as told:
        lines = told.read().splitlines()
    return lines, os.waitstatus_to_exitcode(os.waitpid(process, 0)[1])


def killed(before: Path, tmp_path: Path, name: str, times: int, seed: int) -> Counter[str]:
    """Kill the deed so many times, at a point or at a moment by turns; how many steps were acknowledged."""
    dice, deed, seen = random.Random(f"{name} {seed}"), DEEDS[name], Counter[str]()
    whole = shutil.copytree(before, tmp_path / "whole")
    began = time.monotonic()
    told, code = done(deed, whole)
    assert code == 0
    took, points = time.monotonic() - began, int(told[-1].split()[1])
    for number in range(times):
        folder = shutil.copytree(before, tmp_path / str(number))
        if number % 4 == 3:
            told, code = done(deed, folder, after=dice.uniform(took / 10, took))
        else:
            told, code = done(deed, folder, end_at=dice.randint(1, points))
        assert code in {0, -signal.SIGKILL}
        acknowledged = [int(line) for line in told if line.isdigit()]
        office = office_at(folder)
        assert store.verify(office.workplace).broken == ()
        deed.there(office, folder, acknowledged)
        assert store.verify(office.workplace).broken == ()
        office.workplace.close()
        shutil.rmtree(folder)
        seen[f"{len(acknowledged)} acknowledged"] += 1
        seen["killed"] += code != 0
    return seen


@pytest.mark.parametrize("name", DEEDS)
def test_what_is_killed_is_there_whole_or_not_at_all(before, tmp_path, name):
    seen = killed(before, tmp_path, name, times=4, seed=1)
    assert seen["killed"] >= 2, seen


@pytest.mark.soak
@pytest.mark.parametrize("name", DEEDS)
def test_what_is_killed_is_there_whole_or_not_at_all_at_length(before, tmp_path, name):
    seen = killed(before, tmp_path, name, times=60, seed=2)
    assert seen["killed"] >= 40, seen
