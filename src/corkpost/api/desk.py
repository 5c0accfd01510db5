"""The desk: every client that the person sees, and where they left each."""

from datetime import date

from flask import Blueprint
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, Asked, Day, Done, answers
from corkpost.core.money import Currency
from corkpost.formats.shape import Shape
from corkpost.services import desk as service
from corkpost.services import staff
from corkpost.services.desk import DeskRow
from corkpost.services.rights import May

bp = Blueprint("desk", __name__)


class ClientRow(Shape):
    """*path*: how far each step is done, in percent. *seal*: empty, signed or broken. *reopened*: what was
    signed and is open again, in words. *current*: else it says how the client stood last, and is being
    brought up to date."""

    code: str
    name: str
    entity: str
    year: str
    year_end: Day
    as_at: Day
    due: Day | None
    days_left: int | None
    band: str
    currency: str
    at_stake: str
    open_points: int
    asked_points: int
    families: dict[str, int]
    path: dict[str, int]
    stage: str
    move: str
    since: Day | None
    seal: str
    reopened: str
    staff: list[str]
    carry_on: str | None
    current: bool


class WeekAnswer(Shape):
    first_day: Day
    due: int


class StaffChoice(Shape):
    code: str
    name: str


class DeskAnswer(Shape):
    """*finished*: sign-offs a week over the last four, with one decimal. *asks_bank*: there is a bank
    that can be asked for statements. *assignable*: whom this person may give clients to."""

    rows: list[ClientRow]
    weeks: list[WeekAnswer]
    finished: str
    asks_bank: bool
    assignable: list[StaffChoice]


class Place(Asked):
    path: str = Field(max_length=300, pattern=r"^/clients/[^/]+/.*$")


def _row(row: DeskRow) -> ClientRow:
    known = row.summary
    return ClientRow(
        code=row.code,
        name=known.name,
        entity=known.entity,
        year=known.year,
        year_end=date.fromisoformat(known.year_end),
        as_at=date.fromisoformat(known.as_at),
        due=date.fromisoformat(known.due) if known.due else None,
        days_left=row.days_left,
        band=row.band,
        currency=known.currency,
        at_stake=Currency(known.currency).format(known.at_stake),
        open_points=known.open_points,
        asked_points=known.asked_points,
        families=known.families,
        path=known.path,
        stage=row.stage,
        move=known.move,
        since=date.fromisoformat(known.since) if known.since else None,
        seal=known.seal,
        reopened=known.reopened,
        staff=list(row.staff),
        carry_on=row.carry_on,
        current=row.current,
    )


@bp.get("/desk")
@answers(DeskAnswer, "desk")
def show() -> DeskAnswer:
    """The clients, soonest deadline first, and the sign-offs due by week."""
    found = service.desk(workplace(), person())
    return DeskAnswer(
        rows=[_row(row) for row in found.rows],
        weeks=[WeekAnswer(first_day=week.first_day, due=week.due) for week in found.weeks],
        finished=f"{found.finished_tenths // 10}.{found.finished_tenths % 10}",
        asks_bank=workplace().bank_address is not None,
        assignable=[
            StaffChoice(code=member.code, name=member.name)
            for member in staff.everybody(workplace())
            if person().may(May.RUN_PRACTICE)
        ],
    )


@bp.put("/clients/<client>/place")
@answers(Done, "desk")
def remember(client: str, json: Place) -> Done:
    """Remember where the person is in a client."""
    service.remember_place(workplace(), person(), client, json.path)
    return DONE


class Assignment(Asked):
    """*give*: whether they get the clients, or have them taken away."""

    clients: list[str] = Field(min_length=1, max_length=2_000)
    staff: str = Field(max_length=40)
    give: bool = True


@bp.post("/desk/assign")
@answers(Done, "desk")
def assign(json: Assignment) -> Done:
    """Give clients to a member of staff, or take them away: all or none."""
    staff.assign(workplace(), person(), json.staff, json.clients, give=json.give)
    return DONE
