"""What people key, read as they mean it: sums in amounts, short forms of days."""

import re
from collections.abc import Iterator
from datetime import date
from fractions import Fraction

from corkpost.core.money import Currency, Minor, Money, NotAnAmount, rounded
from corkpost.core.periods import FIRST_DAY, LAST_DAY, ONE_DAY, Calendar, FinancialYear

LONGEST = 80
DEEPEST = 20
_TOKEN = re.compile(r"\s*(?:(\d+(?:\.\d+)?|\.\d+)|([-+*/()]))", re.ASCII)
_GROUPED = re.compile(r"(?<![\d.,])\d{1,3}(?:,\d{3})+(?:\.\d+)?(?![\d,])", re.ASCII)
_DECIMAL_COMMA = re.compile(r"(?<![\d.,])\d+,\d{1,2}(?![\d.,])", re.ASCII)
_DAY = re.compile(r"(\d{1,2})[./ -](\d{1,2})(?:[./ -](\d{2}|\d{4}))?", re.ASCII)
_DAY_IN_WORDS = re.compile(r"(\d{1,2})\s*([a-z]{3,9})\.?\s*(\d{2}|\d{4})?", re.ASCII)
_MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")


class NotADay(ValueError):
    """Text that is no day; the message says what would be."""


def keyed_amount(text: str, currency: Currency) -> Minor:
    """The sum that was keyed: `1250/1.23`, `3*45.50+12`, `1,234.50`, `12,50`. Minor units.

    What was multiplied or divided is rounded half away from zero to the currency's places; a plain
    figure or sum must have them already. Raises NotAnAmount.
    """
    if len(text) > LONGEST:
        raise NotAnAmount(f"an amount has at most {LONGEST} signs")
    plain = _GROUPED.sub(lambda match: match[0].replace(",", ""), text)
    plain = _DECIMAL_COMMA.sub(lambda match: match[0].replace(",", "."), plain)
    tokens = list(_tokens(plain, text))
    if not tokens:
        raise NotAnAmount("there is no figure in it")
    value, rest = _sum(tokens, 0, text)
    if rest != len(tokens):
        raise _unread(text)
    exact = value * 10**currency.places
    if exact.denominator != 1 and not {"*", "/"} & set(tokens):
        places = currency.places or "no"
        raise NotAnAmount(
            f"{text!r} has a fraction that {currency.code} lacks: it has {places} places"
        )
    amount = rounded(exact)
    if abs(amount) >= 10**15:
        raise NotAnAmount(f"{text!r} is too large")
    return amount


_WITH_CODE = re.compile(
    r"([A-Za-z]{3})\s*([^A-Za-z\s].*)|(.*[^A-Za-z\s])\s*([A-Za-z]{3})", re.ASCII
)


def keyed_money(text: str, own: Currency) -> Money:
    """An amount in the currency whose code was keyed before or after it: `USD 15`, `15*3 usd`; in the *own*
    one where there is none. Raises NotAnAmount."""
    match = _WITH_CODE.fullmatch(text.strip()) if len(text) <= LONGEST else None
    if match is None:
        return Money(keyed_amount(text, own), own)
    code, figure = (match[1] or match[4]).upper(), match[2] or match[3]
    currency = Currency(code)
    if not currency.is_known:
        raise NotAnAmount(f"{code} is no currency of ISO 4217")
    return Money(keyed_amount(figure, currency), currency)


_NUMBER = re.compile(r"-?\d{1,18}(?:[.,]\d{1,12})?", re.ASCII)


def keyed_number(text: str) -> Fraction:
    """A plain number as people key it: `12.5`, `12,5`. Powers of ten are none: `1e999999999` would keep the
    machine busy for hours. Raises ValueError."""
    plain = text.strip()
    if not _NUMBER.fullmatch(plain):
        raise ValueError(f"{text!r} is no number: write 12.5")
    return Fraction(plain.replace(",", "."))


def _unread(text: str) -> NotAnAmount:
    return NotAnAmount(f"{text!r} can't be worked out: write 1234.50 or a sum such as 1250/1.23")


def _tokens(plain: str, text: str) -> Iterator[str]:
    place = 0
    plain = plain.strip()
    while place < len(plain):
        match = _TOKEN.match(plain, place)
        if not match:
            raise _unread(text)
        yield match[1] or match[2]
        place = match.end()


def _sum(tokens: list[str], at: int, text: str, depth: int = 0) -> tuple[Fraction, int]:
    value, at = _product(tokens, at, text, depth)
    while at < len(tokens) and tokens[at] in "+-":
        sign = 1 if tokens[at] == "+" else -1
        term, at = _product(tokens, at + 1, text, depth)
        value += sign * term
    return value, at


def _product(tokens: list[str], at: int, text: str, depth: int) -> tuple[Fraction, int]:
    value, at = _factor(tokens, at, text, depth)
    while at < len(tokens) and tokens[at] in "*/":
        times = tokens[at] == "*"
        factor, at = _factor(tokens, at + 1, text, depth)
        if not times and not factor:
            raise NotAnAmount(f"{text!r} divides by nil")
        value = value * factor if times else value / factor
    return value, at


def _factor(tokens: list[str], at: int, text: str, depth: int) -> tuple[Fraction, int]:
    if at >= len(tokens) or depth > DEEPEST:
        raise _unread(text)
    token = tokens[at]
    if token == "-":
        value, at = _factor(tokens, at + 1, text, depth + 1)
        return -value, at
    if token == "(":
        value, at = _sum(tokens, at + 1, text, depth + 1)
        if at >= len(tokens) or tokens[at] != ")":
            raise _unread(text)
        return value, at + 1
    if token in "+*/)":
        raise _unread(text)
    return Fraction(token), at + 1


def keyed_day(text: str, calendar: Calendar, near: date) -> date:
    """The day that was keyed, day before month; without a year the one in the year of *near*.

    `pe` and `ye` are the ends of the period and of the year of *near*, `ps` and `ys` their first
    days, `np` the first day of the next period, `ny` of the next year. Raises NotADay.
    """
    word = text.strip().lower()
    year = calendar.year_of(near)
    period = calendar.period_of(near)
    short = {
        "pe": period.last_day,
        "ps": period.first_day,
        "np": period.last_day + ONE_DAY,
        "ye": year.last_day,
        "ys": year.first_day,
        "ny": year.last_day + ONE_DAY,
    }
    if word in short:
        return short[word]
    try:
        iso = len(word) == 10 and word[4] == "-"
        found = date.fromisoformat(word) if iso else _day(word, year)
        if not FIRST_DAY <= found <= LAST_DAY:
            raise ValueError(word)
        return found
    except ValueError:
        raise NotADay(
            f"{text!r} is no day: write 31.12, 31.12.2026, 31 dec, pe (period end) or ye (year end)"
        ) from None


def _day(word: str, year: FinancialYear) -> date:
    match = _DAY.fullmatch(word)
    if match:
        return _in_year(int(match[1]), int(match[2]), match[3], year)
    match = _DAY_IN_WORDS.fullmatch(word)
    if match and match[2][:3] in _MONTHS:
        return _in_year(int(match[1]), _MONTHS.index(match[2][:3]) + 1, match[3], year)
    raise ValueError(word)


def _in_year(day: int, month: int, keyed_year: str | None, year: FinancialYear) -> date:
    """That day and month; without a year the one that lies in the financial year."""
    if keyed_year:
        return date(int(keyed_year) + (2000 if len(keyed_year) == 2 else 0), month, day)
    for calendar_year in (year.last_day.year, year.first_day.year):
        try:
            found = date(calendar_year, month, day)
        except ValueError:
            continue
        if year.first_day <= found <= year.last_day:
            return found
    return date(year.last_day.year, month, day)
