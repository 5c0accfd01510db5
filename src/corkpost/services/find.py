"""Find: any number, text, reference, party, account or sum, over one client or all of one's own."""

import math
import re
import time
from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from decimal import Decimal, InvalidOperation
from typing import NamedTuple

from corkpost.core.money import Currency, Minor
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store import find as store
from corkpost.store.clients import archived
from corkpost.store.database import BUSY_MILLISECONDS, Busy

MOST = 50
SOME = 2_000
"""Transactions that are taken into the index at once: posting waits no longer than that."""
PATIENCE = 0.05
"""Seconds that a search gives to what is not in the index yet."""
WRITERS_PATIENCE = 50
"""Milliseconds that a search waits for who writes: it goes by what is in the index then."""
SCANNED = 400
"""Hits that are looked at for their sum as well."""
_WORD = re.compile(r"\w+")
_SUM = re.compile(r"[-(]?\d[\d.,' ]*\)?$")


class FoundPosting(NamedTuple):
    client: str
    id: str
    kind: str
    date: date
    reference: str | None
    memo: str | None
    party: str | None
    total: Minor
    currency: Currency


class FoundLine(NamedTuple):
    """A line of a statement. *statement*: the number of the statement that it is on."""

    client: str
    account: str
    statement: int
    date: date
    text: str
    amount: Minor
    currency: Currency


class FoundName(NamedTuple):
    """A party or an account. *what*: its kind or type."""

    client: str
    code: str
    name: str
    what: str


class FoundClient(NamedTuple):
    code: str
    name: str


class Found(NamedTuple):
    """The first of each, the newest first. *building*: the index is not through with all the books."""

    clients: tuple[FoundClient, ...]
    accounts: tuple[FoundName, ...]
    parties: tuple[FoundName, ...]
    postings: tuple[FoundPosting, ...]
    statement_lines: tuple[FoundLine, ...]
    building: bool


class _Client(NamedTuple):
    id: int
    code: str
    name: str
    currency: Currency


def catch_up(
    workplace: Workplace, *, seconds: float = math.inf, patience: int = BUSY_MILLISECONDS
) -> bool:
    """Take into the index what was written since, a little at a time; whether it is through.

    *seconds*: after so long no more is begun. *patience*: so many milliseconds others who write are waited
    for; after that Busy is raised.
    """
    end = time.monotonic() + seconds
    begun = False
    for client in store.behind(workplace.database.reading):
        left: store.Behind | None = client
        while left is not None:
            if begun and time.monotonic() >= end:
                return False
            begun = True
            with workplace.database.writing(patience) as connection:
                left = store.index_some(connection, left, SOME)
    return True


def find(workplace: Workplace, person: Person, text: str, client_code: str | None = None) -> Found:
    """What has all these words, by their beginnings, and sums; in one client or in all of one's own.

    Raises UnknownName for a client that the person can't see.
    """
    person.must_be_allowed(May.READ)
    if client_code is not None:
        person.must_see(client_code)
    try:
        through = catch_up(workplace, seconds=PATIENCE, patience=WRITERS_PATIENCE)
    except Busy:
        through = False
    clients = _clients(workplace, person, client_code)
    words = text.split()
    if not words or not clients:
        return Found((), (), (), (), (), not through)
    hits = _hits(workplace, clients, words, whole=_sees_all(workplace, person, client_code))
    return _told(workplace, clients, words, hits, building=not through)


def _sees_all(workplace: Workplace, person: Person, client_code: str | None) -> bool:
    if client_code is not None or person.role != "partner":
        return False
    return not archived(workplace.database.reading)


def _clients(
    workplace: Workplace, person: Person, client_code: str | None
) -> Mapping[int, _Client]:
    """Those that the person sees; of the archived ones that which is named alone."""
    connection = workplace.database.reading
    gone = archived(connection) if client_code is None else ()
    return {
        row.id: _Client(row.id, row.code, row.name, Currency(row.currency))
        for row in store.clients(connection)
        if person.sees(row.code) and client_code in (None, row.code) and row.id not in gone
    }


def _hits(
    workplace: Workplace, clients: Mapping[int, _Client], words: Sequence[str], *, whole: bool
) -> list[store.Hit]:
    """Of every client's rows: those of that sum first, then those that have the words."""
    connection = workplace.database.reading
    within = "" if whole else _within(clients)
    found: dict[int, store.Hit] = {}
    for word in words:
        rest = [other for other in words if other is not word]
        for client in clients.values():
            amount = _amount(word, client.currency)
            if amount is None:
                continue
            rows = store.by_amount(connection, client.id, amount, SCANNED if rest else MOST)
            if rest and rows:
                ids = [row_id for row_id, _ in rows]
                fit = store.having_words(connection, _match(rest, within), ids)
                rows = [row for row in rows if row[0] in fit]
            found |= dict(rows[:MOST])
    newest = sorted(found, reverse=True)[:MOST]
    hits = [found[row_id] for row_id in newest]
    if len(hits) < MOST:
        hits += [
            hit
            for row_id, hit in store.by_words(connection, _match(words, within), SCANNED)
            if row_id not in found
        ]
    return hits


def _within(clients: Iterable[int]) -> str:
    return "client : (" + " OR ".join(store.client_word(client) for client in clients) + ") AND "


def _match(words: Iterable[str], within: str) -> str:
    """An expression that every word begins one of the row's words, in parts or run together."""
    parts = []
    for word in words:
        pieces = _WORD.findall(word)
        if not pieces:
            continue
        phrase = " + ".join(f'"{piece}"' for piece in pieces) + "*"
        together = "".join(pieces)
        # A sum's digits run together would be another number.
        apart = len(pieces) > 1 and not _SUM.fullmatch(word)
        parts.append(f'({phrase} OR "{together}"*)' if apart else phrase)
    if not parts:
        return within + '"\u2007"'
    return within + "words : (" + " AND ".join(parts) + ")"


def _amount(word: str, currency: Currency) -> Minor | None:
    """The sum that a word is, without its sign; None for one that is none."""
    if not _SUM.fullmatch(word):
        return None
    plain = word.strip("-()").replace("'", "")
    if re.fullmatch(r"\d{1,3}(,\d{3})+(\.\d+)?", plain):
        plain = plain.replace(",", "")
    elif re.fullmatch(r"\d+,\d{1,2}", plain):
        plain = plain.replace(",", ".")
    try:
        minor = Decimal(plain).scaleb(currency.places)
    except InvalidOperation:
        return None
    is_whole = minor == minor.to_integral_value() and abs(minor) < 10**17
    return abs(int(minor)) if is_whole and minor else None


def _told(
    workplace: Workplace,
    clients: Mapping[int, _Client],
    words: Sequence[str],
    hits: Iterable[store.Hit],
    *,
    building: bool,
) -> Found:
    connection = workplace.database.reading
    lower = [word.casefold() for word in words]
    named = [
        FoundClient(known.code, known.name)
        for known in clients.values()
        if all(word in f"{known.code} {known.name}".casefold() for word in lower)
    ]
    names: dict[str, list[FoundName]] = {"a": [], "p": []}
    postings: list[FoundPosting] = []
    lines: list[FoundLine] = []
    seen: set[store.Hit] = set()
    for hit in hits:
        client = clients.get(hit.client_id)
        if client is None or hit in seen:
            continue
        seen.add(hit)
        if hit.kind in names:
            read = store.party if hit.kind == "p" else store.account
            if len(names[hit.kind]) < MOST:
                name, what = read(connection, client.id, hit.key)
                names[hit.kind].append(FoundName(client.code, hit.key, name, what))
        elif hit.kind == "t":
            if len(postings) < MOST:
                postings += _posting(workplace, client, hit)
        elif len(lines) < MOST:
            lines += _line(workplace, client, hit)
        if len(postings) >= MOST:
            break
    postings.sort(key=lambda found: found.date, reverse=True)
    lines.sort(key=lambda line: line.date, reverse=True)
    return Found(
        tuple(named[:MOST]),
        tuple(names["a"]),
        tuple(names["p"]),
        tuple(postings),
        tuple(lines),
        building,
    )


def _posting(workplace: Workplace, client: _Client, hit: store.Hit) -> Iterable[FoundPosting]:
    connection = workplace.database.reading
    row = store.posted(connection, client.id, hit.key)
    if row is not None:
        who = store.party(connection, client.id, row.party)[0] if row.party else None
        yield FoundPosting(
            client.code,
            row.id,
            row.kind,
            date.fromisoformat(row.posting_date),
            row.reference,
            row.memo,
            who,
            row.total,
            client.currency,
        )


def _line(workplace: Workplace, client: _Client, hit: store.Hit) -> Iterable[FoundLine]:
    row = store.statement_line(workplace.database.reading, client.id, hit.key)
    if row is not None:
        yield FoundLine(
            client.code,
            row.account,
            row.statement,
            date.fromisoformat(row.day),
            row.text,
            row.amount,
            client.currency,
        )
