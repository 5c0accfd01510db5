"""Sales tax by invoice, by payment, or by a flat rate of the sales: which a client has, since when."""

from collections.abc import Iterator
from datetime import date
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.cash_basis import documents, unsettled_part
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.formatting import format_date
from corkpost.core.money import Minor, rounded
from corkpost.core.periods import FIRST_DAY
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.row_kinds import standing, tax_schemes
from corkpost.core.row_kinds.tax_schemes import Scheme, TaxScheme

WORDS = {
    Scheme.INVOICED: "by invoice",
    Scheme.PAID: "by payment",
    Scheme.FLAT: "by a flat rate of the sales",
}


class SetTaxScheme(NamedTuple):
    since: date
    scheme: Scheme
    rate: Fraction | None = None


def scheme_on(books: Books, day: date) -> TaxScheme:
    """The scheme of that day; by invoice where none was set."""
    rows = [row for row in standing(tax_schemes.KIND, books) if row.since <= day]
    return max(rows, key=lambda row: row.since, default=TaxScheme(FIRST_DAY, Scheme.INVOICED))


def unsettled_tax(books: Books, day: date) -> Iterator[tuple[Transaction, Line]]:
    """The lines of documents, each with what of it is not settled at the end of *day*: what a client who
    reckons by payment does not count yet."""
    for item, left in documents(books, day):
        for line, amount in unsettled_part(item, left):
            if amount:
                yield item.transaction, line._replace(amount=amount)


def flat_tax(rate: Fraction, sales: Minor) -> Minor:
    """What is due of *sales*, which are with their tax; positive. *rate*: in percent."""
    return rounded(sales * rate / 100)


def plan_tax_scheme(books: Books, wanted: SetTaxScheme) -> Plan:
    """Raises BadEntry, or NothingToDo where it is so already."""
    faults = []
    through = books.returned_through
    if through and wanted.since <= through:
        faults.append(
            f"Returns went out through {format_date(through)}: another scheme begins after it."
        )
    if (wanted.scheme is Scheme.FLAT) is (wanted.rate is None):
        faults.append("A flat rate has a rate in percent; the other schemes have none.")
    if wanted.rate is not None and not 0 < wanted.rate < 100:
        faults.append("The rate is between 0 and 100 percent.")
    if not books.client.tax_registered:
        faults.append("The client is not registered for sales tax.")
    if faults:
        raise BadEntry(faults)
    now = scheme_on(books, wanted.since)
    if (now.scheme, now.rate) == (wanted.scheme, wanted.rate):
        raise NothingToDo(f"Tax is reckoned {WORDS[wanted.scheme]} already.")
    rate = f", {float(wanted.rate):g}%" if wanted.rate is not None else ""
    return Plan(
        kind=ChangeKind.ENTRY,
        route="tax-scheme",
        entries=(),
        allocations=(),
        more={"tax_schemes": (TaxScheme(wanted.since, wanted.scheme, wanted.rate),)},
        proposed_reason=f"Sales tax {WORDS[wanted.scheme]}{rate} from {format_date(wanted.since)}.",
        notes=("no figure of the books moves: returns are reckoned by it",),
    )
