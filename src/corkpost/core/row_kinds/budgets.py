"""A figure set beside the actual: what an account was meant to come to in a month. Never in a balance."""

from typing import NamedTuple

from corkpost.core.money import Minor
from corkpost.core.row_kinds import register_kind


class BudgetFigure(NamedTuple):
    """*amount*: debit positive. *plan*: the name of the set that it belongs to."""

    plan: str
    account: str
    month: str
    amount: Minor
    stands: bool = True
    change: int | None = None


KIND = register_kind(
    "budgets",
    17,
    BudgetFigure,
    key=lambda row: [row.plan, row.account, row.month],
    readers={},
)
