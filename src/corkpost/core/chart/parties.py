"""A new customer or supplier in the midst of work; those with nearly that name are shown first."""

import re
from difflib import SequenceMatcher
from typing import NamedTuple

from corkpost.core.amendments import LONGEST
from corkpost.core.books import Books, Party
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.evidence.names import words_of
from corkpost.core.kinds import PartyKind
from corkpost.core.refusals import BadEntry

NEARLY = 0.82
MOST_SHOWN = 5


class NearParty(NamedTuple):
    """A party whose name is nearly the one that was keyed. *likeness*: 1 for the same words."""

    party: Party
    name: str
    likeness: float


def near_parties(books: Books, name: str) -> tuple[NearParty, ...]:
    """The parties whose name or alias is nearly that, the nearest first."""
    wanted = words_of(name)
    if not wanted:
        return ()
    found = []
    for party in books.tables.parties:
        best = max(
            (_likeness(wanted, words_of(known)), known) for known in (party.name, *party.aliases)
        )
        if best[0] >= NEARLY:
            found.append(NearParty(party, best[1], best[0]))
    found.sort(key=lambda near: (-near.likeness, near.party.code))
    return tuple(found[:MOST_SHOWN])


def _likeness(one: frozenset[str], other: frozenset[str]) -> float:
    if not other:
        return 0.0
    if one == other:
        return 1.0
    if one <= other or other <= one:
        return 0.9
    return SequenceMatcher(None, " ".join(sorted(one)), " ".join(sorted(other))).ratio()


def plan_party(books: Books, name: str, kind: PartyKind, code: str | None = None) -> Plan:
    """Add a party, under *code* or one made from its name. Raises BadEntry."""
    name = " ".join(name.split())
    faults = []
    if not words_of(name) or len(name) > LONGEST:
        faults.append(f"Give a name of up to {LONGEST} signs.")
    elif same := next(
        (p for p in books.tables.parties if p.name.casefold() == name.casefold()), None
    ):
        faults.append(f"{same.code} has that very name: choose it.")
    if code and code in books.parties:
        faults.append(f"The code {code} is taken: {books.parties[code].name}. Choose another.")
    if faults:
        raise BadEntry(faults)
    party = Party(code or _free_code(books, name), name, kind)
    return Plan(
        kind=ChangeKind.ENTRY,
        route="new-party",
        entries=(),
        allocations=(),
        parties=(party,),
        proposed_reason=f"{kind.capitalize()} {name} added under {party.code}.",
    )


def _free_code(books: Books, name: str) -> str:
    letters = re.sub(r"[^A-Z0-9]", "", name.upper())[:8] or "PARTY"
    number, code = 1, letters
    while code in books.parties:
        number += 1
        code = f"{letters}{number}"
    return code
