"""The balances that books begin with, from a table of accounts and open items."""

from collections.abc import Iterator
from datetime import date
from typing import NamedTuple

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.kinds import AccountRole, EntryKind, TransactionKind
from corkpost.core.money import Minor, NotAnAmount
from corkpost.core.recipes.recipe import Made, Recipe
from corkpost.core.recipes.table import rows_of
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry

COLUMNS = ("account", "debit", "credit", "party", "reference", "document_date", "due_date")


class Row(NamedTuple):
    account: str
    amount: Minor
    party: str | None
    reference: str | None
    document_date: date | None
    due_date: date | None


def _make(books: Books, told: Told) -> Made:
    rows = list(_rows(books, told.text("file")))
    words = books.client.currency.format_amount
    total = sum(row.amount for row in rows)
    if total:
        side = "credits" if total > 0 else "debits"
        raise BadEntry([f"file: the {side} are {words(total)} short: an opening balances."])
    on, counter = told.day("date"), told.maybe_code("counter")
    reason = f"Opening balances of {on:%-d %B %Y}."
    items = [row for row in rows if row.party and counter]
    plain = [row for row in rows if row not in items]
    requests = [_item(row, counter, on, reason) for row in items if counter]
    lines = [EntryLine(row.account, row.amount, row.party) for row in plain]
    left = sum(row.amount for row in plain)
    if left and counter:
        lines.append(EntryLine(counter, -left))
    if lines:
        requests.insert(0, EntryRequest(EntryKind.ADJUSTING, on, reason, tuple(lines)))
    working = (
        f"{len(rows)} balances, {words(sum(max(row.amount, 0) for row in rows))} on each side",
    )
    return Made(tuple(requests), reason, working, kind=TransactionKind.OPENING)


def _item(row: Row, counter: str, on: date, reason: str) -> EntryRequest:
    """An open item stands by itself, with its number and days."""
    return EntryRequest(
        EntryKind.ADJUSTING,
        on,
        reason,
        (EntryLine(row.account, row.amount, row.party), EntryLine(counter, -row.amount)),
        reference=row.reference,
        document_date=row.document_date,
        due_date=row.due_date,
    )


def _rows(books: Books, text: str) -> Iterator[Row]:
    """Raises BadEntry with each fault at its line."""
    faults: list[str] = []
    found: list[Row] = []
    for number, cells in rows_of(text, "file", ("account", "debit", "credit"), COLUMNS):
        try:
            found.append(_row(books, cells))
        except (NotAnAmount, ValueError) as wrong:
            faults.append(f"file, line {number}: {wrong}.")
    if faults:
        raise BadEntry(faults[:100])
    yield from found


def _row(books: Books, cells: dict[str, str]) -> Row:
    if cells["account"] not in books.accounts:
        raise ValueError(f"there is no account {cells['account']!r} in the chart")
    if cells["party"] and cells["party"] not in books.parties:
        raise ValueError(f"there is no party {cells['party']!r} in the books")
    if bool(cells["debit"]) is bool(cells["credit"]):
        raise ValueError("fill exactly one of debit and credit")
    amount = books.client.currency.parse(cells["debit"] or cells["credit"])
    return Row(
        cells["account"],
        amount if cells["debit"] else -amount,
        cells["party"] or None,
        cells["reference"] or None,
        date.fromisoformat(cells["document_date"]) if cells["document_date"] else None,
        date.fromisoformat(cells["due_date"]) if cells["due_date"] else None,
    )


RECIPE = Recipe(
    "opening-balances",
    17,
    "Opening balances",
    "Accounts and open items as they stood before the first day, from a CSV table.",
    (
        Ask("date", AskKind.DAY, "The day before the first", needed=True),
        Ask("file", AskKind.TABLE, "Table: account, debit, credit, party, reference", needed=True),
        Ask(
            "counter",
            AskKind.ACCOUNT,
            "Account of opening balances, for open items with their numbers",
            roles=(AccountRole.OPENING,),
        ),
    ),
    _make,
)
