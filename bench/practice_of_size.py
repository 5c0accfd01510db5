"""A practice with one client of any size, with twelve months of statements, all but the last agreed."""

from datetime import date, datetime
from pathlib import Path
from random import Random
from typing import Any

from bench.books_of_size import books_of
from corkpost.api.app import create_app
from corkpost.core.acts import AgreeSure
from corkpost.core.kinds import AccountRole, StatementFormat
from corkpost.core.points import Level
from corkpost.core.refusals import NothingToDo
from corkpost.demo.bank import BankHabit, banked
from corkpost.formats.books_folder.writing import write_books
from corkpost.services import acts, books, staff, statements
from corkpost.services.posting import PostRequest
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace

TODAY = date(2026, 11, 16)
PASSWORD = "a password for measuring"
CLIENT = "BIG1"


def busy_practice(folder: Path, transactions: int) -> tuple[Workplace, Person]:
    """The workplace and its partner."""
    workplace = Workplace(folder / "data", TODAY)
    partner = staff.found_practice(workplace, "Bench", ("OB", "OB", PASSWORD))
    made = books_of(transactions)
    to = folder / "books"
    write_books(made.client, made.tables, to, created=datetime(2026, 11, 2), file_of=Path)
    books.take_in(workplace, partner, to)
    ledger = workplace.ledger(partner, CLIENT).books
    (account, *_) = ledger.with_role(AccountRole.BANK)
    habit = BankHabit("X1", (StatementFormat.CSV,))
    side = banked(ledger, account.code, habit, Random(1), date(2025, 11, 1), date(2026, 10, 31))
    for path, (_, content) in side.files().items():
        statements.take_in(workplace, partner, CLIENT, path, content, account.code)
    for number in range(1, 12):
        try:
            key = f"agree {number:010d}"
            act = AgreeSure(account.code, number, Level.LIKELY)
            acts.post(workplace, partner, CLIENT, act, PostRequest("", key=key))
        except NothingToDo:
            continue
    return workplace, partner


def browser_of(workplace: Workplace) -> Any:
    """A client of its API that is signed in as the partner."""
    browser = create_app(workplace).test_client()
    browser.post("/api/session", json={"code": "OB", "password": PASSWORD})
    return browser
