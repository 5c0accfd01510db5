"""Copies elsewhere: a machine that burns down in the midst of posting comes back, proved."""

import os
import re
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from corkpost.core.refusals import Refusal
from corkpost.services import papers, staff, store
from corkpost.services.copying import Copier, copy_state, place_of, restore_from
from corkpost.services.store import NoBackup
from corkpost.services.workplace import Workplace
from tests.builders import TODAY
from tests.practice import accrue


def until(told, seconds=20):
    for _ in range(seconds * 10):
        if told():
            return
        time.sleep(0.1)
    raise AssertionError("it did not come")


POSTS = """
import sys
from pathlib import Path
sys.path.insert(0, {root!r})
from tests.builders import TODAY
from tests.practice import Office, accrue
from corkpost.services import staff
from corkpost.services.workplace import Workplace
workplace = Workplace(Path({folder!r}), TODAY)
office = Office(workplace, {{"IO": staff.person_named(workplace, "IO")}})
for number in range(1, 400):
    accrue(office, on="2026-06-%02d" % (number % 28 + 1), amount="%d.00" % number, reverse_on=None)
    print(number, flush=True)
"""


def test_what_burns_down_in_the_midst_of_posting_comes_back_but_for_the_last_second(
    office, tmp_path
):
    folder = office.workplace.database.folder
    papers.keep_paper(office.workplace, office["IO"], "SMALL", "T1", "bill.pdf", b"a paper")
    copier = Copier(office.workplace, tmp_path / "elsewhere")
    copier.start()
    until(lambda: (tmp_path / "elsewhere" / "store").exists())
    program = POSTS.format(root=str(Path(__file__).parents[2]), folder=str(folder))
    with subprocess.Popen(
        [sys.executable, "-c", program], stdout=subprocess.PIPE, text=True
    ) as posts:
        acknowledged = {}
        for line in posts.stdout:
            acknowledged[int(line)] = time.monotonic()
            if int(line) == 60:
                break
        os.kill(posts.pid, signal.SIGKILL)
    # The machine is gone: its processes, and its disk.
    burned = time.monotonic()
    os.kill(copier._process.pid, signal.SIGKILL)
    copier._stopped.set()
    copier._thread.join(timeout=10)
    copier._process.wait(timeout=10)
    office.workplace.close()
    shutil.rmtree(folder)
    heads = restore_from(tmp_path / "elsewhere", tmp_path / "back")
    back = Workplace(tmp_path / "back", TODAY)
    assert heads == store.verify(back).heads
    assert store.verify(back).broken == ()
    ines = staff.person_named(back, "IO")
    books = back.ledger(ines, "SMALL").books
    there = {int(t.total / 100) for t in books.ours}
    lost = acknowledged.keys() - there
    assert all(burned - acknowledged[number] < 3 for number in lost), sorted(lost)
    assert there == set(range(1, len(there) + 1))
    assert (
        papers.paper(back, ines, "SMALL", books.tables.attachments[0].digest).content == b"a paper"
    )
    back.close()


def test_a_copy_says_how_it_goes_and_comes_back_as_it_was_at_a_moment(office, tmp_path):
    copier = Copier(office.workplace, tmp_path / "elsewhere")
    assert copy_state(office.workplace) is None
    copier.start()
    try:
        accrue(office, amount="10.00", reverse_on=None)
        until(lambda: copy_state(office.workplace) is not None)
        state = copy_state(office.workplace)
        assert (state.problem, state.to) == (None, str(tmp_path / "elsewhere"))
        until(lambda: list((tmp_path / "elsewhere" / "store").rglob("*.ltx")))
        time.sleep(2)
    finally:
        copier.stop()
    with pytest.raises(NoBackup, match="holds a practice already"):
        restore_from(tmp_path / "elsewhere", office.workplace.database.folder)
    with pytest.raises(NoBackup, match="There is no copy"):
        restore_from(tmp_path / "nowhere", tmp_path / "back")
    assert restore_from(tmp_path / "elsewhere", tmp_path / "back") == (
        store.verify(office.workplace).heads
    )
    assert not [p for p in (tmp_path / "back").iterdir() if re.match(r"\.corkpost", p.name)]


def test_a_place_is_a_folder():
    assert place_of("file:///mnt/else%20where") == Path("/mnt/else where")
    assert place_of("/mnt/x") == Path("/mnt/x")
    with pytest.raises(Refusal, match="is no folder"):
        place_of("s3://bucket/practice")
