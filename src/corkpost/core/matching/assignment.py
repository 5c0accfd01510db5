"""Who goes with whom, so that the whole fits best: not one by one, each taking what it likes best."""

from collections.abc import Sequence


def best_assignment(gains: Sequence[Sequence[int]]) -> list[int | None]:
    """For each row the column that it goes with, so that the sum of gains is the highest there is.

    None: nothing that it could go with gains anything. Ties go to lower columns. Cubic in the size: for
    a few dozen rows. By shortest augmenting paths with potentials.
    """
    if not gains or not gains[0]:
        return [None] * len(gains)
    rows, columns = len(gains), len(gains[0])
    size = max(rows, columns)
    cost = [
        [-max(gains[i][j], 0) if i < rows and j < columns else 0 for j in range(size)]
        for i in range(size)
    ]
    of_row = [0.0] * (size + 1)
    of_column = [0.0] * (size + 1)
    taken = [0] * (size + 1)
    for row in range(1, size + 1):
        _augment(cost, row, of_row, of_column, taken)
    found: list[int | None] = [None] * rows
    for column in range(1, columns + 1):
        row = taken[column] - 1
        if row < rows and gains[row][column - 1] > 0:
            found[row] = column - 1
    return found


def _augment(
    cost: Sequence[Sequence[int]],
    row: int,
    of_row: list[float],
    of_column: list[float],
    taken: list[int],
) -> None:
    """Give the row (from 1) a column, moving others where that costs least."""
    size = len(cost)
    least = [float("inf")] * (size + 1)
    came_from = [0] * (size + 1)
    seen = [False] * (size + 1)
    taken[0] = row
    column = 0
    while taken[column]:
        seen[column] = True
        here, step, following = taken[column], float("inf"), 0
        for other in range(1, size + 1):
            if seen[other]:
                continue
            reduced = cost[here - 1][other - 1] - of_row[here] - of_column[other]
            if reduced < least[other]:
                least[other], came_from[other] = reduced, column
            if least[other] < step:
                step, following = least[other], other
        for other in range(size + 1):
            if seen[other]:
                of_row[taken[other]] += step
                of_column[other] -= step
            else:
                least[other] -= step
        column = following
    while column:
        taken[column] = taken[came_from[column]]
        column = came_from[column]
