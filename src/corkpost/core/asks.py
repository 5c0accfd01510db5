"""What a person is asked for about an act, or may say about it, so that its form can be drawn.

A form, the command line and a table of tests come from one description; what is answered is checked where
the act is planned, whoever asks.
"""

from enum import StrEnum
from typing import NamedTuple

from corkpost.core.kinds import AccountRole


class AskKind(StrEnum):
    """What is keyed or chosen.

    *items*: open items of a party, with a comma between; *items-in-parts*: each may have its sum.
    *place*: an account with its party, tax code and dimension; *parts*: a sum over several of them.
    *wait*: how long a question waits for its answer. *sums*: accounts with their sums, as
    `1500:46150.00,1510:138450.00`. *month*: as `2026-03`. *table*: the text of a CSV file. *asset*: of the
    register, several with a comma between.
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
    PARTY = "party"
    MONTH = "month"
    SUMS = "sums"
    ASSET = "asset"
    TABLE = "table"


class Choice(NamedTuple):
    value: str
    says: str


class Ask(NamedTuple):
    """*name*: of the setting that answers it. *value*: what it begins with; a day without one begins on
    the last day that is looked at. *needed*: without it nothing can be planned. *roles*: of an account that
    may be left out where one account has such a role."""

    name: str
    kind: AskKind
    label: str
    value: str = ""
    choices: tuple[Choice, ...] = ()
    needed: bool = False
    roles: tuple[AccountRole, ...] = ()
