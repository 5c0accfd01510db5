"""OFX 1.x and 2.x: a stream of tags and texts, read alike, with or without closing tags.

Days are the first eight digits: a time zone would move some of them to the day before.
"""

import html
import re
from collections.abc import Iterator
from datetime import date
from decimal import Decimal

from corkpost.core.kinds import StatementFormat
from corkpost.formats.statements.parsed import (
    ParsedFile,
    ParsedLine,
    ParsedStatement,
    UnreadableStatement,
    day_in,
    decimal_in,
    text_of,
    tidy,
)

_TAG = re.compile(r"<(/?)([A-Za-z][\w.]*)[^<>]*>([^<]*)")
# Some files lack the last ends, but none ends within a statement.
_ENDS = re.compile(r"</(OFX|\w*MSGSRSV1|\w*STMTTRNRS|\w*STMTRS)>\s*$", re.IGNORECASE)
STATEMENTS = ("STMTRS", "CCSTMTRS")


def recognises(content: bytes) -> bool:
    head = content[:4000].upper()
    return b"OFXHEADER" in head or b"<OFX>" in head


def read(content: bytes) -> ParsedFile:
    """Every statement of the file. Raises UnreadableStatement where it is cut off or makes no sense."""
    statements: list[_Statement] = []
    within: _Statement | None = None
    text = text_of(content)
    for closes, tag, words in _tags(text):
        if tag in STATEMENTS:
            if closes and within:
                within.ended = True
                within = None
            elif not closes:
                within = _Statement(sum(len(one.rows) for one in statements))
                statements.append(within)
        elif within:
            within.take(closes, tag, words)
    if not statements:
        raise UnreadableStatement("There is no statement in this OFX file: it holds no STMTRS.")
    if not all(one.ended for one in statements) or not _ENDS.search(text):
        raise UnreadableStatement(
            "The OFX file is cut off: a statement in it has no end. Fetch it from the bank again."
        )
    return ParsedFile(StatementFormat.OFX, tuple(one.parsed() for one in statements))


def _tags(text: str) -> Iterator[tuple[bool, str, str]]:
    for match in _TAG.finditer(text):
        yield match[1] == "/", match[2].upper(), html.unescape(match[3]).strip()


class _Statement:
    """A statement as its tags come."""

    def __init__(self, before: int) -> None:
        self.ended = False
        self.rows: list[dict[str, str]] = []
        self._before = before
        self._facts: dict[str, str] = {}
        self._row: dict[str, str] | None = None
        self._balance = ""

    def take(self, closes: bool, tag: str, text: str) -> None:
        if tag == "STMTTRN":
            self._row = None if closes else {}
            if self._row is not None:
                self.rows.append(self._row)
        elif tag == "BANKTRANLIST" and closes:
            self._row = None
        elif tag in ("LEDGERBAL", "AVAILBAL"):
            self._row = None
            self._balance = "" if closes else tag
        elif text and self._row is not None:
            self._row.setdefault(tag, text)
        elif text:
            self._facts.setdefault(f"{self._balance} {tag}".strip(), text)

    def parsed(self) -> ParsedStatement:
        first = self._before + 1
        return ParsedStatement(
            identifier=self._facts.get("ACCTID"),
            currency=self._facts.get("CURDEF"),
            first_day=self._day("DTSTART"),
            last_day=self._day("DTEND") or self._day("LEDGERBAL DTASOF"),
            opening=None,
            closing=self._closing(),
            lines=tuple(_line(number, row) for number, row in enumerate(self.rows, first)),
        )

    def _day(self, name: str) -> date | None:
        return day_in(self._facts.get(name, ""))

    def _closing(self) -> Decimal | None:
        """The ledger balance, where it is that of the period's end: some files give today's."""
        balance = self._facts.get("LEDGERBAL BALAMT")
        as_of, end = self._day("LEDGERBAL DTASOF"), self._day("DTEND")
        if balance is None or (as_of and end and as_of > end and self._newer_than(end, as_of)):
            return None
        return decimal_in(balance)

    def _newer_than(self, end: date, as_of: date) -> bool:
        # A balance of a few days later, with nothing listed after the end, is still the end's.
        return (as_of - end).days > 5


def _line(number: int, row: dict[str, str]) -> ParsedLine:
    day = day_in(row.get("DTPOSTED", ""))
    amount = decimal_in(row.get("TRNAMT", ""))
    if day is None or amount is None:
        what = f"DTPOSTED {row.get('DTPOSTED', '')!r}, TRNAMT {row.get('TRNAMT', '')!r}"
        raise UnreadableStatement(f"Transaction {number} has no day or no amount: {what}.")
    name, memo = tidy(row.get("NAME") or row.get("PAYEEID")), tidy(row.get("MEMO"))
    reference = tidy(row.get("CHECKNUM")) or tidy(row.get("REFNUM"))
    text = memo if memo and name and name in memo else tidy(f"{name or ''} {memo or ''}")
    return ParsedLine(
        number=number,
        day=day,
        amount=amount,
        text=text or row.get("TRNTYPE", "").lower(),
        reference=reference,
        counterparty=name,
        bank_id=tidy(row.get("FITID")),
        value_day=day_in(row.get("DTAVAIL", "")),
    )
