"""A till that issues its daily takings as a file."""

import csv
import io
from collections.abc import Iterable
from datetime import date
from random import Random

from corkpost.core.money import Currency
from corkpost.core.takings import DayTakings


def days_of(seed: str, days: Iterable[date]) -> list[DayTakings]:
    """What a small shop takes on these days: the same every time for one seed."""
    rng = Random(seed)
    return [
        DayTakings(
            day,
            cash=rng.randint(9_000, 48_000),
            card=rng.randint(31_000, 140_000),
            returns=rng.choice((0, 0, 0, rng.randint(900, 5_000))),
            reference=f"Z{day:%y%m%d}",
        )
        for day in days
    ]


def as_file(days: Iterable[DayTakings], currency: Currency) -> bytes:
    """The till's file."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["date", "number", "cash", "card", "returns", "returns_on"])
    money = currency.format
    for day in days:
        on = "card" if day.returns_on_card else "cash"
        sums = [money(day.cash), money(day.card), money(day.returns), on]
        writer.writerow([day.day.isoformat(), day.reference or "", *sums])
    return out.getvalue().encode()
