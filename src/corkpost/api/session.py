"""Signing in and out, and who is at work."""

from flask import Blueprint, request, session
from flask_login import current_user, login_user, logout_user
from pydantic import Field

from corkpost.api.security import SessionUser, person, sender, token, workplace
from corkpost.api.spec import DONE, Asked, Done, answers
from corkpost.demo import practice as demo
from corkpost.formats.shape import Shape
from corkpost.services import second_factor, sessions, staff
from corkpost.services.rights import May, Person

bp = Blueprint("session", __name__)


class SignIn(Asked):
    """*factor*: the code of a second factor, or a recovery code, where the person has one."""

    code: str = Field(max_length=40)
    password: str = Field(max_length=400)
    factor: str = Field(default="", max_length=40)


class DemoSignIn(Shape):
    code: str
    name: str
    role: str
    password: str


class PersonAnswer(Shape):
    """*may*: the acts that the role allows, by their names. *writes_drafts*: each entry that they write
    waits for another's approval."""

    code: str
    name: str
    role: str
    may: list[str]
    writes_drafts: bool


class SessionAnswer(Shape):
    """*person* none: nobody is signed in. *sign_ins*: shown in a demo practice only. *needs_factor*:
    nothing goes before this person has set up a second factor."""

    practice: str
    is_demo: bool
    today: str
    person: PersonAnswer | None
    sign_ins: list[DemoSignIn]
    needs_factor: bool


def _session(who: Person | None) -> SessionAnswer:
    found = staff.practice(workplace())
    known = [
        DemoSignIn(code=code, name=name, role=role, password=password)
        for code, (name, role, password, _) in demo.STAFF.items()
    ]
    return SessionAnswer(
        practice=found.name,
        is_demo=found.is_demo,
        today=workplace().today.isoformat(),
        person=_person(who) if who else None,
        sign_ins=known if found.is_demo and who is None else [],
        needs_factor=bool(
            who and found.second_factor and not second_factor.has_one(workplace(), who.code)
        ),
    )


def _person(who: Person) -> PersonAnswer:
    may = [act.name.lower().replace("_", "-") for act in May if who.may(act)]
    return PersonAnswer(
        code=who.code, name=who.name, role=who.role, may=may, writes_drafts=who.rule.journals
    )


@bp.get("/session")
@answers(SessionAnswer, "session")
def show() -> SessionAnswer:
    """Who is at work, or that nobody is."""
    return _session(person() if current_user.is_authenticated else None)


@bp.post("/session")
@answers(SessionAnswer, "session")
def sign_in(json: SignIn) -> SessionAnswer:
    """Begin a session."""
    came = sessions.come_in(
        workplace(),
        json.code,
        json.password,
        json.factor,
        address=sender(),
        agent=request.headers.get("User-Agent", ""),
    )
    session.clear()
    session.permanent = True
    login_user(SessionUser(came.token, came.row.code))
    return _session(staff.person_named(workplace(), came.row.code))


@bp.delete("/session")
@answers(Done, "session")
def sign_out() -> Done:
    """End the session."""
    if current_user.is_authenticated:
        sessions.sign_out(workplace(), token(), sender())
    logout_user()
    session.clear()
    return DONE


class Confirmed(Asked):
    password: str = Field(max_length=400)


@bp.post("/session/confirmed")
@answers(Done, "session")
def confirm(json: Confirmed) -> Done:
    """Say one's password, or a code of one's second factor, again: for ten minutes it is enough."""
    sessions.confirm(workplace(), token(), json.password)
    return DONE
