"""Takings by day, and what is in hand: previewed and posted like any entry."""

from collections.abc import Sequence
from datetime import date
from typing import NamedTuple

from corkpost.core.change import Plan
from corkpost.core.matching.receipts_in_hand import Held, in_hand
from corkpost.core.takings import DaySettled, DayTakings, plan_takings, settled_by_day
from corkpost.formats.till import read_till
from corkpost.services.entries import Preview, preview_plan
from corkpost.services.posting import PostRequest, post
from corkpost.services.rights import Person
from corkpost.services.workplace import ClientState, Posted, Workplace


class Sold(NamedTuple):
    """Days of takings, the income account they go to, and the tax in them."""

    days: tuple[DayTakings, ...]
    sales: str
    tax_code: str | None


def held(place: Workplace, person: Person, client_code: str) -> tuple[Held, ...]:
    """The receipts in hand, the oldest first."""
    return in_hand(place.ledger(person, client_code).books)


def settled(
    place: Workplace, person: Person, client_code: str, first: date, last: date
) -> tuple[tuple[DaySettled, ...], int]:
    """What of these days' takings is short, over or still to come; how many tenders came in full."""
    return settled_by_day(place.ledger(person, client_code).books, first, last, place.today)


def from_till(
    place: Workplace, person: Person, client_code: str, content: bytes
) -> Sequence[DayTakings]:
    """The days of a till's file, to be looked at and posted."""
    return read_till(content, place.ledger(person, client_code).books.client.currency)


def _plan(ledger: ClientState, sold: Sold) -> Plan:
    return plan_takings(ledger.books, sold.days, sold.sales, sold.tax_code)


def preview(
    place: Workplace, person: Person, client_code: str, sold: Sold, as_at: date | None = None
) -> Preview:
    """What posting the days would do."""
    ledger = place.ledger(person, client_code)
    return preview_plan(ledger, person, lambda ledger: _plan(ledger, sold), as_at)


def post_days(
    place: Workplace, person: Person, client_code: str, sold: Sold, post_request: PostRequest
) -> Posted:
    """Post an entry for each day, all or none."""
    return post(place, person, client_code, lambda ledger: _plan(ledger, sold), post_request)
