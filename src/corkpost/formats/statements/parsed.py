"""What every reader of statements gives, and how it says that a file can't be read."""

import codecs
import re
from collections.abc import Iterable, Iterator
from datetime import date
from decimal import Decimal, InvalidOperation
from typing import NamedTuple

import chardet

from corkpost.core.kinds import StatementFormat
from corkpost.core.refusals import Refusal


class ParsedLine(NamedTuple):
    """A line as it stands in the file, money in positive. *number*: its place in the file, from 1."""

    number: int
    day: date
    amount: Decimal
    text: str
    reference: str | None = None
    counterparty: str | None = None
    bank_id: str | None = None
    balance: Decimal | None = None
    value_day: date | None = None


class ParsedStatement(NamedTuple):
    """One statement of a file. *identifier*: the account's number or IBAN, as the file writes it."""

    identifier: str | None
    currency: str | None
    first_day: date | None
    last_day: date | None
    opening: Decimal | None
    closing: Decimal | None
    lines: tuple[ParsedLine, ...]


class ParsedFile(NamedTuple):
    format: StatementFormat
    statements: tuple[ParsedStatement, ...]
    warnings: tuple[str, ...] = ()


class UnreadableStatement(Refusal):
    """Nothing of the file was taken in; the message says what is wrong and where."""

    title = "This statement can't be read"


_DECLARED = re.compile(
    rb"""<\?xml[^>]*\bencoding\s*=\s*["']([\w.:-]+)|^CHARSET:\s*([\w.:-]+)|^ENCODING:\s*([\w.:-]+)""",
    re.MULTILINE,
)
LIKELY = 0.8
"""A guess of less is none: one accented letter would make a file unreadable."""


def text_of(content: bytes) -> str:
    """The text of a file: by its byte order mark, by the character set that it declares, as UTF-8, else
    in the encoding that it very likely is."""
    for mark, encoding in (
        (codecs.BOM_UTF8, "utf-8-sig"),
        (codecs.BOM_UTF16_LE, "utf-16"),
        (codecs.BOM_UTF16_BE, "utf-16"),
    ):
        if content.startswith(mark):
            return content.decode(encoding, errors="replace")
    if content[1:8:2] == b"\0\0\0\0":
        return content.decode("utf-16-le", errors="replace")
    for encoding in (*_declared(content), "utf-8"):
        try:
            return content.decode(encoding)
        except UnicodeDecodeError:
            continue
    guess = chardet.detect(content)
    name, likely = guess["encoding"], guess["confidence"]
    if name and likely >= LIKELY and name.lower() not in ("ascii", "utf-8"):
        return content.decode(name, errors="replace")
    return content.decode("cp1252", errors="replace")


def _declared(content: bytes) -> Iterator[str]:
    """The character sets that the head of the file names and that are known, as Python calls them."""
    for match in _DECLARED.finditer(content[:2000]):
        name = next(part for part in match.groups() if part).decode().lower()
        if name.isdigit():
            name = f"cp{name}"
        name = {"usascii": "ascii", "unicode": "utf-8"}.get(name, name)
        try:
            codecs.lookup(name)
        except LookupError:
            continue
        # ASCII says nothing of the letters beyond it; what is in two bytes a letter was seen already.
        if name != "ascii" and not name.startswith(("utf-16", "utf-32", "utf16", "utf32")):
            yield name


def tidy(text: str | None) -> str | None:
    """With single blanks; None where nothing is left."""
    words = " ".join((text or "").split())
    return words or None


_SPACED = re.compile(r"[\s'\u2019\u00a0\u202f]")
_MONEY_SIGN = re.compile(
    r"^[+-]?(?:[A-Z]{3}|[€$£¥₣]|kr\.?|zł|Fr\.?)|(?:[A-Z]{3}|[€$£¥₣]|kr\.?|zł)$"
)
_SIDE_BEHIND = re.compile(r"(DR|CR|D|C|S|H)\.?$", re.IGNORECASE)
_COMMA_LAST = re.compile(r"[+-]?\d{1,3}(\.\d{3})+,\d{0,4}|[+-]?\d*,\d{0,4}")
_POINT_LAST = re.compile(r"[+-]?\d{1,3}(,\d{3})+\.\d{0,4}|[+-]?\d*\.\d{0,4}|[+-]?\d+")


def decimal_in(text: str, mark: str | None = None) -> Decimal | None:
    """The amount in a cell, with comma or point before its decimals; None where there is none.

    *mark*: which of the two it is, where the column says. Else `1,234` is taken as one and a bit, never
    as a thousand: a sum that has more decimals than the currency is refused later, a wrong guess would
    not be. A currency's sign is passed over; DR or CR behind the sum is its sign.
    """
    bare, behind = _bare(text)
    if mark:
        bare = bare.replace("," if mark == "." else ".", "")
    if not any(sign.isdigit() for sign in bare):
        return None
    if _COMMA_LAST.fullmatch(bare):
        bare = bare.replace(".", "").replace(",", ".")
    elif _POINT_LAST.fullmatch(bare):
        bare = bare.replace(",", "")
    else:
        return None
    try:
        amount = Decimal(bare)
    except InvalidOperation:
        return None
    return -abs(amount) if behind in ("D", "DR", "S") else amount


def _bare(text: str) -> tuple[str, str]:
    """The figure with its sign before it, and the side that stands behind it, if any."""
    bare = _SPACED.sub("", text).replace("\u2212", "-").replace("\u2013", "-")
    if bare.startswith("(") and bare.endswith(")"):
        bare = f"-{bare[1:-1]}"
    side = _SIDE_BEHIND.search(bare) if re.search(r"\d[DCSHR.]+$", bare, re.IGNORECASE) else None
    bare = bare[: side.start()] if side else bare
    sign = bare[0] if bare[:1] in ("-", "+") else ""
    found = _MONEY_SIGN.search(bare)
    if found:
        bare = (
            sign + bare.replace(found[0], "", 1)
            if bare.startswith(found[0])
            else bare[: found.start()]
        )
    if bare.endswith(("-", "+")):
        bare = bare[-1] + bare[:-1]
    return bare, side[1].upper() if side else ""


_LAST_MARK = re.compile(r"([.,])\d{1,2}(?:\D*)$")


def decimal_mark(cells: Iterable[str]) -> str | None:
    """Which sign stands before the decimals in all of these cells; None where they do not say."""
    marks = {match[1] for cell in cells if (match := _LAST_MARK.search(cell.strip()))}
    return marks.pop() if len(marks) == 1 else None


def day_in(text: str) -> date | None:
    """The day that eight digits name, whatever follows them; None where they name none."""
    digits = re.sub(r"\D", "", text)[:8]
    try:
        return date(int(digits[:4]), int(digits[4:6]), int(digits[6:8]))
    except ValueError:
        return None
