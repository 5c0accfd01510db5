"""The pack as a workbook: one sheet a part, with sums that stay alive."""

from datetime import datetime
from io import BytesIO

import xlsxwriter
from xlsxwriter.utility import xl_rowcol_to_cell

from corkpost.formats.pack import Pack, Part

FORMAT = "#,##0.00;(#,##0.00);0.00"
MADE = datetime(2000, 1, 1)
"""Workbooks state no time of their own, so that the same figures make the same bytes."""


def pack_xlsx(pack: Pack) -> bytes:
    """Text is written as text, so that no cell becomes a formula; amounts as numbers."""
    made = BytesIO()
    options = {"strings_to_formulas": False, "strings_to_urls": False, "strings_to_numbers": False}
    with xlsxwriter.Workbook(made, {"in_memory": True, **options}) as book:
        book.set_properties({"title": f"{pack.name}, {pack.as_at}", "created": MADE})
        looks = {
            "text": book.add_format({"text_wrap": True, "valign": "top"}),
            "figure": book.add_format({"num_format": FORMAT, "valign": "top"}),
            "head": book.add_format({"bold": True, "bottom": 1}),
            "head figure": book.add_format({"bold": True, "bottom": 1, "align": "right"}),
            "sum": book.add_format({"bold": True, "top": 1, "num_format": FORMAT}),
        }
        for part in pack.parts:
            _sheet(book, pack, part, looks)
    return made.getvalue()


def _sheet(book: xlsxwriter.Workbook, pack: Pack, part: Part, looks: dict[str, object]) -> None:
    sheet = book.add_worksheet(part.title[:31].replace("/", " "))
    sheet.write_string(0, 0, f"{pack.name}: {part.title}, as at {pack.as_at.isoformat()}")
    first = 2
    unit = 10**pack.currency.places
    for place, column in enumerate(part.columns):
        sheet.write_string(
            first, place, column.name, looks["head figure" if column.figure else "head"]
        )
        sheet.set_column(place, place, 15 if column.figure else min(60, 12 * column.wide))
    for row, cells in enumerate(part.rows, first + 1):
        for place, cell in enumerate(cells):
            if isinstance(cell, int):
                sheet.write_number(row, place, cell / unit, looks["figure"])
            elif cell:
                sheet.write_string(row, place, cell, looks["text"])
    if part.summed and part.rows:
        last = first + len(part.rows)
        for place, column in enumerate(part.columns):
            if column.figure:
                top, end = (xl_rowcol_to_cell(at, place) for at in (first + 1, last))
                total = part.sums[place]
                value = total / unit if isinstance(total, int) else 0
                sheet.write_formula(last + 1, place, f"=SUM({top}:{end})", looks["sum"], value)
    sheet.freeze_panes(first + 1, 0)
    sheet.set_landscape()
    sheet.set_paper(9)
    sheet.fit_to_pages(1, 0)
    sheet.repeat_rows(first)
