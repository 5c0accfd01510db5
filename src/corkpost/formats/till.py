"""A till's file of daily takings: CSV with the columns date, cash, card, returns and, where the till
numbers its days, number; `returns_on` says cash or card."""

import csv
import io
from datetime import date

from corkpost.core.money import Currency, NotAnAmount
from corkpost.core.refusals import BadEntry
from corkpost.core.takings import DayTakings
from corkpost.formats.statements.parsed import text_of

NEEDED = ("date", "cash", "card")
MOST_DAYS = 1_000


def read_till(content: bytes, currency: Currency) -> tuple[DayTakings, ...]:
    """The days of the file. Raises BadEntry with every fault and its line; nothing is half read."""
    text = text_of(content).replace("\r\n", "\n").replace("\r", "\n")
    try:
        return _read(csv.DictReader(io.StringIO(text)), currency)
    except csv.Error as wrong:
        raise BadEntry([f"The till's file can't be read as a table: {wrong}."]) from None


def _read(reader: "csv.DictReader[str]", currency: Currency) -> tuple[DayTakings, ...]:
    heading = [name.strip().lower() for name in reader.fieldnames or ()]
    missing = [name for name in NEEDED if name not in heading]
    if missing:
        raise BadEntry([f"The till's file lacks the column {' and '.join(missing)}."])
    reader.fieldnames = heading
    found, faults = [], []
    for line, row in enumerate(reader, 2):
        if line > MOST_DAYS:
            raise BadEntry([f"The till's file has more than {MOST_DAYS} days."])
        try:
            found.append(
                DayTakings(
                    day=date.fromisoformat((row["date"] or "").strip()),
                    cash=_amount(row["cash"], currency),
                    card=_amount(row["card"], currency),
                    returns=_amount(row.get("returns"), currency),
                    returns_on_card=(row.get("returns_on") or "").strip() == "card",
                    reference=(row.get("number") or "").strip() or None,
                )
            )
        except NotAnAmount as error:
            faults.append(f"line {line}: {error}.")
        except ValueError:
            faults.append(f"line {line}: {row['date']!r} is not a date: write 2026-03-31.")
    if faults:
        raise BadEntry(faults)
    return tuple(found)


def _amount(text: str | None, currency: Currency) -> int:
    return currency.parse(text.strip()) if text and text.strip() else 0
