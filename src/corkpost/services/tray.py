"""Files that a person brought and that are not taken in yet: each is that person's alone."""

import contextlib
import re
import shutil
import time
import uuid
from collections.abc import Sequence
from pathlib import Path
from typing import IO

from corkpost.core.refusals import Refusal, UnknownName
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace

LARGEST = 256 * 1024 * 1024
MOST = 40
"""So many files lie in one person's tray."""
PIECE = 1024 * 1024
KEPT_SECONDS = 24 * 3600
_ID = re.compile(r"[0-9a-f]{32}")


def keep(workplace: Workplace, person: Person, name: str, content: IO[bytes]) -> str:
    """Lay a file in the tray; its name there. Raises Refusal where it is empty or too large."""
    person.must_be_allowed(May.TAKE_IN)
    _clear(workplace)
    mine = list(_tray(workplace).glob(f"{person.code}.*"))
    if len(mine) >= MOST:
        raise Refusal(
            f"{MOST} files wait to be taken in. Take them in first, or leave them for a day."
        )
    name_there = uuid.uuid4().hex
    folder = _tray(workplace) / f"{person.code}.{name_there}"
    folder.mkdir(parents=True)
    size = 0
    try:
        with (folder / _safe(name)).open("wb") as file:
            while piece := content.read(PIECE):
                size += len(piece)
                if size > LARGEST:
                    raise Refusal(f"{name} is over 256 MB. Take it in by the command line.")
                file.write(piece)
        if not size:
            raise Refusal(f"{name} is empty. Ask for it once more.")
    except BaseException:
        shutil.rmtree(folder, ignore_errors=True)
        raise
    return name_there


def files(workplace: Workplace, person: Person, names: Sequence[str]) -> list[Path]:
    """Where these files lie. Raises UnknownName for one that is not there, or is another's."""
    return [_file(workplace, person, name) for name in names]


def clear(workplace: Workplace, person: Person, names: Sequence[str]) -> None:
    """Take files out of the tray that were taken in."""
    for name in names:
        shutil.rmtree(_tray(workplace) / f"{person.code}.{name}", ignore_errors=True)


def _file(workplace: Workplace, person: Person, name: str) -> Path:
    folder = _tray(workplace) / f"{person.code}.{name}"
    found = list(folder.iterdir()) if _ID.fullmatch(name) and folder.is_dir() else []
    if len(found) != 1:
        raise UnknownName("file", name)
    return found[0]


def _tray(workplace: Workplace) -> Path:
    return workplace.database.folder / "uploads" / "tray"


def _safe(name: str) -> str:
    """The file's own name, without what would lead elsewhere."""
    bare = re.sub(r"[\x00-\x1f/\\:]", "_", name).strip(". ")[-120:]
    return bare or "file"


def _clear(workplace: Workplace) -> None:
    oldest = time.time() - KEPT_SECONDS
    for folder in _tray(workplace).glob("*.*"):
        with contextlib.suppress(FileNotFoundError):
            if folder.stat().st_mtime < oldest:
                shutil.rmtree(folder, ignore_errors=True)
