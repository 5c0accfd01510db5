"""Accounts closed to entries, and those whose lines need a dimension (handbook, section 4)."""

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from corkpost.core.books import Books, Line
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.row_kinds import account_marks, standing
from corkpost.core.row_kinds.account_marks import AccountMarks

INACTIVE = "inactive"
NO_JOURNALS = "no-journals"
NEEDS = "needs:"


class MarkAccount(NamedTuple):
    account: str
    marks: tuple[str, ...]


def marks_of(books: Books) -> Mapping[str, tuple[str, ...]]:
    """The marks of each account that has some."""
    found: Mapping[str, tuple[str, ...]] | None = books.derived.get("account marks")
    if found is None:
        found = {row.account: row.marks for row in standing(account_marks.KIND, books)}
        books.derived["account marks"] = found
    return found


def mark_faults(books: Books, line: Line) -> Iterator[str]:
    """Why an entry may not have the line, by the marks of its account."""
    marks = marks_of(books).get(line.account, ())
    if not marks:
        return
    name = books.accounts[line.account].name
    if INACTIVE in marks:
        yield f"{name} is not used any more: choose another account, or make it active on the Books page."
    if NO_JOURNALS in marks:
        yield f"{name} is closed to journals: it moves by its documents alone."
    kept = {pair.partition("=")[0] for pair in (line.dimensions or "").split(";")}
    for mark in marks:
        if mark.startswith(NEEDS) and mark.removeprefix(NEEDS) not in kept:
            yield f"{name} needs a {mark.removeprefix(NEEDS)} on each line: say which."


def plan_mark_account(books: Books, act: MarkAccount) -> Plan:
    """Raises UnknownName, BadEntry or NothingToDo."""
    account = books.account(act.account)
    dimensions = {row.dimension for row in books.tables.dimensions}
    faults = [
        f"{mark!r} is no mark of an account."
        for mark in act.marks
        if mark not in (INACTIVE, NO_JOURNALS)
        and not (mark.startswith(NEEDS) and mark.removeprefix(NEEDS) in dimensions)
    ]
    if faults:
        raise BadEntry(faults)
    marks = tuple(sorted(set(act.marks)))
    if marks_of(books).get(account.code, ()) == marks:
        raise NothingToDo(f"{account.name} is marked so already.")
    words = ", ".join(mark.replace("-", " ").replace(":", " a ") for mark in marks)
    return Plan(
        kind=ChangeKind.ENTRY,
        route="mark-account",
        entries=(),
        allocations=(),
        more={"account_marks": (AccountMarks(account.code, marks),)},
        proposed_reason=f"{account.code} {account.name}: {words or 'open to entries again'}.",
    )
