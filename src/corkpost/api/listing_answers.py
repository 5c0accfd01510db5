"""What was answered about a client's lists: seen, named, changed, forgotten, given out and brought."""

import json
from itertools import groupby
from typing import Any

from flask import Blueprint, Response
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, Asked, Done, answers
from corkpost.api.views import as_file
from corkpost.formats.listings.remembered import ASKED, CHOICES, NAME_LENGTH
from corkpost.formats.shape import Shape
from corkpost.services import listing_answers as service

bp = Blueprint("listing_answers", __name__)

LONGEST = 8_000
"""The names of all of a table's columns."""


class AnswerChoice(Shape):
    value: str
    text: str


class KeptAnswerAnswer(Shape):
    """*says*: what it is about, in words, which *words* end. *choices*: what it can be changed to."""

    about: str
    says: str
    answer: str
    words: str
    by: str
    at: str
    choices: list[AnswerChoice]


class LayoutAnswer(Shape):
    """*layout*: the names of its columns, by which it is known. *name*: what it is called, if anything."""

    layout: str
    name: str
    answers: list[KeptAnswerAnswer]


class LayoutsAnswer(Shape):
    layouts: list[LayoutAnswer]


class AnswerBody(Asked):
    """*answer*: none to forget it, so that it is asked anew."""

    layout: str = Field(max_length=LONGEST)
    about: str = Field(max_length=40)
    answer: str | None = Field(max_length=LONGEST)


class LayoutName(Asked):
    layout: str = Field(max_length=LONGEST)
    name: str = Field(max_length=NAME_LENGTH)


class AnswersFile(Asked):
    """*document*: as it was given out."""

    document: dict[str, Any]


class AnswersBrought(Shape):
    answers: int


@bp.get("/clients/<client>/listing-answers")
@answers(LayoutsAnswer, "listings")
def shown(client: str) -> LayoutsAnswer:
    """What was answered about the client's lists, and is not asked again."""
    found, names = service.answers(workplace(), person(), client)
    layouts = []
    for layout, rows in groupby(sorted(found), key=lambda row: row.layout):
        kept = [
            KeptAnswerAnswer(
                about=row.about,
                says=ASKED.get(row.about, row.about),
                answer=row.answer,
                words=row.words,
                by=row.by,
                at=row.at,
                choices=[
                    AnswerChoice(value=c.value, text=c.text) for c in CHOICES.get(row.about, ())
                ],
            )
            for row in rows
        ]
        layouts.append(LayoutAnswer(layout=layout, name=names.get(layout, ""), answers=kept))
    return LayoutsAnswer(layouts=layouts)


@bp.get("/clients/<client>/listing-answers.json")
@answers(None, "listings")
def given_out(client: str) -> Response:
    """All of them as a file, for another client or practice."""
    document = service.given_out(workplace(), person(), client)
    content = json.dumps(document, ensure_ascii=False, indent=1).encode()
    return as_file(f"{client} listing answers.json", content, "application/json")


@bp.put("/clients/<client>/listing-answers")
@answers(Done, "listings")
def change(client: str, json: AnswerBody) -> Done:
    """Answer one otherwise, or forget it."""
    if json.answer is None:
        service.forget(workplace(), person(), client, json.about, json.layout)
    else:
        service.change(workplace(), person(), client, json.about, json.layout, json.answer)
    return DONE


@bp.put("/clients/<client>/listing-layouts")
@answers(Done, "listings")
def name(client: str, json: LayoutName) -> Done:
    """Say what a layout is called."""
    service.name(workplace(), person(), client, json.layout, json.name)
    return DONE


@bp.post("/clients/<client>/listing-answers/brought")
@answers(AnswersBrought, "listings")
def bring(client: str, json: AnswersFile) -> AnswersBrought:
    """Take in answers that were given out elsewhere."""
    return AnswersBrought(answers=service.brought(workplace(), person(), client, json.document))


@bp.delete("/clients/<client>/listing-answers")
@answers(Done, "listings")
def forget_all(client: str) -> Done:
    """Forget them all: the next file asks anew."""
    service.forget_all(workplace(), person(), client)
    return DONE
