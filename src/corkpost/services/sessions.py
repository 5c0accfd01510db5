"""Sessions: each a row that was made, seen, confirmed and ended; coming in, with tries counted."""

import hashlib
import secrets
import time
from typing import NamedTuple

from corkpost.core.refusals import NotAllowed, Refusal, UnknownName
from corkpost.services import record, second_factor, staff, tries
from corkpost.services.record import Kind
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store import sessions as store
from corkpost.store.practice import StaffRow
from corkpost.store.sessions import SessionRow

IDLE_SECONDS = 30 * 60
LONGEST_SECONDS = 12 * 3600
CONFIRMED_SECONDS = 10 * 60
"""How long a password that was said again is enough for what asks for it."""
SEEN_EVERY = 60


class SayPasswordAgain(Refusal):
    title = "Say your password again"


class SecondFactorNeeded(Refusal):
    title = "A code is needed too"


class Came(NamedTuple):
    """*token*: what the browser holds."""

    token: str
    row: StaffRow


def _id(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def come_in(
    workplace: Workplace,
    code: str,
    password: str,
    factor: str,
    *,
    address: str,
    agent: str,
) -> Came:
    """Begin a session. Tries are counted before anything is reckoned.

    Raises TooManyTries, NotAllowed in words that tell nobody whether the name or the password was wrong, or
    SecondFactorNeeded where the password was right and the person has a second factor.
    """
    own, there = tries.account(code), tries.address(address)
    tries.count(workplace, own, there)
    try:
        row = staff.sign_in(workplace, code, password)
        if second_factor.has_one(workplace, row.code):
            if not factor.strip():
                # The password was right: this is no failure of its own.
                tries.forget(workplace, there)
                raise SecondFactorNeeded("Key the six figures that your device shows.")
            second_factor.must_fit(workplace, row.code, factor)
    except NotAllowed:
        record.note(workplace, Kind.REFUSED, code.strip()[:40] or "nobody", address=address)
        raise
    tries.forget(workplace, own, there)
    token = secrets.token_urlsafe(32)
    with workplace.database.writing() as connection:
        store.add_session(
            connection,
            _id(token),
            row.code,
            made_at=workplace.now,
            now=int(time.time()),
            address=address,
            agent=agent[:200],
        )
        record.note(workplace, Kind.SIGNED_IN, row.code, agent[:120], address=address)
    return Came(token, row)


def of_token(workplace: Workplace, token: str) -> SessionRow | None:
    """The session that the browser holds; None where it ended: by somebody, after thirty minutes without a
    sign of life, or half a day."""
    row = store.session_named(workplace.database.reading, _id(token))
    if row is None or row.ended_at is not None:
        return None
    now = int(time.time())
    seen = max(row.seen, _SEEN.get(row.id, 0))
    if now - seen > IDLE_SECONDS or now - row.began > LONGEST_SECONDS:
        return None
    _SEEN[row.id] = now
    return row


_SEEN: dict[str, int] = {}
"""When each session was seen last in this process: written down by the minute."""
_written: dict[str, int] = {}


def write_seen(workplace: Workplace) -> None:
    """Write down when sessions were seen, at most once a minute for each."""
    due = {name: at for name, at in list(_SEEN.items()) if at - _written.get(name, 0) >= SEEN_EVERY}
    if not due:
        return
    with workplace.database.writing() as connection:
        for name, at in due.items():
            store.set_seen(connection, name, at)
    _written.update(due)
    stale = int(time.time()) - LONGEST_SECONDS
    for name in [name for name, at in list(_SEEN.items()) if at < stale]:
        _SEEN.pop(name, None)
        _written.pop(name, None)


def confirm(workplace: Workplace, token: str, password: str) -> None:
    """Say one's password (or a code) again. Raises TooManyTries or NotAllowed."""
    row = of_token(workplace, token)
    if row is None:
        raise NotAllowed("Your session has ended. Sign in again.")
    tries.count(workplace, tries.account(row.staff_code))
    fits = staff.password_fits(workplace, row.staff_code, password) or (
        second_factor.has_one(workplace, row.staff_code)
        and second_factor.fits(workplace, row.staff_code, password)
    )
    if not fits:
        raise NotAllowed("That is not your password. Type it again.")
    tries.forget(workplace, tries.account(row.staff_code))
    with workplace.database.writing() as connection:
        store.set_confirmed(connection, row.id, int(time.time()))


def must_be_confirmed(workplace: Workplace, token: str) -> None:
    """Raise SayPasswordAgain where the person did not say their password in the last ten minutes."""
    row = of_token(workplace, token)
    if row is None or int(time.time()) - row.confirmed > CONFIRMED_SECONDS:
        raise SayPasswordAgain("This needs your password once more.")


def listed(workplace: Workplace, person: Person, code: str) -> list[SessionRow]:
    """A person's sessions that go on: one's own, or anybody's for who runs the practice."""
    if code != person.code:
        person.must_be_allowed(May.RUN_PRACTICE)
    return store.sessions_of(workplace.database.reading, code, int(time.time()) - IDLE_SECONDS)


def end(workplace: Workplace, person: Person, session_id: str, why: str) -> None:
    """End a session: one's own, or anybody's for who runs the practice. Raises UnknownName."""
    row = store.session_named(workplace.database.reading, session_id)
    if row is None or (row.staff_code != person.code and not person.may(May.RUN_PRACTICE)):
        raise UnknownName("session", session_id[:12])
    with workplace.database.writing() as connection:
        store.end_sessions(
            connection, at=workplace.now, by=person.code, why=why, session_id=session_id
        )
        record.note(workplace, Kind.SESSION_ENDED, person.code, f"of {row.staff_code}: {why}")


def sign_out(workplace: Workplace, token: str, address: str) -> None:
    """End one's own session."""
    row = store.session_named(workplace.database.reading, _id(token))
    if row is None or row.ended_at is not None:
        return
    with workplace.database.writing() as connection:
        store.end_sessions(
            connection,
            at=workplace.now,
            by=row.staff_code,
            why="signed out",
            session_id=row.id,
        )
        record.note(workplace, Kind.SIGNED_OUT, row.staff_code, address=address)


def own_id(token: str) -> str:
    """By which the session that the browser holds is listed."""
    return _id(token)
