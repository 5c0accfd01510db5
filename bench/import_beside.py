"""Eight people post while large books are taken in: what they wait. Run by `make bench`."""

import sys
import tempfile
import threading
import time
from datetime import date, datetime
from pathlib import Path

from bench.books_of_size import books_of
from bench.practice_of_size import PASSWORD, TODAY
from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.kinds import EntryKind
from corkpost.formats.books_folder.writing import write_books
from corkpost.services import acts, books, staff
from corkpost.services.posting import PostRequest
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace

PEOPLE = 8
EVERY_SECONDS = 1.0


def main() -> None:
    transactions = int(sys.argv[1]) if len(sys.argv) > 1 else 62_000
    with tempfile.TemporaryDirectory() as folder:
        measure(Path(folder), transactions)


def measure(folder: Path, transactions: int) -> None:
    workplace = Workplace(folder / "data", TODAY)
    partner = staff.found_practice(workplace, "Bench", ("OB", "OB", PASSWORD))
    small = [books_of(300, seed) for seed in range(2, 2 + PEOPLE)]
    for made in (*small, books_of(transactions)):
        to = folder / made.client.code
        write_books(made.client, made.tables, to, created=datetime(2026, 11, 2), file_of=Path)
    for made in small:
        books.take_in(workplace, partner, folder / made.client.code)
    stop = threading.Event()
    waits: list[float] = []
    refused: list[str] = []
    threads = [
        threading.Thread(
            target=post, args=(workplace, partner, made.client.code, stop, waits, refused)
        )
        for made in small
    ]
    for thread in threads:
        thread.start()
    begun = time.perf_counter()
    books.take_in(workplace, partner, folder / "BIG1")
    took = time.perf_counter() - begun
    stop.set()
    for thread in threads:
        thread.join()
    waits.sort()
    print(f"{PEOPLE} people post while {transactions:,} transactions are taken in ({took:.1f} s):")
    print(f"  {len(waits)} postings, {len(refused)} refused (aim: none)")
    for share in (0.5, 0.95, 1.0):
        wait = 1000 * waits[min(int(share * len(waits)), len(waits) - 1)]
        print(f"  {wait:6.0f} ms at most in {100 * share:.0f} of 100 (aim: 300)")
    workplace.close()


def post(
    workplace: Workplace,
    person: Person,
    client: str,
    stop: threading.Event,
    waits: list[float],
    refused: list[str],
) -> None:
    """An entry a second, each another."""
    accounts = workplace.ledger(person, client).books.tables.accounts
    cost, other = [account.code for account in accounts if account.is_profit_and_loss][:2]
    number = 0
    while not stop.is_set():
        number += 1
        lines = (EntryLine(cost, 100 + number), EntryLine(other, -100 - number))
        reason = f"measured, {number}"
        entry = EntryRequest(EntryKind.ADJUSTING, date(2026, 10, 31), reason, lines)
        begun = time.perf_counter()
        try:
            acts.post(workplace, person, client, entry, PostRequest(""))
        except Exception as wrong:
            refused.append(repr(wrong))
        waits.append(time.perf_counter() - begun)
        stop.wait(EVERY_SECONDS)


if __name__ == "__main__":
    main()
