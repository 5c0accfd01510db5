"""Other groupings of accounts, for other readers than the practice."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.kinds import AccountRole
from corkpost.core.refusals import BadEntry, NothingToDo, UnknownName
from corkpost.core.row_kinds import arrangements, standing
from corkpost.core.row_kinds.arrangements import Arrangement, Group

OTHERS = "What no group names"


class Arrange(NamedTuple):
    arrangement: Arrangement


def arrangements_of(books: Books) -> tuple[Arrangement, ...]:
    """The groupings that the client has, by name."""
    return tuple(sorted(standing(arrangements.KIND, books)))


def arrangement_named(books: Books, name: str) -> Arrangement:
    """The grouping of that name. Raises UnknownName."""
    found = next((row for row in arrangements_of(books) if row.name == name), None)
    if found is None:
        raise UnknownName("arrangement", name)
    return found


def arranged(
    books: Books, wanted: Arrangement, codes: Iterable[str]
) -> Iterator[tuple[str, list[str]]]:
    """Each heading with those of *codes* that it takes, in their order; the rest last. None is lost and
    none stands twice."""
    left = list(codes)
    for group in wanted.groups:
        own = [code for code in left if _picks(books, group, code)]
        left = [code for code in left if code not in own]
        if own:
            yield group.heading, own
    if left:
        yield OTHERS, left


def _picks(books: Books, group: Group, code: str) -> bool:
    account = books.accounts.get(code)
    return code in group.picks or (account is not None and account.role in group.picks)


def plan_arrange(books: Books, act: Arrange) -> Plan:
    """Raises BadEntry for picks that name nothing, or NothingToDo."""
    wanted = act.arrangement
    roles = {role.value for role in AccountRole if role}
    faults = [
        f"{group.heading}: {pick!r} is neither an account nor a role."
        for group in wanted.groups
        for pick in group.picks
        if pick not in books.accounts and pick not in roles
    ]
    if not wanted.name.strip() or not wanted.groups:
        faults.append("An arrangement has a name, and at least one group.")
    if faults:
        raise BadEntry(faults)
    if wanted in (row._replace(change=None) for row in arrangements_of(books)):
        raise NothingToDo(f"{wanted.name} is arranged so already.")
    return Plan(
        kind=ChangeKind.ENTRY,
        route="arrange-accounts",
        entries=(),
        allocations=(),
        more={"arrangements": (wanted,)},
        proposed_reason=f"Accounts arranged as {wanted.name}.",
    )
