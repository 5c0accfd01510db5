"""The worksheet as a spreadsheet, to work on."""

from pathlib import Path

import xlsxwriter

from corkpost.formats.answers import WorksheetAnswer

COLUMNS = (
    ("last_year", "Last year"),
    ("as_received", "As received"),
    ("corrections", "Corrections"),
    ("adjusting", "Adjusting"),
    ("reclassifications", "Reclassifications"),
    ("adjusted", "Adjusted"),
    ("profit_and_loss", "Profit and loss"),
    ("balance_sheet", "Balance sheet"),
)
FORMAT = "#,##0.00;(#,##0.00);"


def write_worksheet(found: WorksheetAnswer, client_name: str, to: Path) -> None:
    """Write it to *to*. Text is written as text, so that no cell becomes a formula."""
    options = {"strings_to_formulas": False, "strings_to_urls": False, "strings_to_numbers": False}
    with xlsxwriter.Workbook(str(to), options) as book:
        sheet = book.add_worksheet("Worksheet")
        figure = book.add_format({"num_format": FORMAT})
        head = book.add_format({"bold": True, "bottom": 1, "align": "right"})
        foot = book.add_format({"bold": True, "top": 1, "num_format": FORMAT})
        sheet.write_string(0, 0, f"{client_name}: worksheet as at {found.as_at.isoformat()}")
        sheet.write_string(1, 0, f"Last year: {found.compared}, at {found.compared_at.isoformat()}")
        sheet.write_string(3, 0, "No.", head)
        sheet.write_string(3, 1, "Account", head)
        for column, (_, title) in enumerate(COLUMNS, 2):
            sheet.write_string(3, column, title, head)
        for row, line in enumerate(found.rows, 4):
            sheet.write_string(row, 0, line.account)
            sheet.write_string(row, 1, line.name)
            for column, (name, _) in enumerate(COLUMNS, 2):
                value = getattr(line, name)
                if value is not None:
                    sheet.write_number(row, column, float(value), figure)
        last = 4 + len(found.rows)
        sheet.write_string(last, 1, "Total", foot)
        for column, (name, _) in enumerate(COLUMNS[:6], 2):
            sheet.write_number(last, column, float(getattr(found.totals, name)), foot)
        sheet.set_column(0, 0, 10)
        sheet.set_column(1, 1, 34)
        sheet.set_column(2, 9, 15)
        sheet.freeze_panes(4, 2)
        sheet.set_landscape()
        sheet.fit_to_pages(1, 0)
