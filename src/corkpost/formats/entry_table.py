"""The accountant's entries as a table, in the columns that the recipe *entries from a table* reads."""

import csv
import io
from collections.abc import Iterable

from corkpost.core.books import Books, Transaction
from corkpost.core.cells import plain_cell
from corkpost.core.recipes.entry_table import COLUMNS


def entry_rows(books: Books, entries: Iterable[Transaction]) -> str:
    """CSV, a row a line; an entry and its mirror are one, with the day that it reverses on."""
    entries = list(entries)
    ids = {posted.id for posted in entries}
    money = books.client.currency.format
    mirrors = {posted.reverses: posted for posted in entries if posted.reverses}
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\r\n")
    writer.writeheader()
    for posted in entries:
        if posted.reverses in ids:
            continue
        mirror = mirrors.get(posted.id)
        for line in posted.lines:
            writer.writerow(
                {
                    "entry": posted.id,
                    "kind": posted.entry_kind or "",
                    "date": posted.posting_date.isoformat(),
                    "reverse_on": mirror.posting_date.isoformat() if mirror else "",
                    "reference": plain_cell(posted.reference or ""),
                    "reason": plain_cell(posted.reason or posted.memo or ""),
                    "account": line.account,
                    "party": plain_cell(line.party or ""),
                    "debit": money(line.amount) if line.amount > 0 else "",
                    "credit": money(-line.amount) if line.amount < 0 else "",
                    "tax_code": line.tax_code or "",
                    "tax": "",
                    "text": plain_cell(line.description or ""),
                    "dimensions": plain_cell(line.dimensions or ""),
                }
            )
    return out.getvalue()
