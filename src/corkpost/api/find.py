"""Find: anything known of a client, an account, a party, a posting or a line of a statement."""

from flask import Blueprint
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, Day, answers
from corkpost.formats.shape import Shape
from corkpost.services import find as service
from corkpost.services.find import FoundName

bp = Blueprint("find", __name__)


class FoundClientAnswer(Shape):
    code: str
    name: str


class FoundNameAnswer(Shape):
    """A party or an account. *what*: its kind or type."""

    client: str
    code: str
    name: str
    what: str


class FoundPostingAnswer(Shape):
    client: str
    id: str
    kind: str
    date: Day
    reference: str | None
    memo: str | None
    party: str | None
    total: str


class FoundLineAnswer(Shape):
    client: str
    account: str
    statement: int
    date: Day
    text: str
    amount: str


class FoundAnswer(Shape):
    """The first of each, the newest first. *building*: not all the books are in the index yet."""

    clients: list[FoundClientAnswer]
    accounts: list[FoundNameAnswer]
    parties: list[FoundNameAnswer]
    postings: list[FoundPostingAnswer]
    statement_lines: list[FoundLineAnswer]
    building: bool


class Sought(Asked):
    """*client*: in that one alone."""

    q: str = Field(max_length=200)
    client: str | None = Field(default=None, max_length=40)


def _names(rows: tuple[FoundName, ...]) -> list[FoundNameAnswer]:
    return [FoundNameAnswer(**row._asdict()) for row in rows]


@bp.get("/find")
@answers(FoundAnswer, "find")
def find(query: Sought) -> FoundAnswer:
    """Whatever has these words or sums, in one client or in all of one's own."""
    found = service.find(workplace(), person(), query.q, query.client)
    return FoundAnswer(
        clients=[FoundClientAnswer(**client._asdict()) for client in found.clients],
        accounts=_names(found.accounts),
        parties=_names(found.parties),
        postings=[
            FoundPostingAnswer(
                client=hit.client,
                id=hit.id,
                kind=hit.kind,
                date=hit.date,
                reference=hit.reference,
                memo=hit.memo,
                party=hit.party,
                total=hit.currency.format(hit.total),
            )
            for hit in found.postings
        ],
        statement_lines=[
            FoundLineAnswer(
                client=line.client,
                account=line.account,
                statement=line.statement,
                date=line.date,
                text=line.text,
                amount=line.currency.format(line.amount),
            )
            for line in found.statement_lines
        ],
        building=found.building,
    )
