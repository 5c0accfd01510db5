"""Papers that come in before they are entered: each waits, or is used by what was kept with it."""

from typing import NamedTuple

from corkpost.core.refusals import Refusal, UnknownName
from corkpost.services.entries import LARGEST_PAPER, keep_paper
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store import papers as store
from corkpost.store.papers import IncomingPaper


class WaitingPaper(NamedTuple):
    """*used_by*: the transactions that it is kept with; none while it waits."""

    paper: IncomingPaper
    used_by: tuple[str, ...]


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
    if not content or len(content) > LARGEST_PAPER:
        raise Refusal(f"{name} is empty or over 20 MB. Take in a smaller file.")
    digest = workplace.keep_file(content)
    safe = "".join(sign for sign in name if sign.isprintable() and sign not in '\\/:"')[-120:]
    with workplace.database.writing() as connection:
        for known in store.incoming_of(connection, ledger.client.id):
            if known.digest == digest:
                raise Refusal(f"{name} is the same paper as {known.name}, which is here already.")
        store.add_incoming(
            connection,
            ledger.client.id,
            name=safe or "paper",
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
