"""What a seal is a digest of: its canonical form, by version (handbook, section 9; docs/seal.md).

A seal keeps the version that it was made by, and is proved by that one for good. What is added to books
later is in no older form, so that it breaks no older seal.
"""

import hashlib
import json
from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core.bank.sides import bank_accounts, bank_sides
from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import TransactionKind
from corkpost.core.money import Minor
from corkpost.core.trial_balance import BROUGHT_FORWARD

NEWEST = 2

_encode = json.JSONEncoder(ensure_ascii=False, separators=(",", ":")).encode

# What a row of the form begins with.
ENTRY, ALLOCATION, AGREED = "entry", "allocation", "agreed"


def seal_digest(books: Books, as_at: date, version: int = NEWEST) -> str:
    """SHA-256 over all that is dated by the end of *as_at*: its entries, allocations and agreements.

    Closing entries are outside every seal. Words (memo, reference, reason) and papers stay free, and
    so does the name that a party is read under. Kept until something that it is made of is another.
    """
    tables = books.tables
    inputs = (
        tuple(sealed(books, as_at)),
        tuple(row for row in tables.allocations if row.date <= as_at),
        (tables.agreements, books.statements, tables.accounts, tables.written, books.client.code),
        books.calendar.year_of(as_at),
    )
    make = _first_digest if version == 1 else _newest_digest
    found: str = books.kept.once(f"seal {version} {as_at}", inputs, lambda: make(books, as_at))
    return found


def _newest_digest(books: Books, as_at: date) -> str:
    return digest_of_form(canonical(books, as_at))


def digest_of_form(form: str) -> str:
    return hashlib.sha256(form.encode()).hexdigest()


def canonical(books: Books, as_at: date) -> str:
    """The text that a seal of the newest version is the digest of, a row a line (docs/seal.md)."""
    return "".join(f"{row}\n" for row in _rows(books, as_at))


def _rows(books: Books, as_at: date) -> Iterator[str]:
    client = books.client
    money, written = client.currency.format, books.tables.written
    posted = sorted(sealed(books, as_at), key=lambda entry: entry.id)
    yield _row("seal", "2", client.code, client.currency.code, as_at)
    for account, amount in sorted(_balances(books, posted, as_at).items()):
        if amount:
            yield _row("balance", account, money(amount))
    for entry in posted:
        yield _row(ENTRY, entry.id, entry.kind, entry.posting_date, entry.entry_kind)
        for place, line in enumerate(entry.lines):
            party = written.lines.get((entry.id, place), line.party)
            foreign = (line.currency, line.foreign_amount)
            tax = (line.tax_code, line.tax_date)
            yield _row("line", entry.id, line.number, line.account, money(line.amount), party,
                       *tax, line.dimensions, *foreign)  # fmt: skip
    allocations = (row for row in books.tables.allocations if row.date <= as_at)
    for row in sorted(allocations, key=lambda row: row.id):
        party = written.allocations.get(row.id, row.party)
        yield _row(ALLOCATION, row.id, row.date, party, row.debit_transaction,
                   row.credit_transaction, money(row.amount), row.foreign_amount, row.undoes)  # fmt: skip
    yield from sorted(_agreed(books, as_at))


def _row(*cells: object) -> str:
    """Compact JSON of texts; what is not given is the empty one."""
    return _encode(["" if cell is None else str(cell) for cell in cells])


def _balances(books: Books, posted: Iterable[Transaction], as_at: date) -> Mapping[str, Minor]:
    """By account, debit positive, before any closing entry: income and expense of the year of *as_at*,
    that of earlier years together."""
    first_day = books.calendar.year_of(as_at).first_day
    result = {a.code for a in books.tables.accounts if a.is_profit_and_loss}
    sums: dict[str, Minor] = {}
    for entry in posted:
        earlier = entry.posting_date < first_day
        for line in entry.lines:
            code = BROUGHT_FORWARD if earlier and line.account in result else line.account
            sums[code] = sums.get(code, 0) + line.amount
    return sums


def _agreed(books: Books, as_at: date) -> Iterator[str]:
    for account in bank_accounts(books):
        for group in bank_sides(books, account).groups.values():
            if group.day <= as_at:
                mine = sorted(f"{entry.key[0]}#{entry.key[1]}" for entry in group.entries)
                theirs = sorted(line.id for line in group.lines)
                yield _row(AGREED, account, *mine, "is", *theirs)


def sealed(books: Books, as_at: date) -> Iterator[Transaction]:
    """The entries that a seal as at the end of that day covers."""
    return (
        posted
        for posted in books.tables.transactions
        if posted.posting_date <= as_at and posted.kind is not TransactionKind.CLOSING
    )


class Differing(NamedTuple):
    """A row of the books that is not what was signed. *before* and *now*: as in the form, without the
    name; empty where it was not there, or is gone."""

    kind: str
    name: str
    before: tuple[str, ...]
    now: tuple[str, ...]


def differing(signed: str, now: str) -> tuple[Differing, ...]:
    """The entries, allocations and agreements that differ between two forms, by kind and name."""
    before, after = _named(signed), _named(now)
    return tuple(
        Differing(*key, before.get(key, ()), after.get(key, ()))
        for key in sorted(before.keys() | after.keys())
        if before.get(key) != after.get(key)
    )


def _named(form: str) -> Mapping[tuple[str, str], tuple[str, ...]]:
    """The rows of a form by kind and name: an entry with its lines, an agreement as a whole."""
    found: dict[tuple[str, str], tuple[str, ...]] = {}
    for text in form.splitlines():
        kind, *cells = json.loads(text)
        if kind == "line":
            key = (ENTRY, cells[0])
            found[key] = (*found[key], " ".join(cell for cell in cells[2:] if cell))
        elif kind == AGREED:
            found[AGREED, " ".join(cells)] = ("agreed",)
        elif kind in (ENTRY, ALLOCATION):
            found[kind, cells[0]] = (" ".join(cell for cell in cells[1:] if cell),)
    return found


def _first_digest(books: Books, as_at: date) -> str:
    """As the first seals were made."""
    written = books.tables.written
    rows = hashlib.sha256(f"seal 1 {books.client.code} {as_at}".encode())
    for posted in sorted(sealed(books, as_at), key=lambda posted: posted.id):
        lines = [
            [line.number, line.account, line.amount,
             written.lines.get((posted.id, place), line.party), line.tax_code, line.dimensions,
             line.foreign_amount]
            for place, line in enumerate(posted.lines)
        ]  # fmt: skip
        fixed = [posted.id, posted.kind, posted.posting_date, posted.entry_kind, lines]
        rows.update(json.dumps(fixed, default=str).encode())
    allocations = (row for row in books.tables.allocations if row.date <= as_at)
    for row in sorted(allocations, key=lambda row: row.id):
        party = written.allocations.get(row.id, row.party)
        fixed = [row.id, row.date, party, row.debit_transaction, row.credit_transaction,
                 row.amount, row.foreign_amount, row.undoes]  # fmt: skip
        rows.update(json.dumps(fixed, default=str).encode())
    agreed = sorted(
        [
            [account, sorted(entry.key for entry in group.entries), sorted(x.id for x in group.lines)]
            for account in bank_accounts(books)
            for group in bank_sides(books, account).groups.values()
            if group.day <= as_at
        ],
        key=str,
    )  # fmt: skip
    for members in agreed:
        rows.update(json.dumps(members).encode())
    return rows.hexdigest()
