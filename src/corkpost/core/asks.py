"""What a person is asked for about an act, or may say about it, so that its form can be drawn.

A form, the command line and a table of tests come from one description; what is answered is checked where
the act is planned, whoever asks.
"""

from enum import StrEnum
from typing import NamedTuple


class AskKind(StrEnum):
    """What is keyed or chosen.

    *items*: open items of a party, with a comma between; *items-in-parts*: each may have its sum.
    *place*: an account with its party, tax code and dimension; *parts*: a sum over several of them.
    *wait*: how long a question waits for its answer.
    """

    TEXT = "text"
    AMOUNT = "amount"
    PERCENT = "percent"
    DAY = "day"
    ACCOUNT = "account"
    CHOICE = "choice"
    ITEMS = "items"
    ITEMS_IN_PARTS = "items-in-parts"
    PLACE = "place"
    PARTS = "parts"
    WAIT = "wait"


class Choice(NamedTuple):
    value: str
    says: str


class Ask(NamedTuple):
    """*name*: of the setting that answers it. *value*: what it begins with; a day without one begins on
    the last day that is looked at. *needed*: without it nothing can be planned."""

    name: str
    kind: AskKind
    label: str
    value: str = ""
    choices: tuple[Choice, ...] = ()
    needed: bool = False
