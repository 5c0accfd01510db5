"""The store as a whole: proving it, copying it while it runs, bringing a copy back."""

import hashlib
import json
import os
import re
import shutil
import sqlite3
import tarfile
import tempfile
import time
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import NamedTuple

from corkpost.core.change import over_allocated
from corkpost.core.refusals import Refusal
from corkpost.core.seal_forms import seal_digest
from corkpost.services.locking import is_locked, lock, unlock
from corkpost.services.workplace import Workplace
from corkpost.store import record as record_store
from corkpost.store import verify as proof
from corkpost.store import witness as witness_store
from corkpost.store.books import load_books
from corkpost.store.changes import changes_of
from corkpost.store.clients import ClientRow, all_clients
from corkpost.store.database import STORE, connect, new_store
from corkpost.store.papers import copies_of, incoming_of
from corkpost.store.queries import queries_of, unsorted_of
from corkpost.store.sign_off import seals_of


class Broken(NamedTuple):
    """Something that does not prove. *client* None: it concerns the whole store. *is_seal*: the books moved
    under what was signed; nothing is damaged by it."""

    client: str | None
    what: str
    is_seal: bool = False


class Verified(NamedTuple):
    """What was looked at, and what is broken. *heads*: the end of each client's chain; *record*: of what
    people did; *witness*: of what was decided, signed and set. *not_covered*: what may be altered without
    being found out."""

    clients: int
    changes: int
    transactions: int
    heads: dict[str, str]
    broken: tuple[Broken, ...]
    record: str = ""
    witness: str = ""
    not_covered: tuple[str, ...] = ()


def verify(workplace: Workplace) -> Verified:
    """Prove the store: the file, its triggers, the digest chains, what was witnessed, balances,
    allocations, seals, kept files. A store so damaged that it can't be read through is said to be so."""
    try:
        return _verified(workplace)
    except sqlite3.DatabaseError as wrong:
        what = f"the file is damaged and can't be read through ({wrong}): bring back a copy"
        return Verified(0, 0, 0, {}, (Broken(None, what),))


def _verified(workplace: Workplace) -> Verified:
    broken = [Broken(None, what) for what in _store_faults(workplace.database.reading)]
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
                broken += _book_faults(workplace, client)
            except Exception as wrong:
                broken.append(Broken(client.code, f"the books can't be read: {wrong!r}"))
        broken_at = record_store.broken_at(connection)
        if broken_at is not None:
            broken.append(
                Broken(None, f"the record was altered: row {broken_at} is not as written")
            )
        broken += [Broken(None, what) for what in witness_store.faults(connection)]
        record, witness = (
            " ".join(map(str, chain.head(connection))) for chain in (record_store, witness_store)
        )
    broken += [Broken(None, what) for what in _strays(workplace.database.files)]
    not_covered = tuple(sorted(set(witness_store.NOT_COVERED.values())))
    return Verified(
        len(heads), changes, transactions, heads, tuple(broken), record, witness, not_covered
    )


def _store_faults(connection: sqlite3.Connection) -> Iterator[str]:
    yield from proof.file_faults(connection)
    fresh = new_store()
    try:
        yield from witness_store.schema_faults(connection, fresh)
    finally:
        fresh.close()


def _strays(files: Path) -> Iterator[str]:
    """Files among the kept ones that nothing of ours put there: kept files, and parts of them under way."""
    for file in sorted(files.glob("*")):
        if not KEPT_NAME.fullmatch(file.name):
            yield f"a stray file is among the kept ones: {file.name}"


KEPT_NAME = re.compile(r"[0-9a-f]{64}|\.[0-9a-f]{64}\..+\.part")


def missing_since(
    workplace: Workplace, heads: Mapping[str, str], record: str, witness: str
) -> Iterator[Broken]:
    """What is gone of what an earlier proof ended in: *heads* of clients' chains, *record* and *witness* of
    the practice's, as `verify` told them. A chain that was reckoned anew, or cut, shows only so."""
    with workplace.database.snapshot() as connection:
        known = {client.code: client.id for client in all_clients(connection)}
        for code, head in sorted(heads.items()):
            client_id = known.get(code)
            if client_id is None:
                yield Broken(code, "the client is gone")
            elif head not in {row.digest for row in changes_of(connection, client_id)}:
                yield Broken(code, f"its chain does not have the change that ended in {head[:16]}")
        for name, chain, end in (
            ("record", record_store, record),
            ("chain of witnesses", witness_store, witness),
        ):
            number, _, digest = end.partition(" ")
            if (
                number.isdigit()
                and int(number)
                and chain.digest_at(connection, int(number)) != digest
            ):
                yield Broken(None, f"the {name} does not have the row {number} that it ended in")


def _book_faults(workplace: Workplace, client: ClientRow) -> Iterator[Broken]:
    for seal in broken_seals(workplace, client):
        yield Broken(client.code, seal, is_seal=True)
    for what in _faults_in_books(workplace, client):
        yield Broken(client.code, what)


def broken_seals(workplace: Workplace, client: ClientRow) -> Iterator[str]:
    """The seals that the books do not fit any more, in words."""
    books = load_books(workplace.database.reading, client, workplace.today)
    for seal in seals_of(workplace.database.reading, client.id, workplace.today):
        if seal.stands and seal_digest(books, seal.as_at, seal.form) != seal.digest:
            yield f"the seal as at {seal.as_at} is broken: what it covers is not what was signed"


def _faults_in_books(workplace: Workplace, client: ClientRow) -> Iterator[str]:
    books = load_books(workplace.database.reading, client, workplace.today)
    for posted in books.tables.transactions:
        if sum(line.amount for line in posted.lines):
            yield f"{posted.id} does not balance"
    for name in over_allocated(books):
        yield f"more of {name} is allocated than it has"
    kept = {row.digest for row in books.tables.statements}
    kept |= {row.digest for row in books.tables.attachments}
    came = [
        held
        for query in queries_of(workplace.database.reading, client.id)
        for held in query.answers
    ]
    came += unsorted_of(workplace.database.reading, client.id)
    kept |= {file.digest for answer in came for file in answer.files}
    connection = workplace.database.reading
    kept |= {row.digest for row in incoming_of(connection, client.id)}
    kept |= {row.digest for row in copies_of(connection, client.id)}
    kept |= {row.paper for row in books.tables.of("tie_outs") if row.paper}
    for digest in sorted(kept):
        yield from _file_faults(workplace.database.files / digest, digest)


def _file_faults(file: Path, digest: str) -> Iterator[str]:
    if not file.is_file():
        yield f"the kept file {digest[:12]} is missing"
    elif hashlib.sha256(file.read_bytes()).hexdigest() != digest:
        yield f"the kept file {digest[:12]} was altered"


class NoBackup(Refusal):
    title = "The copy can't be used"


CONTENTS = "contents.json"
"""In a copy: the digest of every file in it."""


def backup(workplace: Workplace, to: Path, public_key: str | None = None) -> None:
    """Copy the store and its files into one archive while it runs; locked to a key where one is named.
    Refused where *to* is there, or the key is none."""
    if to.exists():
        raise NoBackup(f"{to} is there already: name a new file, so that no copy is lost.")
    to.parent.mkdir(parents=True, exist_ok=True)
    for left in to.parent.glob(".corkpost-copy-*"):
        # Of a copy that was ended in the midst of it.
        if time.time() - left.stat().st_mtime > LEFT_SECONDS:
            shutil.rmtree(left, ignore_errors=True)
    with tempfile.TemporaryDirectory(dir=to.parent, prefix=".corkpost-copy-") as folder:
        copy = Path(folder) / STORE
        target = sqlite3.connect(copy)
        try:
            workplace.database.reading.backup(target)
        finally:
            target.close()
        members = {STORE: copy}
        for file in sorted(workplace.database.files.glob("[0-9a-f]*")):
            members[f"files/{file.name}"] = file
        part = Path(folder) / "part"
        digests = {name: _digest_of(file) for name, file in members.items()}
        contents = Path(folder) / CONTENTS
        contents.write_text(json.dumps(digests, indent=1), "utf-8")
        with tarfile.open(part, "w:gz", compresslevel=3) as archive:
            archive.add(contents, CONTENTS)
            for name, file in members.items():
                archive.add(file, name)
        if public_key is not None:
            lock(part, public_key, part := part.with_name("locked"))
        put_in_place(part, to)


LEFT_SECONDS = 24 * 3600


def _digest_of(file: Path) -> str:
    with file.open("rb") as content:
        return hashlib.file_digest(content, "sha256").hexdigest()


def put_in_place(part: Path, to: Path) -> None:
    """Rename what was written, once it is on the disk: it is there whole, or not at all."""
    with part.open("rb+") as written:
        os.fsync(written.fileno())
    part.replace(to)
    folder = os.open(to.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)


def refuse_used(folder: Path) -> None:
    """Raise NoBackup where the folder holds a practice, or what is left of one."""
    left = [name for name in (STORE, f"{STORE}-wal", f"{STORE}-shm") if (folder / name).exists()]
    if left:
        raise NoBackup(
            f"{folder} holds a practice already, or what is left of one ({', '.join(left)}). Restore "
            "into a new folder with --data, look at it, "
            "then move it where you want it."
        )


def restore(archive_path: Path, folder: Path, key_file: Path | None = None) -> None:
    """Bring a copy back into a data folder without a practice, once all of it proves. *key_file*: of a copy
    that is locked. Raises NoBackup and WrongKey."""
    refuse_used(folder)
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=folder, prefix=".corkpost-copy-") as staging:
        whole = Path(staging) / "whole"
        whole.mkdir()
        content = archive_path
        try:
            if is_locked(archive_path):
                unlock(archive_path, key_file, content := Path(staging) / "unlocked")
            with tarfile.open(content, "r:gz") as archive:
                archive.extractall(whole, filter="data")
            _refuse_other_contents(archive_path, whole)
            faults = faults_of(whole)
        except (tarfile.TarError, OSError, sqlite3.DatabaseError, EOFError, ValueError) as wrong:
            raise NoBackup(
                f"{archive_path} is no copy that can be brought back: {wrong}"
            ) from wrong
        if faults:
            raise NoBackup(f"The copy is damaged: {faults[0]}. Nothing was brought back.")
        for file in sorted((whole / "files").glob("*")):
            (folder / "files").mkdir(exist_ok=True)
            put_in_place(file, folder / "files" / file.name)
        put_in_place(whole / STORE, folder / STORE)


def _refuse_other_contents(archive_path: Path, whole: Path) -> None:
    """Raise NoBackup where the copy is not what it says that it holds."""
    named = whole / CONTENTS
    digests = json.loads(named.read_text("utf-8")) if named.is_file() else {}
    if STORE not in digests:
        raise NoBackup(
            f"{archive_path} is no copy of a practice: it says nothing of what it holds."
        )
    here = {
        str(file.relative_to(whole)): file
        for file in whole.rglob("*")
        if file.is_file() and file != named
    }
    for name in sorted(digests.keys() ^ here.keys()):
        what = "is missing from it" if name in digests else "does not belong to it"
        raise NoBackup(f"{archive_path} is not whole: {name} {what}.")
    for name, digest in digests.items():
        if _digest_of(here[name]) != digest:
            raise NoBackup(f"{archive_path} was altered: {name} is not what was copied.")


def faults_of(folder: Path) -> list[str]:
    """What does not prove in the copy; a seal that was broken before is no damage of the copy."""
    connection = connect(folder / STORE)
    try:
        version = connection.execute("PRAGMA user_version").fetchone()[0]
        ours = connection.execute("SELECT 1 FROM sqlite_master WHERE name = 'practice'").fetchone()
        if not version or not ours:
            raise NoBackup("It holds a file of another program, and no practice.")
    finally:
        connection.close()
    workplace = Workplace(folder)
    try:
        found = [row.what for row in verify(workplace).broken if not row.is_seal]
        workplace.database.reading.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    finally:
        workplace.close()
    return found
