"""How many of the planted faults each check finds, and how many of its points are faults.

Run by `make review-quality`. Prints recall, precision, and how often points of each level are right.
"""

import sys
from collections import Counter
from collections.abc import Iterable
from datetime import date
from typing import NamedTuple

from corkpost.core.checks import run_checks
from corkpost.core.points import Look, Point
from corkpost.demo.labelled import labelled

TODAY = date(2026, 11, 16)


class Quality(NamedTuple):
    """Counts over some seeds. *levels*: right and all, by the level shown."""

    planted: Counter[str]
    found: Counter[str]
    points: Counter[str]
    right: Counter[str]
    levels: dict[str, tuple[int, int]]

    def recall(self, check: str) -> float:
        return self.found[check] / self.planted[check]

    def precision(self, check: str) -> float:
        return self.right[check] / self.points[check]


def subjects(point: Point) -> frozenset[str]:
    return frozenset(name for _, name in point.subjects)


def measure(seeds: Iterable[int], verbose: bool = False) -> Quality:
    """A point is right when it speaks of exactly the transactions of a planted fault."""
    planted: Counter[str] = Counter()
    found: Counter[str] = Counter()
    points: Counter[str] = Counter()
    right: Counter[str] = Counter()
    levels: dict[str, tuple[int, int]] = {}
    for seed in seeds:
        books, faults = labelled(seed)
        wanted = set(faults)
        got = set()
        for point in run_checks(Look(books, TODAY)):
            named = (point.check, subjects(point))
            hit = named in wanted
            got.add(named)
            points[point.check] += 1
            right[point.check] += hit
            was = levels.get(point.level, (0, 0))
            levels[point.level] = (was[0] + hit, was[1] + 1)
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
    return Quality(planted, found, points, right, levels)


def main() -> None:
    verbose = "-v" in sys.argv
    first, last = [int(a) for a in sys.argv[1:] if a.isdigit()] or [100, 130]
    quality = measure(range(first, last), verbose)
    print(f"{'check':26} {'planted':>8} {'recall':>8} {'points':>8} {'precision':>10}")
    for check in sorted(quality.planted):
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


if __name__ == "__main__":
    main()
