"""What the accounts of a listing are: type and role by what the chart says, by name, by the accounts
beside them, by how they move."""

from collections import Counter, defaultdict
from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

from corkpost.core.chart.fitting import fits
from corkpost.core.intake.entries import Entry
from corkpost.core.intake.raw import AccountRow
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.money import Minor

ByName = Callable[[str], tuple[AccountType, AccountRole, str] | None]
BLOCK = 2
"""So many accounts on each side, in the order of codes, that are of one type speak for one between."""
ONE_ALONE = frozenset(
    {AccountRole.RECEIVABLES, AccountRole.PAYABLES, AccountRole.RETAINED_EARNINGS}
)


class Kind(NamedTuple):
    """*why*: what speaks for it; empty where the chart itself says the type. *guessed*: nobody has said
    it, and a person should look."""

    type: AccountType
    role: AccountRole
    why: str
    guessed: bool


def kinds_of(
    accounts: Mapping[str, AccountRow],
    entries: Sequence[Entry],
    balances: Mapping[str, Minor],
    by_name: ByName,
) -> dict[str, Kind]:
    """Type and role of each account. *balances*: what each holds in the end."""
    found: dict[str, Kind] = {}
    for code, row in accounts.items():
        named = by_name(row.name)
        if row.said is not None:
            role = named[1] if named and fits(named[1], row.said) else AccountRole.ORDINARY
            why = f"its name says “{named[2]}”" if named and role else ""
            found[code] = Kind(row.said, role, why, bool(role))
        elif named:
            found[code] = Kind(named[0], named[1], f"its name says “{named[2]}”", True)
    for code in accounts.keys() - found.keys():
        found[code] = _unnamed(code, accounts, found, entries, balances)
    return _one_of_each({code: found[code] for code in accounts}, entries)


def _unnamed(
    code: str,
    accounts: Mapping[str, AccountRow],
    known: Mapping[str, Kind],
    entries: Sequence[Entry],
    balances: Mapping[str, Minor],
) -> Kind:
    by_neighbours = _beside(code, accounts, known)
    held = balances.get(code, 0)
    if by_neighbours is not None and not (by_neighbours is AccountType.INCOME and held > 0):
        why = "the accounts beside it are of that type"
        return Kind(by_neighbours, AccountRole.ORDINARY, why, True)
    if held > 0:
        return Kind(AccountType.EXPENSE, AccountRole.ORDINARY, "it holds a debit", True)
    return Kind(AccountType.LIABILITY, AccountRole.ORDINARY, "it holds a credit", True)


def _beside(
    code: str, accounts: Mapping[str, AccountRow], known: Mapping[str, Kind]
) -> AccountType | None:
    """The type of the accounts before and after it in the order of codes, where they are of one; else of
    most that begin with the same figure."""
    if not code[:1].isdigit():
        return None
    order = sorted((c for c in accounts if c[:1].isdigit() and (c in known or c == code)), key=str)
    place = order.index(code)
    before = [known[c].type for c in order[max(0, place - BLOCK) : place]]
    after = [known[c].type for c in order[place + 1 : place + 1 + BLOCK]]
    if before and after and len({*before, *after}) == 1:
        return before[0]
    same = Counter(known[c].type for c in order if c != code and c[0] == code[0])
    ranked = same.most_common(2)
    if ranked and (len(ranked) == 1 or ranked[0][1] > 2 * ranked[1][1]):
        return ranked[0][0]
    return before[-1] if before else (after[0] if after else None)


def _one_of_each(found: dict[str, Kind], entries: Sequence[Entry]) -> dict[str, Kind]:
    """Of accounts with a role that one alone may have by its name, the one that moves most keeps it."""
    moves: Counter[str] = Counter(row.account for entry in entries for row in entry.rows)
    by_role: dict[AccountRole, list[str]] = defaultdict(list)
    for code, kind in found.items():
        if kind.role in ONE_ALONE and kind.guessed:
            by_role[kind.role].append(code)
    for codes in by_role.values():
        for code in sorted(codes, key=lambda code: -moves[code])[1:]:
            found[code] = found[code]._replace(role=AccountRole.ORDINARY)
    return found
