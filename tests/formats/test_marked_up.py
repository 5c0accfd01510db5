"""Pages and spreadsheets in XML that bear the name of a spreadsheet's file."""

from datetime import date
from decimal import Decimal

import pytest

from corkpost.formats.statements.reading import read_statement
from corkpost.formats.workbooks import BadWorkbook, is_workbook, tables_in

PAGE = """\
<?xml version="1.0" encoding="windows-1252"?>
<html><head><title>not said</title><style>td {color: red}</style></head>
<body><h1>Caf\u00e9 Ltd</h1>Journal<br>of April
<table><tr><td><table>
<tr><th rowspan=2>Day</th><th colspan="2">Amount</th></tr>
<tr><th>Debit</th><th>Credit</th></tr>
<tr><td>1/4/2026</td><td>12,00</td><td></td></tr>
<tr><td rowspan=2>2/4/2026</td><td></td><td>7<b>,50</b></td></tr>
<tr><td>1,00</td><td>&nbsp;</td></tr>
</table></td></tr></table></body></html>
"""
SHEET = """\
<?xml version="1.0"?>
<Workbook xmlns="urn:schemas-microsoft-com:office:spreadsheet"
 xmlns:ss="urn:schemas-microsoft-com:office:spreadsheet"><Worksheet ss:Name="April"><Table>
<Row ss:Index="3"><Cell ss:Index="2" ss:MergeAcross="1"><Data ss:Type="String">Day</Data></Cell>
<Cell><Data ss:Type="String">Sum</Data></Cell></Row>
<Row><Cell ss:Index="2"><Data ss:Type="DateTime">2026-04-01T00:00:00.000</Data></Cell><Cell/>
<Cell><Data ss:Type="Number">12.5</Data></Cell><Cell><Data ss:Type="Number">NaN</Data></Cell></Row>
</Table></Worksheet></Workbook>
"""


def test_a_page_s_rows_stand_in_their_columns_below_what_is_over_them():
    ((name, rows),) = tables_in(PAGE.encode("cp1252"))
    assert (name, rows) == (
        "",
        [
            ("Caf\u00e9 Ltd",),
            ("Journal",),
            ("of April",),
            ("Day", "Amount", ""),
            ("", "Debit", "Credit"),
            ("1/4/2026", "12,00", ""),
            ("2/4/2026", "", "7,50"),
            ("", "1,00", ""),
        ],
    )


def test_a_spreadsheet_in_xml_leaves_out_what_is_empty():
    ((name, rows),) = tables_in(SHEET.encode())
    assert (name, rows[:2]) == ("April", [(), ()])
    assert rows[2] == ("", "Day", "", "Sum")
    assert rows[3] == ("", date(2026, 4, 1), "", Decimal("12.5"), "NaN")


@pytest.mark.parametrize("content", [PAGE.encode("cp1252")[:-60], SHEET.encode()[:-30]])
def test_one_that_was_cut_off_is_refused(content):
    assert is_workbook(content)
    with pytest.raises(BadWorkbook, match="cut off"):
        tables_in(content)


def test_what_only_begins_with_a_bracket_is_none():
    assert not is_workbook(b"<Document><BkToCstmrStmt/></Document>")


def test_a_bank_s_page_is_a_statement_like_its_table():
    rows = [
        ("Date", "Text", "Amount", "Balance"),
        ("15.04.2026", "Moss Hall", "12,00", "112,00"),
        ("17.04.2026", "Rent", "-50,00", "62,00"),
        ("21.04.2026", "Quay Estates", "-2,00", "60,00"),
    ]
    table = "\n".join(";".join(row) for row in rows)
    cells = ("".join(f"<td>{cell}</td>" for cell in row) for row in rows)
    page = f"<html><table>{''.join(f'<tr>{row}</tr>' for row in cells)}</table></html>"
    assert read_statement(page.encode()) == read_statement(table.encode())
