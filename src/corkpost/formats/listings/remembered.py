"""What is remembered of a client's layouts, and the file in which it goes to another practice."""

import json
from collections.abc import Mapping
from typing import Any, NamedTuple

from corkpost.core.refusals import BadAnswers
from corkpost.formats.listings.questions import COLUMNS, OF_ONE_CLIENT, About, Choice
from corkpost.formats.listings.sheets import MOST_COLUMNS
from corkpost.formats.listings.understanding import KINDS, ORDER_WORDS

YES_NO = (Choice("take-in", "yes"), Choice("refuse", "no"))
CHOICES: Mapping[str, tuple[Choice, ...]] = {
    About.WHOSE: YES_NO,
    About.WHAT_IS_IT: tuple(Choice(kind, words) for kind, words in KINDS.items()),
    About.BANK_OR_LIST: (
        Choice("bank-statement", "a statement of the bank"),
        Choice("list", "a list of the books"),
    ),
    About.DATE_ORDER: tuple(Choice(order, words) for order, words in ORDER_WORDS.items()),
    About.DECIMAL: (Choice(".", "a point"), Choice(",", "a comma")),
    About.SIGN: (Choice("debit", "a debit"), Choice("credit", "a credit")),
    About.SIDE: (
        Choice("receivables", "customers owe it to the client"),
        Choice("payables", "the client owes it to suppliers"),
    ),
    About.MONTHS: (
        Choice("held", "what each account held at the end of the month"),
        Choice("moved", "what moved within the month"),
    ),
}
"""What can be answered of a layout, by what is asked. Which column is what can be said beside the rows of a
file alone."""
ASKED: Mapping[str, str] = {
    About.WHOSE: "is theirs",
    About.WHAT_IS_IT: "is",
    About.BANK_OR_LIST: "is",
    About.BANK_ACCOUNT: "is a statement of",
    About.DATE_ORDER: "days stand as",
    About.DECIMAL: "before the cents stands",
    About.SIGN: "a positive amount is",
    About.SIDE: "what is open",
    About.MONTHS: "its months hold",
    COLUMNS: "its columns are",
}
FORM = "listing answers 1"
NAME_LENGTH = 80


class Remembered(NamedTuple):
    """One answer about one layout. *layout*: the names of its columns, with bars between; of a file that
    names somebody, that name."""

    layout: str
    about: str
    answer: str
    by: str = ""
    at: str = ""

    @property
    def key(self) -> str:
        return f"{self.about}:{self.layout}"

    @property
    def words(self) -> str:
        """The answer as a person says it."""
        if self.about == COLUMNS:
            columns = self.layout.split("|")
            places = sorted((place, role) for role, place in json.loads(self.answer).items())
            named = [(role, columns[place]) for place, role in places if place < len(columns)]
            return ", ".join(f"{name}: {role.replace('_', ' ')}" for role, name in named)
        texts = {choice.value: choice.text for choice in CHOICES.get(self.about, ())}
        return texts.get(self.answer, self.answer)


def of_key(key: str, answer: str, by: str = "", at: str = "") -> Remembered:
    """As it is kept: by what was asked and the layout, apart by a colon."""
    about, _, layout = key.partition(":")
    return Remembered(layout, about, answer, by, at)


def must_fit(about: str, answer: str) -> None:
    """Raises BadAnswers where that can't be answered."""
    choices = CHOICES.get(about, ())
    if about == COLUMNS:
        if not _is_columns(answer):
            raise BadAnswers([f"{COLUMNS}: write them as a JSON object of places, from 0."])
    elif answer not in {choice.value for choice in choices}:
        known = ", ".join(choice.value for choice in choices) or "nothing that is remembered"
        raise BadAnswers([f"{about}: {answer!r} is no answer to it. What is: {known}."])


def _is_columns(answer: str) -> bool:
    try:
        found = json.loads(answer)
    except ValueError:
        return False
    return isinstance(found, dict) and all(
        type(place) is int and 0 <= place < MOST_COLUMNS for place in found.values()
    )


def as_document(answers: list[Remembered], names: Mapping[str, str]) -> dict[str, Any]:
    """All of a client's, to be brought to another, but for what can be no other client's answer."""
    layouts: dict[str, dict[str, Any]] = {}
    for row in answers:
        if row.about in OF_ONE_CLIENT:
            continue
        made = layouts.setdefault(
            row.layout, {"layout": row.layout, "name": names.get(row.layout, ""), "answers": {}}
        )
        made["answers"][row.about] = row.answer
    return {"form": FORM, "layouts": list(layouts.values())}


def of_document(document: Any) -> tuple[list[Remembered], dict[str, str]]:
    """The answers, and the names of layouts, that such a file holds. Raises BadAnswers, with all that is
    wrong in it."""
    if not isinstance(document, dict) or document.get("form") != FORM:
        raise BadAnswers([f"This is no file of answers: it does not say “form”: “{FORM}”."])
    answers, names, faults = [], {}, []
    rows = document.get("layouts")
    for number, row in enumerate(rows if isinstance(rows, list) else (), 1):
        layout = row.get("layout") if isinstance(row, dict) else None
        said = row.get("answers") if isinstance(row, dict) else None
        if not isinstance(layout, str) or not isinstance(said, dict):
            faults.append(f"Layout {number}: it needs “layout”, a text, and “answers”, an object.")
            continue
        if isinstance(row.get("name"), str) and row["name"]:
            names[layout] = row["name"][:NAME_LENGTH]
        for about, answer in said.items():
            if about in OF_ONE_CLIENT:
                faults.append(f"Layout {number}: {about} is asked of each client anew.")
                continue
            try:
                must_fit(about, str(answer))
                answers.append(Remembered(layout, about, str(answer)))
            except BadAnswers as wrong:
                faults += [f"Layout {number}: {fault}" for fault in wrong.faults]
    if faults:
        raise BadAnswers(faults)
    return answers, names
