"""A job done in a process of its own, within limits of time and memory: a file that takes too much ends
that process, and nobody else notices.

Run as a program it does one job of a practice: its folder, the day, and the job's id.
"""

import os
import resource
import subprocess
import sys
import threading
from datetime import date
from pathlib import Path

from corkpost.core.refusals import Refusal
from corkpost.services.workplace import Workplace

SECONDS = 30 * 60
MEMORY = 4 * 1024**3
"""Octets of address space, unless CORKPOST_IMPORT_MEMORY says how many megabytes."""


class TookTooMuch(Refusal):
    title = "The file takes too much"


def do_apart(workplace: Workplace, job_id: str) -> None:
    """Do the claimed job in a process of its own, which writes what comes of it. Raises TookTooMuch where
    it was ended before that."""
    words = [str(workplace.database.folder), workplace.today.isoformat(), job_id]
    command = [sys.executable, "-m", "corkpost.services.jobs_apart", *words]
    with subprocess.Popen(command, stdin=subprocess.PIPE) as process:
        try:
            code = process.wait(timeout=SECONDS)
        except subprocess.TimeoutExpired:
            process.kill()
            code = None
    if code != 0:
        raise TookTooMuch(
            "Reading it took more time or memory than an import may have. Nothing was taken in. Look "
            "whether it is the right file; a very large client is taken in by the command line."
        )


def _end_with_who_asked() -> None:
    """Where the process that started this one is gone, its end of the pipe is closed: another takes the job
    up, and it is not done twice."""
    os.read(0, 1)
    os._exit(1)


def main() -> None:
    # Imported here: what runs this in the same process imports it the other way round.
    from corkpost.services.jobs import perform
    from corkpost.store.jobs import job_named

    threading.Thread(target=_end_with_who_asked, daemon=True).start()
    folder, today, job_id = sys.argv[1:]
    most = int(os.environ.get("CORKPOST_IMPORT_MEMORY", MEMORY // 1024**2)) * 1024**2
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
    workplace = Workplace(Path(folder), date.fromisoformat(today))
    try:
        row = job_named(workplace.database.reading, job_id)
        if row is not None:
            perform(workplace, row)
    finally:
        workplace.close()


if __name__ == "__main__":
    main()
