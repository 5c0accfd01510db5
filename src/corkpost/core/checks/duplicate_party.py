"""duplicate-party: two parties that are one: names nearly equal, or one's name is the other's alias.

Keeps quiet: for the same surname with another first name; for branches, years and houses that only a
number tells apart; for two that number their papers differently.
"""

import re
from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from itertools import combinations

from rapidfuzz.distance import OSA

from corkpost.core.books import Books, Party, Transaction
from corkpost.core.evidence.names import words_of
from corkpost.core.kinds import PartyKind, TransactionKind
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "duplicate-party",
    family=Family.TWICE,
    routes=("merge-party", "ask", "leave"),
    finds="a customer or supplier that is in the books under two names",
    avoid="Look for a name before you make a new one, in its short form too.",
)
KINDS = frozenset({PartyKind.CUSTOMER, PartyKind.SUPPLIER, PartyKind.EMPLOYEE})
SLIP_FROM = 5
"""In a shorter word one other letter makes another name."""
COMMON = 25
"""A word that so many names have tells nothing."""
_DIGITS = re.compile(r"\d+")


@dataclass
class _Habit:
    """What a party's papers are like: how often, on which accounts, how they are numbered."""

    papers: int = 0
    total: int = 0
    accounts: Counter[str] = field(default_factory=Counter)
    forms: Counter[str] = field(default_factory=Counter)

    @property
    def usual(self) -> str | None:
        return self.accounts.most_common(1)[0][0] if self.accounts else None


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    parties = [party for party in books.tables.parties if party.kind in KINDS]
    alike = books.kept.once("alike parties", books.tables.parties, lambda: _pairs(parties))
    of_party = books.rows_by("of a party", lambda posted: (posted.party,))
    coded = {party.code for pair in alike for party in pair[:2]}
    given = ((code, (of_party.get(code, ()), books.chart)) for code in sorted(coded))
    found = books.kept.each("habits of parties", given, lambda _, rows: _habit(books, rows[0]))
    habits = dict(zip(sorted(coded), found, strict=True))
    for aged_party, other, why in alike:
        point = _judged(run, aged_party, other, why, habits)
        if point is not None:
            yield point


def _pairs(parties: list[Party]) -> tuple[tuple[Party, Party, tuple[str, float]], ...]:
    """The pairs whose names may be one, with why."""
    found = ((party, other, _alike(party, other)) for party, other in _candidates(parties))
    return tuple((party, other, why) for party, other, why in found if why is not None)


def _candidates(parties: list[Party]) -> Iterator[tuple[Party, Party]]:
    """Pairs of one kind that share a telling word, but for one slip; each once."""
    by_word: dict[tuple[str, str], list[int]] = defaultdict(list)
    for place, party in enumerate(parties):
        words = {word for name in (party.name, *party.aliases) for word in words_of(name)}
        keys = words | {_run_together(party.name)}
        for word in words:
            if len(word) >= SLIP_FROM:
                keys |= {word[:i] + word[i + 1 :] for i in range(len(word))}
        for key in keys:
            by_word[party.kind, key].append(place)
    pairs = {
        pair for places in by_word.values() if len(places) <= COMMON
        for pair in combinations(places, 2)
    }  # fmt: skip
    for first, second in sorted(pairs):
        yield parties[first], parties[second]


def _alike(one: Party, other: Party) -> tuple[str, float] | None:
    """Why the names may be one, and how certain that alone makes it."""
    first, second = words_of(one.name), words_of(other.name)
    if not first or not second:
        return None
    if first == second:
        return "the same words", 0.93
    if words_of(_spelt_out(one.name)) == words_of(_spelt_out(other.name)):
        return "the same words, with ä, ö or ü written otherwise", 0.93
    if _run_together(one.name) == _run_together(other.name):
        return "the same letters, spaced otherwise", 0.9
    known = (
        {words_of(alias) for alias in one.aliases},
        {words_of(alias) for alias in other.aliases},
    )
    if second in known[0] or first in known[1]:
        return (
            f"{other.name if second in known[0] else one.name} is another name of the other",
            0.93,
        )
    mine, yours = sorted(first - second), sorted(second - first)
    if any(_DIGITS.search(word) for word in (*mine, *yours)):
        return None
    if len(mine) == len(yours) == 1:
        return _one_word_apart(one, other, mine[0], yours[0], len(first))
    if not mine or not yours:
        # One name is within the other: North and South of one chain share less than that.
        longer = mine or yours
        return ("one name within the other", 0.55) if len(longer) == 1 and first & second else None
    return None


_SPELT_OUT = str.maketrans(
    {"ä": "ae", "ö": "oe", "ü": "ue", "ß": "ss", "å": "aa", "ø": "oe", "æ": "ae"}
)


def _spelt_out(name: str) -> str:
    """As somebody writes it whose keyboard has no such letters."""
    return name.casefold().translate(_SPELT_OUT)


def _run_together(name: str) -> str:
    """The name's words in their order, without spaces and legal forms."""
    kept = words_of(name)
    return "".join(word for word in re.findall(r"[^\W_]+", name.upper()) if word in kept)


def _one_word_apart(
    one: Party, other: Party, mine: str, yours: str, words: int
) -> tuple[str, float] | None:
    if min(len(mine), len(yours)) == 1 and mine[0] == yours[0] and words > 1:
        return f"{mine.title()} may stand for {yours.title()}", 0.7
    slip = OSA.distance(mine, yours, score_cutoff=1) == 1
    if not slip or min(len(mine), len(yours)) < SLIP_FROM:
        return None
    first_names = words == 2 and one.name.upper().startswith(mine)
    return f"{mine.title()} and {yours.title()} are one slip apart", 0.55 if first_names else 0.85


def _habit(books: Books, rows: Iterable[Transaction]) -> _Habit:
    habit = _Habit()
    for posted in rows:
        habit.papers += 1
        habit.total += posted.total
        for line in posted.lines:
            if books.accounts[line.account].is_profit_and_loss:
                habit.accounts[line.account] += 1
        if posted.kind is TransactionKind.PURCHASE_BILL and posted.reference:
            habit.forms[_form(posted.reference)] += 1
    return habit


def _form(reference: str) -> str:
    """How a reference is made: its letters and signs, any number as one."""
    return _DIGITS.sub("0", reference.upper().replace(" ", ""))


def _judged(
    run: CheckRun,
    one: Party,
    other: Party,
    why: tuple[str, float],
    habits: Mapping[str, _Habit],
) -> Point | None:
    words, certainty = why
    because = [words]
    habit, others = habits.get(one.code, _Habit()), habits.get(other.code, _Habit())
    if habit.usual and others.usual:
        if habit.usual == others.usual:
            certainty += 0.04
            because.append(f"both go to {run.books.accounts[habit.usual].name}")
        else:
            certainty -= 0.15
    if habit.forms and others.forms:
        if habit.forms.keys() & others.forms.keys():
            certainty += 0.1
            because.append("their papers are numbered alike")
        else:
            certainty -= 0.2
    if certainty < 0.6:
        return None
    keep, gone = (one, other) if habit.papers >= others.papers else (other, one)
    counts = tuple(habits.get(party.code, _Habit()).papers for party in (keep, gone))
    at_stake = habits.get(gone.code, _Habit()).total
    books = run.books
    of_party = books.rows_by("of a party", lambda posted: (posted.party,))
    last = [
        next(
            (
                p.id
                for p in reversed(of_party.get(party.code, ()))
                if p.id not in books.never_was
            ),
            None,
        )
        for party in (keep, gone)
    ]  # fmt: skip
    return CHECK.point(
        books,
        subjects={},
        about={"party": (keep.code, gone.code)},
        related=tuple(name for name in last if name),
        amount=at_stake,
        certainty=min(certainty, 0.97),
        summary=(
            f"{keep.name} ({keep.code}, {counts[0]} in the books) and {gone.name} ({gone.code}, "
            f"{counts[1]}) may be one {keep.kind}."
        ),
        short=f"{keep.name} and {gone.name}",
        because=tuple(because),
    )
