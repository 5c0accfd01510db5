"""What is done by itself, every so often, while the practice is served."""

import logging
import threading
from collections.abc import Callable

from corkpost.core.refusals import Refusal
from corkpost.services import record, sessions
from corkpost.services.find import catch_up
from corkpost.services.keeping_up import keep_up
from corkpost.services.leases import Lease
from corkpost.services.queries import look_for_answers
from corkpost.services.workplace import Workplace

MAIL_SECONDS = 15.0
INDEX_SECONDS = 1.0
KEPT_SECONDS = 0.2
RECORD_SECONDS = 1.0
log = logging.getLogger(__name__)


class Repeating:
    """A thread that does one thing again and again. What goes wrong is logged, and tried again. *lease*: it
    is done by one process alone."""

    def __init__(
        self,
        name: str,
        seconds: float,
        deed: Callable[[], object],
        lease: Lease | None = None,
    ) -> None:
        self._name, self._seconds, self._deed, self._lease = name, seconds, deed, lease
        self._stopped = threading.Event()
        self._thread = threading.Thread(target=self._run, name=name, daemon=True)

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._stopped.set()
        self._thread.join(timeout=10)
        if self._lease is not None:
            self._lease.release()

    def _run(self) -> None:
        said = ""
        while not self._stopped.wait(self._seconds):
            try:
                if self._lease is None or self._lease.is_held():
                    self._deed()
                said = ""
            except Refusal as problem:
                if str(problem) != said:
                    log.warning("%s: %s", self._name, problem)
                said = str(problem)
            except Exception:
                log.exception("%s failed", self._name)


def write_down(workplace: Workplace) -> None:
    """What was looked at goes on record, and when sessions were seen."""
    record.write_seen(workplace)
    sessions.write_seen(workplace)


def background_of(workplace: Workplace) -> tuple[Repeating, ...]:
    """Reading the practice's mail, where it has any; taking into Find's index what was written; keeping
    points and the desk up to date. From then on the desk waits for nothing."""
    made = [
        Repeating("index", INDEX_SECONDS, lambda: catch_up(workplace), Lease(workplace, "index")),
        Repeating("record", RECORD_SECONDS, lambda: write_down(workplace)),
        Repeating(
            "points and desk",
            KEPT_SECONDS,
            lambda: keep_up(workplace),
            Lease(workplace, "points and desk"),
        ),
    ]
    workplace.keeps_up = True
    if workplace.mail is not None:
        made.append(
            Repeating(
                "mail", MAIL_SECONDS, lambda: look_for_answers(workplace), Lease(workplace, "mail")
            )
        )
    return tuple(made)
