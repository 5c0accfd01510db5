"""Our entries in the words of the client's bookkeeper: what was wrong, what we did, what it means for
the daily books, and how it is kept from happening again.

Entries that are right for the statements can leave the daily books unreadable to who keeps them.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import date
from typing import NamedTuple

from corkpost.core import checks, routes
from corkpost.core.books import Account, Books, PostedChange, Transaction
from corkpost.core.change import ChangeKind
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, AccountType, EntryKind
from corkpost.core.money import Minor
from corkpost.core.points import Point

MOST_NAMED = 6


class Words(NamedTuple):
    """*heading*: the kind of fault or entry; *did*: what we did; *means*: for the daily books; *avoid*:
    how it is kept from happening again, empty where that is not the bookkeeper's."""

    heading: str
    did: str
    means: str
    avoid: str = ""


class Explained(NamedTuple):
    """One change of ours. *about*: what it concerns; *moves*: each account that it moves, in words.
    *keyed*: the client's own entries that do the same, as far as they were recognised."""

    change: int
    day: date
    words: Words
    about: tuple[str, ...]
    moves: tuple[str, ...]
    reason: str
    by: str
    entries: tuple[Transaction, ...]
    taken_back: bool
    keyed: tuple[str, ...] = ()


class ToldKind(NamedTuple):
    """Explained changes of one kind. *year_before*: how many of the kind the year before had."""

    words: Words
    items: tuple[Explained, ...]
    year_before: int


OWN_POCKET = Words(
    "Costs that the owner paid privately",
    "A cost that the owner paid from their own pocket is entered.",
    "It is in the books now: do not enter it again.",
    "Hand such receipts in each month, with the day and who paid.",
)
TAKINGS = Words(
    "Takings",
    "A day's takings are entered by how they were paid.",
    "They are in the books now: do not enter them again.",
)
BY_KIND: Mapping[EntryKind, Words] = {
    EntryKind.ADJUSTING: Words(
        "Entries for the statements",
        "A cost or income is brought into the months that it belongs to.",
        "It stays as it is: nothing is to be entered for it.",
    ),
    EntryKind.RECLASSIFYING: Words(
        "Shown elsewhere in the statements",
        "An amount is shown in another place of the statements; profit does not change.",
        "Nothing is to be entered for it.",
    ),
    EntryKind.CLOSING: Words(
        "The year is closed",
        "The year's income and costs are carried to where its profit is kept.",
        "Nothing is to be entered for it.",
    ),
    EntryKind.CORRECTING: Words(
        "Put right",
        "An entry of ours puts the books right.",
        "Leave your own entries as they are.",
    ),
}
SHARED = Words(
    "The profit is shared",
    "The profit so far is brought to the partners' accounts.",
    "Nothing is to be entered for it.",
)
OTHER_WAYS = {"share-profit": SHARED, "own-pocket": OWN_POCKET, "takings": TAKINGS}
OUR_OWN = frozenset(
    {"new-party", "register-assets", "add-rates", "agree-tie-out", "set-budget"}
    | {"arrange-accounts", "mark-account", "take-payroll", "file-return", "tax-scheme", "set-facts"}
)
"""What is no business of a bookkeeper's."""
NO_ENTRY = Words(
    "Put right without an entry",
    "Something about accounts, parties or documents is put right; no figure moves.",
    "Nothing is to be entered for it.",
)


def explained(
    books: Books, points: Mapping[int, Sequence[Point]], standing: Iterable[Point] = ()
) -> tuple[Explained, ...]:
    """Every change of ours that concerns a bookkeeper, oldest first. *points*: by the number of the
    change that put them right; *standing*: those that nothing put right."""
    keyed = dict(_keyed(books, points, standing))
    entries: dict[int, list[Transaction]] = defaultdict(list)
    for posted in books.ours:
        if posted.change is not None:
            entries[posted.change].append(posted)
    return tuple(
        _explained(books, change, entries[change.number], points.get(change.number, ()))._replace(
            keyed=keyed.get(change.number, ())
        )
        for change in books.changes
        if change.kind in (ChangeKind.CORRECTION, ChangeKind.ENTRY) and change.route not in OUR_OWN
    )


def _explained(
    books: Books, change: PostedChange, entries: list[Transaction], points: Sequence[Point]
) -> Explained:
    corrected = [entry.corrects for entry in entries if entry.corrects]
    spoken_of = (name for point in points for name in point.transactions)
    about = dict.fromkeys([*corrected, *spoken_of])
    named = [books.transactions[name] for name in about if name in books.transactions]
    more = [f"{len(named) - MOST_NAMED} more"] if len(named) > MOST_NAMED else []
    return Explained(
        change=change.number,
        day=min((entry.posting_date for entry in entries), default=change.made_on),
        words=_words(change, entries, points),
        about=(*(described(books, posted) for posted in named[:MOST_NAMED]), *more),
        moves=tuple(_moves(books, [entry for entry in entries if entry.reverses is None])),
        reason=change.reason,
        by=change.by,
        entries=tuple(entries),
        taken_back=change.number in books.undone
        or any(entry.id in books.never_was and entry.reverses is None for entry in entries),
    )


def _keyed(
    books: Books, points: Mapping[int, Sequence[Point]], standing: Iterable[Point]
) -> Iterator[tuple[int, tuple[str, ...]]]:
    """By change of ours, the client's entries that do the same: found beside it, or put in its place."""
    in_place = [
        point
        for change in books.changes
        if change.route == "theirs-stands" and change.number not in books.undone
        for point in points.get(change.number, ())
    ]
    for point in [*standing, *in_place]:
        own = [books.transactions.get(name) for name in point.named("ours")]
        if point.check == "entered-too" and own and own[0] and own[0].change is not None:
            yield own[0].change, point.named("theirs")


def _words(change: PostedChange, entries: list[Transaction], points: Sequence[Point]) -> Words:
    route = routes.registry().get(change.route or "")
    if change.route in OTHER_WAYS:
        own = OTHER_WAYS[change.route]
    elif route is not None and route.route.did:
        own = Words("Put right", route.route.did, route.route.means)
    else:
        kinds = [entry.entry_kind for entry in entries if entry.reverses is None]
        own = BY_KIND.get(kinds[0], NO_ENTRY) if kinds and kinds[0] else NO_ENTRY
    mirrors = [entry for entry in entries if entry.reverses is not None]
    if mirrors:
        back = format_date(mirrors[0].posting_date)
        own = own._replace(
            means=f"It takes itself back on {back}: nothing is to be entered for it. A bill or "
            "invoice that comes later is entered as usual."
        )
    if points and points[0].check in checks.registry():
        check = checks.registry()[points[0].check].check
        heading = f"{check.finds[:1].upper()}{check.finds[1:]}"
        own = own._replace(heading=heading, avoid=check.avoid)
    return own


def described(books: Books, posted: Transaction) -> str:
    """A transaction as a bookkeeper knows it: `purchase bill RW 117 of 5 April 2026, Reedwharf, 246.00`."""
    what = posted.kind.value.replace("-", " ")
    number = f" {posted.reference}" if posted.reference else ""
    who = books.party_name(posted.party) if posted.party else posted.memo
    amount = books.client.currency.format_amount(posted.total)
    return ", ".join(
        part for part in (f"{what}{number} of {format_date(posted.day)}", who, amount) if part
    )


def _moves(books: Books, entries: Iterable[Transaction]) -> Iterator[str]:
    """What the entries do to each account and party, a sentence each; what nets to nil is left out."""
    sums: Counter[tuple[str, str | None]] = Counter()
    for entry in entries:
        for line in entry.lines:
            party = line.party if line.account in books.control_accounts else None
            sums[line.account, party] += line.amount
    for (code, party), amount in sums.items():
        if amount:
            yield _moved(books, books.accounts[code], party, amount)


def _moved(books: Books, account: Account, party: str | None, amount: Minor) -> str:
    """*amount* added to the account, debit positive, without the words debit and credit."""
    what, rises = account.name, (amount > 0) is _grows_by_debit(account)
    if account.role is AccountRole.RECEIVABLES and party:
        what = f"what {books.party_name(party)} owes"
    elif account.role is AccountRole.PAYABLES and party:
        what = f"what is owed to {books.party_name(party)}"
    elif account.role is AccountRole.TAX:
        what = "the tax to be paid"
    return f"{what} {'up' if rises else 'down'} by {books.client.currency.format_amount(amount)}"


def _grows_by_debit(account: Account) -> bool:
    if account.role is AccountRole.TAX:
        return False
    return (
        account.type in (AccountType.ASSET, AccountType.EXPENSE)
        or account.role is AccountRole.DRAWINGS
    )


class News(NamedTuple):
    """*wanted*: what is to be told; *taken_back*: what was told and does not stand any more."""

    wanted: tuple[Explained, ...]
    taken_back: tuple[Explained, ...]


def news(every: Iterable[Explained], told: frozenset[int], *, told_too: bool = False) -> News:
    """What a bookkeeper has not been told of our changes, or with *told_too* all that stands.

    *told*: the numbers of changes that were; below nil those that were told to be taken back. What was
    taken back before it was told needs no telling.
    """
    every = tuple(every)
    return News(
        tuple(o for o in every if not o.taken_back and (told_too or o.change not in told)),
        tuple(
            o
            for o in every
            if o.taken_back and o.change in told and (told_too or -o.change not in told)
        ),
    )


def told_kinds(
    books: Books, wanted: Iterable[Explained], every: Iterable[Explained]
) -> tuple[ToldKind, ...]:
    """The *wanted* ones by kind, faults before entries and what came most often first, beside how many
    of *every* standing one the year before had."""
    by_heading: dict[str, list[Explained]] = defaultdict(list)
    for explained in wanted:
        by_heading[explained.words.heading].append(explained)
    standing = [explained for explained in every if not explained.taken_back]
    return tuple(
        ToldKind(items[0].words, tuple(items), _year_before(books, heading, items, standing))
        for heading, items in sorted(by_heading.items(), key=_order)
    )


def _order(row: tuple[str, list[Explained]]) -> tuple[bool, int, str]:
    heading, items = row
    return (not items[0].words.avoid, -len(items), heading)


def _year_before(
    books: Books, heading: str, items: list[Explained], standing: list[Explained]
) -> int:
    calendar = books.calendar
    before = calendar.previous_year(calendar.year_of(max(explained.day for explained in items)))
    return sum(
        explained.words.heading == heading and before.first_day <= explained.day <= before.last_day
        for explained in standing
    )
