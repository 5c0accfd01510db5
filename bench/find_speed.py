"""Find on a million lines: what the first hits take. Run by `make bench`."""

import tempfile
import time
from datetime import date
from pathlib import Path
from random import Random
from statistics import median

from corkpost.services import find, staff
from corkpost.services.workplace import Workplace

CLIENTS, EACH, LINES = 50, 5_000, 4
WORDS = (
    "payment transfer card purchase rope harbour timber hire service fuel paper glass tools stock "
    "monthly annual deposit balance refund ticket boat trailer kettle paint window market supply"
).split()
STREETS = [f"{a}{b}" for a in ("north", "south", "quay", "mill", "fern", "salt") for b in WORDS]


def fill(workplace: Workplace) -> None:
    """Fifty clients of five thousand transactions with four lines each, written straight."""
    rng = Random("find")
    connection = workplace.database.reading
    for client in range(1, CLIENTS + 1):
        connection.execute("BEGIN")
        connection.execute(
            "INSERT INTO clients (id, code) VALUES (?, ?)", (client, f"B{client:03d}")
        )
        connection.execute(
            "INSERT INTO changes (client_id, number, kind, made_by, made_at, reason, prior_parts,"
            " content, previous, digest) VALUES (?, 1, 'import', 'OB', '2026-11-02', 'x', '[]',"
            " 'x', 'x', 'x')",
            (client,),
        )
        facts = (client, 1, f"Business {STREETS[client]}", "company", "EUR", "12-31", 0)
        connection.execute(
            "INSERT INTO client_facts VALUES (?, ?, ?, ?, ?, ?, ?, NULL, NULL, NULL, NULL, NULL,"
            " NULL, NULL, '[]')",
            facts,
        )
        for party in range(60):
            name = f"{rng.choice(STREETS)} {rng.choice(WORDS)}"
            connection.execute(
                "INSERT INTO parties (client_id, code, change_number, position, name, kind, share,"
                " aliases, other) VALUES (?, ?, 1, ?, ?, 'supplier', NULL, '[]', '')",
                (client, f"S{party:03d}", party, name),
            )
        lines, posted = [], []
        for seq in range(1, EACH + 1):
            amounts = [rng.randrange(100, 200_000) for _ in range(LINES - 1)]
            for place_, amount in enumerate((*amounts, -sum(amounts))):
                whose = f"S{rng.randrange(60):03d}" if amount < 0 else None
                lines.append((client, seq, place_, place_ + 1, "5200", amount, whose, ""))
            memo = " ".join(rng.choices(WORDS, k=3))
            day = (
                f"{rng.choice((2025, 2026))}-{rng.randrange(1, 13):02d}-{rng.randrange(1, 28):02d}"
            )
            posted.append(
                (
                    client,
                    seq,
                    1,
                    f"T{seq:06d}",
                    "journal",
                    day,
                    f"INV-{rng.randrange(10**6)}",
                    memo,
                    "",
                )
            )
        connection.executemany(
            "INSERT INTO lines (client_id, transaction_seq, position, number, account, amount,"
            " party, other) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
            lines,
        )
        connection.executemany(
            "INSERT INTO transactions (client_id, seq, change_number, id, kind, posting_date,"
            " reference, memo, other) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
            posted,
        )
        connection.execute("COMMIT")


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        workplace = Workplace(Path(folder), date(2026, 11, 16))
        partner = staff.found_practice(workplace, "Bench", ("OB", "OB", "a password for measuring"))
        fill(workplace)
        begun = time.perf_counter()
        find.catch_up(workplace)
        took = time.perf_counter() - begun
        total = CLIENTS * EACH * LINES
        print(f"{total:,} lines of {CLIENTS} clients; the index was made in {took:.0f} s")
        print(f"{'milliseconds':>42} {'middle':>8} {'worst':>8}  (aim: under 100)")
        for text in ("246", "1234.50", "kettle", "pay", "p", "payment transfer card", "INV-12345",
                     "INV", "northfuel", "payment 246", "T004711", "nothing at all"):  # fmt: skip
            for where in (None, "B007"):
                times = []
                for _ in range(7):
                    start = time.perf_counter()
                    find.find(workplace, partner, text, where)
                    times.append(1000 * (time.perf_counter() - start))
                whole = "in one client" if where else "in all"
                print(f"{text:>26} {whole:>15} {median(times):8.1f} {max(times):8.1f}")
        workplace.close()


if __name__ == "__main__":
    main()
