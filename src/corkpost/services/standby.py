"""A second machine beside the one that serves: it follows the copies, and takes over when it is told to.

Taking over begins a new term (`terms.py`): from then on the first machine, when it is still there, writes
nothing more.
"""

import fcntl
import shutil
import subprocess
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import NamedTuple

from corkpost.core.refusals import Refusal
from corkpost.services import record, store, terms
from corkpost.services.copying import fetch_files, program, put_back
from corkpost.services.places import Place
from corkpost.services.store import NoBackup
from corkpost.services.terms import Term
from corkpost.services.workplace import Workplace
from corkpost.store.database import STORE

STANDBY = ".standby"
CATCH_UP_SECONDS = 600


class TakenOver(NamedTuple):
    """*left*: the first machine said that it writes no more. *heads*: the ends of the chains."""

    left: bool
    heads: dict[str, str]


def follow(
    place: Place, folder: Path, stopped: threading.Event, tell: Callable[[str], None]
) -> None:
    """Keep a standby of the place's practice in a data folder without one, until stopped. Raises NotReached
    where the place can't be reached at the start."""
    store.refuse_used(folder)
    with _alone(folder) as standby:
        followed: Term | None = None
        stream: subprocess.Popen[bytes] | None = None
        told = ""
        while not stopped.is_set():
            try:
                term = terms.last_streamed(place)
                if term is not None and (term != followed or _ended(stream)):
                    _end(stream)
                    # What it can't go on from, it begins anew.
                    if term == followed:
                        _clear(standby)
                    stream = _stream(place, term, standby)
                    followed = term
                fetch_files(place, standby)
                says = f"follows {term.machine}" if term else "there is no copy yet"
            except Refusal as wrong:
                says = str(wrong)
            if says != told:
                tell(f"{place}: {says}")
                told = says
            stopped.wait(place.every)
        _end(stream)


def take_over(place: Place, folder: Path, wait: float = 15.0) -> TakenOver:
    """Serve from this data folder from now on: the first machine is fenced off, what it copied is brought
    here, proved, and put in place. *wait*: seconds for the first to say that it has left. Raises
    NotReached, NoBackup and ServedElsewhere."""
    store.refuse_used(folder)
    with _alone(folder) as standby:
        before = terms.last_streamed(place)
        if before is None:
            raise NoBackup(f"There is no copy at {place} to take over.")
        mine = terms.begin(place, folder, terms.terms_of(place)[-1].number)
        left = _wait_for(lambda: Path(before.left).name in place.names("terms"), wait, place.every)
        _catch_up(place, before, standby)
        fetch_files(place, standby)
        heads = put_back(standby, folder)
    shutil.rmtree(standby, ignore_errors=True)
    workplace = Workplace(folder)
    try:
        what = f"taken over from {before.machine} by {mine.machine}, term {mine.number}"
        record.note(workplace, record.Kind.BACKUP, record.MACHINE, what)
    finally:
        workplace.close()
    return TakenOver(left, heads)


@contextmanager
def _alone(folder: Path) -> Iterator[Path]:
    """The folder of the standby, for one program at a time."""
    standby = folder / STANDBY
    standby.mkdir(parents=True, exist_ok=True)
    with (folder / f"{STANDBY}.lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as wrong:
            raise Refusal(
                f"`corkpost follow` runs on {folder}: stop it, then take over."
            ) from wrong
        yield standby


def _clear(standby: Path) -> None:
    for file in standby.glob(f"{STORE}*"):
        file.unlink()


def _stream(place: Place, term: Term, standby: Path) -> subprocess.Popen[bytes]:
    """Bring the term's store here, and what is written from then on. A follower of this term that was
    stopped goes on where it was."""
    mark = standby / "term"
    if not mark.exists() or mark.read_text() != term.stream:
        _clear(standby)
        mark.write_text(term.stream)
    return subprocess.Popen(
        [program(), "restore", "-f", "-o", str(standby / STORE), place.address(term.stream)],
        stdin=subprocess.DEVNULL,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )


def _catch_up(place: Place, term: Term, standby: Path) -> None:
    """Follow until all that the place has is here."""
    there = terms.position(place.names(term.stream))
    # A follower that was stopped can't always go on: then all is fetched.
    for _ in range(2):
        if _followed_to(there, _stream(place, term, standby), standby):
            break
        _clear(standby)
    else:
        raise NoBackup(
            f"What is at {place} could not be brought here whole: write {there} is missing. Take over "
            "again."
        )
    (standby / f"{STORE}-txid").unlink()


def _followed_to(there: int, stream: subprocess.Popen[bytes], standby: Path) -> bool:
    """Let it follow until that write is here, and end it. Whether it is."""
    try:
        _wait_for(lambda: _here(standby) >= there or _ended(stream), CATCH_UP_SECONDS, 0.1)
    finally:
        _end(stream)
    return _here(standby) >= there


def _here(standby: Path) -> int:
    """The last write that is here."""
    try:
        return int((standby / f"{STORE}-txid").read_text().strip(), 16)
    except (FileNotFoundError, ValueError):
        return 0


def _ended(stream: subprocess.Popen[bytes] | None) -> bool:
    return stream is None or stream.poll() is not None


def _end(stream: subprocess.Popen[bytes] | None) -> None:
    if stream is not None and stream.poll() is None:
        stream.terminate()
        stream.wait(timeout=30)


def _wait_for(came: Callable[[], bool], seconds: float, every: float) -> bool:
    until = time.monotonic() + seconds
    while not came():
        if time.monotonic() > until:
            return False
        time.sleep(every)
    return True
