"""Who serves a practice now, among machines that share a place for copies.

Each time another data folder begins to serve it, a term begins: a number that is written to the place once,
and by one of them alone. Each term has a stream of its own, so that who was overtaken can spoil nothing. A
machine that sees a later term than its own writes no more.
"""

import json
import socket
import time
from collections.abc import Iterable
from pathlib import Path
from typing import NamedTuple

from corkpost.core.refusals import Refusal
from corkpost.services.places import Place

KEPT = "term.json"


class ServedElsewhere(Refusal):
    title = "This practice is served by another machine"


class Term(NamedTuple):
    """*at*: when it began, in seconds since 1970. *machine*: its name."""

    number: int
    machine: str
    at: int

    @property
    def stream(self) -> str:
        """The name in the place under which its store is streamed."""
        return f"store-{self.number:04d}"

    @property
    def left(self) -> str:
        """The name that says that its machine has seen a later term, and writes no more."""
        return f"terms/{self.number:04d}.left"


def terms_of(place: Place) -> list[Term]:
    """All of them, the first first. Raises NotReached."""
    names = sorted(name for name in place.names("terms") if name.endswith(".json"))
    return [_read(name, place.read(f"terms/{name}")) for name in names]


def _read(name: str, content: bytes) -> Term:
    try:
        said = json.loads(content)
        return Term(int(name[:4]), str(said["machine"]), int(said["at"]))
    except (ValueError, KeyError):
        # It is being written this moment.
        return Term(int(name[:4]), "another machine", int(time.time()))


def overtaken_by(place: Place, term: Term) -> Term | None:
    """The term that began after this one, if one did. Raises NotReached."""
    later = f"{term.number + 1:04d}.json"
    return _read(later, place.read(f"terms/{later}")) if later in place.names("terms") else None


def begin(place: Place, folder: Path, after: int) -> Term:
    """The next term after that number, for this data folder. Raises NotReached, and ServedElsewhere where
    somebody else began it first."""
    term = Term(after + 1, socket.gethostname(), int(time.time()))
    content = json.dumps({"machine": term.machine, "at": term.at}).encode()
    if not place.claim(f"terms/{term.number:04d}.json", content):
        raise ServedElsewhere("Another machine took it over just now.")
    keep(folder, place, term)
    return term


def keep(folder: Path, place: Place, term: Term) -> None:
    """What this data folder serves, and where its copies go."""
    (folder / KEPT).write_text(json.dumps({"to": str(place), **term._asdict()}), "utf-8")


def enter(place: Place, folder: Path) -> Term:
    """The term in which this data folder copies to the place: its own, which may have been overtaken, or
    the first. Raises NotReached, and ServedElsewhere where the place is another's."""
    known = terms_of(place)
    mine = _kept(folder, place)
    if mine is None and not known:
        return begin(place, folder, 0)
    if mine is None:
        last = known[-1]
        raise ServedElsewhere(
            f"{place} holds the copies of a practice that {last.machine} serves. Name another place; or, "
            f"to serve that practice from here, `corkpost take-over --from` that place."
        )
    if mine not in known:
        raise ServedElsewhere(
            f"{place} no longer holds the copies made from here: name a new place."
        )
    return mine


def told(term: Term) -> str:
    """That another serves it now, in words."""
    since = time.strftime("%Y-%m-%d %H:%M:%S", time.gmtime(term.at))
    return (
        f"{term.machine} took this practice over on {since} (universal time), and serves it. Nothing "
        "more is written here: work goes on there."
    )


def _kept(folder: Path, place: Place) -> Term | None:
    try:
        said = json.loads((folder / KEPT).read_text("utf-8"))
        return (
            Term(said["number"], said["machine"], said["at"]) if said["to"] == str(place) else None
        )
    except (FileNotFoundError, ValueError, KeyError):
        return None


def last_streamed(place: Place, at: float | None = None) -> Term | None:
    """The last term of which there is a copy, or the one of that moment. Raises NotReached."""
    begun = [term for term in terms_of(place) if at is None or term.at <= at]
    for term in reversed(begun):
        if place.names(term.stream):
            return term
    return None


def position(names: Iterable[str]) -> int:
    """How far a stream has come: the number of the last write in its files' names."""
    ends = (Path(name).stem.rpartition("-")[2] for name in names if name.endswith(".ltx"))
    return max((int(end, 16) for end in ends), default=0)
