"""The files of a books folder, from a folder or a zip, never from outside of it."""

import io
import stat
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path, PurePosixPath
from typing import IO, Protocol

from corkpost.core.refusals import Refusal

MOST_UNPACKED = 512 * 1024 * 1024
DESCRIPTOR = "datapackage.json"


class UnreadableBooks(Refusal):
    title = "These books can't be read"


class Archive(Protocol):
    """Files by their path inside the folder."""

    def has(self, path: str) -> bool: ...

    def open(self, path: str) -> IO[bytes]: ...


class Folder:
    """A folder on disk. A link that leads out of it counts as not there."""

    def __init__(self, root: Path) -> None:
        self._root = root.resolve()

    def _inside(self, path: str) -> Path | None:
        file = (self._root / path).resolve()
        return file if file.is_file() and file.is_relative_to(self._root) else None

    def has(self, path: str) -> bool:
        return self._inside(path) is not None

    def open(self, path: str) -> IO[bytes]:
        file = self._inside(path)
        if file is None:
            raise FileNotFoundError(path)
        return file.open("rb")


class Zip:
    """A zip, read in place; the books may stand in one folder inside it."""

    def __init__(self, archive: zipfile.ZipFile) -> None:
        self._archive = archive
        self._members = {}
        unpacked = 0
        for info in archive.infolist():
            unpacked += info.file_size
            if unpacked > MOST_UNPACKED:
                raise UnreadableBooks(
                    "The archive unpacks to more than 512 MB. Take the books in as a folder."
                )
            if PurePosixPath(info.filename).is_absolute() or ".." in info.filename.split("/"):
                raise UnreadableBooks(
                    f"The archive has a path that leaves the folder: {info.filename!r}."
                )
            if info.flag_bits & 1:
                raise UnreadableBooks("The archive is encrypted. Make it again without a password.")
            if not info.is_dir() and not stat.S_ISLNK(info.external_attr >> 16):
                self._members[info.filename] = info
        descriptors = [name for name in self._members if PurePosixPath(name).name == DESCRIPTOR]
        shallowest = min(descriptors, key=lambda name: (name.count("/"), name), default=DESCRIPTOR)
        self._prefix = shallowest.removesuffix(DESCRIPTOR)

    def has(self, path: str) -> bool:
        return self._prefix + path in self._members

    def open(self, path: str) -> IO[bytes]:
        info = self._members[self._prefix + path]
        with self._archive.open(info) as member:
            # The size in the directory may lie: never unpack more than it says.
            content = member.read(info.file_size + 1)
        if len(content) > info.file_size:
            raise UnreadableBooks(f"The archive is damaged at {path}.")
        return io.BytesIO(content)


@contextmanager
def opened(path: Path) -> Iterator[Archive]:
    """The books at *path*, a folder or a zip. Raises UnreadableBooks."""
    if path.is_dir():
        yield Folder(path)
        return
    if not path.is_file():
        raise UnreadableBooks(f"There is no folder or zip at {path}.")
    try:
        with zipfile.ZipFile(path) as archive:
            yield Zip(archive)
    except (zipfile.BadZipFile, NotImplementedError, EOFError) as wrong:
        raise UnreadableBooks(f"{path.name} is neither a folder nor a readable zip.") from wrong
