"""Lasting ids: what is posted is numbered in series of its own per client and year."""

import re
from dataclasses import replace

from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.kinds import EntryKind

SERIES = {
    EntryKind.CORRECTING: "C",
    EntryKind.ADJUSTING: "A",
    EntryKind.REVERSING: "R",
    EntryKind.RECLASSIFYING: "K",
    EntryKind.CLOSING: "Z",
}


def numbered(books: Books, plan: Plan, next_number: int) -> tuple[Plan, dict[str, str]]:
    """The plan with lasting ids, entries in their own series per client and year; and the lasting ids
    by those of the plan, groups' too."""
    names: dict[str, str] = {}
    used = set(books.transactions)
    for entry in plan.entries:
        series = SERIES[entry.entry_kind or EntryKind.CORRECTING]
        prefix = f"{series}-{books.calendar.year_of(entry.posting_date).label}-"
        name = f"{prefix}{_last_number(used, prefix) + 1}"
        names[entry.id] = name
        used.add(name)
    entries = tuple(
        entry._replace(id=names[entry.id], reverses=_named(names, entry.reverses))
        for entry in plan.entries
    )
    allocations = tuple(
        row._replace(
            id=f"AL-{next_number}-{place}",
            debit_transaction=_named(names, row.debit_transaction) or "",
            credit_transaction=_named(names, row.credit_transaction) or "",
        )
        for place, row in enumerate(plan.allocations, 1)
    )
    groups = dict.fromkeys(row.group for row in plan.agreements if row.group.startswith("new-"))
    for place, name in enumerate(groups, 1):
        names[name] = f"G-{next_number}-{place}"
    return replace(plan, entries=entries, allocations=allocations), names


def _named(names: dict[str, str], name: str | None) -> str | None:
    return names.get(name, name) if name is not None else None


def _last_number(used: set[str], prefix: str) -> int:
    pattern = re.compile(re.escape(prefix) + r"(\d+)")
    return max((int(m[1]) for name in used if (m := pattern.fullmatch(name))), default=0)
