"""What a person waits for, on a busy client: each answer of the API. Run by `make bench`."""

import tempfile
import time
from datetime import date, datetime
from pathlib import Path
from random import Random
from typing import Any

from bench.books_of_size import books_of
from corkpost.api.app import create_app
from corkpost.core.kinds import AccountRole, StatementFormat
from corkpost.demo.bank import BankHabit, banked
from corkpost.formats.books_folder.writing import write_books
from corkpost.services import books, staff, statements
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace

TODAY = date(2026, 11, 16)
PASSWORD = "a password for measuring"
C = "/api/clients/BIG1"


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        workplace = Workplace(Path(folder) / "data", TODAY)
        partner = staff.found_practice(workplace, "Bench", ("OB", "OB", PASSWORD))
        made = books_of(25_000)
        to = Path(folder) / "books"
        write_books(made.client, made.tables, to, created=datetime(2026, 11, 2), file_of=Path)
        books.take_in(workplace, partner, to)
        browser = create_app(workplace).test_client()
        browser.post("/api/session", json={"code": "OB", "password": PASSWORD})
        print(f"a client of {len(made.tables.transactions):,} transactions, milliseconds:")
        timed(browser, "opened first, books loaded and checked", f"{C}/points")
        points = browser.get(f"{C}/points").json["points"]  # type: ignore[index]
        bank_speed(workplace, partner, browser)
        for what, address in (
            ("desk", "/api/desk"),
            ("client", C),
            ("points", f"{C}/points"),
            ("case", f"{C}/points/{points[0]['id']}?at=2026-10-31"),
            ("figures of the strip", f"{C}/figures?at=2026-10-31"),
            ("worksheet", f"{C}/worksheet?year=2026&at=2026-10-31"),
            ("sign-off", f"{C}/sign-off?at=2026-10-31"),
            ("all tie-outs", f"{C}/tie-outs?at=2026-10-31"),
            ("financial statements", f"{C}/financials?first=2026-01-01&last=2026-10-31"),
            ("the pack, whole", f"{C}/pack.zip?at=2026-10-31"),
            ("find in the client", "/api/find?q=246.00&client=BIG1"),
            ("postings of a month", f"{C}/transactions?first=2026-10-01&last=2026-10-31"),
            ("aged list", f"{C}/aged/payables?at=2026-10-31"),
        ):
            timed(browser, what, address)
        case = browser.get(f"{C}/points/{points[0]['id']}").json
        first = case["prepared"][0]  # type: ignore[index]
        act = {"act": "point", "point": points[0]["id"]}
        act |= {"route": first["route"], "settings": first["settings"]}
        body = {"act": act, "reason": "measured"}
        body |= {"shown": first["preview"]["digest"], "key": "k" * 16}
        begun = time.perf_counter()
        answer = browser.post(f"{C}/acts", json=body)
        assert answer.status_code == 201, answer.text
        print(f"  {1000 * (time.perf_counter() - begun):7.0f}  posting a correction")
        timed(browser, "points after it", f"{C}/points")
        workplace.close()


def bank_speed(workplace: Workplace, partner: Person, browser: Any) -> None:
    """Twelve months of statements taken in, then one month of them looked at and agreed."""
    ledger = workplace.ledger(partner, "BIG1").books
    (bank, *_) = ledger.with_role(AccountRole.BANK)
    habit = BankHabit("X1", (StatementFormat.CSV,))
    side = banked(ledger, bank.code, habit, Random(1), date(2025, 11, 1), date(2026, 10, 31))
    lines = 0
    begun = time.perf_counter()
    for path, (_, content) in side.files().items():
        (taken,) = statements.take_in(workplace, partner, "BIG1", path, content, bank.code)
        lines += taken.new
    took = time.perf_counter() - begun
    print(f"  {1000 * took:7.0f}  taking in 12 statements of {lines:,} lines in all")
    where = f"{C}/bank/{bank.code}"
    timed(browser, "the first month's statement, nothing agreed", f"{where}?statement=1")
    for number in range(1, 13):
        begun = time.perf_counter()
        act = {"act": "agree-sure", "account": bank.code, "statement": number, "likely": True}
        answer = browser.post(f"{C}/acts", json={"act": act, "key": f"agree {number:010d}"})
        assert answer.status_code == 201, answer.text
        if number in (1, 12):
            took = time.perf_counter() - begun
            print(f"  {1000 * took:7.0f}  agreeing what is likely in month {number}")
    timed(browser, "the last month's statement, all agreed", f"{where}?statement=12")


def timed(browser: Any, what: str, address: str) -> None:
    begun = time.perf_counter()
    answer = browser.get(address)
    assert answer.status_code == 200, answer.text
    print(f"  {1000 * (time.perf_counter() - begun):7.0f}  {what}")


if __name__ == "__main__":
    main()
