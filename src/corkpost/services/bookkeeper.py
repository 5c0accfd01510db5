"""Telling the client's bookkeeper what we entered and what it means for the daily books."""

from collections import defaultdict
from collections.abc import Sequence
from typing import NamedTuple

from corkpost.core.explaining import Explained, ToldKind, explained, news, told_kinds
from corkpost.core.formatting import format_date
from corkpost.core.points import Point, PointState
from corkpost.core.refusals import Refusal
from corkpost.core.states import point_of
from corkpost.formats.bookkeeper_list import body_of, journals_csv
from corkpost.formats.letters import letter
from corkpost.services import mail, staff
from corkpost.services.review import stated_points
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import queries as query_store
from corkpost.store import tellings as store
from corkpost.store.clients import raise_revision
from corkpost.store.tellings import Telling


class NothingNew(Refusal):
    title = "Nothing to tell"


class ForBookkeeper(NamedTuple):
    """*kinds*: what is to be told, by kind. *taken_back*: what was told and does not stand any more.
    *to*: name and address that it would go to."""

    ledger: ClientState
    kinds: tuple[ToldKind, ...]
    taken_back: tuple[Explained, ...]
    tellings: tuple[Telling, ...]
    to: tuple[str, str]

    @property
    def items(self) -> tuple[Explained, ...]:
        return tuple(explained for kind in self.kinds for explained in kind.items)


def for_bookkeeper(
    workplace: Workplace, person: Person, client_code: str, *, told_too: bool = False
) -> ForBookkeeper:
    """What the bookkeeper was not told yet; or, with what was told, everything that stands."""
    ledger = workplace.ledger(person, client_code)
    connection = workplace.database.reading
    tellings = store.tellings_of(connection, ledger.client.id)
    standing = (s.point for s in stated_points(ledger) if s.state is not PointState.CORRECTED)
    every = explained(ledger.books, _points(ledger), standing)
    told = frozenset(number for telling in tellings for number in telling.changes)
    wanted, taken_back = news(every, told, told_too=told_too)
    contact = query_store.contact_of(connection, ledger.client.id)
    went = [telling.to_email for telling in tellings if telling.to_email]
    name = contact.name if contact else "bookkeeper"
    address = went[-1] if went else contact.email if contact else ""
    return ForBookkeeper(
        ledger, told_kinds(ledger.books, wanted, every), taken_back, tellings, (name, address)
    )


def _points(ledger: ClientState) -> dict[int, list[Point]]:
    found: dict[int, list[Point]] = defaultdict(list)
    for decision in ledger.decisions.values():
        if decision.change is not None and decision.state is PointState.CORRECTED:
            found[decision.change].append(point_of(decision.seen))
    return found


def in_plain_words(ledger: ClientState, change: int) -> Explained | None:
    """One change of ours as its bookkeeper would be told; None where there is nothing to tell."""
    return next((o for o in explained(ledger.books, _points(ledger)) if o.change == change), None)


def body(workplace: Workplace, person: Person, found: ForBookkeeper) -> str:
    """The message as the bookkeeper reads it."""
    return body_of(
        to=found.to[0],
        sender=person.name,
        practice=staff.practice(workplace).name,
        client=found.ledger.books.client.name,
        kinds=found.kinds,
        taken_back=found.taken_back,
    )


def paper(workplace: Workplace, found: ForBookkeeper) -> bytes:
    """The list as a PDF, with its journals."""
    # Takes half a second to import: only who wants a paper waits for it.
    from corkpost.pack.bookkeeper_pdf import bookkeeper_pdf

    return bookkeeper_pdf(
        found.ledger.books,
        practice=staff.practice(workplace).name,
        made_on=format_date(workplace.today),
        kinds=found.kinds,
        taken_back=found.taken_back,
    )


def table(found: ForBookkeeper) -> bytes:
    """The journals as CSV."""
    return journals_csv(found.ledger.books, found.items)


def tell(
    workplace: Workplace,
    person: Person,
    client_code: str,
    changes: Sequence[int],
    to: str | None = None,
) -> Telling:
    """Tell what is not told yet: by mail with the list as PDF and CSV, or marked as handed over.

    *changes*: what the person was shown; raises Refusal where that is not what would be told, NoMail
    where nothing went out, NothingNew.
    """
    person.must_be_allowed(May.POST)
    address = mail.address_of(to) if to else None
    found = for_bookkeeper(workplace, person, client_code)
    numbers = numbers_of(found)
    if not numbers:
        raise NothingNew("The bookkeeper was told everything that there is.")
    if tuple(changes) != numbers:
        raise Refusal(
            "Somebody posted here since you looked, and there is other news now. Nothing was sent. "
            "Look at the list as it stands, then send it."
        )
    words = body(workplace, person, found)
    if address:
        server = mail.own(workplace.mail)
        practice = staff.practice(workplace).name
        files = [
            ("for the bookkeeper.pdf", paper(workplace, found)),
            ("journals.csv", table(found)),
        ]
        name = found.ledger.books.client.name
        mail.send(
            server,
            letter(
                subject=f"What we entered in the books of {name}",
                body=words,
                sender=(practice, server.address),
                to=(found.to[0], address),
                files=files,
            ),
        )
    with workplace.database.writing() as connection:
        client_id = found.ledger.client.id
        store.add_telling(
            connection,
            client_id,
            to_email=address,
            body=words,
            changes=numbers,
            made_by=person.code,
            made_at=workplace.now,
        )
        raise_revision(connection, client_id)
        return store.tellings_of(connection, client_id)[-1]


def numbers_of(found: ForBookkeeper) -> tuple[int, ...]:
    """The changes that would be told; below nil those that are told to be taken back."""
    new = (explained.change for explained in found.items)
    return (*sorted(new), *(-explained.change for explained in found.taken_back))
