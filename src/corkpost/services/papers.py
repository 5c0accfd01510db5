"""Papers: kept with a transaction, a proof or a remark, and those that came in and wait to be entered.

Their bytes are files under their digest. A person is given the papers of the clients that they may see, and
a digest is taken only where this client has it: knowing another client's gives nothing.
"""

from collections.abc import Mapping
from typing import NamedTuple

from corkpost.core.refusals import Refusal, UnknownName
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import papers as store
from corkpost.store import queries as query_store
from corkpost.store.clients import must_be_at_work, raise_revision
from corkpost.store.papers import IncomingPaper

LARGEST_PAPER = 20 * 1024 * 1024


class PaperFile(NamedTuple):
    name: str
    content: bytes


class WaitingPaper(NamedTuple):
    """*used_by*: the transactions that it is kept with; none while it waits."""

    paper: IncomingPaper
    used_by: tuple[str, ...]


def names_of_papers(workplace: Workplace, ledger: ClientState) -> Mapping[str, str]:
    """Every paper and statement of the client: its name, by its digest."""
    connection, client_id = workplace.database.reading, ledger.client.id
    tables = ledger.books.tables
    answers = [answer for query in ledger.queries for answer in query.answers]
    answers += query_store.unsorted_of(connection, client_id)
    named = [(file.digest, file.name) for answer in answers for file in answer.files]
    named += [(row.digest, row.name or row.path) for row in tables.attachments]
    named += [(row.digest, row.path) for row in tables.statements]
    named += [(row.digest, row.name) for row in store.incoming_of(connection, client_id)]
    named += [(row.digest, row.name) for row in store.copies_of(connection, client_id)]
    # Proofs that were agreed before copies were listed name theirs alone.
    named += [(row.paper, row.paper_name or "paper") for row in tables.of("tie_outs") if row.paper]
    return {digest: name.rpartition("/")[2] for digest, name in reversed(named)}


def paper(workplace: Workplace, person: Person, client_code: str, digest: str) -> PaperFile:
    """A paper or statement of this client by its digest. Raises UnknownName for one of another's."""
    ledger = workplace.ledger(person, client_code)
    name = known_paper(workplace, ledger, digest)
    return PaperFile(name, (workplace.database.files / digest).read_bytes())


def known_paper(workplace: Workplace, ledger: ClientState, digest: str) -> str:
    """The name of a paper of this client. Raises UnknownName."""
    names = names_of_papers(workplace, ledger)
    if digest not in names:
        raise UnknownName("paper", digest)
    return names[digest]


def keep_copy(
    workplace: Workplace, person: Person, client_code: str, name: str, content: bytes
) -> str:
    """Keep a copy of a paper that proves a figure or goes with a remark; its digest, which says so."""
    person.must_be_allowed(May.POST)
    ledger = workplace.ledger(person, client_code)
    digest = _kept(workplace, name, content)
    with workplace.database.writing() as connection:
        must_be_at_work(connection, ledger.client.id)
        store.add_copy(
            connection,
            ledger.client.id,
            name=_safe(name),
            digest=digest,
            made_by=person.code,
            made_at=workplace.now,
        )
    return digest


def keep_paper(
    workplace: Workplace,
    person: Person,
    client_code: str,
    transaction: str,
    name: str,
    content: bytes,
) -> None:
    """Keep a copy of a paper with a transaction, once. Free at any time: it moves no figure."""
    person.must_be_allowed(May.POST)
    ledger = workplace.ledger(person, client_code)
    ledger.books.transaction(transaction)
    digest = _kept(workplace, name, content)
    with workplace.database.writing() as connection:
        kept = workplace.ledger(person, client_code).books.tables.attachments
        if any((row.transaction, row.digest) == (transaction, digest) for row in kept):
            return
        store.add_paper(
            connection,
            ledger.client.id,
            transaction,
            name=_safe(name),
            digest=digest,
            made_by=person.code,
            made_at=workplace.now,
        )
        raise_revision(connection, ledger.client.id)


def _kept(workplace: Workplace, name: str, content: bytes) -> str:
    if not content or len(content) > LARGEST_PAPER:
        raise Refusal(f"{name} is empty or over 20 MB. Attach a smaller file.")
    return workplace.keep_file(content)


def _safe(name: str) -> str:
    """A name that is a file's name and nothing else."""
    return (
        "".join(sign for sign in name if sign.isprintable() and sign not in '\\/:"')[-120:]
        or "paper"
    )


def incoming(workplace: Workplace, person: Person, client_code: str) -> tuple[WaitingPaper, ...]:
    """Every paper that came in for the client, those that wait first."""
    ledger = workplace.ledger(person, client_code)
    used: dict[str, list[str]] = {}
    for kept in ledger.books.tables.attachments:
        used.setdefault(kept.digest, []).append(kept.transaction)
    found = [
        WaitingPaper(paper, tuple(used.get(paper.digest, ())))
        for paper in store.incoming_of(workplace.database.reading, ledger.client.id)
    ]
    return tuple(sorted(found, key=lambda row: (bool(row.used_by), row.paper.number)))


def take_in_paper(
    workplace: Workplace, person: Person, client_code: str, name: str, content: bytes
) -> None:
    """Keep a paper until it is entered. Raises Refusal for one that is there already."""
    person.must_be_allowed(May.POST)
    ledger = workplace.ledger(person, client_code)
    digest = _kept(workplace, name, content)
    with workplace.database.writing() as connection:
        must_be_at_work(connection, ledger.client.id)
        for known in store.incoming_of(connection, ledger.client.id):
            if known.digest == digest:
                raise Refusal(f"{name} is the same paper as {known.name}, which is here already.")
        store.add_incoming(
            connection,
            ledger.client.id,
            name=_safe(name),
            digest=digest,
            made_by=person.code,
            made_at=workplace.now,
        )


def use_paper(
    workplace: Workplace, person: Person, client_code: str, digest: str, transaction: str
) -> tuple[str, ...]:
    """Keep a paper that came in with a transaction. What else it is used by, which may be meant. Raises
    UnknownName."""
    known = {row.paper.digest: row for row in incoming(workplace, person, client_code)}
    if digest not in known:
        raise UnknownName("paper that came in", digest[:12])
    row = known[digest]
    content = (workplace.database.files / digest).read_bytes()
    keep_paper(workplace, person, client_code, transaction, row.paper.name, content)
    return tuple(name for name in row.used_by if name != transaction)
