"""What only one process of a practice does at a time: the worker, the mail, the index.

It holds a lease, and renews it; another takes it over where it is gone.
"""

import time
import uuid
from contextlib import suppress

from corkpost.services.workplace import Workplace
from corkpost.store.database import Halted
from corkpost.store.leases import give_back, take

SECONDS = 30
RENEWED_AFTER = 10
HOLDER = uuid.uuid4().hex
"""This process."""


class Lease:
    """One of the things that only one process does."""

    def __init__(self, workplace: Workplace, name: str, holder: str = HOLDER) -> None:
        self._workplace, self._name, self._holder = workplace, name, holder
        self._until = 0.0

    def is_held(self) -> bool:
        """Whether this process does it: it holds the lease, renews it in time, or takes a free one.
        Nobody does where nothing is written."""
        now = time.time()
        if now < self._until - SECONDS + RENEWED_AFTER:
            return True
        until = int(now) + SECONDS
        held = False
        with suppress(Halted), self._workplace.database.writing() as connection:
            held = take(connection, self._name, self._holder, int(now), until)
        self._until = until if held else 0.0
        return held

    def release(self) -> None:
        """Leave it to another at once."""
        if self._until:
            self._until = 0.0
            with suppress(Halted), self._workplace.database.writing() as connection:
                give_back(connection, self._name, self._holder)
