"""Sets that add up exactly, by a bounded search that answers alike on every machine."""

from collections.abc import Sequence
from typing import NamedTuple

from corkpost.core.money import Minor

MOST_STEPS = 20_000
MOST_CANDIDATES = 40
MOST_IN_A_SET = 6


class ExactSets(NamedTuple):
    """The first sets found, by their places. *complete*: the whole field was searched."""

    sets: tuple[tuple[int, ...], ...]
    complete: bool


def exact_sets(amounts: Sequence[Minor], total: Minor, *, most: int = 2) -> ExactSets:
    """Up to *most* sets of two or more of the positive *amounts* that add to *total*.

    Smaller sets come first; within a size, those nearer the front. Looks at the first 40 amounts,
    at sets of up to 6, and gives up after 20,000 steps.
    """
    field = [(place, amount) for place, amount in enumerate(amounts[:MOST_CANDIDATES])]
    field = [(place, amount) for place, amount in field if 0 < amount < total]
    found: list[tuple[int, ...]] = []
    steps = 0

    def search(size: int, start: int, left: Minor, chosen: tuple[int, ...]) -> None:
        nonlocal steps
        for index in range(start, len(field)):
            steps += 1
            if len(found) >= most or steps > MOST_STEPS:
                return
            place, amount = field[index]
            if size == 1:
                if amount == left:
                    found.append((*chosen, place))
            elif amount < left:
                search(size - 1, index + 1, left - amount, (*chosen, place))

    for size in range(2, min(MOST_IN_A_SET, len(field)) + 1):
        search(size, 0, total, ())
        if len(found) >= most or steps > MOST_STEPS:
            break
    return ExactSets(tuple(found), steps <= MOST_STEPS and len(amounts) <= MOST_CANDIDATES)
