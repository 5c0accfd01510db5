"""Files that were sent together in a zip."""

import lzma
import shutil
import zipfile
import zlib
from collections.abc import Sequence
from pathlib import Path, PurePosixPath

from corkpost.formats.listings.sheets import Unreadable
from corkpost.formats.workbooks import LARGEST

MOST = 40
"""So many files may be in one zip."""
_BROKEN = (zipfile.BadZipFile, OSError, EOFError, NotImplementedError, zlib.error, lzma.LZMAError)
_OF_WORKBOOKS = frozenset({"[Content_Types].xml", "mimetype"})


def unpacked(paths: Sequence[Path], into: Path) -> list[Path]:
    """The files, with those of each zip in its place, written below *into*; a spreadsheet is no zip. Raises
    Unreadable, which says what to do."""
    found: list[Path] = []
    for place, path in enumerate(paths):
        folder = into / str(place)
        try:
            if not _is_packed(path):
                found.append(path)
                continue
            with zipfile.ZipFile(path) as archive:
                folder.mkdir()
                found += _files_of(archive, path.name, folder)
        except _BROKEN as wrong:
            raise Unreadable(
                f"{path.name} is no whole zip: it may have been cut off. Ask for it once more."
            ) from wrong
    return found


def _is_packed(path: Path) -> bool:
    """Whether it is a zip, and no spreadsheet's file, which is one too."""
    if not zipfile.is_zipfile(path):
        return False
    with zipfile.ZipFile(path) as archive:
        return not _OF_WORKBOOKS & set(archive.namelist())


def _files_of(archive: zipfile.ZipFile, name: str, folder: Path) -> list[Path]:
    parts = [part for part in archive.infolist() if not _is_of_the_system(part)]
    if not parts:
        raise Unreadable(f"{name} has nothing in it.")
    if len(parts) > MOST or sum(part.file_size for part in parts) > LARGEST:
        raise Unreadable(f"{name} holds more than {MOST} files or 512 MB. Send it in parts.")
    if any(part.flag_bits & 1 for part in parts):
        raise Unreadable(
            f"{name} is locked with a password. Save it without one, and take that in."
        )
    found = []
    for part in parts:
        inner = PurePosixPath(part.filename.replace("\\", "/"))
        # Two of one name, from two folders, are told by their folders.
        to = folder / inner.name
        if to.exists():
            to = folder / "_".join(one for one in inner.parts if one not in ("/", "..", "."))
        with archive.open(part) as packed, to.open("xb") as file:
            shutil.copyfileobj(packed, file)
        if _is_packed(to):
            raise Unreadable(
                f"{to.name} in {name} is a zip itself: unpack it, and bring what is in it."
            )
        found.append(to)
    return found


def _is_of_the_system(part: zipfile.ZipInfo) -> bool:
    """A folder, or what a machine lays beside the files."""
    parts = PurePosixPath(part.filename.replace("\\", "/")).parts
    hidden = any(one.strip(".") and one.startswith((".", "__MACOSX")) for one in parts)
    return part.is_dir() or hidden or not parts or parts[-1] in ("Thumbs.db", "desktop.ini")
