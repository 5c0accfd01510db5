"""A stand-in payroll bureau: issues the next month's summary after the last that it gave, in the columns in
which a bureau's file is taken in."""

import csv
import io
from collections.abc import Iterable

from corkpost.core.books import PayrollMonth
from corkpost.core.money import Currency
from corkpost.formats.registers import PAYROLL_SUMS

COLUMNS = ("month", "employee_group", *PAYROLL_SUMS)


def next_month_after(month: str) -> str:
    """`2026-10` after `2026-09`."""
    year, number = map(int, month.split("-"))
    return f"{year + number // 12}-{number % 12 + 1:02}"


def issue(given: Iterable[PayrollMonth], currency: Currency) -> str:
    """The file of the month after the last in *given*: the same people at the same pay, group by group.
    Raises ValueError where nothing was given."""
    rows = list(given)
    last = max(row.month for row in rows)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for row in rows:
        if row.month == last:
            sums = (currency.format(getattr(row, name) or 0) for name in PAYROLL_SUMS)
            writer.writerow((next_month_after(last), row.employee_group or "", *sums))
    return out.getvalue()
