"""Who is meant: the party that a text names, however it is written (handbook, section 5).

Banks cut their lines, join words and print no accents; bookkeepers shorten and slip. A name is told by its
words, the rarest weighing most, and by the margin to the next best.
"""

import re
import unicodedata
from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping
from functools import cached_property, lru_cache
from typing import NamedTuple

from rapidfuzz.distance import OSA

from corkpost.core.books import Books, Party, Transaction
from corkpost.core.kinds import PartyKind

ENOUGH = 0.62
"""A likeness below this names nobody."""
SURELY = 0.9
MARGIN = 0.12
"""The next best has to be so much less."""
CUT_AT_END, SHORTENED, SLIPPED, JOINED = 0.92, 0.85, 0.85, 0.95
"""What a word counts that the end of the line cut, that was shortened, keyed with a slip, run together."""
MISSING_BEHIND_A_CUT = 0.3
"""What a word weighs that the line had no room for."""
WITHOUT_ITS_FIRST = 0.8
"""The first word of a name tells most: the others are what many do."""
LEAST_CUT = 12
"""A text of fewer letters was not cut by the end of its line."""
LEAST_JOINED = 7
LEAST_SLIPPED = 5
LEAST_SHORTENED = 4

_WORD = re.compile(r"[^\W\d_]+")
_APART = str.maketrans(
    {
        "ß": "SS",
        "ẞ": "SS",
        "Ø": "O",
        "Æ": "AE",
        "Œ": "OE",
        "Ł": "L",
        "Đ": "D",
        "Þ": "TH",
        "Ð": "D",
        "ı": "I",
    }
)
LEGAL_FORMS = frozenset(
    "LTD LIMITED LLP PLC INC LLC CO COMPANY CORP GMBH AG KG SA SARL SAS BV NV OY AB AS APS SRL SPA SL "
    "SCEA AND THE OF FOR UND ET EN".split()
)
"""Words of a name that tell nobody from another."""


@lru_cache(maxsize=1 << 16)
def spoken(text: str) -> tuple[str, ...]:
    """The words of a text in their order: capitals, no accents, no digits, no legal forms."""
    bare = unicodedata.normalize("NFD", text.upper().translate(_APART))
    bare = "".join(sign for sign in bare if not unicodedata.combining(sign))
    return tuple(word for word in _WORD.findall(bare) if word not in LEGAL_FORMS)


class Named(NamedTuple):
    """A party that a text may name. *likeness*: 0 to 1. *words*: those of the text that speak for it."""

    party: str
    likeness: float
    words: frozenset[str]


class _Name(NamedTuple):
    party: str
    words: tuple[str, ...]
    joined: str


def finder_for(books: Books, *kinds: PartyKind) -> "PartyFinder":
    """Finds the books' parties of these kinds, or of any, by their names in a text."""
    wanted = frozenset(kinds or PartyKind)
    parties = books.tables.parties
    name = f"finder of {' '.join(sorted(wanted))}"
    return books.kept.once(name, parties, lambda: PartyFinder(parties, wanted))


class PartyFinder:
    """Finds the party that a text names. Others than those of *kinds* are never found; but where the text
    names one of them better, nobody of *kinds* is."""

    def __init__(self, parties: Iterable[Party], kinds: frozenset[PartyKind]) -> None:
        self._parties = tuple(parties)
        self._wanted = frozenset(party.code for party in self._parties if party.kind in kinds)
        self._known: dict[tuple[str, ...], str | None] = {}
        self._equally: dict[tuple[str, ...], tuple[str, ...]] = {}

    def named_in(self, text: str | None) -> str | None:
        """The party that the text names; None where nobody is, or two are nearly equally."""
        # The same texts are asked about at every run, and differ in numbers alone.
        words = spoken(text or "")
        if words not in self._known:
            self._known[words] = self._best(words)
        return self._known[words]

    def likeliest(self, text: str | None) -> tuple[str, ...]:
        """The parties that the text may name about equally well, where it names one at all."""
        words = spoken(text or "")
        if words not in self._equally:
            ranked = [row for row in self.ranked(words) if row.party in self._wanted]
            best = ranked[0].likeness if ranked else 0.0
            near = tuple(row.party for row in ranked if best - row.likeness < MARGIN)
            self._equally[words] = near if best >= ENOUGH else ()
        return self._equally[words]

    def namesakes(self, party: str) -> tuple[str, ...]:
        """The other parties of these kinds that bear one of its names."""
        own = self._called.get(party, set())
        found = dict.fromkeys(other for name in own for other in self._by_joined[name])
        return tuple(other for other in found if other != party and other in self._wanted)

    def payee(self, posted: Transaction) -> str | None:
        """The transaction's own party, else the one that its memo names."""
        return posted.party or self.named_in(posted.memo)

    def likeness(self, text: str | None, party: str) -> float:
        """How much the text looks like naming that party, whoever else it may name."""
        words = spoken(text or "")
        found = (_score(name, words, self._weights) for name in self._names if name.party == party)
        return max((row.likeness for row in found), default=0.0)

    def ranked(self, words: tuple[str, ...]) -> list[Named]:
        """The parties that the words may name, the likeliest first."""
        best: dict[str, Named] = {}
        for name in self._candidates(words):
            found = _score(name, words, self._weights)
            known = best.get(name.party)
            if found.likeness > 0 and (known is None or found > known._replace(words=found.words)):
                best[name.party] = found
        return sorted(best.values(), key=lambda row: (-row.likeness, -len(row.words), row.party))

    def _best(self, words: tuple[str, ...]) -> str | None:
        enough = [row for row in self.ranked(words) if row.likeness >= ENOUGH]
        # Who is named by more of the same words is meant: not who has a part of that name.
        full = [
            row
            for row in enough
            if not any(
                row.words < other.words and row.likeness <= other.likeness for other in enough
            )
        ]
        wanted = [row for row in full if row.party in self._wanted]
        if not wanted:
            return None
        best = wanted[0]
        others = [row for row in full if row.party != best.party]
        rival = max((r.likeness for r in others if r.party in self._wanted), default=0.0)
        # One that is known as customer and supplier has the same name on both sides.
        named = self._called[best.party]
        strangers = (
            row.likeness
            for row in others
            if row.party not in self._wanted and not self._called[row.party] & named
        )
        stranger = max(strangers, default=0.0)
        own = best.likeness >= stranger + (0 if best.likeness >= SURELY else MARGIN)
        return best.party if own and best.likeness - rival >= MARGIN else None

    # -- where to look

    @cached_property
    def _names(self) -> tuple[_Name, ...]:
        found = []
        for party in self._parties:
            for name in (party.name, *party.aliases):
                words = spoken(name)
                if words:
                    found.append(_Name(party.code, words, "".join(words)))
        return tuple(found)

    @cached_property
    def _called(self) -> Mapping[str, set[str]]:
        """Each party's names, run together. Two of one kind with one name are told apart by nothing."""
        found: dict[str, set[str]] = defaultdict(set)
        for name in self._names:
            found[name.party].add(name.joined)
        return found

    @cached_property
    def _by_joined(self) -> Mapping[str, tuple[str, ...]]:
        """The parties of each whole name."""
        found: dict[str, list[str]] = defaultdict(list)
        for name in self._names:
            found[name.joined].append(name.party)
        return {joined: tuple(parties) for joined, parties in found.items()}

    @cached_property
    def _weights(self) -> Mapping[str, float]:
        """What each word tells: less where many parties have it, more where it is long."""
        use = Counter(
            word for _, words in {(n.party, n.words) for n in self._names} for word in set(words)
        )
        return {word: min(len(word), 8) / times for word, times in use.items()}

    @cached_property
    def _by_part(self) -> Mapping[str, tuple[_Name, ...]]:
        """The names by each of their words, its beginning, what is left of it without a letter, and by the
        beginning of the whole run together."""
        index: dict[str, set[_Name]] = defaultdict(set)
        for name in self._names:
            index[f"joined {name.joined[:LEAST_JOINED]}"].add(name)
            for word in name.words:
                index[word].add(name)
                index[f"begins {word[:LEAST_SHORTENED]}"].add(name)
                if len(word) >= LEAST_SLIPPED:
                    for rest in _without_one(word):
                        index[f"slip {rest}"].add(name)
        return {part: tuple(sorted(names)) for part, names in index.items()}

    def _candidates(self, words: tuple[str, ...]) -> set[_Name]:
        found: set[_Name] = set()
        index = self._by_part
        for word in words:
            found.update(index.get(word, ()))
            found.update(index.get(f"begins {word[:LEAST_SHORTENED]}", ()))
            if len(word) >= LEAST_SLIPPED:
                for rest in (word, *_without_one(word)):
                    found.update(index.get(f"slip {rest}", ()))
        joined = "".join(words)
        for place in range(len(joined) - LEAST_JOINED + 1):
            found.update(index.get(f"joined {joined[place : place + LEAST_JOINED]}", ()))
        return found


@lru_cache(maxsize=1 << 14)
def _without_one(word: str) -> tuple[str, ...]:
    return tuple(dict.fromkeys(word[:n] + word[n + 1 :] for n in range(len(word))))


def _score(name: _Name, words: tuple[str, ...], weights: Mapping[str, float]) -> Named:
    by_words = _by_words(name, words, weights)
    run_together = _run_together(name, words)
    return max(by_words, run_together, key=lambda row: row.likeness)


def _by_words(name: _Name, words: tuple[str, ...], weights: Mapping[str, float]) -> Named:
    said, of, spoke = 0.0, 0.0, set()
    reached_end, may_be_cut = False, sum(map(len, words)) >= LEAST_CUT
    for word in name.words:
        weight = weights[word]
        best, by = max(
            (
                (_alike(word, other, place == len(words) - 1), other)
                for place, other in enumerate(words)
            ),
            default=(0.0, ""),
        )
        if not best and reached_end and may_be_cut:
            weight *= MISSING_BEHIND_A_CUT
        if best:
            spoke.add(by)
        reached_end = (bool(best) and by == words[-1]) or (reached_end and not best)
        said += weight * best
        of += weight
    likeness = said / of if of else 0.0
    if not any(_alike(name.words[0], other, is_last=False) for other in words):
        likeness *= WITHOUT_ITS_FIRST
    return Named(name.party, likeness, frozenset(spoke))


def _alike(word: str, said: str, is_last: bool) -> float:
    """How much *said* is that word of a name: whole, cut by the end of the line, shortened, with a slip."""
    if said == word:
        return 1.0
    if word.startswith(said):
        if is_last and len(said) >= 3:
            return CUT_AT_END
        return SHORTENED if len(said) >= LEAST_SHORTENED else 0.0
    if min(len(word), len(said)) >= LEAST_SLIPPED and OSA.distance(word, said, score_cutoff=1) == 1:
        return SLIPPED
    return 0.0


def _of_beginnings(name: _Name, word: str) -> Named:
    """A word that is put together of the beginnings of the name's words, the first ones at least."""
    rest, used = word, 0
    for part in name.words:
        length = next(
            (n for n in range(min(len(part), len(rest)), 2, -1) if rest.startswith(part[:n])), 0
        )
        if not length or (used == 0 and length < LEAST_SHORTENED):
            break
        rest, used = rest[length:], used + 1
    if rest or used < 2:
        return Named(name.party, 0.0, frozenset())
    return Named(name.party, SHORTENED * JOINED * used / len(name.words), frozenset([word]))


def _run_together(name: _Name, words: tuple[str, ...]) -> Named:
    """The name's words without gaps, as far as they stand in the text's without gaps."""
    joined = "".join(words)
    nothing = Named(name.party, 0.0, frozenset())
    if len(name.joined) >= 2 * LEAST_SLIPPED and name.joined not in joined:
        for word in words:
            if OSA.distance(name.joined, word, score_cutoff=1) == 1:
                return Named(name.party, SLIPPED, frozenset([word]))
    if len(name.joined) < LEAST_JOINED or name.joined[:LEAST_JOINED] not in joined:
        return max((_of_beginnings(name, word) for word in words), default=nothing)
    length = len(name.joined)
    while name.joined[:length] not in joined:
        length -= 1
    spoke = frozenset(
        word for word in words if word in name.joined or name.joined[:LEAST_JOINED] in word
    )
    if length == len(name.joined):
        return Named(name.party, JOINED, spoke)
    share = length / len(name.joined)
    if joined.endswith(name.joined[:length]) and len(joined) >= LEAST_CUT:
        return Named(name.party, CUT_AT_END * (0.6 + 0.4 * share), spoke)
    return Named(name.party, share * SHORTENED, spoke)
