"""Remarks on a client's books, answered and cleared; marks on the lines of the worksheet."""

from collections.abc import Mapping
from datetime import date

from corkpost.core.marks import Mark, MarkKind, StatedMark, refuse_mark, stated_marks
from corkpost.core.money import Minor
from corkpost.core.refusals import ChangedMeanwhile, Refusal, UnknownName
from corkpost.core.remarks import About, Remark, Thread, refuse_clearing, refuse_remark, threads
from corkpost.core.trial_balance import Closing, balances_at
from corkpost.services.papers import known_paper
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import remarks as store
from corkpost.store.clients import raise_revision
from corkpost.store.practice import practice_of


def remarks(workplace: Workplace, person: Person, client_code: str) -> tuple[Thread, ...]:
    """Every remark on the client's books, those that wait first."""
    ledger = workplace.ledger(person, client_code)
    return threads(_known(workplace, ledger))


def _known(workplace: Workplace, ledger: ClientState) -> tuple[Remark, ...]:
    return store.remarks_of(workplace.database.reading, ledger.client.id)


def remark(
    workplace: Workplace,
    person: Person,
    client_code: str,
    about: About,
    name: str,
    text: str,
    *,
    asks: bool = False,
    answers: int | None = None,
    paper: str | None = None,
) -> None:
    """Remark on something, or answer a remark. *paper*: the digest of a copy that was kept. The same words
    of the same person, sent once more, are kept once. Raises BadEntry or UnknownName."""
    person.must_be_allowed(May.DECIDE)
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        known = {row.number: row for row in store.remarks_of(connection, ledger.client.id)}
        if paper is not None:
            known_paper(workplace, ledger, paper)
        refuse_remark(ledger.books, known, about, name, text, answers)
        made = Remark(
            0,
            about,
            name,
            text.strip(),
            asks and answers is None,
            answers,
            person.code,
            workplace.now,
            paper=paper,
        )
        if any(_same(row, made) for row in known.values()):
            return
        store.add_remark(connection, ledger.client.id, made)
        raise_revision(connection, ledger.client.id)


def _same(row: Remark, made: Remark) -> bool:
    return row._replace(number=0, at=made.at) == made


def may_clear(person: Person, remark: Remark) -> bool:
    """Whether this person may clear it."""
    try:
        refuse_clearing(remark, person.code, person.role)
    except Refusal:
        return False
    return True


def clear(workplace: Workplace, person: Person, client_code: str, number: int) -> None:
    """Clear a remark. Raises UnknownName, NothingToDo or NotAllowed."""
    person.must_be_allowed(May.DECIDE)
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        known = {row.number: row for row in store.remarks_of(connection, ledger.client.id)}
        if number not in known:
            raise UnknownName("remark", str(number))
        refuse_clearing(known[number], person.code, person.role)
        store.clear_remark(connection, ledger.client.id, number, person.code, workplace.now)
        raise_revision(connection, ledger.client.id)


def marks(
    workplace: Workplace, person: Person, client_code: str, as_at: date
) -> Mapping[str, tuple[StatedMark, ...]]:
    """The marks on the lines of the worksheet as at that day, by account."""
    ledger = workplace.ledger(person, client_code)
    rows = store.marks_of(workplace.database.reading, ledger.client.id)
    return stated_marks(rows, as_at, _adjusted(ledger, as_at)) if rows else {}


def _adjusted(ledger: ClientState, as_at: date) -> Mapping[str, Minor]:
    return balances_at(ledger.books, as_at, closing=Closing.OUT)


def mark(
    workplace: Workplace,
    person: Person,
    client_code: str,
    account: str,
    as_at: date,
    kind: MarkKind,
    seen: Minor | None,
) -> None:
    """Mark a line at the figure that was *seen*, or take the mark off (None). Raises UnknownName,
    NotAllowed, or ChangedMeanwhile where it has another figure by now."""
    person.must_be_allowed(May.DECIDE)
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        ledger.books.account(account)
        figures = _adjusted(ledger, as_at)
        if seen is not None and seen != figures.get(account, 0):
            raise ChangedMeanwhile(
                "The figure has moved since you looked. Nothing was marked: look at it again."
            )
        rows = store.marks_of(connection, ledger.client.id)
        practice = practice_of(connection)
        refuse_mark(
            stated_marks(rows, as_at, figures).get(account, ()),
            kind,
            person.code,
            person.role,
            second_person=practice.second_person if practice else True,
        )
        made = Mark(account, as_at, kind, seen, person.code, workplace.now)
        store.add_mark(connection, ledger.client.id, made)
        raise_revision(connection, ledger.client.id)
