"""The review of books of another shape that came as a client's lists, and not as a package that says kinds,
roles, tax codes and what settles what.

Run by `make review-quality`. A ledger in one of several layouts, with what the bank wrote in its texts, and
what is open of customers and of suppliers; owners, wages, stock and statements are said beside it.
"""

import csv
import tempfile
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

from tests.listings.rendering import STYLES, Renderer, Style

from bench.books_from_elsewhere import TODAY, Elsewhere, elsewhere
from corkpost.core.books import Books
from corkpost.core.chart.trade_words import by_name
from corkpost.core.evidence.said import said_of
from corkpost.core.intake.making import as_said, made_of
from corkpost.core.kinds import PartyKind
from corkpost.core.open_items import open_items
from corkpost.demo.labelled import Labelled
from corkpost.formats.listings.names import by_journal
from corkpost.formats.listings.questions import PROPOSED, Answers
from corkpost.formats.listings.sheets import Sheet, read_sheets
from corkpost.formats.listings.understanding import understand

LAYOUTS = (0, 6, 12, 18, 24)
"""Flat, flat in German with marks, flat in French, by account, by document: each with entry numbers."""
NOT_IN_A_LIST = frozenset({"entered-late", "opening-disagrees", "cut-off"})
"""What hangs on days of papers and of keying, which these lists do not have."""
TOLD_AS = {"journal-pair-open": "unallocated"}
"""A journal on a customer looks like a paper there."""
HEADS = ("Account", "Contact", "Document no", "Date", "Due date", "Outstanding")


def as_lists(seed: int) -> Labelled:
    """The client's books after their lists were taken in, and the faults that lists can show."""
    made = elsewhere(seed)
    style = STYLES[LAYOUTS[seed % len(LAYOUTS)]]
    with tempfile.TemporaryDirectory() as folder:
        sheets = list(_sheets(made, style, Path(folder)))
    read = understand(sheets, made.books.client.currency, Answers({"*": PROPOSED}), TODAY)
    books = made.books
    found = made_of(as_said(read.raw, by_name), books.client, None, by_journal)
    if read.faults or found.faults:
        raise ValueError(f"{seed}: {[*read.faults, *found.faults][:2]}")
    owners = (party for party in books.tables.parties if party.kind is PartyKind.OWNER)
    tables = replace(
        found.tables,
        parties=(*found.tables.parties, *owners),
        payroll=books.tables.payroll,
        stock=books.tables.stock,
    )
    faults = tuple(
        (TOLD_AS.get(f.check, f.check), f.key) for f in made.faults if f.check not in NOT_IN_A_LIST
    )
    return Labelled(
        Books(books.client, tables, books.calendar, statements=books.statements), faults
    )


def _sheets(made: Elsewhere, style: Style, folder: Path) -> Iterator[Sheet]:
    books = made.books
    rows = (row._replace(memo=said_of(books, row) or None) for row in books.tables.transactions)
    renderer = Renderer(
        replace(books, tables=replace(books.tables, transactions=tuple(rows))), style
    )
    yield from read_sheets(renderer.write(renderer.ledger(), folder / "ledger"))
    items = open_items(books)
    for title, first in (("debtors", "D"), ("creditors", "V")):
        path = folder / f"open {title} 2026-09-30.csv"
        with path.open("w", encoding="utf-8", newline="") as file:
            table = csv.writer(file)
            table.writerow([f"Open {title} as at 2026-09-30"])
            table.writerow(HEADS)
            for key, left in items.still_open.items():
                item = items.items[key]
                if (item.party or "").startswith(first):
                    posted = item.transaction
                    days = (posted.posting_date, item.due_date)
                    sum_ = f"{left / 100:.2f}"
                    table.writerow([item.account, item.party, posted.reference or "", *days, sum_])
        yield from read_sheets(path)
