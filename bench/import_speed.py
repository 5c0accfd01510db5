"""Taking in 200,000 lines, against reading the same CSVs and inserting them bare.

Side by side in one run, each in a process of its own: the ratio, the time under the write lock, the
memory. Run by `make bench`.
"""

import csv
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path
from typing import Any

from bench.books_of_size import books_of
from corkpost.formats.books_folder.writing import write_books
from corkpost.services import books, staff
from corkpost.services.workplace import Workplace
from corkpost.store.database import Database

LINES = 200_000
TRANSACTIONS = 62_000


def write_folder(to: Path) -> int:
    """A folder of at least LINES lines; how many."""
    made = books_of(TRANSACTIONS)
    write_books(made.client, made.tables, to, created=datetime(2026, 11, 2), file_of=Path)
    return sum(len(row.lines) for row in made.tables.transactions)


def bare(folder: Path, data: Path) -> None:
    """The csv module and executemany, into the same schema, indexes and triggers."""
    begun = time.perf_counter()
    database = Database(data)
    with database.writing() as connection:
        connection.execute("INSERT INTO clients (code) VALUES ('BARE')")
        seqs = {}
        with (folder / "transactions.csv").open(encoding="utf-8", newline="") as file:
            rows = csv.reader(file)
            next(rows)
            heads = []
            for seq, row in enumerate(rows, 1):
                seqs[row[0]] = seq
                kept = [cell or None for cell in row]
                heads.append((1, seq, 1, row[0], row[1], row[2], *kept[3:17], ""))
        with (folder / "lines.csv").open(encoding="utf-8", newline="") as file:
            rows = csv.reader(file)
            next(rows)
            lines = []
            for row in rows:
                amount = _cents(row[4]) - _cents(row[5])
                kept = [cell or None for cell in row]
                lines.append(
                    (
                        1,
                        seqs[row[0]],
                        int(row[1]),
                        int(row[1]),
                        row[2],
                        amount,
                        kept[3],
                        *kept[6:12],
                        "",
                    )
                )
        connection.executemany(
            "INSERT INTO lines VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)", lines
        )
        connection.executemany(
            "INSERT INTO transactions"
            " VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            heads,
        )
        with (folder / "allocations.csv").open(encoding="utf-8", newline="") as file:
            rows = csv.reader(file)
            next(rows)
            links = [
                (1, seq, 1, *row[:5], _cents(row[5]), row[6] or None, row[7] or None, "")
                for seq, row in enumerate(rows, 1)
            ]
        connection.executemany(
            "INSERT INTO allocations VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)", links
        )
    print(time.perf_counter() - begun)


def _cents(text: str) -> int:
    return int(text.replace(".", "")) if text else 0


def ours(folder: Path, data: Path) -> None:
    """The import that everybody uses; also how long it holds the write lock, and its memory."""
    begun = time.perf_counter()
    workplace = Workplace(data)
    held = [0.0]
    writing: Callable[[], Any] = workplace.database.writing

    @contextmanager
    def timed() -> Any:
        with writing() as connection:
            since = time.perf_counter()
            yield connection
        held[0] = max(held[0], time.perf_counter() - since)

    workplace.database.writing = timed  # type: ignore[method-assign, assignment]
    partner = staff.found_practice(workplace, "Bench", ("OB", "OB", None))
    held[0] = 0
    books.take_in(workplace, partner, folder)
    took = time.perf_counter() - begun
    print(took, held[0], resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024)


def run(which: str, folder: Path) -> list[float]:
    """One way in a process of its own; what it printed."""
    with tempfile.TemporaryDirectory() as data:
        words = [sys.executable, "-m", "bench.import_speed", which, str(folder), data]
        found = subprocess.run(words, check=True, capture_output=True, text=True)
    return [float(word) for word in found.stdout.split()]


def main() -> None:
    if len(sys.argv) == 4:
        {"bare": bare, "ours": ours}[sys.argv[1]](Path(sys.argv[2]), Path(sys.argv[3]))
        return
    with tempfile.TemporaryDirectory() as made:
        folder = Path(made) / "books"
        lines = write_folder(folder)
        rounds = [(run("bare", folder)[0], run("ours", folder)) for _ in range(3)]
    bare_took = min(took for took, _ in rounds)
    took, held, memory = min((figures for _, figures in rounds), key=lambda figures: figures[0])
    print(f"taking in {lines:,} lines of {TRANSACTIONS:,} transactions, the best of 3:")
    print(f"  csv and executemany bare {bare_took:6.2f} s")
    print(f"  taken in                 {took:6.2f} s")
    print(f"  ratio                    {took / bare_took:6.2f}    (aim: at most 3)")
    print(f"  write lock held          {held:6.2f} s  (aim: under 3)")
    print(f"  memory at most           {memory:6.0f} MB (aim: under 600)")


if __name__ == "__main__":
    main()
