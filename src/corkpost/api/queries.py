"""Questions to the client: the board, asking, sending, what came back."""

from flask import Blueprint
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, Asked, Day, Done, Nothing, answers
from corkpost.core.books import Books
from corkpost.core.queries import Answer, Query
from corkpost.formats.shape import Shape
from corkpost.services import queries as service
from corkpost.services.queries import Letter

bp = Blueprint("queries", __name__)


class ContactAnswer(Shape):
    name: str
    email: str


class AnswerFileAnswer(Shape):
    name: str
    digest: str


class AnswerAnswer(Shape):
    """*taken_by*: who wrote it down, where it did not come by mail."""

    number: int
    text: str
    files: list[AnswerFileAnswer]
    received_at: str
    from_email: str | None
    taken_by: str | None


class AboutAnswer(Shape):
    """An entry that is asked about."""

    transaction: str
    date: Day
    amount: str
    words: str


class QueryAnswer(Shape):
    number: int
    state: str
    question: str
    point: str | None
    about: list[AboutAnswer]
    back_on: Day | None
    by: str
    at: str
    sent: list[str]
    answers: list[AnswerAnswer]


class BoardAnswer(Shape):
    """*may_send*: there is a mail server. *unsorted*: answers that name no question."""

    revision: int
    contact: ContactAnswer | None
    may_send: bool
    queries: list[QueryAnswer]
    unsorted: list[AnswerAnswer]


class LetterAnswer(Shape):
    to: ContactAnswer
    subject: str
    body: str


class LookedAnswer(Shape):
    """How many messages were answers to ours."""

    found: int


class ContactBody(Asked):
    name: str = Field(max_length=200)
    email: str = Field(max_length=200)


class AskBody(Asked):
    question: str = Field(max_length=4000)
    transactions: list[str] = Field(min_length=1, max_length=50)
    back_on: Day | None = None


class Words(Asked):
    text: str = Field(max_length=4000)


class Numbers(Asked):
    queries: list[int] = Field(min_length=1, max_length=100)


class SortBody(Asked):
    """*answer*: the number of one that names no question."""

    answer: int


def query_answer(query: Query, books: Books) -> QueryAnswer:
    return QueryAnswer(
        number=query.number,
        state=query.state(workplace().today),
        question=query.question,
        point=query.point,
        about=[_about(books, name) for name in query.transactions if name in books.transactions],
        back_on=query.back_on,
        by=query.made_by,
        at=query.made_at.isoformat(),
        sent=[at.isoformat() for at in query.sent],
        answers=[_answer(answer) for answer in query.answers],
    )


def _about(books: Books, name: str) -> AboutAnswer:
    posted = books.transactions[name]
    who = books.party_name(posted.party) if posted.party else None
    words = [word for word in (posted.reference, who, posted.memo) if word]
    return AboutAnswer(
        transaction=name,
        date=posted.posting_date,
        amount=books.client.currency.format(posted.total),
        words=", ".join(words),
    )


def _answer(answer: Answer) -> AnswerAnswer:
    return AnswerAnswer(
        number=answer.number or 0,
        text=answer.text,
        files=[AnswerFileAnswer(name=file.name, digest=file.digest) for file in answer.files],
        received_at=answer.received_at.isoformat(),
        from_email=answer.from_email,
        taken_by=answer.taken_by,
    )


def _letter(letter: Letter) -> LetterAnswer:
    return LetterAnswer(
        to=ContactAnswer(**letter.to._asdict()), subject=letter.subject, body=letter.body
    )


@bp.get("/clients/<client>/queries")
@answers(BoardAnswer, "queries")
def board(client: str) -> BoardAnswer:
    """Every question to the client with what came back."""
    found = service.board(workplace(), person(), client)
    books = found.ledger.books
    return BoardAnswer(
        revision=found.ledger.client.revision,
        contact=ContactAnswer(**found.contact._asdict()) if found.contact else None,
        may_send=found.may_send,
        queries=[query_answer(query, books) for query in found.queries],
        unsorted=[_answer(answer) for answer in found.unsorted],
    )


@bp.post("/clients/<client>/queries")
@answers(Done, "queries", status=201)
def ask(client: str, json: AskBody) -> tuple[Done, int]:
    """Ask about entries that no check speaks of."""
    service.ask(workplace(), person(), client, json.question, json.transactions, json.back_on)
    return DONE, 201


@bp.post("/clients/<client>/contact")
@answers(Done, "queries")
def set_contact(client: str, json: ContactBody) -> Done:
    """Who answers for the client."""
    service.set_contact(workplace(), person(), client, json.name, json.email)
    return DONE


@bp.post("/clients/<client>/queries/<int:number>/wording")
@answers(Done, "queries")
def reword(client: str, number: int, json: Words) -> Done:
    """Other words for a question that is not sent yet."""
    service.reword(workplace(), person(), client, number, json.text)
    return DONE


@bp.post("/clients/<client>/queries/<int:number>/answer")
@answers(Done, "queries")
def write_down(client: str, number: int, json: Words) -> Done:
    """Write down an answer that did not come by mail."""
    service.write_down(workplace(), person(), client, number, json.text)
    return DONE


@bp.post("/clients/<client>/queries/<int:number>/sorting")
@answers(Done, "queries")
def sort(client: str, number: int, json: SortBody) -> Done:
    """Give an answer that names no question to this one."""
    service.sort(workplace(), person(), client, json.answer, number)
    return DONE


@bp.post("/clients/<client>/queries/<int:number>/end")
@answers(Done, "queries")
def end(client: str, number: int, json: Nothing) -> Done:
    """Lay an answered question aside, or take one back that was not sent."""
    service.end(workplace(), person(), client, number)
    return DONE


@bp.post("/clients/<client>/queries/letter")
@answers(LetterAnswer, "queries")
def letter(client: str, json: Numbers) -> LetterAnswer:
    """The message with these questions, as the client would read it."""
    return _letter(service.letter(workplace(), person(), client, json.queries))


@bp.post("/clients/<client>/queries/sending")
@answers(LetterAnswer, "queries")
def send(client: str, json: Numbers) -> LetterAnswer:
    """Send these questions as one message."""
    return _letter(service.send(workplace(), person(), client, json.queries))


@bp.post("/clients/<client>/queries/looking")
@answers(LookedAnswer, "queries")
def look(client: str, json: Nothing) -> LookedAnswer:
    """Look into the practice's mailbox for answers."""
    workplace().ledger(person(), client)
    return LookedAnswer(found=service.look_for_answers(workplace()))
