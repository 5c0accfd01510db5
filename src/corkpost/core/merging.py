"""Parties that are one (handbook, section 7, `merge-party`): a recorded amendment, laid over the books.

No figure moves and nothing posted is altered: whatever was written with the one name is read under the
other, the name that goes lives on as an alias, and what was written is remembered, so that seals fit
and the amendment can be taken back.
"""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import NamedTuple

from corkpost.core.books import (
    Allocation,
    Books,
    Party,
    PartyAmendment,
    Tables,
    Transaction,
    WrittenAs,
)
from corkpost.core.change import ChangeKind, PartyAmending, Plan
from corkpost.core.refusals import BadEntry, Refusal

ROUTE = "merge-party"


class NotOne(Refusal):
    title = "These two can't be made one"


def merges_of(rows: Iterable[PartyAmendment]) -> dict[str, str]:
    """For each party that counts as another: the one that it counts as in the end.

    A row counts where what it says stood before is what stands, as with every amendment.
    """
    into: dict[str, str] = {}
    for row in rows:
        if into.get(row.party) == row.before:
            if row.after is None:
                into.pop(row.party)
            else:
                into[row.party] = row.after
    return {code: _last(into, code) for code in into}


def _last(into: Mapping[str, str], code: str) -> str:
    seen = {code}
    while (following := into.get(code)) is not None and following not in seen:
        code = following
        seen.add(code)
    return code


def merged(tables: Tables) -> Tables:
    """The tables with their parties' amendments laid over them, from whatever was laid before."""
    into = merges_of(tables.party_amendments)
    if not into and not tables.written.parties:
        return tables
    plain = _as_written(tables)
    known = {party.code: party for party in plain.parties}
    into = {code: to for code, to in into.items() if code in known and to in known}
    if not into:
        return plain
    lines: dict[tuple[str, int], str] = {}
    heads: dict[str, str] = {}
    rows: dict[str, str] = {}

    def read(posted: Transaction) -> Transaction:
        touched = False
        for place, line in enumerate(posted.lines):
            if line.party in into:
                lines[posted.id, place] = line.party or ""
                touched = True
        if touched:
            posted = posted._replace(
                lines=tuple(
                    line._replace(party=into.get(line.party or "", line.party))
                    for line in posted.lines
                )
            )
        if posted.party in into:
            heads[posted.id] = posted.party or ""
            posted = posted._replace(party=into[posted.party or ""])
        return posted

    def settled(row: Allocation) -> Allocation:
        if row.party not in into:
            return row
        rows[row.id] = row.party
        return row._replace(party=into[row.party])

    return replace(
        plain,
        parties=tuple(
            _with_names(party, [known[code] for code, to in into.items() if to == party.code])
            for party in plain.parties
            if party.code not in into
        ),
        transactions=tuple(read(posted) for posted in plain.transactions),
        allocations=tuple(settled(row) for row in plain.allocations),
        written=WrittenAs(plain.parties, lines, heads, rows),
    )


def _with_names(party: Party, merged: Iterable[Party]) -> Party:
    names = dict.fromkeys(party.aliases)
    for other in merged:
        names |= dict.fromkeys((other.name, *other.aliases))
    names.pop(party.name, None)
    return party._replace(aliases=tuple(names))


def _as_written(tables: Tables) -> Tables:
    """The tables as they are without any party amended."""
    written = tables.written
    if not written.parties:
        return tables
    here = {party.code for party in written.parties}
    added = tuple(party for party in tables.parties if party.code not in here)

    def plain(posted: Transaction) -> Transaction:
        lines = tuple(
            line._replace(party=written.lines.get((posted.id, place), line.party))
            for place, line in enumerate(posted.lines)
        )
        return posted._replace(lines=lines, party=written.heads.get(posted.id, posted.party))

    return replace(
        tables,
        parties=(*written.parties, *added),
        transactions=tuple(plain(posted) for posted in tables.transactions),
        allocations=tuple(
            row._replace(party=written.allocations.get(row.id, row.party))
            for row in tables.allocations
        ),
        written=WrittenAs(),
    )


def with_merges(books: Books, rows: tuple[PartyAmendment, ...]) -> Books:
    """These books with more parties amended, as they will stand once those are posted."""
    if not rows:
        return books
    tables = replace(books.tables, party_amendments=books.tables.party_amendments + rows)
    return books.followed_by(tables=merged(tables))


class Merged(NamedTuple):
    """What one party's balance becomes. *keep* takes what *merged* had."""

    keep: Party
    merged: Party


def pair_to_merge(books: Books, keep: str, merged: str) -> Merged:
    """The two parties, if they may be made one. Raises BadEntry or NotOne."""
    missing = [code for code in (keep, merged) if code not in books.parties]
    if missing:
        raise BadEntry([f"There is no party {code} in these books." for code in missing])
    if keep == merged:
        raise NotOne("That is one party already: choose two.")
    one, other = books.parties[keep], books.parties[merged]
    if one.kind is not other.kind:
        raise NotOne(
            f"{one.name} is a {one.kind} and {other.name} a {other.kind}: each has its own account "
            "with the client. Set their balances off against each other instead."
        )
    owned = [account for account in books.tables.accounts if account.owner == merged]
    if owned:
        raise NotOne(
            f"{owned[0].code} {owned[0].name} is {other.name}'s own account: keep that party, or give "
            "the account to the other one first, on the Books page."
        )
    return Merged(one, other)


def plan_merge(books: Books, keep: str, merged: str) -> Plan:
    """Read all that was booked for *merged* under *keep*. Raises BadEntry or NotOne."""
    pair = pair_to_merge(books, keep, merged)
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE,
        entries=(),
        allocations=(),
        parties_amended=(PartyAmending(merged, None, keep),),
        proposed_reason=(
            f"{pair.merged.name} ({merged}) is {pair.keep.name} ({keep}): one party, keyed twice."
        ),
        notes=(
            "No figure on the trial balance moves. What was booked under either name is kept as it was "
            f"written and read under {pair.keep.name}; {pair.merged.name} stays known as another name.",
        ),
    )
