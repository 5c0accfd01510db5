"""Entries as accountants write them: `2026-04-05: Dr payables (Reedwharf) 246.00, Cr fuel 200.00`."""

import re
from collections.abc import Iterable

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.change import Plan
from corkpost.core.money import Currency

EUR = Currency("EUR")
_SIDE = re.compile(r"(Dr|Cr) ([^(,]+?)(?: \(([^)]+)\))? (-?[\d.]+)$")


def eur(text: str) -> int:
    """`246.00` in cents."""
    return EUR.parse(text)


def lines_of(text: str, accounts: dict[str, str], parties: dict[str, str]) -> tuple[Line, ...]:
    """The lines of `Dr payables (Reedwharf) 246.00, Cr fuel 200.00, Cr tax 46.00`.

    *accounts* and *parties* give codes by name.
    """
    lines = []
    for number, part in enumerate(text.split(", "), 1):
        match = _SIDE.fullmatch(part.strip())
        assert match, f"not a side of an entry: {part!r}"
        side, account, party, amount = match.groups()
        sign = 1 if side == "Dr" else -1
        code = parties[party] if party else None
        lines.append(Line(number, accounts[account], sign * eur(amount), party=code))
    return tuple(lines)


def said(entry: Transaction, books: Books) -> str:
    """One entry in that notation, its date first."""
    return f"{entry.posting_date}: " + ", ".join(_side(line, books) for line in entry.lines)


def _side(line: Line, books: Books) -> str:
    party = f" ({books.party_name(line.party)})" if line.party else ""
    side = "Dr" if line.amount > 0 else "Cr"
    return f"{side} {books.accounts[line.account].name}{party} {EUR.format(abs(line.amount))}"


def journal(of: Plan | Iterable[Transaction], books: Books) -> str:
    """Every entry of a plan, one a line."""
    entries = of.entries if isinstance(of, Plan) else of
    return "\n".join(said(entry, books) for entry in entries)


def settlements(plan: Plan) -> str:
    """Every allocation of a plan: `2026-04-05: new-1 with T2 246.00`; undone ones begin with `free`."""
    return "\n".join(
        f"{row.date}: {'free ' if row.undoes else ''}{row.debit_transaction} with "
        f"{row.credit_transaction} {EUR.format(row.amount)}"
        for row in plan.allocations
    )
