"""Reading a large statement in a process of its own: what takes too much time or memory ends there, and
nothing else stops. A small one, which can take neither, is read here: a process takes longer to begin. A
spreadsheet is packed, and never small.

Run as a program it reads a pickle of the content and the columns on standard input, and writes one of what
came of it. What is unpickled here was pickled by our own program.
"""

import pickle
import resource
import subprocess
import sys

from corkpost.formats.statements.csv_table import Columns, NeedsColumns
from corkpost.formats.statements.parsed import ParsedFile, UnreadableStatement
from corkpost.formats.statements.reading import read_statement
from corkpost.formats.workbooks import is_workbook

SMALL = 256 * 1024
SECONDS = 60
MEMORY = 2 * 1024**3
"""Octets of address space: twenty megabytes of XML take a half of it."""


def read_within_limits(content: bytes, columns: Columns | None = None) -> ParsedFile:
    """What the file holds, as `read_statement`. Raises UnreadableStatement also where it takes too much."""
    if len(content) <= SMALL and not is_workbook(content):
        return read_statement(content, columns)
    try:
        done = subprocess.run(
            [sys.executable, "-m", "corkpost.formats.statements.apart", str(SECONDS)],
            input=pickle.dumps((content, columns)),
            capture_output=True,
            timeout=SECONDS + 30,
            check=True,
        )
        kind, found = pickle.loads(done.stdout)
    except (subprocess.SubprocessError, pickle.UnpicklingError, EOFError):
        raise UnreadableStatement(
            "Reading the file took more time or memory than a statement may. Look whether it is the "
            "right file; else fetch it from the bank in parts."
        ) from None
    if kind == "columns":
        raise NeedsColumns(*found)
    if kind == "unreadable":
        raise UnreadableStatement(found)
    parsed: ParsedFile = found
    return parsed


def main() -> None:
    seconds = int(sys.argv[1])
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    content, columns = pickle.load(sys.stdin.buffer)
    told: tuple[str, object]
    try:
        told = ("parsed", read_statement(content, columns))
    except NeedsColumns as asked:
        told = ("columns", (asked.layout, asked.guessed))
    except UnreadableStatement as wrong:
        told = ("unreadable", str(wrong))
    pickle.dump(told, sys.stdout.buffer)


if __name__ == "__main__":
    main()
