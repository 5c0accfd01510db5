"""Amounts and days as they stand in the cells of a ledger: debit is positive."""

import re
from collections.abc import Iterable
from datetime import date, timedelta
from decimal import Decimal, InvalidOperation
from functools import lru_cache

from corkpost.formats.listings.sheets import Cell
from corkpost.formats.listings.words import mark_of
from corkpost.formats.statements.csv_days import ORDERS, day_of

_SPACES = str.maketrans("", "", " '\u2019\u00a0\u202f\u2009")
_AMOUNT = re.compile(
    r"(?P<open>\()?(?P<before>[+\-])?(?:EUR|USD|GBP|[A-Z]{3}|[€$£])?(?P<sign>[+\-])?"
    r"(?P<figure>\d[\d.,]*|[.,]\d+)(?P<close>\))?(?P<behind>[+\-])?(?:EUR|USD|GBP|[A-Z]{3}(?<!DEB)|[€$£])?"
    r"(?P<mark>[A-Za-z]{1,5}\.?)?"
)
_SERIAL = (Decimal(20_000), Decimal(80_000))
_FIRST_SERIAL = date(1899, 12, 30)
POINT, COMMA = ".", ","


@lru_cache(maxsize=200_000)
def _figure(text: str, mark: str) -> tuple[Decimal, int] | None:
    bare = text.translate(_SPACES).replace("\u2212", "-").replace("\u2013", "-")
    match = _AMOUNT.fullmatch(bare)
    if match is None or (match["open"] is None) != (match["close"] is None):
        return None
    side = 0
    if match["mark"]:
        side = mark_of(match["mark"])
        if not side:
            return None
    figure = match["figure"]
    other = COMMA if mark == POINT else POINT
    head, _, tail = figure.partition(mark)
    if mark in tail or other in tail:
        return None
    groups = head.split(other)
    if len(groups) > 1 and any(len(group) != 3 for group in groups[1:]):
        return None
    try:
        amount = Decimal(f"{''.join(groups) or '0'}.{tail or '0'}")
    except InvalidOperation:
        return None
    minus = [match["open"], match["before"] == "-", match["sign"] == "-", match["behind"] == "-"]
    return (-amount if sum(map(bool, minus)) % 2 else amount), side


def amount_in(cell: Cell, mark: str) -> tuple[Decimal, int] | None:
    """The amount in a cell whose decimals stand behind *mark*, and the side that is marked in it (1 debit,
    -1 credit, 0 none); None where there is none."""
    if isinstance(cell, Decimal):
        return cell, 0
    if isinstance(cell, date) or not cell:
        return None
    return _figure(cell, mark)


_ENDS = re.compile(r"\d([.,])(\d+)\D*$")


def decimal_marks(cells: Iterable[Cell], places: int) -> list[str]:
    """Which signs may stand before the decimals in these cells, the likelier first: those by which all of
    them are amounts with no more decimals than the currency has."""
    texts = {cell for cell in cells if isinstance(cell, str) and cell}
    fits = []
    for mark in (POINT, COMMA):
        read = [_figure(text, mark) for text in texts]
        good = sum(
            found is not None and -int(found[0].normalize().as_tuple().exponent) <= places
            for found in read
        )
        ends = sum(
            bool((end := _ENDS.search(text)) and end[1] == mark and len(end[2]) <= places)
            for text in texts
        )
        fits.append((good, ends, mark))
    best = max(good for good, _, _ in fits)
    fits.sort(key=lambda row: (-row[0], -row[1]))
    kept = [row for row in fits if row[0] == best]
    # A sign that ends a sum with cents says it; without one both are read alike.
    told = [row for row in kept if row[1]]
    return [mark for _, _, mark in (told if len(told) == 1 else kept)]


@lru_cache(maxsize=100_000)
def _day(text: str, order: str) -> date | None:
    return day_of(text, order)


def day_in(cell: Cell, order: str) -> date | None:
    """The day in a cell, read in that order (`dmy`, `mdy`, `ymd`); a spreadsheet's number of days too."""
    if isinstance(cell, date):
        return cell
    if isinstance(cell, Decimal):
        if _SERIAL[0] < cell < _SERIAL[1]:
            return _FIRST_SERIAL + timedelta(days=int(cell))
        return _day(str(int(cell)), order) if cell == int(cell) and cell > 19_000_000 else None
    return _day(cell, order) if cell else None


def orders_of(cells: Iterable[Cell]) -> list[str]:
    """In which orders all of these can be read, each reading once; without texts, all are one."""
    texts = list(dict.fromkeys(cell for cell in cells if not isinstance(cell, date) and cell))
    readings: dict[tuple[date | None, ...], str] = {}
    for order in ORDERS:
        days = tuple(day_in(text, order) for text in texts)
        if None not in days:
            readings.setdefault(days, order)
    return list(readings.values())
