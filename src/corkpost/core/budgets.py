"""Budgets: figures by account and month, set beside what came (handbook, section 9)."""

from collections import defaultdict
from collections.abc import Mapping
from datetime import date
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.money import Minor, rounded
from corkpost.core.periods import month_end
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.row_kinds import budgets, standing
from corkpost.core.row_kinds.budgets import BudgetFigure

USUAL = "budget"


class SetBudget(NamedTuple):
    """Figures of a set; one of an account and month that is there already takes its place."""

    figures: tuple[BudgetFigure, ...]


def budget_of(books: Books, first: date, last: date, plan: str = USUAL) -> Mapping[str, Minor]:
    """What each account was meant to come to from *first* to *last*, debit positive; of a month that is
    not whole, its days' part."""
    found: dict[str, Minor] = defaultdict(int)
    for row in standing(budgets.KIND, books):
        if row.plan != plan:
            continue
        year, month = map(int, row.month.split("-"))
        begins, ends = date(year, month, 1), month_end(year, month, 31)
        days = (min(ends, last) - max(begins, first)).days + 1
        if days > 0:
            found[row.account] += rounded(_part(row.amount, days, (ends - begins).days + 1))
    return found


def _part(amount: Minor, days: int, of: int) -> Fraction:
    return Fraction(amount * days, of)


def plans_of(books: Books) -> tuple[str, ...]:
    """The names of the sets that there are."""
    return tuple(dict.fromkeys(row.plan for row in standing(budgets.KIND, books)))


def plan_set_budget(books: Books, wanted: SetBudget) -> Plan:
    """Raises BadEntry with every fault, or NothingToDo."""
    faults = []
    for row in wanted.figures:
        account = books.accounts.get(row.account)
        if account is None:
            faults.append(f"{row.month}: there is no account {row.account!r} in the chart.")
        elif not account.is_profit_and_loss:
            faults.append(f"{row.account} {account.name} is no income or cost.")
    if faults:
        raise BadEntry(list(dict.fromkeys(faults))[:100])
    known = {row[:3]: row.amount for row in standing(budgets.KIND, books)}
    latest = {row[:3]: row for row in wanted.figures}
    rows = tuple(row for key, row in latest.items() if known.get(key, 0) != row.amount)
    if not rows:
        raise NothingToDo("The budget is just so already.")
    months = sorted({row.month for row in rows})
    return Plan(
        kind=ChangeKind.ENTRY,
        route="set-budget",
        entries=(),
        allocations=(),
        more={"budgets": rows},
        proposed_reason=f"Budget of {months[0]} to {months[-1]}, {len(rows)} of its figures.",
    )
