"""Copies elsewhere: a machine that burns down in the midst of posting comes back, proved."""

import os
import re
import shutil
import signal
import subprocess
import sys
import threading
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path
from urllib.parse import parse_qs, urlsplit

import boto3
import pytest
from moto.server import ThreadedMotoServer

from corkpost.core.refusals import Refusal
from corkpost.services import copying, papers, staff, standby, store, terms
from corkpost.services.copying import Copier, copy_state, restore_from
from corkpost.services.places import NotReached, place_of
from corkpost.services.store import NoBackup
from corkpost.services.terms import ServedElsewhere
from corkpost.services.workplace import Workplace
from corkpost.store.database import Halted
from tests.builders import TODAY
from tests.practice import Office, accrue


@pytest.fixture(scope="module")
def keeper():
    """A bucket of a stand-in on this machine."""
    server = ThreadedMotoServer(port=0, verbose=False)
    server.start()
    host, port = server.get_host_and_port()
    yield f"s3://copies/practice?endpoint=http://{host}:{port}&region=us-east-1&force-path-style=true"
    server.stop()


@pytest.fixture(params=["folder", "bucket"])
def place(request, tmp_path, monkeypatch):
    if request.param == "folder":
        return place_of(str(tmp_path / "elsewhere"))
    address = request.getfixturevalue("keeper")
    for name in ("AWS_CA_BUNDLE", "HTTP_PROXY", "http_proxy"):
        monkeypatch.delenv(name, raising=False)
    monkeypatch.setenv("AWS_ACCESS_KEY_ID", "ours")
    monkeypatch.setenv("AWS_SECRET_ACCESS_KEY", "a secret of no bucket")
    endpoint = parse_qs(urlsplit(address).query)["endpoint"][0]
    client = boto3.client("s3", endpoint_url=endpoint, region_name="us-east-1")
    client.create_bucket(Bucket="copies")
    return place_of(address.replace("/practice", f"/{request.node.name}"))


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
from corkpost.store.database import Halted
from tests.builders import TODAY
from tests.practice import Office, accrue
from corkpost.services import staff
from corkpost.services.workplace import Workplace
workplace = Workplace(Path({folder!r}), TODAY)
office = Office(workplace, {{"IO": staff.person_named(workplace, "IO")}})
for number in range(1, 4000):
    accrue(office, on="2026-06-%02d" % (number % 28 + 1), amount="%d.00" % number, reverse_on=None)
    print(number, flush=True)
"""


def test_what_burns_down_in_the_midst_of_posting_comes_back_but_for_the_last_second(
    office, place, tmp_path
):
    folder = office.workplace.database.folder
    papers.keep_paper(office.workplace, office["IO"], "SMALL", "T1", "bill.pdf", b"a paper")
    copier = Copier(office.workplace, place)
    copier.start()
    until(lambda: place.names("store-0001"))
    program = POSTS.format(root=str(Path(__file__).parents[2]), folder=str(folder))
    with subprocess.Popen(
        [sys.executable, "-c", program], stdout=subprocess.PIPE, text=True
    ) as posts:
        acknowledged = {}
        for line in posts.stdout:
            acknowledged[int(line)] = time.monotonic()
            if acknowledged[int(line)] - acknowledged[1] > 5:
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
    heads = restore_from(place, tmp_path / "back")
    back = Workplace(tmp_path / "back", TODAY)
    assert heads == store.verify(back).heads
    assert store.verify(back).broken == ()
    ines = staff.person_named(back, "IO")
    books = back.ledger(ines, "SMALL").books
    there = {int(t.total / 100) for t in books.ours}
    lost = acknowledged.keys() - there
    assert all(burned - acknowledged[number] < 3 for number in lost), sorted(lost)
    assert len(there) > len(acknowledged) / 4
    assert there == set(range(1, len(there) + 1))
    assert (
        papers.paper(back, ines, "SMALL", books.tables.attachments[0].digest).content == b"a paper"
    )
    back.close()


def test_a_copy_says_how_it_goes_and_what_was_written_last_is_in_it_when_it_is_stopped(
    office, place, tmp_path
):
    copier = Copier(office.workplace, place)
    assert copy_state(office.workplace) is None
    copier.start()
    try:
        accrue(office, amount="10.00", reverse_on=None)
        until(lambda: (state := copy_state(office.workplace)) and state.at)
        state = copy_state(office.workplace)
        assert (state.problem, state.to) == (None, str(place))
        accrue(office, amount="20.00", reverse_on=None)
    finally:
        copier.stop()
    with pytest.raises(NoBackup, match="holds a practice already"):
        restore_from(place, office.workplace.database.folder)
    assert restore_from(place, tmp_path / "back") == store.verify(office.workplace).heads
    assert not [p for p in (tmp_path / "back").iterdir() if re.match(r"\.corkpost", p.name)]


def test_a_copy_comes_back_as_it_was_at_a_moment(office, tmp_path):
    place = place_of(str(tmp_path / "elsewhere"))
    copier = Copier(office.workplace, place)
    copier.start()
    accrue(office, amount="10.00", reverse_on=None)
    heads = store.verify(office.workplace).heads
    until(lambda: (state := copy_state(office.workplace)) and state.at)
    time.sleep(2)
    moment = datetime.now(UTC).replace(microsecond=0)
    time.sleep(2)
    accrue(office, amount="20.00", reverse_on=None)
    copier.stop()
    assert restore_from(place, tmp_path / "back", moment) == heads
    with pytest.raises(NoBackup, match="There is no copy"):
        restore_from(place, tmp_path / "earlier", moment - timedelta(days=1))


def test_a_copy_that_does_not_arrive_is_not_said_to_be_whole(office, tmp_path, monkeypatch):
    """The streaming program keeps on trying, and ends by nothing."""
    place = place_of(str(tmp_path / "elsewhere"))
    monkeypatch.setattr(copying, "LAST_SECONDS", 1)
    copier = Copier(office.workplace, place)
    monkeypatch.setattr(
        type(place), "address", lambda *_: "s3://nobody/x?endpoint=http://127.0.0.1:9&region=x"
    )
    copier.start()
    try:
        time.sleep(4)
        assert copy_state(office.workplace).at is None
    finally:
        copier.stop()
    with pytest.raises(NoBackup, match="There is no copy"):
        restore_from(place, tmp_path / "back")


def test_a_second_machine_follows_and_takes_over_and_the_first_is_fenced_off(
    office, place, tmp_path
):
    first = office.workplace
    papers.keep_paper(first, office["IO"], "SMALL", "T1", "bill.pdf", b"a paper")
    copier = Copier(first, place, halts_after=10)
    copier.start()
    stopped, said = threading.Event(), list[str]()
    folder = tmp_path / "second"
    following = threading.Thread(
        target=standby.follow, args=(place, folder, stopped, said.append), daemon=True
    )
    following.start()
    accrue(office, amount="10.00", reverse_on=None)
    until(lambda: list(folder.rglob("*-txid")) and list(folder.rglob("files/[0-9a-f]*")))
    # Beyond what is whole in the place: a follower that is stopped now can't go on from there.
    (came,) = folder.rglob("*-txid")
    first_came = came.read_text()
    accrue(office, amount="15.00", reverse_on=None)
    until(lambda: came.read_text() != first_came)
    with pytest.raises(Refusal, match="corkpost follow"):
        standby.take_over(place, folder)
    stopped.set()
    following.join()
    assert "follows" in said[-1]
    accrue(office, amount="20.00", reverse_on=None)
    heads = store.verify(first).heads
    posted = time.time() + 2
    until(lambda: (copy_state(first).at or 0) >= posted)

    taken = standby.take_over(place, folder)

    assert (taken.left, taken.heads) == (True, heads)
    for _ in range(2):
        with pytest.raises(Halted, match="took this practice over"):
            accrue(office, amount="30.00", reverse_on=None)
    assert store.verify(first).heads == heads
    with pytest.raises(ServedElsewhere):
        Copier(first, place).start()
    copier.stop()
    second = Workplace(folder, TODAY)
    again = Copier(second, place)
    again.start()
    ines = staff.person_named(second, "IO")
    accrue(Office(second, {"IO": ines}), amount="40.00", reverse_on=None)
    again.stop()
    assert restore_from(place, tmp_path / "third") == store.verify(second).heads
    second.close()


def test_who_cannot_reach_the_place_writes_nothing_until_it_does(office, tmp_path, monkeypatch):
    place = place_of(str(tmp_path / "elsewhere"))
    copier = Copier(office.workplace, place, halts_after=1)
    copier.start()

    def gone(*_):
        raise NotReached("the line is cut")

    with monkeypatch.context() as cut:
        cut.setattr(type(place), "names", gone)
        until((office.workplace.database.folder / "halted").exists)
        with pytest.raises(Halted, match="have not reached"):
            accrue(office, reverse_on=None)
    until(lambda: not (office.workplace.database.folder / "halted").exists())
    accrue(office, reverse_on=None)
    copier.stop()


def test_a_place_that_is_not_reached_at_the_start_keeps_nobody_from_working(
    office, tmp_path, monkeypatch
):
    place = place_of(str(tmp_path / "elsewhere"))
    copier = Copier(office.workplace, place)

    def gone(*_):
        raise NotReached("the line is cut")

    with monkeypatch.context() as cut:
        cut.setattr(type(place), "names", gone)
        copier.start()
        accrue(office, reverse_on=None)
        until(lambda: (state := copy_state(office.workplace)) and state.problem)
    until(lambda: place.names("store-0001"))
    copier.stop()


def test_a_place_that_holds_the_copies_of_another_is_not_written_to(office, tmp_path):
    place = place_of(str(tmp_path / "elsewhere"))
    terms.begin(place, tmp_path, 0)
    with pytest.raises(ServedElsewhere, match="Name another place"):
        Copier(office.workplace, place).start()


def test_a_place_is_a_folder_or_a_bucket():
    assert str(place_of("file:///mnt/else%20where")) == "/mnt/else where"
    assert str(place_of("/mnt/x")) == "/mnt/x"
    bucket = place_of("s3://bucket/practice?endpoint=http://127.0.0.1:9&region=x")
    assert (str(bucket), bucket.address("store-0001")) == (
        "s3://bucket/practice",
        "s3://bucket/practice/store-0001?endpoint=http://127.0.0.1:9&region=x",
    )
    for wrong in ("ftp://keeper/x", "s3:///x"):
        with pytest.raises(Refusal, match="is no place for copies"):
            place_of(wrong)
