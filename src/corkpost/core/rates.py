"""Exchange rates by day: units of the client's currency for one unit of the other."""

from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.row_kinds import rates, standing
from corkpost.core.row_kinds.rates import Rate


class AddRates(NamedTuple):
    """Rates added to the table; one of a day that is there already takes its place."""

    rates: tuple[Rate, ...]


def rates_of(books: Books) -> tuple[Rate, ...]:
    """Every rate, by currency and day."""
    return tuple(sorted(standing(rates.KIND, books), key=lambda row: (row.currency, row.day)))


def rate_on(books: Books, currency: str, day: date) -> Rate:
    """The rate of that day, or of the nearest earlier one. Raises BadEntry where there is none."""
    found = [row for row in rates_of(books) if row.currency == currency and row.day <= day]
    if not found:
        raise BadEntry(
            [f"No rate of {currency} is known by {day:%-d %B %Y}: add one to the table of rates."]
        )
    return found[-1]


def plan_add_rates(books: Books, wanted: AddRates) -> Plan:
    """Raises BadEntry with every fault, or NothingToDo."""
    own = books.client.currency.code
    faults = []
    for row in wanted.rates:
        if row.currency == own:
            faults.append(f"{row.day}: {own} is the client's own currency.")
        if row.rate <= 0:
            faults.append(f"{row.day}, {row.currency}: a rate is more than nil.")
    if faults:
        raise BadEntry(faults)
    known = {(row.currency, row.day): row.rate for row in rates_of(books)}
    latest = {(row.currency, row.day): row for row in wanted.rates}
    rows = tuple(row for key, row in latest.items() if known.get(key) != row.rate)
    if not rows:
        raise NothingToDo("The table has these rates already.")
    names = ", ".join(sorted({row.currency for row in rows}))
    return Plan(
        kind=ChangeKind.ENTRY,
        route="add-rates",
        entries=(),
        allocations=(),
        more={"rates": rows},
        proposed_reason=f"{len(rows)} rates of {names}.",
    )
