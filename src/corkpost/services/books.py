"""Taking in a client's books and giving them out again."""

import time
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import NamedTuple

from corkpost.core import row_kinds
from corkpost.core.bank.sides import bank_accounts, bank_sides, standing_rows
from corkpost.core.books import Books, ClientFacts, Tables
from corkpost.core.client_facts import with_facts
from corkpost.core.formatting import format_date
from corkpost.core.kinds import PeriodState, Role
from corkpost.core.newer_books import Brought, brought, role_needed, rows_brought, with_newer
from corkpost.core.periods import Calendar
from corkpost.core.refreshing import Refresh, believed, changed_standing, first_time, refreshed
from corkpost.core.refusals import BadEntry, ChangedMeanwhile, Refusal
from corkpost.core.seal_forms import seal_digest
from corkpost.core.statements import Statement
from corkpost.core.years import year_named
from corkpost.formats.audit_file.reading import looks_like_one, read_audit_file
from corkpost.formats.audit_file.writing import write_audit_file
from corkpost.formats.books_folder.reading import BooksFolder, EarlierBooks, read_books
from corkpost.formats.books_folder.writing import write_books
from corkpost.formats.newer_books import NewerBooksAnswer, brought_answer
from corkpost.services.expected import settle_expected
from corkpost.services.rights import May, Person
from corkpost.services.statements import Reading
from corkpost.services.workplace import Workplace
from corkpost.store import changes as change_store
from corkpost.store import clients as client_store
from corkpost.store import parts as parts_store
from corkpost.store import practice as practice_store
from corkpost.store.books import load_books, load_received, sequences_of
from corkpost.store.changes import ChangeHead, Content
from corkpost.store.clients import ClientRow
from corkpost.store.sign_off import seals_of

Tell = Callable[[str], None]


class TakenIn(NamedTuple):
    """What an import did, in transactions but for *lines*."""

    client: str
    transactions: int
    lines: int
    new: int
    changed: int
    removed: int
    warnings: tuple[str, ...]


def take_in(
    workplace: Workplace,
    person: Person,
    path: Path,
    tell: Tell = lambda _: None,
    only: str | None = None,
    name: str | None = None,
) -> TakenIn:
    """Take in the books folder or zip at *path*: a new client, or a refresh of one already there.

    Parsed and checked outside the write transaction; written in one. Raises FaultyBooks with every
    fault and nothing taken in. Staff below a partner refresh only clients given to them, and are
    given a new client that they bring. *only*: the client whose books they have to be.
    """
    return _written(
        workplace, person, _read(workplace, person, path, tell, only), tell, name or path.name
    )


def look_or_take_in(
    workplace: Workplace,
    person: Person,
    path: Path,
    tell: Tell = lambda _: None,
    only: str | None = None,
    name: str | None = None,
) -> "TakenIn | Coming":
    """Take in the books of a new client, as `take_in` does; of one that is known, say what they would
    move, and write nothing. Where they would move nothing there is nothing to look at."""
    reading = _read(workplace, person, path, tell, only)
    return _coming(workplace, reading, tell) or _written(
        workplace, person, reading, tell, name or path.name
    )


def look_at(
    workplace: Workplace, person: Person, path: Path, tell: Tell = lambda _: None
) -> "Coming | None":
    """What newer books would move; None for a new client, and where they are what is there. Writes
    nothing."""
    return _coming(workplace, _read(workplace, person, path, tell, None), tell)


def earlier_books(workplace: Workplace, person: Person, code: str) -> Books | None:
    """The books that are there under that code. Raises ClientOfOthers where they are not this person's."""
    return _earlier(workplace, person, code, None)


def take_in_made(
    workplace: Workplace, person: Person, folder: BooksFolder, name: str, tell: Tell
) -> TakenIn:
    """Take in books that were made of what a client sent, as if they had come as a folder."""
    person.must_be_allowed(May.TAKE_IN)
    return _written(workplace, person, _compared(workplace, folder, tell), tell, name)


class Ready(NamedTuple):
    """Books that were read, checked and compared. *content*: a new client's, as it would be written; None
    where what is written hangs on what is there."""

    taken: TakenIn
    content: Content | None


def look_at_made(workplace: Workplace, folder: BooksFolder, tell: Tell) -> Ready:
    """What taking them in would do. Writes nothing."""
    reading = _compared(workplace, folder, tell)
    is_new = reading.known is None and not reading.content.statements
    return Ready(_taken_in(reading.folder, reading.refresh), reading.content if is_new else None)


def take_in_ready(
    workplace: Workplace, person: Person, code: str, name: str, ready: Ready, of: str, tell: Tell
) -> TakenIn:
    """Write a new client's books that were looked at, under that code and name. *of*: the files. Raises
    ChangedMeanwhile where there is a client of that code by now."""
    person.must_be_allowed(May.TAKE_IN)
    _refuse_known(workplace, code)
    assert ready.content is not None
    ready.content.call_client(name)
    _write(workplace, person, None, code, ready.content, of, tell)
    return ready.taken._replace(client=code)


class _Reading(NamedTuple):
    """A folder that was read, checked and compared. *known*, *books*: the client it is of, where it is
    known. *standing*: the rows besides transactions and allocations that are new or changed. *came*: the
    client's facts as its books gave them last."""

    folder: BooksFolder
    known: ClientRow | None
    books: Books | None
    content: Content
    refresh: Refresh
    standing: Tables
    came: ClientFacts | None = None

    @property
    def is_nothing_new(self) -> bool:
        if self.books is None:
            return False
        rows = {name: value for name, value in vars(self.content).items() if name != "facts"}
        return not any(rows.values()) and self.folder.client == self.came


def _read(
    workplace: Workplace, person: Person, path: Path, tell: Tell, only: str | None
) -> _Reading:
    person.must_be_allowed(May.TAKE_IN)
    tell("reading and checking")
    folder = _folder(workplace, path, lambda code: _earlier(workplace, person, code, only), only)
    return _compared(workplace, folder, tell)


def _compared(workplace: Workplace, folder: BooksFolder, tell: Tell) -> _Reading:
    tell("comparing")
    known = client_store.client_named(workplace.database.reading, folder.client.code)
    reading = workplace.database.reading
    books = load_books(reading, known, workplace.today) if known else None
    came = client_store.facts_of(reading, known) if known else None
    if books is not None and known is not None and came is not None:
        kept = believed(
            books,
            came,
            _received(workplace, known, books),
            folder.client,
            folder.tables,
        )
        folder = replace(
            folder,
            client=kept.client,
            tables=kept.tables,
            warnings=(*folder.warnings, *kept.told),
        )
    return _Reading(folder, known, books, *_content(workplace, known, books, folder), came)


def _folder(
    workplace: Workplace, path: Path, earlier: EarlierBooks, only: str | None
) -> BooksFolder:
    """A books folder, a zip of one, or a standard audit file: by what is in it."""
    if path.is_file():
        with path.open("rb") as file:
            head = file.read(2000)
        if looks_like_one(head):
            return read_audit_file(path, earlier, only)
    return read_books(path, workplace.database.files, earlier)


def give_out_audit_file(
    workplace: Workplace, person: Person, client_code: str, year_label: str, to: Path
) -> None:
    """Write the year of that label as a standard audit file. Raises UnknownName."""
    books = workplace.ledger(person, client_code).books
    year = year_named(books, year_label)
    write_audit_file(books, year, to, created=workplace.today)


def _written(
    workplace: Workplace, person: Person, reading: _Reading, tell: Tell, name: str
) -> TakenIn:
    folder, known, content = reading.folder, reading.known, reading.content
    if reading.books is not None:
        _refuse_finished(person, reading.books, reading.refresh)
    if reading.is_nothing_new:
        return _taken_in(folder, reading.refresh)
    _write(workplace, person, known, folder.client.code, content, name, tell)
    # Who brought a new client was given it in that transaction.
    person = replace(person, clients=person.clients | {folder.client.code})
    settled = settle_expected(workplace, person, folder.client.code) if content.statements else ()
    taken = _taken_in(folder, reading.refresh)
    return taken._replace(warnings=(*taken.warnings, *(words for _, words in settled)))


def _write(
    workplace: Workplace,
    person: Person,
    known: ClientRow | None,
    code: str,
    content: Content,
    name: str,
    tell: Tell,
) -> None:
    digest = content.digest()
    tell(f"writing {len(content.lines)} lines")
    head = ChangeHead("import", person.code, workplace.now, f"books taken in from {name}")
    if known is None and len(content.lines) > LINES_AT_ONCE:
        _write_in_parts(workplace, person, code, head, content, digest, tell)
    else:
        with workplace.database.writing() as connection:
            client = _client_to_write(workplace, person, known, code)
            change_store.append(connection, client.id, head, content, digest)


class Coming(NamedTuple):
    """What newer books would bring, seen before they are taken in. *broken*: the days of the standing
    seals that would break."""

    books: Books
    taken: TakenIn
    brought: Brought
    broken: tuple[date, ...]


def newer_books_answer(coming: Coming) -> NewerBooksAnswer:
    """What would be brought, as an answer that can be kept."""
    taken, client = coming.taken, coming.books.client
    return NewerBooksAnswer(
        client=client.code,
        name=client.name,
        transactions=taken.transactions,
        new=taken.new,
        changed=taken.changed,
        removed=taken.removed,
        broken=[day.isoformat() for day in coming.broken],
        warnings=list(taken.warnings),
        waits_for=role_needed(coming.books, coming.brought.rows),
        moves=brought_answer(coming.books, coming.brought),
    )


def _coming(workplace: Workplace, reading: _Reading, tell: Tell) -> Coming | None:
    known, books = reading.known, reading.books
    if known is None or books is None or reading.is_nothing_new:
        return None
    tell("reckoning what it moves")
    facts = with_facts(reading.folder.client, books.tables)
    after = with_newer(books, reading.refresh, reading.standing, facts)
    found = brought(books, after, reading.refresh, workplace.today)
    broken = tuple(
        seal.as_at
        for seal in seals_of(workplace.database.reading, known.id, workplace.today)
        if seal.stands
        and seal_digest(books, seal.as_at, seal.form) == seal.digest
        and seal_digest(after, seal.as_at, seal.form) != seal.digest
    )
    return Coming(books, _taken_in(reading.folder, reading.refresh), found, broken)


LINES_AT_ONCE = 5_000
DAY_SECONDS = 24 * 3600
"""Written in about a tenth of a second; then others get their turn."""
PAUSE_SECONDS = 0.005


def _write_in_parts(
    workplace: Workplace,
    person: Person,
    code: str,
    head: ChangeHead,
    content: Content,
    digest: str,
    tell: Tell,
) -> None:
    """Write a new client's books part by part; it is there with the last of them, or not at all."""
    clear_away(workplace)
    with workplace.database.writing() as connection:
        client_id = parts_store.begin(connection, int(time.time()))
    written = 0
    try:
        for part in content.parts(LINES_AT_ONCE):
            with workplace.database.writing() as connection:
                change_store.write_bulk(connection, client_id, 1, part)
                parts_store.hold(connection, client_id, int(time.time()))
            written += len(part.lines)
            tell(f"{written} of {len(content.lines)} lines written")
            time.sleep(PAUSE_SECONDS)
        with workplace.database.writing() as connection:
            _refuse_known(workplace, code)
            client = parts_store.make_whole(connection, client_id, code)
            if person.role is not Role.PARTNER:
                practice_store.give_client(connection, person.code, client.id)
            change_store.append(connection, client.id, head, content, digest, bulk_is_there=True)
    except BaseException:
        _take_away(workplace, client_id)
        raise


def clear_away(workplace: Workplace) -> None:
    """Take away what is left of clients whose books were being taken in when the program was ended, and of
    files that were being kept."""
    for part in workplace.database.files.glob(".*.part"):
        # One that is being kept is renamed at any moment.
        with suppress(FileNotFoundError):
            if time.time() - part.stat().st_mtime > DAY_SECONDS:
                part.unlink()
    while (
        client_id := parts_store.left_over(workplace.database.reading, int(time.time()))
    ) is not None:
        _take_away(workplace, client_id)


def _take_away(workplace: Workplace, client_id: int) -> None:
    more = True
    while more:
        with workplace.database.writing() as connection:
            more = parts_store.take_away(connection, client_id, LINES_AT_ONCE)
        time.sleep(PAUSE_SECONDS)


def _refuse_known(workplace: Workplace, code: str) -> None:
    if client_store.client_named(workplace.database.reading, code) is not None:
        raise ChangedMeanwhile(
            "Somebody else took these books in meanwhile. Take them in once more."
        )


class WaitsForAnother(Refusal):
    title = "These books wait for another's word"


def may_bring(person: Person, needed: str | None) -> bool:
    """Whether this person takes in books that wait for that role; none: for nobody."""
    if needed is None:
        return person.may(May.TAKE_IN)
    return person.may(May.SET_PERIODS if needed == Role.REVIEWER else May.REOPEN)


def _refuse_finished(person: Person, books: Books, refresh: Refresh) -> None:
    """Raise WaitsForAnother where newer books move months that this person may not."""
    rows = rows_brought(books, refresh)
    needed = role_needed(books, rows)
    if may_bring(person, needed):
        return
    barred = [row for row in rows if books.calendar.state_on(row.day) is not PeriodState.OPEN]
    first = barred[0].day
    why = f": {books.calendar.why_barred(first)}" if needed is Role.PARTNER else ", which is held"
    who = "A partner" if needed is Role.PARTNER else "A reviewer or partner"
    raise WaitsForAnother(
        f"They move {len(barred)} entries of finished or held months, the first of "
        f"{format_date(first)}{why}. {who} takes them in. Nothing was taken in."
    )


def _earlier(workplace: Workplace, person: Person, code: str, only: str | None) -> Books | None:
    if only is not None and code != only:
        raise BooksOfAnother(
            f"These are the books of {code}, and you are in those of {only}. Nothing was taken in. "
            "Take them in from the desk."
        )
    known = client_store.client_named(workplace.database.reading, code)
    if known is None:
        return None
    if not person.sees(code):
        raise ClientOfOthers(code)
    return load_books(workplace.database.reading, known, workplace.today)


class BooksOfAnother(Refusal):
    title = "These are another client's books"


class ClientOfOthers(Refusal):
    title = "That code is not yours to take in"

    def __init__(self, code: str) -> None:
        super().__init__(
            f"You can't take in books under the code {code!r}. Ask a partner to do it or to give you "
            "the client."
        )


def _client_to_write(
    workplace: Workplace, person: Person, known: ClientRow | None, code: str
) -> ClientRow:
    """The client as it was compared with, or a new one. Raises ChangedMeanwhile when it has moved since."""
    connection = workplace.database.reading
    now = client_store.client_named(connection, code)
    if now != known:
        raise ChangedMeanwhile(
            "Somebody else wrote in these books meanwhile. Take them in once more."
        )
    if known:
        return known
    client = client_store.add_client(connection, code)
    if person.role is not Role.PARTNER:
        practice_store.give_client(connection, person.code, client.id)
    return client


def _taken_in(folder: BooksFolder, refresh: Refresh) -> TakenIn:
    return TakenIn(
        client=folder.client.code,
        transactions=len(folder.tables.transactions),
        lines=sum(len(posted.lines) for posted in folder.tables.transactions),
        new=refresh.new,
        changed=refresh.changed,
        removed=refresh.removed,
        warnings=folder.warnings,
    )


def _content(
    workplace: Workplace, known: ClientRow | None, books: Books | None, folder: BooksFolder
) -> tuple[Content, Refresh, Tables]:
    """What is written, how the transactions compare, and the other rows that are new or changed."""
    connection = workplace.database.reading
    if known is None or books is None:
        refresh = first_time(folder.tables)
        seqs = (1, 1)
        standing = folder.tables
        places: dict[str, Mapping[str, int]] = {}
    else:
        received = _received(workplace, known, books)
        refresh = refreshed(books, received, folder.client, folder.tables)
        places = sequences_of(connection, known.id)
        seqs = (
            change_store.next_transaction(connection, known.id),
            change_store.next_allocation(connection, known.id),
        )
        standing = changed_standing(books.tables, received, folder.tables)
    content = Content()
    content.add_transactions(refresh.transactions, seqs[0])
    content.add_allocations(refresh.allocations, seqs[1])
    content.superseded = sorted(
        ((table, places[table][name]) for table, name in refresh.superseded),
        key=lambda mark: (mark[0] != "transactions", mark),
    )
    _add_standing(content, standing)
    content.set_facts(folder.client)
    content.add_statements(_new_statements(books, folder))
    return content, refresh, standing


def _new_statements(books: Books | None, folder: BooksFolder) -> list[Statement]:
    """What the statement files say that are not there yet, or not as they are now."""
    known = set(books.tables.statements) if books else set()
    tables = replace(
        folder.tables,
        bank_accounts=(
            *(books.tables.bank_accounts if books else ()),
            *folder.tables.bank_accounts,
        ),
        accounts=(*(books.tables.accounts if books else ()), *folder.tables.accounts),
    )
    whole = Books(
        folder.client,
        tables,
        Calendar(year_end=folder.client.year_end),
        statements=books.statements if books else (),
        set_aside=books.set_aside if books else (),
    )
    found: list[Statement] = []
    used = whole.statement_paths
    for row in folder.tables.statements:
        if row not in known:
            path, number = row.path, 1
            while path in used:
                number += 1
                path = f"{row.path} ({number})"
            used.add(path)
            reading = Reading(whole, path, row.digest)
            try:
                reading.take(folder.statements[row.path], row.account, sure=True)
            except Refusal as refused:
                raise BadEntry([f"{row.path}: {refused} Nothing was taken in."]) from None
            found += reading.found
            whole = replace(whole, statements=(*whole.statements, *reading.found))
    return found


def _received(workplace: Workplace, known: ClientRow, books: Books) -> Tables:
    """What was received last, where we laid anything over it; else nothing."""
    tables = books.tables
    ours = any(row.change is not None for row in tables.amendments)
    if ours or tables.account_amendments or tables.party_amendments:
        return load_received(workplace.database.reading, known.id)
    return Tables()


def _add_standing(content: Content, tables: Tables) -> None:
    content.add_accounts(tables.accounts)
    content.add_parties(tables.parties)
    content.add_taxes(tables.taxes)
    for name in row_kinds.registry():
        content.add_kept(name, tables.of(name))


def give_out(
    workplace: Workplace, person: Person, client_code: str, to: Path, *, as_received: bool = False
) -> None:
    """Write the client's books as a books folder: with all corrections, or as received."""
    ledger = workplace.ledger(person, client_code)
    tables = ledger.books.tables
    if as_received:
        with workplace.database.snapshot() as connection:
            tables = load_received(connection, ledger.client.id)
    write_books(
        ledger.books.client,
        replace(tables, agreements=standing_rows(tables.agreements)),
        to,
        created=workplace.now,
        file_of=lambda digest: workplace.database.files / digest,
        agreed_on={
            (account, group.id): group.day
            for account in bank_accounts(ledger.books)
            for group in bank_sides(ledger.books, account).groups.values()
        },
    )
