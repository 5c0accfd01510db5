"""For the client's bookkeeper: our entries in plain words, as a list, a paper, a table; telling them."""

from flask import Blueprint, Response
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, Day, answers
from corkpost.api.views import as_file
from corkpost.core.explaining import Explained, ToldKind
from corkpost.formats.shape import Shape
from corkpost.services import bookkeeper as service
from corkpost.services.bookkeeper import ForBookkeeper

bp = Blueprint("bookkeeper", __name__)


class Which(Asked):
    """*told*: what was told before as well."""

    told: bool = False


class ExplainedAnswer(Shape):
    """A change of ours in plain words. *moves*: a phrase for each account and party. *keyed*: the client's
    own entries that do the same."""

    change: int
    day: Day
    about: list[str]
    did: str
    reason: str
    moves: list[str]
    means: str
    by: str
    entries: list[str]
    told: bool
    keyed: list[str]


class ToldKindAnswer(Shape):
    """Changes of one kind. *year_before*: how many of it the year before had."""

    heading: str
    avoid: str
    year_before: int
    items: list[ExplainedAnswer]


class TellingAnswer(Shape):
    number: int
    to_email: str | None
    changes: int
    by: str
    at: str


class BookkeeperAnswer(Shape):
    """*changes*: what would be told, to be sent with the telling. *to_email*: where it would go."""

    kinds: list[ToldKindAnswer]
    taken_back: list[ExplainedAnswer]
    tellings: list[TellingAnswer]
    changes: list[int]
    to_name: str
    to_email: str
    may_send: bool


class TellBody(Asked):
    """*to*: the address that it is sent to; none where it is handed over otherwise."""

    changes: list[int] = Field(max_length=10_000)
    to: str | None = Field(default=None, max_length=200)


@bp.get("/clients/<client>/bookkeeper")
@answers(BookkeeperAnswer, "bookkeeper")
def show(client: str, query: Which) -> BookkeeperAnswer:
    """What the bookkeeper was not told yet; or everything that stands."""
    return _answer(service.for_bookkeeper(workplace(), person(), client, told_too=query.told))


def _answer(found: ForBookkeeper) -> BookkeeperAnswer:
    told = {number for telling in found.tellings for number in telling.changes}
    return BookkeeperAnswer(
        kinds=[_told_kind(kind, told) for kind in found.kinds],
        taken_back=[explained_answer(explained, told) for explained in found.taken_back],
        tellings=[
            TellingAnswer(
                number=sent.number,
                to_email=sent.to_email,
                changes=len(sent.changes),
                by=sent.made_by,
                at=sent.made_at,
            )
            for sent in reversed(found.tellings)
        ],
        changes=list(service.numbers_of(found)),
        to_name=found.to[0],
        to_email=found.to[1],
        may_send=workplace().mail is not None,
    )


def _told_kind(kind: ToldKind, told: set[int]) -> ToldKindAnswer:
    return ToldKindAnswer(
        heading=kind.words.heading,
        avoid=kind.words.avoid,
        year_before=kind.year_before,
        items=[explained_answer(explained, told) for explained in kind.items],
    )


def explained_answer(explained: Explained, told: set[int]) -> ExplainedAnswer:
    """A change in plain words, and whether it was told."""
    return ExplainedAnswer(
        change=explained.change,
        day=explained.day,
        about=list(explained.about),
        did=explained.words.did,
        reason=explained.reason,
        moves=list(explained.moves),
        means=explained.words.means,
        by=explained.by,
        entries=[entry.id for entry in explained.entries],
        told=explained.change in told,
        keyed=list(explained.keyed),
    )


@bp.get("/clients/<client>/bookkeeper.pdf")
@answers(None, "bookkeeper")
def paper(client: str, query: Which) -> Response:
    """The list with its journals, to read."""
    found = service.for_bookkeeper(workplace(), person(), client, told_too=query.told)
    content = service.paper(workplace(), found)
    return as_file(f"{client} for the bookkeeper.pdf", content, "application/pdf")


@bp.get("/clients/<client>/bookkeeper.csv")
@answers(None, "bookkeeper")
def table(client: str, query: Which) -> Response:
    """The journals as a table."""
    found = service.for_bookkeeper(workplace(), person(), client, told_too=query.told)
    return as_file(f"{client} journals.csv", service.table(found), "text/csv")


@bp.post("/clients/<client>/bookkeeper")
@answers(TellingAnswer, "bookkeeper")
def tell(client: str, json: TellBody) -> TellingAnswer:
    """Tell what is not told yet: by mail, or marked as handed over."""
    told = service.tell(workplace(), person(), client, json.changes, json.to)
    return TellingAnswer(
        number=told.number,
        to_email=told.to_email,
        changes=len(told.changes),
        by=told.made_by,
        at=told.made_at,
    )
