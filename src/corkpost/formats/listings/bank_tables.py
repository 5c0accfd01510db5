"""A bank's own table among a client's lists: told from them by its columns, else asked about."""

from pathlib import Path

from corkpost.formats.listings.headings import above, headings_of
from corkpost.formats.listings.questions import About, Answers, Choice
from corkpost.formats.listings.sheets import Sheet, Unreadable, sheets_in
from corkpost.formats.listings.words import titles_in
from corkpost.formats.statements.csv_days import looks_like_day
from corkpost.formats.statements.csv_table import (
    Columns,
    Layout,
    certain_columns,
    guessed_columns,
    layout_of,
    proves,
)
from corkpost.formats.statements.parsed import UnreadableStatement
from corkpost.formats.workbooks import is_workbook

LARGEST_WORKBOOK = 512 * 1024
HEAD = 64 * 1024
"""By so much of a file it is told whether it may be a bank's: a long ledger is not read twice."""
WITHOUT_DAY = 3
"""So many rows of a bank's table, balances and sums, may have no day; in one of fifty, one more."""
OF_LISTS = frozenset(
    "account account_name debit_account credit_account party due open opening closing".split()
)
STATEMENT, LIST = "bank-statement", "list"


def is_bank_table(path: Path, content: bytes, asked: Answers) -> bool:
    """Whether the file is a bank's statement in a table without accounts. Where its balance does not prove
    it, that is asked; answered once, it holds for the layout."""
    if is_workbook(content) and len(content) > LARGEST_WORKBOOK:
        return False
    whole = len(content) <= HEAD or is_workbook(content)
    head = content if whole else content[: content.rfind(b"\n", 0, HEAD) + 1]
    layout = _table(head)
    guessed = layout and guessed_columns(layout)
    if layout is None or guessed is None or not _each_has_a_day(layout, guessed):
        return False
    titled = False
    try:
        for sheet in sheets_in(path.name, head):
            if _is_list(sheet):
                return False
            titled = any(titles_in([*above(sheet, headings_of(sheet)), path.name]).values())
    except Unreadable:
        return False
    certain = certain_columns(layout)
    if certain is not None and proves(layout, certain) and not titled:
        return True
    said = asked.to(
        About.BANK_OR_LIST,
        path.name,
        f"Is {path.name} a statement of the bank? Its columns are {', '.join(layout.heading)}.",
        [
            Choice(STATEMENT, "yes: it is compared with the books"),
            Choice(LIST, "no: it is a list of the books"),
        ],
        LIST if titled else STATEMENT,
        layout="|".join(layout.heading),
    )
    return said == STATEMENT


def _table(head: bytes) -> Layout | None:
    try:
        return layout_of(head)
    except UnreadableStatement:
        return None


def _is_list(sheet: Sheet) -> bool:
    heading = headings_of(sheet)
    return heading is not None and bool(OF_LISTS & heading.columns.keys())


def _each_has_a_day(layout: Layout, columns: Columns) -> bool:
    days = layout.column(columns.day)
    without = sum(not looks_like_day(cell) for cell in days)
    return bool(days) and without <= WITHOUT_DAY + len(days) // 50 and without * 2 < len(days)
