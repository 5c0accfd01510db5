"""The days and months that titles, and names of columns, say."""

import re
from collections.abc import Iterable
from datetime import date

from corkpost.core.chart.trade_words import plain
from corkpost.core.periods import month_end
from corkpost.formats.listings.figures import day_in
from corkpost.formats.listings.words import is_one_of

_DAY_IN_TEXT = re.compile(
    r"\b\d{4}-\d\d?-\d\d?\b|\b\d{1,2}[./\-]\d{1,2}[./\-]\d{2,4}\b|\b\d{8}\b|"
    r"\b\d{1,2}(?:st|nd|rd|th|\.)?\s+[^\W\d_]{3,10}\.?,?\s+\d{4}\b|\b[^\W\d_]{3,10}\s+\d{1,2},?\s+\d{4}\b"
)
_MONTH_IN_TEXT = re.compile(
    r"\b([^\W\d_]{3,10})\.?\s+(\d{4})\b|\b(\d{4})-(\d\d)\b|\b(\d\d)[./](\d{4})\b|"
    r"\b([^\W\d_]{3,10})\.?[\-/ '\u2019]{1,2}(\d{2})\b"
)


def days_in(text: str, order: str) -> list[date]:
    """The days that a text names, in the order that they stand; a month alone is its last day."""
    found = [day_in(match[0], order) for match in _DAY_IN_TEXT.finditer(text.replace("_", " "))]
    days = [day for day in found if day is not None]
    if days:
        return days
    for match in _MONTH_IN_TEXT.finditer(text.replace("_", " ")):
        if match[1] or match[7]:
            first = day_in(f"1 {match[1] or match[7]} {match[2] or f'20{match[8]}'}", order)
        else:
            year, month = (match[3], match[4]) if match[3] else (match[6], match[5])
            first = day_in(f"{year}-{month}-01", "ymd")
        if first is not None:
            days.append(month_end(first.year, first.month, 31))
    return days


def without_days(text: str) -> str:
    """A text without what is written as a day."""
    return _DAY_IN_TEXT.sub(" ", text)


def day_texts(text: str) -> list[str]:
    """The parts of a text that are written as days."""
    return [match[0] for match in _DAY_IN_TEXT.finditer(text)]


_YEAR_OF_NONE = 2000


def month_in(name: str) -> int | None:
    """The month that a column's name is, without a year."""
    bare = name.strip().rstrip(".")
    first = day_in(f"1 {bare} {_YEAR_OF_NONE}", "dmy") if bare.isalpha() else None
    return first.month if first else None


def last_day_in(texts: Iterable[str], order: str) -> date | None:
    """The day that a table is as at, by what stands over it: the last that any of these names."""
    found = [day for text in texts for day in days_in(text, order)]
    return max(found) if found else None


YEARS = ("this_year", "last_year")


def years_back(name: str) -> int | None:
    """How many years before the day of the list a column is, by its name: `last year`."""
    return next((back for back, said in enumerate(YEARS) if is_one_of(name, said)), None)


_AGE = re.compile(
    r"(?:over|above|more than|up to|under|older than|plus de|ueber|meer dan|mas de|oltre|powyzej)?"
    r" ?\d{1,3}(?: (?:to )?\d{1,3})?"
    r"(?: (?:days?|months?|tage|monate?|jours|mois|dagen|maanden|dias|meses|giorni|mesi|dni|d|m))?"
    r"(?: (?:and )?(?:over|older|more|plus))?|"
    r"current|not due|not yet due|older|nicht faellig|non echu|niet vervallen|no vencido|a scadere"
)


def names_age(name: str) -> bool:
    """Whether a column's name is a span of days or months that something has been owed for."""
    return _AGE.fullmatch(plain(name.replace("+", " plus ").replace(">", " over "))) is not None


_YEAR = re.compile(r"\D{0,20}((?:19|20)\d\d)(?:\.0)?\D{0,20}")


def year_in(name: str) -> int | None:
    """The year that a column's name says."""
    said = _YEAR.fullmatch(name.strip())
    return int(said[1]) if said else None


def names_year(name: str) -> bool:
    """Whether a column's name is a day, or says its year."""
    return year_in(name) is not None or bool(days_in(name, "dmy") or days_in(name, "mdy"))


def names_period(name: str) -> bool:
    """Whether a column's name is a day, a month or a year."""
    named = month_in(name) is not None or years_back(name) is not None
    return named or bool(days_in(name, "dmy") or days_in(name, "mdy"))
