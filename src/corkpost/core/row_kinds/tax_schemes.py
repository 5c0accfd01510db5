"""By which rule a client's sales tax is reckoned, since when."""

from datetime import date
from enum import StrEnum
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.row_kinds import register_kind


class Scheme(StrEnum):
    """INVOICED: tax counts on the day of the invoice or bill. PAID: as far as it is settled. FLAT: a rate
    of all sales with their tax; tax on purchases is not reclaimed."""

    INVOICED = "invoiced"
    PAID = "paid"
    FLAT = "flat"


class TaxScheme(NamedTuple):
    """*rate*: in percent of sales with their tax, for FLAT alone."""

    since: date
    scheme: Scheme
    rate: Fraction | None = None
    stands: bool = True
    change: int | None = None


KIND = register_kind(
    "tax_schemes",
    22,
    TaxScheme,
    key=lambda row: [row.since],
    readers={
        "since": date.fromisoformat,
        "scheme": Scheme,
        "rate": lambda text: None if text is None else Fraction(text),
    },
)
