"""What the program guesses of accounts that the books give no role.

A guess counts nowhere until a person confirms it: a role changes what the checks look at, and no
figure may hang on what nobody has looked at. Of a client whose lists say no types, what the accounts
were taken for counts from the taking in, which shows it, and is a guess until a person confirms it.
"""

import json
from collections import Counter
from collections.abc import Iterator, Mapping
from typing import NamedTuple

from corkpost.core.books import Account, Books
from corkpost.core.chart.behaving import behaves
from corkpost.core.chart.fitting import LASTING, fits
from corkpost.core.chart.trade_words import by_name
from corkpost.core.kinds import AccountRole, PartyKind

USED_ENOUGH = 3
MOSTLY = 0.9


class Guess(NamedTuple):
    """*why*: what speaks for it, in words. *counts*: type and role are those that the lists were taken in
    with; else the role counts nowhere yet."""

    account: str
    role: AccountRole
    why: str
    counts: bool = False


def guesses(books: Books) -> Mapping[str, Guess]:
    """For accounts that nobody has looked at, and that have no role or were taken in by a guess: what the
    program takes them for."""
    found: Mapping[str, Guess] | None = books.derived.get("guesses")
    if found is None:
        found = books.derived["guesses"] = {guess.account: guess for guess in _guessed(books)}
    return found


def looked_at(books: Books) -> frozenset[str]:
    """The accounts whose role a person gave or confirmed, and did not take back."""
    undoing = {change.number for change in books.changes if change.undoes is not None}
    gone = books.undone | undoing
    return frozenset(
        row.account
        for row in books.tables.account_amendments
        if row.field == "role" and row.change not in gone
    )


def _guessed(books: Books) -> Iterator[Guess]:
    looked = looked_at(books)
    taken_for = {
        account.code: why
        for account in books.tables.accounts
        if account.code not in looked and (why := _taken_in_by(account))
    }
    acting = behaves(books, {c for c in taken_for if not books.accounts[c].role})
    for code, why in taken_for.items():
        # What lists were taken in with counts; what an account without a role does is only seen.
        if code in acting and fits(acting[code].role, books.accounts[code].type):
            yield Guess(code, *acting[code])
        else:
            yield Guess(code, books.accounts[code].role, why, counts=True)
    unsaid = [
        account
        for account in books.tables.accounts
        if account.role is AccountRole.ORDINARY and account.code not in looked | taken_for.keys()
    ]
    used = _used_with(books, {a.code for a in unsaid if a.type in LASTING})
    done = behaves(books, {account.code for account in unsaid})
    for account in unsaid:
        guess = (
            _by_statements(books, account)
            or used.get(account.code)
            or _by_name(books, account)
            or (Guess(account.code, *done[account.code]) if account.code in done else None)
        )
        if guess and fits(guess.role, account.type):
            yield guess


def _taken_in_by(account: Account) -> str | None:
    """What spoke for its type and role when lists were taken in that do not say them."""
    if '"guessed"' not in account.other:
        return None
    why = json.loads(account.other).get("guessed")
    return why if isinstance(why, str) else None


def _by_statements(books: Books, account: Account) -> Guess | None:
    if any(statement.account == account.code for statement in books.statements):
        return Guess(account.code, AccountRole.BANK, "bank statements of it were taken in")
    if any(row.account == account.code for row in books.tables.bank_accounts):
        return Guess(account.code, AccountRole.BANK, "the books list it as a bank account")
    return None


def _used_with(books: Books, codes: set[str]) -> Mapping[str, Guess]:
    """What their lines' parties say: nearly all of them customers, or suppliers."""
    if not codes:
        return {}
    lines: Counter[str] = Counter()
    kinds: Counter[tuple[str, PartyKind]] = Counter()
    for code in codes:
        for _, line in books.lines_on(code):
            lines[code] += 1
            party = books.parties.get(line.party or "")
            if party:
                kinds[code, party.kind] += 1
    found = {}
    for role, kind in (
        (AccountRole.RECEIVABLES, PartyKind.CUSTOMER),
        (AccountRole.PAYABLES, PartyKind.SUPPLIER),
    ):
        for code, count in lines.items():
            named = kinds[code, kind]
            if count >= USED_ENOUGH and named >= MOSTLY * count:
                why = f"{named} of its {count} lines name a {kind}"
                found[code] = Guess(code, role, why)
    return found


def _by_name(books: Books, account: Account) -> Guess | None:
    named = by_name(account.name, frozenset({account.type}))
    if named and named.role and fits(named.role, account.type) and _is_free(books, named.role):
        return Guess(account.code, named.role, named.why)
    return None


_ONE_OF_A_KIND = frozenset(
    {
        AccountRole.RECEIVABLES,
        AccountRole.PAYABLES,
        AccountRole.CAPITAL,
        AccountRole.RETAINED_EARNINGS,
        AccountRole.ACCUMULATED_FUND,
    }
)


def _is_free(books: Books, role: AccountRole) -> bool:
    """A name alone makes no second control or capital account beside one that the books have."""
    return role not in _ONE_OF_A_KIND or not books.with_role(role)
