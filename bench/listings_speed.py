"""Understanding and taking in a ledger of 200,000 rows as a bookkeeper's program writes it, against reading
the same file and inserting it bare. Run by `make bench`."""

import csv
import resource
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from bench.books_of_size import books_of
from corkpost.core.kinds import Entity
from corkpost.core.money import Currency
from corkpost.services import listings, staff, tray
from corkpost.services.listing_job import ListingsAsked, NewClientAsked, take_in_listings
from corkpost.services.workplace import Workplace
from corkpost.store.database import Database

TRANSACTIONS = 62_000
PROPOSED = {"*": "proposed"}
HEADS = ("Entry no", "Date", "Account", "Account name", "Customer", "Document no", "Description",
         "Debit", "Credit")  # fmt: skip


def write_ledger(to: Path) -> int:
    """A flat ledger; its rows."""
    books, count = books_of(TRANSACTIONS), 0
    with to.open("w", encoding="utf-8", newline="") as file:
        rows = csv.writer(file)
        rows.writerow(HEADS)
        for posted in books.tables.transactions:
            for line in posted.lines:
                count += 1
                rows.writerow(
                    (
                        posted.id,
                        posted.posting_date.strftime("%d/%m/%Y"),
                        line.account,
                        books.accounts[line.account].name,
                        line.party or "",
                        posted.reference or "",
                        posted.memo or posted.kind.value,
                        f"{line.amount / 100:.2f}" if line.amount > 0 else "",
                        f"{-line.amount / 100:.2f}" if line.amount < 0 else "",
                    )
                )
    return count


def bare(ledger: Path, data: Path) -> None:
    """The csv module and executemany, into the same schema, indexes and triggers."""
    begun = time.perf_counter()
    database = Database(data)
    with database.writing() as connection, ledger.open(encoding="utf-8", newline="") as file:
        connection.execute("INSERT INTO clients (code) VALUES ('BARE')")
        rows = csv.reader(file)
        next(rows)
        seqs: dict[str, int] = {}
        heads, lines = [], []
        for number, row in enumerate(rows, 1):
            if row[0] not in seqs:
                seqs[row[0]] = len(seqs) + 1
                day, month, year = row[1].split("/")
                heads.append(
                    (1, seqs[row[0]], 1, row[0], "journal", f"{year}-{month}-{day}",
                     *(None,) * 4, row[5] or None, *(None,) * 9, "")
                )  # fmt: skip
            amount = round(100 * (float(row[7] or 0) - float(row[8] or 0)))
            lines.append(
                (1, seqs[row[0]], number, number, row[2], amount, row[4] or None, *(None,) * 6, "")
            )
        connection.executemany(
            "INSERT INTO lines VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)", lines
        )
        connection.executemany(
            "INSERT INTO transactions"
            " VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            heads,
        )
    told("bare", begun)


def as_on_the_page(ledger: Path, data: Path, take: bool) -> None:
    """Looked at, and then taken in by another process, as the page asks for it."""
    workplace = Workplace(data)
    if take:
        partner = staff.person_named(workplace, "OB")
        (there,) = (data / "uploads" / "tray").iterdir()
        file = there.name.partition(".")[2]
    else:
        partner = staff.found_practice(workplace, "Bench", ("OB", "OB", None))
        with ledger.open("rb") as content:
            file = tray.keep(workplace, partner, ledger.name, content)
    begun = time.perf_counter()
    new = NewClientAsked(name="Big", entity=Entity.COMPANY, year_end="12-31", currency="EUR")
    asked = ListingsAsked(client="BIG", files=[file], new=new, answers=PROPOSED, take=take)
    take_in_listings(workplace, partner, asked, lambda _: None)
    told("taken in as seen" if take else "understood and previewed", begun)
    workplace.close()


def at_once(ledger: Path, data: Path) -> None:
    """Taken in without a look before, as the command does."""
    workplace = Workplace(data)
    partner = staff.found_practice(workplace, "Bench", ("OB", "OB", None))
    begun = time.perf_counter()
    new = listings.NewClient("Big", Entity.COMPANY, (12, 31), Currency("EUR"))
    listings.take_in(workplace, partner, "BIG", [ledger], new=new, answers=PROPOSED)
    told("understood and taken in at once", begun)
    workplace.close()


def told(what: str, begun: float) -> None:
    seconds = time.perf_counter() - begun
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024
    print(f"{what}: {seconds:.1f} s, {memory} MB", flush=True)


def main() -> None:
    if len(sys.argv) > 1:
        what, ledger, data = sys.argv[1], Path(sys.argv[2]), Path(sys.argv[3])
        if what == "bare":
            bare(ledger, data / what)
        elif what == "at-once":
            at_once(ledger, data / what)
        else:
            as_on_the_page(ledger, data / "page", what == "take")
        return
    with tempfile.TemporaryDirectory() as folder:
        ledger = Path(folder) / "ledger.csv"
        print(f"{write_ledger(ledger)} rows")
        for what in ("bare", "preview", "take", "at-once"):
            command = [sys.executable, "-m", "bench.listings_speed", what, str(ledger), folder]
            subprocess.run(command, check=True)


if __name__ == "__main__":
    main()
