"""How many of the planted faults each check finds, and how many of its points are faults.

Run by `make review-quality`. Prints recall, precision, and how often points of each level and of each
certainty are right. Thresholds were set on seeds under 100; from 100 on books are written otherwise.
"""

import sys
from collections import Counter, defaultdict
from collections.abc import Callable, Iterable
from datetime import date
from typing import NamedTuple

from corkpost.core.checks import run_checks
from corkpost.core.points import CheckRun, Point
from corkpost.demo.labelled import Labelled, labelled
from corkpost.demo.untidy.roughened import untidy

TODAY = date(2026, 11, 16)


class Quality(NamedTuple):
    """Counts over some seeds. *levels*: right and all, by the level shown."""

    planted: Counter[str]
    found: Counter[str]
    points: Counter[str]
    right: Counter[str]
    levels: dict[str, tuple[int, int]]
    stated: dict[int, list[tuple[float, bool]]]
    """By tenths of certainty: what each point said, and whether it was right."""

    def recall(self, check: str) -> float:
        return self.found[check] / self.planted[check]

    def precision(self, check: str) -> float:
        return self.right[check] / self.points[check]


def subjects(point: Point) -> frozenset[str]:
    return frozenset(name for _, name in point.subjects)


def measure(
    seeds: Iterable[int], verbose: bool = False, books_of: Callable[[int], Labelled] = labelled
) -> Quality:
    """A point is right when it speaks of exactly the transactions of a planted fault."""
    planted: Counter[str] = Counter()
    found: Counter[str] = Counter()
    points: Counter[str] = Counter()
    right: Counter[str] = Counter()
    levels: dict[str, tuple[int, int]] = {}
    stated: dict[int, list[tuple[float, bool]]] = defaultdict(list)
    for seed in seeds:
        books, faults = books_of(seed)
        wanted = set(faults)
        got = set()
        for point in run_checks(CheckRun(books, TODAY)):
            named = (point.check, subjects(point))
            hit = named in wanted
            got.add(named)
            points[point.check] += 1
            right[point.check] += hit
            was = levels.get(point.level, (0, 0))
            levels[point.level] = (was[0] + hit, was[1] + 1)
            stated[min(int(point.certainty * 20), 19)].append((point.certainty, hit))
            if verbose and not hit:
                print("wrong ", seed, point.check, point.certainty, point.summary, point.because)
                for name in sorted(subjects(point) & books.transactions.keys()):
                    t = books.transactions[name]
                    print("   ", t.id, t.kind.value, t.posting_date, t.reference, t.party, t.memo)
        for check, names in faults:
            planted[check] += 1
            found[check] += (check, names) in got
            if verbose and (check, names) not in got:
                print("missed", seed, check)
                for name in sorted(names & books.transactions.keys()):
                    t = books.transactions[name]
                    print("   ", t.id, t.kind.value, t.posting_date, t.reference, t.party, t.memo)
    return Quality(planted, found, points, right, levels, stated)


def main() -> None:
    verbose = "-v" in sys.argv
    first, last = [int(a) for a in sys.argv[1:] if a.isdigit()] or [100, 180]
    print(f"untidy evidence, written as nothing was set on, seeds {first} to {last - 1}")
    told(measure(range(first, last), verbose, untidy))
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
    print(f"{'certainty said':>16} {'points':>8} {'mean said':>10} {'right':>8}")
    for part, rows in sorted(quality.stated.items()):
        said = sum(value for value, _ in rows) / len(rows)
        hits = sum(hit for _, hit in rows)
        print(
            f"{part / 20:9.2f} - {(part + 1) / 20:.2f} {len(rows):8} {said:10.3f} {hits / len(rows):8.3f}"
        )


if __name__ == "__main__":
    main()
