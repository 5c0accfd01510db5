"""The movements of one account, or of one party, between two dates (the way behind a balance)."""

from collections.abc import Iterable, Iterator
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import TransactionKind
from corkpost.core.money import Minor
from corkpost.core.periods import ONE_DAY
from corkpost.core.refusals import UnknownName
from corkpost.core.trial_balance import BROUGHT_FORWARD, Closing, stands_on
from corkpost.core.worksheet import EntryColumn, column_of


class Movement(NamedTuple):
    """A line with its transaction and the balance after it, debit positive."""

    posted: Transaction
    line: Line
    running: Minor


class Ledger(NamedTuple):
    """Opening + debits - credits = closing. *opening*: what stood before *first_day*.

    *of*: the account's or party's code.
    """

    of: str
    first_day: date
    last_day: date
    opening: Minor
    movements: tuple[Movement, ...]
    closing: Minor


def account_ledger(
    books: Books,
    code: str,
    first_day: date,
    last_day: date,
    *,
    column: EntryColumn | None = None,
    closing: Closing = Closing.IN,
    alone: bool = False,
    dimension: str | None = None,
) -> Ledger:
    """The account from *first_day* to *last_day*, both included, by posting date.

    Income and expense accounts begin at nil with the year of *last_day*. BROUGHT_FORWARD shows what
    earlier years' income and expense accounts hold that no closing entry carried forward. *column*:
    only what adds to that column of the worksheet. *closing*: whether the closing entries of the year
    of *last_day* are in it. *alone*: income and costs begin at nil with *first_day*, and BROUGHT_FORWARD
    shows what they came to before it. *dimension*: only what stands on it. Raises UnknownName for another
    code that the chart lacks.
    """
    if code != BROUGHT_FORWARD:
        books.account(code)
    begins = first_day if alone else books.calendar.year_of(last_day).first_day
    start, end = _bounds(books, code, begins, last_day)
    lines = (
        (posted, line)
        for posted, line in _lines(books, code)
        if not (start and posted.posting_date < start) and posted.posting_date <= end
        if column is None or _column_of(posted, begins) is column
        if closing is Closing.IN or not _closes(posted, begins)
        if dimension is None or stands_on(line, dimension)
    )
    return _run(code, lines, first_day, last_day)


def party_ledger(books: Books, code: str, first_day: date, last_day: date) -> Ledger:
    """The party's lines on the control accounts from *first_day* to *last_day*, both included.

    Its closing balance is the party's share of the control accounts: what its open items come to.
    Raises UnknownName for a party that is neither in the books nor on a line.
    """
    control = books.control_accounts
    lines = [
        (posted, line)
        for posted in books.of_party(code)
        for line in posted.lines
        if line.party == code and line.account in control and posted.posting_date <= last_day
    ]
    if not lines and code not in books.parties:
        raise UnknownName("party", code)
    return _run(code, lines, first_day, last_day)


def _run(
    of: str, lines: Iterable[tuple[Transaction, Line]], first_day: date, last_day: date
) -> Ledger:
    opening = running = 0
    movements = []
    for posted, line in sorted(lines, key=lambda pair: (pair[0].posting_date, pair[0].id)):
        day = posted.posting_date
        running += line.amount
        if day < first_day:
            opening = running
        else:
            movements.append(Movement(posted, line, running))
    return Ledger(of, first_day, last_day, opening, tuple(movements), running)


def _column_of(posted: Transaction, begins: date) -> EntryColumn:
    return EntryColumn.CLOSING if _closes(posted, begins) else column_of(posted)


def _closes(posted: Transaction, begins: date) -> bool:
    return posted.kind is TransactionKind.CLOSING and posted.posting_date >= begins


def _bounds(books: Books, code: str, begins: date, last_day: date) -> tuple[date | None, date]:
    if code == BROUGHT_FORWARD:
        return None, begins - ONE_DAY
    return (begins if books.accounts[code].is_profit_and_loss else None), last_day


def _lines(books: Books, code: str) -> Iterator[tuple[Transaction, Line]]:
    if code != BROUGHT_FORWARD:
        yield from books.lines_on(code)
        return
    for posted in books.tables.transactions:
        for line in posted.lines:
            if books.accounts[line.account].is_profit_and_loss:
                yield posted, line
