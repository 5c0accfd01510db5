"""What was answered about a client's listings: seen, named, changed, forgotten, given out and brought."""

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from corkpost.core.refusals import UnknownName
from corkpost.formats.listings.remembered import (
    Remembered,
    as_document,
    must_fit,
    of_document,
    of_key,
)
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store import listings as store
from corkpost.store.clients import must_be_at_work


def answers(
    workplace: Workplace, person: Person, code: str
) -> tuple[list[Remembered], dict[str, str]]:
    """What was answered and who said it; and what layouts are called. Raises UnknownName."""
    client = workplace.ledger(person, code).client.id
    connection = workplace.database.reading
    kept = [of_key(*row) for row in store.kept_answers(connection, client)]
    return kept, store.layout_names(connection, client)


def change(
    workplace: Workplace, person: Person, code: str, about: str, layout: str, answer: str
) -> None:
    """Answer otherwise what was answered: the next file of the layout is read so. Raises UnknownName,
    BadAnswers."""
    must_fit(about, answer)
    row = Remembered(layout, about, answer)
    with _writing(workplace, person, code) as (connection, client):
        if row.key not in store.answers_of(connection, client):
            raise UnknownName("answer", about)
        now = workplace.now.isoformat()
        store.keep_answers(connection, client, {row.key: answer}, person.code, now)


def forget(workplace: Workplace, person: Person, code: str, about: str, layout: str) -> None:
    """Forget one, so that the next file of the layout asks anew. Raises UnknownName."""
    with _writing(workplace, person, code) as (connection, client):
        if not store.forget(connection, client, Remembered(layout, about, "").key):
            raise UnknownName("answer", about)


def forget_all(workplace: Workplace, person: Person, code: str) -> int:
    """Forget them all; how many they were. Raises UnknownName."""
    with _writing(workplace, person, code) as (connection, client):
        return sum(
            store.forget(connection, client, key) for key in store.answers_of(connection, client)
        )


def name(workplace: Workplace, person: Person, code: str, layout: str, called: str) -> None:
    """What a layout is called from now on. Raises UnknownName."""
    with _writing(workplace, person, code) as (connection, client):
        if layout not in {of_key(*row).layout for row in store.kept_answers(connection, client)}:
            raise UnknownName("layout", layout)
        store.name_layout(connection, client, layout, called.strip())


def given_out(workplace: Workplace, person: Person, code: str) -> dict[str, Any]:
    """All of them as a document that another client or practice is brought. Raises UnknownName."""
    return as_document(*answers(workplace, person, code))


def brought(workplace: Workplace, person: Person, code: str, document: Any) -> int:
    """Take such a document in beside what is there, which it replaces; how many answers it has. Raises
    UnknownName, BadAnswers: then nothing of it is taken in."""
    found, names = of_document(document)
    with _writing(workplace, person, code) as (connection, client):
        now = workplace.now.isoformat()
        said = {row.key: row.answer for row in found}
        store.keep_answers(connection, client, said, person.code, now)
        for layout, called in names.items():
            store.name_layout(connection, client, layout, called)
    return len(found)


@contextmanager
def _writing(
    workplace: Workplace, person: Person, code: str
) -> Iterator[tuple[sqlite3.Connection, int]]:
    person.must_be_allowed(May.TAKE_IN)
    client = workplace.ledger(person, code).client.id
    with workplace.database.writing() as connection:
        must_be_at_work(connection, client)
        yield connection, client
