"""All checks on 25,000 transactions, and on four times as many. Run by `make bench`."""

import gc
import time
from datetime import date

from bench.books_of_size import books_of
from corkpost.core.books import Books
from corkpost.core.checks import registry, run_checks
from corkpost.core.points import CheckRun

TODAY = date(2026, 11, 16)


def seconds(books: Books, rounds: int = 3) -> float:
    """The best of some runs, each on a fresh look, in seconds of one core."""
    best = float("inf")
    for _ in range(rounds):
        begun = time.process_time()
        run_checks(CheckRun(Books(books.client, books.tables, books.calendar), TODAY))
        best = min(best, time.process_time() - begun)
    return best


def main() -> None:
    small, large = books_of(25_000), books_of(100_000)
    # As the workplace does: loaded books hold no cycle, and the collector passes them over.
    gc.freeze()
    took, took_large = seconds(small), seconds(large)
    print(f"all {len(registry())} checks on {len(small.tables.transactions):,} transactions:")
    print(f"  {took:.2f} s of one core (aim: under 3)")
    print(f"on {len(large.tables.transactions):,}: {took_large:.2f} s")
    print(f"  {took_large / took:.2f} times for four times as many (aim: at most 5)")


if __name__ == "__main__":
    main()
