"""The bank's corrections of its own errors: expected from when the error was booked, and agreed when
they come (handbook, section 5).

Only what can't be mistaken is taken: the very sum, on the account of the error, one line for one
error, and no entry in the books that the line could be instead.
"""

from collections import Counter
from collections.abc import Iterator
from datetime import date, timedelta
from typing import NamedTuple

from corkpost.core.bank.sides import bank_sides, group_rows, own_accounts
from corkpost.core.books import Books, Line, Transaction
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import correction_date
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, EntryKind
from corkpost.core.matching.clearing import left_after_pairing
from corkpost.core.money import Minor
from corkpost.core.statements import StatementLine

ROUTE = "bank-error"
WITHIN = timedelta(days=120)


class Expected(NamedTuple):
    """*waiting*: the entry that set the error aside on *clearing*. *line*: what corrects it."""

    account: str
    clearing: str
    waiting: Transaction
    amount: Minor
    line: StatementLine


def corrections_come(books: Books) -> tuple[Expected, ...]:
    """The statement lines that are the corrections which errors of the bank wait for."""
    waiting = [
        (account, clearing, posted, amount)
        for account in own_accounts(books)
        for clearing, posted, amount in _waiting(books, account)
    ]
    alike = Counter((account, amount) for account, _, _, amount in waiting)
    found = []
    for account, clearing, posted, amount in waiting:
        lines = lines_that_correct(books, account, posted.posting_date, amount)
        if len(lines) == 1 and alike[account, amount] == 1:
            found.append(Expected(account, clearing, posted, amount, lines[0]))
    return tuple(found)


def _waiting(books: Books, account: str) -> Iterator[tuple[str, Transaction, Minor]]:
    """The errors of the bank on this account that no correction has cleared, in the bank's sign."""
    for clearing in books.with_role(AccountRole.CLEARING):
        for posted, amount in left_after_pairing(books, clearing.code):
            if (
                posted.change is not None
                and posted.entry_kind is EntryKind.CORRECTING
                and [line.account for line in posted.lines] == [clearing.code, account]
            ):
                yield clearing.code, posted, amount


def lines_that_correct(
    books: Books, account: str, since: date, amount: Minor
) -> list[StatementLine]:
    """The lines of just *amount* (money in positive) that no entry has, or could have, since that day."""
    sides = bank_sides(books, account)
    free = any(
        entry.amount == amount and entry.key not in sides.group_of_entry
        for entry in sides.entries.values()
    )
    if free:
        return []
    return [
        line
        for line in sides.lines.values()
        if line.amount == amount
        and line.id not in sides.group_of_line
        and since <= line.day <= since + WITHIN
    ]


def plan_correction(books: Books, expected: Expected) -> Plan:
    """The line recorded on clearing, which is nil again, and agreed."""
    line, name = expected.line, expected.waiting.id
    text = f"{name}: the bank's correction"
    entry = entry_of(
        new_entry(1), correction_date(books, line.day), EntryKind.CORRECTING, expected.waiting
    )._replace(
        party=None,
        lines=(
            Line(1, expected.clearing, -expected.amount, description=text),
            Line(2, expected.account, expected.amount, description=text),
        ),
        memo=text,
    )
    why = "the bank's correction of its error"
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE,
        entries=(entry,),
        allocations=(),
        agreements=group_rows(
            "new-g1", expected.account, [(entry.id, 2)], [line.id], why=why, by_program=True
        ),
        proposed_reason=(
            "The bank's correction of "
            f"{books.client.currency.format_amount(abs(expected.amount))}, expected "
            f"since {format_date(expected.waiting.posting_date)} by {name}."
        ),
        about=(),
    )
