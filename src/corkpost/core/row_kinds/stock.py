"""Stock as it was counted, item by item."""

from datetime import date

from corkpost.core.books import StockItem
from corkpost.core.row_kinds import RowKind

KIND = RowKind(
    "stock",
    4,
    StockItem,
    key=lambda row: [row.date, row.item],
    readers={"date": date.fromisoformat},
)
