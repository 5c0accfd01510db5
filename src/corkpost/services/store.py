"""The store as a whole: proving it, copying it while it runs, bringing a copy back."""

import hashlib
import shutil
import sqlite3
import tarfile
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

from corkpost.core.change import over_allocated
from corkpost.core.refusals import Refusal
from corkpost.core.seal_forms import seal_digest
from corkpost.services.workplace import Workplace
from corkpost.store import verify as proof
from corkpost.store.books import load_books
from corkpost.store.clients import ClientRow, all_clients
from corkpost.store.database import STORE, connect
from corkpost.store.queries import queries_of, unsorted_of
from corkpost.store.sign_off import seals_of


class Broken(NamedTuple):
    """Something that does not prove. *client* None: it concerns the whole store."""

    client: str | None
    what: str


class Verified(NamedTuple):
    """What was looked at, and what is broken. *heads*: the end of each client's chain."""

    clients: int
    changes: int
    transactions: int
    heads: dict[str, str]
    broken: tuple[Broken, ...]


def verify(workplace: Workplace) -> Verified:
    """Prove the store: the file, the digest chains, balances, allocations, seals, kept files."""
    broken = [Broken(None, what) for what in proof.file_faults(workplace.database.reading)]
    changes = transactions = 0
    heads = {}
    with workplace.database.snapshot() as connection:
        for client in all_clients(connection):
            chain = proof.prove_chain(connection, client.id)
            changes += chain.changes
            transactions += chain.transactions
            heads[client.code] = chain.head
            broken += [Broken(client.code, what) for what in chain.faults]
            # Books that can't even be read are broken too: said, and the rest proved all the same.
            try:
                broken += [Broken(client.code, what) for what in _book_faults(workplace, client)]
            except Exception as wrong:
                broken.append(Broken(client.code, f"the books can't be read: {wrong!r}"))
        count = len(heads)
    return Verified(count, changes, transactions, heads, tuple(broken))


def _book_faults(workplace: Workplace, client: ClientRow) -> Iterator[str]:
    books = load_books(workplace.database.reading, client, workplace.today)
    for posted in books.tables.transactions:
        if sum(line.amount for line in posted.lines):
            yield f"{posted.id} does not balance"
    for name in over_allocated(books):
        yield f"more of {name} is allocated than it has"
    for seal in seals_of(workplace.database.reading, client.id, workplace.today):
        if seal.stands and seal_digest(books, seal.as_at, seal.form) != seal.digest:
            yield f"the seal as at {seal.as_at} is broken: what it covers is not what was signed"
    kept = {row.digest for row in books.tables.statements}
    kept |= {row.digest for row in books.tables.attachments}
    came = [
        held
        for query in queries_of(workplace.database.reading, client.id)
        for held in query.answers
    ]
    came += unsorted_of(workplace.database.reading, client.id)
    kept |= {file.digest for answer in came for file in answer.files}
    for digest in sorted(kept):
        yield from _file_faults(workplace.database.files / digest, digest)


def _file_faults(file: Path, digest: str) -> Iterator[str]:
    if not file.is_file():
        yield f"the kept file {digest[:12]} is missing"
    elif hashlib.sha256(file.read_bytes()).hexdigest() != digest:
        yield f"the kept file {digest[:12]} was altered"


class NoBackup(Refusal):
    title = "The copy can't be used"


def backup(workplace: Workplace, to: Path) -> None:
    """Copy the store and its files into one archive while it runs. Refused where *to* is there."""
    if to.exists():
        raise NoBackup(f"{to} is there already: name a new file, so that no copy is lost.")
    to.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=to.parent) as folder:
        copy = Path(folder) / STORE
        target = sqlite3.connect(copy)
        try:
            workplace.database.reading.backup(target)
        finally:
            target.close()
        part = Path(folder) / "part"
        with tarfile.open(part, "w:gz", compresslevel=3) as archive:
            archive.add(copy, STORE)
            for file in sorted(workplace.database.files.glob("[0-9a-f]*")):
                archive.add(file, f"files/{file.name}")
        part.replace(to)


def restore(archive_path: Path, folder: Path) -> None:
    """Bring a copy back into a data folder that holds no practice. Raises NoBackup."""
    if (folder / STORE).exists():
        raise NoBackup(
            f"{folder} holds a practice already. Restore into a new folder with --data, look at it, "
            "then move it where you want it."
        )
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=folder) as staging:
        try:
            with tarfile.open(archive_path, "r:gz") as archive:
                archive.extractall(staging, filter="data")
            connection = connect(Path(staging) / STORE)
            try:
                faults = proof.file_faults(connection)
                connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            finally:
                connection.close()
        except (tarfile.TarError, OSError, sqlite3.DatabaseError, EOFError) as wrong:
            raise NoBackup(
                f"{archive_path} is no copy that can be brought back: {wrong}"
            ) from wrong
        if faults:
            raise NoBackup(f"The copy is damaged: {faults[0]}.")
        if (Path(staging) / "files").exists():
            shutil.copytree(Path(staging) / "files", folder / "files", dirs_exist_ok=True)
        (Path(staging) / STORE).replace(folder / STORE)
