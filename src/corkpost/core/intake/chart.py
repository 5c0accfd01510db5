"""What the accounts of a listing are: type and role by what the chart says, by name, by the accounts
beside them, by how they move."""

from collections import Counter, defaultdict
from collections.abc import Callable, Iterator, Mapping, Sequence, Set
from typing import NamedTuple

from corkpost.core.chart.fitting import fits
from corkpost.core.chart.trade_words import Named
from corkpost.core.intake.entries import Entry
from corkpost.core.intake.raw import AccountRow
from corkpost.core.intake.structure import TYPES, WHY, by_structure
from corkpost.core.kinds import MONEY_ROLES, PROFIT_AND_LOSS, AccountRole, AccountType
from corkpost.core.money import Minor

ByName = Callable[[str], Named | None]
BLOCK = 2
"""So many accounts on each side, in the order of codes, that are of one type speak for one between."""
MOSTLY = 4
"""So many times more often an account has to stand on one side than on the other."""
CHARGED = {
    AccountRole.RECEIVABLES: AccountType.INCOME,
    AccountRole.PAYABLES: AccountType.EXPENSE,
}
MAY_BE_MONEY = frozenset({AccountType.ASSET, AccountType.LIABILITY})
LEAST_MONTHS = 3
OFTEN = 5
"""So many payments and receipts show which account is the bank, where they are a quarter of all."""
NEARLY_ALL = 0.9
FEW_OF = 4
"""Of so many accounts of income and costs at most one begins a year with a balance, if any lasts."""
OTHER_SIDE = {
    AccountType.EXPENSE: ("credit", AccountType.INCOME),
    AccountType.INCOME: ("debit", AccountType.EXPENSE),
}
"""What income and costs are that nearly always stand on the side where such accounts do not."""
WRITTEN_DOWN = {
    AccountRole.DEPRECIATION: ("credit", AccountType.ASSET, AccountRole.ACCUMULATED_DEPRECIATION),
    AccountRole.ACCUMULATED_DEPRECIATION: ("debit", AccountType.EXPENSE, AccountRole.DEPRECIATION),
}
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
    opened: Mapping[str, Minor],
) -> dict[str, Kind]:
    """Type and role of each account. *balances*: what each holds in the end; *opened*: what each that held
    something before the first day held then."""
    found: dict[str, Kind] = {}
    for code, row in accounts.items():
        named = by_name(row.name)
        if row.said is not None:
            role = named.role if named and fits(named.role, row.said) else AccountRole.ORDINARY
            why = named.why if named and role else ""
            found[code] = Kind(row.said, role, why, bool(role))
        elif named:
            found[code] = Kind(named.type, named.role, named.why, True)
    by_name_alone = {code: found[code] for code in found if accounts[code].said is None}
    found |= _lasting(by_name_alone, opened)
    found |= _against_their_names({code: found[code] for code in by_name_alone}, entries, balances)
    found |= _by_structure(entries, found)
    for code in _money_by_use(entries, found):
        found[code] = Kind(
            AccountType.ASSET,
            AccountRole.BANK,
            "customers pay into it, and it pays suppliers",
            True,
        )
    found |= _owed_by_wages(entries, found)
    earned = _always_credited(entries)
    moved = _moved_with(entries, found)
    # At the beginning of a year income and costs are empty: what held something then lasts.
    fresh = not any(found[code].type in PROFIT_AND_LOSS for code in opened if code in found)
    for code in sorted(accounts.keys() - found.keys()):
        if fresh and opened.get(code):
            kind = AccountType.ASSET if opened[code] > 0 else AccountType.LIABILITY
            found[code] = Kind(
                kind, AccountRole.ORDINARY, "it held something at the beginning", True
            )
        else:
            found[code] = _unnamed(code, accounts, found, moved, balances, earned)
    return _one_of_each({code: found[code] for code in accounts}, entries)


def _by_structure(entries: Sequence[Entry], known: Mapping[str, Kind]) -> dict[str, Kind]:
    """What the entries show of accounts that nothing names, where what is named does not say otherwise: of
    the bank and what is owed, which are shown together, all have to fit."""
    shown = dict(by_structure(entries))
    there = {kind.role for kind in known.values()}
    against = {code for code, role in shown.items() if code in known and known[code].role != role}
    if any(shown[code] is not AccountRole.TAX for code in against):
        shown = {code: role for code, role in shown.items() if role is AccountRole.TAX}
    return {
        code: Kind(TYPES[role], role, WHY[role], True)
        for code, role in shown.items()
        if code not in known and role not in there
    }


def _lasting(named: Mapping[str, Kind], opened: Mapping[str, Minor]) -> Iterator[tuple[str, Kind]]:
    """What names have as income or costs, and held something at the beginning, where the others did not:
    `tools` that were bought to last."""
    passing = {code for code, kind in named.items() if kind.type in PROFIT_AND_LOSS}
    held = [code for code in passing if opened.get(code)]
    if FEW_OF * len(held) > len(passing):
        return
    for code in held:
        type_ = AccountType.ASSET if opened[code] > 0 else AccountType.LIABILITY
        role = AccountRole.ORDINARY
        if named[code].role is AccountRole.DEPRECIATION and opened[code] < 0:
            # What was written off in years before makes the asset less.
            type_, role = AccountType.ASSET, AccountRole.ACCUMULATED_DEPRECIATION
        yield code, Kind(type_, role, "it held something at the beginning", True)


def _times(entries: Sequence[Entry]) -> tuple[Counter[str], Counter[str]]:
    """How often each account moves, and how often it is credited."""
    times: Counter[str] = Counter()
    credited: Counter[str] = Counter()
    for entry in entries:
        for row in entry.rows:
            times[row.account] += 1
            credited[row.account] += row.amount < 0
    return times, credited


def _always_credited(entries: Sequence[Entry]) -> set[str]:
    """The accounts that are credited again and again, and hardly ever debited: what is owed is paid some
    day."""
    times, credited = _times(entries)
    return {
        code
        for code, often in times.items()
        if often >= LEAST_MONTHS and credited[code] >= NEARLY_ALL * often
    }


def _against_their_names(
    named: Mapping[str, Kind], entries: Sequence[Entry], balances: Mapping[str, Minor]
) -> Iterator[tuple[str, Kind]]:
    """Accounts that nearly always stand on the side where their name would not have them: `hire` is a cost
    to most, and what some live on. Of trial balances alone, what they hold says it."""
    times, credited = _times(entries)
    for code, kind in named.items():
        if kind.role in WRITTEN_DOWN:
            side, type_, role = WRITTEN_DOWN[kind.role]
        elif kind.type in OTHER_SIDE:
            (side, type_), role = OTHER_SIDE[kind.type], AccountRole.ORDINARY
        else:
            continue
        against = times[code] - credited[code] if side == "debit" else credited[code]
        held = balances.get(code, 0) if side == "debit" else -balances.get(code, 0)
        often = times[code] >= LEAST_MONTHS and against >= NEARLY_ALL * times[code]
        if often or (not entries and held > 0):
            yield code, Kind(type_, role, f"it stands on the {side} side, whatever its name", True)


def _money_by_use(entries: Sequence[Entry], known: Mapping[str, Kind]) -> list[str]:
    """The accounts without a role from which suppliers are paid and into which customers pay, where no
    account that is known as money does so: no client is without one."""
    used: Counter[str] = Counter()
    settling = 0
    for entry in entries:
        roles = {known[row.account].role for row in entry.rows if row.account in known}
        if len(entry.rows) != 2 or len(roles & CHARGED.keys()) != 1:
            continue
        one, other = sorted(entry.rows, key=lambda row: _role(known, row.account) in CHARGED)
        paid = _role(known, other.account) is AccountRole.PAYABLES
        if (other.amount > 0) is not paid:
            continue
        settling += 1
        kind = known.get(one.account)
        if kind is None or (kind.role is AccountRole.ORDINARY and kind.type in MAY_BE_MONEY):
            used[one.account] += 1
    return [code for code, times in used.items() if times >= OFTEN and times * MOSTLY >= settling]


def _owed_by_wages(entries: Sequence[Entry], known: Mapping[str, Kind]) -> dict[str, Kind]:
    """The unnamed accounts that the entries of wages credit: what pay is owed on, which is the most, and
    its taxes."""
    credited: Counter[str] = Counter()
    times: Counter[str] = Counter()
    for entry in entries:
        roles = {_role(known, row.account) for row in entry.rows}
        if AccountRole.WAGES not in roles or roles & MONEY_ROLES:
            continue
        for row in entry.rows:
            if row.amount < 0 and row.account not in known:
                credited[row.account] -= row.amount
                times[row.account] += 1
    often = [code for code, _ in credited.most_common() if times[code] >= LEAST_MONTHS]
    why = "the entries of wages credit it"
    return {
        code: Kind(
            AccountType.LIABILITY,
            AccountRole.PAYROLL_TAX if place else AccountRole.PAYROLL_NET,
            why,
            True,
        )
        for place, code in enumerate(often)
    }


def _role(known: Mapping[str, Kind], code: str) -> AccountRole:
    return known[code].role if code in known else AccountRole.ORDINARY


def _unnamed(
    code: str,
    accounts: Mapping[str, AccountRow],
    known: Mapping[str, Kind],
    moved: Mapping[str, Counter[AccountType]],
    balances: Mapping[str, Minor],
    earned: Set[str],
) -> Kind:
    ranked = moved.get(code, Counter()).most_common(2)
    if ranked and (len(ranked) == 1 or ranked[0][1] > MOSTLY * ranked[1][1]):
        why = (
            "customers are charged with it"
            if ranked[0][0] is AccountType.INCOME
            else "suppliers are credited with it"
        )
        return Kind(ranked[0][0], AccountRole.ORDINARY, why, True)
    by_neighbours = _beside(code, accounts, known)
    held = balances.get(code, 0)
    if by_neighbours is not None and not (by_neighbours is AccountType.INCOME and held > 0):
        why = "the accounts beside it are of that type"
        return Kind(by_neighbours, AccountRole.ORDINARY, why, True)
    if held > 0:
        return Kind(AccountType.EXPENSE, AccountRole.ORDINARY, "it holds a debit", True)
    if code in earned:
        return Kind(AccountType.INCOME, AccountRole.ORDINARY, "it is credited and never paid", True)
    return Kind(AccountType.LIABILITY, AccountRole.ORDINARY, "it holds a credit", True)


def _moved_with(
    entries: Sequence[Entry], known: Mapping[str, Kind]
) -> dict[str, Counter[AccountType]]:
    """How often each unnamed account stands beside what customers owe, and so is income; or beside what is
    owed to suppliers, and so is cost."""
    found: dict[str, Counter[AccountType]] = defaultdict(Counter)
    for entry in entries:
        roles = {known[row.account].role for row in entry.rows if row.account in known}
        sides = {
            kind for role, kind in CHARGED.items() if role in roles and not roles & MONEY_ROLES
        }
        if len(sides) == 1:
            (kind,) = sides
            for row in entry.rows:
                if row.account not in known:
                    found[row.account][kind] += 1
    return found


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
    return None


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
