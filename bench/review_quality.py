"""How many of the planted faults each check finds, and how many of its points are faults.

Run by `make review-quality`. Prints recall and precision by check, how often points of each level and of
each certainty are right, and the same by entity; with `-v` every miss and every false alarm, in words.
Thresholds were set on seeds under 100 of the tidy and untidy parts; from 100 on those are written
otherwise. The part from elsewhere shares nothing with them: what it first said is in
`docs/architecture.md`.
"""

import sys
from collections import Counter, defaultdict
from collections.abc import Callable, Iterable
from datetime import date
from typing import NamedTuple

from bench.books_from_elsewhere import elsewhere
from bench.listed_quality import as_lists
from bench.right_moves import right_moves
from corkpost.core.books import Books
from corkpost.core.checks import run_checks
from corkpost.core.points import CheckRun, Point
from corkpost.demo.labelled import Labelled, labelled
from corkpost.demo.untidy.roughened import untidy

TODAY = date(2026, 11, 16)
Fits = Callable[[Point, frozenset[str]], bool]


class Quality(NamedTuple):
    """Counts over some seeds. *levels*: right and all, by the level shown."""

    planted: Counter[str]
    found: Counter[str]
    points: Counter[str]
    right: Counter[str]
    levels: dict[str, tuple[int, int]]
    stated: dict[int, list[tuple[float, bool]]]
    """By tenths of certainty: what each point said, and whether it was right."""
    by_entity: dict[str, Counter[str]]
    """How many were planted, found, said and right."""

    def recall(self, check: str) -> float:
        return self.found[check] / self.planted[check]

    def precision(self, check: str) -> float:
        return self.right[check] / max(self.points[check], 1)


def subjects(point: Point) -> frozenset[str]:
    return frozenset(name for _, name in point.subjects)


def exactly(point: Point, names: frozenset[str]) -> bool:
    """Whether it speaks of these entries and no others."""
    return subjects(point) == names


def at_least(point: Point, names: frozenset[str]) -> bool:
    """Whether these entries are among those that it shows."""
    return names <= subjects(point) | set(point.transactions)


def measure(
    seeds: Iterable[int],
    verbose: bool = False,
    books_of: Callable[[int], Labelled] = labelled,
    fits: Fits = exactly,
) -> Quality:
    """Look at the books of each seed, and compare what is said with what was planted."""
    found = Quality(Counter(), Counter(), Counter(), Counter(), {}, defaultdict(list), {})
    for seed in seeds:
        books, faults = books_of(seed)
        of_entity = found.by_entity.setdefault(books.client.entity, Counter())
        points = run_checks(CheckRun(books, TODAY))
        told = set()
        for point in points:
            mine = {fault for fault in faults if fault[0] == point.check and fits(point, fault[1])}
            told |= mine
            _count(found, of_entity, point, right=bool(mine))
            if verbose and not mine:
                _tell(f"false  {seed}", point.check, f"{point.certainty} {point.summary}")
                _show(books, subjects(point))
        for fault in faults:
            check, names = fault
            found.planted[check] += 1
            of_entity["planted"] += 1
            found.found[check] += fault in told
            of_entity["found"] += fault in told
            if verbose and fault not in told:
                _tell(f"missed {seed}", check, books.client.name)
                _show(books, names)
    return found


def _count(found: Quality, of_entity: Counter[str], point: Point, *, right: bool) -> None:
    found.points[point.check] += 1
    found.right[point.check] += right
    of_entity["said"] += 1
    of_entity["right"] += right
    was = found.levels.get(point.level, (0, 0))
    found.levels[point.level] = (was[0] + right, was[1] + 1)
    found.stated[min(int(point.certainty * 20), 19)].append((point.certainty, right))


def _tell(*words: str) -> None:
    print(" ".join(words))


def _show(books: Books, names: frozenset[str]) -> None:
    for name in sorted(names):
        posted = books.transactions.get(name)
        if posted is None:
            print("     ", name)
        else:
            about = (
                posted.kind.value,
                posted.posting_date,
                posted.reference,
                posted.party,
                posted.memo,
            )
            print("     ", name, *about)


def of_other_shape(seed: int) -> Labelled:
    """Those books with their faults, as the others give them."""
    made = elsewhere(seed)
    return Labelled(made.books, tuple((fault.check, fault.key) for fault in made.faults))


def main() -> None:
    verbose = "-v" in sys.argv
    first, last = [int(a) for a in sys.argv[1:] if a.isdigit()] or [100, 180]
    print(f"untidy evidence, written as nothing was set on, seeds {first} to {last - 1}")
    told(measure(range(first, last), verbose, untidy))
    print(f"\nbooks of another shape, seeds {first} to {last - 1}")
    told(measure(range(first, last), verbose, of_other_shape, at_least))
    moves = right_moves(range(first, last))
    print(
        f"the recommended way moves what is right: {moves.right.total()} of {moves.all.total()}; "
        f"asks first: {moves.asks}"
    )
    for wrong in moves.wrong if verbose else ():
        print("     ", wrong)
    print(f"\nthose of 100 to {last - 1} as their lists bring them, in five layouts")
    told(measure(range(first, last), verbose, as_lists, at_least))
    print("\nuntidy evidence of the part that certainties were set on, seeds 0 to 39")
    told(measure(range(40), books_of=untidy))
    print(f"\ntidy evidence, seeds {first} to {last - 1}")
    told(measure(range(first, last), verbose))


def told(quality: Quality) -> None:
    """Print the figures of one part."""
    print(f"{'check':26} {'planted':>8} {'recall':>8} {'points':>8} {'precision':>10}")
    for check in sorted(quality.planted.keys() | quality.points.keys()):
        if not quality.planted[check]:
            print(f"{check:26} {0:8} {'':8} {quality.points[check]:8}")
            continue
        print(
            f"{check:26} {quality.planted[check]:8} {quality.recall(check):8.3f} "
            f"{quality.points[check]:8} {quality.precision(check):10.3f}"
        )
    recall = quality.found.total() / quality.planted.total()
    precision = quality.right.total() / quality.points.total()
    planted, points = quality.planted.total(), quality.points.total()
    print(f"{'all':26} {planted:8} {recall:8.3f} {points:8} {precision:10.3f}")
    for level, (hits, of) in sorted(quality.levels.items()):
        print(f"shown as {level:7} {hits} of {of} right: {hits / of:.3f}")
    for entity, counts in sorted(quality.by_entity.items()):
        print(
            f"{entity:26} {counts['planted']:8} {counts['found'] / counts['planted']:8.3f} "
            f"{counts['said']:8} {counts['right'] / counts['said']:10.3f}"
        )
    print(f"{'certainty said':>16} {'points':>8} {'mean said':>10} {'right':>8}")
    for part, rows in sorted(quality.stated.items()):
        said = sum(value for value, _ in rows) / len(rows)
        hits = sum(hit for _, hit in rows)
        print(
            f"{part / 20:9.2f} - {(part + 1) / 20:.2f} {len(rows):8} {said:10.3f} {hits / len(rows):8.3f}"
        )


if __name__ == "__main__":
    main()
