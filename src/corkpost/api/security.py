"""Who is asking, and what a browser may do with the answers."""

import os
import secrets
from datetime import timedelta
from pathlib import Path

from flask import Flask, Response, current_app, request
from flask.sessions import SecureCookieSessionInterface
from flask_limiter import Limiter
from flask_login import LoginManager, UserMixin, current_user

from corkpost.api.problems import CrossSite, SignInNeeded, answer
from corkpost.services import staff
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace
from corkpost.store.practice import StaffRow

SECRET = "session-key"
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


limiter = Limiter(sender, storage_uri="memory://", headers_enabled=False, strategy="moving-window")
login = LoginManager()


class SessionUser(UserMixin):  # type: ignore[misc]  # the package has no types
    """A signed-in person. The id holds the epoch, so that a new password ends the session."""

    def __init__(self, row: StaffRow) -> None:
        self.code = row.code
        self.id = f"{row.epoch}:{row.code}"


class _Cookies(SecureCookieSessionInterface):
    """Secure whenever the page came by https, so that plain http on one's own machine still works."""

    def get_cookie_secure(self, app: Flask) -> bool:  # noqa: ARG002
        return request.is_secure


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
    epoch, _, code = session_id.partition(":")
    row = staff.staff_row(workplace(), code)
    return SessionUser(row) if row and str(row.epoch) == epoch else None


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
    open_to_all = request.endpoint in (None, "session.show", "session.sign_in", "page", "asset")
    if request.path.startswith("/api/") and not open_to_all and not current_user.is_authenticated:
        raise SignInNeeded("You are not signed in, or your session ended. Sign in and do it again.")


TAKE_BYTES = (
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
    if is_deed and not takes_bytes and request.mimetype != "application/json":
        return answer(415, "Unsupported media type", "Send JSON.")
    return None


def _harden(response: Response) -> Response:
    for name, value in HEADERS.items():
        response.headers.setdefault(name, value)
    if request.path.startswith("/api/"):
        response.headers["Cache-Control"] = "no-store"
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
        RATELIMIT_ENABLED=True,
    )
    app.session_interface = _Cookies()
    login.init_app(app)
    limiter.init_app(app)
    app.before_request(_refuse_cross_site)
    app.before_request(_refuse_strangers)
    app.before_request(_refuse_other_than_json)
    app.after_request(_harden)
