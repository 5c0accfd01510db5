"""Queries: questions to the client, which wait for an answer and come back with it."""

from datetime import date, datetime
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.formatting import format_date
from corkpost.core.refusals import Refusal


class NotLater(Refusal):
    title = "That day is no later one"


class QueryState(StrEnum):
    TO_SEND = "to send"
    WAITING = "waiting"
    LATE = "late"
    """Sent, not answered, and the chosen day has come."""
    ANSWERED = "answered"
    DONE = "done"
    WITHDRAWN = "withdrawn"


TO_DO = frozenset({QueryState.TO_SEND, QueryState.ANSWERED, QueryState.LATE})
"""What is the practice's to do, not the client's."""


class Contact(NamedTuple):
    """Who answers for the client."""

    name: str
    email: str


class AnswerFile(NamedTuple):
    name: str
    digest: str


class Answer(NamedTuple):
    """What came back. *taken_by*: who wrote it down, where it did not come by mail."""

    text: str
    files: tuple[AnswerFile, ...]
    received_at: datetime
    from_email: str | None = None
    taken_by: str | None = None
    number: int | None = None
    """Under which it is kept."""


class Query(NamedTuple):
    """*point*: the review point that waits for it. *sent*: when it went out, each time."""

    number: int
    point: str | None
    question: str
    transactions: tuple[str, ...]
    back_on: date | None
    made_by: str
    made_at: datetime
    sent: tuple[datetime, ...] = ()
    answers: tuple[Answer, ...] = ()
    ended: str | None = None

    def state(self, today: date) -> QueryState:
        if self.ended is not None:
            return QueryState(self.ended)
        if self.answers:
            return QueryState.ANSWERED
        late = self.back_on is not None and self.back_on <= today
        if late:
            return QueryState.LATE
        return QueryState.WAITING if self.sent else QueryState.TO_SEND

    @property
    def end(self) -> QueryState:
        """How it ends when somebody is through with it: one that nobody saw is withdrawn."""
        return QueryState.DONE if self.sent or self.answers else QueryState.WITHDRAWN

    def is_back(self, today: date) -> bool:
        """Whether its point wants deciding again: with the answer, or since none came in time."""
        return self.state(today) in (QueryState.ANSWERED, QueryState.LATE)


def later_day(back_on: date | None, today: date) -> date | None:
    """The day on which a question comes back without an answer. Raises NotLater."""
    if back_on is not None and back_on <= today:
        raise NotLater(f"It comes back after today: choose a day after {format_date(today)}.")
    return back_on
