"""The row or two of a table that name its columns, and which column is what."""

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from functools import cached_property

from corkpost.core.chart.trade_words import plain
from corkpost.core.money import Currency
from corkpost.formats.listings.days import names_age, names_period
from corkpost.formats.listings.figures import COMMA, POINT, amount_in, orders_of
from corkpost.formats.listings.sheets import Row, Sheet
from corkpost.formats.listings.words import begins_as, names_code, names_wholly, roles_of, wholly

SEARCHED = 80
"""So many rows from the top are looked at for a heading."""
SIDES = ("debit", "credit")
SPANS = ("opening", "closing")
OF_ANYTHING = frozenset("name nom naam nazwa nombre nome bezeichnung namn navn".split())
"""A column of this name has accounts' names in a list of accounts, and parties' in one of events."""


@dataclass(frozen=True)
class Heading:
    """*first*, *last*: the places of its rows in the sheet. *names*: the columns' names. *columns*: the
    column of each role. *sides_said*: whether the names say which of two columns is the debit."""

    first: int
    last: int
    names: tuple[str, ...]
    columns: Mapping[str, int]
    sides_said: bool = True

    def has(self, *roles: str) -> bool:
        return all(role in self.columns for role in roles)

    def repeated(self, row: Row) -> bool:
        """Whether a row below is the heading once more, as on a new page."""
        texts = row.texts
        return len(texts) > 1 and all(plain(text) in self._parts for text in texts)

    @cached_property
    def _parts(self) -> frozenset[str]:
        return frozenset(plain(part) for name in self.names for part in (name, *name.split(" / ")))

    @property
    def fingerprint(self) -> str:
        """What the same layout has in common next month."""
        return "|".join(plain(name) for name in self.names)


def headings_of(sheet: Sheet) -> Heading | None:
    """The heading of a sheet's table; None where no row names two columns that are known."""
    best: tuple[int, int, Heading] | None = None
    for place in range(min(SEARCHED, len(sheet.rows))):
        for rows in (1, 2):
            names = _names(sheet.rows[place : place + rows])
            if names is None or len(sheet.rows) < place + rows:
                continue
            columns = _columns(names)
            score = _score(names, columns)
            if rows == 2 and score <= _score_of(sheet.rows[place + 1]):
                # The second row says it all: what is over it is no part of it.
                continue
            if score and (best is None or score > best[0] + (rows == 2)):
                best = (score, place, Heading(place, place + rows - 1, names, columns))
    return best[2] if best else None


def _score_of(row: Row) -> int:
    names = _names([row])
    return _score(names, _columns(names)) if names else 0


SIGNS = {"€": "EUR", "£": "GBP"}
_CODE = re.compile(r"(?<![A-Za-z])[A-Z]{3}(?![A-Za-z])")


def currency_said(sheets: Iterable[Sheet]) -> Currency | None:
    """The one currency that the headings of tables name, by its code or its sign; None where they name
    none, or more than one."""
    found = set()
    for sheet in sheets:
        heading = headings_of(sheet)
        for name in heading.names if heading else ():
            codes = [*_CODE.findall(name), *(code for sign, code in SIGNS.items() if sign in name)]
            found |= {code for code in codes if Currency(code).is_known}
    return Currency(found.pop()) if len(found) == 1 else None


def above(sheet: Sheet, heading: Heading | None) -> Iterator[str]:
    """What stands over the table: titles, the client's name, spans."""
    for row in sheet.rows[: heading.first if heading else 10]:
        yield from row.texts


def _names(rows: Sequence[Row]) -> tuple[str, ...] | None:
    """The names of the columns that these rows are; None where they hold figures or days."""
    if not rows or any(
        isinstance(cell, date | Decimal) and not _is_year(cell)
        for row in rows
        for cell in row.cells
    ):
        return None
    texts = [[str(cell) for cell in row.cells] for row in rows]
    if any(sum(map(bool, line)) < 2 for line in texts):
        return None
    if len(rows) == 1:
        return tuple(texts[0])
    if any(_is_figure(text) for line in texts for text in line):
        return None
    # A name over several columns stands over the first of them.
    over, held = [], ""
    for text in texts[0]:
        held = text or held
        over.append(held)
    width = max(len(over), len(texts[1]))
    over += [held] * (width - len(over))
    below = texts[1] + [""] * (width - len(texts[1]))
    return tuple(
        f"{a} / {b}" if a and b else (b or texts[0][n] if n < len(texts[0]) else b)
        for n, (a, b) in enumerate(zip(over, below, strict=True))
    )


def _is_year(cell: object) -> bool:
    return isinstance(cell, Decimal) and 1990 <= cell <= 2100 and cell == int(cell)


def _is_figure(text: str) -> bool:
    """Whether a cell is a number or an amount, and so no part of a heading in two rows."""
    if text.isdigit() and len(text) == 4 and text[:2] in ("19", "20"):
        return False
    return not names_period(text) and any(
        amount_in(text, mark) is not None for mark in (POINT, COMMA)
    )


def _columns(names: Sequence[str]) -> dict[str, int]:
    wanted: list[tuple[int, int, str]] = []
    has_days = any("day" in roles_of(name) or "document_day" in roles_of(name) for name in names)
    for place, name in enumerate(names):
        roles, of_anything = _roles(name), plain(name) in OF_ANYTHING
        if of_anything:
            roles = ("party_name", "account_name") if has_days else ("account_name", "party_name")
        for rank, role in enumerate(roles):
            is_whole = of_anything or names_wholly(name.rpartition(" / ")[2], role)
            wanted.append((rank + 10 * (not is_whole), place, role))
    columns: dict[str, int] = {}
    used: set[int] = set()
    for _, place, role in sorted(wanted):
        if place not in used and role not in columns:
            columns[role] = place
            used.add(place)
    if "day" not in columns and "document_day" in columns:
        columns["day"] = columns.pop("document_day")
    _part_code_and_name(names, columns, used)
    numbered = (
        place for place, name in enumerate(names) if place not in used and "number" in wholly(name)
    )
    if "reference" not in columns and (other := next(numbered, None)) is not None:
        # Of two numbers, one is the entry's and one its paper's.
        columns["reference"] = other
    if "open" in columns and not {"account", "party", "party_name"} & columns.keys():
        # What is open is somebody's: the name is theirs.
        columns |= {"party_name": columns.pop("account_name")} if "account_name" in columns else {}
    return columns


def _part_code_and_name(names: Sequence[str], columns: dict[str, int], used: set[int]) -> None:
    """Of two columns that may be the account, `Code` and `Account`, one has its code and one its name."""
    others = [
        place for place, name in enumerate(names) if place not in used and "account" in _roles(name)
    ]
    if "account" not in columns or "account_name" in columns or not others:
        return
    code, name = columns["account"], others[0]
    if not names_code(names[code]) and names_code(names[name]):
        code, name = name, code
    columns["account"], columns["account_name"] = code, name
    used.add(others[0])


def _roles(name: str) -> tuple[str, ...]:
    """What a column of that name may be. `Opening / Debit` is the debit side of what there was before."""
    over, mark, below = name.partition(" / ")
    parts = {role for text in (over, below) for role in roles_of(text)} if mark else set()
    both = set(roles_of(name)) | parts
    for span in SPANS:
        for side in SIDES:
            if span in both and side in both:
                return (f"{span}_{side}",)
    if mark:
        joined = name.replace(" / ", " ")
        found = roles_of(below) or roles_of(over)
        whole = (role for text in (joined, below) for role in wholly(text))
        return tuple(dict.fromkeys((*whole, *roles_of(joined), *found)))
    return roles_of(name)


def _score(names: Sequence[str], columns: Mapping[str, int]) -> int:
    """How much of a row is names of columns: none where less than half is."""
    filled = sum(bool(name) and not names_age(name) for name in names)
    known = len(columns)
    periods = (
        sum(map(names_period, names)) if "account" in columns or "account_name" in columns else 0
    )
    if periods > 1:
        return 10 * known + filled if 2 * (known + periods) >= filled else 0
    if known < 2 or known * 2 < filled or any(begins_as(name, "total") for name in names[:1]):
        return 0
    days = [name for name in names if name and orders_of([name])]
    return 0 if len(days) > filled / 2 else 10 * known + filled
