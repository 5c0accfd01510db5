"""A practice at work, for tests of the store, the services and the API."""

import atexit
import shutil
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from functools import cache
from pathlib import Path
from tempfile import mkdtemp

from corkpost.core.books import Books
from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.kinds import EntryKind, Role
from corkpost.core.states import StatedPoint
from corkpost.core.tie_outs.agreeing import AgreeTieOut, TieOutState, stated_tie_outs
from corkpost.formats.acts import PointAct
from corkpost.services import acts, books, review, sign_off, staff
from corkpost.services.posting import PostRequest
from corkpost.services.rights import Person
from corkpost.services.workplace import Posted, Workplace
from tests.builders import CODES, TODAY, day
from tests.formats.folders import small_books, write
from tests.notation import eur

PASSWORD = "correct horse battery"


@dataclass(frozen=True)
class Office:
    """A workplace with a partner, a reviewer, two preparers; SMALL is Tomas's and Ines's, not Pell's."""

    workplace: Workplace
    people: dict[str, Person]

    def __getitem__(self, code: str) -> Person:
        return self.people[code]


def open_office(folder: Path) -> Office:
    """An office whose clock stands at noon of the demo's day, with the client SMALL: a copy of one that is
    made once."""
    shutil.copytree(_made(), folder, dirs_exist_ok=True)
    workplace = _workplace(folder)
    people = {code: staff.person_named(workplace, code) for code in ("OB", "TV", "IO", "PH")}
    return Office(workplace, people)


@cache
def _made() -> Path:
    folder = Path(mkdtemp(prefix="office-"))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    workplace = _workplace(folder)
    partner = staff.found_practice(workplace, "Test & Co", ("OB", "Orla Brandt", PASSWORD))
    for code, name, role in (
        ("TV", "Tomas Vell", Role.REVIEWER),
        ("IO", "Ines Okonjo", Role.PREPARER),
        ("PH", "Pell Harrow", Role.PREPARER),
    ):
        staff.add_staff(workplace, partner, code, name, role, PASSWORD)
    take_in(workplace, partner, small_books(), folder / "small")
    for code in ("TV", "IO"):
        staff.give_client(workplace, partner, code, "SMALL", give=True)
    workplace.database.reading.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    workplace.close()
    return folder


def _workplace(folder: Path) -> Workplace:
    return Workplace(folder / "data", TODAY, clock=lambda: datetime(2026, 11, 16, 12, 0))


def take_in(workplace: Workplace, person: Person, made: Books, folder: Path) -> books.TakenIn:
    return books.take_in(workplace, person, write(made, folder))


def only_point(office: Office, who: str = "IO", check: str = "duplicate-document") -> StatedPoint:
    found = review.points(office.workplace, office[who], "SMALL")
    (point,) = (stated for stated in found if stated.point.check == check)
    return point


def by_route(point: str, route: str, settings: Mapping[str, str]) -> PointAct:
    """The act of putting a point right by a route."""
    return PointAct(act="point", point=point, route=route, settings=dict(settings))


def void_twin(office: Office, who: str = "IO", key: str | None = None) -> Posted:
    """Post the void of the second Reedwharf bill."""
    point = only_point(office, who).point.id
    post_request = PostRequest("one delivery, one bill", key=key)
    return acts.post(
        office.workplace,
        office[who],
        "SMALL",
        by_route(point, "void", {"transaction": "T3"}),
        post_request,
    )


def accrual(
    on: str = "2026-10-31", amount: str = "410.00", reverse_on: str | None = "2026-11-01"
) -> EntryRequest:
    return EntryRequest(
        EntryKind.ADJUSTING,
        day(on),
        "Electricity not yet billed",
        (
            EntryLine(CODES["electricity"], eur(amount)),
            EntryLine(CODES["accruals"], -eur(amount)),
        ),
        day(reverse_on) if reverse_on else None,
    )


def accrue(office: Office, who: str = "IO", **entry: str | None) -> Posted:
    return acts.post(office.workplace, office[who], "SMALL", accrual(**entry), PostRequest(""))  # type: ignore[arg-type]


def decide_the_rest(office: Office, who: str = "IO", *proved: str) -> None:
    """Leave every point that is open and agree every proof of these days (of October's end unless said), so
    that nothing stands in the way of signing."""
    for at in proved or ("2026-10-31",):
        agree_all(office, day(at), who)
        tick_all(office, day(at), who)
    for stated in review.points(office.workplace, office[who], "SMALL"):
        if stated.state == "open":
            review.decide(
                office.workplace, office["TV"], "SMALL", stated.point.id, "leave", "looked at"
            )


def tick_all(office: Office, at: date, who: str = "IO") -> None:
    """See to all that is on the checklist as at that day."""
    for stated in sign_off.checklist(office.workplace, office[who], "SMALL", at):
        sign_off.tick(office.workplace, office[who], "SMALL", at, stated.item.id, done=True)


def agree_all(office: Office, at: date, who: str = "IO") -> None:
    """Agree every proof as at that day, at the figures that it has."""
    books = office.workplace.ledger(office[who], "SMALL").books
    for stated in stated_tie_outs(books, at):
        if stated.state is TieOutState.AGREED:
            continue
        outside = stated.tie_out.books if stated.tie_out.outside is None else None
        act = AgreeTieOut(stated.tie_out.id, at, "looked at", outside)
        acts.post(office.workplace, office[who], "SMALL", act, PostRequest("looked at"))
