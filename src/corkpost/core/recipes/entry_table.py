"""Many entries from one table, posted as one change."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.entries import WRITTEN_BY_HAND, EntryLine, EntryRequest
from corkpost.core.keying import NotADay, keyed_amount, keyed_day
from corkpost.core.kinds import EntryKind
from corkpost.core.money import Minor, NotAnAmount
from corkpost.core.recipes.recipe import Made, Recipe
from corkpost.core.recipes.table import rows_of
from corkpost.core.recipes.told import Told, account_told
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.tax import TaxTreatment

NEEDED = ("entry", "date", "account", "debit", "credit")
COLUMNS = (
    *("entry", "kind", "date", "reverse_on", "reference", "reason"),
    *("account", "party", "debit", "credit", "tax_code", "tax", "text", "dimensions"),
)
"""Rows with the same `entry` are one entry; what is of the entry stands in its first row."""


def _make(books: Books, told: Told) -> Made:
    requests = tuple(_requests(books, told.text("file")))
    lines = sum(len(request.lines) for request in requests)
    reason = told.text("reason") or f"{len(requests)} entries taken in from a table."
    return Made(requests, reason, (f"{len(requests)} entries, {lines} lines",))


def _requests(books: Books, text: str) -> Iterator[EntryRequest]:
    """Raises BadEntry with each fault at its line."""
    groups: dict[str, list[tuple[int, dict[str, str]]]] = {}
    for number, row in rows_of(text, "file", NEEDED, COLUMNS):
        groups.setdefault(row["entry"], []).append((number, row))
    faults: list[str] = []
    found = []
    for rows in groups.values():
        try:
            found.append(_request(books, rows))
        except BadEntry as wrong:
            faults.append(str(wrong))
    if faults:
        raise BadEntry(faults[:100])
    yield from found


def _request(books: Books, rows: list[tuple[int, dict[str, str]]]) -> EntryRequest:
    faults: list[str] = []
    lines: list[EntryLine] = []
    number, head = rows[0]
    on = reverse_on = date.min
    kind = EntryKind.ADJUSTING
    try:
        near = books.received_through or books.reach.first_day
        on = keyed_day(head["date"], books.calendar, near)
        reverse_on = (
            keyed_day(head["reverse_on"], books.calendar, on) if head["reverse_on"] else date.min
        )
        kind = EntryKind(head["kind"] or EntryKind.ADJUSTING)
        if kind not in WRITTEN_BY_HAND:
            raise ValueError(f"an entry of kind {kind} is made by the program")
    except (NotADay, ValueError) as wrong:
        faults.append(f"file, line {number}: {wrong}.")
    for number, row in rows:
        try:
            lines.append(_line(books, row))
        except (NotAnAmount, UnknownName, ValueError) as wrong:
            faults.append(f"file, line {number}: {str(wrong).rstrip('.')}.")
    if faults:
        raise BadEntry(faults)
    return EntryRequest(
        kind,
        on,
        head["reason"],
        tuple(lines),
        None if reverse_on == date.min else reverse_on,
        head["reference"] or None,
    )


def _line(books: Books, row: dict[str, str]) -> EntryLine:
    return EntryLine(
        account_told(books, row["account"]),
        _amount(books, row),
        row["party"] or None,
        row["tax_code"] or None,
        TaxTreatment(row["tax"] or TaxTreatment.NONE),
        row["text"] or None,
        row["dimensions"] or None,
    )


def _amount(books: Books, row: dict[str, str]) -> Minor:
    if bool(row["debit"]) is bool(row["credit"]):
        raise ValueError("fill exactly one of debit and credit")
    amount = keyed_amount(row["debit"] or row["credit"], books.client.currency)
    return amount if row["debit"] else -amount


RECIPE = Recipe(
    "entry-table",
    19,
    "Entries from a table",
    "Many entries from a CSV table, seen together and posted as one change.",
    (
        Ask(
            "file",
            AskKind.TABLE,
            "Table: entry, date, account, debit, credit, and more",
            needed=True,
        ),
        Ask("reason", AskKind.TEXT, "Why"),
    ),
    _make,
)
