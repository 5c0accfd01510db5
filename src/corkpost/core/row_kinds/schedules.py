"""A sum that is carried on by steps: what is set aside and released, a loan and its interest."""

from datetime import date
from typing import NamedTuple

from corkpost.core.money import Minor
from corkpost.core.row_kinds import register_kind


class Step(NamedTuple):
    """*amount*: of the entry on that day, positive; *left*: of the sum after it."""

    day: date
    amount: Minor
    left: Minor


class Schedule(NamedTuple):
    """Each step debits *debit* and credits *credit*, or posts the lines of the transaction that it
    *copies*. *recipe*: which made it."""

    schedule: str
    recipe: str
    title: str
    debit: str
    credit: str
    steps: tuple[Step, ...]
    party: str | None = None
    dimensions: str | None = None
    copies: str | None = None
    stands: bool = True
    change: int | None = None


def _steps(rows: list[list[object]]) -> tuple[Step, ...]:
    return tuple(Step(date.fromisoformat(str(day)), amount, left) for day, amount, left in rows)  # type: ignore[arg-type]


KIND = register_kind(
    "schedules",
    14,
    Schedule,
    key=lambda row: [row.schedule],
    readers={"steps": _steps},
    brings=lambda row: [f"schedule {row.schedule}"],
)
