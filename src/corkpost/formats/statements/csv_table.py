"""A bank's CSV: which column is what is guessed, shown and asked once, then remembered.

Where a running balance is there, it is chained in both directions: it proves signs, order and
completeness.
"""

import csv
import io
import json
import re
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date
from decimal import Decimal
from itertools import pairwise
from typing import NamedTuple

from corkpost.core.kinds import StatementFormat
from corkpost.formats.statements.parsed import (
    ParsedFile,
    ParsedLine,
    ParsedStatement,
    UnreadableStatement,
    decimal_in,
    text_of,
    tidy,
)

MOST_PREAMBLE = 30
MOST_ROWS = 200_000
SAMPLE = 6


@dataclass(frozen=True)
class Columns:
    """Which column is what, from 0. *day_order*: `ymd`, `dmy` or `mdy`. *turned*: money out is
    positive. One of *amount* and the pair *money_in*, *money_out* is there."""

    day: int
    text: tuple[int, ...]
    day_order: str = "ymd"
    amount: int | None = None
    money_in: int | None = None
    money_out: int | None = None
    reference: int | None = None
    balance: int | None = None
    bank_id: int | None = None
    value_day: int | None = None
    counterparty: int | None = None
    turned: bool = False

    def as_json(self) -> str:
        return json.dumps(asdict(self))


def columns_of(text: str) -> Columns:
    """Columns from what `as_json` gave."""
    facts = json.loads(text)
    return Columns(**{**facts, "text": tuple(facts["text"])})


class Layout(NamedTuple):
    """A file's table. *heading*: its first row of names. *starts*: the line of the first row below."""

    heading: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    starts: int
    ends_whole: bool


class NeedsColumns(UnreadableStatement):
    """Which column is what is not certain: the person says, beginning from what was guessed."""

    title = "Say which column is what"

    def __init__(self, layout: Layout, guessed: Columns | None) -> None:
        super().__init__(
            "Cork Post can't be sure which column of this file is what. Nothing was taken in. "
            "Choose the columns once: they are remembered for this account."
        )
        self.layout = layout
        self.guessed = guessed


_NAMES = {
    "day": "date|booking date|posting date|transaction date|buchungstag|datum|date operation|fecha",
    "value_day": "value date|value_date|valuta|date valeur|wertstellung",
    "amount": "amount|betrag|montant|importe|value|umsatz|transaction amount",
    "money_in": "credit|money in|paid in|haben|credit amount|receipts|in",
    "money_out": "debit|money out|paid out|soll|debit amount|payments|out",
    "balance": "balance|saldo|solde|running balance|kontostand",
    "reference": "reference|ref|referenz|cheque|cheque number|check number|number|serial number",
    "bank_id": "id|transaction id|bank id|entry id|unique id",
    "counterparty": "payee|name|counterparty|beneficiary|empfanger|payer|beguenstigter",
    "text": "description|text|details|memo|narrative|particulars|verwendungszweck|libelle|concepto",
}
_OWN = ("date", "description", "amount")
_DAY = re.compile(r"(\d{1,4})[./\- ](\d{1,2})[./\- ](\d{2,4})(?:[T ].*)?|(\d{8})")


def recognises(content: bytes) -> bool:
    """Whether it is a table with days in it."""
    try:
        return layout_of(content) is not None
    except UnreadableStatement:
        return False


def read(content: bytes, columns: Columns | None = None) -> ParsedFile:
    """The statement of the file. Raises NeedsColumns where none are given and no guess is certain."""
    layout = layout_of(content)
    chosen = columns or certain_columns(layout)
    if chosen is None:
        raise NeedsColumns(layout, guessed_columns(layout))
    return ParsedFile(StatementFormat.CSV, (_statement(layout, chosen),))


def layout_of(content: bytes) -> Layout:
    """The table of the file, below whatever stands above its heading."""
    text = text_of(content)
    if "\x00" in text:
        raise UnreadableStatement("This is no text file: a CSV, OFX, camt or MT940 is wanted.")
    records = max((_records(text, mark) for mark in ",;\t|"), key=_regular)
    if len(records) > MOST_ROWS:
        raise UnreadableStatement(f"The file has more than {MOST_ROWS:,} rows.")
    for place, record in enumerate(records[:MOST_PREAMBLE]):
        names = tuple(cell.strip() for cell in record)
        if len([name for name in names if name]) >= 3 and not _has_day(names):
            rows = [
                tuple(cell.strip() for cell in row)
                for row in records[place + 1 :]
                if any(cell.strip() for cell in row)
            ]
            if _has_name(names, "day") or (rows and _has_day(rows[0])):
                return Layout(names, tuple(rows), place + 2, text.endswith(("\n", "\r")))
    raise UnreadableStatement(
        "No heading was found: a row with the names of at least three columns, one of them the date."
    )


def _records(text: str, mark: str) -> list[list[str]]:
    try:
        return list(csv.reader(io.StringIO(text), delimiter=mark))
    except csv.Error as error:
        raise UnreadableStatement(f"The table can't be read: {error}.") from None


def _regular(records: list[list[str]]) -> tuple[int, int]:
    """How many rows have the width that most have, where that makes a table; and the width."""
    widths = Counter(len(record) for record in records if len(record) >= 3)
    width, count = max(widths.items(), key=lambda item: (item[1], item[0]), default=(0, 0))
    return (count, width)


def _has_day(cells: Iterable[str]) -> bool:
    return any(_DAY.fullmatch(cell) for cell in cells)


def _plain(name: str) -> str:
    return " ".join(re.sub(r"[^a-z ]", " ", name.casefold()).split())


def _has_name(heading: Sequence[str], field: str) -> bool:
    return _named(heading, field) is not None


def _named(heading: Sequence[str], field: str, taken: Iterable[int | None] = ()) -> int | None:
    """The column of that field: by its whole name before by a part of it."""
    names = _NAMES[field].split("|")
    free = [(i, _plain(name)) for i, name in enumerate(heading) if i not in set(taken)]
    whole = (i for name in names for i, text in free if text == name)
    part = (i for name in names if len(name) > 3 for i, text in free if name in text)
    return next(whole, next(part, None))


def guessed_columns(layout: Layout) -> Columns | None:
    """What the headings and cells say; None where there is no day or no amount."""
    heading = layout.heading
    value_day = _named(heading, "value_day")
    day = _named(heading, "day", [value_day])
    if day is None:
        day, value_day = value_day, None
    if day is None:
        return None
    money_in, money_out = _named(heading, "money_in"), _named(heading, "money_out")
    pair = money_in is not None and money_out is not None
    balance = _named(heading, "balance", [day, value_day])
    amount = None if pair else _named(heading, "amount", [day, value_day, balance])
    if not pair and amount is None:
        return None
    used = [day, value_day, balance, amount, *((money_in, money_out) if pair else ())]
    reference = _named(heading, "reference", used)
    bank_id = _named(heading, "bank_id", [*used, reference])
    counterparty = _named(heading, "counterparty", [*used, reference, bank_id])
    text = _named(heading, "text", [*used, reference, bank_id, counterparty])
    if text is None and counterparty is None:
        return None
    orders = day_orders(row[day] for row in layout.rows if day < len(row))
    return Columns(
        day=day,
        text=tuple(column for column in (text,) if column is not None),
        day_order=orders[0] if orders else "ymd",
        amount=amount,
        money_in=money_in if pair else None,
        money_out=money_out if pair else None,
        reference=reference,
        balance=balance,
        bank_id=bank_id,
        value_day=value_day,
        counterparty=counterparty,
    )


def certain_columns(layout: Layout) -> Columns | None:
    """The guess, where it needs no asking: our own headings, or a running balance that proves it."""
    guessed = guessed_columns(layout)
    if guessed is None:
        return None
    own = set(_OWN) <= set(layout.heading) and layout.heading[guessed.day] == "date"
    if own:
        return replace(guessed, day_order="ymd")
    if len(day_orders(row[guessed.day] for row in layout.rows if guessed.day < len(row))) != 1:
        return None
    for columns in (guessed, replace(guessed, turned=True)):
        lines = _lines(layout, columns)
        if len(lines) > 1 and (_follows(lines) or _follows(tuple(reversed(lines)))):
            return columns
    return None


def day_orders(cells: Iterable[str]) -> list[str]:
    """In which orders of day, month and year the whole column can be read."""
    texts = [cell for cell in cells if cell]
    return [order for order in ("ymd", "dmy", "mdy") if all(_day(t, order) for t in texts)]


def _day(text: str, order: str) -> date | None:
    match = _DAY.fullmatch(text.strip())
    if not match:
        return None
    if match[4]:
        parts = [match[4][:4], match[4][4:6], match[4][6:]]
        return _date(*parts) if order == "ymd" else None
    by = dict(zip(order, match.groups()[:3], strict=True))
    if len(by["y"]) not in (2, 4) or len(by["d"]) > 2 or len(by["m"]) > 2:
        return None
    year = by["y"] if len(by["y"]) == 4 else f"20{by['y']}"
    return _date(year, by["m"], by["d"])


def _date(year: str, month: str, day: str) -> date | None:
    try:
        return date(int(year), int(month), int(day))
    except ValueError:
        return None


def _statement(layout: Layout, columns: Columns) -> ParsedStatement:
    lines = _oldest_first(_lines(layout, columns))
    first, last = (lines[0], lines[-1]) if lines else (None, None)
    has_balances = first is not None and first.balance is not None
    opening = first.balance - first.amount if first and first.balance is not None else None
    return ParsedStatement(
        identifier=None,
        currency=None,
        first_day=min((line.day for line in lines), default=None),
        last_day=max((line.day for line in lines), default=None),
        opening=opening,
        closing=last.balance if last and has_balances else None,
        lines=lines,
    )


def _oldest_first(lines: tuple[ParsedLine, ...]) -> tuple[ParsedLine, ...]:
    """The lines in the order of the account, as the running balance has it, else the days."""
    turned = tuple(reversed(lines))
    if _follows(lines):
        return lines
    newest_first = _is_newest_first(lines) and not _is_newest_first(turned)
    return turned if _follows(turned) or newest_first else lines


def _is_newest_first(lines: Sequence[ParsedLine]) -> bool:
    return all(one.day >= other.day for one, other in pairwise(lines))


def _follows(lines: Sequence[ParsedLine]) -> bool:
    """Whether each balance is the one before and the line's amount; False where one is missing."""
    if any(line.balance is None for line in lines):
        return False
    return all(
        one.balance is not None and other.balance == one.balance + other.amount
        for one, other in pairwise(lines)
    )


def _lines(layout: Layout, columns: Columns) -> tuple[ParsedLine, ...]:
    found = []
    for place, row in enumerate(layout.rows):
        where = f"row {layout.starts + place}"
        if len(row) < len(layout.heading) and _cell(row, columns.day) == "":
            raise UnreadableStatement(f"{where} has too few fields: the file may be cut off.")
        found.append(_line(place + 1, row, columns, where))
    if found and not layout.ends_whole and _is_cut(layout, columns):
        raise UnreadableStatement("The last row is not whole: the file is cut off.")
    return tuple(found)


def _is_cut(layout: Layout, columns: Columns) -> bool:
    """Whether the last row, with no end of line, is shorter than the others or its last sum is."""
    *others, last = layout.rows
    if len(last) < len(layout.heading):
        return True

    def places(row: Sequence[str]) -> int:
        decimals = decimal_in(row[-1]) if row else None
        return -int(decimals.as_tuple().exponent) if decimals is not None else -1

    usual = {places(row) for row in others}
    return len(usual) == 1 and usual != {-1} and places(last) not in usual


def _cell(row: Sequence[str], column: int | None) -> str:
    return row[column] if column is not None and column < len(row) else ""


def _line(number: int, row: Sequence[str], columns: Columns, where: str) -> ParsedLine:
    day = _day(_cell(row, columns.day), columns.day_order)
    if day is None:
        raise UnreadableStatement(
            f"{where}: {_cell(row, columns.day)!r} is no day in the order {columns.day_order}."
        )
    amount = _amount(row, columns)
    if amount is None:
        raise UnreadableStatement(f"{where}: there is no amount in it, or it can't be read.")
    counterparty = tidy(_cell(row, columns.counterparty))
    words = [_cell(row, column) for column in columns.text]
    value_day = _cell(row, columns.value_day)
    return ParsedLine(
        number=number,
        day=day,
        amount=amount,
        text=tidy(" ".join(words)) or counterparty or "",
        reference=tidy(_cell(row, columns.reference)),
        counterparty=counterparty,
        bank_id=tidy(_cell(row, columns.bank_id)),
        balance=decimal_in(_cell(row, columns.balance)),
        value_day=_day(value_day, columns.day_order) if value_day else None,
    )


def _amount(row: Sequence[str], columns: Columns) -> Decimal | None:
    if columns.amount is not None:
        amount = decimal_in(_cell(row, columns.amount))
    else:
        paid_in = decimal_in(_cell(row, columns.money_in))
        paid_out = decimal_in(_cell(row, columns.money_out))
        if paid_in is None and paid_out is None:
            return None
        amount = (paid_in or Decimal(0)) - abs(paid_out or Decimal(0))
    if amount is None:
        return None
    return -amount if columns.turned else amount
