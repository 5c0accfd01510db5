"""Questions to clients: what was asked, sent, answered; who answers for a client; what was read."""

import json
import sqlite3
from collections import defaultdict
from datetime import date, datetime
from typing import NamedTuple

from corkpost.core.queries import Answer, AnswerFile, Contact, Query

CONTACT = """
    SELECT name, email FROM contacts WHERE client_id = :client_id ORDER BY number DESC LIMIT 1
"""
ADD_CONTACT = """
    INSERT INTO contacts (client_id, number, name, email, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :name, :email, :made_by, :made_at
    FROM contacts
    WHERE client_id = :client_id
"""
QUERIES = """
    SELECT query.number, query.point,
           COALESCE((SELECT wording.question FROM query_wordings AS wording
                     WHERE wording.client_id = query.client_id AND wording.query = query.number
                     ORDER BY wording.number DESC LIMIT 1), query.question),
           query.transactions, query.back_on, query.made_by, query.made_at, ending.how
    FROM queries AS query
    LEFT JOIN query_ends AS ending
      ON ending.client_id = query.client_id AND ending.query = query.number
    WHERE query.client_id = :client_id
    ORDER BY query.number
"""
ADD_QUERY = """
    INSERT INTO queries (client_id, number, point, question, transactions, back_on, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :point, :question, :transactions, :back_on,
           :made_by, :made_at
    FROM queries
    WHERE client_id = :client_id
    RETURNING number
"""
ADD_WORDING = """
    INSERT INTO query_wordings (client_id, query, number, question, made_by, made_at)
    SELECT :client_id, :query, COALESCE(MAX(number), 0) + 1, :question, :made_by, :made_at
    FROM query_wordings
    WHERE client_id = :client_id AND query = :query
"""
ADD_END = """
    INSERT INTO query_ends (client_id, query, how, made_by, made_at)
    VALUES (:client_id, :query, :how, :made_by, :made_at)
    ON CONFLICT DO NOTHING
"""
SENT_MESSAGES = """
    SELECT message.queries, sending.sent_at
    FROM messages AS message
    JOIN message_sendings AS sending
      ON sending.client_id = message.client_id AND sending.message = message.number
    WHERE message.client_id = :client_id
    ORDER BY message.number
"""
ADD_MESSAGE = """
    INSERT INTO messages (
      client_id, number, token, to_name, to_email, subject, body, queries, made_by,
      made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :token, :to_name, :to_email, :subject, :body,
           :queries, :made_by, :made_at
    FROM messages
    WHERE client_id = :client_id
    RETURNING number
"""
ADD_SENDING = """
    INSERT INTO message_sendings (client_id, message, sent_at)
    VALUES (:client_id, :message, :sent_at)
"""
MESSAGE_WITH_TOKEN = """
    SELECT client_id, number, to_email, body, queries FROM messages WHERE token = :token
"""
ANSWERS = """
    SELECT query, number, body, files, received_at, from_email, taken_by
    FROM answers
    WHERE client_id = :client_id
      AND number NOT IN (SELECT sorted_from FROM answers
                         WHERE client_id = :client_id AND sorted_from IS NOT NULL)
    ORDER BY number
"""
ADD_ANSWER = """
    INSERT INTO answers (
      client_id, number, message, query, body, files, from_email, taken_by, received_at,
      sorted_from)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :message, :query, :body, :files, :from_email,
           :taken_by, :received_at, :sorted_from
    FROM answers
    WHERE client_id = :client_id
"""
IS_READ = "SELECT 1 FROM mail_read WHERE mark = :mark"
BEGIN_READING = """
    INSERT INTO mail_begun (mark, tries) VALUES (:mark, 1)
    ON CONFLICT (mark) DO UPDATE SET tries = tries + 1
    RETURNING tries
"""
MARK_READ = "INSERT INTO mail_read (mark) VALUES (:mark) ON CONFLICT DO NOTHING"


class SentMessage(NamedTuple):
    client_id: int
    number: int
    to_email: str
    body: str
    queries: tuple[int, ...]


def contact_of(connection: sqlite3.Connection, client_id: int) -> Contact | None:
    row = connection.execute(CONTACT, {"client_id": client_id}).fetchone()
    return Contact(*row) if row else None


def set_contact(
    connection: sqlite3.Connection, client_id: int, contact: Contact, made_by: str, at: datetime
) -> None:
    named = {**contact._asdict(), "client_id": client_id, "made_by": made_by, "made_at": _at(at)}
    connection.execute(ADD_CONTACT, named)


def queries_of(connection: sqlite3.Connection, client_id: int) -> tuple[Query, ...]:
    """Every question about the client, by number, with when it went out and what came back."""
    named = {"client_id": client_id}
    sent: dict[int, list[datetime]] = defaultdict(list)
    for numbers, at in connection.execute(SENT_MESSAGES, named):
        for number in json.loads(numbers):
            sent[number].append(datetime.fromisoformat(at))
    answers: dict[int | None, list[Answer]] = defaultdict(list)
    for row in connection.execute(ANSWERS, named):
        answers[row[0]].append(_answer(*row[1:]))
    return tuple(
        Query(
            number=row[0],
            point=row[1],
            question=row[2],
            transactions=tuple(json.loads(row[3])),
            back_on=date.fromisoformat(row[4]) if row[4] else None,
            made_by=row[5],
            made_at=datetime.fromisoformat(row[6]),
            sent=tuple(sent[row[0]]),
            answers=tuple(answers[row[0]]),
            ended=row[7],
        )
        for row in connection.execute(QUERIES, named)
    )


def unsorted_of(connection: sqlite3.Connection, client_id: int) -> tuple[Answer, ...]:
    """What came back and does not say to which question it belongs."""
    return tuple(
        _answer(*row[1:])
        for row in connection.execute(ANSWERS, {"client_id": client_id})
        if row[0] is None
    )


def _answer(
    number: int,
    body: str,
    files: str,
    received_at: str,
    from_email: str | None,
    taken_by: str | None,
) -> Answer:
    kept = tuple(AnswerFile(*file) for file in json.loads(files))
    return Answer(body, kept, datetime.fromisoformat(received_at), from_email, taken_by, number)


def add_query(
    connection: sqlite3.Connection,
    client_id: int,
    *,
    point: str | None,
    question: str,
    transactions: tuple[str, ...],
    back_on: date | None,
    made_by: str,
    made_at: datetime,
) -> int:
    row = connection.execute(
        ADD_QUERY,
        {
            "client_id": client_id,
            "point": point,
            "question": question,
            "transactions": json.dumps(transactions),
            "back_on": back_on.isoformat() if back_on else None,
            "made_by": made_by,
            "made_at": _at(made_at),
        },
    ).fetchone()
    return int(row[0])


def add_wording(
    connection: sqlite3.Connection,
    client_id: int,
    query: int,
    question: str,
    made_by: str,
    at: datetime,
) -> None:
    connection.execute(
        ADD_WORDING,
        {
            "client_id": client_id,
            "query": query,
            "question": question,
            "made_by": made_by,
            "made_at": _at(at),
        },
    )


def end_query(
    connection: sqlite3.Connection, client_id: int, query: int, how: str, made_by: str, at: datetime
) -> None:
    connection.execute(
        ADD_END,
        {
            "client_id": client_id,
            "query": query,
            "how": how,
            "made_by": made_by,
            "made_at": _at(at),
        },
    )


def add_message(
    connection: sqlite3.Connection,
    client_id: int,
    *,
    token: str,
    to: Contact,
    subject: str,
    body: str,
    queries: tuple[int, ...],
    made_by: str,
    made_at: datetime,
) -> int:
    row = connection.execute(
        ADD_MESSAGE,
        {
            "client_id": client_id,
            "token": token,
            "to_name": to.name,
            "to_email": to.email,
            "subject": subject,
            "body": body,
            "queries": json.dumps(queries),
            "made_by": made_by,
            "made_at": _at(made_at),
        },
    ).fetchone()
    return int(row[0])


def add_sending(connection: sqlite3.Connection, client_id: int, message: int, at: datetime) -> None:
    connection.execute(
        ADD_SENDING, {"client_id": client_id, "message": message, "sent_at": _at(at)}
    )


def message_with(connection: sqlite3.Connection, token: str) -> SentMessage | None:
    row = connection.execute(MESSAGE_WITH_TOKEN, {"token": token}).fetchone()
    return SentMessage(row[0], row[1], row[2], row[3], tuple(json.loads(row[4]))) if row else None


def add_answer(
    connection: sqlite3.Connection,
    client_id: int,
    answer: Answer,
    *,
    query: int | None,
    message: int | None = None,
) -> None:
    """An *answer* that has a number already is one that came in and is given to its question now."""
    connection.execute(
        ADD_ANSWER,
        {
            "sorted_from": answer.number,
            "client_id": client_id,
            "message": message,
            "query": query,
            "body": answer.text,
            "files": json.dumps(answer.files, ensure_ascii=False),
            "from_email": answer.from_email,
            "taken_by": answer.taken_by,
            "received_at": _at(answer.received_at),
        },
    )


def is_read(connection: sqlite3.Connection, mark: str) -> bool:
    return connection.execute(IS_READ, {"mark": mark}).fetchone() is not None


def begin_reading(connection: sqlite3.Connection, mark: str) -> int:
    """Note that a message's reading begins; how often it began."""
    row = connection.execute(BEGIN_READING, {"mark": mark}).fetchone()
    return int(row[0])


def mark_read(connection: sqlite3.Connection, mark: str) -> None:
    connection.execute(MARK_READ, {"mark": mark})


def _at(moment: datetime) -> str:
    return moment.isoformat(timespec="seconds")
