"""What every simulated client begins with: its chart, its parties, their ordinary business."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from random import Random
from typing import Any

from corkpost.core.books import Party
from corkpost.core.kinds import Entity
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import Minor
from corkpost.demo.bookkeeper import Bookkeeper, Chart, Style
from corkpost.demo.client import Business, chart_of, parties_of
from corkpost.demo.habits import Customer, Numbers, Supplier, buy, sell


@dataclass
class Simulated:
    """A client that has done its ordinary business; faults and what is its own come after."""

    made: Business
    keeper: Bookkeeper
    numbers: Numbers
    suppliers: Sequence[Supplier]
    customers: Sequence[Customer]


def simulated(
    *,
    code: str,
    name: str,
    entity: Entity,
    year_end: tuple[int, int],
    chart: str,
    codes: Chart,
    style: Style,
    suppliers: Sequence[Supplier],
    customers: Sequence[Customer],
    others: Iterable[Party],
    opening: Sequence[tuple[str, Minor]],
    opened_on: date,
    first: date,
    last: date,
    **facts: Any,
) -> Simulated:
    """The client with its opening balances, its suppliers' bills and its customers' invoices."""
    keeper = Bookkeeper(codes, Random(code), style)
    keeper.add(
        Kind.OPENING, opened_on, opening, memo="Opening balances", source="journal", keyed_after=14
    )
    for supplier in suppliers:
        buy(keeper, supplier, first, last)
    numbers = Numbers("draft {:04d}", 0)
    for customer in customers:
        sell(keeper, customer, numbers, first, last)
    made = Business(
        code=code,
        name=name,
        entity=entity,
        year_end=year_end,
        accounts=chart_of(chart),
        parties=parties_of(suppliers, customers, others),
        keeper=keeper,
        books_from=first,
        books_to=last,
        **facts,
    )
    return Simulated(made, keeper, numbers, suppliers, customers)
