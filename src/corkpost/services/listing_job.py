"""Taking listings in as a job: from the files in a person's tray, step by step with what they answer."""

from corkpost.core.kinds import Entity
from corkpost.core.money import Currency
from corkpost.core.periods import parse_year_end
from corkpost.core.refusals import BadEntry
from corkpost.formats.listings.answers import ListingsAnswer, listings_answer
from corkpost.formats.shape import Shape
from corkpost.services import listings, tray
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
    outcome = listings.take_in(
        workplace,
        person,
        asked.client or NOBODY,
        tray.files(workplace, person, asked.files),
        new=_new(asked.new) if asked.new else None,
        answers=asked.answers,
        preview=not asked.take,
        tell=tell,
    )
    taken = asked.take and outcome.taken is not None
    if taken:
        tray.clear(workplace, person, asked.files)
    return listings_answer(asked.client or NOBODY, outcome, is_taken=taken)


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
