"""MT940 by the mt-940 library, which is only ever given bytes, page by page joined to statements."""

import io
import re
from decimal import Decimal
from typing import Any

import mt940

from corkpost.core.kinds import StatementFormat
from corkpost.formats.statements.parsed import (
    ParsedFile,
    ParsedLine,
    ParsedStatement,
    UnreadableStatement,
    day_in,
    text_of,
    tidy,
)

_TAG = re.compile(r"^:(\d\d[A-Z]?):", re.MULTILINE)
_NO_REFERENCE = ("NONREF", "")


def recognises(content: bytes) -> bool:
    text = text_of(content[:6000])
    return {"25", "61"} <= set(_TAG.findall(text)) or {"25", "60F"} <= set(_TAG.findall(text))


def read(content: bytes) -> ParsedFile:
    """Every statement of the file. Raises UnreadableStatement where one has no end."""
    text = text_of(content)
    _refuse_cut_off(text)
    data = io.BytesIO(text.encode())
    try:
        pages = list(mt940.parse_statements(data, options=mt940.Options.all()))
    except Exception as error:  # the library raises whatever it stumbles over
        raise UnreadableStatement(f"This MT940 file makes no sense: {error}.") from None
    if sum(len(page.transactions) for page in pages) != len(re.findall(r"^:61:", text, re.M)):
        raise UnreadableStatement(
            "Some movements of this MT940 file can't be read: a line that begins with :61: is not "
            "of the form that the standard gives."
        )
    statements: list[ParsedStatement] = []
    before, open_page = 0, False
    for page in pages:
        parsed = _statement(page, before)
        before += len(parsed.lines)
        if open_page and statements:
            parsed = _joined(statements.pop(), parsed)
        statements.append(parsed)
        open_page = "final_closing_balance" not in page.data
    if not statements:
        raise UnreadableStatement("There is no statement in this MT940 file.")
    return ParsedFile(StatementFormat.MT940, tuple(statements))


def _refuse_cut_off(text: str) -> None:
    tags = _TAG.findall(text)
    opened = sum(tag in ("60F", "60M") for tag in tags)
    closed = sum(tag in ("62F", "62M") for tag in tags)
    last = re.findall(r"^:62[FM]:[CD]\d{6}[A-Z]{3}([\d,]*)", text, re.M)
    begun = tags.count("20")
    if (
        opened != closed
        or begun > closed
        or not last
        or not all(re.fullmatch(r"\d+,\d*", sum_) for sum_ in last)
    ):
        raise UnreadableStatement(
            "The MT940 file is cut off: a statement in it has no closing balance. Fetch it from the "
            "bank again."
        )


def _joined(one: ParsedStatement, more: ParsedStatement) -> ParsedStatement:
    return one._replace(
        closing=more.closing, last_day=more.last_day, lines=(*one.lines, *more.lines)
    )


def _balance(facts: dict[str, Any], which: str) -> Any:
    return facts.get(f"final_{which}_balance") or facts.get(f"intermediate_{which}_balance")


def _statement(page: Any, before: int) -> ParsedStatement:
    opening, closing = _balance(page.data, "opening"), _balance(page.data, "closing")
    currency = closing.amount.currency if closing else None
    if currency and not re.fullmatch("[A-Z]{3}", currency):
        raise UnreadableStatement(f"{currency!r} is no currency: the file is not sound.")
    lines = tuple(_line(n, one.data) for n, one in enumerate(page.transactions, before + 1))
    closed = day_in(str(closing.date)) if closing else None
    return ParsedStatement(
        identifier=page.data.get("account_identification"),
        currency=currency,
        first_day=min((line.day for line in lines), default=closed),
        last_day=closed,
        opening=_amount(opening),
        closing=_amount(closing),
        lines=lines,
    )


def _amount(balance: Any) -> Decimal | None:
    return Decimal(balance.amount.amount) if balance else None


def _line(number: int, facts: dict[str, Any]) -> ParsedLine:
    day = day_in(str(facts.get("entry_date") or facts.get("date")))
    amount = facts.get("amount")
    if day is None or amount is None:
        raise UnreadableStatement(f"Movement {number} has no day or no amount.")
    name = tidy(facts.get("applicant_name"))
    words = [
        name,
        tidy(facts.get("purpose")),
        tidy(facts.get("transaction_details")),
        tidy(facts.get("additional_purpose")),
    ]
    shown = [word for word in dict.fromkeys(words) if word]
    shown = shown or [tidy(facts.get("extra_details")) or tidy(facts.get("posting_text")) or ""]
    reference = tidy(facts.get("customer_reference"))
    bank = tidy(facts.get("bank_reference"))
    return ParsedLine(
        number=number,
        day=day,
        amount=Decimal(amount.amount),
        text=" ".join(shown),
        reference=None if reference in _NO_REFERENCE else reference,
        counterparty=name,
        bank_id=None if bank in _NO_REFERENCE else bank,
        value_day=day_in(str(facts.get("date"))),
    )
