"""Counts of a practice for whoever watches the machine; nothing of them names a client or a person."""

import shutil
import time
from collections.abc import Iterator
from typing import NamedTuple

from corkpost.services.workplace import Workplace
from corkpost.store.watching import SINGLE


class Count(NamedTuple):
    """*says*: what it counts, in words."""

    name: str
    says: str
    value: float


def counts(workplace: Workplace) -> Iterator[Count]:
    """Each count as it stands."""
    with workplace.database.snapshot() as connection:
        for name, (says, query) in SINGLE.items():
            value = connection.execute(query, {"now": int(time.time())}).fetchone()[0]
            yield Count(name, says, value or 0)
    folder = workplace.database.folder
    yield Count("store_bytes", "Size of the store's file", workplace.database.path.stat().st_size)
    yield Count("disk_free_bytes", "Free on the store's disk", shutil.disk_usage(folder).free)
    yield Count("to_be_recorded", "Looks that are not on record yet", len(workplace.seen))
