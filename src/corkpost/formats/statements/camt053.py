"""ISO 20022 camt.053 (and its kin 052 and 054), every version: by local names, entries counted.

Only what is booked counts. The sign is the entry's; details below it are shown and matched, not summed.
"""

from collections.abc import Iterator
from datetime import date
from decimal import Decimal

from lxml import etree

from corkpost.core.kinds import StatementFormat
from corkpost.formats.statements.parsed import (
    ParsedFile,
    ParsedLine,
    ParsedStatement,
    UnreadableStatement,
    day_in,
    decimal_in,
    tidy,
)

HOLDERS = ("Stmt", "Rpt", "Ntfctn")
MOST_DETAILS = 20
NOT_PROVIDED = "NOTPROVIDED"


def recognises(content: bytes) -> bool:
    head = content[:4000]
    return b"camt.05" in head or b"BkToCstmr" in head


def read(content: bytes) -> ParsedFile:
    """Every statement of the file. Raises UnreadableStatement."""
    parser = etree.XMLParser(
        resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False
    )
    try:
        root = etree.fromstring(content, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise UnreadableStatement(f"This is no whole XML file: {error}.") from None
    if root.getroottree().docinfo.doctype:
        raise UnreadableStatement("The file declares a document type, which no statement needs.")
    found = [node for node in root.iter("{*}*") if etree.QName(node).localname in HOLDERS]
    if not found:
        raise UnreadableStatement("There is no statement in this file: it holds no Stmt.")
    statements, before = [], 0
    for node in found:
        one = _statement(node, before)
        before += len(one.lines)
        statements.append(one)
    return ParsedFile(StatementFormat.CAMT053, tuple(statements))


def _texts(node: etree._Element, *path: str) -> Iterator[str]:
    for found in node.iterfind("/".join(f"{{*}}{name}" for name in path)):
        if found.text and found.text.strip():
            yield found.text.strip()


def _text(node: etree._Element, *paths: str) -> str | None:
    """The first text at one of the paths, each with slashes between local names."""
    return next((text for path in paths for text in _texts(node, *path.split("/"))), None)


def _day(node: etree._Element, name: str) -> date | None:
    text = _text(node, f"{name}/Dt", f"{name}/DtTm")
    return day_in(text) if text else None


def _signed(node: etree._Element) -> Decimal | None:
    amount = decimal_in(_text(node, "Amt") or "")
    if amount is None:
        return None
    return -amount if _text(node, "CdtDbtInd") == "DBIT" else amount


def _statement(node: etree._Element, before: int) -> ParsedStatement:
    balances: dict[str, tuple[Decimal | None, date | None]] = {}
    for balance in node.iterfind("{*}Bal"):
        code = _text(balance, "Tp/CdOrPrtry/Cd", "Tp/CdOrPrtry/Prtry") or ""
        balances.setdefault(code, (_signed(balance), _day(balance, "Dt")))
    opening = balances.get("OPBD") or balances.get("PRCD") or (None, None)
    closing = balances.get("CLBD") or (None, None)
    lines = []
    for place, entry in enumerate(node.iterfind("{*}Ntry"), before + 1):
        status = _text(entry, "Sts/Cd", "Sts")
        if status in (None, "BOOK"):
            lines.append(_line(place, entry))
    first = _text(node, "FrToDt/FrDtTm", "FrToDt/FrDt")
    last = _text(node, "FrToDt/ToDtTm", "FrToDt/ToDt")
    return ParsedStatement(
        identifier=_text(node, "Acct/Id/IBAN", "Acct/Id/Othr/Id"),
        currency=_text(node, "Acct/Ccy"),
        first_day=day_in(first) if first else None,
        last_day=(day_in(last) if last else None) or closing[1],
        opening=opening[0],
        closing=closing[0],
        lines=tuple(lines),
    )


def _line(number: int, entry: etree._Element) -> ParsedLine:
    amount, day = _signed(entry), _day(entry, "BookgDt") or _day(entry, "ValDt")
    if amount is None or day is None:
        raise UnreadableStatement(f"Entry {number} has no amount or no booking day.")
    details = list(entry.iterfind("{*}NtryDtls/{*}TxDtls"))
    side = "Dbtr" if amount > 0 else "Cdtr"
    names = [
        name
        for detail in details
        if (name := _text(detail, f"RltdPties/{side}/Nm", f"RltdPties/{side}/Pty/Nm"))
    ]
    texts = [text for detail in details for text in _texts(detail, "RmtInf", "Ustrd")]
    texts += [
        text for detail in details for text in _texts(detail, "RmtInf", "Strd", "CdtrRefInf", "Ref")
    ]
    extra = _text(entry, "AddtlNtryInf")
    shown = list(dict.fromkeys([*names, *texts]))[:MOST_DETAILS] or ([extra] if extra else [])
    reference = next(
        (
            text
            for detail in details
            for text in (
                _text(detail, "Refs/ChqNb"),
                _text(detail, "Refs/EndToEndId"),
            )
            if text and text != NOT_PROVIDED
        ),
        None,
    )
    return ParsedLine(
        number=number,
        day=day,
        amount=amount,
        text=tidy(" ".join(shown)) or "",
        reference=tidy(reference),
        counterparty=tidy(names[0]) if len(names) == 1 else None,
        bank_id=tidy(_text(entry, "AcctSvcrRef", "NtryRef")),
        value_day=_day(entry, "ValDt"),
    )
