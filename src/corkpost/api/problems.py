"""Errors as problem documents (RFC 9457): what is wrong, where, what to do; never a trace."""

import errno
import json
import logging
import sqlite3
import uuid

from flask import Flask, Response, g
from pydantic import ValidationError
from werkzeug.exceptions import HTTPException

from corkpost.core.refusals import (
    AlreadyTakenBack,
    BadEntry,
    ChangedMeanwhile,
    DependedOn,
    Lift,
    NotAllowed,
    NotReady,
    Refusal,
    UnknownName,
)
from corkpost.formats.shape import Shape
from corkpost.services.posting import KeyUsed
from corkpost.services.sessions import SayPasswordAgain, SecondFactorNeeded
from corkpost.services.tries import TooManyTries
from corkpost.store.database import Database

STATUS: dict[type[Refusal], int] = {
    UnknownName: 404,
    NotAllowed: 403,
    ChangedMeanwhile: 409,
    KeyUsed: 409,
    DependedOn: 409,
    AlreadyTakenBack: 409,
}
WORDS = {
    400: "That request can't be understood. Load the page again.",
    404: "There is nothing at this address.",
    405: "That can't be done at this address.",
    413: "That is larger than is taken here.",
    415: "Send JSON.",
    429: "Too many tries. Wait a minute, then try again.",
}


class LiftAnswer(Shape):
    """How whoever has the right to it lifts the refusal: on a *page* of the client, or by a *setting* that
    is said with the same request."""

    says: str
    page: str | None
    setting: str | None


class Problem(Shape):
    """*faults*: each thing that is wrong, where there are several."""

    type: str
    title: str
    status: int
    detail: str
    faults: list[str]
    lift: LiftAnswer | None = None


class SignInNeeded(Refusal):
    title = "Sign in first"


class CrossSite(Refusal):
    title = "That came from another site"


class FactorMissing(Refusal):
    title = "A second factor is needed"


STATUS |= {
    SignInNeeded: 401,
    SecondFactorNeeded: 401,
    CrossSite: 403,
    FactorMissing: 403,
    SayPasswordAgain: 403,
    TooManyTries: 429,
}


class BadRequestBody(Refusal):
    """A request whose body or query does not fit; each fault at its place."""

    title = "Some fields can't be read"

    def __init__(self, wrong: ValidationError) -> None:
        self.faults = tuple(
            f"{'.'.join(map(str, fault['loc'])) or 'body'}: {fault['msg']}"
            for fault in wrong.errors()[:20]
        )
        super().__init__(". ".join(self.faults) + ".")


def answer(
    status: int,
    title: str,
    detail: str,
    faults: tuple[str, ...] = (),
    lift: Lift | None = None,
) -> Response:
    """A problem document."""
    problem = Problem(
        type="about:blank",
        title=title,
        status=status,
        detail=detail,
        faults=list(faults),
        lift=LiftAnswer(**lift._asdict()) if lift else None,
    )
    return Response(
        json.dumps(problem.model_dump(), ensure_ascii=False),
        status=status,
        content_type="application/problem+json",
    )


def of_refusal(refused: Refusal) -> Response:
    status = next((code for kind, code in STATUS.items() if isinstance(refused, kind)), 422)
    faults: tuple[str, ...] = ()
    if isinstance(refused, BadEntry | BadRequestBody):
        faults = refused.faults
    elif isinstance(refused, NotReady):
        faults = refused.missing
    return answer(status, refused.title, str(refused), faults, refused.lift)


def _of_http(wrong: HTTPException) -> Response:
    status = wrong.code or 500
    return answer(status, wrong.name, WORDS.get(status, wrong.description or wrong.name))


def _of_full() -> Response:
    detail = (
        "There is no room left on the disk that the practice is kept on. Nothing was changed, and what is "
        "there can be read. Make room, then do it again."
    )
    return answer(507, "The disk is full", detail)


def _of_file(wrong: OSError) -> Response:
    return _of_full() if wrong.errno in (errno.ENOSPC, errno.EDQUOT) else _of_any(wrong)


def _of_busy(wrong: sqlite3.OperationalError) -> Response:
    if "full" in str(wrong):
        return _of_full()
    if "readonly" in str(wrong):
        detail = "The practice's folder can't be written to. Nothing was changed; reading goes on."
        return answer(507, "The store is read-only", detail)
    if "locked" not in str(wrong):
        return _of_any(wrong)
    detail = "Somebody else is writing a lot just now. Nothing was changed: try again in a moment."
    return answer(503, "The store is busy", detail)


def _of_far_date(_wrong: OverflowError) -> Response:
    return answer(422, "That date is out of range", "Name a date between the years 1900 and 9000.")


def _of_letters(_wrong: UnicodeEncodeError) -> Response:
    detail = (
        "Some text holds half a letter, which can't be kept. Nothing was changed: type it again."
    )
    return answer(422, "Some text can't be kept", detail)


def _of_depth(_wrong: RecursionError) -> Response:
    return answer(422, "That is nested too deeply", "What was sent holds too much within itself.")


def _of_any(wrong: Exception) -> Response:
    name = uuid.uuid4().hex[:8]
    logging.getLogger("corkpost").error("error %s", name, exc_info=wrong)
    written = g.get("commits") is not None and g.commits() > 0
    what = (
        "What you sent was written; only the answer failed. Load the page again to see it. "
        "Do not send it twice. Tell"
        if written
        else "Nothing was changed. Try again; if it happens again, tell"
    )
    detail = f"Something went wrong here, not with you. {what} whoever runs this program the number {name}."
    return answer(500, "Something went wrong here", detail)


def register(app: Flask, database: Database) -> None:
    """Turn every error of the app into a problem document, which says whether anything was written."""

    def count_commits() -> None:
        before = database.commits
        g.commits = lambda: database.commits - before

    app.before_request(count_commits)
    app.register_error_handler(Refusal, of_refusal)
    app.register_error_handler(HTTPException, _of_http)
    app.register_error_handler(sqlite3.OperationalError, _of_busy)
    app.register_error_handler(OSError, _of_file)
    app.register_error_handler(OverflowError, _of_far_date)
    app.register_error_handler(UnicodeEncodeError, _of_letters)
    app.register_error_handler(RecursionError, _of_depth)
    app.register_error_handler(Exception, _of_any)
