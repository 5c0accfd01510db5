"""The bureau's summaries: those that came with the books, and those taken in from its files since."""

from typing import NamedTuple

from corkpost.core.books import Books, PayrollMonth
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.row_kinds import bureau_months, standing
from corkpost.core.row_kinds.bureau_months import BureauMonth


class TakePayroll(NamedTuple):
    """Months of a bureau's file; one that is known takes the place of what was known."""

    months: tuple[BureauMonth, ...]


def payroll_months(books: Books) -> tuple[PayrollMonth, ...]:
    """Every month and group that is known, what was taken in later before what came with the books."""
    found = {(row.month, row.employee_group): row for row in books.tables.payroll}
    for row in standing(bureau_months.KIND, books):
        sums = {name: getattr(row, name) for name in BureauMonth._fields[:-2]}
        found[row.month, row.employee_group] = PayrollMonth(**sums)
    return tuple(found.values())


def plan_take_payroll(books: Books, act: TakePayroll) -> Plan:
    """Raises BadEntry where the columns of a row do not add up, or NothingToDo."""
    words = books.client.currency.format_amount
    faults = []
    for row in act.months:
        deducted = row.income_tax + row.employee_contributions + row.other_deductions
        apart = row.gross - row.net_pay - deducted
        if apart:
            group = f", {row.employee_group}" if row.employee_group else ""
            faults.append(
                f"{row.month}{group}: gross less net pay and deductions leaves {words(apart)} without "
                "a name."
            )
    if faults:
        raise BadEntry(faults[:100])
    known = {(row.month, row.employee_group): row[:8] for row in payroll_months(books)}
    rows = tuple(r for r in act.months if known.get((r.month, r.employee_group)) != r[:8])
    if not rows:
        raise NothingToDo("These months are known just so already.")
    months = ", ".join(sorted({row.month for row in rows}))
    return Plan(
        kind=ChangeKind.ENTRY,
        route="take-payroll",
        entries=(),
        allocations=(),
        more={"bureau_months": rows},
        proposed_reason=f"The payroll bureau's summary of {months}.",
    )
