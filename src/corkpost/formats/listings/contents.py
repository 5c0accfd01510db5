"""Which column is what by what stands in it, where the heading does not say it or says it wrongly."""

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import date
from decimal import Decimal
from itertools import islice

from corkpost.core.chart.trade_words import by_name, plain
from corkpost.formats.listings.days import month_in, names_period
from corkpost.formats.listings.figures import (
    COMMA,
    POINT,
    amount_in,
    any_amount,
    day_in,
    is_day,
)
from corkpost.formats.listings.headings import OF_ANYTHING, SIDES, Heading
from corkpost.formats.listings.ledger import CODE_AND_NAME, ONLY_CODE
from corkpost.formats.listings.sheets import Row, Sheet, column_of
from corkpost.formats.listings.words import begins_as, is_one_of, roles_of, sides_of, wholly
from corkpost.formats.workbooks import Cell

LOOKED_AT = 2_000
MOSTLY = 0.9
LONGEST_NAME = 3
"""So many cells may hold the word `Account`, its code and its name."""
MANY = 0.6
FEW = 4
"""A text stands so many times in a column of accounts, and more."""
REPEATED = 3
NAMED = ("account", "account_name", "debit_account", "party", "party_name")
LEAST_CODES = 3
"""So many accounts show that a column holds their names."""
FIGURES = ("debit", "credit", "amount", "open", "balance")


def told_by_content(sheet: Sheet, heading: Heading) -> Heading:
    """The heading with what its columns hold taken into account: days that nothing names as such, the names
    of accounts, numbers of entries and of papers."""
    rows = list(islice(_filled(sheet, heading), LOOKED_AT))
    if len(rows) < LEAST_CODES:
        return _with_nameless_accounts(sheet, heading)
    columns = dict(heading.columns)
    _find_sides(rows, heading, columns)
    _find_accounts_of_sides(rows, columns)
    sides_said = _find_sums(rows, heading, columns)
    _find_day(rows, heading, columns)
    _find_names(rows, heading, columns)
    _find_named(sheet, rows, heading, columns)
    _find_numbers(rows, columns)
    _find_balance(rows, heading, columns)
    return replace(heading, columns=columns, sides_said=sides_said)


def _with_nameless_accounts(sheet: Sheet, heading: Heading) -> Heading:
    """Of rows of an account and its figures, the first column holds accounts, though nothing says so."""
    named = {*NAMED, "day", "open"} & heading.columns.keys()
    if named or heading.names[0] or not set(FIGURES) & heading.columns.keys():
        return heading
    cells = [str(row.at(0)) for row in sheet.rows[heading.last + 1 :] if len(row.texts) > 1]
    known = sum(_is_account(cell) or by_name(cell) is not None for cell in cells)
    if known < max(LEAST_CODES, MOSTLY * len(cells)):
        return heading
    return replace(heading, columns={**heading.columns, "account": 0})


_PARTS = ("year", "month", "day_of_month")


def with_whole_days(sheet: Sheet, heading: Heading) -> tuple[Sheet, Heading]:
    """Where year, month and day have a column each, the day's column holds all of it."""
    places = {
        part: place
        for part in _PARTS
        for place, name in enumerate(heading.names)
        if is_one_of(name, part)
    }
    if len(places) < len(_PARTS):
        return sheet, heading
    year, month, day = (places[part] for part in _PARTS)
    rows = []
    for row in sheet.rows:
        whole = _joined(row.at(year), row.at(month), row.at(day))
        cells = row.cells if whole is None else (*row.cells[:day], whole, *row.cells[day + 1 :])
        rows.append(Row(row.line, cells))
    taken = {role: place for role, place in heading.columns.items() if place not in places.values()}
    return sheet._replace(rows=tuple(rows)), replace(heading, columns={**taken, "day": day})


def _joined(year: Cell, month: Cell, day: Cell) -> date | None:
    named = month_in(str(month)) or month
    return day_in("-".join(f"{part}".zfill(2) for part in (year, named, day)), "ymd")


def _filled(sheet: Sheet, heading: Heading) -> Iterator[Row]:
    """The rows that have a figure and are no total; of a table whose figures nothing names, those with
    several cells."""
    figures = [heading.columns[role] for role in FIGURES if role in heading.columns]
    for row in sheet.rows[heading.last + 1 :]:
        texts = row.texts
        if len(texts) > 2 and (not figures or any(row.at(place) != "" for place in figures)):
            yield row


def _find_accounts_of_sides(rows: Sequence[Row], columns: dict[str, int]) -> None:
    """`Debit` and `Credit` beside an amount may each hold the account of that side."""
    if not {"debit", "credit", "amount"} <= columns.keys():
        return
    for role in ("debit", "credit"):
        cells = [cell for cell in column_of(rows, columns[role]) if cell != ""]
        accounts = sum(
            isinstance(cell, str) and "." not in cell and _is_account(cell) for cell in cells
        )
        if not cells or accounts < MOSTLY * len(cells):
            return
    for role in ("debit", "credit"):
        columns[f"{role}_account"] = columns.pop(role)


def _is_account(text: str) -> bool:
    return ONLY_CODE.fullmatch(text) is not None or CODE_AND_NAME.fullmatch(text) is not None


def _find_sums(rows: Sequence[Row], heading: Heading, columns: dict[str, int]) -> bool:
    """Where no heading names the amounts: the one column of amounts; or the two of which rows have one, and
    which of them is the debit nothing says. Whether the sides are said."""
    if any(role in columns for role in (*FIGURES, "opening", "closing", "opening_debit")):
        return True
    free = _free(heading, columns)
    periods = {place for place in free if names_period(heading.names[place])}
    if len(periods) == 1:
        # A word may be short for a month in some language.
        periods.clear()
    found = [place for place in free if place not in periods and _are_sums(column_of(rows, place))]
    if len(found) == 1:
        columns["amount"] = found[0]
    elif len(found) == 2 and all(
        _is_nil(row.at(found[0])) != _is_nil(row.at(found[1])) for row in rows
    ):
        columns["debit"], columns["credit"] = found
        return False
    return True


def _are_sums(cells: Sequence[Cell]) -> bool:
    """Whether they are amounts, some of them with cents."""
    told = [cell for cell in cells if cell != ""]
    mark = POINT if _with_cents(told, POINT) >= _with_cents(told, COMMA) else COMMA
    sums = sum(amount_in(cell, mark) is not None for cell in told)
    return bool(_with_cents(told, mark)) and sums >= MOSTLY * len(told)


def _with_cents(cells: Sequence[Cell], mark: str) -> int:
    found = (amount_in(cell, mark) for cell in cells)
    return sum(row is not None and int(row[0].as_tuple().exponent) < 0 for row in found)


def _is_nil(cell: Cell) -> bool:
    read = amount_in(cell, POINT)
    return cell == "" or (read is not None and not read[0])


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
            and not is_day(row.at(heading.columns["day"]))
            and not begins_as(texts[0], "total")
            and (but is None or len(texts) > 1 or row.at(but) == "")
        )
    return alone > 1


def is_repeated(sheet: Sheet, heading: Heading) -> bool:
    """Whether accounts stand there again and again, as in no trial balance."""
    place = heading.columns.get("account", heading.columns.get("account_name"))
    rows = islice(_filled(sheet, heading), LOOKED_AT)
    named = [row.at(place) for row in rows if row.at(place) != ""]
    has_party = "party" in heading.columns or "party_name" in heading.columns
    return not has_party and len(named) > REPEATED * len(set(named))


def _find_day(rows: Sequence[Row], heading: Heading, columns: dict[str, int]) -> None:
    moves = "amount" in columns or {"debit", "credit"} <= columns.keys()
    if "day" in columns or not moves:
        return
    for place in _free(heading, columns):
        cells = [cell for cell in column_of(rows, place) if cell != ""]
        days = sum(is_day(cell) for cell in cells)
        if 2 * len(cells) > len(rows) and days >= MOSTLY * len(cells):
            columns["day"] = place
            return


def _find_sides(rows: Sequence[Row], heading: Heading, columns: dict[str, int]) -> None:
    """A list of open items may be of both sides, with a column that says whose ledger a row is of."""
    if "open" not in columns:
        return
    for place in range(len(heading.names)):
        cells = column_of(rows, place)
        if len(set(cells)) == len(SIDES) and sides_of(map(str, cells)):
            for role in [role for role, at in columns.items() if at == place]:
                del columns[role]
            columns["side"] = place
            return


def _find_names(rows: Sequence[Row], heading: Heading, columns: dict[str, int]) -> None:
    """The column that has one text for each account has the accounts' names; the rows' text is another."""
    if "account" not in columns:
        return
    if "account_name" in columns:
        codes = [str(cell) for cell in column_of(rows, columns["account_name"]) if cell != ""]
        plain_codes = sum(ONLY_CODE.fullmatch(code) is not None for code in codes)
        if codes and plain_codes >= MOSTLY * len(codes):
            # The names say it the other way round than what stands below.
            both = columns["account_name"], columns["account"]
            columns["account"], columns["account_name"] = both
        return
    free = _free(heading, columns)
    texts = [place for place in free if "text" in roles_of(heading.names[place])]
    own = [columns["text"]] if "text" in columns and (texts or "day" not in columns) else []
    whose = columns.get("party_name", -1)
    anybody = [whose] if whose >= 0 and plain(heading.names[whose]) in OF_ANYTHING else []
    mayhap = (*own, *anybody, *free)
    place = next((place for place in mayhap if _names_accounts(rows, columns, place)), None)
    if place is None:
        return
    columns["account_name"] = place
    if place in own and texts:
        columns["text"] = texts[0]
    elif place in own:
        del columns["text"]
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
        without = [row for row in rows if row.at(columns["number"]) == ""]
        # Where only the first row of each document has its number, it has its day alone as well.
        dated = sum(row.at(columns.get("day")) != "" for row in without)
        if len(without) > (1 - MOSTLY) * len(rows) and dated >= MOSTLY * len(without):
            columns["reference"] = columns.pop("number")


def _find_balance(rows: Sequence[Row], heading: Heading, columns: dict[str, int]) -> None:
    """Of several columns that may be the balance, `Net` and `Cumulative`, the one that runs."""
    places = [
        place for place in range(len(heading.names)) if "balance" in wholly(heading.names[place])
    ] or [columns.get("balance", -1)]
    if {"debit", "credit", "balance"} <= columns.keys():
        columns["balance"] = max(places, key=lambda place: _running(rows, columns, place)[0])
        runs, nets = _running(rows, columns, columns["balance"])
        if nets >= MOSTLY * len(rows) and runs < nets:
            # It is the row's own debit less its credit, and runs nowhere.
            del columns["balance"]


def _running(rows: Sequence[Row], columns: dict[str, int], place: int) -> tuple[int, int]:
    """How many rows have what the one before had, and what moved; and how many have what moved alone."""

    def amount(row: Row, column: int) -> Decimal:
        return any_amount(row.at(column)) or Decimal(0)

    moved = [amount(row, columns["debit"]) - amount(row, columns["credit"]) for row in rows]
    held = [amount(row, place) for row in rows]
    runs = sum(a + net == b for a, b, net in zip(held, held[1:], moved[1:], strict=False))
    return runs, sum(a == b != 0 for a, b in zip(held, moved, strict=True))
