"""What accounts are by how entries are built, whatever they are called: a bank is what some accounts are
paid into and others are paid from; tax is the same part of what stands beside it, to the cent."""

from collections import Counter
from collections.abc import Iterator, Sequence

from corkpost.core.intake.entries import Entry
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.money import Minor

OFTEN = 3
"""So many times something has to be charged and paid."""
MOSTLY = 0.6
TOLD_FROM: Minor = 20_00
"""A smaller sum is some rate's tax of every other."""
LOWEST, HIGHEST = 4, 60
"""Rates of tax in half percents."""
TYPES = {
    AccountRole.BANK: AccountType.ASSET,
    AccountRole.RECEIVABLES: AccountType.ASSET,
    AccountRole.PAYABLES: AccountType.LIABILITY,
    AccountRole.TAX: AccountType.LIABILITY,
}
WHY = {
    AccountRole.BANK: "what is charged is paid into it, and what is owed is paid from it",
    AccountRole.RECEIVABLES: "it is charged, and then paid into the bank",
    AccountRole.PAYABLES: "it is credited, and then paid from the bank",
    AccountRole.TAX: "it is the same part of what stands beside it, to the cent",
}


def by_structure(entries: Sequence[Entry]) -> Iterator[tuple[str, AccountRole]]:
    """The accounts that the entries show to be the bank, what customers owe and suppliers are owed, and
    tax, by their codes."""
    money = _money(entries)
    if money is not None:
        yield from zip(
            money, (AccountRole.BANK, AccountRole.RECEIVABLES, AccountRole.PAYABLES), strict=True
        )
    for code in _taxes(entries):
        if code not in (money or ()):
            yield code, AccountRole.TAX


def _money(entries: Sequence[Entry]) -> tuple[str, str, str] | None:
    """Bank, receivables and payables: those three by which the most is charged and paid."""
    paid: Counter[tuple[str, str]] = Counter()
    debited: Counter[str] = Counter()
    credited: Counter[str] = Counter()
    for entry in entries:
        debited.update({row.account for row in entry.rows if row.amount > 0})
        credited.update({row.account for row in entry.rows if row.amount < 0})
        if len(entry.rows) == 2 and entry.rows[0].amount:
            one, other = sorted(entry.rows, key=lambda row: row.amount)
            paid[other.account, one.account] += 1
    best: tuple[int, tuple[str, str, str]] | None = None
    for bank in {account for pair in paid for account in pair}:
        owing = _most(
            (code, min(times, debited[code] - paid[code, bank]))
            for (into, code), times in paid.items()
            if into == bank
        )
        owed = _most(
            (code, min(times, credited[code] - paid[bank, code]))
            for (code, from_), times in paid.items()
            if from_ == bank
        )
        if owing and owed and (best is None or owing[1] + owed[1] > best[0]):
            best = (owing[1] + owed[1], (bank, owing[0], owed[0]))
    return best[1] if best is not None and len(set(best[1])) == len(best[1]) else None


def _most(scored: Iterator[tuple[str, int]]) -> tuple[str, int] | None:
    found = max(scored, key=lambda row: (row[1], row[0]), default=None)
    return found if found is not None and found[1] >= OFTEN else None


def _taxes(entries: Sequence[Entry]) -> list[str]:
    """The accounts that in most entries of three rows and more are a rate of the row beside them."""
    stands: Counter[str] = Counter()
    fits: Counter[str] = Counter()
    for entry in entries:
        if len(entry.rows) < OFTEN:
            continue
        held: dict[str, Minor] = {}
        for row in entry.rows:
            held[row.account] = held.get(row.account, 0) + row.amount
        gross = max(held, key=lambda code: abs(held[code]))
        for code, amount in held.items():
            net = -held[gross] - amount
            if code == gross or abs(net) < TOLD_FROM:
                continue
            stands[code] += 1
            fits[code] += amount * net > 0 and _is_rate(abs(amount), abs(net))
    return [
        code for code, times in fits.items() if times >= OFTEN and times >= MOSTLY * stands[code]
    ]


def _is_rate(tax: Minor, net: Minor) -> bool:
    halves = round(200 * tax / net)
    return LOWEST <= halves <= HIGHEST and abs(200 * tax - net * halves) <= 200
