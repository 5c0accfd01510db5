"""What is wrong with a books folder: file, line and column, all of it at once."""

from corkpost.core.refusals import Refusal

MOST_LISTED = 100


class FaultyBooks(Refusal):
    """Nothing was taken in. `faults` are lines of the form `file:line: column: what, and what to do`."""

    title = "These books can't be taken in"

    def __init__(self, faults: "Faults") -> None:
        self.faults = faults.listed
        self.count = faults.count
        more = f"\n... and {faults.count - MOST_LISTED} more" if faults.count > MOST_LISTED else ""
        super().__init__(
            f"Nothing was taken in: {faults.count} fault{'s' if faults.count > 1 else ''} found.\n"
            + "\n".join(faults.listed)
            + more
        )


class Faults:
    """Collects faults; keeps the first hundred and counts the rest."""

    def __init__(self) -> None:
        self.listed: list[str] = []
        self.count = 0

    def add(self, file: str, line: int, column: str, what: str) -> None:
        """*line* as an editor counts them, from 1; *column* by its heading."""
        self.count += 1
        if len(self.listed) < MOST_LISTED:
            self.listed.append(f"{file}:{line}: {column}: {what}")

    def refuse_any(self) -> None:
        if self.count:
            raise FaultyBooks(self)
