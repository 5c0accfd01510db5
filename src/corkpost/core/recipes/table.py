"""A table that a recipe is told: CSV with a heading, by comma, semicolon or tab."""

import csv
import io
from collections.abc import Iterator, Sequence

from corkpost.core.cells import cell_said
from corkpost.core.refusals import BadEntry

MOST = 5_000


def rows_of(
    text: str, ask: str, needed: Sequence[str], columns: Sequence[str]
) -> Iterator[tuple[int, dict[str, str]]]:
    """Each row with its line, every one of *columns* in it, empty where the table lacks it. Raises BadEntry
    where *needed* ones are missing, others are there, or there are no or too many rows."""
    first = text.partition("\n")[0]
    reader = csv.DictReader(
        io.StringIO(text.lstrip("\ufeff")), delimiter=max(",;\t", key=first.count)
    )
    heading = [name.strip().lower() for name in reader.fieldnames or ()]
    if not set(needed) <= set(heading) <= set(columns):
        raise BadEntry(
            [f"{ask}: its columns are {', '.join(columns)}; {', '.join(needed)} must be there."]
        )
    reader.fieldnames = heading
    number = 1
    for number, cells in enumerate(reader, 2):
        if number > MOST + 1:
            raise BadEntry([f"{ask}: it has more than {MOST:,} rows."])
        yield number, {name: cell_said((cells.get(name) or "").strip()) for name in columns}
    if number == 1:
        raise BadEntry([f"{ask}: it has no row below its heading."])
