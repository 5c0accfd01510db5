"""The Books page: what was taken in, the chart of accounts and putting it right, new parties."""

from collections import Counter
from collections.abc import Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Account, Books, ClientFacts
from corkpost.core.chart.guessing import Guess, guesses, looked_at
from corkpost.core.chart.parties import NearParty, near_parties
from corkpost.core.coverage import Coverage, coverage
from corkpost.core.money import Minor
from corkpost.core.periods import Period
from corkpost.core.years import year_named, year_under_review
from corkpost.services.overview import account_balances
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace
from corkpost.store.changes import ChangeRow, changes_of
from corkpost.store.intake import Brought, brought


class TakenIn(NamedTuple):
    """A file that was taken in. *set_aside_by*: the change that did, where one did."""

    change: ChangeRow
    brought: Brought
    set_aside_by: int | None


class Intake(NamedTuple):
    """What was taken in and when: by table and month, and file by file, the latest first."""

    facts: ClientFacts
    periods: tuple[Period, ...]
    coverage: tuple[Coverage, ...]
    files: tuple[TakenIn, ...]


NOTHING = Brought(0, 0, 0, ())


def intake(
    workplace: Workplace, person: Person, client_code: str, year_label: str | None = None
) -> Intake:
    """What was taken in for the client: the months of that year, else of the one under review."""
    ledger = workplace.ledger(person, client_code)
    books = ledger.books
    year = (
        year_named(books, year_label) if year_label else year_under_review(books, workplace.today)
    )
    periods = tuple(books.calendar.periods(year))
    with workplace.database.snapshot() as connection:
        rows = changes_of(connection, ledger.client.id)
        counts = brought(connection, ledger.client.id)
    undone = {row.undoes: row.number for row in rows if row.undoes is not None}
    return Intake(
        books.client,
        periods,
        coverage(books, periods, workplace.today),
        tuple(
            TakenIn(row, counts.get(row.number, NOTHING), undone.get(row.number))
            for row in reversed(rows)
            if row.kind in ("import", "statement")
        ),
    )


class ChartRow(NamedTuple):
    """*confirmed*: a person gave or confirmed the role. *lines*: how many stand on the account."""

    account: Account
    balance: Minor
    lines: int
    guess: Guess | None
    confirmed: bool


def chart(
    workplace: Workplace, person: Person, client_code: str, as_at: date
) -> tuple[Books, tuple[ChartRow, ...]]:
    """The accounts by code, with what the program guesses of those without a role."""
    books = workplace.ledger(person, client_code).books
    balances = account_balances(books, as_at)
    lines = _lines(books)
    guessed, looked = guesses(books), looked_at(books)
    return books, tuple(
        ChartRow(
            account,
            balances.get(account.code, 0),
            lines[account.code],
            guessed.get(account.code),
            account.code in looked,
        )
        for account in sorted(books.tables.accounts, key=lambda account: account.code)
    )


def _lines(books: Books) -> Mapping[str, int]:
    found: Counter[str] | None = books.derived.get("lines-by-account")
    if found is None:
        found = books.derived["lines-by-account"] = Counter(
            line.account for posted in books.tables.transactions for line in posted.lines
        )
    return found


def near(
    workplace: Workplace, person: Person, client_code: str, name: str
) -> tuple[NearParty, ...]:
    """The client's parties whose names are nearly that."""
    return near_parties(workplace.ledger(person, client_code).books, name)
