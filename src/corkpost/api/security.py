"""Who is asking, and what a browser may do with the answers."""

import os
import secrets
import time
from datetime import timedelta
from pathlib import Path

from flask import Flask, Response, current_app, request
from flask.sessions import SecureCookieSessionInterface
from flask_login import LoginManager, UserMixin, current_user
from werkzeug.exceptions import NotFound

from corkpost.api.problems import CrossSite, FactorMissing, SignInNeeded, answer
from corkpost.services import second_factor, sessions, staff
from corkpost.services.record import Kind, note_later
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace

SECRET = "session-key"
DOCUMENT = "/apidoc/openapi.json"
A_YEAR = 365 * 24 * 3600
SAFE = frozenset({"GET", "HEAD", "OPTIONS"})
CONTENT_SECURITY_POLICY = "; ".join(
    (
        "default-src 'self'",
        "script-src 'self'",
        "style-src 'self' 'unsafe-inline'",
        # Papers of clients are drawn from what the page itself made of their bytes, by a type of its own.
        "img-src 'self' data: blob:",
        "frame-src blob:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
HEADERS = {
    "Content-Security-Policy": CONTENT_SECURITY_POLICY,
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(), geolocation=(), microphone=()",
}


def sender() -> str:
    """The address that a request came from, for counting tries."""
    return request.remote_addr or "unknown"


login = LoginManager()


class SessionUser(UserMixin):  # type: ignore[misc]  # the package has no types
    """A signed-in person. The id is what the session's row is found by."""

    def __init__(self, token: str, code: str) -> None:
        self.code = code
        self.id = token


class _Cookies(SecureCookieSessionInterface):
    """Secure, and tied to this host alone, whenever the page came by https; so that plain http on one's own
    machine still works."""

    def get_cookie_secure(self, app: Flask) -> bool:  # noqa: ARG002
        return request.is_secure

    def get_cookie_name(self, app: Flask) -> str:
        name = super().get_cookie_name(app)
        return f"__Host-{name}" if request.is_secure else name


def workplace() -> Workplace:
    """The practice that is served."""
    found: Workplace = current_app.extensions["corkpost"]
    return found


def person() -> Person:
    """Who asks, with their rights as they are now."""
    return staff.person_named(workplace(), current_user.code)


def session_key(folder: Path) -> bytes:
    """The key that signs sessions, made when missing and readable by its owner only."""
    file = folder / SECRET
    try:
        descriptor = os.open(file, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600)
    except FileExistsError:
        return file.read_bytes()
    with os.fdopen(descriptor, "wb") as made:
        made.write(secrets.token_bytes(32))
    return file.read_bytes()


@login.user_loader  # type: ignore[untyped-decorator]  # the package has no types
def _user(session_id: str) -> SessionUser | None:
    row = sessions.of_token(workplace(), session_id)
    return SessionUser(session_id, row.staff_code) if row else None


def token() -> str:
    """By which the session of who asks is found."""
    return str(current_user.id)


def must_be_confirmed() -> None:
    """Raises SayPasswordAgain where who asks did not say their password lately."""
    sessions.must_be_confirmed(workplace(), token())


def _refuse_cross_site() -> None:
    """Only our own pages may ask for a deed. Programs that are no browser send neither header."""
    if request.method in SAFE:
        return
    came_from = request.headers.get("Sec-Fetch-Site")
    origin = request.headers.get("Origin")
    if came_from not in (None, "same-origin", "none") or (
        origin is not None and origin != request.host_url.rstrip("/")
    ):
        raise CrossSite("Only Cork Post's own pages may do this. Open it there and do it again.")


def _refuse_strangers() -> None:
    open_to_all = request.endpoint in (
        *(None, "session.show", "session.sign_in", "page", "asset"),
        *("account.invitation", "account.accept"),
    )
    if request.path.startswith("/apidoc/") and request.path != DOCUMENT:
        # Pages about the document fetch scripts of others: the document itself is enough.
        raise NotFound
    inside = request.path.startswith(("/api/", DOCUMENT))
    if inside and not open_to_all and not current_user.is_authenticated:
        raise SignInNeeded("You are not signed in, or your session ended. Sign in and do it again.")


def _refuse_without_factor() -> None:
    """Where everybody needs a second factor, nothing goes before it is set up."""
    open_ = request.path.startswith(("/api/session", "/api/account"))
    if not request.path.startswith("/api/") or open_ or not current_user.is_authenticated:
        return
    if second_factor.is_demanded(workplace()) and not second_factor.has_one(
        workplace(), current_user.code
    ):
        raise FactorMissing("Everybody here needs a second factor. Set yours up on your own page.")


TAKE_BYTES = (
    "listings.keep_file",
    "books.take_in",
    "chart.take_in",
    "papers.keep_paper",
    "bank.take_in",
    "takings.from_till",
    "papers.keep_copy",
    "papers.take_in",
    "recipes.read_asset_table",
    "recipes.read_rate_table",
)
"""The deeds that are sent a file as it is."""


def _refuse_other_than_json() -> Response | None:
    is_deed = request.path.startswith("/api/") and request.method not in SAFE | {"DELETE"}
    takes_bytes = request.endpoint in TAKE_BYTES
    says_nothing = not request.content_length and not request.mimetype
    if is_deed and not takes_bytes and not says_nothing and request.mimetype != "application/json":
        return answer(415, "Unsupported media type", "Send JSON.")
    return None


def _harden(response: Response) -> Response:
    for name, value in HEADERS.items():
        response.headers.setdefault(name, value)
    if request.path.startswith(("/api/", DOCUMENT)):
        response.headers["Cache-Control"] = "no-store"
    if request.is_secure:
        response.headers["Strict-Transport-Security"] = f"max-age={A_YEAR}"
    return response


_opened: dict[tuple[str, str], float] = {}
"""When each session opened each client last, so that it is on record once an hour."""
AN_HOUR = 3600


def _on_record(response: Response) -> Response:
    """What was opened and given out goes on record, a moment later."""
    if request.method != "GET" or response.status_code != 200 or not current_user.is_authenticated:
        return response
    client = (request.view_args or {}).get("client", "")
    if "attachment" in response.headers.get("Content-Disposition", ""):
        kind = Kind.PAPER if request.endpoint == "papers.paper" else Kind.GIVEN_OUT
        what = request.full_path.removeprefix("/api/").rstrip("?")
        note_later(workplace(), kind, current_user.code, what, client=client, address=sender())
    elif request.endpoint == "clients.show":
        key, now = (current_user.id, client), time.monotonic()
        if now - _opened.get(key, -AN_HOUR) >= AN_HOUR:
            if len(_opened) > 100_000:
                _opened.clear()
            _opened[key] = now
            note_later(workplace(), Kind.OPENED, current_user.code, client=client, address=sender())
    return response


def register(app: Flask, folder: Path) -> None:
    """Sessions, limits, the refusal of strangers and other sites, and the headers."""
    app.config.update(
        SECRET_KEY=session_key(folder),
        SESSION_COOKIE_NAME="corkpost",
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Lax",
        PERMANENT_SESSION_LIFETIME=timedelta(hours=12),
        # An answer that was under way when somebody signed out must not bring the session back.
        SESSION_REFRESH_EACH_REQUEST=False,
        MAX_CONTENT_LENGTH=2 * 1024 * 1024,
    )
    app.session_interface = _Cookies()
    login.init_app(app)
    app.before_request(_refuse_cross_site)
    app.before_request(_refuse_strangers)
    app.before_request(_refuse_without_factor)
    app.before_request(_refuse_other_than_json)
    app.after_request(_harden)
    app.after_request(_on_record)
