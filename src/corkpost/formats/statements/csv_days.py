"""Days as they stand in the cells of a bank's table, and in which order a whole column can be read."""

import re
from collections.abc import Iterable, Sequence
from datetime import date
from functools import cache
from itertools import pairwise

from corkpost.formats.statements.csv_words import folded

ORDERS = ("ymd", "dmy", "mdy")
_TIME = r"(?:[T ,]+\d{1,2}[:.h]\d{2}.*)?"
_DAY = re.compile(rf"(\d{{1,4}})[./\- ](\d{{1,2}})[./\- ](\d{{2,4}}){_TIME}|(\d{{8}})(?:\d{{6}})?")
_WORDS = re.compile(
    rf"(?:(\d{{1,2}})(?:st|nd|rd|th|er|[.])?[ \-./]*([a-z]{{3,12}})[.,]?[ \-./]*|"
    rf"([a-z]{{3,12}})[.]? (\d{{1,2}})(?:st|nd|rd|th)?(?:,[ ]?|[ \-./]))(\d{{4}}|\d{{2}}){_TIME}"
)
_MONTHS = (
    "january januar januari janvier jaenner janner enero gennaio janeiro styczen stycznia",
    "february februar februari fevrier febrero febbraio fevereiro feber luty lutego",
    "march maerz marz mrz maart mrt mars marzo marco marts marzec marca",
    "april avril abril aprile kwiecien kwietnia",
    "may mai mei mayo maggio maio maj maja",
    "june juni juin junio giugno junho czerwiec czerwca",
    "july juli juillet julio luglio julho lipiec lipca",
    "august augustus augusti aout agosto sierpien sierpnia",
    "september septembre septiembre setiembre settembre setembro wrzesien wrzesnia",
    "october oktober octobre octubre ottobre outubro pazdziernik pazdziernika",
    "november novembre noviembre novembro listopad listopada",
    "december dezember decembre diciembre dicembre dezembro desember grudzien grudnia",
)
_WEEKDAYS = (
    "monday tuesday wednesday thursday friday saturday sunday "
    "montag dienstag mittwoch donnerstag freitag samstag sonnabend sonntag "
    "lundi mardi mercredi jeudi vendredi samedi dimanche "
    "maandag dinsdag woensdag donderdag vrijdag zaterdag zondag "
    "lunes martes miercoles jueves viernes sabado domingo "
    "lunedi martedi mercoledi giovedi venerdi domenica "
    "segunda terca quarta quinta sexta "
    "poniedzialek wtorek sroda czwartek piatek sobota niedziela "
    "mandag tirsdag tisdag onsdag torsdag fredag lordag sondag"
).split()
_BEFORE = re.compile(r"([^\W\d_]{2,12})[., ]+(?=\S)")
SHORTEST = 3


@cache
def _month(word: str) -> int | None:
    """The month that a word is, or begins: `sept`, `März`; None where it is none, or begins two."""
    found = {
        number
        for number, names in enumerate(_MONTHS, 1)
        if len(word) >= SHORTEST and any(name.startswith(word) for name in names.split())
    }
    return found.pop() if len(found) == 1 else None


def looks_like_day(cell: str) -> bool:
    """Whether the cell is a day in any order, or one with its month in words."""
    return any(day_of(cell, order) is not None for order in ORDERS)


def day_of(text: str, order: str) -> date | None:
    """The day in the cell, read in *order* (`ymd`, `dmy`, `mdy`); None where it is none."""
    bare = text.strip()
    found = _day_of(bare, order)
    before = _BEFORE.match(bare) if found is None else None
    if before and _is_weekday(folded(before[1])):
        return _day_of(bare[before.end() :], order)
    return found


@cache
def _is_weekday(word: str) -> bool:
    return any(name.startswith(word) for name in _WEEKDAYS)


def _day_of(bare: str, order: str) -> date | None:
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
