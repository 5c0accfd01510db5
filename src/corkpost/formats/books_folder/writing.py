"""Writing a books folder: the same form that is read, so that it can be taken in again."""

import csv
import json
import shutil
from collections.abc import Callable, Iterable, Iterator, Mapping
from datetime import date, datetime
from enum import StrEnum
from fractions import Fraction
from pathlib import Path
from types import MappingProxyType
from typing import Any

from corkpost.core.books import ClientFacts, Tables
from corkpost.core.money import Currency
from corkpost.core.periods import year_end_text
from corkpost.core.refusals import Refusal
from corkpost.formats.books_folder.archive import DESCRIPTOR
from corkpost.formats.books_folder.columns import AMOUNT, POSITIVE, TABLES, Table

Values = Iterable[tuple[tuple[Any, ...], str]]
"""Per row: the values in the order of the table's columns, and its other data."""


class FolderInUse(Refusal):
    title = "That folder is in use"


def write_books(
    client: ClientFacts,
    tables: Tables,
    to: Path,
    *,
    created: datetime,
    file_of: Callable[[str], Path],
    agreed_on: Mapping[tuple[str, str], date] = MappingProxyType({}),
) -> None:
    """Write the books into the folder *to*, made when missing; refused when it holds other things.

    *file_of* gives the bytes of a statement or paper by its digest. *agreed_on*: by account and group,
    the day from which an agreement counts.
    """
    to.mkdir(parents=True, exist_ok=True)
    if any(to.iterdir()):
        raise FolderInUse(f"{to} is not empty: name a new folder, so that nothing is overwritten.")
    rows = _values(tables, agreed_on)
    for name, table in TABLES.items():
        _write_table(table, list(rows[name]), to / table.file, client.currency)
    kept = {row.path: row.digest for row in tables.statements}
    kept |= {row.path: row.digest for row in tables.attachments}
    for path, digest in kept.items():
        (to / path).parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(file_of(digest), to / path)
    package = _package(client, created)
    text = json.dumps(package, indent=2, ensure_ascii=False)
    (to / DESCRIPTOR).write_text(text + "\n", encoding="utf-8")


def _values(tables: Tables, agreed_on: Mapping[tuple[str, str], date]) -> Mapping[str, Values]:
    def plain(rows: Iterable[Any], drop: int = 0) -> Values:
        return ((tuple(row)[: len(row) - 1 - drop], row.other) for row in rows)

    return {
        "accounts": plain(tables.accounts),
        "parties": plain(tables.parties),
        "taxes": plain(tables.taxes),
        "dimensions": plain(tables.dimensions),
        "transactions": (
            ((t.id, t.kind, t.posting_date, *t[4:18]), t.other) for t in tables.transactions
        ),
        "lines": _line_values(tables),
        "allocations": ((tuple(row)[:8], row.other) for row in tables.allocations),
        "bank_accounts": plain(tables.bank_accounts),
        "statements": plain(tables.statements, drop=1),
        "prior_year": (
            ((row.year_end, row.account, *_sides(row.amount)), row.other)
            for row in tables.prior_year
        ),
        "stock": plain(tables.stock),
        "payroll": plain(tables.payroll),
        "agreements": (
            ((*row[:5], agreed_on.get((row.account, row.group))), row.other)
            for row in tables.agreements
        ),
        "amendments": plain(tables.amendments, drop=1),
        "attachments": plain(tables.attachments, drop=1),
    }


def _sides(amount: int) -> tuple[int | None, int | None]:
    return (amount if amount > 0 else None, -amount if amount < 0 else None)


def _line_values(tables: Tables) -> Iterator[tuple[tuple[Any, ...], str]]:
    for posted in tables.transactions:
        for line in posted.lines:
            head = (posted.id, line.number, line.account, line.party, *_sides(line.amount))
            yield (*head, *line[4:10]), line.other


def _write_table(
    table: Table, rows: list[tuple[tuple[Any, ...], str]], to: Path, currency: Currency
) -> None:
    others = [json.loads(other) if other else {} for _, other in rows]
    extra = sorted({name for other in others for name in other})
    money = [column.kind is AMOUNT or column.kind is POSITIVE for column in table.columns]
    with to.open("w", encoding="utf-8", newline="") as file:
        writer = csv.writer(file, lineterminator="\n")
        writer.writerow([*table.names, *extra])
        for (values, _), other in zip(rows, others, strict=True):
            cells = [
                currency.format(value) if is_money and value is not None else _cell(value)
                for value, is_money in zip(values, money, strict=True)
            ]
            writer.writerow([*cells, *(other.get(name, "") for name in extra)])


def _cell(value: object) -> str:
    match value:
        case None:
            return ""
        case bool():
            return "true" if value else "false"
        case StrEnum():
            return value.value
        case Fraction():
            return decimal_of(value)
        case datetime():
            return value.isoformat(timespec="seconds")
        case date():
            return value.isoformat()
        case tuple():
            return "|".join(value)
        case _:
            return str(value)


def decimal_of(value: Fraction) -> str:
    """A rate as a plain decimal; every rate that is read from one is one."""
    places = 0
    while (value * 10**places).denominator != 1:
        places += 1
    digits = str(int(value * 10**places)).rjust(places + 1, "0")
    return f"{digits[:-places]}.{digits[-places:]}" if places else digits


def _package(client: ClientFacts, created: datetime) -> dict[str, Any]:
    books: dict[str, Any] = {
        "format": 1,
        "client": {
            "code": client.code,
            "name": client.name,
            "entity": client.entity,
            "currency": client.currency.code,
            "year_end": year_end_text(client.year_end),
            "tax_registered": client.tax_registered,
        },
        "books_from": _day(client.books_from),
        "books_to": _day(client.books_to),
        "filed_through": _day(client.filed_through),
        "filed_on": client.filed_on.isoformat(timespec="seconds") if client.filed_on else None,
        "tax_returned_through": _day(client.tax_returned_through),
    }
    limits = {"materiality": client.materiality, "capital_item": client.capital_item}
    set_limits = {name: client.currency.format(v) for name, v in limits.items() if v is not None}
    if set_limits:
        books["limits"] = set_limits
    if client.years:
        books["years"] = [
            {"label": year.label, "from": str(year.first_day), "to": str(year.last_day)}
            | ({"due": str(year.due)} if year.due else {})
            for year in client.years
        ]
    return {
        "profile": "tabular-data-package",
        "name": f"{client.code.lower()}-books",
        "created": created.isoformat(timespec="seconds"),
        "books": books,
        "resources": [_resource(table) for table in TABLES.values()],
    }


def _day(day: date | None) -> str | None:
    return day.isoformat() if day else None


def _resource(table: Table) -> dict[str, Any]:
    fields = []
    for column in table.columns:
        described: dict[str, Any] = {"name": column.name, **column.kind.schema}
        if column.filled:
            constraints = {**described.get("constraints", {}), "required": True}
            described["constraints"] = constraints
        fields.append(described)
    return {
        "name": table.name,
        "path": table.file,
        "profile": "tabular-data-resource",
        "schema": {"fields": fields, "missingValues": [""]},
    }
