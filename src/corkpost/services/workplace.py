"""The workplace: the store, the date that the work is done on, and the books last looked at."""

import gc
import hashlib
import json
import os
import threading
import time
from collections import OrderedDict, deque
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime
from functools import cached_property
from pathlib import Path
from typing import Any, NamedTuple

from corkpost.core import row_kinds
from corkpost.core.amendments import with_chart
from corkpost.core.books import (
    Account,
    Allocation,
    Books,
    Party,
    Transaction,
)
from corkpost.core.checks import run_checks
from corkpost.core.evidence.private_words import left_as_business
from corkpost.core.formatting import format_date
from corkpost.core.kinds import PeriodState
from corkpost.core.open_items import OpenItems
from corkpost.core.periods import PostingWindow
from corkpost.core.points import CheckRun, Point, PointState
from corkpost.core.queries import Query
from corkpost.core.refusals import NotAllowed, UnknownName
from corkpost.core.row_kinds import facts_set
from corkpost.core.seal_forms import seal_digest
from corkpost.core.states import Decision
from corkpost.services.mail import Mail
from corkpost.services.rights import May, Person
from corkpost.store import clients as client_store
from corkpost.store.books import load_books
from corkpost.store.changes import changes_of
from corkpost.store.clients import ClientRow
from corkpost.store.database import Database
from corkpost.store.kept_points import kept_points
from corkpost.store.periods import windows_of
from corkpost.store.queries import queries_of
from corkpost.store.record import Event
from corkpost.store.review import decisions_of
from corkpost.store.sign_off import SealRow, seals_of

MOST_LEDGERS = 24
FEW_TRANSACTIONS = 5_000
"""Of so many all checks are run in a third of a second."""
MOST_TRANSACTIONS = 300_000
"""In all the books that are held: of large clients fewer are held than of small ones."""


@contextmanager
def collector_resting() -> Iterator[None]:
    """A hundred thousand values arrive that hold no cycle: looking through all of them again and
    again while they come costs more than reading them."""
    was_on = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_on:
            gc.enable()


def _passed_over_by_the_collector() -> None:
    """Books that were read live long and hold no cycle: the collector need not look at them. What is
    garbage at this moment is taken away first, or it would stay for ever."""
    gc.collect()
    gc.freeze()


@dataclass(frozen=True)
class ClientState:
    """A client's books at one revision, with what was worked out from them so far."""

    client: ClientRow
    books: Books
    decisions: dict[str, Decision]
    seals: tuple[SealRow, ...]
    today: date
    queries: tuple[Query, ...] = ()
    windows: tuple[PostingWindow, ...] = ()
    """In which one person may post where others may not."""
    kept_points: tuple[Point, ...] | None = None
    """What the checks found at this revision and day, where that was kept in the store."""
    read_at: float = field(default_factory=time.monotonic, compare=False, repr=False)
    """When it was read, by the clock of `time.monotonic`."""
    _runs: list[tuple[Point, ...]] = field(default_factory=list, compare=False, repr=False)
    _running: threading.Lock = field(default_factory=threading.Lock, compare=False, repr=False)

    @cached_property
    def check_run(self) -> CheckRun:
        left = {
            point: json.loads(decision.seen)
            for point, decision in self.decisions.items()
            if decision.state is PointState.LEFT
        }
        business = left_as_business((seen["check"], seen["subjects"]) for seen in left.values())
        return CheckRun(self.books, self.today, business, frozenset(left))

    @property
    def items(self) -> OpenItems:
        return self.check_run.items

    @property
    def points(self) -> tuple[Point, ...]:
        """What the checks find now, whatever was decided about it."""
        return self.checked() if self.kept_points is None else self.kept_points

    @property
    def has_run(self) -> bool:
        """Whether the checks were run on these very books, so that the next run goes on from them."""
        return bool(self._runs)

    @property
    def goes_on(self) -> bool:
        """Whether a run of these books would go on from one of those before them."""
        return bool(self.books.kept.latest("checks were run"))

    @property
    def knows_points(self) -> bool:
        """Whether the points are there without a run of all checks."""
        return self.kept_points is not None or self.has_run

    def checked(self) -> tuple[Point, ...]:
        """What a run of all checks finds; a second one waits for the first and takes what it found."""
        with self._running:
            if not self._runs:
                goes_on = self.goes_on
                with collector_resting():
                    self._runs.append(run_checks(self.check_run))
                self.books.kept.put("checks were run", True)
                if not goes_on:
                    _passed_over_by_the_collector()
            return self._runs[0]

    def seen_by(self, staff: str) -> "ClientState":
        """The same books as that person may post in them: with the window that they have, if they do."""
        window = next((window for window in self.windows if window.staff == staff), None)
        if window is None or not self.books.calendar.states:
            return self
        calendar = self.books.calendar.with_window(window)
        return replace(
            self, books=self.books.followed_by(calendar=calendar), kept_points=self.points
        )

    def refuse_outside_window(self, staff: str, days: Iterable[date]) -> None:
        """Raises NotAllowed for a day that the person's window opened with its period and does not hold."""
        window = next((window for window in self.windows if window.staff == staff), None)
        for day in days if window else ():
            if window and not window.holds(day) and self._is_closed(day):
                raise NotAllowed(
                    f"{format_date(day)} is outside of the window that {staff} has: "
                    f"{format_date(window.first_day)} to {format_date(window.last_day)}."
                )

    def _is_closed(self, day: date) -> bool:
        return self.books.calendar.state_on(day) is not PeriodState.OPEN

    def without_bars(self) -> "ClientState":
        """The same books as if nobody had barred a period, for making a plan that has one opened."""
        calendar = self.books.calendar.without_bars()
        # What the checks found is not another thing for that, and takes a while to find.
        return replace(
            self, books=self.books.followed_by(calendar=calendar), kept_points=self.points
        )

    @cached_property
    def broken_seals(self) -> frozenset[int]:
        """The numbers of the standing seals whose digest the books no longer fit."""
        return frozenset(
            seal.number
            for seal in self.seals
            if seal.stands and seal_digest(self.books, seal.as_at, seal.form) != seal.digest
        )


class Posted(NamedTuple):
    """A posted change, with its rows under their lasting ids."""

    number: int
    entries: tuple[Transaction, ...]
    allocations: tuple[Allocation, ...]
    rows: Mapping[str, tuple[Any, ...]] = {}
    """Those of every other kind, by its name."""
    accounts: tuple[Account, ...] = ()
    parties: tuple[Party, ...] = ()

    def of(self, kind: str) -> tuple[Any, ...]:
        """Its rows of that kind."""
        found: tuple[Any, ...] = self.rows.get(kind, ())
        return found


class Workplace:
    """One practice's store at work. Safe for several threads."""

    def __init__(
        self, folder: Path, today: date | None = None, clock: Callable[[], datetime] | None = None
    ) -> None:
        self.database = Database(folder)
        self._today = today
        self._clock = clock or (lambda: datetime.now(UTC).replace(tzinfo=None))
        self.mail: Mail | None = None
        """The practice's mail server and mailbox; None where it has none."""
        self.could_not_keep: set[ClientRow] = set()
        """Clients, at a revision, of which what is kept could not be brought up to date."""
        self.asked_at = 0.0
        """When somebody asked for something last, by the clock of `time.monotonic`."""
        self.keeps_up = False
        """Whether what is kept is brought up to date behind: then nobody waits for it."""
        self.seen: deque[Event] = deque(maxlen=100_000)
        """What was looked at, and is to be put on record a moment later."""
        self.bank_address: str | None = None
        """Of the bank that gives out statements over HTTP; None where there is none to ask."""
        self._ledgers: OrderedDict[int, ClientState] = OrderedDict()
        self._lock = threading.Lock()

    @property
    def today(self) -> date:
        """The date that the work is done on: the fixed one, or the clock's."""
        return self._today or self._clock().date()

    @property
    def now(self) -> datetime:
        """The moment of the work: the clock's time on that date."""
        return datetime.combine(self.today, self._clock().time()).replace(microsecond=0)

    def ledger(self, person: Person, client_code: str) -> ClientState:
        """The client's books as they stand. Raises UnknownName for what the person can't see."""
        person.must_be_allowed(May.READ)
        person.must_see(client_code)
        with self.database.snapshot() as connection:
            client = client_store.client_named(connection, client_code)
            if client is None:
                raise UnknownName("client", client_code)
            return self._ledger(client)

    def _ledger(self, client: ClientRow) -> ClientState:
        """Within the caller's snapshot or write transaction."""
        with self._lock:
            known = self._ledgers.get(client.id)
            if known and known.client == client and known.today == self.today:
                self._ledgers.move_to_end(client.id)
                return known
        before = known.books if known else None
        if before is None:
            # Before they are here there is little to look through, and reading leaves no cycle.
            gc.collect()
        ledger = self._read(client, before)
        if before is None:
            gc.freeze()
        elif ledger.books.tables.transactions is not before.tables.transactions:
            _passed_over_by_the_collector()
        with self._lock:
            self._ledgers[client.id] = ledger
            while len(self._ledgers) > 1 and self._holds_too_much():
                self._ledgers.popitem(last=False)
        return ledger

    def _read(self, client: ClientRow, before: Books | None) -> ClientState:
        """Within the caller's snapshot or write transaction. *before*: its books as read last."""
        connection = self.database.reading
        with collector_resting():
            return ClientState(
                client,
                load_books(connection, client, self.today, before),
                decisions_of(connection, client.id),
                tuple(seals_of(connection, client.id, self.today)),
                self.today,
                queries_of(connection, client.id),
                tuple(windows_of(connection, client.id, self.today)),
                kept_points(connection, client, self.today),
            )

    def open_ledgers(self) -> list[ClientState]:
        """Those that are held as they stand in the store, the one asked for last first."""
        with self._lock:
            held = list(reversed(self._ledgers.values()))
        now = {client.id: client for client in client_store.all_clients(self.database.reading)}
        return [
            ledger
            for ledger in held
            if now.get(ledger.client.id) == ledger.client and ledger.today == self.today
        ]

    def runs_at_once(self, client: ClientRow) -> bool:
        """Whether the client is held, and a run of its checks is no wait: it goes on from one before, or
        the books are small."""
        with self._lock:
            known = self._ledgers.get(client.id)
        if known is None or known.today != self.today:
            return False
        return known.goes_on or len(known.books.tables.transactions) <= FEW_TRANSACTIONS

    def ledger_apart(self, client: ClientRow) -> ClientState:
        """The client's books for work that nobody waits for: read without a place among those that are
        held, which are people's."""
        with self._lock:
            known = self._ledgers.get(client.id)
        with self.database.snapshot() as connection:
            now = client_store.client_named(connection, client.code) or client
            return self._read(now, known.books if known else None)

    def _holds_too_much(self) -> bool:
        held = [len(ledger.books.tables.transactions) for ledger in self._ledgers.values()]
        return len(held) > MOST_LEDGERS or sum(held) > MOST_TRANSACTIONS

    def forget(self, ledger: ClientState) -> None:
        """Read the client's books from the store when they are next asked for."""
        with self._lock:
            self._ledgers.pop(ledger.client.id, None)

    def adopt(self, before: ClientState, posted: Posted) -> None:
        """Take the client's books as they stand after a change that was just committed.

        *before*: the ledger that the change was made on. Where anybody wrote since, or facts of the
        client were set, nothing is taken, and the books are read again when they are asked for.
        """
        if facts_set.KIND.name in posted.rows:
            return
        with self.database.snapshot() as connection:
            client = client_store.client_named(connection, before.client.code)
            if client is None or client.revision != before.client.revision + 1:
                return
            changes = tuple(row.posted for row in changes_of(connection, client.id))
            books = before.books.with_posted(posted.entries, posted.allocations)
            books = with_chart(books, (), posted.accounts, posted.parties)
            for name, rows in posted.rows.items():
                books = row_kinds.registry()[name].laid_over(books, rows)
            ledger = ClientState(
                client,
                books.followed_by(changes=changes),
                decisions_of(connection, client.id),
                before.seals,
                before.today,
                queries_of(connection, client.id),
                before.windows,
            )
        with self._lock:
            self._ledgers[client.id] = ledger

    def keep_file(self, content: bytes) -> str:
        """Keep these bytes under their SHA-256, whole or not at all; the digest."""
        digest = hashlib.sha256(content).hexdigest()
        self.database.files.mkdir(parents=True, exist_ok=True)
        kept = self.database.files / digest
        if kept.exists():
            # It is seen to be wanted again: who removes another client's files leaves it.
            os.utime(kept)
        else:
            part = kept.with_name(f".{digest}.{os.getpid()}.{threading.get_ident()}.part")
            with part.open("wb") as written:
                written.write(content)
                written.flush()
                os.fsync(written.fileno())
            part.replace(kept)
        return digest

    def close(self) -> None:
        self.database.close()
