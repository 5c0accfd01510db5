"""Tie-outs as they are answered with, by the pages and the command line alike."""

from datetime import date as Day

from corkpost.core.books import Books
from corkpost.core.tie_outs.agreeing import StatedTieOut
from corkpost.core.tie_outs.tie_out import Part
from corkpost.formats.shape import Shape


class PartAnswer(Shape):
    """One of what a figure consists of, debit positive."""

    says: str
    amount: str
    transaction: str | None
    account: str | None
    party: str | None


class TieOutCauseAnswer(Shape):
    """What keeps the figures apart; *amount* none where it moves no figure."""

    says: str
    amount: str | None
    transactions: list[str]


class MovedByAnswer(Shape):
    """A change after the agreement that may have moved it."""

    number: int
    by: str
    on: Day
    what: str


class TieOutPaper(Shape):
    name: str
    digest: str


class TieOutAnswer(Shape):
    """Amounts debit positive; *outside* none where nothing is known from outside, and *lacks* says what is
    missing. *keyed*: it may be keyed from a paper. *by*, *at*, *note*: of its last agreement; *moved* and
    *since*: for a fallen one, what is otherwise and by which changes."""

    id: str
    kind: str
    title: str
    accounts: list[str]
    books: str
    outside: str | None
    difference: str | None
    state: str
    evidence: list[str]
    by: str | None
    at: str | None
    note: str | None
    lacks: str
    keyed: bool
    change: int | None
    paper: TieOutPaper | None
    of_books: list[PartAnswer]
    of_outside: list[PartAnswer]
    causes: list[TieOutCauseAnswer]
    moved: list[str]
    since: list[MovedByAnswer]


def tie_out_answer(stated: StatedTieOut, at: str | None, books: Books) -> TieOutAnswer:
    """*at*: the time of its last agreement."""
    money, found, agreed = books.client.currency.format, stated.tie_out, stated.agreed

    def part(shown: Part) -> PartAnswer:
        return PartAnswer(**{**shown._asdict(), "amount": money(shown.amount)})

    return TieOutAnswer(
        id=found.id,
        kind=found.kind,
        title=found.title,
        accounts=list(found.accounts),
        books=money(found.books),
        outside=None if found.outside is None else money(found.outside),
        difference=None if found.difference is None else money(found.difference),
        state=stated.state,
        evidence=list(found.evidence),
        by=stated.by.by if stated.by else None,
        at=at,
        note=agreed.note or None if agreed else None,
        lacks=found.lacks,
        keyed=found.keyed,
        change=agreed.change if agreed else None,
        paper=(
            TieOutPaper(name=agreed.paper_name or "paper", digest=agreed.paper)
            if agreed and agreed.paper
            else None
        ),
        of_books=[part(shown) for shown in found.of_books],
        of_outside=[part(shown) for shown in found.of_outside],
        causes=[
            TieOutCauseAnswer(
                says=cause.says,
                amount=None if cause.amount is None else money(cause.amount),
                transactions=list(cause.transactions),
            )
            for cause in found.causes
        ],
        moved=list(stated.moved),
        since=[
            MovedByAnswer(number=change.number, by=change.by, on=change.made_on, what=change.reason)
            for change in stated.since
        ],
    )
