"""Customers and suppliers that stand in a ledger as accounts of their own: taken together to a control
account, with the party on each row."""

import re
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence, Set
from dataclasses import replace

from corkpost.core.intake.chart import ByName
from corkpost.core.intake.entries import Entry, entries_of
from corkpost.core.intake.raw import AccountRow, PartyRow, Posting, Raw
from corkpost.core.kinds import AccountRole, AccountType, PartyKind

_GROUPED = re.compile(r"(\d{2,4})-?[A-Z][A-Z0-9]{1,7}|(\d{3})\d{2,6}")
LEAST = 3
"""So many accounts with longer codes than the others are people's, and no slip."""
MOSTLY_UNNAMED = 0.6
MOSTLY_SETTLED = 0.7
CONTROLS = {
    PartyKind.CUSTOMER: ("RECEIVABLES", "Receivables", AccountType.ASSET, AccountRole.RECEIVABLES),
    PartyKind.SUPPLIER: ("PAYABLES", "Payables", AccountType.LIABILITY, AccountRole.PAYABLES),
}


def with_control_accounts(raw: Raw, by_name: ByName) -> Raw:
    """The listings with each personal account's rows on its control account, and its code as the party.
    Parties named in rows get a code: where the row has none, its name."""
    codes = _Codes(raw.parties)
    raw = replace(raw, postings=[codes.with_party(row) for row in raw.postings])
    personal = _personal(raw, by_name)
    if not personal:
        return raw
    control = {
        kind: next(
            (c for c, a in raw.accounts.items() if _is(by_name, a, role) and c not in personal),
            code,
        )
        for kind, (code, _, _, role) in CONTROLS.items()
    }
    accounts = {code: row for code, row in raw.accounts.items() if code not in personal}
    for kind in set(personal.values()):
        made, name, type_, _ = CONTROLS[kind]
        if control[kind] == made:
            accounts[made] = AccountRow(made, name, type_)
    parties = dict(raw.parties)
    for code, kind in personal.items():
        parties.setdefault(code, PartyRow(code, raw.accounts[code].name, kind))
    openings: dict[tuple[str, str], int] = {}
    for (account, party), amount in raw.openings.items():
        key = (control[personal[account]], account) if account in personal else (account, party)
        openings[key] = openings.get(key, 0) + amount
    return replace(
        raw,
        accounts=accounts,
        parties=parties,
        openings=openings,
        postings=[
            row._replace(account=control[personal[row.account]], party=row.account)
            if row.account in personal
            else row
            for row in raw.postings
        ],
        balances=[
            row._replace(account=control[personal[row.account]], party=row.account)
            if row.account in personal
            else row
            for row in raw.balances
        ],
    )


def _is(by_name: ByName, account: AccountRow, role: AccountRole) -> bool:
    named = by_name(account.name)
    return named is not None and named.role is role


class _Codes:
    """Gives each row its party by code, and keeps the party's name in *parties*."""

    def __init__(self, parties: dict[str, PartyRow]) -> None:
        self._parties = parties
        self._by_name: dict[str, str] = {}
        for row in parties.values():
            self._by_name.setdefault(row.name.casefold(), row.code)
        self._known: dict[tuple[str, str], str] = {("", ""): ""}

    def with_party(self, row: Posting) -> Posting:
        said = (row.party, row.party_name)
        code = self._known.get(said)
        if code is None:
            code = self._known[said] = self._code(*said)
        return row if row.party == code else row._replace(party=code)

    def _code(self, party: str, name: str) -> str:
        code = party or self._by_name.get(name.casefold()) or name
        known = self._parties.get(code)
        if known is None or (known.name == code and name):
            self._parties[code] = PartyRow(code, name or code, known.kind if known else None)
            self._by_name.setdefault((name or code).casefold(), code)
        return code


def _personal(raw: Raw, by_name: ByName) -> dict[str, PartyKind]:
    """The accounts that are people's: listed as parties, or with longer codes than the ledger's own, and
    named by no trade word. Whose side they are on: what the parties' list says, else what they mostly are
    charged with."""
    listed = {code for code in raw.accounts if code in raw.parties}
    longer = set(_longer(raw, by_name)) | set(_of_a_group(raw, by_name))
    if not listed and not longer:
        return {}
    longer -= _charged_by_others(raw, longer, by_name)
    first: dict[str, int] = {}
    for row in raw.postings:
        first.setdefault(row.account, row.amount)
    for (account, _), amount in raw.openings.items():
        first.setdefault(account, amount)
    for balance in raw.balances:
        first.setdefault(balance.account, balance.amount)
    found = {}
    for code in longer | listed:
        said = raw.parties[code].kind if code in raw.parties else None
        guess = PartyKind.CUSTOMER if first.get(code, 0) > 0 else PartyKind.SUPPLIER
        found[code] = said or guess
    return _by_first_figure(found)


def _longer(raw: Raw, by_name: ByName) -> Iterator[str]:
    """Named accounts whose codes are longer than those of all that trade words name."""
    lengths: dict[int, list[str]] = {}
    for code, row in raw.accounts.items():
        if code.isdigit() and row.name != code:
            lengths.setdefault(len(code), []).append(code)
    own = 0
    for length, codes in sorted(lengths.items()):
        unnamed = [code for code in codes if by_name(raw.accounts[code].name) is None]
        if len(codes) < LEAST or len(unnamed) < MOSTLY_UNNAMED * len(codes):
            own = length
    for length, codes in lengths.items():
        if length > own > 0:
            yield from codes


def _of_a_group(raw: Raw, by_name: ByName) -> Iterator[str]:
    """Named accounts whose codes begin alike, and go on with letters (`411DUR`) or count on (`411003`),
    that are mostly named by no trade word, and that one account, the bank, settles."""
    groups: dict[str, list[str]] = {}
    for code, row in raw.accounts.items():
        group = _group(code)
        if group and row.name != code:
            groups.setdefault(group, []).append(code)
    nameless = [codes for codes in groups.values() if _are_nameless(raw, codes, by_name)]
    entries = entries_of(raw.postings).entries if nameless else ()
    for codes in nameless:
        if _are_settled(set(codes), entries):
            yield from codes


def _are_nameless(raw: Raw, codes: Sequence[str], by_name: ByName) -> bool:
    unnamed = [code for code in codes if by_name(raw.accounts[code].name) is None]
    return len(codes) >= LEAST and len(unnamed) >= MOSTLY_UNNAMED * len(codes)


def _are_settled(codes: Set[str], entries: Sequence[Entry]) -> bool:
    """Whether what stands on one side of these accounts nearly all comes from one other account, and what
    stands on the other side does not: what is charged is paid. A bank is paid from many, a partner's
    account moves with the bank alone, a cost is paid and never charged."""
    times = {True: 0, False: 0}
    beside: dict[bool, Counter[str]] = {True: Counter(), False: Counter()}
    for entry in entries:
        here = {row.amount > 0 for row in entry.rows if row.account in codes}
        if len(here) == 1:
            (side,) = here
            times[side] += 1
            beside[side].update({row.account for row in entry.rows} - codes)
    for side in (True, False):
        other, often = max(beside[side].items(), key=lambda row: row[1], default=("", 0))
        charged = beside[not side][other]
        if (
            min(times.values()) >= LEAST
            and often >= MOSTLY_SETTLED * times[side]
            and charged <= (1 - MOSTLY_SETTLED) * times[not side]
        ):
            return True
    return False


def _group(code: str) -> str:
    """What codes of people on one side begin with; empty where it is none of theirs."""
    match = _GROUPED.fullmatch(code)
    return (f"{match[1]}x" if match[1] else match[2]) if match else ""


def _charged_by_others(raw: Raw, codes: set[str], by_name: ByName) -> set[str]:
    """Accounts among them that mostly stand in entries beside another of them: a cost that a supplier
    charges is nobody's account."""
    among: Counter[str] = Counter()
    beside: Counter[str] = Counter()
    for entry in entries_of(raw.postings).entries:
        here = {row.account for row in entry.rows} & codes
        among.update(here)
        if len(here) > 1:
            beside.update(here)
    return {
        code
        for code in codes
        if beside[code] > MOSTLY_UNNAMED * among[code]
        and (among[code] > 1 or by_name(raw.accounts[code].name) is not None)
    }


def _by_first_figure(found: dict[str, PartyKind]) -> dict[str, PartyKind]:
    """Codes that begin alike are on one side: a customer's first row may be a payment."""
    votes: dict[str, Counter[PartyKind]] = {}
    begins = {code: _beginning(code, found) for code in found}
    for code, kind in found.items():
        votes.setdefault(begins[code], Counter())[kind] += 1
    return {code: votes[begins[code]].most_common(1)[0][0] for code in found}


def _beginning(code: str, among: Mapping[str, PartyKind]) -> str:
    """The group that a code is of, where several are; else its first figure."""
    group = _group(code)
    return group if sum(_group(other) == group for other in among) >= LEAST else code[:1]
