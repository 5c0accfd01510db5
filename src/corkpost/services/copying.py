"""Copies elsewhere as the practice is worked on: the store streamed by Litestream, kept files beside it.

A place is a folder, best on another machine's disk (`/mnt/elsewhere/practice`), or its `file://` address.
What is acknowledged is in the copy about a second later; what comes back is proved before it is used.
"""

import json
import shutil
import subprocess
import sys
import threading
import time
from datetime import datetime
from pathlib import Path
from typing import NamedTuple
from urllib.parse import unquote, urlsplit

from corkpost.core.refusals import Refusal
from corkpost.services import store
from corkpost.services.store import NoBackup, faults_of, put_in_place
from corkpost.services.workplace import Workplace
from corkpost.store.database import STORE

EVERY_SECONDS = 1.0
AGAIN_SECONDS = 5.0
STATE = "copying.json"


class CopyState(NamedTuple):
    """*at*: when the copy was last whole, in seconds since 1970; None before it ever was. *files*: kept
    files in it. *problem*: why it does not go on, in words."""

    to: str
    at: int | None
    files: int
    problem: str | None


def place_of(address: str) -> Path:
    """The folder that an address names. Raises Refusal for a place that can't be copied to."""
    split = urlsplit(address)
    if split.scheme in ("", "file"):
        return Path(unquote(split.path or address))
    raise Refusal(
        f"{address} is no folder. Copies go to a folder: mount the other machine's disk, and name it."
    )


def _program() -> str:
    """The program that streams the store; it is installed beside this one."""
    beside = Path(sys.executable).with_name("litestream")
    return str(beside) if beside.exists() else "litestream"


class Copier:
    """Copies a practice to a place for as long as it is served."""

    def __init__(self, workplace: Workplace, to: Path) -> None:
        self._workplace, self._to = workplace, to
        self._stopped = threading.Event()
        self._thread = threading.Thread(target=self._run, name="copies", daemon=True)
        self._process: subprocess.Popen[bytes] | None = None
        self._problem: str | None = None
        self._begun = 0.0

    def start(self) -> None:
        (self._to / "files").mkdir(parents=True, exist_ok=True)
        self._thread.start()

    def stop(self) -> None:
        """Let the last of it go out, and end."""
        self._stopped.set()
        self._thread.join(timeout=15)
        if self._process is not None and self._process.poll() is None:
            self._process.terminate()
            self._process.wait(timeout=15)

    def _run(self) -> None:
        while not self._stopped.is_set():
            try:
                self._stream()
                self.copy_files()
                self._problem = self._ended()
            except OSError as wrong:
                self._problem = f"{self._to} can't be written to: {wrong.strerror}"
            self._say()
            self._stopped.wait(EVERY_SECONDS)

    def _stream(self) -> None:
        running = self._process is not None and self._process.poll() is None
        if running or time.monotonic() - self._begun < AGAIN_SECONDS:
            return
        self._begun = time.monotonic()
        where = (self._to / "store").resolve().as_uri()
        self._process = subprocess.Popen(
            [
                _program(),
                "replicate",
                "-log-level",
                "error",
                str(self._workplace.database.path),
                where,
            ],
            stdin=subprocess.DEVNULL,
        )

    def _ended(self) -> str | None:
        if self._process is None or self._process.poll() is None:
            return None
        return "the streaming program ended, and is begun again"

    def copy_files(self) -> None:
        """Every kept file that is not in the copy yet, under its digest."""
        for file in self._workplace.database.files.glob("[0-9a-f]*"):
            there = self._to / "files" / file.name
            if not there.exists():
                part = there.with_name(f".{file.name}.part")
                shutil.copyfile(file, part)
                put_in_place(part, there)

    def _say(self) -> None:
        state = CopyState(
            str(self._to),
            int(time.time()) if self._problem is None else None,
            sum(1 for _ in (self._to / "files").glob("[0-9a-f]*")) if self._to.exists() else 0,
            self._problem,
        )
        before = copy_state(self._workplace)
        if state.at is None and before is not None:
            state = state._replace(at=before.at)
        kept = self._workplace.database.folder / STATE
        part = kept.with_name(f".{STATE}.part")
        part.write_text(json.dumps(state._asdict()), "utf-8")
        part.replace(kept)


def copy_state(workplace: Workplace) -> CopyState | None:
    """How the copies go; None where none were ever asked for."""
    kept = workplace.database.folder / STATE
    try:
        return CopyState(**json.loads(kept.read_text("utf-8")))
    except (FileNotFoundError, ValueError, TypeError):
        return None


def restore_from(place: Path, folder: Path, at: datetime | None = None) -> dict[str, str]:
    """Bring the copy at a place back into a data folder without a practice, as it was last, or at a moment
    of universal time. The ends of its chains. Raises NoBackup."""
    store.refuse_used(folder)
    folder.mkdir(parents=True, exist_ok=True)
    staging = folder / f".corkpost-copy-{int(time.time())}"
    staging.mkdir()
    try:
        words = ["-timestamp", at.strftime("%Y-%m-%dT%H:%M:%SZ")] if at else []
        where = (place / "store").resolve().as_uri()
        found = subprocess.run(
            [_program(), "restore", *words, "-o", str(staging / STORE), where],
            capture_output=True,
            text=True,
            check=False,
        )
        if found.returncode or not (staging / STORE).exists():
            said = (found.stderr or found.stdout).strip().splitlines()
            raise NoBackup(
                f"There is no copy at {place} to bring back: {said[-1] if said else 'none'}."
            )
        (staging / "files").mkdir()
        for file in (place / "files").glob("[0-9a-f]*"):
            shutil.copyfile(file, staging / "files" / file.name)
        faults = faults_of(staging)
        if faults:
            raise NoBackup(f"The copy is damaged: {faults[0]}. Nothing was brought back.")
        for file in sorted((staging / "files").glob("*")):
            (folder / "files").mkdir(exist_ok=True)
            put_in_place(file, folder / "files" / file.name)
        put_in_place(staging / STORE, folder / STORE)
    finally:
        shutil.rmtree(staging, ignore_errors=True)
    workplace = Workplace(folder)
    try:
        return store.verify(workplace).heads
    finally:
        workplace.close()
