"""The practice's one SQLite file: connections, migrations, the write transaction."""

import os
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from importlib import resources
from pathlib import Path

from corkpost.core.refusals import Refusal
from corkpost.store import witness

STORE = "practice.sqlite3"
BUSY_MILLISECONDS = 10_000
HALTED = "halted"
"""While a file of this name is in the data folder nothing is written to the store; it says why."""


class Unreadable(Refusal):
    title = "The store can't be opened"


class Busy(sqlite3.OperationalError):
    """Somebody else is writing, and did not end in time."""


class Halted(Refusal):
    title = "Nothing is written here"


class Database:
    """The store in a data folder. Each thread has its own connection; one writes at a time."""

    def __init__(self, folder: Path) -> None:
        try:
            folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        except OSError as wrong:
            raise Unreadable(
                f"{folder} can't be made: {wrong.strerror}. Name a folder of yours."
            ) from wrong
        self.folder = folder
        self.path = folder / STORE
        self._threads = threading.local()
        self._opened: list[sqlite3.Connection] = []
        self._writer = threading.Lock()
        self._migrate()

    @property
    def files(self) -> Path:
        """Where statements and papers are kept, each under its SHA-256."""
        return self.folder / "files"

    @property
    def reading(self) -> sqlite3.Connection:
        """This thread's connection. Outside `writing` nothing is written on it."""
        found: sqlite3.Connection | None = getattr(self._threads, "connection", None)
        if found is None:
            found = self._threads.connection = connect(self.path)
            self._opened.append(found)
        return found

    @property
    def form(self) -> int:
        """The number of the last migration that this store has had."""
        return int(self.reading.execute("PRAGMA user_version").fetchone()[0])

    @contextmanager
    def writing(self, patience: int = BUSY_MILLISECONDS) -> Iterator[sqlite3.Connection]:
        """One write transaction: committed whole at the end, or rolled back whole on any error. Raises Busy
        where others write for longer than *patience*, in milliseconds; Halted."""
        self.must_go_on()
        connection = self.reading
        # Threads wait here for each other, and are woken at once; SQLite would have them look again and
        # again, ever more seldom. Other processes it has wait in its way.
        if not self._writer.acquire(timeout=patience / 1000):
            raise Busy("database is locked")
        try:
            _begin(connection, patience)
            try:
                yield connection
            except BaseException:
                connection.execute("ROLLBACK")
                raise
            try:
                connection.execute("COMMIT")
            except BaseException:
                # A deferred key that fails at commit leaves the transaction open.
                connection.execute("ROLLBACK")
                raise
        finally:
            self._writer.release()
        self._threads.commits = self.commits + 1

    def halt(self, why: str) -> None:
        """Let no process write to the store from now on."""
        part = self.folder / f".{HALTED}.part"
        part.write_text(why, "utf-8")
        part.replace(self.folder / HALTED)

    def go_on(self) -> None:
        """Let them write again."""
        (self.folder / HALTED).unlink(missing_ok=True)

    def must_go_on(self) -> None:
        """Raises Halted while nothing may be written."""
        try:
            why = (self.folder / HALTED).read_text("utf-8")
        except FileNotFoundError:
            return
        raise Halted(why)

    @property
    def commits(self) -> int:
        """How often this thread has committed: whether something was written is seen by it."""
        found: int = getattr(self._threads, "commits", 0)
        return found

    @contextmanager
    def snapshot(self) -> Iterator[sqlite3.Connection]:
        """Several reads of one state of the store."""
        connection = self.reading
        if connection.in_transaction:
            yield connection
            return
        connection.execute("BEGIN")
        try:
            yield connection
        finally:
            connection.execute("ROLLBACK")

    def close(self) -> None:
        for connection in self._opened:
            connection.close()
        self._opened.clear()
        self._threads = threading.local()

    def _migrate(self) -> None:
        if not os.access(self.folder, os.W_OK):
            raise Unreadable(f"{self.folder} can't be written to: it belongs to somebody else.")
        try:
            connection = connect(self.path)
        except sqlite3.DatabaseError as wrong:
            raise Unreadable(f"{self.path} is no practice of Cork Post: {wrong}.") from wrong
        try:
            apply_migrations(connection)
        finally:
            connection.close()


def _begin(connection: sqlite3.Connection, patience: int) -> None:
    connection.execute(f"PRAGMA busy_timeout = {patience}")
    try:
        connection.execute("BEGIN IMMEDIATE")
    except sqlite3.OperationalError as wrong:
        if wrong.sqlite_errorcode == sqlite3.SQLITE_BUSY:
            raise Busy(str(wrong)) from wrong
        raise
    finally:
        connection.execute(f"PRAGMA busy_timeout = {BUSY_MILLISECONDS}")


def connect(path: Path) -> sqlite3.Connection:
    """A connection with the settings that the store relies on."""
    connection = sqlite3.connect(path, isolation_level=None, check_same_thread=False)
    connection.execute(f"PRAGMA busy_timeout = {BUSY_MILLISECONDS}")
    connection.execute("PRAGMA journal_mode = WAL")
    connection.execute("PRAGMA synchronous = FULL")
    connection.execute("PRAGMA foreign_keys = ON")
    # In kilobytes, for each thread's connection: books are held in memory, and read from here once.
    connection.execute("PRAGMA cache_size = -16000")
    connection.create_function("sha256", 1, witness.sha256, deterministic=True)
    return connection


def apply_migrations(connection: sqlite3.Connection) -> None:
    """Bring the schema up to date: the numbered files that it has not had yet, in order.

    Raises Unreadable for a store that a newer program made.
    """
    folder = resources.files("corkpost.store") / "migrations"
    scripts = sorted((f for f in folder.iterdir() if f.name.endswith(".sql")), key=lambda f: f.name)
    # Most often there is nothing to do: then nobody waits for who writes.
    if connection.execute("PRAGMA user_version").fetchone()[0] == len(scripts):
        return
    connection.execute("BEGIN IMMEDIATE")
    try:
        had = connection.execute("PRAGMA user_version").fetchone()[0]
        if had > len(scripts):
            raise Unreadable("This practice was kept by a newer Cork Post. Use that one.")
        for number, script in enumerate(scripts[had:], had + 1):
            for statement in statements_of(script.read_text("utf-8")):
                connection.execute(statement)
            connection.execute(f"PRAGMA user_version = {number}")
        if had < len(scripts):
            witness.install(connection)
        connection.execute("COMMIT")
    except BaseException:
        connection.execute("ROLLBACK")
        raise


def statements_of(script: str) -> Iterator[str]:
    """The statements of a script one by one: `executescript` would commit between them."""
    statement = ""
    for line in script.splitlines(keepends=True):
        statement += line
        if sqlite3.complete_statement(statement):
            yield statement
            statement = ""


def new_store() -> sqlite3.Connection:
    """A new store in memory: what the tables, indexes and triggers of each must be."""
    connection = sqlite3.connect(":memory:", isolation_level=None)
    connection.create_function("sha256", 1, witness.sha256, deterministic=True)
    apply_migrations(connection)
    return connection
