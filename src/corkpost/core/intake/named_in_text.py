"""Whose an entry is, where only its text says it."""

import re
from collections import defaultdict
from collections.abc import Iterable, Mapping

from corkpost.core.intake.raw import PartyRow

_WORD = re.compile(r"\w+")
LEAST_LETTERS = 4
"""A shorter name stands in other words' company by chance."""


class NamedInText:
    """Finds the customer or supplier whose whole name stands in a text, word by word. The longest name
    counts; where two of one length do, nobody is found."""

    def __init__(self, parties: Iterable[PartyRow]) -> None:
        self._by_first: Mapping[str, list[tuple[tuple[str, ...], str]]] = defaultdict(list)
        for party in parties:
            words = _words(party.name)
            if sum(map(len, words)) >= LEAST_LETTERS and not party.name.isdigit():
                self._by_first[words[0]].append((words, party.code))
        self._known: dict[str, str] = {}

    def party(self, text: str) -> str:
        """The code of the party; empty where none, or more than one, is named."""
        if text not in self._known:
            self._known[text] = self._found(_words(text)) if self._by_first else ""
        return self._known[text]

    def _found(self, said: tuple[str, ...]) -> str:
        best: dict[str, int] = {}
        for place, word in enumerate(said):
            for words, code in self._by_first.get(word, ()):
                if said[place : place + len(words)] == words:
                    best[code] = max(best.get(code, 0), len(words))
        longest = [code for code, length in best.items() if length == max(best.values())]
        return longest[0] if len(longest) == 1 else ""


def _words(text: str) -> tuple[str, ...]:
    return tuple(_WORD.findall(text.casefold()))
