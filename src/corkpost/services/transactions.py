"""Every posting of a client, wherever it began: the list, one with all that hangs on it, finding."""

from collections.abc import Iterator
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Allocation, Amendment, Books, Transaction
from corkpost.core.by_hand import Way, ways_for
from corkpost.core.journal_signs import journal_signs
from corkpost.core.kinds import PeriodState, TransactionKind
from corkpost.core.money import Minor, NotAnAmount
from corkpost.core.open_items import OpenItem, OpenItems
from corkpost.core.periods import Period
from corkpost.core.points import Point
from corkpost.services.posting import openable
from corkpost.services.review import stated_points
from corkpost.services.rights import Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store.changes import ChangeRow, changes_of

MOST_FOUND = 8


class Wanted(NamedTuple):
    """What of the postings is wanted; None asks for everything. *text*: in any of its words. *signs*:
    only journals with something unusual about them."""

    first_day: date | None = None
    last_day: date | None = None
    kind: TransactionKind | None = None
    account: str | None = None
    party: str | None = None
    ours: bool | None = None
    text: str = ""
    signs: bool = False


class Listed(NamedTuple):
    """The postings, the latest first, and the sum of their debits."""

    transactions: tuple[Transaction, ...]
    debits: Minor


def listed(workplace: Workplace, person: Person, client_code: str, wanted: Wanted) -> Listed:
    """The postings that are wanted, by posting date, whoever brought them."""
    books = workplace.ledger(person, client_code).books
    sought = Sought(books, wanted.text)
    found = [
        posted for posted in books.tables.transactions if _is_wanted(books, posted, wanted, sought)
    ]
    found.sort(key=lambda posted: (posted.posting_date, posted.id), reverse=True)
    return Listed(tuple(found), sum(posted.total for posted in found))


def _is_wanted(books: Books, posted: Transaction, wanted: Wanted, sought: "Sought") -> bool:
    if wanted.first_day and posted.posting_date < wanted.first_day:
        return False
    if wanted.last_day and posted.posting_date > wanted.last_day:
        return False
    if wanted.kind and posted.kind is not wanted.kind:
        return False
    if wanted.ours is not None and (posted.change is not None) is not wanted.ours:
        return False
    if wanted.account and all(line.account != wanted.account for line in posted.lines):
        return False
    if wanted.party and posted.party != wanted.party:
        return False
    if wanted.signs and posted.id not in journal_signs(books):
        return False
    return not wanted.text or sought.fits(posted)


class Sought:
    """A text that is looked for in postings, read once."""

    def __init__(self, books: Books, text: str) -> None:
        self._books = books
        self._words = text.casefold().split()
        try:
            self._amount = abs(books.client.currency.parse(text.replace(",", "").strip()))
        except NotAnAmount:
            self._amount = 0

    def fits(self, posted: Transaction) -> bool:
        """Whether every word stands in what is known of it, or it has that amount."""
        known = _known(self._books, posted)
        return all(word in known for word in self._words) or (
            self._amount != 0
            and (
                any(abs(line.amount) == self._amount for line in posted.lines)
                or posted.total == self._amount
            )
        )


def _known(books: Books, posted: Transaction) -> str:
    known = " ".join(
        part
        for part in (
            posted.id,
            posted.reference,
            posted.memo,
            posted.reason,
            posted.party,
            books.party_name(posted.party) if posted.party else None,
        )
        if part
    )
    return known.casefold()


class Settled(NamedTuple):
    """An allocation as one of its two sides sees it: with what, and whether it still stands."""

    allocation: Allocation
    other: Transaction | None
    stands: bool


class Amended(NamedTuple):
    """An amendment with the change that brought it, where it is ours, and whether that is undone."""

    amendment: Amendment
    change: ChangeRow | None
    undone: bool

    @property
    def can_take_back(self) -> bool:
        return self.change is not None and not self.undone and self.change.undoes is None


class Detail(NamedTuple):
    """A transaction with all that hangs on it, both ways.

    *open*: per control account and party what is left open, debit positive. *points*: the review
    points that speak of it. *change*: what brought it, where it is ours. *amendments*: oldest first.
    *by_hand*: the routes that a person may pick for it. *openable*: its period, where somebody barred
    it and the person may have it opened for one posting.
    """

    posted: Transaction
    state: PeriodState
    settled: tuple[Settled, ...]
    open: tuple[tuple[OpenItem, Minor], ...]
    corrected_by: str | None
    reversed_by: str | None
    points: tuple[Point, ...]
    change: ChangeRow | None
    undone: bool
    amendments: tuple[Amended, ...]
    by_hand: tuple[Way, ...]
    openable: tuple[Period, ...]

    @property
    def can_take_back(self) -> bool:
        """Whether its change stands and is none that takes another back."""
        return self.change is not None and not self.undone and self.change.undoes is None


def detail(
    workplace: Workplace, person: Person, client_code: str, name: str
) -> tuple[ClientState, Detail]:
    """One transaction and the books that it is in. Raises UnknownName."""
    ledger = workplace.ledger(person, client_code)
    books = ledger.books
    posted = books.transaction(name)
    own = ledger.items.by_transaction.get(name, ())
    amendments = [row for row in books.tables.amendments if row.transaction == name]
    changes: dict[int | None, ChangeRow] = {}
    if posted.change is not None or amendments:
        rows = changes_of(workplace.database.reading, ledger.client.id)
        changes = {row.number: row for row in rows}
    return ledger, Detail(
        posted=posted,
        state=books.calendar.state_on(posted.posting_date),
        settled=tuple(_settled(books, ledger.items, name)),
        open=tuple((item, ledger.items.open_now[item.key]) for item in own),
        corrected_by=books.corrected.get(name),
        reversed_by=books.reversed_by.get(name),
        points=tuple(
            stated.point for stated in stated_points(ledger) if name in stated.point.transactions
        ),
        change=changes.get(posted.change),
        undone=posted.change in books.undone,
        amendments=tuple(
            Amended(row, changes.get(row.change), row.change in books.undone) for row in amendments
        ),
        by_hand=ways_for(books, posted),
        openable=openable(ledger, person, [posted.posting_date]),
    )


def _settled(books: Books, items: OpenItems, name: str) -> Iterator[Settled]:
    standing = {row.id for row in items.standing_on(name)}
    for row in books.tables.allocations:
        if row.undoes is None and name in (row.debit_transaction, row.credit_transaction):
            other = (
                row.credit_transaction if row.debit_transaction == name else row.debit_transaction
            )
            yield Settled(row, books.transactions.get(other), row.id in standing)
