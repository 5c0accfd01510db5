"""Whose payment it is: the party that a text names (handbook, section 5)."""

import re
from collections import defaultdict
from collections.abc import Iterable, Mapping
from functools import cached_property, lru_cache

from corkpost.core.books import Books, Party, Transaction
from corkpost.core.kinds import PartyKind

_WORD = re.compile(r"[^\W_]+")
_LEGAL_FORMS = frozenset(
    "LTD LIMITED LLP PLC INC LLC CO COMPANY CORP GMBH AG KG SA SARL SAS BV NV OY AB AS SRL SPA "
    "AND THE OF FOR".split()
)


@lru_cache(maxsize=1 << 16)
def words_of(text: str) -> frozenset[str]:
    """The words of a name or text, upper case, legal forms and small words dropped."""
    return frozenset(_WORD.findall(text.upper())) - _LEGAL_FORMS


def finder_for(books: Books, *kinds: PartyKind) -> "PartyFinder":
    """Finds the books' parties of these kinds, or of any, by their names in a text."""
    wanted = frozenset(kinds or PartyKind)
    parties = books.tables.parties
    name = f"finder of {' '.join(sorted(wanted))}"
    return books.kept.once(name, parties, lambda: PartyFinder(parties, wanted))


class PartyFinder:
    """Finds the party whose name or alias words all stand in a text."""

    def __init__(self, parties: Iterable[Party], kinds: frozenset[PartyKind]) -> None:
        self._parties = [party for party in parties if party.kind in kinds]
        self._named: dict[str, str | None] = {}

    @cached_property
    def _by_rarest_word(self) -> Mapping[str, list[tuple[frozenset[str], str]]]:
        names = [
            (words, party.code)
            for party in self._parties
            for name in (party.name, *party.aliases)
            if (words := words_of(name))
        ]
        use: dict[str, int] = defaultdict(int)
        for words, _ in names:
            for word in words:
                use[word] += 1
        index: dict[str, list[tuple[frozenset[str], str]]] = defaultdict(list)
        for words, code in names:
            index[min(words, key=lambda word: (use[word], word))].append((words, code))
        return index

    def named_in(self, text: str | None) -> str | None:
        """The party that the text names; None where nobody is, or two are equally."""
        # The same texts are asked about at every run.
        key = text or ""
        if key not in self._named:
            self._named[key] = self._find(key)
        return self._named[key]

    def _find(self, text: str) -> str | None:
        stands = words_of(text)
        found: dict[str, int] = {}
        for word in stands:
            for words, code in self._by_rarest_word.get(word, ()):
                if words <= stands:
                    found[code] = max(found.get(code, 0), len(words))
        most = max(found.values(), default=0)
        best = [code for code, length in found.items() if length == most]
        return best[0] if len(best) == 1 else None

    def payee(self, posted: Transaction) -> str | None:
        """The transaction's own party, else the one that its memo names."""
        return posted.party or self.named_in(posted.memo)
