"""The parts of a pack as plain tables, of which its PDF, its sheets, its CSV and its JSON are made."""

import csv
import io
import json
from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from typing import NamedTuple

from corkpost.core.cells import plain_cell
from corkpost.core.money import Currency, Minor

Cell = str | Minor | None
"""Text, or an amount in minor units, debit positive; None where there is nothing."""


class Column(NamedTuple):
    """*figure*: it holds amounts. *wide*: its share of the page's width."""

    name: str
    figure: bool = False
    wide: int = 1


class Part(NamedTuple):
    """*name*: of its file and sheet. *notes*: what stands above it. *summed*: its figures are added up
    below it. *empty*: what is said where there is no row."""

    name: str
    title: str
    columns: tuple[Column, ...]
    rows: tuple[tuple[Cell, ...], ...]
    notes: tuple[str, ...] = ()
    summed: bool = False
    empty: str = "None."

    @property
    def sums(self) -> tuple[Cell, ...]:
        """The sums of the columns of figures; empty text below the first other one."""
        found: list[Cell] = []
        for place, column in enumerate(self.columns):
            amounts = [row[place] for row in self.rows]
            total = sum(amount for amount in amounts if isinstance(amount, int))
            found.append(total if column.figure else "")
        return tuple(found)


class Pack(NamedTuple):
    """A client's finished work as at a day. *facts*: what the cover says, by its heading. *made_at*: stated
    in it, and the only thing that differs between two packs of the same figures."""

    client: str
    name: str
    currency: Currency
    as_at: date
    practice: str
    made_at: str
    facts: tuple[tuple[str, str], ...]
    signed: tuple[str, str, str] | None
    parts: tuple[Part, ...]


def cell_text(cell: Cell, currency: Currency) -> str:
    """A cell as text: amounts as decimals."""
    if cell is None:
        return ""
    return cell if isinstance(cell, str) else currency.format(cell)


def as_csv(part: Part, currency: Currency) -> bytes:
    """The part as CSV with a heading; text that a spreadsheet would take for a formula is kept text."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(column.name for column in part.columns)
    for row in part.rows:
        writer.writerow(plain_cell(cell_text(cell, currency)) for cell in row)
    return b"\xef\xbb\xbf" + out.getvalue().encode()


def as_json(pack: Pack) -> bytes:
    """The whole pack for programs: amounts as decimals, debit positive."""
    told = {
        "client": pack.client,
        "name": pack.name,
        "currency": pack.currency.code,
        "as_at": pack.as_at.isoformat(),
        "practice": pack.practice,
        "made_at": pack.made_at,
        "facts": dict(pack.facts),
        "parts": {part.name: _rows(part, pack.currency) for part in pack.parts},
    }
    return (json.dumps(told, indent=1, ensure_ascii=False) + "\n").encode()


def _rows(part: Part, currency: Currency) -> Sequence[Mapping[str, str | None]]:
    names = [column.name.casefold().replace(" ", "_") for column in part.columns]
    return [
        {
            name: None if cell is None else cell_text(cell, currency)
            for name, cell in zip(names, row, strict=True)
        }
        for row in part.rows
    ]


def files_of(pack: Pack) -> Iterable[tuple[str, bytes]]:
    """Its JSON and a CSV for each part, by name."""
    yield "pack.json", as_json(pack)
    for part in pack.parts:
        yield f"{part.name}.csv", as_csv(part, pack.currency)
