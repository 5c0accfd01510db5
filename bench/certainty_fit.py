"""Fits what each check's certainties are worth, on the parts of the labelled books that are for that.

`python -m bench.certainty_fit` writes `core/evidence/certainty.json`. For each check and each certainty
that it says: how many points were right, drawn towards what was said as so many more points would, and
made to rise (pooled where they do not). Seeds under 100 of the tidy and untidy books, and of the books of
another shape; what is reported is measured from 100 on.
"""

import json
from collections import defaultdict
from collections.abc import Iterable
from pathlib import Path

from bench.review_quality import TODAY, Fits, at_least, exactly, of_other_shape
from corkpost.core.checks import as_said
from corkpost.core.points import CheckRun
from corkpost.demo.labelled import labelled
from corkpost.demo.untidy.roughened import untidy

TO = Path("src/corkpost/core/evidence/certainty.json")
DRAWN = 20
"""What was said weighs as much as so many points."""
FEWEST = 5
PARTS = (
    (labelled, range(40), exactly),
    (untidy, range(60), exactly),
    (of_other_shape, range(60), at_least),
)
Counts = dict[str, dict[float, list[bool]]]


def counted() -> Counts:
    """By check and certainty said, whether each point was right."""
    found: Counts = defaultdict(lambda: defaultdict(list))
    for books_of, seeds, fits in PARTS:
        for seed in seeds:
            books, faults = books_of(seed)
            _count(found, CheckRun(books, TODAY), faults, fits)
    return found


def _count(
    found: Counts, run: CheckRun, faults: Iterable[tuple[str, frozenset[str]]], fits: Fits
) -> None:
    keys: dict[str, list[frozenset[str]]] = defaultdict(list)
    for name, key in faults:
        keys[name].append(key)
    for point in as_said(run):
        right = any(fits(point, key) for key in keys[point.check])
        found[point.check][point.certainty].append(right)


def fitted(by_said: dict[float, list[bool]]) -> list[tuple[float, float]]:
    """Each certainty said with what it is worth, rising: neighbours that fall are pooled."""
    pools: list[tuple[list[float], float, float]] = []
    for said, rows in sorted(by_said.items()):
        if len(rows) < FEWEST:
            continue
        weight = len(rows) + DRAWN
        pools.append(([said], (sum(rows) + DRAWN * said) / weight, weight))
        while len(pools) > 1 and pools[-2][1] > pools[-1][1]:
            (names, one, a), (more, other, b) = pools[-2:]
            pools[-2:] = [([*names, *more], (one * a + other * b) / (a + b), a + b)]
    return [(said, round(worth, 3)) for names, worth, _ in pools for said in names]


def main() -> None:
    found = {check: fitted(rows) for check, rows in sorted(counted().items())}
    lines = [
        f"  {json.dumps(check)}: {json.dumps(steps)}" for check, steps in found.items() if steps
    ]
    TO.write_text("{\n" + ",\n".join(lines) + "\n}\n", "utf-8")
    print(f"{TO}: {len(lines)} checks")


if __name__ == "__main__":
    main()
