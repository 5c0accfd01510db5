"""Takings by day as they were settled, the till's file, and what is in hand."""

from collections.abc import Sequence
from datetime import date

from corkpost.core.matching.receipts_in_hand import ReceiptInHand, in_hand
from corkpost.core.takings import DaySettled, DayTakings, settled_by_day
from corkpost.formats.till import read_till
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace


def held(workplace: Workplace, person: Person, client_code: str) -> tuple[ReceiptInHand, ...]:
    """The receipts in hand, the oldest first."""
    return in_hand(workplace.ledger(person, client_code).books)


def settled(
    workplace: Workplace, person: Person, client_code: str, first: date, last: date
) -> tuple[tuple[DaySettled, ...], int]:
    """What of these days' takings is short, over or still to come; how many tenders came in full."""
    return settled_by_day(workplace.ledger(person, client_code).books, first, last, workplace.today)


def from_till(
    workplace: Workplace, person: Person, client_code: str, content: bytes
) -> Sequence[DayTakings]:
    """The days of a till's file, to be looked at and posted."""
    return read_till(content, workplace.ledger(person, client_code).books.client.currency)
