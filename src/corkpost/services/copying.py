"""Copies elsewhere as the practice is worked on: the store streamed by Litestream, kept files beside it.

What is acknowledged is in the copy about a second later; what comes back is proved before it is used.
"""

import json
import shutil
import subprocess
import sys
import threading
import time
from collections import deque
from collections.abc import Mapping
from contextlib import suppress
from datetime import datetime
from pathlib import Path
from typing import NamedTuple

from corkpost.services import store, terms
from corkpost.services.leases import Lease
from corkpost.services.places import NotReached, Place, place_of
from corkpost.services.store import NoBackup, faults_of, put_in_place
from corkpost.services.terms import ServedElsewhere, Term
from corkpost.services.workplace import Workplace
from corkpost.store.database import STORE

AGAIN_SECONDS = 5.0
LAST_SECONDS = 15.0
"""How long the last of it may take to go out, when the practice is stopped."""
STATE = "copying.json"
SETTINGS = ".copying.yml"
DAYS_BACK = 7
"""For so many days the store can be brought back as it was at any moment."""


class CopyState(NamedTuple):
    """*at*: of when all is in the copy, in seconds since 1970; None before it ever was. *files*: kept files
    in it. *problem*: why it does not go on, in words."""

    to: str
    at: int | None
    files: int
    problem: str | None


def program() -> str:
    """The program that streams the store; it is installed beside this one."""
    beside = Path(sys.executable).with_name("litestream")
    return str(beside) if beside.exists() else "litestream"


class Copier:
    """Copies a practice to a place for as long as it is served.

    *halts_after*: where the place was not reached for so many seconds nothing is written here until it is:
    another machine may have taken over. *lease*: where several processes serve it, one of them copies.
    """

    def __init__(
        self,
        workplace: Workplace,
        to: Place,
        halts_after: float | None = None,
        lease: Lease | None = None,
    ) -> None:
        self._workplace, self._to = workplace, to
        self._halts_after, self._lease = halts_after, lease
        self._stopped = threading.Event()
        self._thread = threading.Thread(target=self._run, name="copies", daemon=True)
        self._process: subprocess.Popen[bytes] | None = None
        self._term: Term | None = None
        self._begun = 0.0
        self._reached = time.monotonic()
        self._at: int | None = None
        self._copied: set[str] | None = None
        self._seen: deque[tuple[int, int]] = deque(maxlen=60)

    def start(self) -> None:
        """Begin. A place that can't be reached stops nobody from working: it is tried again and again.
        Raises ServedElsewhere where the place is another practice's, or another machine serves this one."""
        with suppress(NotReached):
            if self._lease is None:
                self._enter()
        self._thread.start()

    def _enter(self) -> None:
        term = terms.enter(self._to, self._workplace.database.folder)
        later = terms.overtaken_by(self._to, term)
        if later is not None:
            self._workplace.database.halt(terms.told(later))
            raise ServedElsewhere(terms.told(later))
        self._term = term

    def stop(self) -> None:
        """Let the last of it go out, and end."""
        self._stopped.set()
        self._thread.join(timeout=15)
        if self._end_stream() and self._term is not None:
            with suppress(subprocess.TimeoutExpired):
                subprocess.run(
                    [program(), "replicate", "-once", "-config", str(self._settings(self._term))],
                    capture_output=True,
                    timeout=LAST_SECONDS,
                    check=False,
                )
        if self._lease is not None:
            self._lease.release()

    def _run(self) -> None:
        while not self._stopped.is_set():
            if self._lease is None or self._lease.is_held():
                problem = self._look()
                self._say(problem)
            else:
                self._end_stream()
            self._stopped.wait(self._to.every)

    def _look(self) -> str | None:
        """One round. What is wrong, in words."""
        database = self._workplace.database
        try:
            if self._term is None:
                self._term = terms.enter(self._to, database.folder)
            later = terms.overtaken_by(self._to, self._term)
            if later is not None:
                return self._leave(self._term, later)
            self._reached = time.monotonic()
            database.go_on()
            self._stream(self._term)
            self._copy_files()
            return self._behind(self._term)
        except (NotReached, ServedElsewhere) as wrong:
            if (
                self._halts_after is not None
                and time.monotonic() - self._reached > self._halts_after
            ):
                database.halt(
                    f"Copies have not reached {self._to} for {self._halts_after:.0f} seconds. Nothing is "
                    "written until they do: another machine may serve this practice now."
                )
            return str(wrong)
        except OSError as wrong:
            return f"The streaming program can't be run: {wrong.strerror}."

    def _leave(self, mine: Term, later: Term) -> str:
        """Another serves it now: write no more here, then say so there."""
        self._workplace.database.halt(terms.told(later))
        self._end_stream()
        self._stopped.set()
        self._to.claim(mine.left, b"")
        return terms.told(later)

    def _settings(self, term: Term) -> Path:
        """What the streaming program is told, in a file. (Whatever is JSON is YAML.)"""
        file = self._workplace.database.folder / SETTINGS
        said = {
            "logging": {"level": "error"},
            "snapshot": {"interval": "24h", "retention": f"{24 * DAYS_BACK}h"},
            "dbs": [
                {
                    "path": str(self._workplace.database.path.resolve()),
                    "replica": {"url": self._to.address(term.stream)},
                }
            ],
        }
        file.write_text(json.dumps(said), "utf-8")
        return file

    def _stream(self, term: Term) -> None:
        running = self._process is not None and self._process.poll() is None
        if running or time.monotonic() - self._begun < AGAIN_SECONDS:
            return
        self._begun = time.monotonic()
        self._process = subprocess.Popen(
            [program(), "replicate", "-config", str(self._settings(term))],
            stdin=subprocess.DEVNULL,
        )

    def _end_stream(self) -> bool:
        """Whether there was one."""
        process, self._process = self._process, None
        if process is None:
            return False
        process.terminate()
        process.wait(timeout=15)
        return True

    def _copy_files(self) -> None:
        """Every kept file that is not in the copy yet, under its digest."""
        if self._copied is None:
            self._copied = self._to.names("files")
        for file in self._workplace.database.files.glob("[0-9a-f]*"):
            if file.name not in self._copied:
                self._to.put(f"files/{file.name}", file)
                self._copied.add(file.name)

    def _behind(self, term: Term) -> str | None:
        """Compare how far the stream has come there with how far it is here: the copy is as of the last
        look whose state has arrived."""
        path = self._workplace.database.path
        here = terms.position(
            file.name for file in path.with_name(f".{STORE}-litestream").rglob("*.ltx")
        )
        there = terms.position(self._to.names(term.stream))
        if here:
            self._seen.append((int(time.time()), here))
        arrived = [at for at, position in self._seen if position <= there]
        self._at = arrived[-1] if arrived else self._at
        if self._process is not None and self._process.poll() is not None:
            return "The streaming program ended, and is begun again."
        late = bool(self._seen) and not arrived and len(self._seen) == self._seen.maxlen
        return f"Nothing arrives at {self._to}." if late else None

    def _say(self, problem: str | None) -> None:
        before = copy_state(self._workplace)
        at = self._at if self._at is not None or before is None else before.at
        state = CopyState(str(self._to), at, len(self._copied or ()), problem)
        kept = self._workplace.database.folder / STATE
        part = kept.with_name(f".{STATE}.part")
        part.write_text(json.dumps(state._asdict()), "utf-8")
        part.replace(kept)


def copier_of(
    workplace: Workplace, named: Mapping[str, str], lease: Lease | None = None
) -> Copier | None:
    """As CORKPOST_COPY_TO and CORKPOST_HALT_AFTER say; None where no place is named. Raises Refusal."""
    to, after = named.get("CORKPOST_COPY_TO"), named.get("CORKPOST_HALT_AFTER")
    return Copier(workplace, place_of(to), float(after) if after else None, lease) if to else None


def copy_state(workplace: Workplace) -> CopyState | None:
    """How the copies go; None where none were ever asked for."""
    kept = workplace.database.folder / STATE
    try:
        return CopyState(**json.loads(kept.read_text("utf-8")))
    except (FileNotFoundError, ValueError, TypeError):
        return None


def restore_from(place: Place, folder: Path, at: datetime | None = None) -> dict[str, str]:
    """Bring the copy at a place back into a data folder without a practice, as it was last, or at a moment
    of universal time. The ends of its chains. Raises NoBackup and NotReached."""
    store.refuse_used(folder)
    term = terms.last_streamed(place, at.timestamp() if at else None)
    if term is None:
        raise NoBackup(f"There is no copy at {place} to bring back.")
    folder.mkdir(parents=True, exist_ok=True)
    staging = folder / f".corkpost-copy-{int(time.time())}"
    staging.mkdir()
    try:
        words = ["-timestamp", at.strftime("%Y-%m-%dT%H:%M:%SZ")] if at else []
        found = subprocess.run(
            [program(), "restore", *words, "-o", str(staging / STORE), place.address(term.stream)],
            capture_output=True,
            text=True,
            check=False,
        )
        if found.returncode or not (staging / STORE).exists():
            said = (found.stderr or found.stdout).strip().splitlines()
            raise NoBackup(
                f"There is no copy at {place} to bring back: {said[-1] if said else 'none'}."
            )
        fetch_files(place, staging)
        return put_back(staging, folder)
    finally:
        shutil.rmtree(staging, ignore_errors=True)


def fetch_files(place: Place, staging: Path) -> None:
    """The kept files that are not here yet. Raises NotReached."""
    files = staging / "files"
    files.mkdir(parents=True, exist_ok=True)
    for name in place.names("files"):
        if not (files / name).exists():
            part = files / f".{name}.part"
            place.get(f"files/{name}", part)
            put_in_place(part, files / name)


def put_back(staging: Path, folder: Path) -> dict[str, str]:
    """Put a copy that was fetched in its place, once all of it proves. The ends of its chains. Raises
    NoBackup."""
    faults = faults_of(staging)
    if faults:
        raise NoBackup(f"The copy is damaged: {faults[0]}. Nothing was brought back.")
    (folder / "files").mkdir(exist_ok=True)
    for file in sorted((staging / "files").glob("*")):
        put_in_place(file, folder / "files" / file.name)
    put_in_place(staging / STORE, folder / STORE)
    workplace = Workplace(folder)
    try:
        return store.verify(workplace).heads
    finally:
        workplace.close()
