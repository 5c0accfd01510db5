"""The payroll bureau's summaries, month by month."""

from corkpost.core.books import PayrollMonth
from corkpost.core.row_kinds import RowKind

KIND = RowKind("payroll", 5, PayrollMonth, key=lambda row: [row.month, row.employee_group])
