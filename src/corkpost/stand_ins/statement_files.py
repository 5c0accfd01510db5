"""Statement files as a bank writes them, in the four formats that are read."""

import csv
import io
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from xml.sax.saxutils import escape

from corkpost.core.kinds import StatementFormat
from corkpost.core.money import Currency, Minor


@dataclass(frozen=True)
class BankLine:
    """A movement as the bank has it, money in positive."""

    day: date
    amount: Minor
    text: str
    reference: str | None = None
    counterparty: str | None = None
    bank_id: str | None = None


@dataclass(frozen=True)
class BankStatement:
    identifier: str
    currency: Currency
    first_day: date
    last_day: date
    opening: Minor
    lines: tuple[BankLine, ...]

    @property
    def closing(self) -> Minor:
        return self.opening + sum(line.amount for line in self.lines)


def as_csv(statements: Sequence[BankStatement]) -> bytes:
    """Date, description, amount and running balance under plain headings."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["date", "description", "amount", "reference", "balance", "id"])
    for statement in statements:
        balance = statement.opening
        money = statement.currency.format
        for line in statement.lines:
            balance += line.amount
            words = " ".join(part for part in (line.counterparty, line.text) if part)
            ids = [line.reference or "", money(balance), line.bank_id or ""]
            writer.writerow([line.day.isoformat(), words, money(line.amount), *ids])
    return out.getvalue().encode()


def as_ofx(statements: Sequence[BankStatement]) -> bytes:
    """OFX 1.x: tags without ends, a ledger balance, no opening balance."""
    head = "OFXHEADER:100\nDATA:OFXSGML\nVERSION:102\nENCODING:UTF-8\nCHARSET:NONE\n\n"
    parts = [head, "<OFX>\n<BANKMSGSRSV1>\n"]
    for statement in statements:
        money = statement.currency.format
        parts.append(
            f"<STMTTRNRS>\n<STMTRS>\n<CURDEF>{statement.currency.code}\n"
            f"<BANKACCTFROM>\n<ACCTID>{statement.identifier}\n</BANKACCTFROM>\n<BANKTRANLIST>\n"
            f"<DTSTART>{statement.first_day:%Y%m%d}\n<DTEND>{statement.last_day:%Y%m%d}\n"
        )
        for line in statement.lines:
            parts.append(
                f"<STMTTRN>\n<TRNTYPE>{'CREDIT' if line.amount > 0 else 'DEBIT'}\n"
                f"<DTPOSTED>{line.day:%Y%m%d}120000\n<TRNAMT>{money(line.amount)}\n"
                f"<FITID>{line.bank_id or ''}\n"
            )
            parts += [f"<CHECKNUM>{escape(line.reference)}\n"] if line.reference else []
            parts += [f"<NAME>{escape(line.counterparty)}\n"] if line.counterparty else []
            parts.append(f"<MEMO>{escape(line.text)}\n</STMTTRN>\n")
        parts.append(
            f"</BANKTRANLIST>\n<LEDGERBAL>\n<BALAMT>{money(statement.closing)}\n"
            f"<DTASOF>{statement.last_day:%Y%m%d}\n</LEDGERBAL>\n</STMTRS>\n</STMTTRNRS>\n"
        )
    return "".join([*parts, "</BANKMSGSRSV1>\n</OFX>\n"]).encode()


def as_camt053(statements: Sequence[BankStatement]) -> bytes:
    """camt.053.001.08."""
    parts = [
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        '<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt>\n'
    ]
    for number, statement in enumerate(statements, 1):
        parts.append(
            f"<Stmt><Id>{number}</Id><FrToDt><FrDtTm>{statement.first_day}T00:00:00</FrDtTm>"
            f"<ToDtTm>{statement.last_day}T23:59:59</ToDtTm></FrToDt>"
            f"<Acct><Id><IBAN>{statement.identifier}</IBAN></Id>"
            f"<Ccy>{statement.currency.code}</Ccy></Acct>\n"
        )
        parts.append(_camt_balance("OPBD", statement.opening, statement.first_day, statement))
        parts.append(_camt_balance("CLBD", statement.closing, statement.last_day, statement))
        parts += [_camt_entry(line, statement.currency) for line in statement.lines]
        parts.append("</Stmt>\n")
    return "".join([*parts, "</BkToCstmrStmt></Document>\n"]).encode()


def _camt_sum(amount: Minor, currency: Currency) -> str:
    side = "CRDT" if amount >= 0 else "DBIT"
    bare = currency.format(abs(amount))
    return f'<Amt Ccy="{currency.code}">{bare}</Amt><CdtDbtInd>{side}</CdtDbtInd>'


def _camt_balance(code: str, amount: Minor, day: date, statement: BankStatement) -> str:
    kind = f"<Tp><CdOrPrtry><Cd>{code}</Cd></CdOrPrtry></Tp>"
    return f"<Bal>{kind}{_camt_sum(amount, statement.currency)}<Dt><Dt>{day}</Dt></Dt></Bal>\n"


def _camt_entry(line: BankLine, currency: Currency) -> str:
    side = "Dbtr" if line.amount > 0 else "Cdtr"
    name = f"<{side}><Pty><Nm>{escape(line.counterparty or '')}</Nm></Pty></{side}>"
    refs = f"<EndToEndId>{escape(line.reference or 'NOTPROVIDED')}</EndToEndId>"
    return (
        f"<Ntry>{_camt_sum(line.amount, currency)}<Sts><Cd>BOOK</Cd></Sts>"
        f"<BookgDt><Dt>{line.day}</Dt></BookgDt><ValDt><Dt>{line.day}</Dt></ValDt>"
        f"<AcctSvcrRef>{escape(line.bank_id or '')}</AcctSvcrRef>"
        f"<NtryDtls><TxDtls><Refs>{refs}</Refs>"
        + (f"<RltdPties>{name}</RltdPties>" if line.counterparty else "")
        + f"<RmtInf><Ustrd>{escape(line.text)}</Ustrd></RmtInf></TxDtls></NtryDtls></Ntry>\n"
    )


def as_mt940(statements: Sequence[BankStatement]) -> bytes:
    """MT940, one message a statement, amounts with a comma."""
    parts = []
    for number, statement in enumerate(statements, 1):
        parts.append(
            f":20:STATEMENT\n:25:{statement.identifier}\n:28C:{number:05d}/001\n"
            f":60F:{_mt_balance(statement.opening, statement.first_day, statement.currency)}\n"
        )
        for line in statement.lines:
            side = "C" if line.amount > 0 else "D"
            amount = statement.currency.format(abs(line.amount)).replace(".", ",")
            reference = (line.reference or "NONREF")[:16]
            words = " ".join(part for part in (line.counterparty, line.text) if part)
            parts.append(
                f":61:{line.day:%y%m%d}{line.day:%m%d}{side}{amount}NTRF{reference}"
                f"//{line.bank_id or ''}\n:86:{words}\n"
            )
        closing = _mt_balance(statement.closing, statement.last_day, statement.currency)
        parts.append(f":62F:{closing}\n-\n")
    return "".join(parts).encode()


def _mt_balance(amount: Minor, day: date, currency: Currency) -> str:
    bare = currency.format(abs(amount)).replace(".", ",")
    return f"{'C' if amount >= 0 else 'D'}{day:%y%m%d}{currency.code}{bare}"


WRITERS: Mapping[StatementFormat, Callable[[Sequence[BankStatement]], bytes]] = {
    StatementFormat.CSV: as_csv,
    StatementFormat.OFX: as_ofx,
    StatementFormat.CAMT053: as_camt053,
    StatementFormat.MT940: as_mt940,
}
ENDINGS: Mapping[StatementFormat, str] = {
    StatementFormat.CSV: "csv",
    StatementFormat.OFX: "ofx",
    StatementFormat.CAMT053: "xml",
    StatementFormat.MT940: "sta",
}


def written(format_: StatementFormat, statements: Iterable[BankStatement]) -> bytes:
    """The file that the bank gives out for these statements."""
    return WRITERS[format_](list(statements))
