"""MT940 by the mt-940 library, which is only ever given bytes, page by page joined to statements."""

import io
import re
from calendar import monthrange
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


_DATED = re.compile(r"^(:(?:61|60[FM]|62[FM]|64|65):[CD]?)(\d\d)(\d\d)(\d\d)", re.MULTILINE)


def recognises(content: bytes) -> bool:
    text = text_of(content[:6000])
    tags = set(_TAG.findall(text))
    return any({"25", other} <= tags for other in ("61", "60F", "60M", "34F", "90D", "90C"))


def _on_real_days(text: str) -> str:
    """The text with days such as 31 April on the last day of their month: some banks reckon so."""

    def real(match: re.Match[str]) -> str:
        year, month, day = int(match[2]), int(match[3]), int(match[4])
        last = monthrange(2000 + year, month)[1] if 1 <= month <= 12 else 31
        return f"{match[1]}{match[2]}{match[3]}{min(day, last):02}"

    return _DATED.sub(real, text)


def read(content: bytes) -> ParsedFile:
    """Every statement of the file. Raises UnreadableStatement where one has no end."""
    text = _on_real_days(text_of(content))
    warnings = _warn_or_refuse(text)
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
        same = statements and statements[-1].identifier == parsed.identifier
        if open_page and same and "final_opening_balance" not in page.data:
            parsed = _joined(statements.pop(), parsed)
        statements.append(parsed)
        open_page = "final_closing_balance" not in page.data
    if not statements:
        raise UnreadableStatement("There is no statement in this MT940 file.")
    return ParsedFile(StatementFormat.MT940, tuple(statements), warnings)


NO_CLOSING = "The file gives no closing balance: look whether it is whole."


def _warn_or_refuse(text: str) -> tuple[str, ...]:
    """What there is to be told of a file without closing balance, as interim reports are. Raises
    UnreadableStatement for one that breaks off."""
    tags = _TAG.findall(text)
    opened = sum(tag in ("60F", "60M") for tag in tags)
    closed = sum(tag in ("62F", "62M") for tag in tags)
    last = re.findall(r"^:62[FM]:(.*)", text, re.M)
    begun = max(opened, tags.count("20"))
    sound = all(re.fullmatch(r"[CD]\d{6}[A-Z]{3}\d+,\d*", line.strip()) for line in last)
    ended = text.rstrip().endswith(("-", "-}", "\x03"))
    at_line_end = text.endswith(("\n", "\r")) or text.rstrip() != text or closed >= begun
    # Where one statement of the file has a closing balance, all of them have.
    if not sound or not (ended or at_line_end) or (0 < closed < begun and not ended):
        raise UnreadableStatement(
            "The MT940 file is cut off: a statement in it has no closing balance. Fetch it from the "
            "bank again."
        )
    return () if closed >= begun else (NO_CLOSING,)


def _joined(one: ParsedStatement, more: ParsedStatement) -> ParsedStatement:
    return one._replace(
        closing=more.closing, last_day=more.last_day, lines=(*one.lines, *more.lines)
    )


def _balance(facts: dict[str, Any], which: str) -> Any:
    return facts.get(f"final_{which}_balance") or facts.get(f"intermediate_{which}_balance")


def _statement(page: Any, before: int) -> ParsedStatement:
    opening, closing = _balance(page.data, "opening"), _balance(page.data, "closing")
    known = [balance.amount for balance in (closing, opening) if balance]
    known += [
        transaction.data["amount"]
        for transaction in page.transactions
        if transaction.data.get("amount")
    ]
    currency = known[0].currency if known else None
    if currency and not re.fullmatch("[A-Z]{3}", currency):
        raise UnreadableStatement(f"{currency!r} is no currency: the file is not sound.")
    lines = tuple(
        _line(n, transaction.data) for n, transaction in enumerate(page.transactions, before + 1)
    )
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
