"""What every reader of statements gives, and how it says that a file can't be read."""

import codecs
import re
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


def text_of(content: bytes) -> str:
    """The text of a file: by its byte order mark, as UTF-8, else in the encoding that it looks like."""
    for mark, encoding in (
        (codecs.BOM_UTF8, "utf-8-sig"),
        (codecs.BOM_UTF16_LE, "utf-16"),
        (codecs.BOM_UTF16_BE, "utf-16"),
    ):
        if content.startswith(mark):
            return content.decode(encoding, errors="replace")
    try:
        return content.decode("utf-8")
    except UnicodeDecodeError:
        guess = chardet.detect(content)["encoding"]
        single_byte = guess if guess and guess.lower() not in ("ascii", "utf-8") else "cp1252"
        return content.decode(single_byte, errors="replace")


def tidy(text: str | None) -> str | None:
    """With single blanks; None where nothing is left."""
    words = " ".join((text or "").split())
    return words or None


_SPACED = re.compile(r"[\s'\u00a0\u202f]")
_COMMA_LAST = re.compile(r"[+-]?\d{1,3}(\.\d{3})+,\d{0,4}|[+-]?\d*,\d{0,4}")
_POINT_LAST = re.compile(r"[+-]?\d{1,3}(,\d{3})+\.\d{0,4}|[+-]?\d*\.\d{0,4}|[+-]?\d+")


def decimal_in(text: str) -> Decimal | None:
    """The amount in a cell, with comma or point before its decimals; None where there is none.

    `1,234` is taken as one and a bit, never as a thousand: a sum that has more decimals than the
    currency is refused later, a wrong guess would not be.
    """
    bare = _SPACED.sub("", text)
    bare = bare.replace("\u2212", "-")
    if bare.endswith(("-", "+")):
        bare = bare[-1] + bare[:-1]
    if bare.startswith("(") and bare.endswith(")"):
        bare = f"-{bare[1:-1]}"
    if not any(sign.isdigit() for sign in bare):
        return None
    if _COMMA_LAST.fullmatch(bare):
        bare = bare.replace(".", "").replace(",", ".")
    elif _POINT_LAST.fullmatch(bare):
        bare = bare.replace(",", "")
    else:
        return None
    try:
        return Decimal(bare)
    except InvalidOperation:
        return None


def day_in(text: str) -> date | None:
    """The day that eight digits name, whatever follows them; None where they name none."""
    digits = re.sub(r"\D", "", text)[:8]
    try:
        return date(int(digits[:4]), int(digits[4:6]), int(digits[6:8]))
    except ValueError:
        return None
