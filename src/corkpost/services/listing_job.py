"""Taking listings in as a job: from the files in a person's tray, step by step with what they answer."""

from corkpost.core.kinds import Entity
from corkpost.core.money import Currency
from corkpost.core.periods import parse_year_end
from corkpost.core.refusals import BadEntry
from corkpost.formats.listings.answers import ListingsAnswer, listings_answer
from corkpost.formats.shape import Shape
from corkpost.services import books, listings, previewed, tray
from corkpost.services.books import Tell
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace

NOBODY = "NEW"
"""The code under which files are looked at before it is known whose they are."""


class NewClientAsked(Shape):
    """*year_end*: month and day, as 12-31."""

    name: str
    entity: Entity
    year_end: str
    currency: str


class ListingsAsked(Shape):
    """*take*: take it in; else only say what would come. *answers*: by the question's id."""

    client: str | None
    files: list[str]
    new: NewClientAsked | None = None
    answers: dict[str, str] = {}
    take: bool = False


def take_in_listings(
    workplace: Workplace, person: Person, asked: ListingsAsked, tell: Tell
) -> ListingsAnswer:
    """What was read, what is asked, what comes of it. Raises as `listings.take_in`."""
    code, paths = asked.client or NOBODY, tray.files(workplace, person, asked.files)
    new = _new(asked.new) if asked.new else None
    basis = previewed.basis(workplace, person, paths, asked.answers)
    answer = None
    if asked.take and new is not None and books.earlier_books(workplace, person, code) is None:
        seen = previewed.find(workplace, person, basis, new)
        if seen is not None:
            names = [path.name for path in paths]
            answer = previewed.take_in(workplace, person, code, new.name, names, seen, tell)
    if answer is None:
        outcome = listings.take_in(
            *(workplace, person, code, paths),
            new=new,
            answers=asked.answers,
            preview=not asked.take,
            tell=tell,
        )
        is_taken = asked.take and outcome.taken is not None
        answer = listings_answer(code, outcome, is_taken=is_taken)
        if outcome.seen is not None:
            previewed.keep(workplace, person, basis, outcome.seen, answer)
    if answer.taken:
        tray.clear(workplace, person, asked.files)
    return answer


def _new(asked: NewClientAsked) -> listings.NewClient:
    try:
        year_end = parse_year_end(asked.year_end)
    except ValueError as wrong:
        raise BadEntry(
            [f"{asked.year_end!r} is no last day of a year: write it as 12-31."]
        ) from wrong
    currency = Currency(asked.currency)
    if not currency.is_known:
        raise BadEntry([f"{asked.currency!r} is no currency: write three capitals, as EUR."])
    return listings.NewClient(asked.name, asked.entity, year_end, currency)
