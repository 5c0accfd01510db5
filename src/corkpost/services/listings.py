"""Taking in what clients really send: listings in any columns and layout, several files together."""

import zipfile
from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from datetime import date
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import NamedTuple, TypeVar

from corkpost.core.books import Books, ClientFacts
from corkpost.core.chart.trade_words import Named, by_name, plain
from corkpost.core.formatting import format_date
from corkpost.core.intake.chart import ByName
from corkpost.core.intake.making import AsSaid, Made, as_said, made_of
from corkpost.core.intake.proposing import Proposed, proposed
from corkpost.core.kinds import AccountRole, AccountType, Entity
from corkpost.core.money import Currency
from corkpost.core.refusals import Refusal
from corkpost.formats.audit_file.reading import looks_like_one
from corkpost.formats.books_folder.archive import DESCRIPTOR
from corkpost.formats.books_folder.checking import Places, check_tables
from corkpost.formats.books_folder.faults import Faults
from corkpost.formats.books_folder.reading import BooksFolder
from corkpost.formats.listings.headings import currency_said
from corkpost.formats.listings.names import by_journal
from corkpost.formats.listings.packed import unpacked
from corkpost.formats.listings.questions import About, Answers, Choice, Question
from corkpost.formats.listings.sheets import Unreadable, read_sheets
from corkpost.formats.listings.understanding import FileRead, Understood, ask_difference, understand
from corkpost.formats.statements.parsed import UnreadableStatement
from corkpost.services import books, listing_statements
from corkpost.services.books import Ready, TakenIn, Tell
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace, collector_resting
from corkpost.store import clients as client_store
from corkpost.store import listings as store
from corkpost.store.charts import accounts_everywhere

TABLES = ("accounts", "parties", "taxes", "dimensions", "transactions", "lines", "allocations",
          "bank_accounts", "statements", "prior_year", "stock", "payroll", "agreements", "amendments",
          "attachments")  # fmt: skip


Of = TypeVar("Of")
LEAST_SHARED = 4
"""A word of so many signs in both names is enough."""


class NewClient(NamedTuple):
    name: str
    entity: Entity
    year_end: tuple[int, int]
    currency: Currency


class Refused(Refusal):
    title = "These files can't be taken in"

    def __init__(self, faults: Sequence[str]) -> None:
        super().__init__("\n".join([*faults, "Nothing was taken in."]))
        self.faults = tuple(faults)


class Outcome(NamedTuple):
    """*questions*: what has to be answered first; *faults*: what stands in the way, of a preview. With
    either *taken* is None. *made*: what comes of the files. *seen*: of a preview, where it is all that is
    needed for taking them in."""

    currency: Currency
    files: tuple[FileRead, ...]
    questions: tuple[Question, ...] = ()
    faults: tuple[str, ...] = ()
    proposed: Proposed | None = None
    made: Made | None = None
    taken: TakenIn | None = None
    seen: "Seen | None" = None


class Seen(NamedTuple):
    """A new client's books that were only looked at, as they can be taken in. *facts*: as what they were
    read. *used*: the answers they rest on, as they are remembered."""

    ready: Ready
    facts: ClientFacts
    used: dict[str, str]


def take_in(
    workplace: Workplace,
    person: Person,
    code: str,
    paths: Sequence[Path],
    *,
    new: NewClient | None = None,
    answers: Mapping[str, str] | None = None,
    preview: bool = False,
    tell: Tell = lambda _: None,
) -> Outcome:
    """Read files that together tell a client's books, and take them in; with *preview* only say what would
    come. Raises Refused with all that stands in the way, and nothing is taken in."""
    person.must_be_allowed(May.TAKE_IN)
    with TemporaryDirectory() as folder:
        if _package(paths) is None:
            try:
                paths = unpacked(paths, Path(folder))
            except Unreadable as wrong:
                raise Refused([str(wrong)]) from wrong
        package = _package(paths)
        if package is not None:
            return _whole(workplace, person, code, paths[0], package, preview, tell)
        with collector_resting():
            return _read(workplace, person, code, paths, new, answers, preview, tell)


def _read(
    workplace: Workplace,
    person: Person,
    code: str,
    paths: Sequence[Path],
    new: NewClient | None,
    answers: Mapping[str, str] | None,
    preview: bool,
    tell: Tell,
) -> Outcome:
    known = books.earlier_books(workplace, person, code)
    client = _client(code, known, new, preview=preview)
    asked = Answers(answers or {}, _kept(workplace, code), lent_answers(workplace, person, code))
    tell("reading")
    lists, statements = listing_statements.apart(paths, asked)
    sheets = _each(read_sheets, lists)
    banked = _each(lambda path: [listing_statements.seen(path)], statements)
    if known is None and new is None and (said_in := currency_said(sheets)) is not None:
        client = replace(client, currency=said_in)
    tell("understanding")
    understood = understand(sheets, client.currency, asked, workplace.today)
    said = _said(understood, _by_name(workplace, person, code))
    offer = proposed(said, understood.names, _codes(workplace)) if said and known is None else None
    if offer is not None and new is None:
        client = replace(client, entity=offer.entity, year_end=offer.year_end)
    made = _made(understood, said, client, known, asked) if said else None
    if known is not None:
        _ask_whose(understood, client, asked)
    accounts = (
        listing_statements.ask_accounts(statements, made, known, client.currency, asked)
        if made
        else {}
    )
    read = Outcome(
        client.currency,
        (*understood.files, *banked),
        tuple(asked.asked),
        (*understood.faults, *(made.faults if made else ())),
        offer,
        made,
    )
    if asked.asked or (preview and read.faults):
        return read
    if made is None or read.faults:
        raise Refused(read.faults)
    client = replace(client, books_from=made.first, books_to=made.last)
    folder = BooksFolder(client, made.tables, {}, made.warnings, {})
    _check(folder, known, paths)
    if preview:
        ready = books.look_at_made(workplace, folder, tell)
        is_all = ready.content is not None and not statements
        seen = Seen(ready, client, asked.used) if is_all else None
        return read._replace(taken=ready.taken, seen=seen)
    name = ", ".join(path.name for path in paths)
    taken = books.take_in_made(workplace, person, folder, name, tell)
    keep_answers(workplace, person, code, asked.used)
    told = listing_statements.take_in(workplace, person, code, statements, accounts)
    return read._replace(taken=taken._replace(warnings=(*taken.warnings, *told)))


def _package(paths: Sequence[Path]) -> str | None:
    """What a file is that holds whole books: a books folder as a zip, or a standard audit file."""
    (path, *others) = paths
    with path.open("rb") as file:
        head = file.read(2000)
    if not others and looks_like_one(head):
        return "audit-file"
    if not others and zipfile.is_zipfile(path):
        with zipfile.ZipFile(path) as archive:
            if any(name.rpartition("/")[2] == DESCRIPTOR for name in archive.namelist()):
                return "books-folder"
    return None


def _whole(
    workplace: Workplace,
    person: Person,
    code: str,
    path: Path,
    read_as: str,
    preview: bool,
    tell: Tell,
) -> Outcome:
    """Whole books are taken in as they are; of a new client nothing can be seen before."""
    coming = books.look_at(workplace, person, path, tell) if preview else None
    taken = coming.taken if coming else None
    if not preview:
        taken = books.take_in(workplace, person, path, tell, only=code)
    currency = Currency("EUR")
    file = FileRead(path.name, "", read_as, 0, 0, (), {}, None, None, "", {}, (), ())
    nothing = TakenIn(
        code, 0, 0, 0, 0, 0, ("What whole books bring shows when they are taken in.",)
    )
    return Outcome(currency, (file,), taken=taken or nothing)


def _codes(workplace: Workplace) -> set[str]:
    return {row.code for row in client_store.all_clients(workplace.database.reading)}


def _client(code: str, known: Books | None, new: NewClient | None, *, preview: bool) -> ClientFacts:
    if known is not None and new is not None and new.name.strip() != known.client.name:
        raise Refusal(
            f"{code} is {known.client.name} already. Choose another short name for {new.name}, or take the "
            f"files in as {known.client.name}'s. Nothing was taken in."
        )
    if known is not None:
        return known.client
    if new is None and preview:
        # Whose they are shows in the files, is proposed, and is confirmed before they are taken in.
        return ClientFacts(code, code, Entity.COMPANY, Currency("EUR"), (12, 31))
    if new is None:
        raise Refusal(
            f"There is no client {code!r} here. Say the name of the new client, what it is and the last "
            "day of its year."
        )
    return ClientFacts(code, new.name, new.entity, new.currency, new.year_end)


def _each(read: Callable[[Path], list[Of]], paths: Sequence[Path]) -> list[Of]:
    """What each file holds. Raises Refused with all that can't be read."""
    found: list[Of] = []
    faults = []
    for path in paths:
        try:
            found += read(path)
        except (Unreadable, UnreadableStatement) as wrong:
            says = str(wrong)
            faults.append(says if path.name in says else f"{path.name}: {says}")
    if faults:
        raise Refused(faults)
    return found


def _by_name(workplace: Workplace, person: Person, code: str) -> ByName:
    """What names of accounts say; first what those of the same name are in the charts of the practice's
    other clients that this person sees, where they are of one mind."""
    seen: dict[str, set[tuple[str, str]]] = defaultdict(set)
    whose: dict[str, str] = {}
    for row in accounts_everywhere(workplace.database.reading):
        if not row.guessed and row.client != code and person.sees(row.client):
            seen[plain(row.name)].add((row.type, row.role))
            whose.setdefault(plain(row.name), row.client)

    def by_seen(name: str) -> Named | None:
        kinds = seen.get(plain(name), set())
        if len(kinds) != 1:
            return by_name(name)
        ((type_, role),) = kinds
        said = by_name(name)
        if not role and said is not None and said.type == type_:
            # Where nobody there said a role, the name may.
            return said
        return Named(
            AccountType(type_), AccountRole(role), f"{whose[plain(name)]} has one of that name"
        )

    return by_seen


def _said(understood: Understood, by_name: ByName) -> AsSaid | None:
    """What the listings say together; None where there is no ledger, or it can't be read."""
    raw = understood.raw
    if not (raw.postings or raw.balances) and not understood.faults:
        understood.faults.append(
            "There is no ledger and no trial balance among these files: one of them is needed."
        )
    return None if understood.faults else as_said(raw, by_name)


def _made(
    understood: Understood, said: AsSaid, client: ClientFacts, known: Books | None, asked: Answers
) -> Made:
    proved = len(understood.raw.proofs)
    made = made_of(said, client, known, by_journal)
    failing = [proof for proof in made.proofs[proved:] if not proof.holds]
    if failing:
        ask_difference(understood, "the files together", failing, asked)
    if made.implied is not None:
        _ask_opening(understood, made.first, made.implied, asked)
    return made


def _ask_whose(understood: Understood, client: ClientFacts, asked: Answers) -> None:
    """Files that name somebody else may be another client's. Once confirmed it is not asked again."""
    own = {word for word in plain(client.name).split() if len(word) >= LEAST_SHARED}
    named = [name for name in understood.names if any(sign.isalpha() for sign in name)]
    if not named or not own or any(own & set(plain(name).split()) for name in named):
        return
    said = asked.to(
        About.WHOSE,
        "the files together",
        f"The files say {named[0]!r}, and these are the books of {client.name}: are they theirs?",
        [Choice("refuse", "no: they are another client's"), Choice("take-in", "yes, they are")],
        "refuse",
        layout=plain(named[0]),
    )
    if said != "take-in":
        understood.faults.append(f"The files are of {named[0]!r}, and not of {client.name}.")


def _ask_opening(understood: Understood, first: date, at: date, asked: Answers) -> None:
    said = asked.to(
        About.OPENING,
        "the files together",
        f"No list says what the accounts held before {format_date(first)}. Take what the trial balance of "
        f"{format_date(at)} holds beyond what moved until then?",
        [Choice("take-in", "yes"), Choice("refuse", "no: ask for the balances of that day")],
        "take-in",
    )
    if said == "refuse":
        understood.faults.append(f"What was there before {format_date(first)} is missing.")


def _check(folder: BooksFolder, known: Books | None, paths: Sequence[Path]) -> None:
    """What must hold between tables holds by this way too."""
    tables = folder.tables
    counts = {
        name: len(getattr(tables, name)) for name in TABLES if name not in ("lines", "dimensions")
    }
    faults = Faults()
    places = Places(
        files=dict.fromkeys(TABLES, paths[0].name),
        lines={name: [1] * counts.get(name, 0) for name in TABLES},
        lines_of=lambda: {row.id: [1] * len(row.lines) for row in tables.transactions},
        spoiled={name: set() for name in TABLES},
        on_transactions=(),
    )
    check_tables(folder.client, tables, places, faults, known)
    faults.refuse_any()


def _kept(workplace: Workplace, code: str) -> dict[str, str]:
    connection = workplace.database.reading
    client = client_store.client_named(connection, code)
    return store.answers_of(connection, client.id) if client else {}


def lent_answers(workplace: Workplace, person: Person, code: str) -> dict[str, tuple[str, str]]:
    """What was answered of each layout for another client of this person's, and whose it is."""
    found = store.answers_of_others(workplace.database.reading, code)
    return {layout: (answer, client) for layout, answer, client in found if person.sees(client)}


def keep_answers(workplace: Workplace, person: Person, code: str, used: Mapping[str, str]) -> None:
    """Remember for the client's next files what these rested on."""
    if not used:
        return
    with workplace.database.writing() as connection:
        client = client_store.client_named(connection, code)
        if client is not None:
            now = workplace.now.isoformat()
            store.keep_answers(connection, client.id, used, person.code, now)
