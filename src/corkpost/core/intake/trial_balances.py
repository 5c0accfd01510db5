"""Books of a client of whom trial balances alone are known: what each moved since the one before."""

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from datetime import date

from corkpost.core.books import Line, Transaction
from corkpost.core.intake.chart import Kind
from corkpost.core.intake.raw import PartyRow, Raw
from corkpost.core.kinds import (
    PROFIT_AND_LOSS,
    AccountRole,
    AccountType,
    PartyKind,
    TransactionKind,
)
from corkpost.core.money import Currency, Minor
from corkpost.core.periods import ends_year

Held = dict[tuple[str, str], Minor]
"""By account and party."""
COLLECTIVE = {
    AccountRole.RECEIVABLES: PartyRow(
        "ALL-CUSTOMERS", "Customers, taken together", PartyKind.OTHER
    ),
    AccountRole.PAYABLES: PartyRow("ALL-SUPPLIERS", "Suppliers, taken together", PartyKind.OTHER),
}
"""Who stands on a control account where no list says who does."""
SIDES = {AccountRole.RECEIVABLES: "receivables", AccountRole.PAYABLES: "payables"}
PROFIT_KEPT = (AccountRole.RETAINED_EARNINGS, AccountRole.ACCUMULATED_FUND, AccountRole.CAPITAL)


def from_balances(
    raw: Raw, chart: Mapping[str, Kind], year_end: tuple[int, int]
) -> Iterator[Transaction]:
    """A transaction for each day. The first opens the books, where it is of the end of a year; its income
    and costs are carried into where profit is kept."""
    held: Held = defaultdict(int)
    for number, day in enumerate(_days(raw)):
        opens = number == 0 and ends_year(day, year_end)
        said = _by_party(raw, chart, day)
        said = _after_the_year(said, chart) if opens else said
        moved = {
            key: said.get(key, 0) - held.get(key, 0)
            for key in sorted(said.keys() | held.keys())
            if said.get(key, 0) != held.get(key, 0)
        }
        held = said
        if moved:
            yield Transaction(
                f"balances-{day.isoformat()}",
                TransactionKind.OPENING if opens else TransactionKind.JOURNAL,
                day,
                tuple(
                    Line(n, account, amount, party or None)
                    for n, ((account, party), amount) in enumerate(moved.items(), 1)
                ),
                memo="what the trial balance says"
                if opens
                else "what moved until the trial balance",
            )


def unbalanced_days(raw: Raw, currency: Currency) -> Iterator[str]:
    """Trial balances that are none: no answer makes books of them."""
    for day in _days(raw):
        out = sum(row.amount for row in raw.balances if row.day == day)
        if out:
            side = "debits" if out > 0 else "credits"
            yield (
                f"The trial balance of {day.isoformat()} does not balance, the {side} are greater by "
                f"{currency.format_amount(out)}."
            )


def with_collective_parties(raw: Raw, transactions: Sequence[Transaction]) -> Raw:
    """The listings with the parties that stand for all customers, or all suppliers, where they are used."""
    used = {line.party for row in transactions for line in row.lines}
    more = {row.code: row for row in COLLECTIVE.values() if row.code in used}
    return replace(raw, parties={**raw.parties, **more})


def _days(raw: Raw) -> list[date]:
    return sorted({row.day for row in raw.balances})


def _by_party(raw: Raw, chart: Mapping[str, Kind], day: date) -> Held:
    """What the trial balance of a day says; of a control account by party where open items of that day come
    to it, else of all of them together."""
    said: Held = defaultdict(int)
    for row in raw.balances:
        if row.day == day:
            said[row.account, row.party] += row.amount
    for account, party in [key for key in said if not key[1]]:
        role = chart[account].role
        if role not in COLLECTIVE:
            continue
        amount = said.pop((account, party))
        items = [item for item in raw.items if (item.side, item.as_at) == (SIDES[role], day)]
        if items and sum(item.amount for item in items) == amount:
            for item in items:
                said[account, item.party] += item.amount
        elif amount:
            said[account, COLLECTIVE[role].code] += amount
    return said


def _after_the_year(said: Held, chart: Mapping[str, Kind]) -> Held:
    """A year's end, its income and costs carried into where profit is kept."""
    kept: Held = {
        key: amount for key, amount in said.items() if chart[key[0]].type not in PROFIT_AND_LOSS
    }
    result = sum(said.values()) - sum(kept.values())
    into = next(
        (code for role in PROFIT_KEPT for code, kind in chart.items() if kind.role is role),
        next((code for code, kind in chart.items() if kind.type is AccountType.EQUITY), None),
    )
    if result and into is None:
        return said
    if result and into is not None:
        kept[into, ""] = kept.get((into, ""), 0) + result
    return kept
