"""One's own account: sessions, password, second factor; and coming in by an invitation."""

from flask import Blueprint
from flask import session as cookie
from flask_login import login_user
from pydantic import Field

from corkpost.api.security import SessionUser, must_be_confirmed, person, sender, token, workplace
from corkpost.api.spec import DONE, Asked, Done, answers
from corkpost.formats.shape import Shape
from corkpost.services import second_factor, sessions, staff, tokens

bp = Blueprint("account", __name__)


class SessionRowAnswer(Shape):
    """*seen*: seconds since it was seen last. *own*: it is the one that asks."""

    id: str
    made_at: str
    seen: int
    address: str
    agent: str
    own: bool


class OwnAccount(Shape):
    """*demanded*: everybody here needs a second factor. *token_since*: when the token for the command line
    was made; none where there is none."""

    code: str
    name: str
    role: str
    has_factor: bool
    demanded: bool
    token_since: str | None
    sessions: list[SessionRowAnswer]


class PasswordBody(Asked):
    old: str = Field(max_length=400)
    new: str = Field(max_length=400)


class OfferedFactor(Shape):
    """*drawn*: the same as a picture for a device, as SVG."""

    secret: str
    drawn: str


class FactorBody(Asked):
    secret: str = Field(max_length=64)
    code: str = Field(max_length=20)


class TokenMade(Shape):
    """*token*: told this once."""

    token: str


class RecoveryAnswer(Shape):
    """*codes*: each is taken once; they are shown this once."""

    codes: list[str]


@bp.get("/account")
@answers(OwnAccount, "account")
def show() -> OwnAccount:
    """One's own account."""
    who = person()
    own = sessions.own_id(token())
    rows = sessions.listed(workplace(), who, who.code)
    latest = max(row.seen for row in rows) if rows else 0
    return OwnAccount(
        code=who.code,
        name=who.name,
        role=who.role,
        has_factor=second_factor.has_one(workplace(), who.code),
        demanded=second_factor.is_demanded(workplace()),
        token_since=tokens.since(workplace(), who.code),
        sessions=[
            SessionRowAnswer(
                id=row.id,
                made_at=row.made_at,
                seen=latest - row.seen,
                address=row.address,
                agent=row.agent,
                own=row.id == own,
            )
            for row in rows
        ],
    )


@bp.delete("/account/sessions/<session>")
@answers(Done, "account")
def end_session(session: str) -> Done:
    """End a session of one's own."""
    sessions.end(workplace(), person(), session, "ended by its person")
    return DONE


@bp.put("/account/password")
@answers(Done, "account")
def set_password(json: PasswordBody) -> Done:
    """A new password of one's own: every session ends with it."""
    staff.change_own_password(workplace(), person(), json.old, json.new)
    return DONE


@bp.post("/account/token")
@answers(TokenMade, "account", status=201)
def make_token() -> tuple[TokenMade, int]:
    """A token for the command line, in place of the one before."""
    must_be_confirmed()
    return TokenMade(token=tokens.make(workplace(), person())), 201


@bp.delete("/account/token")
@answers(Done, "account")
def drop_token() -> Done:
    """One's token counts no more."""
    tokens.drop(workplace(), person())
    return DONE


@bp.post("/account/factor")
@answers(OfferedFactor, "account")
def offer_factor() -> OfferedFactor:
    """A new secret for a device; it counts once a code of it was said."""
    offered = second_factor.offer(person(), staff.practice(workplace()).name)
    return OfferedFactor(secret=offered.secret, drawn=offered.drawn)


@bp.put("/account/factor")
@answers(RecoveryAnswer, "account")
def set_factor(json: FactorBody) -> RecoveryAnswer:
    """Set the offered secret by a code of it."""
    codes = second_factor.set_up(workplace(), person(), json.secret, json.code)
    return RecoveryAnswer(codes=list(codes))


@bp.delete("/account/factor")
@answers(Done, "account")
def drop_factor() -> Done:
    """Take one's own second factor away, where none is demanded."""
    second_factor.drop(workplace(), person(), person().code)
    return DONE


class InvitationAnswer(Shape):
    practice: str
    code: str
    name: str


class AcceptBody(Asked):
    password: str = Field(max_length=400)


@bp.get("/account/invitations/<invitation>")
@answers(InvitationAnswer, "account")
def invitation(invitation: str) -> InvitationAnswer:
    """Whom an invitation is for."""
    row = staff.invited(workplace(), invitation)
    practice = staff.practice(workplace()).name
    return InvitationAnswer(practice=practice, code=row.code, name=row.name)


@bp.post("/account/invitations/<invitation>")
@answers(Done, "account")
def accept(invitation: str, json: AcceptBody) -> Done:
    """Set one's first password by an invitation, and come in."""
    row = staff.accept(workplace(), invitation, json.password)
    came = sessions.come_in(
        workplace(), row.code, json.password, "", address=sender(), agent="by invitation"
    )
    cookie.clear()
    cookie.permanent = True
    login_user(SessionUser(came.token, came.row.code))
    return DONE
