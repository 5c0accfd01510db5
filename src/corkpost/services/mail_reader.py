"""Looks into the practice's mailbox by itself, every so often, while the practice is served."""

import logging
import threading

from corkpost.services.mail import NoMail
from corkpost.services.queries import look_for_answers
from corkpost.services.workplace import Workplace

SECONDS = 15.0
log = logging.getLogger(__name__)


class MailReader:
    """A thread that reads what came in. A mailbox that does not answer is tried again later."""

    def __init__(self, place: Workplace, seconds: float = SECONDS) -> None:
        self._place, self._seconds = place, seconds
        self._stopped = threading.Event()
        self._thread = threading.Thread(target=self._run, name="mail reader", daemon=True)

    def start(self) -> None:
        if self._place.mail is not None:
            self._thread.start()

    def stop(self) -> None:
        self._stopped.set()
        if self._thread.is_alive():
            self._thread.join(timeout=5)

    def _run(self) -> None:
        while not self._stopped.wait(self._seconds):
            try:
                look_for_answers(self._place)
            except NoMail as problem:
                log.warning("%s", problem)
            except Exception:
                # One message that can't be read must not end the reading of all others.
                log.exception("The mailbox could not be read")
