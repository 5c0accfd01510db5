"""Amounts and days as they stand in the cells of a ledger: debit is positive."""

import re
from collections import Counter
from collections.abc import Iterable
from datetime import date, timedelta
from decimal import Decimal
from functools import lru_cache
from typing import NamedTuple

from corkpost.core.money import Currency, Minor
from corkpost.formats.listings.words import mark_of
from corkpost.formats.statements.csv_days import ORDERS, day_of
from corkpost.formats.workbooks import Cell

_SPACES = str.maketrans("", "", " '\u2019\u00a0\u202f\u2009")
_AMOUNT = re.compile(
    r"(?P<open>\()?(?P<before>[+\-])?(?P<currency>[A-Z]{3}|[€$£])?(?P<sign>[+\-])?"
    r"(?P<figure>\d[\d.,]*|[.,]\d+)(?P<close>\))?(?P<behind>[+\-])?(?P<money>[A-Z]{3}|[€$£])?"
    r"(?P<mark>[A-Za-z]{1,5}\.?)?"
)
_SERIAL = (Decimal(20_000), Decimal(80_000))
_FIRST_SERIAL = date(1899, 12, 30)
POINT, COMMA = ".", ","
MOST_FIGURES = 15
"""A longer number is no sum of money."""
NOISE = Decimal("0.001")
"""What a spreadsheet works out may be off by so much of a minor unit."""


_ALIKE = str.maketrans("123456789", "999999999")
"""Texts that differ only in their figures are read alike; noughts at the end are no decimals."""
_NO_FIGURE = re.compile(r"\D+")


class _Reading(NamedTuple):
    """How texts of one form are read. *sign*: 1 or -1; *side*: as marked in it; *decimals*: so many of its
    figures stand behind the point."""

    sign: int
    side: int
    decimals: int


@lru_cache(maxsize=50_000)
def _reading(form: str, decimal: str) -> _Reading | None:
    bare = form.translate(_SPACES).replace("\u2212", "-").replace("\u2013", "-")
    match = _AMOUNT.fullmatch(bare)
    if match is None or (match["open"] is None) != (match["close"] is None):
        return None
    mark, behind = match["mark"] or "", match["money"] or ""
    if not _is_money(behind):
        # Three capitals that are no currency may be a mark, or its beginning.
        mark = behind + mark
    side = mark_of(mark)
    if not _is_money(match["currency"] or "") or (mark and not side):
        return None
    figure = match["figure"]
    other = COMMA if decimal == POINT else POINT
    head, _, tail = figure.partition(decimal)
    if decimal in tail or other in tail:
        return None
    groups = head.split(other)
    if len(groups) > 1 and any(len(group) != 3 for group in groups[1:]):
        return None
    minus = [match["open"], match["before"] == "-", match["sign"] == "-", match["behind"] == "-"]
    return _Reading(-1 if sum(map(bool, minus)) % 2 else 1, side, len(tail))


def _is_money(text: str) -> bool:
    """Whether it is nothing, the sign of a currency, or its code."""
    return len(text) < 3 or Currency(text).is_known


def amount_in(cell: Cell, mark: str) -> tuple[Decimal, int] | None:
    """The amount in a cell whose decimals stand behind *mark*, and the side that is marked in it (1 debit,
    -1 credit, 0 none); None where there is none."""
    if isinstance(cell, Decimal):
        return (cell, 0) if cell.adjusted() < MOST_FIGURES else None
    read = _read(cell, mark)
    return None if read is None else (Decimal(read[0]).scaleb(-read[1]), read[2])


def minor_in(cell: Cell, mark: str, places: int) -> tuple[Minor, int] | None:
    """As `amount_in`, in minor units of a currency of so many decimals; None where it has more."""
    read = None if isinstance(cell, Decimal) else _read(cell, mark)
    if read is not None and read[1] <= places:
        return read[0] * 10 ** (places - read[1]), read[2]
    found = amount_in(cell, mark)
    if found is None:
        return None
    scaled = found[0].scaleb(places)
    whole = scaled.to_integral_value()
    return None if abs(scaled - whole) > NOISE else (int(whole), found[1])


def _read(cell: str | date, mark: str) -> tuple[int, int, int] | None:
    """The figures of a text as one number with its sign, how many of them are decimals, and the side."""
    if isinstance(cell, date) or not cell:
        return None
    reading = _reading(cell.translate(_ALIKE), mark)
    if reading is None:
        return None
    figures = _NO_FIGURE.sub("", cell)
    if len(figures) > MOST_FIGURES:
        return None
    return reading.sign * int(figures), reading.decimals, reading.side


_ENDS = re.compile(r"\d([.,])(\d+)\D*$")


def decimal_marks(cells: Iterable[Cell], places: int) -> list[str]:
    """Which signs may stand before the decimals in these cells, the likelier first: those by which all of
    them are amounts with no more decimals than the currency has."""
    texts = {cell for cell in cells if isinstance(cell, str) and cell}
    forms = Counter(text.translate(_ALIKE) for text in texts)
    ends = Counter[str]()
    for form, count in forms.items():
        end = _ENDS.search(form)
        if end and len(end[2]) <= places:
            ends[end[1]] += count
    fits = []
    for mark in (POINT, COMMA):
        good = sum(
            count
            for form, count in forms.items()
            if (found := amount_in(form, mark)) is not None
            and -int(found[0].normalize().as_tuple().exponent) <= places
        )
        fits.append((good, ends[mark], mark))
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


def is_day(cell: Cell) -> bool:
    """Whether a cell is a day in any order."""
    return any(day_in(cell, order) is not None for order in ORDERS)


def any_amount(cell: Cell) -> Decimal | None:
    """The amount in a cell, whichever sign stands before its decimals; a point, where both may."""
    read = amount_in(cell, POINT) or amount_in(cell, COMMA)
    return read[0] if read else None


def orders_of(cells: Iterable[Cell]) -> list[str]:
    """In which orders all of these can be read, each reading once; without texts, all are one."""
    texts = list(dict.fromkeys(cell for cell in cells if not isinstance(cell, date) and cell))
    readings: dict[tuple[date | None, ...], str] = {}
    for order in ORDERS:
        days = tuple(day_in(text, order) for text in texts)
        if None not in days:
            readings.setdefault(days, order)
    return list(readings.values())
