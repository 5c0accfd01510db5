"""A bank's CSV: which column is what is read from its heading, proved by the running balance where there
is one, and asked about only where two readings fit.

A running balance is chained in both directions: it proves signs, order and completeness.
"""

import csv
import io
import json
import re
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date
from decimal import Decimal
from itertools import pairwise
from typing import NamedTuple

from corkpost.core.kinds import StatementFormat
from corkpost.formats.statements.csv_days import day_of, day_orders, looks_like_day
from corkpost.formats.statements.csv_words import (
    BALANCE_WORDS,
    SIDES,
    folded,
    named,
    plain,
)
from corkpost.formats.statements.parsed import (
    ParsedFile,
    ParsedLine,
    ParsedStatement,
    UnreadableStatement,
    decimal_in,
    decimal_mark,
    text_of,
    tidy,
)
from corkpost.formats.workbooks import BadWorkbook, Cell, is_workbook, tables_in

MOST_PREAMBLE = 40
MOST_COLUMNS = 100
MOST_ROWS = 200_000
SAMPLE = 6


@dataclass(frozen=True)
class Columns:
    """Which column is what, from 0. *day_order*: `ymd`, `dmy` or `mdy`. *turned*: money out is
    positive. One of *amount* and the pair *money_in*, *money_out* is there. *side*: says of each
    amount which way it went."""

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
    side: int | None = None

    def as_json(self) -> str:
        return json.dumps(asdict(self))


def columns_of(text: str) -> Columns:
    """Columns from what `as_json` gave."""
    facts = json.loads(text)
    return Columns(**{**facts, "text": tuple(facts["text"])})


class Layout(NamedTuple):
    """A file's table. *heading*: its row of names, or names of ours where it has none. *starts*: the line
    of the first row below."""

    heading: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    starts: int
    ends_whole: bool
    has_heading: bool = True

    def column(self, place: int | None) -> list[str]:
        """The cells of a column, empty where a row is too short; none for no column."""
        return [] if place is None else [_cell(row, place) for row in self.rows]


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


_OWN = ("date", "description", "amount")


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


def refuse_other_columns(content: bytes) -> None:
    """Raise UnreadableStatement where a table lacks one of the columns that a books folder's has."""
    missing = [name for name in _OWN if name not in layout_of(content).heading]
    if missing:
        raise UnreadableStatement(
            f"It has no column {' and '.join(missing)}: a statement here has date, description and amount."
        )


# -- the table


def layout_of(content: bytes) -> Layout:
    """The table of the file, a CSV or a spreadsheet, below whatever stands above its heading."""
    records, whole = _in_workbook(content) if is_workbook(content) else _in_text(content)
    if len(records) > MOST_ROWS:
        raise UnreadableStatement(f"The file has more than {MOST_ROWS:,} rows.")
    if any(len(record) > MOST_COLUMNS for record in records):
        raise UnreadableStatement(f"A row of the file has more than {MOST_COLUMNS} columns.")
    found = [tuple(cell.strip() for cell in record) for record in records]
    for place, names in enumerate(found[:MOST_PREAMBLE]):
        if _is_heading(names, found[place + 1 :]):
            return Layout(names, _filled(found[place + 1 :]), place + 2, whole)
        if _is_movement(names):
            width = max(len(row) for row in found)
            ours = tuple(f"column {number}" for number in range(1, width + 1))
            return Layout(ours, _filled(found[place:]), place + 1, whole, has_heading=False)
    raise UnreadableStatement(
        "No heading was found: a row with the names of at least three columns, one of them the date."
    )


def _in_workbook(content: bytes) -> tuple[list[list[str]], bool]:
    """The rows of the longest sheet, as a CSV would have them; none can be cut off in the middle."""
    try:
        tables = tables_in(content)
    except BadWorkbook as wrong:
        raise UnreadableStatement(f"The file {wrong}") from wrong
    _, rows = max(tables, key=lambda table: len(table[1]))
    return [[_as_text(cell) for cell in row] for row in rows], True


def _as_text(cell: Cell) -> str:
    if isinstance(cell, Decimal):
        return format(cell, "f")
    return cell.isoformat() if isinstance(cell, date) else cell


def _in_text(content: bytes) -> tuple[list[list[str]], bool]:
    """The records of a CSV, and whether its last line is whole."""
    text = text_of(content).replace("\r\n", "\n").replace("\r", "\n")
    if "\x00" in text:
        raise UnreadableStatement("This is no text file: a CSV, OFX, camt or MT940 is wanted.")
    declared = re.match(r"\s*sep=(.)\n", text)
    if declared:
        text = text[declared.end() :]
    marks = declared[1] if declared else ",;\t|"
    records = max((_records(text, mark) for mark in marks), key=_regular)
    return records, text.endswith("\n")


def _filled(rows: Iterable[tuple[str, ...]]) -> tuple[tuple[str, ...], ...]:
    return tuple(row for row in rows if any(row))


def _is_heading(names: tuple[str, ...], below: Sequence[tuple[str, ...]]) -> bool:
    if sum(bool(name) for name in names) < 3 or any(looks_like_day(name) for name in names):
        return False
    known = sum(
        named([name], field) is not None for name in names for field in ("day", "amount", "balance")
    )
    rows = _filled(below[:5])
    has_day = named(names, "day") is not None or named(names, "value_day") is not None
    return (has_day and known > 0) or bool(rows and any(looks_like_day(x) for x in rows[0]))


def _is_movement(cells: Sequence[str]) -> bool:
    """Whether a row that has no heading above it is one of the table: a day, a sum, and a text."""
    if len(cells) < 3 or not any(looks_like_day(cell) for cell in cells):
        return False
    return any(not looks_like_day(cell) and decimal_in(cell) is not None for cell in cells)


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


# -- which column is what


def guessed_columns(layout: Layout) -> Columns | None:
    """What the headings and cells say; None where there is no day or no amount."""
    if not layout.has_heading:
        return next(iter(_without_heading(layout)), None)
    heading = layout.heading
    value_day = named(heading, "value_day")
    day = named(heading, "day", [value_day])
    if day is None:
        day, value_day = value_day, None
    if day is None:
        return None
    money_in, money_out = named(heading, "money_in"), named(heading, "money_out")
    pair = money_in is not None and money_out is not None and money_in != money_out
    balance = named(heading, "balance", [day, value_day])
    aside = [day, value_day, balance]
    amount = None if pair else named(heading, "amount", aside)
    if not pair and amount is None:
        return None
    used = [*aside, amount, *((money_in, money_out) if pair else ())]
    side = None if pair else _side_column(layout, used)
    used += [side, *(named(heading, field, used) for field in ("currency", "account"))]
    reference = named(heading, "reference", used)
    bank_id = named(heading, "bank_id", [*used, reference])
    # A column that the bank leaves empty names nobody.
    used += [p for p in range(len(heading)) if layout.rows and not any(layout.column(p))]
    counterparty = named(heading, "counterparty", [*used, reference, bank_id])
    text = named(heading, "text", [*used, reference, bank_id, counterparty])
    if text is None and counterparty is None:
        text = _wordiest(layout, [*used, reference, bank_id])
    if text is None and counterparty is None:
        return None
    orders = day_orders(_movement_days(layout, day))
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
        side=side,
    )


def _side_column(layout: Layout, used: Sequence[int | None]) -> int | None:
    """The column that says of each amount which way it went, by its cells: its name alone says little."""
    for place in range(len(layout.heading)):
        cells = [cell for cell in layout.column(place) if cell] if place not in used else []
        if cells and all(folded(cell).strip(".") in SIDES for cell in cells):
            return place
    return None


def _wordiest(layout: Layout, used: Sequence[int | None]) -> int | None:
    """The column with the most letters in it, where no heading says which the text is."""
    letters = {
        place: sum(sign.isalpha() for cell in layout.column(place) for sign in cell)
        for place in range(len(layout.heading))
        if place not in used
    }
    return max(letters, key=lambda place: letters[place]) if any(letters.values()) else None


def _without_heading(layout: Layout) -> Iterator[Columns]:
    """The readings of a table that has no heading, by what its cells are: the proved ones first."""
    width = range(len(layout.heading))
    days = [p for p in width if (c := layout.column(p)) and all(looks_like_day(x) for x in c)]
    sums = [p for p in width if p not in days and _all_sums(layout.column(p))]
    if not days or not sums:
        return
    text = _wordiest(layout, [*days, *sums])
    if text is None:
        return
    value_day = days[1] if len(days) > 1 else None
    for order in day_orders(layout.column(days[0])):
        plain_one = Columns(days[0], (text,), order, value_day=value_day)
        readings = [replace(plain_one, amount=p, balance=b) for p in sums for b in sums if p != b]
        readings += [
            replace(plain_one, money_in=i, money_out=o, balance=b)
            for i in sums for o in sums for b in sums if len({i, o, b}) == 3
        ]  # fmt: skip
        proved = [columns for columns in readings if proves(layout, columns)]
        yield from proved or [replace(plain_one, amount=p) for p in sums[:1]]


def _all_sums(cells: Sequence[str]) -> bool:
    filled = [cell for cell in cells if cell]
    decimals = any(re.search(r"[.,]\d{2}\D*$", cell) for cell in filled)
    return decimals and all(decimal_in(cell) is not None for cell in filled)


def certain_columns(layout: Layout) -> Columns | None:
    """The guess, where it needs no asking: the balance proves it, or no other reading fits."""
    if not layout.has_heading:
        proved = [columns for columns in _without_heading(layout) if proves(layout, columns)]
        return proved[0] if len(proved) == 1 else None
    guessed = guessed_columns(layout)
    if guessed is None:
        return None
    own = set(_OWN) <= set(layout.heading) and layout.heading[guessed.day] == "date"
    if own:
        return replace(guessed, day_order="ymd")
    if not layout.rows:
        return guessed
    orders = day_orders(_movement_days(layout, guessed.day))
    readings = [
        replace(guessed, day_order=order, turned=turned)
        for order in orders
        for turned in (False, True)
    ]
    proved = [columns for columns in readings if proves(layout, columns)]
    if proved:
        return proved[0] if len({columns.day_order for columns in proved}) == 1 else None
    # Without a balance: one order of the days, and a sign that says itself which way the money went.
    return guessed if len(orders) == 1 and _is_signed(layout, guessed) else None


def _is_signed(layout: Layout, columns: Columns) -> bool:
    if columns.balance is not None and any(layout.column(columns.balance)):
        # A balance that does not follow says that something is read wrong.
        return columns.amount is None
    if columns.amount is None or columns.side is not None:
        return True
    signs = {line.amount > 0 for line in _lines(layout, columns) if line.amount}
    return len(signs) == 2


def proves(layout: Layout, columns: Columns) -> bool:
    """Whether the balance beside each line follows from the one before, in either order of the lines."""
    if columns.balance is None:
        return False
    try:
        lines = _lines(layout, columns)
    except UnreadableStatement:
        return False
    return len(lines) > 1 and (_follows(lines) or _follows(tuple(reversed(lines))))


def _movement_days(layout: Layout, day: int) -> list[str]:
    return [cell for cell in layout.column(day) if looks_like_day(cell)]


# -- the statement


def _statement(layout: Layout, columns: Columns) -> ParsedStatement:
    lines = _oldest_first(_lines(layout, columns))
    first, last = (lines[0], lines[-1]) if lines else (None, None)
    has_balances = first is not None and first.balance is not None
    opening = first.balance - first.amount if first and first.balance is not None else None
    return ParsedStatement(
        identifier=_only(layout, "account", r"[A-Z]{2}\d{2}[A-Z0-9 ]{8,32}|[\d \-]{6,24}"),
        currency=_only(layout, "currency", r"[A-Z]{3}"),
        first_day=min((line.day for line in lines), default=None),
        last_day=max((line.day for line in lines), default=None),
        opening=opening,
        closing=last.balance if last and has_balances else None,
        lines=lines,
    )


def _only(layout: Layout, field: str, form: str) -> str | None:
    """What stands in every cell of that column, if it is one thing of that form."""
    if not layout.has_heading:
        return None
    names = [place for place, name in enumerate(layout.heading) if named([name], field) is not None]
    for place in names:
        cells = {cell for cell in layout.column(place) if cell}
        if len(cells) == 1 and re.fullmatch(form, cell := cells.pop()):
            return cell
    return None


def _oldest_first(lines: tuple[ParsedLine, ...]) -> tuple[ParsedLine, ...]:
    """The lines in the order of the account, as the running balance has it, else the days."""
    turned = tuple(reversed(lines))
    if _follows(lines):
        return lines
    newest_first = _is_newest_first(lines) and not _is_newest_first(turned)
    return turned if _follows(turned) or newest_first else lines


def _is_newest_first(lines: Sequence[ParsedLine]) -> bool:
    return all(line.day >= other.day for line, other in pairwise(lines))


def _follows(lines: Sequence[ParsedLine]) -> bool:
    """Whether each balance is the one before and the line's amount. Where a bank gives it once a day,
    the balances that there are must follow, and there must be two."""
    given = sum(line.balance is not None for line in lines)
    if given < 2 or (lines and lines[-1].balance is None):
        return False
    stands: Decimal | None = None
    for line in lines:
        if stands is not None:
            stands += line.amount
        if line.balance is not None:
            if stands is not None and line.balance != stands:
                return False
            stands = line.balance
    return True


def _lines(layout: Layout, columns: Columns) -> tuple[ParsedLine, ...]:
    mark = decimal_mark(
        cell
        for place in (columns.amount, columns.money_in, columns.money_out, columns.balance)
        for cell in layout.column(place)
    )
    found: list[ParsedLine] = []
    for place, row in enumerate(layout.rows):
        where = f"row {layout.starts + place}"
        if _is_no_movement(row, columns):
            continue
        if len(row) < len(layout.heading) and _cell(row, columns.day) == "":
            raise UnreadableStatement(f"{where} has too few fields: the file may be cut off.")
        found.append(_line(len(found) + 1, row, columns, where, mark))
    if found and not layout.ends_whole and _is_cut(layout):
        raise UnreadableStatement("The last row is not whole: the file is cut off.")
    return tuple(found)


def _is_no_movement(row: Sequence[str], columns: Columns) -> bool:
    """Whether the row is a balance, a total or a note: it says so, or has neither a day nor a sum."""
    places = (columns.amount, columns.money_in, columns.money_out)
    sums = [decimal_in(_cell(row, place)) for place in places]
    moved = any(amount is not None for amount in sums)
    has_day = looks_like_day(_cell(row, columns.day))
    if not has_day and not moved:
        return (
            not _cell(row, columns.day) or len([cell for cell in row if cell]) <= 2 or _totals(row)
        )
    return _totals(row) and (not moved or not has_day)


def _totals(row: Sequence[str]) -> bool:
    return any(set(plain(cell).split()) & BALANCE_WORDS for cell in row)


def _is_cut(layout: Layout) -> bool:
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


def _line(
    number: int, row: Sequence[str], columns: Columns, where: str, mark: str | None
) -> ParsedLine:
    day = day_of(_cell(row, columns.day), columns.day_order)
    if day is None:
        raise UnreadableStatement(
            f"{where}: {_cell(row, columns.day)!r} is no day in the order {columns.day_order}."
        )
    amount = _amount(row, columns, mark)
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
        balance=decimal_in(_cell(row, columns.balance), mark),
        value_day=day_of(value_day, columns.day_order) if value_day else None,
    )


def _amount(row: Sequence[str], columns: Columns, mark: str | None) -> Decimal | None:
    if columns.amount is not None:
        amount = decimal_in(_cell(row, columns.amount), mark)
    else:
        paid_in = decimal_in(_cell(row, columns.money_in), mark)
        paid_out = decimal_in(_cell(row, columns.money_out), mark)
        if paid_in is None and paid_out is None:
            return None
        amount = (paid_in or Decimal(0)) - abs(paid_out or Decimal(0))
    if amount is None:
        return None
    side = (
        SIDES.get(folded(_cell(row, columns.side)).strip(".")) if columns.side is not None else None
    )
    if side is not None:
        amount = side * abs(amount)
    return -amount if columns.turned else amount
