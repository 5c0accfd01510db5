"""A payroll bureau's summary that was taken in from its file, beside those that came with the books."""

from typing import NamedTuple

from corkpost.core.money import Minor
from corkpost.core.row_kinds import register_kind


class BureauMonth(NamedTuple):
    """As `PayrollMonth`; sums positive."""

    month: str
    employee_group: str | None
    gross: Minor
    employer_contributions: Minor
    net_pay: Minor
    income_tax: Minor
    employee_contributions: Minor
    other_deductions: Minor
    stands: bool = True
    change: int | None = None


KIND = register_kind(
    "bureau_months",
    20,
    BureauMonth,
    key=lambda row: [row.month, row.employee_group],
    readers={},
)
