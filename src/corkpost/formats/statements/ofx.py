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

_TAG = re.compile(r"<(/?)([A-Za-z][\w.]*+)[^<>]*+>([^<]*)")
_COMMENT = re.compile(r"<!--.*?-->", re.DOTALL)
STATEMENTS = ("STMTRS", "CCSTMTRS", "INVSTMTRS")


def recognises(content: bytes) -> bool:
    head = content[:4000].upper()
    return b"OFXHEADER" in head or b"<OFX>" in head


def read(content: bytes) -> ParsedFile:
    """Every statement of the file. Raises UnreadableStatement where it is cut off or makes no sense, or
    with what the bank says went wrong."""
    statements: list[_Statement] = []
    within: _Statement | None = None
    status: dict[str, str] = {}
    errors: list[str] = []
    text = _COMMENT.sub("", text_of(content))
    for closes, tag, words in _tags(text):
        if tag == "STATUS" or (status and tag in ("CODE", "SEVERITY", "MESSAGE")):
            _note_status(status, errors, tag, words)
        if tag in STATEMENTS:
            within = (
                None if closes else _Statement(sum(len(statement.rows) for statement in statements))
            )
            if within:
                statements.append(within)
            elif statements:
                statements[-1].ended = True
        elif within:
            within.take(closes, tag, words)
    _note_status(status, errors, "STATUS", "")
    if not statements:
        said = f" The bank says: {'; '.join(errors)}." if errors else ""
        raise UnreadableStatement(
            f"There is no statement in this OFX file: it holds no STMTRS.{said}"
        )
    if text.rstrip()[-1:] != ">" or not all(statement.is_whole for statement in statements):
        raise UnreadableStatement(
            "The OFX file is cut off: a statement in it has no end. Fetch it from the bank again."
        )
    warnings = tuple(f"The bank says: {error}." for error in errors)
    return ParsedFile(
        StatementFormat.OFX, tuple(statement.parsed() for statement in statements), warnings
    )


def _note_status(status: dict[str, str], errors: list[str], tag: str, words: str) -> None:
    """Gathers what an answer's status says; at the next one, keeps it where it tells of an error."""
    if tag != "STATUS":
        status[tag] = words
        return
    if status.get("SEVERITY", "").upper() == "ERROR":
        code = status.get("CODE", "")
        errors.append(f"{status.get('MESSAGE') or 'an error'} ({code})" if code else "an error")
    status.clear()
    status["STATUS"] = ""


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
        self._listed = False

    @property
    def is_whole(self) -> bool:
        """Whether it ended, or the list of its movements did: some files lack the last ends."""
        return self.ended or self._listed

    def take(self, closes: bool, tag: str, text: str) -> None:
        if tag in ("BANKTRANLIST", "INVTRANLIST"):
            self._listed = closes
        elif tag in ("LEDGERBAL", "AVAILBAL", "INVBAL") and self.rows:
            self._listed = True
        if tag == "STMTTRN":
            self._row = None if closes else {}
            if self._row is not None:
                self.rows.append(self._row)
        elif tag in ("BANKTRANLIST", "INVTRANLIST", "INVBANKTRAN") and closes:
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
