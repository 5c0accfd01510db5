"""Questions to the client: gathered, sent as one message, answered, read."""

from collections.abc import Sequence
from datetime import date
from typing import NamedTuple

from corkpost.core.formatting import format_date
from corkpost.core.money import Currency
from corkpost.core.queries import Answer, AnswerFile, Contact, Query, QueryState, later_day
from corkpost.core.refusals import NoReason, UnknownName
from corkpost.formats.mail_apart import read_apart
from corkpost.formats.query_mail import (
    Asked,
    Part,
    Reply,
    body_of,
    message_of,
    new_token,
    subject_of,
    token_in,
)
from corkpost.services import mail, staff
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import clients as client_store
from corkpost.store import papers as paper_store
from corkpost.store import queries as store

LONGEST = 2_000
MOST_IN_A_MESSAGE = 60
WHOLE = "the message as it came.eml"
"""The name of the message itself among its files."""


class QueryBoard(NamedTuple):
    """Everything about a client's questions. *unsorted*: answers that name no question."""

    ledger: ClientState
    contact: Contact | None
    may_send: bool
    queries: tuple[Query, ...]
    unsorted: tuple[Answer, ...]


class Letter(NamedTuple):
    """A message as it would go out."""

    to: Contact
    subject: str
    body: str
    queries: tuple[int, ...]


def board(workplace: Workplace, person: Person, client_code: str) -> QueryBoard:
    """The client's questions, who answers them, what came back."""
    ledger = workplace.ledger(person, client_code)
    connection = workplace.database.reading
    return QueryBoard(
        ledger,
        store.contact_of(connection, ledger.client.id),
        workplace.mail is not None,
        ledger.queries,
        store.unsorted_of(connection, ledger.client.id),
    )


def set_contact(
    workplace: Workplace, person: Person, client_code: str, name: str, email: str
) -> None:
    """Who answers for the client from now on."""
    person.must_be_allowed(May.DECIDE)
    ledger = workplace.ledger(person, client_code)
    contact = Contact(" ".join(name.split()), mail.address_of(email))
    if not contact.name:
        raise mail.Malformed("Give a name beside the address.")
    with workplace.database.writing() as connection:
        store.set_contact(connection, ledger.client.id, contact, person.code, workplace.now)
        client_store.raise_revision(connection, ledger.client.id)


def ask(
    workplace: Workplace,
    person: Person,
    client_code: str,
    question: str,
    transactions: Sequence[str],
    back_on: date | None = None,
) -> int:
    """A question about entries that no check speaks of; its number."""
    person.must_be_allowed(May.DECIDE)
    ledger = workplace.ledger(person, client_code)
    for name in transactions:
        ledger.books.transaction(name)
    words = _worded(question)
    with workplace.database.writing() as connection:
        for query in workplace.ledger(person, client_code).queries:
            same = (query.question, query.transactions) == (words, tuple(transactions))
            if same and query.point is None and query.ended is None:
                return query.number
        number = store.add_query(
            connection,
            ledger.client.id,
            point=None,
            question=words,
            transactions=tuple(transactions),
            back_on=later_day(back_on, workplace.today),
            made_by=person.code,
            made_at=workplace.now,
        )
        client_store.raise_revision(connection, ledger.client.id)
    return number


def _worded(question: str) -> str:
    words = "\n".join(line.strip() for line in question.strip().splitlines())
    if not words:
        raise NoReason()
    if len(words) > LONGEST:
        raise mail.Malformed(f"The question has {len(words)} signs: {LONGEST} are the most.")
    return words


def reword(
    workplace: Workplace, person: Person, client_code: str, number: int, question: str
) -> None:
    """Other words for a question that is not sent yet."""
    person.must_be_allowed(May.DECIDE)
    words = _worded(question)
    with workplace.database.writing() as connection:
        ledger, query = _named(workplace, person, client_code, number)
        if query.sent:
            raise mail.Malformed("It was sent already. Ask anew instead.")
        store.add_wording(connection, ledger.client.id, number, words, person.code, workplace.now)
        client_store.raise_revision(connection, ledger.client.id)


def end(workplace: Workplace, person: Person, client_code: str, number: int) -> None:
    """Take a question back that was not sent, or lay an answered one aside."""
    person.must_be_allowed(May.DECIDE)
    with workplace.database.writing() as connection:
        ledger, query = _named(workplace, person, client_code, number)
        if query.point and query.end is QueryState.WITHDRAWN:
            raise mail.Malformed(
                "It belongs to a review point: open that point again, with a reason."
            )
        store.end_query(connection, ledger.client.id, number, query.end, person.code, workplace.now)
        client_store.raise_revision(connection, ledger.client.id)


def write_down(
    workplace: Workplace, person: Person, client_code: str, number: int, text: str
) -> None:
    """An answer that did not come by mail: what the client said."""
    person.must_be_allowed(May.DECIDE)
    words = _worded(text)
    with workplace.database.writing() as connection:
        ledger, query = _named(workplace, person, client_code, number)
        if query.ended:
            raise mail.Malformed("That question is closed.")
        answer = Answer(words, (), workplace.now, None, person.code)
        store.add_answer(connection, ledger.client.id, answer, query=number)
        client_store.raise_revision(connection, ledger.client.id)


def sort(workplace: Workplace, person: Person, client_code: str, answer: int, number: int) -> None:
    """Give an answer that names no question to the one that it belongs to, its files too."""
    person.must_be_allowed(May.DECIDE)
    with workplace.database.writing() as connection:
        ledger, query = _named(workplace, person, client_code, number)
        if query.ended:
            raise mail.Malformed("That question is closed.")
        found = store.unsorted_of(connection, ledger.client.id)
        one = next((held for held in found if held.number == answer), None)
        if one is None:
            raise UnknownName("answer without a question", str(answer))
        store.add_answer(connection, ledger.client.id, one, query=number)
        for file in one.files:
            if query.transactions and file.name != WHOLE:
                _as_evidence(workplace, ledger.client.id, query, file)
        client_store.raise_revision(connection, ledger.client.id)


def _as_evidence(workplace: Workplace, client_id: int, query: Query, file: AnswerFile) -> None:
    """An answer is evidence: its files lie with the entry that was asked about."""
    paper_store.add_paper(
        workplace.database.reading,
        client_id,
        query.transactions[0],
        name=file.name,
        digest=file.digest,
        made_by=query.made_by,
        made_at=workplace.now,
    )


def _named(
    workplace: Workplace, person: Person, client_code: str, number: int
) -> tuple[ClientState, Query]:
    ledger = workplace.ledger(person, client_code)
    for query in ledger.queries:
        if query.number == number:
            return ledger, query
    raise UnknownName("question", str(number))


# -- sending


def letter(
    workplace: Workplace, person: Person, client_code: str, numbers: Sequence[int], token: str = "…"
) -> Letter:
    """The message with these questions, as the client would read it. Raises mail.Malformed."""
    found = board(workplace, person, client_code)
    if found.contact is None:
        raise mail.Malformed("Say who answers for this client first: a name and an address.")
    wanted = dict.fromkeys(numbers)
    chosen = [query for query in found.queries if query.number in wanted]
    if not chosen or len(chosen) != len(wanted) or len(chosen) > MOST_IN_A_MESSAGE:
        raise mail.Malformed(f"Choose up to {MOST_IN_A_MESSAGE} questions of this client.")
    closed = [q for q in chosen if q.ended or q.answers]
    if closed:
        raise mail.Malformed(f"Question {closed[0].number} is answered or closed already.")
    books = found.ledger.books
    asked = [
        Asked(
            q.number,
            q.question,
            _about(found.ledger, q),
            format_date(q.sent[0].date()) if q.sent else None,
        )
        for q in chosen
    ]
    again = all(question.before for question in asked)
    practice = staff.practice(workplace).name
    return Letter(
        found.contact,
        subject_of(books.client.name, len(asked), token, again=again),
        body_of(found.contact.name, person.name, practice, books.client.name, asked),
        tuple(query.number for query in chosen),
    )


def _about(ledger: ClientState, query: Query) -> tuple[str, ...]:
    books = ledger.books
    currency: Currency = books.client.currency
    lines = []
    for name in query.transactions:
        posted = books.transactions.get(name)
        if posted is not None:
            who = books.party_name(posted.party) if posted.party else None
            words = (posted.reference, who, posted.memo)
            told = ", ".join(word for word in words if word)
            lines.append(
                f"{format_date(posted.posting_date)}, {currency.format_amount(posted.total)} "
                f"{currency.code}" + (f", {told}" if told else "")
            )
    return tuple(lines)


def send(workplace: Workplace, person: Person, client_code: str, numbers: Sequence[int]) -> Letter:
    """Send these questions as one message. Written down first, and as sent once it went out."""
    person.must_be_allowed(May.DECIDE)
    token = new_token()
    written = letter(workplace, person, client_code, numbers, token)
    ledger = workplace.ledger(person, client_code)
    server = mail.own(workplace.mail)
    with workplace.database.writing() as connection:
        number = store.add_message(
            connection,
            ledger.client.id,
            token=token,
            to=written.to,
            subject=written.subject,
            body=written.body,
            queries=written.queries,
            made_by=person.code,
            made_at=workplace.now,
        )
    sender = (staff.practice(workplace).name, server.address)
    mail.send(
        server,
        message_of(
            subject=written.subject,
            body=written.body,
            sender=sender,
            to=(written.to.name, written.to.email),
            token=token,
        ),
    )
    with workplace.database.writing() as connection:
        store.add_sending(connection, ledger.client.id, number, workplace.now)
        client_store.raise_revision(connection, ledger.client.id)
    return written


# -- what comes back


def look_for_answers(workplace: Workplace) -> int:
    """Read what came to the practice's mailbox; how many messages were answers to ours.

    What answers no message of ours is left there. Raises NoMail.
    """
    server = mail.own(workplace.mail)

    def is_known(mark: str) -> bool:
        return store.is_read(workplace.database.reading, mark)

    return mail.receive(server, is_known, lambda received: _taken(workplace, received))


def _taken(workplace: Workplace, received: mail.Received) -> bool:
    """Keep an answer with its questions; whether it was one. It is looked at once."""
    token = token_in(received.content)
    connection = workplace.database.reading
    message = store.message_with(connection, token) if token else None
    parts: tuple[Part, ...] = ()
    sender = ""
    if message is not None:
        reply = _read_once(workplace, received, message)
        parts, sender = reply.parts, reply.sender
        # Whatever a reader makes of it, the message itself is kept.
        whole = ((WHOLE, received.content),)
        first, *others = parts or (Part(None, "The message has no words of its own.", ()),)
        parts = (first._replace(files=(*first.files, *whole)), *others)
    files = {data: workplace.keep_file(data) for part in parts for _, data in part.files}
    with workplace.database.writing() as connection:
        if store.is_read(connection, received.mark):
            return False
        store.mark_read(connection, received.mark)
        if message is None:
            return False
        # To an archived client what comes from outside is kept, and moves nothing.
        is_archived = message.client_id in client_store.archived(connection)
        about = {q.number: q for q in store.queries_of(connection, message.client_id)}
        for part in parts:
            kept = tuple(AnswerFile(_safe(name), files[data]) for name, data in part.files)
            answer = Answer(part.text, kept, workplace.now, sender)
            store.add_answer(
                connection, message.client_id, answer, query=part.query, message=message.number
            )
            query = about.get(part.query or 0)
            if query is None or not query.transactions or is_archived:
                continue
            for file in kept:
                if file.name != WHOLE:
                    _as_evidence(workplace, message.client_id, query, file)
        client_store.raise_revision(connection, message.client_id, though_archived=True)
    return True


MOST_BEGUN = 2


def _read_once(workplace: Workplace, received: mail.Received, message: store.SentMessage) -> Reply:
    """What it answers, read in a process of its own. That reading began is noted before: one that ended the
    program twice is kept whole, and not read."""
    with workplace.database.writing() as connection:
        begun = store.begin_reading(connection, received.mark)
    if begun > MOST_BEGUN:
        return Reply(token_in(received.content), "", ())
    return read_apart(received.content, message.queries, message.body)


def _safe(name: str) -> str:
    plain = "".join(sign for sign in name if sign.isprintable() and sign not in '\\/:"')
    return plain[-120:] or "file"
