"""Several points put right at once: one plan with one effect, taken back as one.

Each is planned on the books as those before it leave them, so that sums that only fit together, such as
what is within materiality, are seen.
"""

from collections.abc import Iterable, Iterator
from dataclasses import replace
from typing import Any, NamedTuple

from corkpost.core import checks, row_kinds
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Allocation, Books, PostedChange
from corkpost.core.change import Plan, new_entry
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry, Refusal
from corkpost.core.routes import Option, options_for, plan_route


class PointTogether(NamedTuple):
    """A point with its recommended option; *refused*: why it can't go with the others."""

    point: Point
    option: Option
    reason: str
    refused: str | None


class Together(NamedTuple):
    """*plan*: of all that are not refused; None where none is left."""

    taken: tuple[PointTogether, ...]
    plan: Plan | None


def together(books: Books, points: Iterable[Point]) -> Together:
    """The recommended route of each point, as one plan. Raises BadEntry where they are not of one check."""
    points = tuple(points)
    if len({point.check for point in points}) != 1:
        raise BadEntry(["Choose points of one kind: they are posted with one effect for all."])
    taken: list[PointTogether] = []
    plans: list[Plan] = []
    grown = books
    for point in points:
        option = options_for(grown, point)[0]
        answered = {entry.corrects for made in plans for entry in made.entries}
        try:
            if answered & set(point.transactions):
                raise BadEntry(["Another of these puts it right. Look at it again afterwards."])
            plan = plan_route(grown, point, option.route, option.settings)
            whole = ready(plan, grown)
        except Refusal as refused:
            taken.append(PointTogether(point, option, "", str(refused)))
            continue
        taken.append(PointTogether(point, option, plan.proposed_reason, None))
        # What follows for the bank is added once, when all of it is made ready to be posted.
        plans.append(_renamed(plan, len(plans) + 1))
        grown = _with(grown, _renamed(whole, len(plans)))
    return Together(tuple(taken), _merged(plans, points[0].check) if plans else None)


def _renamed(plan: Plan, number: int) -> Plan:
    """The plan under ids that no other has, as the *number*th; its entries keep their own reason."""
    names = {e.id: f"{new_entry(number)}.{place}" for place, e in enumerate(plan.entries, 1)}
    groups = {
        row.group: f"{new_entry(number)}.{row.group}"
        for row in plan.agreements
        if row.group.startswith("new-")
    }

    def named(name: str | None) -> str | None:
        return names.get(name, name) if name else name

    return replace(
        plan,
        entries=tuple(
            e._replace(id=names[e.id], reverses=named(e.reverses), reason=plan.proposed_reason)
            for e in plan.entries
        ),
        allocations=tuple(
            _renamed_row(row, f"{new_entry(number)}.a{place}", names)
            for place, row in enumerate(plan.allocations, 1)
        ),
        agreements=tuple(
            row._replace(group=groups.get(row.group, row.group), transaction=named(row.transaction))
            for row in plan.agreements
        ),
    )


def _renamed_row(row: Allocation, name: str, names: dict[str, str]) -> Allocation:
    debit, credit = row.debit_transaction, row.credit_transaction
    return row._replace(
        id=name,
        debit_transaction=names.get(debit, debit),
        credit_transaction=names.get(credit, credit),
    )


def _with(books: Books, plan: Plan) -> Books:
    number = max((change.number for change in books.changes), default=0) + 1
    change = PostedChange(number, plan.kind, "", plan.proposed_reason, None, plan.prior_parts)
    grown = books.with_posted(plan.entries, plan.allocations, plan.agreements)
    return grown.followed_by(changes=(*books.changes, change))


def _notes_of(plan: Plan) -> Iterator[str]:
    """The plan's notes, each with what it puts right: of several, one's would be taken for another's."""
    corrected = (entry.corrects for entry in plan.entries if entry.corrects)
    name = next(corrected, next(iter(plan.about), ""))
    yield from (f"{name}: {note}" if name else note for note in plan.notes)


def _rows_of_all(plans: list[Plan]) -> dict[str, Any]:
    """The rows of every kind that the plans bring, by the fields of a plan."""
    kinds = row_kinds.registry().values()
    found = {
        kind: tuple(row for plan in plans for row in plan.of(kind.planned, kind.name))
        for kind in kinds
        if kind.planned or any(kind.name in plan.more for plan in plans)
    }
    fields: dict[str, Any] = {kind.planned: rows for kind, rows in found.items() if kind.planned}
    return {**fields, "more": {k.name: rows for k, rows in found.items() if not k.planned}}


def _merged(plans: list[Plan], check: str) -> Plan:
    first = plans[0]
    if len(plans) == 1:
        return first
    finds = checks.registry()[check].check.finds
    return Plan(
        kind=first.kind,
        entries=tuple(row for plan in plans for row in plan.entries),
        allocations=tuple(row for plan in plans for row in plan.allocations),
        **_rows_of_all(plans),
        accounts=tuple(row for plan in plans for row in plan.accounts),
        parties=tuple(row for plan in plans for row in plan.parties),
        prior_parts=tuple(row for plan in plans for row in plan.prior_parts),
        notes=tuple(dict.fromkeys(row for plan in plans for row in _notes_of(plan))),
        warnings=tuple(dict.fromkeys(row for plan in plans for row in plan.warnings)),
        route=first.route,
        proposed_reason=f"{len(plans)} put right together: {finds}",
        about=tuple(dict.fromkeys(row for plan in plans for row in plan.about)),
    )
