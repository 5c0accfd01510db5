"""Which column is what by what stands in it, where the heading does not say it or says it wrongly."""

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import replace

from corkpost.core.chart.trade_words import by_name, plain
from corkpost.formats.listings.figures import day_in
from corkpost.formats.listings.headings import OF_ANYTHING, Heading
from corkpost.formats.listings.sheets import Cell, Row, Sheet, column_of
from corkpost.formats.listings.words import begins_as, roles_of
from corkpost.formats.statements.csv_days import ORDERS

LOOKED_AT = 2_000
MOSTLY = 0.9
LONGEST_NAME = 3
"""So many cells may hold the word `Account`, its code and its name."""
MANY = 0.6
FEW = 4
"""A text stands so many times in a column of accounts, and more."""
LEAST_CODES = 3
"""So many accounts show that a column holds their names."""
FIGURES = ("debit", "credit", "amount", "open", "balance")


def told_by_content(sheet: Sheet, heading: Heading) -> Heading:
    """The heading with what its columns hold taken into account: days that nothing names as such, the names
    of accounts, numbers of entries and of papers."""
    rows = list(_filled(sheet, heading))[:LOOKED_AT]
    if len(rows) < LEAST_CODES:
        return heading
    columns = dict(heading.columns)
    _find_day(rows, heading, columns)
    _find_names(rows, heading, columns)
    _find_named(sheet, rows, heading, columns)
    _find_numbers(rows, columns)
    return replace(heading, columns=columns)


def _filled(sheet: Sheet, heading: Heading) -> Iterator[Row]:
    """The rows that have a figure and are no total."""
    figures = [heading.columns[role] for role in FIGURES if role in heading.columns]
    for row in sheet.rows[heading.last + 1 :]:
        if len(row.texts) > 2 and any(row.at(place) != "" for place in figures):
            yield row


def _free(heading: Heading, columns: dict[str, int]) -> list[int]:
    taken = set(columns.values())
    return [place for place in range(len(heading.names)) if place not in taken]


def has_blocks(sheet: Sheet, heading: Heading, but: int | None = None) -> bool:
    """Whether names stand in rows without a day and a figure, as accounts do over what moved on them; those
    do not count that stand alone in the column *but*."""
    figures = [heading.columns[role] for role in FIGURES if role in heading.columns]
    alone = 0
    for row in sheet.rows[heading.last + 1 :]:
        texts = row.texts
        alone += (
            0 < len(texts) <= LONGEST_NAME
            and not any(row.at(place) != "" for place in figures)
            and not _is_day(row.at(heading.columns["day"]))
            and not begins_as(texts[0], "total")
            and (but is None or len(texts) > 1 or row.at(but) == "")
        )
    return alone > 1


def _find_day(rows: Sequence[Row], heading: Heading, columns: dict[str, int]) -> None:
    moves = "amount" in columns or {"debit", "credit"} <= columns.keys()
    if "day" in columns or not moves:
        return
    for place in _free(heading, columns):
        cells = [cell for cell in column_of(rows, place) if cell != ""]
        days = sum(_is_day(cell) for cell in cells)
        if 2 * len(cells) > len(rows) and days >= MOSTLY * len(cells):
            columns["day"] = place
            return


def _is_day(cell: Cell) -> bool:
    return any(day_in(cell, order) is not None for order in ORDERS)


def _find_names(rows: Sequence[Row], heading: Heading, columns: dict[str, int]) -> None:
    """The column that has one text for each account has the accounts' names; the rows' text is another."""
    if "account" not in columns or "account_name" in columns:
        return
    free = _free(heading, columns)
    texts = [place for place in free if "text" in roles_of(heading.names[place])]
    own = [columns["text"]] if "text" in columns and texts else []
    whose = columns.get("party_name", -1)
    anybody = [whose] if whose >= 0 and plain(heading.names[whose]) in OF_ANYTHING else []
    mayhap = (*own, *anybody, *free)
    place = next((place for place in mayhap if _names_accounts(rows, columns, place)), None)
    if place is None:
        return
    columns["account_name"] = place
    if place in own:
        columns["text"] = texts[0]
    elif place in anybody:
        del columns["party_name"]


def _find_named(
    sheet: Sheet, rows: Sequence[Row], heading: Heading, columns: dict[str, int]
) -> None:
    """Where no column is the account: the one of few texts that are mostly names of accounts."""
    named = {"account", "account_name", "debit_account", "open"} & columns.keys()
    if named or "day" not in columns or sheet.name:
        return
    own = [columns["text"]] if "text" in columns else []
    for place in (*_free(heading, columns), *own):
        cells = [cell for cell in column_of(rows, place) if isinstance(cell, str) and cell]
        known = sum(by_name(cell) is not None for cell in cells)
        few = len(set(cells)) * FEW <= len(rows)
        most = len(cells) >= MOSTLY * len(rows) and known >= MANY * len(cells)
        if few and most and not has_blocks(sheet, replace(heading, columns=columns), but=place):
            columns["account_name"] = place
            if columns.get("text") == place:
                del columns["text"]
            return


def _names_accounts(rows: Sequence[Row], columns: dict[str, int], place: int) -> bool:
    names: dict[Cell, set[Cell]] = defaultdict(set)
    for row in rows:
        names[row.at(columns["account"])].add(row.at(place))
    names.pop("", None)
    each = [next(iter(found)) for found in names.values() if len(found) == 1]
    lettered = {cell for cell in each if isinstance(cell, str) and any(s.isalpha() for s in cell)}
    return len(names) >= LEAST_CODES and len(lettered) >= MOSTLY * len(names)


def _find_numbers(rows: Sequence[Row], columns: dict[str, int]) -> None:
    """A journal that is a figure of its own in most rows is the entry's number; a number that many rows are
    without is that of their papers."""
    if "number" not in columns and "journal" in columns:
        cells = [cell for cell in column_of(rows, columns["journal"]) if cell != ""]
        if len(set(cells)) * 5 > len(rows) and all(str(cell).isdigit() for cell in cells):
            columns["number"] = columns.pop("journal")
    if "number" in columns and "reference" not in columns and "account" in columns:
        filled = sum(cell != "" for cell in column_of(rows, columns["number"]))
        if filled < MOSTLY * len(rows):
            columns["reference"] = columns.pop("number")
