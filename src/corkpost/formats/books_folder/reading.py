"""Reading a books folder: every table into values, or every fault at once."""

import csv
import hashlib
import io
import json
import shutil
from collections import defaultdict
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from corkpost.core.books import (
    Account,
    AgreementRow,
    Allocation,
    Amendment,
    Attachment,
    BankAccount,
    Books,
    ClientFacts,
    Dimension,
    Line,
    Party,
    PayrollMonth,
    PriorBalance,
    StatementFile,
    StockItem,
    Tables,
    Tax,
    Transaction,
)
from corkpost.core.kinds import AccountRole, StatementFormat
from corkpost.formats.books_folder.archive import DESCRIPTOR, Archive, opened
from corkpost.formats.books_folder.checking import Places, check_tables
from corkpost.formats.books_folder.columns import TABLES, BadCell, Table, reader_of
from corkpost.formats.books_folder.descriptor import Descriptor, read_descriptor
from corkpost.formats.books_folder.faults import Faults
from corkpost.formats.statements.csv_table import refuse_other_columns
from corkpost.formats.statements.parsed import ParsedFile, UnreadableStatement
from corkpost.formats.statements.reading import read_statement

LONGEST_CELL = 1_000_000


@dataclass(frozen=True)
class BooksFolder:
    """What a folder holds. *files*: the bytes of statements and papers, by their path; *statements*:
    what the statement files say, by theirs."""

    client: ClientFacts
    tables: Tables
    files: Mapping[str, Path]
    warnings: tuple[str, ...]
    statements: Mapping[str, ParsedFile]


class TableRows:
    """The rows of one table as they were read: values by column, where each stood, other data.

    *spoiled*: what stands first in the rows that have a fault, so that one fault is told once.
    *unreadable*: the table is missing or has no usable heading.
    """

    __slots__ = ("lines", "others", "spoiled", "unreadable", "values")

    def __init__(self) -> None:
        self.values: list[list[Any]] = []
        self.lines: list[int] = []
        self.others: list[str] = []
        self.spoiled: set[str] = set()
        self.unreadable = False


EarlierBooks = Callable[[str], Books | None]
"""The books that are already there under a client's code, if any."""


def read_books(path: Path, files: Path, earlier: EarlierBooks = lambda _code: None) -> BooksFolder:
    """The books at *path*, a folder or a zip; statements and papers are copied into *files*.

    Raises FaultyBooks with every fault found, or UnreadableBooks where nothing could be looked at.
    """
    faults = Faults()
    with opened(path) as archive:
        descriptor = _descriptor(archive, faults)
        warnings = [
            f"{name} is no table of a books folder: it was left aside"
            for name in descriptor.paths
            if name not in TABLES
        ]
        read = _Reading(archive, descriptor, faults, warnings)
        rows = {name: read.table(table) for name, table in TABLES.items()}
        stored = read.files(rows, files)
        statements = read.statements(rows["statements"], stored)
    if any(row.unreadable for row in rows.values()):
        faults.refuse_any()
    _refuse_sides(rows, read.paths, faults)
    tables = _tables(rows, stored)
    check_tables(
        descriptor.client,
        tables,
        _places(rows, read.paths),
        faults,
        earlier(descriptor.client.code),
    )
    faults.refuse_any()
    return BooksFolder(descriptor.client, tables, stored, tuple(warnings), statements)


def _places(rows: Mapping[str, TableRows], paths: Mapping[str, str]) -> Places:
    lines = rows["lines"]

    def lines_of() -> dict[str, list[int]]:
        found: dict[str, list[int]] = defaultdict(list)
        for values, line in zip(lines.values, lines.lines, strict=True):
            found[values[0]].append(line)
        return found

    return Places(
        files=paths,
        lines={name: row.lines for name, row in rows.items()},
        lines_of=lines_of,
        spoiled={name: row.spoiled for name, row in rows.items()},
        on_transactions=[values[0] for values in lines.values],
    )


def _refuse_sides(rows: Mapping[str, TableRows], paths: Mapping[str, str], faults: Faults) -> None:
    """Note the lines that have both sides or neither, and last year's balances that have both."""
    lines = rows["lines"]
    for v, line in zip(lines.values, lines.lines, strict=True):
        if (v[4] is None) is (v[5] is None):
            both = "both debit and credit are" if v[4] is not None else "neither side is"
            faults.add(paths["lines"], line, "debit", f"{both} filled: fill exactly one")
            lines.spoiled.add(v[0])
    prior = rows["prior_year"]
    for v, line in zip(prior.values, prior.lines, strict=True):
        if v[2] is not None and v[3] is not None:
            faults.add(paths["prior_year"], line, "debit", "both sides are filled: fill one")


def _descriptor(archive: Archive, faults: Faults) -> Descriptor:
    if not archive.has(DESCRIPTOR):
        faults.add(DESCRIPTOR, 1, "-", "is missing: a books folder has one beside its tables")
        faults.refuse_any()
    with archive.open(DESCRIPTOR) as file:
        descriptor = read_descriptor(file.read(), faults)
    if descriptor is None:
        faults.refuse_any()
        raise AssertionError("a descriptor that can't be used has faults")
    return descriptor


class _Reading:
    def __init__(
        self, archive: Archive, descriptor: Descriptor, faults: Faults, warnings: list[str]
    ) -> None:
        self._archive = archive
        self._descriptor = descriptor
        self._faults = faults
        self._warnings = warnings
        self.paths = {
            name: descriptor.paths.get(name, table.file) for name, table in TABLES.items()
        }

    def table(self, table: Table) -> TableRows:
        rows = TableRows()
        path = self.paths[table.name]
        if not self._archive.has(path):
            if table.present or table.name in self._descriptor.paths:
                rows.unreadable = True
                self._faults.add(path, 1, "-", f"is missing: the table {table.name} must be there")
            return rows
        with (
            self._archive.open(path) as raw,
            io.TextIOWrapper(raw, encoding="utf-8-sig", newline="") as text,
        ):
            # Strict quoting: a stray quote would silently swallow the lines after it.
            reader = csv.reader(text, strict=True)
            try:
                self._read(table, path, reader, rows)
            except UnicodeDecodeError:
                line = self._not_utf8(path)
                self._faults.add(path, line, "-", "is not UTF-8 here: save it as UTF-8")
                rows.unreadable = True
            except csv.Error as bad:
                rows.unreadable = True
                self._faults.add(path, reader.line_num, "-", f"can't be read as CSV: {bad}")
        return rows

    def _not_utf8(self, path: str) -> int:
        """The first line that can't be decoded: the reader is a block ahead of it."""
        with self._archive.open(path) as raw:
            for number, line in enumerate(raw, 1):
                try:
                    line.decode("utf-8-sig")
                except UnicodeDecodeError:
                    return number
        return 1

    def _read(self, table: Table, path: str, reader: Any, rows: TableRows) -> None:
        csv.field_size_limit(LONGEST_CELL)
        heading = next(reader, None)
        if not heading:
            self._faults.add(path, 1, "-", "is empty: it needs a heading")
        if not heading or not self._heading_fits(table, path, heading):
            rows.unreadable = True
            return
        self._note_unknown(table, path, heading)
        currency = self._descriptor.client.currency
        readers = [reader_of(column.kind, currency) for column in table.columns]
        at = [heading.index(c.name) if c.name in heading else -1 for c in table.columns]
        cells = list(zip(at, readers, strict=True))
        needed = [(i, c.name) for i, c in zip(at, table.columns, strict=True) if c.filled]
        unknown = [(i, name) for i, name in enumerate(heading) if name not in table.names]
        width, first = len(heading), at[0]
        end = reader.line_num
        for record in reader:
            line, end = end + 1, reader.line_num
            if len(record) != width:
                if record:
                    what = f"the row has {len(record)} fields, the heading has {width}"
                    self._faults.add(path, line, "-", what)
                    rows.spoiled.update(record[first : first + 1])
                continue
            if "\x00" in "".join(record):
                place = next(i for i, cell in enumerate(record) if "\x00" in cell)
                self._faults.add(path, line, heading[place], "holds a NUL sign: take it out")
                rows.spoiled.add(record[first])
                continue
            for i, name in needed:
                if not record[i] or record[i].isspace():
                    self._faults.add(path, line, name, "is empty: it must be filled")
                    rows.spoiled.add(record[first])
            try:
                values = [read[record[i]] if i >= 0 else None for i, read in cells]
            except BadCell:
                self._note_bad_cells(table, path, line, record, cells)
                rows.spoiled.add(record[first])
                continue
            rows.values.append(values)
            rows.lines.append(line)
            rows.others.append(_other(record, unknown) if unknown else "")

    def _note_bad_cells(
        self, table: Table, path: str, line: int, record: list[str], cells: Sequence[Any]
    ) -> None:
        for column, (i, read) in zip(table.columns, cells, strict=True):
            try:
                read[record[i] if i >= 0 else ""]
            except BadCell as bad:
                self._faults.add(path, line, column.name, str(bad))

    def _heading_fits(self, table: Table, path: str, heading: list[str]) -> bool:
        before = self._faults.count
        for name in sorted({name for name in heading if heading.count(name) > 1}):
            self._faults.add(path, 1, name, "is there twice in the heading: keep one")
        for column in table.columns:
            if (column.filled or column.name in table.headed) and column.name not in heading:
                self._faults.add(path, 1, column.name, "is missing: the column must be there")
        return self._faults.count == before

    def _note_unknown(self, table: Table, path: str, heading: list[str]) -> None:
        for name in heading:
            if name not in table.names:
                self._warnings.append(
                    f"{path}: the column {name!r} is not known here; it is kept with its rows"
                )

    def files(self, rows: Mapping[str, TableRows], store: Path) -> dict[str, Path]:
        """The statement files and papers that the tables name, by path; kept by their digest."""
        found = {}
        for name in ("statements", "attachments"):
            for values, line in zip(rows[name].values, rows[name].lines, strict=True):
                path = values[1]
                if path is None:
                    continue
                if not self._archive.has(path):
                    what = f"there is no readable file {path!r} in the folder"
                    self._faults.add(self.paths[name], line, "path", what)
                elif path not in found:
                    found[path] = self._kept(path, store)
        return found

    def statements(self, rows: TableRows, stored: Mapping[str, Path]) -> dict[str, ParsedFile]:
        """What each statement file says; one that can't be read is a fault of its row."""
        found: dict[str, ParsedFile] = {}
        for values, line in zip(rows.values, rows.lines, strict=True):
            path = values[1]
            if path in stored and path not in found:
                try:
                    content = stored[path].read_bytes()
                    found[path] = read_statement(content)
                    if found[path].format is StatementFormat.CSV:
                        refuse_other_columns(content)
                except UnreadableStatement as error:
                    self._faults.add(self.paths["statements"], line, "path", f"{path!r}: {error}")
        return found

    def _kept(self, path: str, store: Path) -> Path:
        store.mkdir(parents=True, exist_ok=True)
        with self._archive.open(path) as file:
            digest = hashlib.file_digest(file, "sha256").hexdigest()  # type: ignore[arg-type]
            file.seek(0)
            kept = store / digest
            if not kept.exists():
                part = store / f".{digest}.part"
                with part.open("wb") as out:
                    shutil.copyfileobj(file, out)
                part.replace(kept)
        return kept


def _other(record: list[str], unknown: Sequence[tuple[int, str]]) -> str:
    found = {name: record[i] for i, name in unknown if record[i]}
    return json.dumps(found, ensure_ascii=False, sort_keys=True) if found else ""


def _tables(rows: Mapping[str, TableRows], files: Mapping[str, Path]) -> Tables:
    def each(name: str) -> Iterator[tuple[list[Any], str]]:
        return zip(rows[name].values, rows[name].others, strict=True)

    return Tables(
        accounts=tuple(
            Account(v[0], v[1], v[2], v[3] or AccountRole.ORDINARY, v[4], v[5], v[6], o)
            for v, o in each("accounts")
        ),
        parties=tuple(Party(v[0], v[1], v[2], v[3], v[4] or (), o) for v, o in each("parties")),
        taxes=tuple(Tax(v[0], v[1], v[2], v[3], v[4] is not False, o) for v, o in each("taxes")),
        dimensions=tuple(Dimension._make((*v, o)) for v, o in each("dimensions")),
        transactions=_transactions(rows),
        allocations=tuple(Allocation._make((*v, o, None)) for v, o in each("allocations")),
        bank_accounts=tuple(BankAccount._make((*v, o)) for v, o in each("bank_accounts")),
        statements=tuple(
            StatementFile._make((*v, _digest(files, v[1]), o)) for v, o in each("statements")
        ),
        prior_year=tuple(
            PriorBalance(v[0], v[1], (v[2] or 0) - (v[3] or 0), o) for v, o in each("prior_year")
        ),
        stock=tuple(StockItem._make((*v, o)) for v, o in each("stock")),
        payroll=tuple(PayrollMonth._make((*v, o)) for v, o in each("payroll")),
        # Their days follow from their members: they are written for readers outside.
        agreements=tuple(AgreementRow._make((*v[:-1], o, None)) for v, o in each("agreements")),
        amendments=tuple(Amendment._make((*v, o, None)) for v, o in each("amendments")),
        attachments=tuple(
            Attachment._make((*v, _digest(files, v[1]), o)) for v, o in each("attachments")
        ),
    )


def _digest(files: Mapping[str, Path], path: str) -> str:
    """The digest of a file that is there; empty for one whose absence is noted already."""
    return files[path].name if path in files else ""


def _transactions(rows: Mapping[str, TableRows]) -> tuple[Transaction, ...]:
    lines_of: dict[str, list[Line]] = defaultdict(list)
    lines = rows["lines"]
    for v, other in zip(lines.values, lines.others, strict=True):
        amount = (v[4] or 0) - (v[5] or 0)
        lines_of[v[0]].append(
            Line(v[1], v[2], amount, v[3], v[6], v[7], v[8], v[9], v[10], v[11], other)
        )
    headers = rows["transactions"]
    return tuple(
        Transaction._make((v[0], v[1], v[2], tuple(lines_of.get(v[0], ())), *v[3:], o, None))
        for v, o in zip(headers.values, headers.others, strict=True)
    )
