"""The tables of a page, or of a spreadsheet written as one XML document: programs save both under the name
of a spreadsheet's file."""

import re
from collections.abc import Iterator
from datetime import date, datetime
from decimal import Decimal
from math import isfinite

from lxml import etree, html

from corkpost.formats.statements.parsed import text_of

HEAD = 64 * 1024
SPREADSHEET = "urn:schemas-microsoft-com:office:spreadsheet"
MOST_COLUMNS = 1_000
Value = str | Decimal | date
_DECLARATION = re.compile(r"^\s*<\?xml[^>]*\?>")
_SILENT = ("style", "script", "title", etree.Comment, etree.ProcessingInstruction)
_BREAKS = ("br", "p", "div", "li")


class NotWhole(Exception):
    """The file ends in its midst, or is none of these."""


def is_marked_up(content: bytes) -> bool:
    """Whether it is a page that has a table, or such a spreadsheet, by how it begins."""
    head = content[:HEAD].replace(b"\0", b"").lstrip(b"\xef\xbb\xbf\xff\xfe \r\n\t").lower()
    return head.startswith(b"<") and (b"<table" in head or SPREADSHEET.encode() in head)


def tables_in(content: bytes) -> list[tuple[str, list[list[Value]]]]:
    """The tables by name, a page's without one: what stands around its table is rows of one cell. Raises
    NotWhole."""
    if SPREADSHEET.encode() in content[:HEAD].replace(b"\0", b"").lower():
        return list(_sheets(content))
    return [("", _rows_of_page(content))]


# -- a page


def _rows_of_page(content: bytes) -> list[list[Value]]:
    text = _DECLARATION.sub("", text_of(content).lstrip("\ufeff"))
    if text.lower().count("<table") > text.lower().count("</table"):
        raise NotWhole
    try:
        page = html.document_fromstring(text)
    except (etree.ParserError, ValueError) as wrong:
        raise NotWhole from wrong
    etree.strip_elements(page, *_SILENT, with_tail=False)
    for node in page.iter(*_BREAKS):
        node.text, node.tail = f" {node.text or ''}", f" {node.tail or ''}"
    return list(_rows_below(page, {}))


def _rows_below(node: html.HtmlElement, below: dict[int, int]) -> Iterator[list[Value]]:
    """Rows as they stand, and each text outside of them as a row of one cell."""
    if node.tag == "tr" and node.find(".//tr") is None:
        yield _cells(node, below)
        return
    for part in (node.text, *_children(node, below)):
        if isinstance(part, list):
            yield part
        elif part and (said := " ".join(part.split())):
            yield [said]


def _children(node: html.HtmlElement, below: dict[int, int]) -> Iterator[list[Value] | str | None]:
    for child in node:
        yield from _rows_below(child, below)
        yield child.tail


def _cells(row: html.HtmlElement, below: dict[int, int]) -> list[Value]:
    """The texts of a row, each in its column. *below*: for how many more rows a column is taken up by a
    cell from above."""
    found: list[Value] = []

    def pass_over() -> None:
        while below.get(len(found), 0):
            below[len(found)] -= 1
            found.append("")

    for cell in row:
        if cell.tag not in ("td", "th"):
            continue
        pass_over()
        wide, high = _count(cell.get("colspan")), _count(cell.get("rowspan"))
        for place in range(len(found), len(found) + wide):
            if high > 1:
                below[place] = high - 1
        text = " ".join("".join(cell.itertext()).split())
        found += [text, *[""] * (wide - 1)]
    pass_over()
    return found


def _count(said: str | None) -> int:
    return min(int(said), MOST_COLUMNS) if said and said.isdigit() and int(said) else 1


# -- a spreadsheet in XML


def _sheets(content: bytes) -> Iterator[tuple[str, list[list[Value]]]]:
    parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False)
    try:
        root = etree.fromstring(content, parser)
    except (etree.XMLSyntaxError, ValueError) as wrong:
        raise NotWhole from wrong
    for sheet in root.iter(f"{{{SPREADSHEET}}}Worksheet"):
        rows: list[list[Value]] = []
        for row in sheet.iter(f"{{{SPREADSHEET}}}Row"):
            # Rows and cells that are empty may be left out: the next says its place.
            rows += [[] for _ in range(_gap(row, len(rows)))]
            cells: list[Value] = []
            for cell in row.iterchildren(f"{{{SPREADSHEET}}}Cell"):
                cells += [""] * _gap(cell, len(cells))
                cells.append(_value(cell.find(f"{{{SPREADSHEET}}}Data")))
                cells += [""] * min(
                    int(cell.get(f"{{{SPREADSHEET}}}MergeAcross", "0")), MOST_COLUMNS
                )
            rows.append(cells)
        yield sheet.get(f"{{{SPREADSHEET}}}Name", ""), rows


def _gap(node: etree._Element, place: int) -> int:
    said = node.get(f"{{{SPREADSHEET}}}Index", "")
    gap = int(said) - 1 - place if said.isdigit() else 0
    return gap if 0 <= gap <= MOST_COLUMNS else 0


def _value(data: etree._Element | None) -> Value:
    if data is None:
        return ""
    text = " ".join("".join(data.itertext()).split())
    kind = data.get(f"{{{SPREADSHEET}}}Type")
    try:
        if kind == "Number" and isfinite(number := float(text)):
            return Decimal(repr(round(number, 6)))
        if kind == "DateTime":
            return datetime.fromisoformat(text).date()
    except ValueError:
        return text
    return text
