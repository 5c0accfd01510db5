"""What is asked where two readings fit: each with examples from the file, and a proposal."""

import json
from collections.abc import Mapping, Sequence
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.refusals import BadEntry

PROPOSED = "proposed"
EVERYTHING = "*"
COLUMNS = "columns"


class About(StrEnum):
    WHOSE = "whose"
    WHAT_IS_IT = "what-is-it"
    BANK_OR_LIST = "bank-or-list"
    BANK_ACCOUNT = "bank-account"
    DATE_ORDER = "date-order"
    DECIMAL = "decimal-mark"
    SIGN = "amount-sign"
    YEAR = "year"
    MONTHS = "months"
    SIDE = "side"
    OPENING = "opening"
    WITHOUT_CODE = "account-code"
    DIFFERENCE = "difference"


OF_ONE_CLIENT = frozenset({About.WHOSE, About.BANK_ACCOUNT})
"""What is asked of each client anew: whose files are, and of which of its accounts a statement is."""


class Choice(NamedTuple):
    value: str
    text: str
    example: str = ""


class Question(NamedTuple):
    id: str
    file: str
    about: About
    text: str
    choices: tuple[Choice, ...]
    proposed: str


class Answers:
    """What was answered, now or for the same layout before; what was asked for and not answered is kept."""

    def __init__(
        self,
        given: Mapping[str, str],
        kept: Mapping[str, str] | None = None,
        lent: Mapping[str, tuple[str, str]] | None = None,
    ) -> None:
        """*kept*: by what is asked and the layout. *lent*: what was answered of the layout for another
        client, and whose it is: that is proposed, and asked all the same."""
        self._given, self._kept, self._lent = given, kept or {}, lent or {}
        self.asked: list[Question] = []
        self.used: dict[str, str] = {}

    def columns(self, file: str, layout: str) -> dict[str, int] | None:
        """Which column is what, where a person said it: of this file, or of its layout before."""
        kept_as = f"{COLUMNS}:{layout}"
        said = self._given.get(f"{COLUMNS}:{file}") or self._kept.get(kept_as)
        if said is None:
            return None
        try:
            found = json.loads(said)
            columns = {str(role): int(place) for role, place in found.items()}
            if min(columns.values(), default=0) < 0:
                raise ValueError("a place before the first")
        except (ValueError, AttributeError, TypeError) as wrong:
            raise BadEntry(
                [f"{COLUMNS}:{file}: write columns as a JSON object of places."]
            ) from wrong
        self.used[kept_as] = said
        return columns

    def to(
        self,
        about: About,
        file: str,
        text: str,
        choices: Sequence[Choice],
        proposed: str,
        *,
        layout: str = "",
    ) -> str:
        """The answer; where there is none, the proposal, and the question is put. *layout*: by which it is
        remembered for the next file of the kind."""
        name = f"{about}:{file}"
        kept_as = f"{about}:{layout}"
        values = {choice.value for choice in choices}
        lent = self._lent.get(kept_as) if layout and about not in OF_ONE_CLIENT else None
        if lent is not None and lent[0] in values:
            proposed = lent[0]
            text = f"{text} For {lent[1]} it was answered as is proposed here."
        answer = self._given.get(name) or (self._kept.get(kept_as) if layout else None)
        if answer is None and self._given.get(EVERYTHING) == PROPOSED:
            answer = proposed
        if answer is not None and (answer in values or not values):
            if layout:
                self.used[kept_as] = answer
            return answer
        self.asked.append(Question(name, file, about, text, tuple(choices), proposed))
        return proposed
