"""The tables of a books folder: their columns, what each holds, and how a cell becomes a value.

A cell's value is kept by its text: the same account code or date comes a hundred thousand times.
"""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date, datetime
from decimal import Decimal
from enum import StrEnum
from fractions import Fraction
from typing import Any, NamedTuple

from corkpost.core.kinds import (
    AccountRole,
    AccountType,
    EntryKind,
    PartyKind,
    StatementFormat,
    TaxKind,
    TransactionKind,
)
from corkpost.core.money import Currency, NotAnAmount
from corkpost.core.periods import FIRST_DAY, LAST_DAY

_DAY = re.compile(r"\d{4}-\d\d-\d\d")
_TIME = re.compile(r"\d{4}-\d\d-\d\dT\d\d:\d\d(?::\d\d)?")
_DECIMAL = re.compile(r"-?\d{1,18}(?:\.\d{1,12})?")
_MONTH = re.compile(r"\d{4}-(?:0[1-9]|1[0-2])")


class BadCell(ValueError):
    """A cell that holds no value of its column; the message says what would be right."""


class Cells(dict[str, Any]):
    """Text to value, each text read once."""

    def __init__(self, read: Callable[[str], Any]) -> None:
        super().__init__()
        self._read = read

    def __missing__(self, text: str) -> Any:
        value = self[text] = self._read(text)
        return value


class Kind(NamedTuple):
    """What a column holds: its reader, and its type and constraints in a Table Schema."""

    read: Callable[[str], Any]
    schema: Mapping[str, Any]


def _text(text: str) -> str:
    return text


def _day(text: str) -> date:
    try:
        if not _DAY.fullmatch(text):
            raise ValueError
        day = date.fromisoformat(text)
    except ValueError:
        raise BadCell(f"{text!r} is not a date: write 2026-03-31") from None
    if not FIRST_DAY <= day <= LAST_DAY:
        raise BadCell(f"{text!r} is a slip: the year lies between 1900 and 2999")
    return day


def _time(text: str) -> datetime:
    try:
        if not _TIME.fullmatch(text):
            raise ValueError
        return datetime.fromisoformat(text)
    except ValueError:
        raise BadCell(f"{text!r} is not a time: write 2026-03-31T16:05:00") from None


def _decimal(text: str) -> str:
    if not _DECIMAL.fullmatch(text):
        raise BadCell(f"{text!r} is not a plain decimal: write 1234.50")
    return text


def _fraction(text: str) -> Fraction:
    return Fraction(Decimal(_decimal(text)))


def _percent(text: str) -> Fraction:
    value = _fraction(text)
    if not 0 <= value <= 1000:
        raise BadCell(f"{text!r} is not a percentage: write 23 for 23%")
    return value


def _whole(text: str) -> int:
    if not (text.isascii() and text.isdigit() and len(text) <= 9):
        raise BadCell(f"{text!r} is not a whole number")
    return int(text)


def _truth(text: str) -> bool:
    if text not in ("true", "false"):
        raise BadCell(f"{text!r} is neither true nor false")
    return text == "true"


def _month(text: str) -> str:
    if not _MONTH.fullmatch(text):
        raise BadCell(f"{text!r} is not a month: write 2026-03")
    return text


def _aliases(text: str) -> tuple[str, ...]:
    return tuple(name.strip() for name in text.split("|") if name.strip())


def inner_path(text: str) -> str:
    """A path inside the folder, with forward slashes. Raises BadCell where it leaves it."""
    parts = text.split("/")
    if "\\" in text or ":" in text or text.startswith("/") or ".." in parts or "" in parts:
        raise BadCell(f"{text!r} leaves the folder: name a file inside it, as statements/jan.csv")
    return text


def _one_of(values: type[StrEnum]) -> Kind:
    def read(text: str) -> StrEnum:
        try:
            return values(text)
        except ValueError:
            known = ", ".join(value for value in values if value)
            raise BadCell(f"{text!r} is not known here: write one of {known}") from None

    return Kind(read, {"type": "string", "constraints": {"enum": [v for v in values if v]}})


STRING = Kind(_text, {"type": "string"})
DAY = Kind(_day, {"type": "date"})
TIME = Kind(_time, {"type": "datetime"})
DECIMAL = Kind(_decimal, {"type": "number"})
PERCENT = Kind(_percent, {"type": "number", "constraints": {"minimum": 0}})
WHOLE = Kind(_whole, {"type": "integer", "constraints": {"minimum": 0}})
TRUTH = Kind(_truth, {"type": "boolean"})
MONTH = Kind(_month, {"type": "yearmonth"})
ALIASES = Kind(_aliases, {"type": "string"})
PATH = Kind(inner_path, {"type": "string"})
AMOUNT = Kind(_text, {"type": "number"})
"""Read by the books' currency: see `reader_of`."""
POSITIVE = Kind(_text, {"type": "number", "constraints": {"minimum": 0}})


class Column(NamedTuple):
    name: str
    kind: Kind = STRING
    filled: bool = False


@dataclass(frozen=True)
class Table:
    """*present*: the table must be there. *headed*: optional columns whose heading must be there."""

    name: str
    columns: tuple[Column, ...]
    present: bool = False
    headed: tuple[str, ...] = ()

    @property
    def file(self) -> str:
        return f"{self.name}.csv"

    @property
    def names(self) -> tuple[str, ...]:
        return tuple(column.name for column in self.columns)


def _table(name: str, spec: str, *, present: bool = False, headed: tuple[str, ...] = ()) -> Table:
    """A table from words of the form `name:kind*`: the kind is text, the star must be filled."""
    columns = []
    for word in spec.split():
        filled = word.endswith("*")
        column, _, kind = word.removesuffix("*").partition(":")
        columns.append(Column(column, _KINDS[kind], filled))
    return Table(name, tuple(columns), present, headed)


_KINDS: Mapping[str, Kind] = {
    "": STRING,
    "day": DAY,
    "time": TIME,
    "decimal": DECIMAL,
    "percent": PERCENT,
    "whole": WHOLE,
    "truth": TRUTH,
    "month": MONTH,
    "aliases": ALIASES,
    "path": PATH,
    "amount": AMOUNT,
    "positive": POSITIVE,
    "account-type": _one_of(AccountType),
    "account-role": _one_of(AccountRole),
    "party-kind": _one_of(PartyKind),
    "tax-kind": _one_of(TaxKind),
    "transaction-kind": _one_of(TransactionKind),
    "entry-kind": _one_of(EntryKind),
    "statement-format": _one_of(StatementFormat),
}

TABLES: Mapping[str, Table] = {
    table.name: table
    for table in (
        _table(
            "accounts",
            "code* name* type:account-type* role:account-role owner tax_code "
            "expected_type:account-type",
            present=True,
        ),
        _table("parties", "code* name* kind:party-kind* share:percent aliases:aliases"),
        _table("taxes", "code* name* rate:percent* kind:tax-kind* recoverable:truth"),
        _table("dimensions", "dimension* code* name*"),
        _table(
            "transactions",
            "id* kind:transaction-kind* date:day* document_date:day due_date:day entered_at:time "
            "entered_by reference party memo source currency rate:decimal reverses "
            "entry_kind:entry-kind corrects reason",
            present=True,
        ),
        _table(
            "lines",
            "transaction* line:whole* account* party debit:positive credit:positive tax_code "
            "description dimensions currency foreign_amount:decimal tax_date:day",
            present=True,
            headed=("debit", "credit"),
        ),
        _table(
            "allocations",
            "id* date:day* party* debit_transaction* credit_transaction* amount:positive* "
            "foreign_amount:decimal undoes",
        ),
        _table("bank_accounts", "account* holder identifier currency"),
        _table("statements", "account* path:path* format:statement-format*"),
        _table(
            "prior_year",
            "year_end:day* account* debit:positive credit:positive",
            headed=("debit", "credit"),
        ),
        _table("stock", "date:day* item* quantity:decimal* unit_cost:decimal* value:amount*"),
        _table(
            "payroll",
            "month:month* employee_group gross:amount employer_contributions:amount "
            "net_pay:amount income_tax:amount employee_contributions:amount "
            "other_deductions:amount",
        ),
        _table("agreements", "group* account* transaction line:whole statement_line day:day"),
        _table("amendments", "transaction* at:time* field* before after reason*"),
        _table("attachments", "transaction* path:path* name"),
    )
}


def reader_of(kind: Kind, currency: Currency) -> Cells:
    """The reader of a column's cells in books of this currency; an empty cell is None."""

    def amount(text: str) -> int:
        try:
            return currency.parse(text)
        except NotAnAmount as wrong:
            raise BadCell(str(wrong)) from None

    def positive(text: str) -> int:
        value = amount(text)
        if value <= 0:
            raise BadCell(f"{text!r} is not above nil: the side says the sign")
        return value

    read = {id(AMOUNT): amount, id(POSITIVE): positive}.get(id(kind), kind.read)
    cells = Cells(read)
    cells[""] = None
    return cells
