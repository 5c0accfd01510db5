"""datapackage.json: what the books say of the client."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from itertools import pairwise
from typing import Any

from corkpost.core.books import ClientFacts
from corkpost.core.kinds import Entity
from corkpost.core.money import Currency, NotAnAmount
from corkpost.core.periods import ONE_DAY, FinancialYear, parse_year_end
from corkpost.formats.books_folder.archive import DESCRIPTOR
from corkpost.formats.books_folder.columns import DAY, TIME, BadCell, inner_path
from corkpost.formats.books_folder.faults import Faults


@dataclass(frozen=True)
class Descriptor:
    """*paths*: where the tables are that the package lists."""

    client: ClientFacts
    paths: Mapping[str, str]


class _Reader:
    """Reads the members of a JSON object, noting each fault at its place."""

    def __init__(self, faults: Faults) -> None:
        self._faults = faults

    def wrong(self, place: str, what: str) -> None:
        self._faults.add(DESCRIPTOR, 1, place, what)

    def member(self, found: Any, place: str, name: str) -> Mapping[str, Any]:
        value = found.get(name) if isinstance(found, dict) else None
        if isinstance(value, dict):
            return value
        self.wrong(f"{place}{name}", "is missing: an object is needed here")
        return {}

    def text(self, found: Mapping[str, Any], place: str, name: str) -> str:
        value = found.get(name)
        if isinstance(value, str) and value.strip():
            return value
        self.wrong(f"{place}.{name}", "is missing: text is needed here")
        return ""

    def day(self, found: Mapping[str, Any], place: str, name: str) -> date | None:
        return self._parsed(found, place, name, DAY.read)  # type: ignore[no-any-return]

    def time(self, found: Mapping[str, Any], place: str, name: str) -> datetime | None:
        return self._parsed(found, place, name, TIME.read)  # type: ignore[no-any-return]

    def amount(
        self, found: Mapping[str, Any], place: str, name: str, currency: Currency
    ) -> int | None:
        return self._parsed(found, place, name, currency.parse)  # type: ignore[no-any-return]

    def _parsed(self, found: Mapping[str, Any], place: str, name: str, read: Any) -> Any:
        value = found.get(name)
        if value is None:
            return None
        try:
            if not isinstance(value, str):
                raise BadCell(f"{value!r} must be written as text, in quotes")
            return read(value)
        except (BadCell, NotAnAmount) as bad:
            self.wrong(f"{place}.{name}", str(bad))
            return None


LARGEST_DESCRIPTOR = 1024 * 1024


def read_descriptor(content: bytes, faults: Faults) -> Descriptor | None:
    """What the descriptor says; None where it can't be used. Faults are noted, not raised."""
    reader = _Reader(faults)
    if len(content) > LARGEST_DESCRIPTOR:
        reader.wrong("-", "is over 1 MB: it says who the client is, and lists the tables")
        return None
    try:
        package = json.loads(content.decode("utf-8-sig"))
    except UnicodeDecodeError:
        reader.wrong("-", "is not UTF-8: save it as UTF-8")
        return None
    except RecursionError:
        reader.wrong("-", "is nested too deeply")
        return None
    except json.JSONDecodeError as bad:
        faults.add(DESCRIPTOR, bad.lineno, f"{bad.colno}", f"is not JSON: {bad.msg}")
        return None
    before = faults.count
    books = reader.member(package, "", "books")
    if books and books.get("format") != 1:
        reader.wrong("books.format", f"{books.get('format')!r} is not known here: write 1")
    facts = _client(reader, books, reader.member(books, "books.", "client"))
    paths = _paths(reader, package)
    return Descriptor(facts, paths) if facts and faults.count == before else None


def _client(
    reader: _Reader, books: Mapping[str, Any], client: Mapping[str, Any]
) -> ClientFacts | None:
    if not client:
        return None
    place = "books.client"
    code = reader.text(client, place, "code")
    if code and not (code.isascii() and code.replace("-", "").isalnum() and len(code) <= 20):
        reader.wrong(f"{place}.code", f"{code!r} is not a code: up to 20 letters and digits")
    name = reader.text(client, place, "name")
    currency = Currency(reader.text(client, place, "currency"))
    if currency.code and not (
        len(currency.code) == 3 and currency.code.isascii() and currency.code.isupper()
    ):
        reader.wrong(f"{place}.currency", f"{currency.code!r} is no currency: three capitals")
    entity = _entity(reader, client)
    year_end = _year_end(reader, reader.text(client, place, "year_end"))
    registered = client.get("tax_registered", False)
    if not isinstance(registered, bool):
        reader.wrong(f"{place}.tax_registered", "is neither true nor false")
    if entity is None or year_end is None:
        return None
    limits = books.get("limits") or {}
    if not isinstance(limits, dict):
        reader.wrong("books.limits", "must be an object")
        limits = {}
    return ClientFacts(
        code=code,
        name=name,
        entity=entity,
        currency=currency,
        year_end=year_end,
        tax_registered=registered,
        books_from=reader.day(books, "books", "books_from"),
        books_to=reader.day(books, "books", "books_to"),
        filed_through=reader.day(books, "books", "filed_through"),
        filed_on=reader.time(books, "books", "filed_on"),
        tax_returned_through=reader.day(books, "books", "tax_returned_through"),
        materiality=reader.amount(limits, "books.limits", "materiality", currency),
        capital_item=reader.amount(limits, "books.limits", "capital_item", currency),
        years=_years(reader, books.get("years")),
    )


def _entity(reader: _Reader, client: Mapping[str, Any]) -> Entity | None:
    try:
        return Entity(str(client.get("entity")))
    except ValueError:
        known = ", ".join(Entity)
        found = client.get("entity")
        reader.wrong("books.client.entity", f"{found!r} is not known here: write one of {known}")
        return None


def _year_end(reader: _Reader, text: str) -> tuple[int, int] | None:
    try:
        if len(text) != 5 or text[2] != "-":
            raise ValueError
        return parse_year_end(text)
    except ValueError:
        if text:
            reader.wrong("books.client.year_end", f"{text!r} is no month and day: write 12-31")
        return None


def _years(reader: _Reader, found: Any) -> tuple[FinancialYear, ...]:
    if found is None:
        return ()
    if not isinstance(found, list) or not all(isinstance(year, dict) for year in found):
        reader.wrong("books.years", "must be a list of objects")
        return ()
    years = []
    for number, year in enumerate(found):
        place = f"books.years[{number}]"
        label = reader.text(year, place, "label")
        first_day, last_day = reader.day(year, place, "from"), reader.day(year, place, "to")
        due = reader.day(year, place, "due")
        if first_day is None or last_day is None or last_day < first_day:
            reader.wrong(place, "needs `from` and `to`, the first day and the last")
        else:
            years.append(FinancialYear(label, first_day, last_day, due))
    years.sort(key=lambda year: year.first_day)
    for earlier, other in pairwise(years):
        if earlier.last_day + ONE_DAY != other.first_day:
            reader.wrong(
                "books.years",
                f"{other.label} begins on {other.first_day}, but {earlier.label} ends on "
                f"{earlier.last_day}: years follow each other day by day",
            )
    return tuple(years)


def _paths(reader: _Reader, package: Any) -> dict[str, str]:
    paths = {}
    resources = package.get("resources", []) if isinstance(package, dict) else []
    for number, resource in enumerate(resources if isinstance(resources, list) else []):
        name = resource.get("name") if isinstance(resource, dict) else None
        path = resource.get("path") if isinstance(resource, dict) else None
        if isinstance(name, str) and isinstance(path, str):
            try:
                paths[name] = inner_path(path)
            except BadCell as bad:
                reader.wrong(f"resources[{number}].path", str(bad))
        else:
            reader.wrong(f"resources[{number}]", "needs a name and one path, as text")
    return paths
