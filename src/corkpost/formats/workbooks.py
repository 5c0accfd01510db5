"""The tables of a spreadsheet's file: XLSX, XLS, ODS, or what programs save under such a name."""

import io
import zipfile
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any, TypeAlias

from corkpost.formats import marked_up

Cell: TypeAlias = str | Decimal | date
"""Empty where there is nothing."""
_ZIP, _OLE = b"PK\x03\x04", b"\xd0\xcf\x11\xe0"
LARGEST = 512 * 1024 * 1024
"""So much may be packed into one file."""


class BadWorkbook(Exception):
    """Why a file is none that can be read, in words that go on from its name."""


def is_workbook(content: bytes) -> bool:
    """Whether it may be one: it begins as their files do."""
    return content.startswith((_ZIP, _OLE)) or marked_up.is_marked_up(content)


def tables_in(content: bytes) -> list[tuple[str, list[tuple[Cell, ...]]]]:
    """The sheets that have anything in them, by name. Raises BadWorkbook."""
    from python_calamine import CalamineError, PasswordError, load_workbook

    if "EncryptedPackage".encode("utf-16-le") in content:
        raise BadWorkbook("is locked with a password. Save it without one, and take that in.")
    _refuse_much(content)
    found: list[tuple[str, list[list[Any]]]]
    try:
        if marked_up.is_marked_up(content):
            found = list(marked_up.tables_in(content))
        else:
            book = load_workbook(io.BytesIO(content))
            found = [
                (name, book.get_sheet_by_name(name).to_python(skip_empty_area=False))
                for name in book.sheet_names
            ]
    except PasswordError as wrong:
        raise BadWorkbook(
            "is locked with a password. Save it without one, and take that in."
        ) from wrong
    except (CalamineError, OSError, ValueError, marked_up.NotWhole) as wrong:
        raise BadWorkbook(
            "is no whole spreadsheet: it may have been cut off. Ask for it once more."
        ) from wrong
    full = [(name, rows) for name, rows in found if any(cell != "" for row in rows for cell in row)]
    if not full:
        raise BadWorkbook("has nothing in it.")
    return [(name, [tuple(map(_cell, row)) for row in rows]) for name, rows in full]


def _refuse_much(content: bytes) -> None:
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as packed:
            size = sum(part.file_size for part in packed.infolist())
    except (zipfile.BadZipFile, ValueError):
        return
    if size > LARGEST:
        raise BadWorkbook("holds more than a spreadsheet may. Ask for it as CSV.")


def _cell(value: object) -> Cell:
    if isinstance(value, str):
        return value.strip()
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, Decimal):
        return value
    if isinstance(value, int | float):
        # What a spreadsheet works out has noise in the last of its seventeen figures.
        return Decimal(repr(round(value, 6))) if isinstance(value, float) else Decimal(value)
    if isinstance(value, datetime):
        return value.date()
    if isinstance(value, date):
        return value
    return "" if value is None or isinstance(value, time | timedelta) else str(value)
