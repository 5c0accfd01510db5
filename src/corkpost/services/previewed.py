"""What was read of a new client's files to show what would come, kept until it is taken in: what comes into
the books is what was seen, and nothing is understood a second time."""

import contextlib
import hashlib
import json
import time
from collections.abc import Mapping, Sequence
from importlib.metadata import version
from pathlib import Path
from typing import NamedTuple

from corkpost.core.books import ClientFacts
from corkpost.formats.listings.answers import ListingsAnswer
from corkpost.services import books, listings
from corkpost.services.books import Ready, TakenIn, Tell
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace, collector_resting
from corkpost.store.changes import Content
from corkpost.store.charts import accounts_everywhere

KEPT_SECONDS = 24 * 3600
ROWS_AT_ONCE = 5_000


class Previewed(NamedTuple):
    """*used*: the answers that it rests on, as they are remembered. *answer*: what was shown."""

    ready: Ready
    used: dict[str, str]
    answer: ListingsAnswer


def basis(
    workplace: Workplace, person: Person, paths: Sequence[Path], answers: Mapping[str, str]
) -> str:
    """A digest of all that reading these files for a new client depends on besides what the client is: what
    they hold, what was answered, here and for others, the accounts elsewhere, the day, and this program."""
    seen = [
        row for row in accounts_everywhere(workplace.database.reading) if person.sees(row.client)
    ]
    lent = listings.lent_answers(workplace, person, "")
    program = (version("corkpost"), workplace.database.form, workplace.today.isoformat())
    said = hashlib.sha256(json.dumps([program, dict(answers), lent, seen], sort_keys=True).encode())
    for path in paths:
        said.update(json.dumps(path.name).encode())
        with path.open("rb") as file:
            said.update(hashlib.file_digest(file, "sha256").digest())
    return said.hexdigest()


def keep(
    workplace: Workplace, person: Person, basis: str, seen: listings.Seen, answer: ListingsAnswer
) -> None:
    """Keep what was seen, in place of what this person saw before. *answer*: what was shown."""
    place = _place(workplace, person, basis, seen.facts)
    drop(workplace, person)
    taken, content = seen.ready
    head = {"taken": taken, "used": seen.used, "answer": answer.model_dump(mode="json")}
    part = place.with_suffix(".part")
    try:
        place.parent.mkdir(parents=True, exist_ok=True)
        with part.open("w", encoding="utf-8") as file:
            print(json.dumps(head), file=file)
            for table, rows in vars(content).items():
                for start in range(0, len(rows), ROWS_AT_ONCE):
                    print(json.dumps([table, rows[start : start + ROWS_AT_ONCE]]), file=file)
        part.rename(place)
    except OSError:
        # Nothing hangs on it: without it the files are read once more.
        with contextlib.suppress(OSError):
            part.unlink()


def find(
    workplace: Workplace, person: Person, basis: str, what: ClientFacts | listings.NewClient
) -> Previewed | None:
    """What this person saw last, if it was read of the very same as the same kind of client."""
    content = Content()
    try:
        with (
            collector_resting(),
            _place(workplace, person, basis, what).open(encoding="utf-8") as file,
        ):
            head = json.loads(file.readline())
            for part in file:
                table, rows = json.loads(part)
                getattr(content, table).extend(rows)
    except (OSError, ValueError):
        # It is not there, or not whole: the files are read once more.
        return None
    taken = TakenIn(*head["taken"])
    return Previewed(Ready(taken, content), head["used"], ListingsAnswer(**head["answer"]))


def take_in(
    workplace: Workplace,
    person: Person,
    code: str,
    name: str,
    files: Sequence[str],
    seen: Previewed,
    tell: Tell,
) -> ListingsAnswer:
    """Write a new client's books as they were seen. *name*: the client's. Raises ChangedMeanwhile where
    there is one of that code by now."""
    books.take_in_ready(workplace, person, code, name, seen.ready, ", ".join(files), tell)
    listings.keep_answers(workplace, person, code, seen.used)
    drop(workplace, person)
    return seen.answer.model_copy(update={"client": code, "taken": True})


def drop(workplace: Workplace, person: Person) -> None:
    """Keep nothing more of what this person saw, nor of what anybody saw a day ago."""
    oldest = time.time() - KEPT_SECONDS
    for kept in _folder(workplace).glob("*.*"):
        with contextlib.suppress(FileNotFoundError):
            if kept.name.split(".")[0] == person.code or kept.stat().st_mtime < oldest:
                kept.unlink()


def _place(
    workplace: Workplace, person: Person, basis: str, what: ClientFacts | listings.NewClient
) -> Path:
    kind = json.dumps([basis, what.entity, what.year_end, what.currency.code])
    return _folder(workplace) / f"{person.code}.{hashlib.sha256(kind.encode()).hexdigest()}.jsonl"


def _folder(workplace: Workplace) -> Path:
    return workplace.database.folder / "uploads" / "previewed"
