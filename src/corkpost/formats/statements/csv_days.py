"""Days as they stand in the cells of a bank's table, and in which order a whole column can be read."""

import re
from collections.abc import Iterable, Sequence
from datetime import date
from itertools import pairwise

from corkpost.formats.statements.csv_words import folded

ORDERS = ("ymd", "dmy", "mdy")
_TIME = r"(?:[T ,]+\d{1,2}[:.h]\d{2}.*)?"
_WEEKDAY = r"(?:[^\W\d_]{2,10}[., ]+)?"
_DAY = re.compile(
    rf"{_WEEKDAY}(\d{{1,4}})[./\- ](\d{{1,2}})[./\- ](\d{{2,4}}){_TIME}|(\d{{8}})(?:\d{{6}})?"
)
_WORDS = re.compile(
    rf"{_WEEKDAY}(?:(\d{{1,2}})(?:st|nd|rd|th|[.])?[ \-./]*([a-z]{{3,10}})[.,]?|"
    rf"([a-z]{{3,10}})[.]? (\d{{1,2}})(?:st|nd|rd|th)?,?)[ \-./]*(\d{{4}}|\d{{2}}){_TIME}"
)
_MONTHS = (
    "jan gen ene sty", "feb fev lut", "mar maa mrz maerz mars", "apr avr abr kwi",
    "may mai mag mei maj", "jun jui_ giu cze juin", "jul lug lip juil", "aug aou ago sie",
    "sep set wrz", "oct okt ott out paz", "nov lis", "dec dez dic dzi des",
)  # fmt: skip


def _month(word: str) -> int | None:
    for length in (5, 4, 3):
        for number, names in enumerate(_MONTHS, 1):
            if word[:length] in names.split():
                return number
    return None


def looks_like_day(cell: str) -> bool:
    """Whether the cell is a day in any order, or one with its month in words."""
    return any(day_of(cell, order) is not None for order in ORDERS)


def day_of(text: str, order: str) -> date | None:
    """The day in the cell, read in *order* (`ymd`, `dmy`, `mdy`); None where it is none."""
    bare = text.strip()
    match = _DAY.fullmatch(bare)
    if match is None:
        return _in_words(folded(bare))
    if match[4]:
        digits = match[4]
        if order == "ymd":
            return _date(digits[:4], digits[4:6], digits[6:])
        parts = dict(zip(order, (digits[:2], digits[2:4], digits[4:]), strict=True))
        plausible = "1990" <= digits[4:] <= "2099"
        return _date(parts["y"], parts["m"], parts["d"]) if plausible else None
    by = dict(zip(order, match.groups()[:3], strict=True))
    if len(by["y"]) not in (2, 4) or len(by["d"]) > 2 or len(by["m"]) > 2:
        return None
    return _date(_whole_year(by["y"]), by["m"], by["d"])


def _in_words(text: str) -> date | None:
    match = _WORDS.fullmatch(text)
    if match is None:
        return None
    month = _month(match[2] or match[3])
    day = match[1] or match[4]
    return _date(_whole_year(match[5]), str(month), day) if month else None


def _whole_year(year: str) -> str:
    return year if len(year) == 4 else f"20{year}"


def _date(year: str, month: str, day: str) -> date | None:
    try:
        return date(int(year), int(month), int(day))
    except ValueError:
        return None


def day_orders(cells: Iterable[str]) -> list[str]:
    """In which orders of day, month and year the whole column can be read, each reading once.

    Where several can, only those stay in which the days follow each other, if there are such: banks
    write their tables in the order of the days.
    """
    texts = [cell for cell in cells if cell]
    readings: dict[tuple[date | None, ...], str] = {}
    for order in ORDERS:
        days = tuple(day_of(text, order) for text in texts)
        if None not in days:
            readings.setdefault(days, order)
    if len(readings) < 2:
        return list(readings.values())
    sorted_ones = [order for days, order in readings.items() if _in_order(days)]
    return sorted_ones or list(readings.values())


def _in_order(days: Sequence[date | None]) -> bool:
    known = [day for day in days if day is not None]
    forwards = all(when <= other for when, other in pairwise(known))
    return forwards or all(when >= other for when, other in pairwise(known))
