"""The worksheet of a large client beside a grouped sum in SQL over the same joins, and what else is
reckoned from all its lines: the seal's check, the reading, the audit file. Run by `make bench`."""

import tempfile
import time
from collections.abc import Callable
from datetime import date, datetime
from pathlib import Path
from statistics import median

from bench.books_of_size import books_of
from corkpost.core.analysis import analysis
from corkpost.core.books import Books
from corkpost.core.kept import Kept
from corkpost.core.seal_forms import seal_digest
from corkpost.core.worksheet import worksheet
from corkpost.formats.audit_file.writing import write_audit_file
from corkpost.formats.books_folder.writing import write_books
from corkpost.services import books, staff
from corkpost.services.workplace import Workplace

TODAY = date(2026, 11, 16)
AT = date(2026, 10, 31)
TRANSACTIONS = 62_000
GROUPED = """
    SELECT account.type, line.account, posted.change_number = 1, SUM(line.amount)
    FROM lines AS line
    JOIN current_transactions AS posted
      ON posted.client_id = line.client_id AND posted.seq = line.transaction_seq
    JOIN accounts AS account
      ON account.client_id = line.client_id AND account.code = line.account
    WHERE line.client_id = 1 AND posted.posting_date <= '2026-10-31'
    GROUP BY account.type, line.account, posted.change_number = 1
"""


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        workplace = Workplace(Path(folder) / "data", TODAY)
        partner = staff.found_practice(workplace, "Bench", ("OB", "OB", "a password for measuring"))
        made = books_of(TRANSACTIONS)
        to = Path(folder) / "books"
        write_books(made.client, made.tables, to, created=datetime(2026, 11, 2), file_of=Path)
        books.take_in(workplace, partner, to)
        found = workplace.ledger(partner, made.client.code).books
        lines = sum(len(posted.lines) for posted in found.tables.transactions)
        year = found.calendar.year_of(AT)
        reading = workplace.database.reading
        print(f"a client of {lines:,} lines, milliseconds (middle of five):")
        sql = timed(lambda: reading.execute(GROUPED).fetchall())
        first = timed(lambda: worksheet(forgetful(found), year, AT))
        again = timed(lambda: worksheet(found, year, AT))
        print(f"  {sql:7.0f}  a grouped sum in SQL")
        print(f"  {first:7.0f}  the worksheet, nothing kept: {first / sql:.2f} times that")
        print(f"  {again:7.0f}  the worksheet, as it is opened: {again / sql:.2f} times that")
        print(
            f"  {timed(lambda: seal_digest(forgetful(found), AT)):7.0f}  a seal checked, nothing kept"
        )
        print(
            f"  {timed(lambda: seal_digest(found, AT)):7.0f}  a seal checked again, after a posting"
        )
        print(
            f"  {timed(lambda: analysis(found, year.first_day, AT)):7.0f}  the analytical reading"
        )
        file = Path(folder) / "year.xml"
        once = timed(lambda: write_audit_file(found, year, file, created=TODAY), times=1)
        print(f"  {once:7.0f}  the audit file, {file.stat().st_size // 1_000_000} MB")
        workplace.close()


def forgetful(found: Books) -> Books:
    """The same books, of which nothing is kept."""
    return Books(found.client, found.tables, found.calendar, found.changes, kept=Kept())


def timed(work: Callable[[], object], times: int = 5) -> float:
    took = []
    for _ in range(times):
        begun = time.perf_counter()
        work()
        took.append(1000 * (time.perf_counter() - begun))
    return median(took)


if __name__ == "__main__":
    main()
