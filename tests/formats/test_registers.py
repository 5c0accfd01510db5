"""Registers as tables: what is written is what was read; faults have their line."""

import pytest

from corkpost.core.refusals import BadEntry
from corkpost.formats.registers import (
    asset_row,
    asset_table,
    budget_table,
    csv_of,
    payroll_table,
    rate_table,
    read_assets,
)
from tests.builders import books_with

ASSETS = b"""asset,account,name,bought,cost,method,life,rate,residual,depreciation,depreciated_to
A1,boats,launch,2026-03-01,12000.00,straight-line,7.5,,500.00,800.00,2026-06-30
A2,0100,car,2025-01-02,9000.00,reducing-balance,,12.5,,,
"""


def test_a_table_of_assets_read_and_written_is_the_same_register():
    books = books_with()
    read = read_assets(asset_table(ASSETS), books)
    assert [(row.account, row.name) for row in read] == [("0100", "launch"), ("0100", "car")]
    written = csv_of(asset_row(row, books).model_dump() for row in read)
    assert read_assets(asset_table(written.encode()), books) == read


@pytest.mark.parametrize(
    ("read", "table", "says"),
    [
        (rate_table, b"date,currency,rate\n2026-13-01,USD,1\n", "line 2"),
        (rate_table, b"date,currency,rate\n2026-01-01,dollars,1\n", "is no code of a currency"),
        (rate_table, b"day,currency\n", "lacks date, rate"),
        (asset_table, b"asset,name\n", "lacks account, bought, cost"),
        (lambda t: budget_table(t, books_with()), "account,2026-1\n5200,3\n", "Its columns are"),
        (lambda t: budget_table(t, books_with()), "account,2026-01\n9999,3\n", "line 2"),
        (lambda t: payroll_table(t, books_with()), "month,gross,net_pay\n2026-3,1,1\n", "no month"),
    ],
)
def test_what_can_not_be_read_is_told_with_its_line_and_what_would_be_right(read, table, says):
    with pytest.raises(BadEntry, match=says):
        read(table)
