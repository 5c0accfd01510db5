"""A small valid books folder, and ways to spoil it."""

import csv
import json
from collections.abc import Callable
from dataclasses import replace
from datetime import datetime
from pathlib import Path

from corkpost.core.books import (
    AgreementRow,
    Amendment,
    Attachment,
    BankAccount,
    Books,
    Dimension,
    PayrollMonth,
    PriorBalance,
    StatementFile,
    StockItem,
)
from corkpost.core.kinds import StatementFormat, TransactionKind
from corkpost.formats.books_folder.reading import BooksFolder, read_books
from corkpost.formats.books_folder.writing import write_books
from tests.builders import (
    CODES,
    allocated,
    bill,
    books_with,
    day,
    direct_payment,
    invoice,
    payment,
    posted,
    receipt,
)

CREATED = datetime(2026, 11, 2, 9, 30)


def small_books(code: str = "SMALL") -> Books:
    """Two years of a little of everything that a folder can hold."""
    owed = bill("RW-0117", on="2026-04-03", id="T1", fuel="200.00", tax="46.00")
    paid = payment("2026-04-20", "246.00", id="T2", memo="REEDWHARF")
    rows = [
        owed,
        paid,
        bill("RW 117", on="2026-04-05", id="T3", fuel="200.00", tax="46.00"),
        invoice("SK-1", on="2026-05-02", id="T4", sales="100.00"),
        receipt("2026-05-20", "100.00", id="T5"),
        direct_payment("2026-06-01", memo='card, "quoted"\nand more', id="T6", office="12.30"),
        posted("Dr bank 500.00, Cr capital 500.00", "2025-01-01", id="T7"),
        posted("Dr bank 30.00, Cr sales 30.00", "2025-12-31", id="T8"),
    ]
    made = books_with(
        *rows,
        allocations=[allocated(paid, owed, "246.00")._replace(id="L1")],
        filed_through="2025-12-31",
        returned_through="2026-09-30",
        materiality="500.00",
        prior_year=[PriorBalance(day("2025-12-31"), CODES["sales"], -3000)],
        dimensions=(Dimension("site", "QUAY", "Quayside"),),
        bank_accounts=(BankAccount(CODES["bank"], "Test", "XX00", "EUR"),),
        stock=(StockItem(day("2026-12-31"), "paddles", "3", "10.5", 3150),),
        payroll=(PayrollMonth("2026-03", "all", gross=840000, net_pay=631000),),
        agreements=(AgreementRow("g1", CODES["bank"], "T2", 2, "april.csv#3"),),
        amendments=(Amendment("T1", CREATED, "reference", "RW117", "RW-0117", "keyed wrongly"),),
    )
    return replace(made, client=replace(made.client, code=code, name=f"{code} & Co"))


def credited(code: str = "SMALL") -> Books:
    """The small books, with the client's own credit for the bill that is in them twice."""
    made = small_books(code)
    credit = bill("CR RW 117", on="2026-06-02", id="C1", fuel="200.00", tax="46.00")
    lines = tuple(line._replace(amount=-line.amount) for line in credit.lines)
    credit = credit._replace(kind=TransactionKind.PURCHASE_CREDIT, lines=lines)
    rows = (*made.tables.transactions, credit)
    return replace(made, tables=replace(made.tables, transactions=rows))


def write(books: Books, to: Path, papers: dict[str, bytes] | None = None) -> Path:
    """Write the folder; *papers*: attachments of T1 by path, statements under `statements/`."""
    files = to.parent / f"{to.name}-files"
    files.mkdir(parents=True, exist_ok=True)
    tables = books.tables
    for number, (path, content) in enumerate((papers or {}).items()):
        (files / str(number)).write_bytes(content)
        if path.startswith("statements/"):
            row = StatementFile(CODES["bank"], path, StatementFormat.CSV, str(number))
            tables = replace(tables, statements=(*tables.statements, row))
        else:
            paper = Attachment("T1", path, "the bill", str(number))
            tables = replace(tables, attachments=(*tables.attachments, paper))
    write_books(books.client, tables, to, created=CREATED, file_of=lambda name: files / name)
    return to


def read(folder: Path, earlier: Books | None = None) -> BooksFolder:
    return read_books(folder, folder.parent / "kept", lambda _code: earlier)


Rows = list[list[str]]


def edit(folder: Path, table: str, change: Callable[[Rows], object]) -> None:
    """Change the rows of a table, its heading included, in place."""
    file = folder / f"{table}.csv"
    with file.open(encoding="utf-8", newline="") as text:
        rows = list(csv.reader(text))
    change(rows)
    with file.open("w", encoding="utf-8", newline="") as text:
        csv.writer(text, lineterminator="\n").writerows(rows)


def put(table: str, row: int, column: str, value: str) -> Callable[[Path], None]:
    """Sets one cell: *row* from 1 below the heading."""

    def spoil(folder: Path) -> None:
        def change(rows: Rows) -> None:
            rows[row][rows[0].index(column)] = value

        edit(folder, table, change)

    return spoil


def again(table: str, row: int, **changed: str) -> Callable[[Path], None]:
    """Repeats a row at the end, with other cells."""

    def spoil(folder: Path) -> None:
        def change(rows: Rows) -> None:
            copy = list(rows[row])
            for column, value in changed.items():
                copy[rows[0].index(column)] = value
            rows.append(copy)

        edit(folder, table, change)

    return spoil


def describe(*path: str | int, to: object) -> Callable[[Path], None]:
    """Sets a member of the descriptor."""

    def spoil(folder: Path) -> None:
        file = folder / "datapackage.json"
        package = json.loads(file.read_text("utf-8"))
        at = package
        for name in path[:-1]:
            at = at[name]
        at[path[-1]] = to
        file.write_text(json.dumps(package), "utf-8")

    return spoil
