"""Statement lines and the entries that they are: proposals for a whole statement at once.

Amounts must be equal to the cent. Within one amount, who goes with whom is settled for all together;
what is left over is tried as a sum of several, by a bounded search.
"""

import re
from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from functools import cached_property, lru_cache
from typing import Generic, NamedTuple, TypeVar

from corkpost.core.bank.sides import BankSides, Entry, EntryKey
from corkpost.core.books import Books, Names
from corkpost.core.evidence.names import words_of
from corkpost.core.evidence.references import folded, quotes
from corkpost.core.evidence.sums import MOST_CANDIDATES, exact_sets
from corkpost.core.evidence.who import PartyFinder, finder_for
from corkpost.core.matching.assignment import best_assignment
from corkpost.core.money import Minor
from corkpost.core.points import Level, level_of
from corkpost.core.statements import StatementLine

EARLIEST = -10
"""Days from an entry to its statement line: some are keyed with the day of the paper."""
LATEST = 185
LATEST_IN = 60
SUM_LATEST = 35
SAME_DAYS = 2
SAME_MOVEMENT = 0.7
"""Enough to report neither as missing, too little to propose it."""
MOST_AT_ONCE = 60
NEARLY = 12

_LETTERS = re.compile(r"[^\W\d_]{3,}")


class Proposal(NamedTuple):
    """Entries and statement lines that look like the same. *why*: in words, strongest first."""

    entries: tuple[EntryKey, ...]
    lines: tuple[str, ...]
    certainty: float
    why: tuple[str, ...]

    @property
    def level(self) -> Level:
        return level_of(self.certainty)


class Likeness(NamedTuple):
    """What speaks for a pair of equal amount. *gain*: for settling who goes with whom."""

    gain: int
    days: int
    by_reference: bool
    by_payee: bool
    by_habit: bool
    other_payee: bool
    other_number: bool


class Habit(NamedTuple):
    """What lines of such a text were in the books before. *who*: a party, else an account."""

    who: str
    times: int


@lru_cache(maxsize=1 << 16)
def text_key(text: str) -> str:
    """A line's text without numbers: what stays the same from month to month."""
    return " ".join(_LETTERS.findall(text.upper()))


def who_of(entry: Entry, finder: PartyFinder) -> str:
    """Whose an entry is: its party, else the one that it names, else the one on its other lines, else the
    account against the bank."""
    party = finder.payee(entry.posted)
    if party:
        return party
    others = [line for line in entry.posted.lines if line.account != entry.line.account]
    on_lines = {line.party for line in others if line.party}
    if len(on_lines) == 1:
        return on_lines.pop()
    return next((line.account for line in others), entry.line.account)


def habits_of(finder: PartyFinder, sides: BankSides) -> Mapping[str, Habit]:
    """What was agreed before with lines of each text, where that was one thing, by text key."""
    seen: dict[str, Counter[str]] = defaultdict(Counter)
    for group in sides.groups.values():
        for line in group.lines:
            for entry in group.entries:
                seen[text_key(line.words)][who_of(entry, finder)] += 1
    return {
        key: Habit(*counts.most_common(1)[0])
        for key, counts in seen.items()
        if key and counts.most_common(1)[0][1] * 5 >= sum(counts.values()) * 4
    }


@dataclass(frozen=True)
class Matcher:
    """Compares the entries and lines of one account that are not agreed. It holds no books: it is kept
    longer than they are."""

    names: Names
    finder: PartyFinder
    sides: BankSides

    @cached_property
    def habits(self) -> Mapping[str, Habit]:
        return habits_of(self.finder, self.sides)

    @cached_property
    def _named(self) -> dict[str, str | None]:
        return {}

    @cached_property
    def _who(self) -> dict[EntryKey, str]:
        return {}

    def party_named(self, line: StatementLine) -> str | None:
        """The party that the statement line names."""
        if line.id not in self._named:
            self._named[line.id] = self.finder.named_in(line.words)
        return self._named[line.id]

    def who(self, entry: Entry) -> str:
        if entry.key not in self._who:
            self._who[entry.key] = who_of(entry, self.finder)
        return self._who[entry.key]

    def likeness(self, entry: Entry, line: StatementLine) -> Likeness | None:
        """What speaks for the pair; None where their days are too far apart."""
        days = (line.day - entry.day).days
        latest = LATEST if entry.amount < 0 else LATEST_IN
        if not EARLIEST <= days <= latest:
            return None
        own = entry.reference
        same_number = bool(own) and (
            folded(own) == folded(line.reference) or quotes(line.words, own)
        )
        other_number = _is_cheque(own) and _is_cheque(line.reference) and not same_number
        named, who = self.party_named(line), self.who(entry)
        habit = self.habits.get(text_key(line.words))
        by_habit = habit is not None and habit.times >= 2 and habit.who == who
        other_payee = named is not None and who in self.names.known and who != named
        shared = len(words_of(entry.posted.memo or "") & words_of(line.words))
        gain = 100 + 60 * same_number + 40 * (named == who) + 25 * by_habit + 4 * min(shared, 4)
        gain -= 80 * other_payee + 30 * other_number
        gain -= days // 2 if days >= 0 else -4 * days
        return Likeness(
            max(gain, 1), days, same_number, named == who, by_habit, other_payee, other_number
        )


def matcher_of(books: Books, sides: BankSides) -> Matcher:
    """Compares what is on the account of these books."""
    return Matcher(books.names, finder_for(books), sides)


def _is_cheque(reference: str | None) -> bool:
    return bool(reference) and bool(re.fullmatch(r"0*\d{3,8}", reference or ""))


def propose(
    books: Books,
    sides: BankSides,
    entries: Iterable[Entry],
    lines: Iterable[StatementLine],
    *,
    doubtful: frozenset[EntryKey] = frozenset(),
) -> tuple[Proposal, ...]:
    """What the lines are in the books, each entry and line used once, the likeliest first.

    *doubtful*: entries that are never sure, since they may have been at the bank long before.
    """
    matcher = matcher_of(books, sides)
    mine, theirs = list(entries), list(lines)
    pairs = list(_pairs(matcher, mine, theirs, doubtful))
    used = {key for pair in pairs for key in pair.entries}
    used_lines = {name for pair in pairs for name in pair.lines}
    # A pair that two different payees speak against is no bar to a sum that fits.
    left = [entry for entry in mine if entry.key not in used]
    open_lines = [line for line in theirs if line.id not in used_lines]
    sums = list(_sums(matcher, left, open_lines))
    found = sorted(
        pairs + sums, key=lambda proposal: (-proposal.certainty, proposal.lines, proposal.entries)
    )
    return tuple(found)


def _pairs(
    matcher: Matcher,
    entries: Sequence[Entry],
    lines: Sequence[StatementLine],
    doubtful: frozenset[EntryKey],
) -> Iterator[Proposal]:
    by_sum: dict[Minor, list[Entry]] = defaultdict(list)
    for entry in sorted(entries, key=lambda entry: (entry.day, entry.key)):
        by_sum[entry.amount].append(entry)
    wanted: dict[Minor, list[StatementLine]] = defaultdict(list)
    for line in sorted(lines, key=lambda line: (line.day, line.statement, line.number)):
        wanted[line.amount].append(line)
    for amount, mine in by_sum.items():
        for part, others in _parts(mine, wanted.get(amount, [])):
            yield from _settled(matcher, part, others, doubtful)


def _parts(
    entries: list[Entry], lines: list[StatementLine]
) -> Iterator[tuple[list[Entry], list[StatementLine]]]:
    """What is compared at once: all of one amount or, where that is very many, stretches of it."""
    if not lines:
        return
    for start in range(0, max(len(entries), len(lines)), MOST_AT_ONCE):
        part = slice(start, start + MOST_AT_ONCE)
        if entries[part] and lines[part]:
            yield entries[part], lines[part]


def _settled(
    matcher: Matcher,
    entries: Sequence[Entry],
    lines: Sequence[StatementLine],
    doubtful: frozenset[EntryKey],
) -> Iterator[Proposal]:
    table = [[matcher.likeness(entry, line) for entry in entries] for line in lines]
    gains = [[alike.gain if alike else 0 for alike in row] for row in table]
    for place, chosen in enumerate(best_assignment(gains)):
        likeness = table[place][chosen] if chosen is not None else None
        if chosen is None or likeness is None:
            continue
        entry, line = entries[chosen], lines[place]
        rivals = _rivals(matcher, table, entries, lines, place, chosen)
        certainty = _certainty(likeness, rivals)
        if entry.key in doubtful:
            certainty = min(certainty, 0.7)
        why = tuple(_why(matcher, likeness, entry, line, rivals))
        yield Proposal((entry.key,), (line.id,), certainty, why)


def _rivals(
    matcher: Matcher,
    table: Sequence[Sequence[Likeness | None]],
    entries: Sequence[Entry],
    lines: Sequence[StatementLine],
    place: int,
    chosen: int,
) -> int:
    """How many others fit nearly as well, twins left out: it is all the same which of those it is."""
    own = table[place][chosen]
    if own is None:
        return 0
    entry, line = entries[chosen], lines[place]
    others = sum(
        1
        for at, likeness in enumerate(table[place])
        if at != chosen
        and likeness
        and own.gain - likeness.gain < NEARLY
        and not _are_twins(matcher, entry, entries[at])
    )
    return others + sum(
        1
        for at, row in enumerate(table)
        if at != place
        and (one := row[chosen])
        and own.gain - one.gain < NEARLY
        and text_key(lines[at].words) != text_key(line.words)
    )


def _are_twins(matcher: Matcher, one: Entry, other: Entry) -> bool:
    return matcher.who(one) == matcher.who(other)


def _certainty(likeness: Likeness, rivals: int) -> float:
    if likeness.other_payee:
        # One sum on one day is one movement, whoever is named; who it was is another matter.
        return SAME_MOVEMENT if 0 <= likeness.days <= SAME_DAYS and not rivals else 0.4
    if likeness.other_number:
        return 0.6
    if rivals:
        return 0.8 if likeness.by_reference else 0.65
    near = -2 <= likeness.days <= 7
    if likeness.by_reference:
        return 0.99
    if likeness.by_payee or likeness.by_habit:
        return 0.97 if near else 0.93 if likeness.days <= 35 else 0.8
    return 0.9 if near else 0.8 if likeness.days <= 35 else 0.6


def _why(
    matcher: Matcher, likeness: Likeness, entry: Entry, line: StatementLine, rivals: int
) -> Iterator[str]:
    yield "the same amount"
    if likeness.by_reference:
        yield f"the statement names its number, {entry.reference}"
    if likeness.other_number:
        yield f"the number differs: {entry.reference} in the books, {line.reference} at the bank"
    if likeness.by_payee:
        yield f"the statement names {matcher.names.of(matcher.who(entry))}"
    elif likeness.by_habit:
        habit = matcher.habits[text_key(line.words)]
        yield f"lines of this text were this {habit.times} times before"
    if likeness.other_payee:
        named = matcher.names.of(matcher.party_named(line))
        yield f"the statement names somebody else: {named}"
    yield _days_words(likeness.days)
    if rivals:
        many = "another fits" if rivals == 1 else f"{rivals} others fit"
        yield f"{many} nearly as well"


def _days_words(days: int) -> str:
    if days == 0:
        return "the same day"
    many = "day" if abs(days) == 1 else "days"
    return f"{abs(days)} {many} {'later' if days > 0 else 'earlier'} at the bank"


# -- several on one side


def _sums(
    matcher: Matcher, entries: Sequence[Entry], lines: Sequence[StatementLine]
) -> Iterator[Proposal]:
    used: set[EntryKey] = set()
    used_lines: set[str] = set()
    for line in sorted(lines, key=lambda line: (line.day, line.number)):
        free = [entry for entry in entries if entry.key not in used]
        found = _line_of_several(matcher, line, free)
        if found:
            used.update(found.entries)
            used_lines.add(line.id)
            yield found
    for entry in entries:
        if entry.key in used:
            continue
        free_lines = [line for line in lines if line.id not in used_lines]
        found = _entry_of_several(matcher, entry, free_lines)
        if found:
            used_lines.update(found.lines)
            yield found


def _line_of_several(
    matcher: Matcher, line: StatementLine, entries: Sequence[Entry]
) -> Proposal | None:
    """One line for several entries: of the party that it names, else of one day."""
    near = [
        entry
        for entry in entries
        if entry.amount * line.amount > 0
        and abs(entry.amount) < abs(line.amount)
        and EARLIEST <= (line.day - entry.day).days <= SUM_LATEST
    ]
    fields: list[tuple[str, list[Entry]]] = []
    named = matcher.party_named(line)
    if named:
        name = matcher.names.of(named)
        fields.append((f"{name}'s", [e for e in near if matcher.who(e) == named]))
    by_nearness = sorted(near, key=lambda entry: abs((line.day - entry.day).days))
    fields += [("one day's", found) for found in _by_day(by_nearness)]
    found = _exact(fields, line.amount, "entries")
    if found is None:
        return None
    keys = tuple(entry.key for entry in found.members)
    return Proposal(keys, (line.id,), found.certainty, found.why)


def _entry_of_several(
    matcher: Matcher, entry: Entry, lines: Sequence[StatementLine]
) -> Proposal | None:
    """One entry for several lines: of its party, else of one day."""
    near = [
        line
        for line in lines
        if entry.amount * line.amount > 0
        and abs(line.amount) < abs(entry.amount)
        and EARLIEST <= (line.day - entry.day).days <= SUM_LATEST
    ]
    who = matcher.who(entry)
    fields = [("this party's", [line for line in near if matcher.party_named(line) == who])]
    fields += [("one day's", found) for found in _by_day(near)]
    found = _exact(fields, entry.amount, "statement lines")
    if found is None:
        return None
    names = tuple(line.id for line in found.members)
    return Proposal((entry.key,), names, found.certainty, found.why)


Member = TypeVar("Member", Entry, StatementLine)


@dataclass(frozen=True)
class _Exact(Generic[Member]):
    """Members of one field that come to a sum exactly."""

    members: tuple[Member, ...]
    certainty: float
    why: tuple[str, ...]


def _by_day(members: Iterable[Member]) -> list[list[Member]]:
    """Those of one day together, the days in the order in which they come."""
    days: dict[date, list[Member]] = defaultdict(list)
    for line in members:
        days[line.day].append(line)
    return list(days.values())


def _exact(
    fields: Iterable[tuple[str, list[Member]]], total: Minor, what: str
) -> _Exact[Member] | None:
    """The first set in the first field that has one. A field: whose it is, and its members."""
    for whose, field in fields:
        amounts = [abs(line.amount) for line in field[:MOST_CANDIDATES]]
        sets = exact_sets(amounts, abs(total))
        if sets.sets:
            chosen = tuple(field[place] for place in sets.sets[0])
            alone = len(sets.sets) == 1 and sets.complete
            why = [f"{len(chosen)} of {whose} {what} come to exactly this"]
            why += [] if alone else ["another set does too"]
            return _Exact(chosen, _sum_certainty(alone, len(chosen), whose), tuple(why))
    return None


def _sum_certainty(alone: bool, size: int, whose: str) -> float:
    if not alone:
        return 0.6
    named = whose != "one day's"
    return 0.93 if named and size <= 3 else 0.85 if named or size <= 3 else 0.75
