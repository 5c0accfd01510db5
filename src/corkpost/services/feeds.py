"""Statements asked of the bank for many clients: a report for each, and one that fails stops no other."""

from collections.abc import Callable, Sequence
from datetime import date, timedelta
from typing import NamedTuple
from urllib.error import HTTPError, URLError
from urllib.parse import quote, urlencode
from urllib.request import urlopen

from corkpost.core.books import Books
from corkpost.core.refusals import Refusal
from corkpost.services.rights import May, Person
from corkpost.services.statements import StatementIntake, take_in
from corkpost.services.workplace import Workplace

OVERLAP = timedelta(days=5)
"""The bank is asked again for the last days: some lines come later than the day that they bear."""
SECONDS = 20

Tell = Callable[[str], None]


class NoBank(Refusal):
    title = "No bank to ask"


class ClientFed(NamedTuple):
    """What came of one client. *problem*: in words, where something went wrong; the rest stands."""

    client: str
    name: str
    taken: tuple[StatementIntake, ...]
    problem: str | None


def take_in_from_bank(
    workplace: Workplace, person: Person, clients: Sequence[str], tell: Tell = lambda _: None
) -> tuple[ClientFed, ...]:
    """Ask the bank for each client's statements since the last and take them in. Raises NoBank."""
    person.must_be_allowed(May.TAKE_IN)
    if workplace.bank_address is None:
        raise NoBank("This practice has no bank to ask. Take the bank's files in on the Bank page.")
    found = []
    for number, code in enumerate(clients, 1):
        tell(f"{code}, {number} of {len(clients)}")
        found.append(_fed(workplace, person, code, workplace.bank_address))
    return tuple(found)


def _fed(workplace: Workplace, person: Person, code: str, address: str) -> ClientFed:
    books = workplace.ledger(person, code).books
    taken: list[StatementIntake] = []
    problems = []
    accounts = [row for row in books.tables.bank_accounts if row.identifier]
    if not accounts:
        problems.append("No bank account of this client has a number to ask the bank for.")
    for row in accounts:
        try:
            content = _asked(
                address, row.identifier or "", _since(books, row.account), workplace.today
            )
            name = f"{row.account}-{workplace.today}"
            taken += take_in(workplace, person, code, name, content, row.account)
        except HTTPError as error:
            what = "has no such account" if error.code == 404 else "could not answer"
            problems.append(f"{row.account}: the bank {what} ({error.code}). Try again later.")
        except (URLError, TimeoutError, OSError):
            problems.append(f"{row.account}: the bank did not answer. Try again later.")
        except Refusal as refused:
            problems.append(f"{row.account}: {refused}")
    return ClientFed(code, books.client.name, tuple(taken), " ".join(problems) or None)


def _since(books: Books, account: str) -> date:
    last = max(
        (statement.last_day for statement in books.statements if statement.account == account),
        default=None,
    )
    if last is not None:
        return last - OVERLAP
    return books.client.books_from or date(2000, 1, 1)


def _asked(address: str, identifier: str, since: date, today: date) -> bytes:
    query = urlencode({"from": since.isoformat(), "today": today.isoformat()})
    where = f"{address}/statements/{quote(identifier, safe='')}?{query}"
    with urlopen(where, timeout=SECONDS) as answer:
        content: bytes = answer.read()
    return content
