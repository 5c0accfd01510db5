"""Files to sheets of cells: CSV of any separator, fixed width, the spreadsheet forms (XLSX, XLS, ODS)."""

import csv
import io
import re
from collections import Counter
from collections.abc import Iterable, Iterator
from itertools import pairwise
from pathlib import Path
from typing import NamedTuple

from corkpost.core.refusals import Refusal
from corkpost.formats.statements.parsed import text_of
from corkpost.formats.workbooks import BadWorkbook, Cell, is_workbook, tables_in

MOST_ROWS = 1_000_000
MOST_COLUMNS = 200
MARKS = ";\t|,"
_PICTURES = (b"\x89PNG", b"\xff\xd8\xff", b"GIF8", b"%PDF", b"BM", b"II*\0", b"MM\0*")
_FIGURE = re.compile(r"[-+(]?\d[\d.,'\u2019]*[-+)]?")
_GAP = re.compile(r"(?<=\S)(?: {2,}|\t)(?=\S)")


class Unreadable(Refusal):
    title = "This file can't be read"


class Row(NamedTuple):
    """*line*: where it stands in the file, from 1."""

    line: int
    cells: tuple[Cell, ...]

    def at(self, column: int | None) -> Cell:
        """The cell of that column; empty where there is none."""
        return self.cells[column] if column is not None and column < len(self.cells) else ""

    @property
    def texts(self) -> list[str]:
        """What is not empty, as text."""
        return [str(cell) for cell in self.cells if cell != ""]


def column_of(rows: Iterable[Row], place: int) -> list[Cell]:
    """The cells of one column; empty where a row has none."""
    return [cells[place] if place < len(cells) else "" for _, cells in rows]


class Sheet(NamedTuple):
    """One table of a file; *name* is empty where the file has one alone."""

    file: str
    name: str
    rows: tuple[Row, ...]

    @property
    def says(self) -> str:
        return f"{self.file}, sheet {self.name}" if self.name else self.file


def read_sheets(path: Path) -> list[Sheet]:
    """The tables of a file that have anything in them. Raises Unreadable, which says what to do."""
    return sheets_in(path.name, path.read_bytes())


def sheets_in(name: str, content: bytes) -> list[Sheet]:
    """The tables of what a file of that name holds. Raises Unreadable, which says what to do."""
    if not content.strip():
        raise Unreadable(f"{name} is empty. Ask for it once more.")
    if content.startswith(_PICTURES):
        raise Unreadable(
            f"{name} is a picture or a printed page, and no table. Ask for the list as CSV or XLSX."
        )
    if is_workbook(content):
        return list(_workbook(name, content))
    return [Sheet(name, "", tuple(_rows_of_text(name, content)))]


# -- spreadsheets


def _workbook(file: str, content: bytes) -> Iterator[Sheet]:
    try:
        full = tables_in(content)
    except BadWorkbook as wrong:
        raise Unreadable(f"{file} {wrong}") from wrong
    for name, rows in full:
        _refuse_too_much(file, len(rows), max(map(len, rows)))
        yield Sheet(
            file,
            name if len(full) > 1 else "",
            tuple(Row(line, row) for line, row in enumerate(rows, 1)),
        )


# -- texts


def _rows_of_text(name: str, content: bytes) -> Iterator[Row]:
    text = text_of(content).lstrip("\ufeff")
    if "\x00" in text:
        raise Unreadable(f"{name} is no table: a CSV, XLSX, XLS or ODS file is wanted.")
    text = text.replace("\r\n", "\n").replace("\r", "\n")
    declared = re.match(r"\s*sep=(.)\n", text)
    skipped = 1 if declared else 0
    text = text[declared.end() :] if declared else text
    marks = declared[1] if declared else MARKS
    best = max(marks, key=lambda mark: _regular(text, mark))
    if not _regular(text, best)[0]:
        yield from _fixed(text)
        return
    try:
        reader = csv.reader(io.StringIO(text), delimiter=best, strict=True)
        last = 0
        for cells in reader:
            line, last = last + 1 + skipped, reader.line_num
            if line > MOST_ROWS or len(cells) > MOST_COLUMNS:
                _refuse_too_much(name, line, len(cells))
            yield Row(line, tuple(map(str.strip, cells)))
    except csv.Error as wrong:
        raise Unreadable(
            f"{name}, line {last + 1}: a quotation mark is opened and not closed. The file may have been "
            "cut off."
        ) from wrong


def _regular(text: str, mark: str) -> tuple[int, int]:
    """How many rows have the width that most of those with several cells have; and the width."""
    try:
        rows = list(csv.reader(io.StringIO(text[:200_000]), delimiter=mark))
    except csv.Error:
        return (0, 0)
    widths = Counter(len(row) for row in rows if len(row) >= 2)
    width, count = max(widths.items(), key=lambda item: (item[1], item[0]), default=(0, 0))
    return (count, width) if width > 2 or count > len(rows) / 2 else (0, 0)


def _fixed(text: str) -> Iterator[Row]:
    """Columns that stand below each other: parted where all rows have a blank."""
    lines = text.split("\n")
    tables = [line.expandtabs() for line in lines if _GAP.search(line)]
    if not tables:
        yield from (Row(number, (line.strip(),)) for number, line in enumerate(lines, 1))
        return
    width = max(map(len, tables))
    used = [0] * (width + 1)
    for line in tables:
        for place, sign in enumerate(line):
            used[place] += sign != " "
    # A title over the table may run across its columns.
    few = len(tables) * 0.02
    cuts = [
        place
        for place in range(1, width)
        if used[place] > few and used[place - 1] <= few and (place < 2 or used[place - 2] <= few)
    ]
    for number, line in enumerate(lines, 1):
        flat = line.expandtabs()
        bounds = [0, *(_beside_a_word(flat, cut) for cut in cuts), width + 1]
        cells = tuple(flat[a:b].strip() for a, b in pairwise(bounds))
        yield Row(number, cells)


def _beside_a_word(line: str, cut: int) -> int:
    """Where a line is cut when what stands there is wider than in other lines: a figure goes to the right
    whole, a word to the left."""
    if cut >= len(line) or " " in line[cut - 1 : cut + 1]:
        return cut
    start = line.rfind(" ", 0, cut) + 1
    end = line.find(" ", cut)
    end = len(line) if end < 0 else end
    return start if _FIGURE.fullmatch(line[start:end]) else end


def _refuse_too_much(name: str, rows: int, columns: int) -> None:
    if rows > MOST_ROWS:
        raise Unreadable(f"{name} has more than {MOST_ROWS:,} rows. Take it in year by year.")
    if columns > MOST_COLUMNS:
        raise Unreadable(f"{name} has a row of more than {MOST_COLUMNS} columns.")
